"""Colours of one picture sent to those of another: what is grey to what is grey, what is coloured to what is coloured.

Source: optimal transport of colours as in Morovic and Sun, "Accurate 3D image colour histogram transformation" (2003), by the assignment of
Crouse, "On implementing 2D rectangular assignment algorithms" (2016), which is SciPy's; the sliced Wasserstein distance as in Rabin, Peyre,
Delon and Bernot, "Wasserstein barycenter and its application to texture mixing" (2011).
"""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise

import numpy as np

ZONES = 4
"""Ranges of lightness, each with its own grey: a split tone tints them apart."""
NEAR_GREY = 0.045
"""OKLab chroma from the grey of its range up to which a colour counts as grey; common practice, no source."""
FEWEST_GREYS = 0.25
"""Share of a picture that is taken for grey at least, the least coloured first: a picture all of one colour has a grey as well."""
BINS, REACH, LIKELY = 48, 0.24, 0.06
"""Of OKLab a and b: how finely, and how far out, greys are looked for, and the chroma at which they are rarer by e."""
SLICES = 48
FEWEST = 24
"""Samples that a kind of colours needs in both pictures to be sent anywhere."""


@dataclass(frozen=True)
class Sorted:
    """Colours told apart. chroma: (n,) from the grey of their range of lightness; order: from the least coloured to the most"""

    lab: np.ndarray
    chroma: np.ndarray
    order: np.ndarray

    @property
    def grey_share(self) -> float:
        return max(float((self.chroma < NEAR_GREY).mean()), FEWEST_GREYS)

    def parted(self, share: float) -> tuple[np.ndarray, np.ndarray]:
        """Which are grey, and which coloured, where so large a share is grey."""
        at = round(share * len(self.order))
        return self.order[:at], self.order[at:]


def sort_out(lab: np.ndarray) -> Sorted:
    """lab: (n, 3) OKLab"""
    edges = np.quantile(lab[:, 0], np.linspace(0, 1, ZONES + 1))
    centres, middles = [], []
    for low, high in pairwise(edges):
        some = lab[(lab[:, 0] >= low) & (lab[:, 0] <= high)]
        centres.append(_grey_of(some[:, 1:]))
        middles.append(float(np.median(some[:, 0])))
    grey = np.stack([np.interp(lab[:, 0], middles, [centre[axis] for centre in centres]) for axis in (0, 1)], axis=-1)
    chroma = np.hypot(*(lab[:, 1:] - grey).T)
    return Sorted(lab, chroma, np.argsort(chroma, kind="stable"))


def _grey_of(ab: np.ndarray) -> np.ndarray:
    """(2,) what is grey there: where colours lie most densely, those of little chroma before others."""
    from scipy.ndimage import gaussian_filter

    density, *edges = np.histogram2d(ab[:, 0], ab[:, 1], bins=BINS, range=[(-REACH, REACH)] * 2)
    middles = (edges[0][1:] + edges[0][:-1]) / 2
    density = gaussian_filter(density, 1.0) * np.exp(-((np.hypot(*np.meshgrid(middles, middles, indexing="ij")) / LIKELY) ** 2))
    centre = middles[list(np.unravel_index(int(density.argmax()), density.shape))]
    near = np.hypot(*(ab - centre).T) < 2 * REACH / BINS * 2
    return np.asarray(np.median(ab[near], axis=0) if near.any() else centre)


def send(source: np.ndarray, target: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """(n, 3) where each colour of the source goes, and (n,) how much that is worth: nothing where the target has none of its kind.

    source, target: (n, 3) and (m, 3) OKLab, in equal shares of their pictures
    """
    from scipy.optimize import linear_sum_assignment
    from scipy.spatial.distance import cdist

    one, other = sort_out(source), sort_out(target)
    # The same share of both is grey: more of a colour in one picture than in the other is what they show, not how they are graded.
    share = min(one.grey_share, other.grey_share)
    aim, worth = source.copy(), np.zeros(len(source))
    (grey, coloured), (their_grey, their_coloured) = one.parted(share), other.parted(share)
    # What is grey never becomes coloured for want of anything that is; what is coloured may become grey, as under a look without colour.
    coloured = coloured[one.chroma[coloured] >= NEAR_GREY / 2]
    for own, theirs in ((grey, their_grey), (coloured, their_coloured)):
        count = min(len(own), len(theirs))
        if count < FEWEST:
            continue
        some, wanted = (every[np.linspace(0, len(every) - 1, count).astype(int)] for every in (own, theirs))
        _, pairs = linear_sum_assignment(cdist(source[some], target[wanted], "sqeuclidean"))
        aim[some], worth[some] = target[wanted[pairs]], 1.0
    return aim, worth


def _quantiles(values: np.ndarray, count: int) -> np.ndarray:
    return np.interp((np.arange(count) + 0.5) / count, (np.arange(len(values)) + 0.5) / len(values), values)


@dataclass(frozen=True)
class Apart:
    """Sliced Wasserstein distances in OKLab: of lightness, of chroma in its plane, and of all three."""

    tone: float
    colour: float
    whole: float


def distance(one: np.ndarray, other: np.ndarray) -> Apart:
    """one, other: (n, 3) and (m, 3) OKLab"""
    angles = np.pi * np.arange(SLICES) / SLICES
    plane = np.stack([np.cos(angles), np.sin(angles)])
    random = np.random.default_rng(11).normal(size=(3, SLICES))
    return Apart(
        _sliced(one[:, :1], other[:, :1]), _sliced(one[:, 1:] @ plane, other[:, 1:] @ plane),
        _sliced(one @ (random / np.linalg.norm(random, axis=0)), other @ (random / np.linalg.norm(random, axis=0))),
    )  # fmt: skip


def _sliced(one: np.ndarray, other: np.ndarray) -> float:
    count = min(len(one), len(other))
    a, b = (np.stack([_quantiles(column, count) for column in np.sort(values, axis=0).T]) for values in (one, other))
    return float(np.abs(a - b).mean())
