"""Tools and mends on LUTs of the Shelf: tried on a picture first, then kept as a new entry that names its parent."""

from __future__ import annotations

from functools import lru_cache
from typing import Annotated, Literal

import numpy as np
from pydantic import BaseModel, ConfigDict, Field

from saucer.core.colour.conversion import convert
from saucer.core.colour.encodings import ENCODINGS, Encoding
from saucer.core.errors import LutError
from saucer.core.files import formats
from saucer.core.lut import tools
from saucer.core.lut.apply import apply_lut, to_codes
from saucer.core.lut.table import Lut
from saucer.core.mends import mend
from saucer.studio.encodings.rules import find as encoding
from saucer.studio.luts.models import LutEntry
from saucer.studio.luts.rules import ends_of, find, put_on_shelf, table_of
from saucer.studio.people.models import Person
from saucer.studio.pictures.models import Picture
from saucer.studio.pictures.rules import proxy_in
from saucer.studio.refusals import NotPossible

Tool = Literal["strength", "compose", "blend", "invert", "resize", "domain", "grey", "smooth", "unswap", "full-range", "extend"]
_WORDS = {
    "strength": "at {amount:.0%}", "compose": "then {other}", "blend": "with {amount:.0%} {other}", "invert": "inverted",
    "resize": "at {size}", "domain": "over {low:g} to {high:g}", "grey": "grey axis", "smooth": "smoothed", "unswap": "channels in order",
    "full-range": "full range", "extend": "extended range",
}  # fmt: skip


class ToolChoice(BaseModel):
    """What is to be done. amount: strength, or the other LUT's share; other: id of the second LUT; low, high: of the domain."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    tool: Tool
    amount: Annotated[float, Field(ge=0, le=1)] = 0.5
    other: int | None = None
    size: Annotated[int, Field(ge=2, le=129)] = 33
    low: Annotated[float, Field(ge=-16, le=16)] = 0.0
    high: Annotated[float, Field(ge=-16, le=64)] = 1.0


class Outcome(BaseModel):
    """What a tool made and what it says about it. words: empty, or what was measured."""

    model_config = ConfigDict(arbitrary_types_allowed=True)

    lut: Lut
    expects: str
    gives: str
    name: str
    words: str = ""


def _between(given: Encoding, wanted: Encoding):  # type: ignore[no-untyped-def]
    return None if given == wanted else (lambda x: np.asarray(convert(x, given, wanted), np.float32))


def outcome(entry: LutEntry, choice: ToolChoice) -> Outcome:
    """Raises: LutError, NotFound, NotPossible"""
    other = find(choice.other) if choice.other is not None else None
    if other is None and choice.tool in ("compose", "blend"):
        raise NotPossible("Choose a second LUT.")
    return _outcome(
        entry.pk, entry.sha256, choice, entry.expects, entry.gives, f"{other.sha256} {other.expects} {other.gives}" if other else ""
    )


@lru_cache(maxsize=3)
def _outcome(pk: int, sha256: str, choice: ToolChoice, expects: str, gives: str, other_state: str) -> Outcome:
    del sha256, other_state  # part of the key only: a LUT that is described anew is worked out anew
    entry, other = find(pk), find(choice.other) if choice.other is not None else None
    lut, (into, out) = table_of(entry), ends_of(entry)
    words = ""
    match choice.tool:
        case "strength":
            made = tools.at_strength(lut, choice.amount, _between(into, out))
        case "compose":
            assert other is not None
            second_in, second_out = ends_of(other)
            made = tools.composed(lut, table_of(other), choice.size, _between(out, second_in))
            gives = second_out.id
        case "blend":
            assert other is not None
            if (entry.expects, entry.gives) != (other.expects, other.gives):
                raise NotPossible(
                    f"{other.name} expects or gives another encoding; only LUTs for the same encodings can be blended."
                )
            made = tools.blended(lut, table_of(other), choice.amount, choice.size)
        case "invert":
            found = tools.inverted(lut, choice.size)
            made, expects, gives = found.lut, entry.gives, entry.expects
            words = (f"It undoes the LUT within {found.mean * 1023:.1f} of 1023 codes on average, {found.largest * 1023:.1f} at most; "
                     f"{found.reached:.0%} of its nodes are colours the LUT can give.")  # fmt: skip
        case "resize":
            made = tools.resized(lut, choice.size)
        case "domain":
            made = tools.with_domain(lut, ((choice.low,) * 3, (choice.high,) * 3))
        case "grey":
            made = tools.grey_axis(lut)
        case _:
            made = mend(lut, choice.tool, choice.size)
    name = f"{entry.name}, {_WORDS[choice.tool].format(other=other.name if other else '', **choice.model_dump(exclude={'other'}))}"
    return Outcome(lut=made, expects=expects, gives=gives, name=name[:120], words=words)


def keep(person: Person, pk: int, choice: ToolChoice, name: str = "") -> LutEntry:
    """The outcome as a new entry in the parent's format, or .cube where that cannot hold it. Raises: LutError, NotPossible"""
    entry = find(pk)
    made = outcome(entry, choice)
    words = [f"{choice.tool} of {entry.name} ({entry.sha256[:12]})", f"Expects {made.expects}, gives {made.gives}"]
    words += [f"Rights: {entry.rights}"] if entry.rights else []
    titled = made.lut.titled(name or made.name, tuple(words))
    fields = {"expects": made.expects, "gives": made.gives, "rights": entry.rights, "category": entry.category, "known": entry.known,
              "author": entry.author, "made": {"tool": choice.model_dump(), "words": made.words}}  # fmt: skip
    form = formats()[entry.format]
    if form.holds.depths or made.lut.kind not in form.holds.tables:
        form = formats()["cube"]
    try:
        return put_on_shelf(person, titled, form, name or made.name, choice.tool, entry, **fields)
    except LutError:
        return put_on_shelf(person, titled, formats()["cube"], name or made.name, choice.tool, entry, **fields)


def frame(entry: LutEntry, choice: ToolChoice, picture: Picture, width: int | None = None) -> np.ndarray:
    """(h, w, 3) uint8 sRGB: the picture through the outcome."""
    made = outcome(entry, choice)
    into, out = encoding(made.expects), encoding(made.gives)
    done = apply_lut(made.lut, np.ascontiguousarray(proxy_in(picture, into, width)))
    return to_codes(np.ascontiguousarray(convert(done, out, ENCODINGS["srgb"]), np.float32), np.uint8)
