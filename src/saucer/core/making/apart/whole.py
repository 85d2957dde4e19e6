"""What a LUT was taken apart into, as steps of a look: the conversion to what it gives, the steps, and the rest."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from saucer.core.colour.encodings import Encoding
from saucer.core.colour.rendering import View
from saucer.core.making.apart.apart import Apart
from saucer.core.steps.parameters import StepParameters

UNEXPLAINED = "What the steps do not explain"


def content_of(apart: Apart, source: Encoding, gives: Encoding, view: View, rest: dict[str, str]) -> list[dict[str, Any]]:
    """Steps as a look file holds them. source: where they begin; rest: how the LUT of the rest is named, by `file` or `sha256`"""
    way: list[dict[str, Any]] = [] if source == gives else [{"kind": "convert", "to": gives.id, "rendering": view}]
    last = {"kind": "lut", "title": UNEXPLAINED, "expects": gives.id, "gives": gives.id} | rest
    return [*way, *contents_of(apart.steps), last]


def contents_of(steps: Sequence[StepParameters]) -> list[dict[str, Any]]:
    """Steps that were made here as a look file holds them, only what is not neutral said."""
    return [{"kind": step.kind} | step.model_dump(mode="json", exclude_defaults=True) for step in steps]
