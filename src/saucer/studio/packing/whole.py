"""A whole pack: the files of its entries, the page to look at, what pipelines read, and the papers that tell of all of these."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence

from django.utils import timezone

from saucer.core.errors import SaucerError
from saucer.studio.packing import papers, pipelines
from saucer.studio.packing.manifest import MANIFEST, LeftOut, Manifest, manifest_text
from saucer.studio.packing.page import NAME, make_page
from saucer.studio.packing.rules import Leaving, Member, Packed, members_of
from saucer.studio.pictures.models import Picture


def members_of_pack(
    packed: Packed, leaving: Sequence[Leaving], by: str, report: Callable[[float], None], on: Sequence[Picture] = ()
) -> Iterator[Member]:
    """Every member once, the papers last, since they tell of the others. by: the name of who packs it; on: pictures of the page"""
    listed: list[tuple[str, str]] = []

    def noted(path: str, data: bytes) -> Member:
        listed.append((path, papers.sha256(data)))
        return path, data

    choice, now = packed.choice, timezone.localtime()
    for path, data in members_of(packed, leaving, lambda done: report(0.6 * done)):
        yield noted(path, data)
    page = ""
    if on and packed.entries:
        shown = list(zip(packed.shown, packed.entries, strict=True))
        try:
            yield noted(NAME, make_page(choice.title, shown, on, lambda done: report(0.6 + 0.35 * done), choice.tags))
            page = NAME
        except SaucerError as error:
            packed.left_out.append(LeftOut(name=NAME, why=str(error)[:300]))
    config = ""
    if choice.pipelines:
        for path, data in pipelines.members_for(packed, packed.shown):
            config = path if path == pipelines.CONFIG else config
            yield noted(path, data)
        report(0.98)
    manifest = Manifest(
        made=now, made_by=by[:120], entries=packed.entries, left_out=packed.left_out, page=page, pipelines=config,
        luts=dict(sorted(packed.used.items())), inside=sorted(packed.inside.values(), key=lambda one: one.path),
    )  # fmt: skip
    yield noted(MANIFEST, manifest_text(manifest).encode())
    yield noted("LICENCES.txt", papers.licences(packed.entries, manifest.inside).encode())
    read_me = papers.read_me(choice.title, by, str(now.date()), packed.entries, manifest.inside, packed.left_out, page, config)
    yield noted("READ ME.txt", read_me.encode())
    yield "SHA256SUMS", papers.sums(listed).encode()
