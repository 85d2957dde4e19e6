"""The registry of spatial step kinds, and what a window on a picture is."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np

from saucer.core.colour.encodings import Encoding
from saucer.core.steps.parameters import StepParameters


@dataclass(frozen=True)
class Frame:
    """The whole picture's size, and how far down the first row at hand lies."""

    width: int
    height: int
    top: int = 0


def no_reach(step: Any, height: int) -> int:
    return 0


def no_lines(step: Any) -> dict[str, list[float]]:
    return {}


@dataclass(frozen=True)
class SpatialKind:
    """A kind of spatial step. Sizes in its parameters are shares of the picture's height, so that a proxy and the full picture agree.

    evaluate: (parameters, (rows, width, 3) float32 code values, encoding, frame) -> an array of the same shape, new or the one given,
        which is contiguous and may be written to. Beyond the rows at hand the outermost ones are repeated
    reach: (parameters, picture height) -> how many rows above and below a row take part in it
    """

    parameters: type[StepParameters]
    title: str
    evaluate: Callable[[Any, np.ndarray, Encoding, Frame], np.ndarray]
    neutral: Callable[[Any], bool]
    summary: Callable[[Any], str]
    reach: Callable[[Any, int], int] = no_reach
    lines: Callable[[Any], dict[str, list[float]]] = no_lines

    @property
    def kind(self) -> str:
        return str(self.parameters.model_fields["kind"].default)


REGISTRY: dict[str, SpatialKind] = {}


def register(kind: SpatialKind) -> None:
    """Raises: RuntimeError naming both owners when the id is taken."""
    other = REGISTRY.get(kind.kind)
    if other is not None and other.parameters is not kind.parameters:
        raise RuntimeError(
            f'spatial step kind "{kind.kind}" of {kind.parameters.__module__} is already that of {other.parameters.__module__}'
        )
    REGISTRY[kind.kind] = kind
