"""From one encoding to another: decode, 3x3 through CIE XYZ with adaptation, render, bring into gamut, encode."""

from __future__ import annotations

from dataclasses import replace
from functools import lru_cache
from typing import Literal

import numpy as np

from saucer.core.colour.aces import output_transform
from saucer.core.colour.bt2446 import between
from saucer.core.colour.encodings import ENCODINGS, Encoding
from saucer.core.colour.gamut import clip, draw_in
from saucer.core.colour.hlg import PEAK, apply_ootf, ootf
from saucer.core.colour.primaries import BT2020, Adaptation, Primaries, rgb_to_rgb
from saucer.core.colour.rendering import SOFT_WHITE, TONE_SCALE, Rendering, ToneScale, View, soft, tone_scale
from saucer.core.colour.transfer.hdr import HLG, REFERENCE_WHITE
from saucer.core.numeric.planes import NO_OFFSET, Operation, mix, through

Gamut = Literal["keep", "clip", "compress"]


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
    adaptation: Adaptation = "bradford",
    scale: ToneScale = TONE_SCALE,
) -> Operation | None:
    """The operation that takes code values of `source` to code values of `target`; None where they are the same.

    rendering: `plain`, 1.0 is white on both sides; `soft`, extended Reinhard on luminance where one side is the scene and the other
        a display, so that the light `white` becomes 1.0. Source: Reinhard et al., "Photographic tone reproduction for digital images",
        2002, eq. 4, and its inverse; `scale`, through a tone scale. `colour.rendering` has both; `aces-1`, `aces-2`, ACES's output
        transforms between scene and display; `bt2446-a`, `bt2446-c` between HDR and SDR displays. Each acts between such ends only
        Between HLG and a display its OOTF stands in the place of a rendering; soft draws in (or puts out again) what it shows above
        white, where the display ends there
    peak: cd/m2, of the display that HLG is meant for, and of PQ as far as a rendering goes, unless the encoding states it
    adaptation: to another white
    gamut: what falls outside the target's primaries is kept, clipped channel by channel, or drawn in to their edge along its hue
    """
    return None if source == target else _conversion(source, target, rendering, float(white), gamut, float(peak), adaptation, scale)


@lru_cache(maxsize=512)
def _conversion(
    source: Encoding, target: Encoding, rendering: Rendering, white: float, gamut: Gamut, peak: float = PEAK,
    adaptation: Adaptation = "bradford", scale: ToneScale = TONE_SCALE,
) -> Operation:  # fmt: skip
    steps: list[Operation] = []
    decode, encode = source.transfer.decode_fast, target.transfer.encode_fast
    if decode is not None:
        steps.append(lambda planes: decode(planes.reshape(-1)))
    peak, hlg = stated_peak(source, target) or peak, hlg_side(source, target)
    if hlg == "source":
        steps.append(ootf(peak, True, source.luma))
    ends_at_white = not (target if hlg == "source" else source).hdr_display
    crosses, to_display = source.referred != target.referred, target.referred == "display"
    display, scene = (target, source) if to_display else (source, target)
    if rendering in ("aces-1", "aces-2") and crosses and hlg is None:
        steps.append(output_transform(scene.primaries, display, rendering, peak, adaptation, to_display))
    elif rendering in ("bt2446-a", "bt2446-c") and is_hdr(source, hlg == "source") != is_hdr(target, hlg == "target"):
        steps += _to_primaries(source.primaries, BT2020, adaptation)
        steps.append(between(rendering, peak, is_hdr(source, hlg == "source")))
        steps += _to_primaries(BT2020, target.primaries, adaptation)
    else:
        # On the display's primaries both ways: under another white the same colour has another luminance, and the way back would miss.
        primaries, rendered = _to_primaries(source.primaries, target.primaries, adaptation), []
        if crosses and (hlg is None or ends_at_white):
            if rendering == "soft":
                rendered = [soft(white, display.luma, to_display)]
            if rendering == "scale":
                top = peak / REFERENCE_WHITE if display.hdr_display else 1.0
                rendered = [tone_scale(replace(scale, top=top), display.luma, to_display)]
        steps += primaries + rendered if to_display else rendered + primaries
    if hlg == "target":
        steps.append(ootf(peak, False, target.luma))
    if gamut == "clip":
        steps.append(clip(target.top))
    if gamut == "compress" and source.primaries != target.primaries:
        steps.append(draw_in(target.primaries, target.top))
    if encode is not None:
        steps.append(lambda planes: encode(planes.reshape(-1)))

    def run(planes: np.ndarray) -> None:
        for step in steps:
            step(planes)

    return run


def stated_peak(source: Encoding, target: Encoding) -> float | None:
    """Peak in cd/m2 that one of the ends states: the one that is converted to, before the other."""
    return target.peak or source.peak


def is_hdr(encoding: Encoding, is_shown: bool = False) -> bool:
    """Light of a display that goes on above white. is_shown: it is HLG's signal, and its OOTF has been passed, or is still to be"""
    return is_shown or encoding.hdr_display


def _to_primaries(before: Primaries, after: Primaries, adaptation: Adaptation) -> list[Operation]:
    if before == after:
        return []
    matrix = rgb_to_rgb(before, after, adaptation).astype(np.float32)
    return [lambda planes: mix(planes, matrix, NO_OFFSET)]


def is_rendered(source: Encoding, target: Encoding, view: View) -> bool:
    """Does it matter between these by which view one goes?"""
    return view != "plain" and source.referred != target.referred


def convert(values: np.ndarray, source: Encoding, target: Encoding, view: View = "plain") -> np.ndarray:
    """Code values of one encoding as code values of another; nothing is clipped.

    view: how light of a scene is brought onto a display, and back; plainly, 1.0 stays white
    values: (..., 3) float32 or float64; the result has the same shape and dtype, the values themselves where nothing changes. Rendered,
        it is computed in float32
    """
    if source == target:
        return values
    if values.dtype == np.float32:
        return through(_conversion(source, target, view, SOFT_WHITE, "keep"), values)
    if is_rendered(source, target, view):
        return convert(values.astype(np.float32), source, target, view).astype(values.dtype)
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
