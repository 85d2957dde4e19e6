"""What may happen to LUTs: bringing in, baking, naming, taking away."""

from __future__ import annotations

from functools import lru_cache
from pathlib import Path

from django.conf import settings
from django.db import transaction

from saucer.core.bake import bake
from saucer.core.colour.encodings import Encoding
from saucer.core.errors import LutError
from saucer.core.files import formats, read_lut
from saucer.core.lut.table import Lut
from saucer.core.steps.registry import no_luts
from saucer.studio.deleting import bring_back, put_away
from saucer.studio.encodings.rules import find as encoding
from saucer.studio.looks.models import Version
from saucer.studio.looks.rules import look_of
from saucer.studio.luts.models import LutEntry
from saucer.studio.people.models import Person, Role
from saucer.studio.people.rules import record, require, require_own
from saucer.studio.refusals import NotFound, NotPossible
from saucer.studio.store import keep_bytes, read_kept


def bring_in(person: Person, data: bytes, file_name: str, name: str = "", expects: str = "srgb", gives: str = "") -> LutEntry:
    """Read a LUT file and put it on the Shelf. Raises: LutError with the line; Conflict-free: the same file may stand twice."""
    require(person, Role.DESIGNER, "bring in LUTs")
    place = Path(file_name).name[:200] or "LUT"
    if len(data) > settings.LUT_UPLOAD_LIMIT:
        raise LutError(place, f"larger than {settings.LUT_UPLOAD_LIMIT // 2**20} MB")
    expects, gives = encoding(expects, "expects").id, encoding(gives or expects, "gives").id
    lut, form = read_lut(data, place)
    with transaction.atomic():
        entry = LutEntry.objects.create(
            name=(name or lut.title or Path(place).stem)[:120], file_name=place, format=form.id, kind=lut.kind, size=lut.size,
            sha256=keep_bytes(data), bytes=len(data), expects=expects, gives=gives, owner=person,
        )  # fmt: skip
        record(person, "bring in LUT", entry, sha256=entry.sha256)
    return entry


def bake_version(person: Person, version: Version, size: int, title: str, author: str, format_id: str = "cube") -> LutEntry:
    """Bake a version and put the LUT on the Shelf; the same bake again gives the entry that is there."""
    require(person, Role.DESIGNER, "bake LUTs")
    look = look_of(version)
    lut = bake(look, size, title, author, (f"Version {version.number} of {version.look.name}",), at_hand)
    form = formats()[format_id]
    data = form.write(lut)
    with transaction.atomic():
        sha256 = keep_bytes(data)
        same = LutEntry.objects.filter(sha256=sha256, version=version, deleted=None).first()
        if same is not None:
            return same
        name = (title or version.look.name)[:120]
        entry = LutEntry.objects.create(
            name=name, author=author, file_name=f"{_file_stem(name)}-{size}{form.suffix}", format=form.id,
            kind=lut.kind, size=lut.size,
            sha256=sha256, bytes=len(data), expects=look.input, gives=look.output, version=version, owner=person,
        )  # fmt: skip
        record(person, "bake", entry, version=version.pk, size=size, sha256=sha256)
    return entry


def _file_stem(name: str) -> str:
    words = "".join(letter if letter.isalnum() else " " for letter in name).split()
    return "-".join(words).lower() or "look"


def find(pk: int) -> LutEntry:
    """Raises: NotFound, for deleted ones too."""
    entry = LutEntry.objects.filter(pk=pk, deleted=None).select_related("version__look", "owner").first()
    if entry is None:
        raise NotFound("There is no such LUT, or it was deleted.")
    return entry


def change(person: Person, pk: int, name: str | None, expects: str | None, gives: str | None) -> LutEntry:
    """Rename a LUT, or say what it expects and gives; a baked one knows that by itself."""
    entry = find(pk)
    require_own(person, entry.owner, "change this LUT")
    if entry.version_id is not None and (expects or gives):
        raise NotPossible("This LUT was baked here: what it expects and gives is known from its look.")
    if name is not None:
        if not name.strip():
            raise NotPossible("A LUT needs a name.")
        entry.name = name.strip()[:120]
    entry.expects = encoding(expects, "expects").id if expects else entry.expects
    entry.gives = encoding(gives, "gives").id if gives else entry.gives
    with transaction.atomic():
        entry.save()
        record(person, "change LUT", entry, expects=entry.expects, gives=entry.gives)
    return entry


def delete(person: Person, pk: int) -> None:
    """It can be brought back for 30 days."""
    put_away(person, find(pk), "LUT")


def restore(person: Person, pk: int) -> LutEntry:
    return bring_back(person, LutEntry, pk, "LUT")


@lru_cache(maxsize=64)
def _table(sha256: str) -> Lut:
    return read_lut(read_kept(sha256), sha256[:12])[0]


def at_hand(sha256: str) -> Lut:
    """A LUT that a look names. Raises: LutError when it was never brought in."""
    try:
        return _table(sha256)
    except FileNotFoundError:
        return no_luts(sha256)


def declared(sha256: str) -> tuple[str, str] | None:
    """The encodings that the Shelf says a LUT expects and gives, by its content; None for one that is not there."""
    return LutEntry.objects.filter(sha256=sha256, deleted=None).values_list("expects", "gives").first()


def listed() -> list[LutEntry]:
    return list(LutEntry.objects.filter(deleted=None).select_related("version__look", "owner"))


def content_of(sha256: str) -> tuple[str, bytes]:
    """File name and content of a LUT that a look names, for a bundle. Raises: LutError"""
    at_hand(sha256)
    entry = LutEntry.objects.filter(sha256=sha256).first()
    return (entry.file_name if entry else f"{sha256[:12]}.cube"), read_kept(sha256)


def ends_of(entry: LutEntry) -> tuple[Encoding, Encoding]:
    """The encodings it expects and gives."""
    return encoding(entry.expects), encoding(entry.gives)


def table_of(entry: LutEntry) -> Lut:
    """The LUT itself, kept between requests."""
    return _table(entry.sha256)
