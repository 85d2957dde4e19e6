"""Convert: from the encoding of the junction to another one."""

from __future__ import annotations

import math
from typing import Annotated, Literal

from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from saucer.core.colour.aces import peak_of
from saucer.core.colour.conversion import Gamut, conversion, hlg_side, is_hdr
from saucer.core.colour.encodings import Encoding, encoding
from saucer.core.colour.hlg import PEAK, PEAKS
from saucer.core.colour.primaries import Adaptation, rgb_to_rgb
from saucer.core.colour.rendering import SOFT_WHITE, Rendering, ToneScale
from saucer.core.lut.formulas import Matrix, Range
from saucer.core.lut.table import Link
from saucer.core.numeric.planes import Operation
from saucer.core.steps.parameters import Share, StepParameters, within
from saucer.core.steps.registry import Junction, PixelKind, register


class Convert(StepParameters):
    """Decode, 3x3 through XYZ with adaptation, render, bring into gamut, encode. It has no strength.

    rendering: `plain`, 1.0 stays white; `soft`, from scene to display light up to `white` is drawn in (and back, put out again);
        `scale`, through a tone scale that takes 18 % grey to `grey`; `aces-1`, `aces-2`, through ACES's output transforms;
        `bt2446-a`, `bt2446-c`, from an HDR display to an SDR one or back. Between other ends than those a rendering is plain
    """

    kind: Literal["convert"] = "convert"
    to: Annotated[str, Field(description="id of an encoding; empty: none, nothing changes")] = ""
    rendering: Rendering = "plain"
    white: Annotated[float, within(1, 100, "linear light", "for soft: the scene's light that becomes white")] = SOFT_WHITE
    grey: Annotated[float, within(0.02, 0.5, "linear light", "for scale: the display's light of 18 % grey")] = ToneScale.grey
    contrast: Annotated[float, within(0.5, 3, what="for scale: stops shown to a stop of the scene, in the shadows")] = (
        ToneScale.contrast
    )
    hue: Annotated[Share, Field(description="for scale: share of hue that is kept; the rest fades bright colours to white")] = (
        ToneScale.hue
    )
    toe: Annotated[float, within(0, 0.1, "linear light", "for scale: the display's light below which shadows fall off")] = 0.0
    shoulder: Annotated[float, within(0.3, 3, what="for scale: how late and how suddenly bright light is drawn in")] = 1.0
    gamut: Gamut = "keep"
    peak: Annotated[float, within(*PEAKS, "cd/m2", "for HLG; with PQ for scale, ACES and BT.2446 A: of the display")] = PEAK
    adaptation: Annotated[Adaptation, Field(description="how another white is adapted to")] = "bradford"

    @model_validator(mode="after")
    def _whole(self) -> Convert:
        if self.strength != 1:
            raise PydanticCustomError(
                "field", "{place}: a conversion has no strength; leave it at 1, or remove the step", {"place": "strength"}
            )
        return self


RENDERED = {
    "aces-1": "ACES 1 output transform", "aces-2": "ACES 2 output transform", "bt2446-a": "BT.2446 method A",
    "bt2446-c": "BT.2446 method C",
}  # fmt: skip


BETWEEN_DISPLAYS = ("bt2446-a", "bt2446-c")


def prepare(step: Convert, junction: Junction) -> Operation:
    target = after(step, junction)
    scale = ToneScale(step.grey, step.contrast, step.hue, toe=step.toe, shoulder=step.shoulder)
    operation = conversion(junction.encoding, target, step.rendering, step.white, step.gamut, step.peak, step.adaptation, scale)
    return operation or (lambda planes: None)


def after(step: Convert, junction: Junction) -> Encoding:
    return encoding(step.to, "to", junction.own) if step.to else junction.encoding


def neutral(step: Convert) -> bool:
    return not step.to


def summary(step: Convert) -> str:
    if neutral(step):
        return "no change"
    words = [f"soft, white at {step.white:g}"] if step.rendering == "soft" else []
    words += [f"tone scale, grey to {step.grey:g}, contrast {step.contrast:g}"] if step.rendering == "scale" else []
    if step.rendering == "scale":
        words += [
            f"{name} {getattr(step, name):g}" for name in ("toe", "shoulder") if getattr(step, name) != getattr(ToneScale, name)
        ]
    words += [RENDERED[step.rendering]] if step.rendering in RENDERED else []
    words += [step.adaptation.upper()] if step.adaptation != "bradford" else []
    peak = peak_of(step.rendering, step.peak) if step.rendering in ("aces-1", "aces-2") else step.peak
    words += [f"for {peak:g} cd/m2"] if peak != PEAK else []
    words += [f"gamut: {step.gamut}"] if step.gamut != "keep" else []
    return ", ".join([f"to {step.to}", *words])


def conversion_links(
    source: Encoding, target: Encoding, gamut: Gamut = "keep", adaptation: Adaptation = "bradford"
) -> tuple[Link, ...] | None:
    """A plain conversion as nodes; None where a curve, or `compress`, is not one of a LUT file's."""
    if source == target:
        return ()
    decode, encode = source.transfer.formulas, target.transfer.formulas
    if decode is None or encode is None or gamut == "compress" or hlg_side(source, target):
        return None
    middle: list[Link] = []
    if source.primaries != target.primaries:
        rows = rgb_to_rgb(source.primaries, target.primaries, adaptation)
        middle.append(Matrix(tuple(tuple(float(v) for v in row) for row in rows)))  # type: ignore[arg-type]
    if gamut == "clip":
        top = target.top if math.isfinite(target.top) else None
        middle.append(Range(0.0, top, 0.0, top))
    return (*decode[0], *middle, *encode[1])


def links(step: Convert, junction: Junction) -> tuple[Link, ...] | None:
    target = after(step, junction)
    crosses = junction.encoding.referred != target.referred
    if step.rendering in BETWEEN_DISPLAYS:
        crosses = is_hdr(junction.encoding) != is_hdr(target)
    if step.rendering != "plain" and crosses:
        return None
    return conversion_links(junction.encoding, target, step.gamut, step.adaptation)


register(PixelKind(Convert, "Convert", prepare, neutral, summary, after=after, links=links))
