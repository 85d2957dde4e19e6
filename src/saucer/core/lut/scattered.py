"""A lattice through what is known at scattered colours: least squares with a penalty on second differences, by conjugate gradients.

Source of the penalty: thin-plate smoothing, Wahba, "Spline Models for Observational Data" (1990), ch. 2.
"""

from __future__ import annotations

from typing import Any

import numpy as np

from saucer.core.lut.apply import apply_lattice
from saucer.core.lut.domain import grid
from saucer.core.lut.table import Lattice

SMOOTHNESS = 2e-3
FLATNESS = 1e-5
STEPS = 300


def weights_of(inputs: np.ndarray, size: int) -> tuple[np.ndarray, np.ndarray]:
    """(m, 4) nodes and weights of tetrahedral interpolation, as `lut.kernels` has it."""
    at = inputs * (size - 1)
    cell = np.minimum(at.astype(np.int64), size - 2)
    fraction = at - cell
    order = np.argsort(-fraction, axis=1, kind="stable")
    steps = np.array([size * size, size, 1])[order]
    base = cell @ np.array([size * size, size, 1])
    corners = np.stack([base, base + steps[:, 0], base + steps[:, 0] + steps[:, 1], base + steps.sum(axis=1)], axis=1)
    f = np.take_along_axis(fraction, order, axis=1)
    return corners, np.stack([1 - f[:, 0], f[:, 0] - f[:, 1], f[:, 1] - f[:, 2], f[:, 2]], axis=1)


def _differences(size: int, order: int) -> Any:
    """Sparse differences of first or second order along all three axes, and the mixed ones of second order."""
    from scipy import sparse

    one = sparse.eye(size, format="csr")
    first = sparse.diags([-np.ones(size - 1), np.ones(size - 1)], [0, 1], shape=(size - 1, size), format="csr")

    def along(*parts: Any) -> Any:
        return sparse.kron(sparse.kron(parts[0], parts[1]), parts[2], format="csr")

    if order == 1:
        return sparse.vstack([along(first, one, one), along(one, first, one), along(one, one, first)])
    second = first[:-1, :-1] @ first if size > 2 else sparse.csr_matrix((0, size))
    root = np.sqrt(2)
    return sparse.vstack(
        [
            along(second, one, one), along(one, second, one), along(one, one, second),
            root * along(first, first, one), root * along(first, one, first), root * along(one, first, first),
        ]
    )  # fmt: skip


def fit_change(
    inputs: np.ndarray, change: np.ndarray, weight: np.ndarray, size: int, start: np.ndarray, steps: int = STEPS
) -> np.ndarray:
    """(size**3, 3) change at the nodes whose tetrahedral interpolation says what is known, and is as smooth as it can be elsewhere.

    inputs: (m, 3) within 0..1; change: (m, 3) what is known there; weight: (m,), against which the penalties stand: per node spacing, so
    that they mean the same at every size; start: (size**3, 3) to begin from; steps: of conjugate gradients, at most
    """
    from scipy import sparse
    from scipy.sparse.linalg import cg

    corners, shares = weights_of(inputs, size)
    rows = np.repeat(np.arange(len(inputs)), 4)
    looking = sparse.csr_matrix((shares.ravel(), (rows, corners.ravel())), shape=(len(inputs), size**3))
    bend, slope = _differences(size, 2), _differences(size, 1)
    spacing = (size - 1) / 32
    system = (
        looking.T @ sparse.diags(weight) @ looking
        + SMOOTHNESS * spacing**4 * (bend.T @ bend) * (33 / size) ** 3
        + FLATNESS * spacing**2 * (slope.T @ slope) * (33 / size) ** 3
    ).tocsr()
    system = system + 1e-9 * sparse.eye(size**3)
    wanted = looking.T @ (weight[:, None] * change)
    ease = sparse.diags(1 / system.diagonal())
    return np.stack([cg(system, wanted[:, c], x0=start[:, c], M=ease, rtol=1e-6, maxiter=steps)[0] for c in range(3)], axis=-1)


def to_size(change: np.ndarray, size: int, wanted: int) -> np.ndarray:
    """(wanted**3, 3) of (size**3, 3): the same lattice with another number of nodes a side."""
    lattice = Lattice(change.reshape(size, size, size, 3).astype(np.float32))
    return apply_lattice(lattice, grid(wanted)).astype(np.float64)
