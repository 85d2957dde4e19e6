"""What may happen to LUTs: bringing in, saying what they expect, taking away. Packs, charts and tools have modules of their own."""

from __future__ import annotations

import hashlib
import tempfile
from collections.abc import Sequence
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from django.conf import settings
from django.db import transaction
from django.db.models import Q, QuerySet

from saucer.core.colour.encodings import Encoding
from saucer.core.engine.cache import ByteCache
from saucer.core.errors import LutError
from saucer.core.files.fitting import write_lut
from saucer.core.files.format import Format
from saucer.core.files.guessing import guess
from saucer.core.files.registry import read_lut
from saucer.core.files.zips import pack_into
from saucer.core.lut.health import examine
from saucer.core.lut.likeness import bucket_of, take_sample
from saucer.core.lut.table import Lut as Table
from saucer.core.reports.advice import Ends as LutEnds
from saucer.core.reports.character import see_lut
from saucer.core.steps.registry import no_luts
from saucer.studio.catalogue import rules as catalogue
from saucer.studio.catalogue.models import Entry, Kind, Version, seen_by, standing, there_for
from saucer.studio.catalogue.uses import FINDERS, Use
from saucer.studio.catalogue.uses import MOST as MOST_USES
from saucer.studio.common.models import Blob
from saucer.studio.common.names import file_stem
from saucer.studio.common.refusals import NotFound, NotPossible
from saucer.studio.common.store import keep_bytes, keep_file, read_kept
from saucer.studio.common.uploads import check_size, place_of
from saucer.studio.encodings.rules import USES, hold, own, studio_view
from saucer.studio.encodings.rules import find as find_encoding
from saucer.studio.luts.facts import FileFacts, LutFacts
from saucer.studio.luts.models import Lut, LutFile
from saucer.studio.people.models import Person, Role
from saucer.studio.people.rules import record, require, require_own


@dataclass(frozen=True, eq=False)
class NewFile:
    """One file of a LUT that is about to be kept. size: of its table"""

    format: str
    file_name: str
    size: int
    blob: Blob
    facts: FileFacts = field(default_factory=FileFacts)


@dataclass(frozen=True)
class Ends:
    """What a LUT expects and gives, ids of encodings, and how that is known."""

    expects: str
    gives: str
    known: str


TOLD = ("baked", "declared", "said")
"""Ways in which the encodings of a LUT are known for sure."""


def keep_lut(
    version: Version, table: Table, ends: Ends, files: Sequence[NewFile], made_by: str = "", choice: Any = None,
    facts: LutFacts | None = None,
) -> Lut:  # fmt: skip
    """A LUT of this version with its files; the one way in which they are made. table: what its first file holds"""
    hold(ends.expects, ends.gives)
    health, sample = examine(table, is_told=ends.known in TOLD), take_sample(table)
    lut = Lut.objects.create(
        version=version, choice=choice, kind=table.kind[:60], size=table.size, expects=ends.expects, gives=ends.gives, known=ends.known,
        health=health.level, health_words=health.summary[:300], sample=sample.tobytes(), bucket=bucket_of(sample), made_by=made_by,
        facts=(facts or LutFacts()).model_dump(),
    )  # fmt: skip
    _keep_files(lut, files)
    return lut


def _keep_files(lut: Lut, files: Sequence[NewFile]) -> None:
    LutFile.objects.bulk_create(
        LutFile(lut=lut, position=position, format=one.format, file_name=one.file_name[:255], size=one.size, blob=one.blob,
                facts=one.facts.model_dump())
        for position, one in enumerate(files)
    )  # fmt: skip


def hash_files(files: Sequence[NewFile], ends: Ends) -> str:
    """What names a version of a LUT: its files and what they are for."""
    parts = [*(one.blob.pk for one in files), ends.expects, ends.gives]
    return hashlib.sha256("\n".join(parts).encode()).hexdigest()


def add_entry(
    person: Person, name: str, table: Table, ends: Ends, files: Sequence[NewFile], made_by: str = "",
    from_version: Version | None = None, facts: LutFacts | None = None, **fields: Any,
) -> Entry:  # fmt: skip
    """A LUT as an entry of its own, in the transaction of its caller. fields: as `catalogue.rules.add`"""
    entry = catalogue.add(person, Kind.LUT, name, **fields)
    version = catalogue.add_version(entry, person, hash_files(files, ends), from_version=from_version)
    lut = keep_lut(version, table, ends, files, made_by, None, facts)
    catalogue.show(entry, shown_as(lut, table))
    return entry


def shown_as(lut: Lut, table: Table) -> catalogue.Shown:
    """What the wall has of a LUT."""
    files = list(lut.files.all())
    ends = Ends(lut.expects, lut.gives, lut.known)
    return catalogue.Shown(
        hash_files([NewFile(one.format, one.file_name, one.size, one.blob) for one in files], ends), lut.expects, lut.gives, lut.health,
        tuple(one.format for one in files), seen=see_lut(table, *encodings_of(lut), studio_view()), view=studio_view(),
    )  # fmt: skip


def bring_in(
    person: Person, data: bytes, file_name: str, name: str = "", expects: str = "", gives: str = "", **fields: Any
) -> Entry:
    """Read a LUT file and put it on the Shelf. Without encodings they are guessed, and can be said later.

    fields: as `catalogue.rules.add`; what the file's own words say otherwise
    Raises: LutError with the line
    """
    require(person, Role.DESIGNER, "bring in LUTs")
    place = place_of(file_name, "LUT")
    check_size(len(data), settings.LUT_UPLOAD_LIMIT, place)
    table, form = read_lut(data, place)
    ends = settle_ends(table, Path(place).stem, expects, gives)
    said = {"licence": said_in(table, "Rights"), "author": said_in(table, "Author"), "note": said_in(table, "Note")}
    with transaction.atomic():
        file = NewFile(form.id, place, table.size, keep_bytes(data))
        entry = add_entry(person, name or table.title or Path(place).stem, table, ends, [file], **said | fields)
        record(person, "bring in LUT", entry, sha256=file.blob.pk)
    return entry


def settle_ends(table: Table, name: str, expects: str = "", gives: str = "") -> Ends:
    """What is said, else what the file declares or its name and curve suggest. Raises: EncodingError"""
    guessed = guess(table, name, tuple(own().values()))
    known = "said" if expects else guessed.how
    expects = find_encoding(expects or guessed.expects, "expects").id
    return Ends(expects, find_encoding(gives or (expects if known == "said" else guessed.gives), "gives").id, known)


def said_in(table: Table, what: str) -> str:
    """What the file's comments say as `Rights: ...`, `Author: ...` or `Note: ...`."""
    start = f"{what}: "
    return next((comment.removeprefix(start).strip()[:120] for comment in table.comments if comment.startswith(start)), "")


def put_on_shelf(
    person: Person, table: Table, form: Format, name: str, made_by: str, ends: Ends, from_version: Version | None = None,
    facts: LutFacts | None = None, **fields: Any,
) -> Entry:  # fmt: skip
    """A LUT that a tool, a chart or a pair made, written in a format that holds it. Raises: LutError"""
    require(person, Role.DESIGNER, "put LUTs on the Shelf")
    name = name.strip()[:120] or "Untitled LUT"
    made = write_lut(table, form)
    with transaction.atomic():
        facts_of_file = FileFacts(lost=list(made.lost))
        file = NewFile(form.id, f"{file_stem(name)}{form.suffix}", made.lut.size, keep_bytes(made.data), facts_of_file)
        entry = add_entry(person, name, made.lut, ends, [file], made_by, from_version, facts, **fields)
        record(person, made_by, entry, sha256=file.blob.pk)
    return entry


def find(person: Person, pk: int) -> Lut:
    """The LUT that an entry is, in its latest version. Raises: NotFound, as `catalogue.rules.find`"""
    found = _latest(Lut.objects.filter(there_for(person, "version__entry__"), version__entry_id=pk, version__entry__kind=Kind.LUT))
    if found is None:
        raise catalogue.gone(Kind.LUT, person, pk)
    return found


def lut_of(entry: Entry) -> Lut:
    """The same of an entry that somebody was let see. Raises: NotFound for one that is no LUT"""
    found = _latest(Lut.objects.filter(version__entry=entry, version__entry__kind=Kind.LUT))
    if found is None:
        raise catalogue.gone(Kind.LUT)
    return found


def _latest(found: QuerySet[Lut]) -> Lut | None:
    whole = found.select_related("version__entry__owner", "version__entry__category", "version__from_version__entry")
    return whole.prefetch_related("files__blob").order_by("-version__number", "-pk").first()


def find_in_version(version: Version) -> Lut:
    """The LUT that one version of an entry is. Raises: NotFound"""
    found = Lut.objects.filter(version=version).prefetch_related("files__blob").order_by("pk").first()
    if found is None:
        raise NotFound(f"There is no LUT in version {version.number}.")
    return found


def find_by_id(person: Person, pk: int) -> Lut:
    """Any LUT, a look's bakes too, by its own number. Raises: NotFound"""
    found = (
        Lut.objects.filter(there_for(person, "version__entry__"), pk=pk)
        .select_related("version__entry")
        .prefetch_related("files__blob")
        .first()
    )
    if found is None:
        raise NotFound("There is no such LUT, or it was deleted.")
    return found


def find_file(person: Person, pk: int) -> LutFile:
    """Raises: NotFound"""
    there = LutFile.objects.filter(there_for(person, "lut__version__entry__"), pk=pk)
    found = there.select_related("lut__version__entry").first()
    if found is None:
        raise NotFound("There is no such file, or its LUT was deleted.")
    return found


def take_file(person: Person, pk: int) -> LutFile:
    """A file that leaves the studio; who took it is told in the activity. Raises: NotFound, NotAllowed"""
    require(person, Role.DESIGNER, "download LUTs")
    file = find_file(person, pk)
    catalogue.record_download(person, file.lut.version.entry, file.file_name, file.blob_id)
    return file


def first_file(lut: Lut) -> LutFile:
    """The file that it is read from."""
    return next(iter(lut.files.all()))


def zip_files(lut: Lut) -> Blob:
    """All its files in one zip, kept; the same bytes every time."""
    with tempfile.NamedTemporaryFile(suffix=".zip") as file:
        # Somebody waits for it: at level 1 it takes a sixth of the time and is a tenth larger.
        pack_into(Path(file.name), ((one.file_name, read_kept(one.blob_id)) for one in lut.files.all()), level=1)
        return keep_file(Path(file.name))


def correct_ends(person: Person, pk: int, expects: str | None, gives: str | None) -> Lut:
    """Say what a LUT expects and gives: its next version, with the same files. Raises: NotPossible for a baked one"""
    with transaction.atomic():
        entry = catalogue.lock(person, Kind.LUT, pk)
        require_own(person, entry.owner, "change this LUT")
        before = lut_of(entry)
        if before.known == "baked":
            raise NotPossible("This LUT was baked here: what it expects and gives is known from its look.")
        wanted = expects or before.expects, gives or before.gives
        ends = Ends(find_encoding(wanted[0], "expects").id, find_encoding(wanted[1], "gives").id, "said")
        if (ends.expects, ends.gives, before.known) == (before.expects, before.gives, "said"):
            return before
        files = [
            NewFile(one.format, one.file_name, one.size, one.blob, FileFacts.model_validate(one.facts))
            for one in before.files.all()
        ]
        note = f"Expects {ends.expects}, gives {ends.gives}"
        version = catalogue.add_version(entry, person, hash_files(files, ends), note=note, from_version=before.version)
        table = at_hand(files[0].blob.pk)
        lut = keep_lut(version, table, ends, files, before.made_by, facts=LutFacts.model_validate(before.facts))
        catalogue.show(entry, shown_as(lut, table))
        record(person, "correct encodings", entry, expects=ends.expects, gives=ends.gives)
    return lut_of(entry)


_TABLES: ByteCache[Table] = ByteCache(192 * 2**20)


def _table(sha256: str) -> Table:
    found = _TABLES.get(sha256)
    if found is None:
        if not LutFile.objects.filter(blob=sha256).exists():
            raise FileNotFoundError(sha256)  # a picture, or a row of a pack that nobody has kept, is no LUT of the studio
        found = read_lut(read_kept(sha256), sha256[:12])[0]
        _TABLES.keep(sha256, found, found.nbytes)
    return found


def at_hand(sha256: str) -> Table:
    """A LUT that a look names; a deleted one too, so that looks stay as they are. Raises: LutError when it is none of the studio's"""
    try:
        return _table(sha256)
    except FileNotFoundError:
        return no_luts(sha256)


def declared(sha256: str) -> LutEnds | None:
    """The encodings that the Shelf says a LUT expects and gives, by its content; None for one that is not there."""
    found = (
        Lut.objects.filter(standing("version__entry__"), files__blob=sha256)
        .order_by("-version__number", "-pk")
        .values_list("expects", "gives", "known")
        .first()
    )
    return LutEnds(found[0], found[1], found[2] != "asked") if found is not None else None


def is_on_shelf(person: Person, sha256: str) -> bool:
    """For this person: another's draft is not."""
    there = standing("lut__version__entry__") & seen_by(person, "lut__version__entry__")
    return LutFile.objects.filter(there, blob=sha256).exists()


def content_of(sha256: str) -> tuple[str, bytes]:
    """File name and content of a LUT that a look names, for a bundle. Raises: LutError, for one that was deleted too"""
    at_hand(sha256)
    files = LutFile.objects.filter(blob=sha256)
    file = files.filter(standing("lut__version__entry__")).first()
    if file is None:
        name = files.values_list("lut__version__entry__name", flat=True)[0]
        raise LutError("bundle", f'the LUT "{name}" was deleted, so it is not passed on; bring it back, or take its step out')
    return file.file_name, read_kept(sha256)


def encodings_of(lut: Lut) -> tuple[Encoding, Encoding]:
    """What it expects and gives."""
    return find_encoding(lut.expects), find_encoding(lut.gives)


def table_of(lut: Lut) -> Table:
    """The LUT itself, kept between requests."""
    return _table(first_file(lut).blob_id)


def check_upload(person: Person, size: int) -> None:
    """Raises: NotAllowed; LutError for more than a pack may be"""
    require(person, Role.DESIGNER, "bring in LUTs")
    if size > settings.PACK_UPLOAD_LIMIT:
        raise LutError("pack", f"larger than {settings.PACK_UPLOAD_LIMIT // 2**20} MB together; send it in parts")


def _find_uses(person: Person, entry: Entry) -> list[Use]:
    """Looks and presets that name a file of this LUT, by its content, in what they are now."""
    if entry.kind != Kind.LUT:
        return []
    files = list(LutFile.objects.filter(lut__version__entry=entry).values_list("blob", flat=True).distinct())
    named = Entry.objects.visible_to(person).filter(uses__overlap=files).order_by("name", "pk")
    return [
        Use(name, f"used in this {catalogue.noun_of(kind)}", f"/shelf/{kind}/{pk}")
        for name, kind, pk in named.values_list("name", "kind", "pk")[:MOST_USES]
    ]


FINDERS.append(_find_uses)
USES.append(("LUTs", lambda encoding_id: Lut.objects.filter(Q(expects=encoding_id) | Q(gives=encoding_id)).count()))
