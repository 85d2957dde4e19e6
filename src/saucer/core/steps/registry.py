"""The one registry of step kinds: per-pixel ones, which a LUT can hold, and spatial ones, which none can."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any

import numpy as np

from saucer.core.colour.encodings import Encoding
from saucer.core.colour.rendering import View
from saucer.core.errors import LutError
from saucer.core.lut.formulas import Formula
from saucer.core.lut.table import Link, Lut
from saucer.core.numeric.planes import Operation
from saucer.core.steps.parameters import StepParameters

LINE_SAMPLES = 129
Luts = Callable[[str], Lut]
"""From the SHA-256 of a LUT file to the LUT. Raises: LutError when it is not at hand."""
Lines = dict[str, list[float]]
"""The curves of a graph or sparkline by name, LINE_SAMPLES floats each, over code values 0..1 or hues 0..360."""


def no_luts(sha256: str) -> Lut:
    raise LutError("LUT", f"the LUT {sha256[:12]} is not at hand; bring it in, or use the bundle that holds it")


@dataclass(frozen=True)
class Junction:
    """Where a step stands: the encoding there, the look's own encodings, where LUTs come from, and by which view the look is seen."""

    encoding: Encoding
    own: Mapping[str, Encoding] = field(default_factory=dict)
    luts: Luts = no_luts
    view: View = "plain"


@dataclass(frozen=True)
class Frame:
    """The whole picture's size, how far down the first row at hand lies, and which picture of a moving one it is."""

    width: int
    height: int
    top: int = 0
    number: int = 0


def unchanged(step: Any, junction: Junction) -> Encoding:
    return junction.encoding


def no_links(step: Any, junction: Junction) -> tuple[Link, ...] | None:
    return None


def no_lines(step: Any, junction: Junction) -> Lines:
    return {}


def no_reach(step: Any, height: int) -> int:
    return 0


@dataclass(frozen=True)
class PixelKind:
    """A kind of per-pixel step.

    parameters: the model
    prepare: everything that does not depend on the samples, done once; the operation it returns is run on each block.
        Not called for neutral parameters. Raises: SaucerError for what only shows here (a LUT that is missing)
    neutral: do these parameters change nothing?
    summary: one line for people
    after: the encoding at its end
    links: the step at full strength as links of a LUT file, None where none say it exactly. Only where the values that reach it stay
        within what its formulas cover: whoever uses them checks them against the operation
    fades: does `prepare` lay on the step's strength by itself, because it fades elsewhere than at its end?
    corrects: does it correct the base of a picture, and so needs all of it?
    examples: settings that between them run every kernel of the kind
    """

    parameters: type[StepParameters]
    title: str
    prepare: Callable[[Any, Junction], Operation]
    neutral: Callable[[Any], bool]
    summary: Callable[[Any], str]
    lines: Callable[[Any, Junction], Lines] = no_lines
    after: Callable[[Any, Junction], Encoding] = unchanged
    links: Callable[[Any, Junction], tuple[Link, ...] | None] = no_links
    fades: bool = False
    corrects: bool = False
    examples: tuple[dict[str, Any], ...] = ()

    @property
    def kind(self) -> str:
        return str(self.parameters.model_fields["kind"].default)


@dataclass(frozen=True)
class SpatialKind:
    """A kind of spatial step. Sizes in its parameters are shares of the picture's height, so that a proxy and the full picture agree.

    evaluate: (parameters, (rows, width, 3) float32 code values, encoding, frame) -> an array of the same shape, new or the one given,
        which is contiguous and may be written to. Beyond the rows at hand the outermost ones are repeated
    reach: (parameters, picture height) -> how many rows above and below a row take part in it
    neutral, summary, lines, examples: as a PixelKind's
    """

    parameters: type[StepParameters]
    title: str
    evaluate: Callable[[Any, np.ndarray, Encoding, Frame], np.ndarray]
    neutral: Callable[[Any], bool]
    summary: Callable[[Any], str]
    reach: Callable[[Any, int], int] = no_reach
    lines: Callable[[Any, Junction], Lines] = no_lines
    examples: tuple[dict[str, Any], ...] = ()

    @property
    def kind(self) -> str:
        return str(self.parameters.model_fields["kind"].default)


Kind = PixelKind | SpatialKind
REGISTRY: dict[str, Kind] = {}


def register(kind: Kind) -> None:
    """Raises: RuntimeError naming both owners when the id is taken."""
    other = REGISTRY.get(kind.kind)
    if other is not None and other.parameters is not kind.parameters:
        raise RuntimeError(
            f'step kind "{kind.kind}" of {kind.parameters.__module__} is already that of {other.parameters.__module__}'
        )
    REGISTRY[kind.kind] = kind


def formulas_in_light(encoding: Encoding, *inner: Formula) -> tuple[Link, ...] | None:
    """Formulas on linear light of the encoding; None where its curve is not one of a LUT file's."""
    found = encoding.transfer.formulas
    return None if found is None else (*found[0], *inner, *found[1])


def grey_lines(operation: Operation, names: tuple[str, str, str] = ("red", "green", "blue")) -> Lines:
    """An operation on the grey ramp 0..1; one line "all" where the three channels come out the same."""
    planes = np.repeat(np.linspace(0, 1, LINE_SAMPLES, dtype=np.float32)[None], 3, axis=0)
    operation(planes)
    return line_set({"all": planes[0]} if (planes == planes[0]).all() else dict(zip(names, planes, strict=True)))


def line_set(lines: Mapping[str, np.ndarray]) -> Lines:
    return {name: [round(float(y), 5) for y in line] for name, line in lines.items()}
