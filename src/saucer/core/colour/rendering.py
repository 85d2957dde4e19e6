"""Between the light of a scene and that of a display: soft, or through a tone scale.

Soft: extended Reinhard on luminance. Source: Reinhard et al., "Photographic tone reproduction for digital images", 2002, eq. 4, and its
inverse. Tone scale: the response of Naka and Rushton ("S-potentials from colour units in the retina of fish", 1966, eq. 1), so that mid
grey comes out as wanted, with a shoulder that comes sooner or later and a toe that falls off below.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

import numpy as np

from saucer.core.numeric.elementary import SMALLEST_NORMAL, F, compiled, power, split
from saucer.core.numeric.planes import Operation

Rendering = Literal["plain", "soft", "scale", "aces-1", "aces-2", "bt2446-a", "bt2446-c"]
View = Literal["plain", "soft"]
"""How light of a scene is seen on a display, wherever nothing else is said: a rendering that can be taken back exactly."""
SOFT_WHITE = 4.0
MID_GREY = 0.18
DARKEST = 1e-6
"""Light under which gains are held."""
SHORT_OF_TOP = 1 - 1e-4
"""Of the brightest that is shown: on the way back what is brighter counts as this, or it would come from endless light."""


@dataclass(frozen=True)
class ToneScale:
    """y = peak (x^(c s) / (x^(c s) + k))^(1 / s), then y^2 / (y + toe): it rises for every setting, and takes 18 % grey to `grey`.

    grey, top: light of the display, 1.0 its white; contrast: c, stops of display light to a stop of the scene's in the shadows
    hue: share of it that is kept; the rest is what the curve makes of each channel by itself, which fades bright colours to white
    toe: the display's light below which shadows fall off, twice as steeply in the end; 0: none
    shoulder: s, how late and how suddenly bright light is drawn in; 1: as Naka and Rushton have it
    """

    grey: float = 0.13
    contrast: float = 1.35
    hue: float = 0.6
    top: float = 1.0
    toe: float = 0.0
    shoulder: float = 1.0

    def before_toe(self, light: float) -> float:
        return float((light + np.sqrt(light * (light + 4 * self.toe))) / 2)

    @property
    def peak(self) -> float:
        """What comes out as `top`."""
        return self.before_toe(self.top)

    @property
    def bend(self) -> float:
        """k"""
        share = (self.before_toe(self.grey) / self.peak) ** -self.shoulder
        return float(MID_GREY ** (self.contrast * self.shoulder) * (share - 1))


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
def _draw_together(lights, high, low, bend):  # type: ignore[no-untyped-def]
    for j in range(lights.size):
        bent = power(lights[j] if lights[j] > F(0) else F(0), high, low)
        lights[j] = bent / (bent + bend)


@compiled
def _draw_apart(shares, high, low, bend):  # type: ignore[no-untyped-def]
    for j in range(shares.size):
        share = shares[j] if shares[j] < F(SHORT_OF_TOP) else F(SHORT_OF_TOP)
        shares[j] = power(bend * share / (F(1) - share), high, low)


@compiled
def _raise(shares, high, low):  # type: ignore[no-untyped-def]
    for j in range(shares.size):
        shares[j] = power(shares[j], high, low)


@compiled
def _fall_off(shares, peak, toe):  # type: ignore[no-untyped-def]
    """From shares of the peak to light."""
    for j in range(shares.size):
        light = peak * shares[j]
        shares[j] = light * light / (light + toe)


@compiled
def _rise_again(lights, per_peak, toe):  # type: ignore[no-untyped-def]
    for j in range(lights.size):
        light = lights[j] if lights[j] > F(0) else F(0)
        lights[j] = per_peak * F(0.5) * (light + np.sqrt(light * (light + F(4) * toe)))


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
    curve = _to_display(scale) if to_display else _to_scene(scale)
    weights = [F(w) for w in luma]

    def run(planes: np.ndarray) -> None:
        before = np.empty(planes.shape[1], np.float32)
        _luminance(planes, before, *weights)
        after, by_itself = before.copy(), planes.copy()
        curve(after)
        curve(by_itself.reshape(-1))
        for channel in range(3):
            _keep_hue(planes[channel], by_itself[channel], before, after, F(scale.hue))

    return run


def _to_display(scale: ToneScale) -> Callable[[np.ndarray], None]:
    power_, bend, root = split(scale.contrast * scale.shoulder), F(scale.bend), split(1 / scale.shoulder)
    peak, toe = F(scale.peak), F(scale.toe) if scale.toe else SMALLEST_NORMAL

    def run(lights: np.ndarray) -> None:
        _draw_together(lights, *power_, bend)
        if scale.shoulder != 1:
            _raise(lights, *root)
        _fall_off(lights, peak, toe)

    return run


def _to_scene(scale: ToneScale) -> Callable[[np.ndarray], None]:
    power_, bend, root = split(1 / (scale.contrast * scale.shoulder)), F(scale.bend), split(scale.shoulder)
    per_peak, toe = F(1 / scale.peak), F(scale.toe)

    def run(lights: np.ndarray) -> None:
        _rise_again(lights, per_peak, toe)
        if scale.shoulder != 1:
            _raise(lights, *root)
        _draw_apart(lights, *power_, bend)

    return run
