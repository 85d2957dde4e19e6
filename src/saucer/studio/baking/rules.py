"""Baking a version, or a part of it, in several formats at once. Its files belong to the version and are shown with it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from django.db import transaction

from saucer.core.bake.bake import Words, bake_file
from saucer.core.bake.fidelity import Truth, measure
from saucer.core.bake.part import name_left_out
from saucer.core.engine.plan import prepare
from saucer.core.files.fitting import WrittenLut
from saucer.core.files.format import Format
from saucer.core.look.family import named
from saucer.core.look.model import Look
from saucer.studio.baking.choices import BakeChoice, FormatChoice, look_to_bake
from saucer.studio.catalogue.models import Entry, Version
from saucer.studio.catalogue.rules import add_formats, lock
from saucer.studio.common.names import file_stem
from saucer.studio.common.store import keep_bytes
from saucer.studio.looks.rules import look_of
from saucer.studio.luts.facts import FileFacts, LutFacts, SpreadFacts
from saucer.studio.luts.models import Lut
from saucer.studio.luts.rules import Ends, NewFile, add_entry, at_hand, hash_files, keep_lut
from saucer.studio.people.models import Person, Role
from saucer.studio.people.rules import record, require


@dataclass(frozen=True, eq=False)
class Baked:
    """lut: with the look's version; entry: the same as an entry of its own, where that was asked for"""

    lut: Lut
    entry: Entry | None


@dataclass(frozen=True, eq=False)
class _Made:
    form: Format
    choice: FormatChoice
    written: WrittenLut
    facts: FileFacts


def bake_version(
    person: Person, version: Version, choice: BakeChoice, report: Callable[[float], None] = lambda fraction: None
) -> Baked:
    """Bake a version with all the files that were asked for; the same bake again gives the LUT that is there.

    report: called with the fraction done; raise from it to cancel, and nothing is kept
    """
    require(person, Role.DESIGNER, "bake LUTs")
    whole = look_of(version, choice.member)
    look, part = look_to_bake(look_of(version), choice), choice.part.part
    title = choice.title or named(version.entry.name, choice.member)
    left_out = name_left_out(prepare(whole, at_hand), part)
    words = Words(title, choice.author, choice.rights, choice.note, (_origin(version, choice.member),))
    forms = [one.form() for one in choice.formats]
    truth = Truth(prepare(look, at_hand))
    report(0.05)
    made: list[_Made] = []
    for number, (one, form) in enumerate(zip(choice.formats, forms, strict=True), 1):
        written = bake_file(look, form, choice.size, words, one.options, at_hand, part, left_out, choice.shaper)
        report(0.05 + 0.8 * (number - 0.5) / len(forms))
        spread = SpreadFacts.of(measure(truth, written.lut).deciding[1])
        made.append(_Made(form, one, written, FileFacts(lost=list(written.lost), fidelity=spread)))
        report(0.05 + 0.8 * number / len(forms))
    return _keep(person, version, choice, look, LutFacts(left_out=left_out, part=part.words, member=choice.member), title, made)


def _origin(version: Version, member: str) -> str:
    """What a file says that it was made from."""
    return f"Version {version.number} of {version.entry.name}{f': {member}' if member else ''}"


def name_file(title: str, form: Format, size: int, suffix: str) -> str:
    clash = f"-{form.id}" if form.suffix == ".png" else ""
    return f"{file_stem(title)}{clash}{f'-{size}' if size else ''}{suffix or form.suffix}"


def _keep(
    person: Person, version: Version, choice: BakeChoice, look: Look, facts: LutFacts, title: str, made: list[_Made]
) -> Baked:
    ends = Ends(look.input, look.output, "baked")
    with transaction.atomic():
        baked = lock(person, version.entry.kind, version.entry_id)  # two bakes at once: the second finds what the first has kept
        files = [
            NewFile(one.form.id, name_file(title, one.form, one.written.lut.size, one.choice.suffix), one.written.lut.size,
                    keep_bytes(one.written.data), one.facts)
            for one in made
        ]  # fmt: skip
        table = made[0].written.lut
        lut = _find_same(version, files, ends)
        if lut is None:
            lut = keep_lut(version, table, ends, files, choice=choice.model_dump(mode="json"), facts=facts)
            add_formats(baked, [one.form.id for one in made])
            record(person, "bake", version, size=choice.size, files=[one.blob.pk for one in files])
        entry = None
        if choice.own_entry:
            same = Entry.objects.visible_to(person).filter(versions__from_version=version, shown_hash=hash_files(files, ends))
            entry = same.first()
            if entry is None:
                fields = {
                    "author": choice.author,
                    "licence": choice.rights,
                    "note": choice.note,
                    "category": version.entry.category_path,
                }
                entry = add_entry(person, title, table, ends, files, from_version=version, facts=facts, **fields)
                record(person, "bake", entry, version=version.pk)
    return Baked(lut, entry)


def _find_same(version: Version, files: list[NewFile], ends: Ends) -> Lut | None:
    wanted = [one.blob.pk for one in files]
    for lut in Lut.objects.filter(version=version, expects=ends.expects, gives=ends.gives).prefetch_related("files"):
        if [one.blob_id for one in lut.files.all()] == wanted:
            return lut
    return None


def list_bakes(entry: Entry) -> list[Lut]:
    """Everything that was baked from any version of a look, the latest first."""
    found = Lut.objects.filter(version__entry=entry).select_related("version").defer("version__content")
    return list(found.prefetch_related("files__blob"))
