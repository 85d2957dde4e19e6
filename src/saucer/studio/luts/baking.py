"""Baking on the Shelf: a version, or a part of it, in several formats at once; and how well each will do before it is baked."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import asdict, dataclass, replace
from typing import Annotated, Any

import numpy as np
from django.db import transaction
from pydantic import BaseModel, ConfigDict, Field

from saucer.core.bake import Part, Words, bake_file, between, check_size, lut_for, part_of, stored, words_left_out
from saucer.core.colour.conversion import convert
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.errors import LutError
from saucer.core.evaluate import evaluate
from saucer.core.fidelity import SIZES, Report, Truth, measure, survey
from saucer.core.files import Format, Options, formats
from saucer.core.files.fitting import Converted
from saucer.core.health import examine
from saucer.core.look import Look
from saucer.core.lut.apply import apply_lut, to_codes
from saucer.core.lut.tools import likeness
from saucer.studio.encodings.rules import definitions
from saucer.studio.looks.models import Version
from saucer.studio.looks.rules import look_of
from saucer.studio.luts.models import LutEntry, LutFile
from saucer.studio.luts.rules import at_hand, file_stem
from saucer.studio.people.models import Person, Role
from saucer.studio.people.rules import record, require
from saucer.studio.pictures.models import Picture
from saucer.studio.pictures.rules import proxy_in
from saucer.studio.store import keep_bytes

MOST_FORMATS = 14
MEASURED_WIDTH = 480


class FormatChoice(BaseModel):
    """One format to write. depth: bits of whole numbers, 0 for its first; suffix: where it knows several."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    format: str
    depth: int = 0
    suffix: Annotated[str, Field(pattern=r"^(\.[a-z0-9]{1,8})?$")] = ""

    def form(self) -> Format:
        """Raises: LutError"""
        found = formats().get(self.format)
        if found is None:
            raise LutError("formats", f'there is no format "{self.format}"; there are {", ".join(formats())}')
        if self.suffix and self.suffix not in found.suffixes:
            raise LutError("formats", f"{found.name} is written as {' or '.join(found.suffixes)}, not {self.suffix}")
        return found

    @property
    def options(self) -> Options:
        return Options(self.depth, self.suffix)


class PartChoice(BaseModel):
    """Which part of the look: top-level steps first..last, counted from 1, or the one step or group at `path`; all of it without."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    first: Annotated[int | None, Field(ge=1)] = None
    last: Annotated[int | None, Field(ge=1)] = None
    path: Annotated[str, Field(max_length=200)] = ""

    @property
    def part(self) -> Part:
        return Part(self.first, self.last, self.path)


class BakeChoice(BaseModel):
    """Everything that is chosen for a bake but the look itself. expects, gives: empty for what the look, or its part, has."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    formats: Annotated[tuple[FormatChoice, ...], Field(min_length=1, max_length=MOST_FORMATS)] = (FormatChoice(format="cube"),)
    size: Annotated[int, Field(ge=2, le=129)] = 33
    expects: str = ""
    gives: str = ""
    part: PartChoice = PartChoice()
    title: Annotated[str, Field(max_length=120)] = ""
    author: Annotated[str, Field(max_length=120)] = ""
    rights: Annotated[str, Field(max_length=200)] = ""
    note: Annotated[str, Field(max_length=2000)] = ""


def look_to_bake(look: Look, choice: BakeChoice) -> Look:
    """The look, or its part, between the chosen encodings; the team's own may be chosen too. Raises: LookError, EncodingError"""
    known = {one.id for one in look.encodings}
    wanted = tuple(one for one in definitions() if one.id in (choice.expects, choice.gives) and one.id not in known)
    look = look.model_copy(update={"encodings": (*look.encodings, *wanted)})
    return between(part_of(look, choice.part.part, at_hand), choice.expects, choice.gives)


def bake_version(
    person: Person, version: Version, choice: BakeChoice, report: Callable[[float], None] = lambda share: None
) -> LutEntry:
    """Bake a version and put the LUT on the Shelf with all its files; the same bake again gives the entry that is there.

    report: is told the share done; what it raises ends the work, and nothing is kept
    """
    require(person, Role.DESIGNER, "bake LUTs")
    whole = look_of(version)
    look = look_to_bake(whole, choice)
    part = choice.part.part
    title, left_out = choice.title or version.look.name, words_left_out(whole, part)
    words = Words(title, choice.author, choice.rights, choice.note, (f"Version {version.number} of {version.look.name}",))
    forms = [one.form() for one in choice.formats]
    truth = Truth(look, None, at_hand)
    report(0.05)
    made: list[tuple[Format, Converted, dict[str, Any]]] = []
    for number, (one, form) in enumerate(zip(choice.formats, forms, strict=True), 1):
        file = bake_file(look, form, choice.size, words, one.options, at_hand, part, left_out)
        report(0.05 + 0.8 * (number - 0.5) / len(forms))
        found = measure(truth, file.lut)
        made.append((form, file, {"lost": list(file.lost), "fidelity": asdict(found.spread)}))
        report(0.05 + 0.8 * number / len(forms))
    return _put_on_shelf(person, version, choice, look, left_out, title, made)


def _file_name(title: str, form: Format, size: int, choice: FormatChoice) -> str:
    clash = "" if form.suffix not in (".png",) else f"-{form.id}"
    return f"{file_stem(title)}{clash}{f'-{size}' if size else ''}{choice.suffix or form.suffix}"


def _put_on_shelf(
    person: Person, version: Version, choice: BakeChoice, look: Look, left_out: list[str], title: str,
    made: list[tuple[Format, Converted, dict[str, Any]]],
) -> LutEntry:  # fmt: skip
    health = examine(made[0][1].lut)
    with transaction.atomic():
        shas = [keep_bytes(file.data) for _, file, _ in made]
        for same in LutEntry.objects.filter(sha256=shas[0], version=version, deleted=None).prefetch_related("files"):
            if [one.sha256 for one in same.files.all()] == shas[1:]:
                return same
        form, file, told = made[0]
        entry = LutEntry.objects.create(
            name=title[:120], author=choice.author, rights=choice.rights, note=choice.note, known="baked",
            file_name=_file_name(title, form, file.lut.size, choice.formats[0]), format=form.id, kind=file.lut.kind[:60],
            size=file.lut.size, sha256=shas[0], bytes=len(file.data), expects=look.input, gives=look.output, version=version,
            owner=person, likeness=likeness(file.lut), health=health.level, health_words=health.summary[:300],
            made=told | {"left_out": left_out, "part": choice.part.part.words},
        )  # fmt: skip
        for sha256, picked, (form, file, told) in zip(shas[1:], choice.formats[1:], made[1:], strict=True):
            LutFile.objects.create(
                entry=entry, format=form.id, file_name=_file_name(title, form, file.lut.size, picked), size=file.lut.size,
                sha256=sha256, bytes=len(file.data), made=told,
            )  # fmt: skip
        record(person, "bake", entry, version=version.pk, size=choice.size, files=shas)
    return entry


@dataclass(frozen=True)
class Survey:
    """How one format will do. about: bytes of its file at each size; expects, gives: encodings of the LUT"""

    report: Report
    about: list[int]
    expects: str
    gives: str
    left_out: list[str]


def fidelity(
    look: Look, choice: BakeChoice, one: FormatChoice, picture: Picture | None, sizes: tuple[int, ...], tolerance: float
) -> Survey:
    """How well one format does in every size, on the picture too. Raises: LutError where it cannot hold the look"""
    for size in sizes:
        check_size(size)
    made, form = look_to_bake(look, choice), one.form()
    pixels = None if picture is None else proxy_in(picture, made.encoding(made.input), MEASURED_WIDTH)
    found = survey(Truth(made, pixels, at_hand), form, one.options, sizes or SIZES, tolerance)
    small = form.holds.size_for(17)
    sample = bake_file(made, form, small, Words(), one.options, at_hand)
    per_node = len(sample.data) / small**3 if "3D" in sample.lut.kind else 0.0
    about = [round(per_node * size_.size**3) or len(sample.data) for size_ in found.sizes]
    lost = (*found.lost, *(words for words in sample.lost if words not in found.lost))
    return Survey(replace(found, lost=lost), about, made.input, made.output, words_left_out(look, choice.part.part))


def frame(look: Look, choice: BakeChoice, one: FormatChoice | None, picture: Picture, width: int | None = None) -> np.ndarray:
    """(h, w, 3) uint8 sRGB: the picture through the exact look, or through the LUT of one format with its rounding."""
    made = look_to_bake(look, choice)
    pixels = proxy_in(picture, made.encoding(made.input), width)
    if one is None:
        done = evaluate(made, pixels, luts=at_hand)
    else:
        form = one.form()
        lut, _ = lut_for(made, form, choice.size, at_hand)
        done = apply_lut(stored(lut, form, one.options), pixels)
    return to_codes(np.ascontiguousarray(convert(done, made.encoding(made.output), ENCODINGS["srgb"]), np.float32), np.uint8)
