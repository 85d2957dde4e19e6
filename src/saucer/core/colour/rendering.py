"""Between the light of a scene and that of a display: soft, or through a tone scale.

Soft: extended Reinhard on luminance. Source: Reinhard et al., "Photographic tone reproduction for digital images", 2002, eq. 4, and its
inverse. Tone scale: the response of Naka and Rushton ("S-potentials from colour units in the retina of fish", 1966, eq. 1), so that mid
grey comes out as wanted.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from saucer.core.numeric.elementary import F, compiled, power, split
from saucer.core.numeric.planes import Operation

Rendering = Literal["plain", "soft", "scale", "aces-1", "aces-2", "bt2446-a", "bt2446-c"]
SOFT_WHITE = 4.0
MID_GREY = 0.18
DARKEST = 1e-6
"""Light under which gains are held."""
SHORT_OF_TOP = 1 - 1e-4
"""Of the brightest that is shown: on the way back what is brighter counts as this, or it would come from endless light."""


@dataclass(frozen=True)
class ToneScale:
    """out = top x^contrast / (x^contrast + k), which rises for every setting and takes 18 % grey to `grey`.

    grey, top: light of the display, 1.0 its white; contrast: stops of display light to a stop of the scene's in the shadows
    hue: share of it that is kept; the rest is what the curve makes of each channel by itself, which fades bright colours to white
    """

    grey: float = 0.13
    contrast: float = 1.35
    hue: float = 0.6
    top: float = 1.0

    @property
    def bend(self) -> float:
        return float(MID_GREY**self.contrast * (self.top / self.grey - 1))


TONE_SCALE = ToneScale()


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


@compiled
def _scale_lights(lights, high, low, bend, top):  # type: ignore[no-untyped-def]
    for j in range(lights.size):
        bent = power(lights[j] if lights[j] > F(0) else F(0), high, low)
        lights[j] = top * bent / (bent + bend)


@compiled
def _unscale_lights(lights, high, low, bend, top):  # type: ignore[no-untyped-def]
    for j in range(lights.size):
        shown = lights[j] if lights[j] > F(0) else F(0)
        shown = shown if shown < top * F(SHORT_OF_TOP) else top * F(SHORT_OF_TOP)
        lights[j] = power(bend * shown / (top - shown), high, low)


@compiled
def _luminance(planes, out, wr, wg, wb):  # type: ignore[no-untyped-def]
    red, green, blue = planes[0], planes[1], planes[2]
    for j in range(out.size):
        light = wr * red[j] + wg * green[j] + wb * blue[j]
        out[j] = light if light > F(DARKEST) else F(DARKEST)


@compiled
def _keep_hue(channel, by_itself, before, after, share):  # type: ignore[no-untyped-def]
    for j in range(channel.size):
        channel[j] = by_itself[j] + share * (channel[j] * (after[j] / before[j]) - by_itself[j])


def soft(white: float, luma: np.ndarray, to_display: bool) -> Operation:
    """white: the scene's light that becomes 1.0; luma: (3,) weights of the primaries"""
    weights, kernel = [F(w) for w in luma], _soft_to_display if to_display else _soft_to_scene
    return lambda planes: kernel(planes, *weights, F(1 / white**2))


def tone_scale(scale: ToneScale, luma: np.ndarray, to_display: bool) -> Operation:
    """The way back is exact for greys, and for every colour where hue is 0 or 1. luma: (3,) weights of the primaries"""
    kernel = _scale_lights if to_display else _unscale_lights
    numbers = [*split(scale.contrast if to_display else 1 / scale.contrast), F(scale.bend), F(scale.top)]
    weights = [F(w) for w in luma]

    def run(planes: np.ndarray) -> None:
        before = np.empty(planes.shape[1], np.float32)
        _luminance(planes, before, *weights)
        after, by_itself = before.copy(), planes.copy()
        kernel(after, *numbers)
        kernel(by_itself.reshape(-1), *numbers)
        for channel in range(3):
            _keep_hue(planes[channel], by_itself[channel], before, after, F(scale.hue))

    return run
