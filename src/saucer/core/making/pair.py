"""A LUT from a pair: an original and its recoloured copy, as made by any program.

A lattice is fitted to what the two pictures say (`lut/scattered`), and is as smooth as it can be where they say nothing, from coarse to
fine.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path

import numpy as np

from saucer.core.bake.fidelity import Spread
from saucer.core.colour.conversion import to_linear_709
from saucer.core.colour.difference_fast import difference_of_light
from saucer.core.colour.encodings import Encoding
from saucer.core.errors import LutError, PictureError
from saucer.core.lut.apply import apply_lattice
from saucer.core.lut.domain import grid
from saucer.core.lut.scattered import fit_change, to_size, weights_of
from saucer.core.lut.table import Lattice, Lut
from saucer.core.pictures.io import PictureReader, read_picture

BINS = 64
"""Bins a side into which pixels of like colour are gathered; a bin counts at most MOST_PIXELS: a wall does not outvote a face."""
MOST_PIXELS = 24
SAMPLED = 400_000
"""About so many pixels tell the residual."""
ROWS = 256
ROUNDS = 3
ENOUGH = 0.5
"""Weight of evidence, in pixels, from which a node counts as covered."""


@dataclass(frozen=True, eq=False)
class PairFit:
    """The fitted LUT and how far it can be trusted.

    evidence: (n, n, n) pixels that speak for each node; coverage: share of nodes that some pixel speaks for
    residual: CIEDE2000 between the LUT on the original and the recoloured copy, over pixels
    moved: share of pixels that no LUT can explain (further than 5 from it): another change than of colour
    """

    lut: Lut
    evidence: np.ndarray
    coverage: float
    residual: Spread
    moved: float


class Evidence:
    """Pixels of like colour put together, strip by strip, and a sample of them for the residual.

    step: every so many rows and columns are sampled
    """

    def __init__(self, step: int = 1) -> None:
        self._step, self._row = step, 0
        self._counts = np.zeros(BINS**3, np.int64)
        self._sums = np.zeros((2, 3, BINS**3))
        self._sample: list[tuple[np.ndarray, np.ndarray]] = []

    def add(self, original: np.ndarray, recoloured: np.ndarray) -> None:
        """(rows, width, 3) float32 of both, from the top."""
        source, target = np.clip(original.reshape(-1, 3), 0, 1), recoloured.reshape(-1, 3)
        cell = np.minimum((source * BINS).astype(np.int64), BINS - 1)
        index = (cell[:, 0] * BINS + cell[:, 1]) * BINS + cell[:, 2]
        self._counts += np.bincount(index, minlength=BINS**3)
        for sums, values in zip(self._sums, (source, target), strict=True):
            for channel in range(3):
                sums[channel] += np.bincount(index, weights=values[:, channel], minlength=BINS**3)
        first = -self._row % self._step
        self._sample.append(tuple(one[first :: self._step, :: self._step].reshape(-1, 3) for one in (original, recoloured)))  # type: ignore[arg-type]
        self._row += len(original)

    def means(self) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        """(m, 3) mean inputs, (m, 3) mean outputs, (m,) counts."""
        used = np.flatnonzero(self._counts)
        counts = self._counts[used]
        inputs, outputs = (sums[:, used].T / counts[:, None] for sums in self._sums)
        return inputs, outputs, counts

    def sample(self) -> tuple[np.ndarray, np.ndarray]:
        originals, recoloured = zip(*self._sample, strict=True)
        return np.ascontiguousarray(np.concatenate(originals)), np.ascontiguousarray(np.concatenate(recoloured))


def _step_for(pixels: int) -> int:
    return max(1, round(np.sqrt(pixels / SAMPLED)))


def _refuse_sizes(one: tuple[int, int], other: tuple[int, int]) -> None:
    if one != other:
        (w, h), (ww, hh) = one, other
        raise PictureError(
            "pair", f"the original is {w} x {h}, its recoloured copy {ww} x {hh}; they must be the same picture at the same size"
        )


def fit_pair(
    original: np.ndarray,
    recoloured: np.ndarray,
    encoding: Encoding,
    size: int = 33,
    report: Callable[[float], None] = lambda share: None,
) -> PairFit:
    """original, recoloured: (h, w, 3) float32 code values of the same encoding, of the same size.

    report: is told the share done; what it raises ends the work
    Raises: PictureError for pictures of different sizes; LutError for a size outside 5..65
    """
    _refuse_sizes((original.shape[1], original.shape[0]), (recoloured.shape[1], recoloured.shape[0]))
    seen = Evidence(_step_for(original.shape[0] * original.shape[1]))
    seen.add(original, recoloured)
    return _fit(seen, encoding, size, report)


def fit_files(
    original: Path,
    recoloured: Path,
    encoding: Encoding,
    size: int = 33,
    names: tuple[str, str] = ("", ""),
    report: Callable[[float], None] = lambda share: None,
) -> PairFit:
    """As fit_pair, from two files, strip by strip; a picture that lies turned is read whole. Raises: PictureError, LutError"""
    with PictureReader(original, names[0] or original.name) as one, PictureReader(recoloured, names[1] or recoloured.name) as other:
        if one.orientation != 1 or other.orientation != 1:
            pictures = [
                read_picture(path, name or path.name).pixels for path, name in zip((original, recoloured), names, strict=True)
            ]
            return fit_pair(pictures[0], pictures[1], encoding, size, report)
        _refuse_sizes((one.info.width, one.info.height), (other.info.width, other.info.height))
        seen = Evidence(_step_for(one.info.width * one.info.height))
        rows = one.info.height
        both = zip(_rows(one), _rows(other), strict=True)
        for top, (a, b) in enumerate(both):
            seen.add(a, b)
            report(min(0.1, 0.1 * top * ROWS / rows))
    return _fit(seen, encoding, size, report)


def _rows(reader: PictureReader) -> Iterator[np.ndarray]:
    """Strips of ROWS rows whatever the file's own tiles are, colour only."""
    kept: list[np.ndarray] = []
    held = 0
    for strip in reader.strips(ROWS):
        kept.append(strip[..., :3])
        held += len(strip)
        while held >= ROWS:
            whole = np.concatenate(kept)
            yield np.ascontiguousarray(whole[:ROWS])
            kept, held = [whole[ROWS:]], held - ROWS
    if held:
        yield np.ascontiguousarray(np.concatenate(kept))


def _fit(seen: Evidence, encoding: Encoding, size: int, report: Callable[[float], None]) -> PairFit:
    if not 5 <= size <= 65:
        raise LutError("size", f"must be from 5 to 65 nodes a side, got {size}")
    inputs, outputs, counts = seen.means()
    change = outputs - inputs
    weight = np.minimum(counts, MOST_PIXELS).astype(np.float64)
    robust = np.ones(len(weight))
    sizes = [one for one in (5, 9, 17, 33) if one < size] + [size]
    found, before = np.zeros((sizes[0] ** 3, 3)), sizes[0]
    for number, one in enumerate(sizes):
        found, before = to_size(found, before, one) if one != before else found, one
        for _ in range(ROUNDS if one == sizes[-1] else 1):
            found = fit_change(inputs, change, weight * robust, one, found)
            # Bins that disagree with their neighbours (edges that moved, noise) count less: Huber's weights.
            corners, shares = weights_of(inputs, one)
            rest = np.abs((shares[..., None] * found[corners]).sum(axis=1) - change).max(axis=1)
            robust = np.minimum(1, max(2 * float(np.median(rest)), 1 / 255) / np.maximum(rest, 1e-9))
        report(0.1 + 0.8 * (number + 1) / len(sizes))
    table = (grid(size) + found).astype(np.float32).reshape(size, size, size, 3)
    lattice = Lattice(table)
    corners, shares = weights_of(inputs, size)
    evidence = np.bincount(corners.ravel(), weights=(shares * counts[:, None]).ravel(), minlength=size**3)
    shown, wanted = seen.sample()
    got = apply_lattice(lattice, shown)
    off = difference_of_light(*(to_linear_709(np.clip(values, 0, 1), encoding) for values in (got, wanted)))
    report(1.0)
    return PairFit(
        Lut(lattice=lattice),
        evidence.reshape(size, size, size),
        float((evidence >= ENOUGH).mean()),
        Spread.of(off),
        float((off > 5).mean()),
    )
