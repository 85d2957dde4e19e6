"""What to do with colours that the target's primaries do not hold: clip them channel by channel, or draw them in keeping their hue.

Source of OKLab: B. Ottosson, "A perceptual color space for image processing", 2020. Drawing in is our own: along straight lines of equal
lightness and hue there, as far as the edge of the gamut and no further, so that what lies inside stays as it is.
"""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from saucer.core.colour.oklab import LINEAR_TO_LMS, LMS_TO_LAB
from saucer.core.colour.primaries import BT709, Primaries, rgb_to_rgb
from saucer.core.numeric.elementary import F, compiled, cube_root, inlined
from saucer.core.numeric.planes import Operation

HALVINGS = 20
"""Of the way from grey to the colour: the edge is found to a millionth of it."""


@compiled
def _clip(planes, top):  # type: ignore[no-untyped-def]
    for j in range(planes.size):
        value = planes[j] if planes[j] > F(0) else F(0)
        planes[j] = value if value < top else top


@inlined
def _cubic(row, light, d0, d1, d2):  # type: ignore[no-untyped-def]
    """Of row . (light + t d)^3, the row summing to 1: what is before t, t^2 and t^3."""
    c0, c1, c2 = row[0] * d0, row[1] * d1, row[2] * d2
    first = F(3) * light * light * (c0 + c1 + c2)
    c0, c1, c2 = c0 * d0, c1 * d1, c2 * d2
    second = F(3) * light * (c0 + c1 + c2)
    return first, second, c0 * d0 + c1 * d1 + c2 * d2


@compiled
def _draw_in(planes, there, back, to_l, top):  # type: ignore[no-untyped-def]
    """there: linear light to LMS, its rows summing to 1; back: LMS to linear light; to_l: roots of LMS to lightness"""
    red, green, blue = planes[0], planes[1], planes[2]
    for j in range(red.size):
        r, g, b = red[j], green[j], blue[j]
        if min(r, min(g, b)) >= F(0) and max(r, max(g, b)) <= top:
            continue
        p0 = cube_root(there[0, 0] * r + there[0, 1] * g + there[0, 2] * b)
        p1 = cube_root(there[1, 0] * r + there[1, 1] * g + there[1, 2] * b)
        p2 = cube_root(there[2, 0] * r + there[2, 1] * g + there[2, 2] * b)
        light = to_l[0] * p0 + to_l[1] * p1 + to_l[2] * p2
        grey = light * light * light
        d0, d1, d2 = p0 - light, p1 - light, p2 - light
        # Along the way each channel is a cubic of the distance: its value at grey, and what three powers of the distance add.
        r1, r2, r3 = _cubic(back[0], light, d0, d1, d2)
        g1, g2, g3 = _cubic(back[1], light, d0, d1, d2)
        b1, b2, b3 = _cubic(back[2], light, d0, d1, d2)
        inside, outside = F(0), F(1)
        r, g, b = grey, grey, grey
        for _ in range(HALVINGS):
            t = F(0.5) * (inside + outside)
            x = grey + t * (r1 + t * (r2 + t * r3))
            y = grey + t * (g1 + t * (g2 + t * g3))
            z = grey + t * (b1 + t * (b2 + t * b3))
            if min(x, min(y, z)) >= F(0) and max(x, max(y, z)) <= top:
                inside, r, g, b = t, x, y, z
            else:
                outside = t
        red[j], green[j], blue[j] = r, g, b


@lru_cache(maxsize=64)
def _matrices(primaries: Primaries) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    there = LINEAR_TO_LMS @ rgb_to_rgb(primaries, BT709)
    there = there / there.sum(axis=1, keepdims=True)  # grey exactly, whatever the digits printed leave
    back = np.linalg.inv(there)
    return there.astype(np.float32), back.astype(np.float32), LMS_TO_LAB[0].astype(np.float32) / F(LMS_TO_LAB[0].sum())


def clip(top: float) -> Operation:
    """Channels of linear light held to 0..top."""
    return lambda planes: _clip(planes.reshape(-1), F(top))


def draw_in(primaries: Primaries, top: float) -> Operation:
    """Colours outside to the edge of the gamut along equal OKLab lightness and hue; those inside stay, bit for bit.

    top: the most light of a channel. What is brighter than grey of it becomes grey of the same lightness, what is darker than black too
    """
    there, back, to_l = _matrices(primaries)
    return lambda planes: _draw_in(planes, there, back, to_l, F(top))
