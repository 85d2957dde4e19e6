"""A chart page: grey ramp and steps, hue sweep, skin row, saturated patches. Computed, not lit."""

import numpy as np

from saucer.core.colour.oklab import oklab_to_linear
from saucer.demo.scenes.busts import TONES


def _hue_sweep(width: int, height: int) -> np.ndarray:
    hue = np.linspace(0, 2 * np.pi, width, endpoint=False)[None, :]
    lightness = np.linspace(0.92, 0.25, height)[:, None]
    lab = np.stack(np.broadcast_arrays(lightness, 0.11 * np.cos(hue), 0.11 * np.sin(hue)), -1)
    return oklab_to_linear(lab)


def light(width: int, height: int, samples: int) -> np.ndarray:
    """Scene-linear light, 1.0 is white. The grey steps stand a third of a stop apart; `samples` has no effect."""
    del samples
    page = np.full((height, width, 3), 0.18)
    margin, gap = round(0.045 * height), round(0.02 * height)
    inner = width - 2 * margin
    rows = np.array([0.13, 0.13, 0.27, 0.15, 0.2])
    heights = np.floor(rows / rows.sum() * (height - 2 * margin - 4 * gap)).astype(int)
    tops = margin + np.concatenate([[0], np.cumsum(heights[:-1] + gap)])
    ramp = np.linspace(0, 1, inner) ** 2.4
    page[tops[0] : tops[0] + heights[0], margin : margin + inner] = ramp[None, :, None]
    for row, colours in (
        (1, [(2.0 ** (-level / 3),) * 3 for level in range(24)][::-1]),
        (3, [tone for tone in TONES for tone in (np.array(tone) * 0.55, tone)]),
        (4, [*[(r, g, b) for r in (0.02, 0.75) for g in (0.02, 0.75) for b in (0.02, 0.75)][1:7],
             *[(0.9, 0.35, 0.02), (0.02, 0.35, 0.9), (0.45, 0.02, 0.75), (0.5, 0.9, 0.02), (0.9, 0.02, 0.3), (0.02, 0.6, 0.35)]]),
    ):  # fmt: skip
        edges = np.linspace(margin, margin + inner, len(colours) + 1).astype(int)
        for colour, left, right in zip(colours, edges, edges[1:], strict=False):
            page[tops[row] : tops[row] + heights[row], left : right - (row > 1) * gap // 2] = colour
    page[tops[2] : tops[2] + heights[2], margin : margin + inner] = _hue_sweep(inner, heights[2])
    return np.clip(page, 0, None)
