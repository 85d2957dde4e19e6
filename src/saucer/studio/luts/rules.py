"""What may happen to LUTs: bringing in, naming, taking away. Baking, packs, charts and tools have modules of their own."""

from __future__ import annotations

import io
import zipfile
from pathlib import Path
from typing import Any

from django.conf import settings
from django.db import transaction

from saucer.core.colour.encodings import Encoding
from saucer.core.errors import LutError
from saucer.core.files import Format, read_lut
from saucer.core.files.fitting import written
from saucer.core.guessing import guess
from saucer.core.health import examine
from saucer.core.lattice_cache import ByteCache
from saucer.core.lut.table import Lut
from saucer.core.lut.tools import likeness
from saucer.core.steps.registry import no_luts
from saucer.studio.deleting import bring_back, put_away
from saucer.studio.encodings.rules import find as encoding
from saucer.studio.encodings.rules import own
from saucer.studio.luts.models import LutEntry, LutFile
from saucer.studio.people.models import Person, Role
from saucer.studio.people.rules import record, require, require_own
from saucer.studio.refusals import NotFound, NotPossible
from saucer.studio.store import keep_bytes, read_kept


def bring_in(person: Person, data: bytes, file_name: str, name: str = "", expects: str = "", gives: str = "") -> LutEntry:
    """Read a LUT file and put it on the Shelf. Without encodings they are guessed, and can be said later. Raises: LutError with the line"""
    require(person, Role.DESIGNER, "bring in LUTs")
    place = Path(file_name).name[:200] or "LUT"
    if len(data) > settings.LUT_UPLOAD_LIMIT:
        raise LutError(place, f"larger than {settings.LUT_UPLOAD_LIMIT // 2**20} MB")
    lut, form = read_lut(data, place)
    guessed = guess(lut, Path(place).stem, tuple(own().values()))
    known = "said" if expects else guessed.how
    expects = encoding(expects or guessed.expects, "expects").id
    gives = encoding(gives or (expects if known == "said" else guessed.gives), "gives").id
    health = examine(lut)
    with transaction.atomic():
        entry = LutEntry.objects.create(
            name=(name or lut.title or Path(place).stem)[:120], file_name=place, format=form.id, kind=lut.kind[:60], size=lut.size,
            likeness=likeness(lut),
            sha256=keep_bytes(data), bytes=len(data), expects=expects, gives=gives, owner=person, known=known,
            rights=said_in(lut, "Rights"), author=said_in(lut, "Author"), note=said_in(lut, "Note"),
            health=health.level, health_words=health.summary[:300],
        )  # fmt: skip
        record(person, "bring in LUT", entry, sha256=entry.sha256)
    return entry


def check_upload(person: Person, size: int) -> None:
    """Raises: NotAllowed; LutError for more than a pack may be"""
    require(person, Role.DESIGNER, "bring in LUTs")
    if size > settings.PACK_UPLOAD_LIMIT:
        raise LutError("pack", f"larger than {settings.PACK_UPLOAD_LIMIT // 2**20} MB together; send it in parts")


def said_in(lut: Lut, what: str) -> str:
    """What the file's comments say as `Rights: ...`, `Author: ...` or `Note: ...`."""
    start = f"{what}: "
    return next((comment.removeprefix(start).strip()[:120] for comment in lut.comments if comment.startswith(start)), "")


def put_on_shelf(
    person: Person, lut: Lut, form: Format, name: str, how: str, parent: LutEntry | None = None, **fields: Any
) -> LutEntry:
    """A LUT that a tool, a chart or a pair made, written in a format that holds it. Raises: LutError

    fields: expects and gives at least; others of the model as they are known
    """
    require(person, Role.DESIGNER, "put LUTs on the Shelf")
    made = written(lut, form)
    health = examine(made.lut)
    with transaction.atomic():
        entry = LutEntry.objects.create(
            name=name.strip()[:120] or "Untitled LUT", file_name=f"{file_stem(name)}{form.suffix}", format=form.id, kind=made.lut.kind[:60],
            size=made.lut.size, likeness=likeness(made.lut), sha256=keep_bytes(made.data), bytes=len(made.data),
            owner=person, made_by=how, parent=parent,
            health=health.level, health_words=health.summary[:300], **fields,
        )  # fmt: skip
        record(person, how, entry, sha256=entry.sha256, parent=parent.pk if parent else None)
    return entry


def file_stem(name: str) -> str:
    words = "".join(letter if letter.isalnum() else " " for letter in name).split()
    return "-".join(words).lower()[:80] or "look"


def find(pk: int) -> LutEntry:
    """Raises: NotFound, for deleted ones too."""
    entry = LutEntry.objects.filter(pk=pk, deleted=None).select_related("version__look", "owner", "parent").first()
    if entry is None:
        raise NotFound("There is no such LUT, or it was deleted.")
    return entry


def file_of(entry: LutEntry, pk: int) -> LutFile:
    """Raises: NotFound"""
    found = entry.files.filter(pk=pk).first()
    if found is None:
        raise NotFound("This LUT has no such file.")
    return found


def zip_of(entry: LutEntry) -> bytes:
    """All its files in one zip; the same bytes every time."""
    packed = io.BytesIO()
    with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, sha256 in ((entry.file_name, entry.sha256), *((one.file_name, one.sha256) for one in entry.files.all())):
            info = zipfile.ZipInfo(name, (1980, 1, 1, 0, 0, 0))
            info.compress_type, info.external_attr = zipfile.ZIP_DEFLATED, 0o644 << 16
            archive.writestr(info, read_kept(sha256))
    return packed.getvalue()


def as_category(text: str) -> str:
    """A category within others is written as a path; spaces around and empty parts of it mean nothing."""
    return "/".join(part.strip() for part in text.split("/") if part.strip())[:200].rstrip("/ ")


def change(
    person: Person, pk: int, name: str | None = None, expects: str | None = None, gives: str | None = None,
    rights: str | None = None, note: str | None = None, category: str | None = None,
) -> LutEntry:  # fmt: skip
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
    entry.known = "said" if expects or gives else entry.known
    for field, value in (("rights", rights), ("note", note), ("category", None if category is None else as_category(category))):
        if value is not None:
            setattr(entry, field, value.strip())
    with transaction.atomic():
        entry.save()
        record(person, "change LUT", entry, expects=entry.expects, gives=entry.gives)
    return entry


def delete(person: Person, pk: int) -> None:
    """It can be brought back for 30 days."""
    put_away(person, find(pk), "LUT")


def restore(person: Person, pk: int) -> LutEntry:
    return bring_back(person, LutEntry, pk, "LUT")


_TABLES: ByteCache[Lut] = ByteCache(192 * 2**20)


def _table(sha256: str) -> Lut:
    found = _TABLES.get(sha256)
    if found is None:
        found = read_lut(read_kept(sha256), sha256[:12])[0]
        _TABLES.keep(sha256, found, found.nbytes)
    return found


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
    entries = LutEntry.objects.filter(deleted=None).select_related("version__look", "owner", "parent")
    return list(entries.prefetch_related("files", "children"))


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
