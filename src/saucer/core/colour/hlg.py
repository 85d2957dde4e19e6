"""The light that an HLG signal is shown as: the scene's light through the OOTF of the display, and back.

Source: ITU-R BT.2100-3, table 5 (gamma 1.2 at a peak of 1000 cd/m2); ITU-R BT.2390-11, 6.2 (gamma for other peaks). Light is scaled as that
of PQ and HLG is (`transfer.hdr`): 1.0 is the reference white of ITU-R BT.2408-7, which HLG holds at 75 % and a 1000 cd/m2 display shows
at 203 cd/m2.
"""

from __future__ import annotations

import numpy as np

from saucer.core.colour.primaries import BT2020, luma_weights
from saucer.core.colour.transfer.hdr import HLG_WHITE, REFERENCE_WHITE
from saucer.core.numeric.elementary import F, compiled, power, split
from saucer.core.numeric.planes import Operation

PEAK = 1000.0
PEAKS = (400.0, 10000.0)
"""cd/m2: of displays that the formula is for."""
DARKEST = 1e-7
"""Luminance below which the gain is held: black stays black on the way back, and takes no noise with it."""
WEIGHTS = luma_weights(BT2020)


def system_gamma(peak: float) -> float:
    """Of the OOTF, for the nominal peak of a display in cd/m2. Source: ITU-R BT.2390-11, 6.2: 1.2 * 1.111 ** log2(peak / 1000)"""
    return float(1.2 * 1.111 ** np.log2(peak / 1000))


def _constants(peak: float, to_display: bool) -> tuple[float, float]:
    """(exponent, factor) of the gain on light, with factor * luminance ** exponent."""
    gamma, top = system_gamma(peak), peak / REFERENCE_WHITE
    if to_display:
        return gamma - 1, top * HLG_WHITE**gamma
    return 1 / gamma - 1, 1 / (top ** (1 / gamma) * HLG_WHITE)


@compiled
def _gain(planes, wr, wg, wb, darkest, back, high, low, factor):  # type: ignore[no-untyped-def]
    red, green, blue = planes[0], planes[1], planes[2]
    for j in range(red.size):
        light = wr * red[j] + wg * green[j] + wb * blue[j]
        light = light if light > darkest else darkest
        # On the way back the exponent is negative: its power of the reciprocal.
        gain = factor * power(F(1) / light if back else light, high, low)
        red[j] *= gain
        green[j] *= gain
        blue[j] *= gain


def ootf(peak: float, to_display: bool, luma: np.ndarray = WEIGHTS) -> Operation:
    """On (3, n) float32 light of primaries with these weights: from the scene's light to the display's, or back. peak: cd/m2, of `PEAKS`"""
    exponent, factor = _constants(peak, to_display)
    weights = [F(one) for one in luma]
    parts = split(abs(exponent))
    return lambda planes: _gain(planes, *weights, F(DARKEST), not to_display, *parts, F(factor))


def apply_ootf(light: np.ndarray, peak: float, to_display: bool, luma: np.ndarray = WEIGHTS) -> np.ndarray:
    """The same on (..., 3) float64."""
    exponent, factor = _constants(peak, to_display)
    luminance = np.maximum(light @ luma, DARKEST)
    return np.asarray(light * (factor * luminance**exponent)[..., None])
