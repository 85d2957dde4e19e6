"""The sixteen blend modes of W3C Compositing and Blending Level 1, section 10, and the sum less one, which is common practice.

Modes are defined for 0..1. What a backdrop has outside is set aside, the mode applied to the value held to 0..1, and the rest added
again, so that highlights above 1 survive; `normal` and a source outside 0..1 under it pass as they are.
"""

from __future__ import annotations

from typing import Literal, get_args

import numpy as np

from saucer.core.numeric.elementary import F, clamp, compiled, inlined

BlendMode = Literal[
    "normal", "multiply", "screen", "overlay", "darken", "lighten", "color-dodge", "color-burn", "hard-light", "soft-light",
    "difference", "exclusion", "add-less-one", "hue", "saturation", "color", "luminosity",
]  # fmt: skip
MODES: tuple[BlendMode, ...] = get_args(BlendMode)
(_NORMAL, _MULTIPLY, _SCREEN, _OVERLAY, _DARKEN, _LIGHTEN, _DODGE, _BURN, _HARD, _SOFT, _DIFFERENCE, _EXCLUSION, _ADD_LESS_ONE,
 _HUE, _SATURATION, _COLOR, _LUMINOSITY) = range(17)  # fmt: skip


@inlined
def _hard_light(b, s):  # type: ignore[no-untyped-def]
    twice = s + s
    return b * twice if s <= F(0.5) else b + (twice - F(1)) - b * (twice - F(1))


@inlined
def _soft_light(b, s):  # type: ignore[no-untyped-def]
    d = ((F(16) * b - F(12)) * b + F(4)) * b if b <= F(0.25) else np.sqrt(b)
    low = b - (F(1) - s - s) * b * (F(1) - b)
    return low if s <= F(0.5) else b + (s + s - F(1)) * (d - b)


@inlined
def _dodge(b, s):  # type: ignore[no-untyped-def]
    rest = F(1) - s
    ratio = b / (rest if rest > F(1e-20) else F(1e-20))
    return ratio if ratio < F(1) else F(1)


@inlined
def _burn(b, s):  # type: ignore[no-untyped-def]
    ratio = (F(1) - b) / (s if s > F(1e-20) else F(1e-20))
    return F(1) - (ratio if ratio < F(1) else F(1))


@compiled
def _separable(mode, backdrop, source):  # type: ignore[no-untyped-def]
    for j in range(source.size):
        source[j] = clamp(source[j], F(0), F(1))
    # One loop a mode, so that each vectorises. Each adds the difference that the mode makes to the value held to 0..1.
    if mode == _MULTIPLY:
        for j in range(backdrop.size):
            b = clamp(backdrop[j], F(0), F(1))
            backdrop[j] += b * source[j] - b
    elif mode == _SCREEN:
        for j in range(backdrop.size):
            b = clamp(backdrop[j], F(0), F(1))
            backdrop[j] += source[j] - b * source[j]
    elif mode == _OVERLAY:
        for j in range(backdrop.size):
            b = clamp(backdrop[j], F(0), F(1))
            backdrop[j] += _hard_light(source[j], b) - b
    elif mode == _DARKEN:
        for j in range(backdrop.size):
            b = clamp(backdrop[j], F(0), F(1))
            backdrop[j] += source[j] - b if source[j] < b else F(0)
    elif mode == _LIGHTEN:
        for j in range(backdrop.size):
            b = clamp(backdrop[j], F(0), F(1))
            backdrop[j] += source[j] - b if source[j] > b else F(0)
    elif mode == _DODGE:
        for j in range(backdrop.size):
            b = clamp(backdrop[j], F(0), F(1))
            backdrop[j] += _dodge(b, source[j]) - b
    elif mode == _BURN:
        for j in range(backdrop.size):
            b = clamp(backdrop[j], F(0), F(1))
            backdrop[j] += _burn(b, source[j]) - b
    elif mode == _HARD:
        for j in range(backdrop.size):
            b = clamp(backdrop[j], F(0), F(1))
            backdrop[j] += _hard_light(b, source[j]) - b
    elif mode == _SOFT:
        for j in range(backdrop.size):
            b = clamp(backdrop[j], F(0), F(1))
            backdrop[j] += _soft_light(b, source[j]) - b
    elif mode == _DIFFERENCE:
        for j in range(backdrop.size):
            b = clamp(backdrop[j], F(0), F(1))
            backdrop[j] += abs(b - source[j]) - b
    elif mode == _EXCLUSION:
        for j in range(backdrop.size):
            b = clamp(backdrop[j], F(0), F(1))
            backdrop[j] += source[j] - F(2) * b * source[j]
    elif mode == _ADD_LESS_ONE:
        for j in range(backdrop.size):
            b = clamp(backdrop[j], F(0), F(1))
            less = source[j] - F(1)
            backdrop[j] += less if less > -b else -b


@inlined
def _luminosity(r, g, b):  # type: ignore[no-untyped-def]
    return F(0.3) * r + F(0.59) * g + F(0.11) * b


@inlined
def _least(r, g, b):  # type: ignore[no-untyped-def]
    low = r if r < g else g
    return low if low < b else b


@inlined
def _most(r, g, b):  # type: ignore[no-untyped-def]
    high = r if r > g else g
    return high if high > b else b


@inlined
def _with_luminosity(r, g, b, luminosity):  # type: ignore[no-untyped-def]
    """SetLum and ClipColor."""
    shift = luminosity - _luminosity(r, g, b)
    r, g, b = r + shift, g + shift, b + shift
    low, high = _least(r, g, b), _most(r, g, b)
    below, above = luminosity - low, high - luminosity
    scale = luminosity / (below if below > F(1e-20) else F(1e-20)) if low < F(0) else F(1)
    r, g, b = luminosity + (r - luminosity) * scale, luminosity + (g - luminosity) * scale, luminosity + (b - luminosity) * scale
    scale = (F(1) - luminosity) / (above if above > F(1e-20) else F(1e-20)) if high > F(1) else F(1)
    return luminosity + (r - luminosity) * scale, luminosity + (g - luminosity) * scale, luminosity + (b - luminosity) * scale


@inlined
def _with_saturation(r, g, b, saturation):  # type: ignore[no-untyped-def]
    low, spread = _least(r, g, b), _most(r, g, b) - _least(r, g, b)
    scale = saturation / spread if spread > F(0) else F(0)
    return (r - low) * scale, (g - low) * scale, (b - low) * scale


@compiled
def _together(mode, backdrop, source):  # type: ignore[no-untyped-def]
    """The four modes that look at all three channels."""
    for j in range(backdrop.shape[1]):
        br, bg, bb = clamp(backdrop[0, j], F(0), F(1)), clamp(backdrop[1, j], F(0), F(1)), clamp(backdrop[2, j], F(0), F(1))
        sr, sg, sb = clamp(source[0, j], F(0), F(1)), clamp(source[1, j], F(0), F(1)), clamp(source[2, j], F(0), F(1))
        lum = _luminosity(br, bg, bb)
        if mode == _HUE:
            r, g, b = _with_saturation(sr, sg, sb, _most(br, bg, bb) - _least(br, bg, bb))
        elif mode == _SATURATION:
            r, g, b = _with_saturation(br, bg, bb, _most(sr, sg, sb) - _least(sr, sg, sb))
        elif mode == _COLOR:
            r, g, b = sr, sg, sb
        else:
            r, g, b = br, bg, bb
            lum = _luminosity(sr, sg, sb)
        r, g, b = _with_luminosity(r, g, b, lum)
        backdrop[0, j] += r - br
        backdrop[1, j] += g - bg
        backdrop[2, j] += b - bb


def blend(mode: BlendMode, backdrop: np.ndarray, source: np.ndarray) -> None:
    """B(backdrop, source) into `backdrop`; both (3, n) float32 code values, C-contiguous. `source` is used up."""
    number = MODES.index(mode)
    if number == _NORMAL:
        backdrop[...] = source
    elif number >= _HUE:
        _together(number, backdrop, source)
    else:
        _separable(number, backdrop.reshape(-1), source.reshape(-1))
