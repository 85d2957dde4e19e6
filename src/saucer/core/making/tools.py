"""The one registry of tools on LUTs: what each takes, which settings it has, what it is called, and what it does.

The command, the API and the page of a LUT all read it. A tool's results are LUTs of tables.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Annotated, get_args

import numpy as np
from pydantic import BaseModel, ConfigDict, Field

from saucer.core.colour.conversion import convert
from saucer.core.colour.encodings import Encoding
from saucer.core.errors import LutError
from saucer.core.lut.combine import compose, extract_grey_axis, fade_lut, mix_luts
from saucer.core.lut.health import Repair
from saucer.core.lut.invert import invert
from saucer.core.lut.repairs import repair
from saucer.core.lut.table import Lut
from saucer.core.lut.tables import DEFAULT_SIZE, change_domain, resize


class ToolSettings(BaseModel):
    """amount: strength, or the other LUT's share. size: nodes a side, or samples of a grey axis. low, high: of the domain."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    amount: Annotated[float, Field(ge=0, le=1)] = 0.5
    size: Annotated[int | None, Field(ge=2, le=65536)] = None
    low: Annotated[float, Field(ge=-16, le=16)] = 0.0
    high: Annotated[float, Field(ge=-16, le=64)] = 1.0


@dataclass(frozen=True, eq=False)
class ToolInput:
    """A LUT, and what it is known to expect and give; None where nobody says."""

    lut: Lut
    name: str = ""
    expects: Encoding | None = None
    gives: Encoding | None = None


@dataclass(frozen=True, eq=False)
class ToolResult:
    """words: what was measured on the way, in one sentence; or empty"""

    lut: Lut
    expects: Encoding | None
    gives: Encoding | None
    words: str = ""


Run = Callable[[Sequence[ToolInput], ToolSettings], ToolResult]


@dataclass(frozen=True)
class Tool:
    """title: on its button; inputs: LUTs it takes; fields: which settings it heeds; words: what is put behind the LUT's name.

    slow: it searches for every node, so that a trial of it is better made with fewer
    """

    id: str
    title: str
    run: Run
    words: str
    inputs: int = 1
    fields: tuple[str, ...] = ()
    slow: bool = False

    def use(self, inputs: Sequence[ToolInput], settings: ToolSettings) -> ToolResult:
        """Raises: LutError"""
        if len(inputs) != self.inputs:
            raise LutError("tool", f"{self.id} takes {self.inputs} LUT{'s' if self.inputs > 1 else ''}, got {len(inputs)}")
        return self.run(inputs, settings)

    def name_result(self, inputs: Sequence[ToolInput], settings: ToolSettings) -> str:
        """What the result is called: the first LUT's name, and what was done."""
        given = settings.model_dump() | {"size": settings.size or DEFAULT_SIZE}
        return f"{inputs[0].name}, {self.words.format(other=inputs[-1].name, **given)}"[:120]


def _conversion(given: Encoding | None, wanted: Encoding | None) -> Callable[[np.ndarray], np.ndarray] | None:
    if given is None or wanted is None or given == wanted:
        return None
    return lambda x: np.asarray(convert(x, given, wanted), np.float32)


def _alike(one: ToolInput, lut: Lut, words: str = "") -> ToolResult:
    """A result between the same encodings."""
    return ToolResult(lut, one.expects, one.gives, words)


def _strength(inputs: Sequence[ToolInput], settings: ToolSettings) -> ToolResult:
    (one,) = inputs
    return _alike(one, fade_lut(one.lut, settings.amount, _conversion(one.expects, one.gives)))


def _compose(inputs: Sequence[ToolInput], settings: ToolSettings) -> ToolResult:
    first, second = inputs
    made = compose(first.lut, second.lut, settings.size, _conversion(first.gives, second.expects))
    return ToolResult(made, first.expects, second.gives)


def _blend(inputs: Sequence[ToolInput], settings: ToolSettings) -> ToolResult:
    one, other = inputs
    if (one.expects, one.gives) != (other.expects, other.gives):
        raise LutError(other.name, "expects or gives another encoding; only LUTs for the same encodings can be blended")
    return _alike(one, mix_luts(one.lut, other.lut, settings.amount, settings.size))


def _invert(inputs: Sequence[ToolInput], settings: ToolSettings) -> ToolResult:
    (one,) = inputs
    found = invert(one.lut, settings.size or DEFAULT_SIZE)
    words = (f"It undoes the LUT within {found.mean * 1023:.1f} of 1023 codes on average, {found.largest * 1023:.1f} at most; "
             f"{found.reached:.0%} of its nodes are colours the LUT can give.")  # fmt: skip
    return ToolResult(found.lut, one.gives, one.expects, words)


def _resize(inputs: Sequence[ToolInput], settings: ToolSettings) -> ToolResult:
    (one,) = inputs
    return _alike(one, resize(one.lut, settings.size or DEFAULT_SIZE))


def _domain(inputs: Sequence[ToolInput], settings: ToolSettings) -> ToolResult:
    (one,) = inputs
    return _alike(one, change_domain(one.lut, ((settings.low,) * 3, (settings.high,) * 3)))


def _grey(inputs: Sequence[ToolInput], settings: ToolSettings) -> ToolResult:
    (one,) = inputs
    return _alike(one, extract_grey_axis(one.lut, settings.size or 1024))


def _repairing(how: Repair) -> Run:
    def run(inputs: Sequence[ToolInput], settings: ToolSettings) -> ToolResult:
        (one,) = inputs
        return _alike(one, repair(one.lut, how, settings.size or DEFAULT_SIZE))

    return run


_TOOLS = (
    Tool("strength", "Strength", _strength, "at {amount:.0%}", fields=("amount",)),
    Tool("compose", "Put another behind it", _compose, "then {other}", inputs=2, fields=("size",)),
    Tool("blend", "Blend with another", _blend, "with {amount:.0%} {other}", inputs=2, fields=("amount", "size")),
    Tool("invert", "Invert", _invert, "inverted", fields=("size",), slow=True),
    Tool("resize", "Resize", _resize, "at {size}", fields=("size",)),
    Tool("domain", "Input range", _domain, "over {low:g} to {high:g}", fields=("low", "high")),
    Tool("grey", "Grey axis", _grey, "grey axis"),
    Tool("smooth", "Smooth", _repairing("smooth"), "smoothed"),
    Tool("unswap", "Channels in order", _repairing("unswap"), "channels in order"),
    Tool("full-range", "Legal to full range", _repairing("full-range"), "full range"),
    Tool("extend", "Extend the range", _repairing("extend"), "extended range"),
)
TOOLS: dict[str, Tool] = {tool.id: tool for tool in _TOOLS}
assert set(get_args(Repair)) <= set(TOOLS)


def find_tool(name: str) -> Tool:
    """Raises: LutError listing what there is"""
    if name not in TOOLS:
        raise LutError("tool", f'there is no tool "{name[:40]}"; there are {", ".join(TOOLS)}')
    return TOOLS[name]
