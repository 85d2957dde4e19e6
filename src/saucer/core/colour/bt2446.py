"""Between HDR and SDR displays after Report ITU-R BT.2446-1: method A (a curve on luma) and method C (a curve on luminance).

Numbers of both methods are from memory; that their pieces meet, and where they end, is tested.
All on (3, n) float32 light of BT.2020 primaries: of HDR 1.0 is the reference white of BT.2408, of SDR the white of its display.
"""

from __future__ import annotations

from typing import Literal

import numpy as np

from saucer.core.colour.transfer.hdr import REFERENCE_WHITE
from saucer.core.numeric.elementary import F, compiled
from saucer.core.numeric.planes import Operation

Method = Literal["bt2446-a", "bt2446-c"]
KR, KG, KB = 0.2627, 0.6780, 0.0593
SDR_PEAK, MEANT_FOR = 100.0, 1000.0
"""cd/m2: of an SDR display, and of the HDR display that method A goes back to."""


@compiled
def _curve(y):  # type: ignore[no-untyped-def]
    """Perceptually linear luma to the same of SDR. Source: Report ITU-R BT.2446-1, method A, step 2"""
    if y <= F(0.7399):
        return F(1.0770) * y
    if y < F(0.9909):
        return (F(-1.1510) * y + F(2.7811)) * y - F(0.6302)
    return F(0.5) * y + F(0.5)


@compiled
def _signed_root(x, exponent):  # type: ignore[no-untyped-def]
    return np.sign(x) * np.abs(x) ** exponent


@compiled
def _a_to_sdr(planes, gain, rho_hdr, rho_sdr):  # type: ignore[no-untyped-def]
    """gain: 1.0 to shares of the peak"""
    red, green, blue = planes[0], planes[1], planes[2]
    log_hdr = np.log(rho_hdr)
    for j in range(red.size):
        r, g, b = (
            _signed_root(red[j] * gain, F(1 / 2.4)),
            _signed_root(green[j] * gain, F(1 / 2.4)),
            _signed_root(blue[j] * gain, F(1 / 2.4)),
        )
        luma = F(KR) * r + F(KG) * g + F(KB) * b
        held = min(max(luma, F(0)), F(1))
        bent = _curve(np.log(F(1) + (rho_hdr - F(1)) * held) / log_hdr)
        sdr = (rho_sdr**bent - F(1)) / (rho_sdr - F(1))
        share = sdr / (F(1.1) * luma) if luma > F(1e-6) else F(0)
        cb, cr = share * (b - luma) / F(2 * (1 - KB)), share * (r - luma) / F(2 * (1 - KR))
        sdr -= max(F(0.1) * cr, F(0))
        r, b = sdr + F(2 * (1 - KR)) * cr, sdr + F(2 * (1 - KB)) * cb
        g = (sdr - F(KR) * r - F(KB) * b) / F(KG)
        red[j], green[j], blue[j] = _signed_root(r, F(2.4)), _signed_root(g, F(2.4)), _signed_root(b, F(2.4))


@compiled
def _a_to_hdr(planes, gain):  # type: ignore[no-untyped-def]
    """gain: shares of 1000 cd/m2 to 1.0. Source: Report ITU-R BT.2446-1, method A, from SDR to HDR"""
    red, green, blue = planes[0], planes[1], planes[2]
    for j in range(red.size):
        r, g, b = _signed_root(red[j], F(1 / 2.4)), _signed_root(green[j], F(1 / 2.4)), _signed_root(blue[j], F(1 / 2.4))
        luma = F(KR) * r + F(KG) * g + F(KB) * b
        code = F(255) * min(max(luma, F(0)), F(1.2))
        if code <= F(70):
            exponent = (F(1.8712e-5) * code - F(2.7334e-3)) * code + F(1.3141)
        else:
            exponent = (F(2.8305e-6) * code - F(7.4622e-4)) * code + F(1.2528)
        hdr = (code**exponent / F(MEANT_FOR)) ** F(1 / 2.4)
        share = F(1.075) * hdr / luma if luma > F(1e-6) else F(1)
        cb, cr = share * (b - luma) / F(2 * (1 - KB)), share * (r - luma) / F(2 * (1 - KR))
        r, b = hdr + F(2 * (1 - KR)) * cr, hdr + F(2 * (1 - KB)) * cb
        g = (hdr - F(KR) * r - F(KB) * b) / F(KG)
        red[j], green[j], blue[j] = gain * _signed_root(r, F(2.4)), gain * _signed_root(g, F(2.4)), gain * _signed_root(b, F(2.4))


K1, K2, K3, K4 = 0.83802, 15.09968, 0.74204, 78.99439
BEND = 58.5 / K1
MOST = float(np.log(10000 / BEND - K3))
"""Exponent of the brightest that PQ holds: what would come from more is held there."""
CROSSTALK = 0.04
"""Share of each channel that the two others take before the curve and give back after it; 0 to 0.33, ours to choose."""


@compiled
def _c(planes, to_sdr, gain, back):  # type: ignore[no-untyped-def]
    """gain: 1.0 to cd/m2; back: cd/m2 to 1.0. Source: Report ITU-R BT.2446-1, method C, without its correction of chroma"""
    red, green, blue = planes[0], planes[1], planes[2]
    mixed = F(1 - 3 * CROSSTALK)
    for j in range(red.size):
        all_of = F(CROSSTALK) * (red[j] + green[j] + blue[j])
        r, g, b = mixed * red[j] + all_of, mixed * green[j] + all_of, mixed * blue[j] + all_of
        light = (F(KR) * r + F(KG) * g + F(KB) * b) * gain
        if to_sdr:
            held = max(light, F(BEND))
            found = F(K1) * light if light < F(BEND) else F(K2) * np.log(held / F(BEND) - F(K3)) + F(K4)
        else:
            found = light / F(K1) if light < F(58.5) else F(BEND) * (np.exp(min((light - F(K4)) / F(K2), F(MOST))) + F(K3))
        share = found / light * gain * back if light > F(1e-6) else (F(K1) if to_sdr else F(1 / K1)) * gain * back
        r, g, b = share * r, share * g, share * b
        rest = F(CROSSTALK) * (r + g + b)
        red[j], green[j], blue[j] = (r - rest) / mixed, (g - rest) / mixed, (b - rest) / mixed


def between(method: Method, peak: float, to_sdr: bool) -> Operation:
    """HDR to SDR, or back. peak: cd/m2, of the HDR display, for method A to SDR; back it goes to 1000, method C is meant for as much."""
    if method == "bt2446-c":
        gain, back = (REFERENCE_WHITE, 1 / SDR_PEAK) if to_sdr else (SDR_PEAK, 1 / REFERENCE_WHITE)
        return lambda planes: _c(planes, to_sdr, F(gain), F(back))
    if not to_sdr:
        return lambda planes: _a_to_hdr(planes, F(MEANT_FOR / REFERENCE_WHITE))
    rho_hdr, rho_sdr = (F(1 + 32 * (light / 10000) ** (1 / 2.4)) for light in (peak, SDR_PEAK))
    return lambda planes: _a_to_sdr(planes, F(REFERENCE_WHITE / peak), rho_hdr, rho_sdr)
