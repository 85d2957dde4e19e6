"""Things that do the same, or nearly, found among thousands by what they do to known colours (`character`)."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from saucer.core.colour.difference import linear_709_to_lab
from saucer.core.colour.difference_fast import difference_of_light
from saucer.core.reports.character import GREYS, HUES, PROBES, SKINS, light_of

BLOCKS = (0, GREYS // 2, GREYS, GREYS + SKINS, *range(GREYS + SKINS + 2 * HUES, PROBES, 2 * HUES))
"""Where runs of probes begin whose mean CIELAB is compared first: dark and light greys, skins, hues by lightness."""
SPREAD = 3.0
"""CIELAB distance in CIEDE2000 units of the probes: SL and SC of CIE 142-2001 are below this for nearly all of them."""
MOST_PAIRS = 200_000
AT_ONCE = 2048


def find_near(seen: np.ndarray, within: float) -> list[tuple[int, int, float]]:
    """Pairs whose mean CIEDE2000 over the probes is at most `within`, the nearest first.

    seen: (n, PROBES, 3) float32 sRGB. Returns: indices first < second, and how far apart they are
    Only pairs whose means of blocks lie near each other are compared whole; of more than MOST_PAIRS such, the first are.
    """
    from scipy.spatial import cKDTree

    if len(seen) < 2:
        return []
    light = light_of(seen)
    means = np.add.reduceat(linear_709_to_lab(light.astype(np.float64)), BLOCKS, axis=1) / np.diff((*BLOCKS, PROBES))[None, :, None]
    tree = cKDTree(means.reshape(len(seen), -1) / np.sqrt(len(BLOCKS)))
    pairs = tree.query_pairs(SPREAD * within + 0.05, output_type="ndarray")
    pairs = pairs[np.lexsort((pairs[:, 1], pairs[:, 0]))][:MOST_PAIRS]
    found = [(first, second, apart) for first, second, apart in _compare(light, pairs) if apart <= within]
    return sorted(found, key=lambda pair: (pair[2], pair[0], pair[1]))


def _compare(light: np.ndarray, pairs: np.ndarray) -> Iterator[tuple[int, int, float]]:
    for start in range(0, len(pairs), AT_ONCE):
        some = pairs[start : start + AT_ONCE]
        apart = difference_of_light(light[some[:, 0]], light[some[:, 1]]).reshape(len(some), -1).mean(axis=1)
        for (first, second), far in zip(some, apart, strict=True):
            yield int(first), int(second), float(far)


def group(pairs: list[tuple[int, int, float]]) -> list[list[int]]:
    """Indices that hang together by pairs, in the order of their nearest pair; each group in rising order."""
    of: dict[int, set[int]] = {}
    for first, second, _ in pairs:
        one = of.get(first, {first}) | of.get(second, {second})
        for index in one:
            of[index] = one
    groups: list[list[int]] = []
    told: set[int] = set()
    for first, _, _ in pairs:
        if first not in told:
            groups.append(sorted(of[first]))
            told |= of[first]
    return groups
