"""The registry of step kinds."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np

from saucer.core.colour.encodings import Encoding
from saucer.core.steps.parameters import StepParameters


@dataclass(frozen=True)
class StepKind:
    """A kind of per-pixel step.

    parameters: the model; evaluate: (parameters, (n, 3) float32 values, encoding at this junction) -> new (n, 3) float32
    neutral: do these parameters change nothing? summary: one line for people
    lines: the curves of a graph or sparkline, by name, each sampled at LINE_SAMPLES even positions 0..1; straight ones left out
    """

    parameters: type[StepParameters]
    title: str
    evaluate: Callable[[Any, np.ndarray, Encoding], np.ndarray]
    neutral: Callable[[Any], bool]
    summary: Callable[[Any], str]
    lines: Callable[[Any], dict[str, list[float]]]

    @property
    def kind(self) -> str:
        return str(self.parameters.model_fields["kind"].default)


LINE_SAMPLES = 129

REGISTRY: dict[str, StepKind] = {}


def register(kind: StepKind) -> None:
    """Raises: RuntimeError naming both owners when the id is taken."""
    other = REGISTRY.get(kind.kind)
    if other is not None and other.parameters is not kind.parameters:
        raise RuntimeError(
            f'step kind "{kind.kind}" of {kind.parameters.__module__} is already that of {other.parameters.__module__}'
        )
    REGISTRY[kind.kind] = kind
