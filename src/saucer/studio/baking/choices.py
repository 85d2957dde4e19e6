"""What is chosen for a bake."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from saucer.core.bake.part import Part, put_between, take_part
from saucer.core.engine.lattice import HIGHEST_TOP, SHAPER, Shaper
from saucer.core.errors import LutError
from saucer.core.files.format import Format, Options
from saucer.core.files.registry import formats
from saucer.core.look.family import as_member
from saucer.core.look.member import LONGEST_NAME
from saucer.core.look.model import Look
from saucer.studio.encodings.rules import definitions
from saucer.studio.luts.rules import at_hand

MOST_FORMATS = 14


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
    light_top: Annotated[float, Field(ge=1, le=HIGHEST_TOP, description="linear input: the brightest light that is not held")] = (
        SHAPER.top
    )
    light_toe: Annotated[float, Field(ge=1e-5, le=1, description="linear input: nodes are even in stops above this light")] = (
        SHAPER.toe
    )
    expects: str = ""
    gives: str = ""
    part: PartChoice = PartChoice()
    member: Annotated[str, Field(max_length=LONGEST_NAME, description="which of the look's family; empty for the recipe")] = ""
    title: Annotated[str, Field(max_length=120)] = ""
    author: Annotated[str, Field(max_length=120)] = ""
    rights: Annotated[str, Field(max_length=200)] = ""
    note: Annotated[str, Field(max_length=2000)] = ""
    own_entry: Annotated[bool, Field(description="also as an entry of its own on the Shelf")] = False

    @property
    def shaper(self) -> Shaper:
        return Shaper(self.light_top, self.light_toe)


def look_to_bake(look: Look, choice: BakeChoice) -> Look:
    """The look, one of its family, or a part of it, between the chosen encodings; the team's own may be chosen too.

    Raises: LookError, EncodingError
    """
    look = as_member(look, choice.member)
    known = {one.id for one in look.encodings}
    wanted = tuple(one for one in definitions() if one.id in (choice.expects, choice.gives) and one.id not in known)
    look = look.model_copy(update={"encodings": (*look.encodings, *wanted)})
    return put_between(take_part(look, choice.part.part, at_hand), choice.expects, choice.gives)
