"""Convert: from the encoding of the junction to another one."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from saucer.core.colour.conversion import SOFT_WHITE, Gamut, Rendering, conversion, hlg_side
from saucer.core.colour.encodings import Encoding, encoding
from saucer.core.colour.hlg import PEAK, PEAKS
from saucer.core.colour.primaries import rgb_to_rgb
from saucer.core.lut.formulas import Matrix, Range
from saucer.core.lut.table import Link
from saucer.core.numeric.planes import Operation
from saucer.core.steps.parameters import StepParameters, within
from saucer.core.steps.registry import Junction, PixelKind, register


class Convert(StepParameters):
    """Decode, 3x3 through XYZ with Bradford adaptation, render, bring into gamut, encode. It has no strength.

    rendering: `plain`, 1.0 stays white; `soft`, from scene to display light up to `white` is drawn in (and back, put out again)
    """

    kind: Literal["convert"] = "convert"
    to: Annotated[str, Field(description="id of an encoding; empty: none, nothing changes")] = ""
    rendering: Rendering = "plain"
    white: Annotated[float, within(1, 100, "linear light", "for soft: the scene's light that becomes white")] = SOFT_WHITE
    gamut: Gamut = "keep"
    peak: Annotated[float, within(*PEAKS, "cd/m2", "for HLG: of the display that it is meant for")] = PEAK

    @model_validator(mode="after")
    def _whole(self) -> Convert:
        if self.strength != 1:
            raise PydanticCustomError(
                "field", "{place}: a conversion has no strength; leave it at 1, or remove the step", {"place": "strength"}
            )
        return self


def prepare(step: Convert, junction: Junction) -> Operation:
    target = after(step, junction)
    operation = conversion(junction.encoding, target, step.rendering, step.white, step.gamut, step.peak)
    return operation or (lambda planes: None)


def after(step: Convert, junction: Junction) -> Encoding:
    return encoding(step.to, "to", junction.own) if step.to else junction.encoding


def neutral(step: Convert) -> bool:
    return not step.to


def summary(step: Convert) -> str:
    if neutral(step):
        return "no change"
    words = [f"soft, white at {step.white:g}"] if step.rendering == "soft" else []
    words += [f"HLG for {step.peak:g} cd/m2"] if step.peak != PEAK else []
    words += [f"gamut: {step.gamut}"] if step.gamut != "keep" else []
    return ", ".join([f"to {step.to}", *words])


def conversion_links(source: Encoding, target: Encoding, gamut: Gamut = "keep") -> tuple[Link, ...] | None:
    """A plain conversion as nodes; None where a curve, or `compress`, is not one of a LUT file's."""
    if source == target:
        return ()
    decode, encode = source.transfer.formulas, target.transfer.formulas
    if decode is None or encode is None or gamut == "compress" or hlg_side(source, target):
        return None
    middle: list[Link] = []
    if source.primaries != target.primaries:
        rows = rgb_to_rgb(source.primaries, target.primaries)
        middle.append(Matrix(tuple(tuple(float(v) for v in row) for row in rows)))  # type: ignore[arg-type]
    if gamut == "clip":
        top = 1.0 if target.bounded else None
        middle.append(Range(0.0, top, 0.0, top))
    return (*decode[0], *middle, *encode[1])


def links(step: Convert, junction: Junction) -> tuple[Link, ...] | None:
    target = after(step, junction)
    if step.rendering == "soft" and junction.encoding.referred != target.referred:
        return None
    return conversion_links(junction.encoding, target, step.gamut)


register(PixelKind(Convert, "Convert", prepare, neutral, summary, after=after, links=links))
