"""The registry of per-pixel step kinds."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any

import numpy as np

from saucer.core.colour.encodings import Encoding
from saucer.core.errors import LutError
from saucer.core.lut.nodes import Formula
from saucer.core.lut.table import Lut, Node
from saucer.core.planes import Operation
from saucer.core.steps.parameters import StepParameters

LINE_SAMPLES = 129
Luts = Callable[[str], Lut]
"""From the SHA-256 of a LUT file to the LUT. Raises: LutError when it is not at hand."""


def no_luts(sha256: str) -> Lut:
    raise LutError("LUT", f"the LUT {sha256[:12]} is not at hand; bring it in, or use the bundle that holds it")


@dataclass(frozen=True)
class Junction:
    """Where a step stands: the encoding there, the look's own encodings, and where LUTs come from."""

    encoding: Encoding
    own: Mapping[str, Encoding] = field(default_factory=dict)
    luts: Luts = no_luts


def unchanged(step: Any, junction: Junction) -> Encoding:
    return junction.encoding


def no_nodes(step: Any, junction: Junction) -> tuple[Node, ...] | None:
    return None


def formulas_in_light(encoding: Encoding, *inner: Formula) -> tuple[Node, ...] | None:
    """Formulas on linear light of the encoding; None where its curve is not one of a LUT file's."""
    found = encoding.transfer.formulas
    return None if found is None else (*found[0], *inner, *found[1])


def no_lines(step: Any, junction: Junction) -> dict[str, list[float]]:
    return {}


@dataclass(frozen=True)
class StepKind:
    """A kind of per-pixel step.

    parameters: the model
    prepare: everything that does not depend on the samples, done once; the operation it returns is run on each block.
        Not called for neutral parameters. Raises: SaucerError for what only shows here (a LUT that is missing)
    neutral: do these parameters change nothing?
    summary: one line for people
    lines: the curves of a graph or sparkline, by name, LINE_SAMPLES floats each, over code values 0..1 or hues 0..360
    after: the encoding at its end
    nodes: the step at full strength as nodes of a LUT file, None where no nodes say it exactly. Only where the values that reach it stay
        within what its formulas cover: whoever uses them checks them against the operation
    """

    parameters: type[StepParameters]
    title: str
    prepare: Callable[[Any, Junction], Operation]
    neutral: Callable[[Any], bool]
    summary: Callable[[Any], str]
    lines: Callable[[Any, Junction], dict[str, list[float]]] = no_lines
    after: Callable[[Any, Junction], Encoding] = unchanged
    nodes: Callable[[Any, Junction], tuple[Node, ...] | None] = no_nodes

    @property
    def kind(self) -> str:
        return str(self.parameters.model_fields["kind"].default)


REGISTRY: dict[str, StepKind] = {}


def register(kind: StepKind) -> None:
    """Raises: RuntimeError naming both owners when the id is taken."""
    other = REGISTRY.get(kind.kind)
    if other is not None and other.parameters is not kind.parameters:
        raise RuntimeError(
            f'step kind "{kind.kind}" of {kind.parameters.__module__} is already that of {other.parameters.__module__}'
        )
    REGISTRY[kind.kind] = kind


def grey_lines(operation: Operation, names: tuple[str, str, str] = ("red", "green", "blue")) -> dict[str, list[float]]:
    """An operation on the grey ramp 0..1; one line "all" where the three channels come out the same."""
    planes = np.repeat(np.linspace(0, 1, LINE_SAMPLES, dtype=np.float32)[None], 3, axis=0)
    operation(planes)
    return line_set({"all": planes[0]} if (planes == planes[0]).all() else dict(zip(names, planes, strict=True)))


def line_set(lines: Mapping[str, np.ndarray]) -> dict[str, list[float]]:
    return {name: [round(float(y), 5) for y in line] for name, line in lines.items()}
