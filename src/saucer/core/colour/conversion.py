"""From one encoding to another: decode, 3x3 through CIE XYZ with Bradford adaptation, render, bring into gamut, encode."""

from __future__ import annotations

from functools import lru_cache
from typing import Any, Literal

import numpy as np

from saucer.core.colour.encodings import ENCODINGS, Encoding
from saucer.core.colour.gamut import clip, draw_in
from saucer.core.colour.hlg import PEAK, apply_ootf, ootf
from saucer.core.colour.primaries import rgb_to_rgb
from saucer.core.colour.transfer.hdr import HLG
from saucer.core.numeric.elementary import F, compiled
from saucer.core.numeric.planes import NO_OFFSET, Operation, mix, through

Rendering = Literal["plain", "soft"]
Gamut = Literal["keep", "clip", "compress"]
SOFT_WHITE = 4.0


@compiled
def _soft_to_display(planes, wr, wg, wb, per_white2):  # type: ignore[no-untyped-def]
    red, green, blue = planes[0], planes[1], planes[2]
    for j in range(red.size):
        light = wr * red[j] + wg * green[j] + wb * blue[j]
        light = light if light > F(0) else F(0)
        gain = (F(1) + light * per_white2) / (F(1) + light)
        red[j] *= gain
        green[j] *= gain
        blue[j] *= gain


@compiled
def _soft_to_scene(planes, wr, wg, wb, per_white2):  # type: ignore[no-untyped-def]
    red, green, blue = planes[0], planes[1], planes[2]
    for j in range(red.size):
        shown = wr * red[j] + wg * green[j] + wb * blue[j]
        shown = shown if shown > F(0) else F(0)
        rest = F(1) - shown
        gain = F(2) / (rest + np.sqrt(rest * rest + F(4) * shown * per_white2))
        red[j] *= gain
        green[j] *= gain
        blue[j] *= gain


def hlg_side(source: Encoding, target: Encoding) -> Literal["source", "target"] | None:
    """Which side is HLG where the other one is a display: its signal is of the scene, and is shown through the OOTF of a display."""
    if source.transfer is HLG and target.referred == "display":
        return "source"
    return "target" if target.transfer is HLG and source.referred == "display" else None


def conversion(
    source: Encoding,
    target: Encoding,
    rendering: Rendering = "plain",
    white: float = SOFT_WHITE,
    gamut: Gamut = "keep",
    peak: float = PEAK,
) -> Operation | None:
    """The operation that takes code values of `source` to code values of `target`; None where they are the same.

    rendering: `plain`, 1.0 is white on both sides; `soft`, extended Reinhard on luminance where one side is the scene and the other
        a display, so that the light `white` becomes 1.0. Source: Reinhard et al., "Photographic tone reproduction for digital images",
        2002, eq. 4, and its inverse
        Between HLG and a display its OOTF stands in the place of a rendering; soft draws in (or puts out again) what it shows above
        white, where the display ends there
    peak: cd/m2, of the display that HLG is meant for
    gamut: what falls outside the target's primaries is kept, clipped channel by channel, or drawn in to their edge along its hue
    """
    return None if source == target else _conversion(source, target, rendering, float(white), gamut, float(peak))


@lru_cache(maxsize=512)
def _conversion(
    source: Encoding, target: Encoding, rendering: Rendering, white: float, gamut: Gamut, peak: float = PEAK
) -> Operation:
    steps: list[Any] = []
    decode, encode = source.transfer.decode_fast, target.transfer.encode_fast
    weights = [F(w) for w in target.luma]
    if decode is not None:
        steps.append(lambda planes: decode(planes.reshape(-1)))
    hlg = hlg_side(source, target)
    if hlg == "source":
        steps.append(ootf(peak, True, source.luma))
    if source.primaries != target.primaries:
        matrix = rgb_to_rgb(source.primaries, target.primaries).astype(np.float32)
        steps.append(lambda planes: mix(planes, matrix, NO_OFFSET))
    ends_at_white = (target if hlg == "source" else source).bounded
    if rendering == "soft" and source.referred != target.referred and (hlg is None or ends_at_white):
        render = _soft_to_display if target.referred == "display" else _soft_to_scene
        steps.append(lambda planes: render(planes, *weights, F(1 / white**2)))
    if hlg == "target":
        steps.append(ootf(peak, False, target.luma))
    if gamut == "clip":
        steps.append(clip(target.bounded))
    if gamut == "compress" and source.primaries != target.primaries:
        steps.append(draw_in(target.primaries, target.bounded))
    if encode is not None:
        steps.append(lambda planes: encode(planes.reshape(-1)))

    def run(planes: np.ndarray) -> None:
        for step in steps:
            step(planes)

    return run


def convert(values: np.ndarray, source: Encoding, target: Encoding) -> np.ndarray:
    """Code values of one encoding as code values of another, plainly: 1.0 stays white, nothing is clipped.

    values: (..., 3) float32 or float64; the result has the same shape and dtype, the values themselves where nothing changes
    """
    if source == target:
        return values
    if values.dtype == np.float32:
        return through(_conversion(source, target, "plain", SOFT_WHITE, "keep"), values)
    linear, hlg = source.transfer.decode(values), hlg_side(source, target)
    if hlg == "source":
        linear = apply_ootf(linear, PEAK, True, source.luma)
    if source.primaries != target.primaries:
        linear = linear @ rgb_to_rgb(source.primaries, target.primaries).T
    if hlg == "target":
        linear = apply_ootf(linear, PEAK, False, target.luma)
    return target.transfer.encode(linear)


def to_linear_709(values: np.ndarray, source: Encoding) -> np.ndarray:
    """(..., 3) code values as linear light on BT.709 primaries."""
    return convert(values, source, ENCODINGS["linear-709"])
