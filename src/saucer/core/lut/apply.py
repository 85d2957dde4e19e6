"""Apply a LUT to samples: check once, then call the compiled kernels."""

from __future__ import annotations

from typing import Any, Literal

import numpy as np

from saucer.core.errors import ShapeError
from saucer.core.lut import kernels
from saucer.core.lut.domain import Bounds
from saucer.core.lut.table import Curve1D, Lattice, Lut
from saucer.core.numeric.parallel import over_runs

Interpolation = Literal["tetrahedral", "trilinear"]
PEAKS: dict[Any, float] = {np.dtype(np.uint8): 255.0, np.dtype(np.uint16): 65535.0}


def _checked(values: np.ndarray) -> np.ndarray:
    if values.ndim < 1 or values.shape[-1] != 3:
        raise ShapeError("values", f"need three channels on the last axis, got shape {values.shape}")
    if values.dtype != np.float32 and values.dtype not in PEAKS:
        raise ShapeError("values", f"need float32, uint8 or uint16, got {values.dtype}")
    return np.ascontiguousarray(values)


def _placing(size: int, domain: Bounds, peak: float = 1.0) -> tuple[np.ndarray, np.ndarray]:
    """Scale and offset from a stored value to a position 0..size-1."""
    low, high = (np.asarray(bound, np.float64) for bound in domain)
    scale = (size - 1) / (high - low)
    return (scale / peak).astype(np.float32), (-low * scale).astype(np.float32)


def to_codes(values: np.ndarray, dtype: Any) -> np.ndarray:
    """(..., 3) float32 to uint8 or uint16 codes, held to 0..peak and rounded to nearest."""
    codes = np.empty(values.shape, dtype)
    peak = np.float32(PEAKS[np.dtype(dtype)])
    flat, out = np.ascontiguousarray(values).reshape(-1), codes.reshape(-1)
    over_runs(lambda a, b: kernels.store_integer(flat[3 * a : 3 * b], out[3 * a : 3 * b], peak, 3 * (b - a)), flat.size // 3)
    return codes


def apply_curve(curve: Curve1D, values: np.ndarray, threads: int | None = None) -> np.ndarray:
    """values: (..., 3) float32, uint8 or uint16 -> float32, held at the ends of the domain."""
    values = _checked(values)
    scale, offset = _placing(curve.size, curve.domain, PEAKS.get(values.dtype, 1.0))
    target = np.empty(values.shape, np.float32)
    source, out = values.reshape(-1), target.reshape(-1)
    over_runs(
        lambda a, b: kernels.linear_channels(curve.planar, curve.size, scale, offset, source, out, a, b), values.size // 3, threads
    )
    return target


def apply_lattice(
    lattice: Lattice,
    values: np.ndarray,
    interpolation: Interpolation = "tetrahedral",
    threads: int | None = None,
    out: np.ndarray | None = None,
) -> np.ndarray:
    """values: (..., 3) float32, uint8 or uint16; the result has the same shape and type, integers rounded to nearest.

    Inputs outside the domain are held at its faces. `out` may be given, `values` itself too; it must match `values`.
    """
    values = _checked(values)
    target = np.empty(values.shape, values.dtype) if out is None else out
    if target.shape != values.shape or target.dtype != values.dtype or not target.flags.c_contiguous:
        raise ShapeError("out", f"must be C-contiguous {values.shape} {values.dtype}, got {target.shape} {target.dtype}")
    peak = PEAKS.get(values.dtype, 1.0)
    size, padded = lattice.size, lattice.padded
    scale, offset = _placing(size, lattice.domain, peak)
    source, flat, count = values.reshape(-1), target.reshape(-1), values.size // 3
    if interpolation == "trilinear":
        if values.dtype != np.float32:
            source = source.astype(np.float32)
            flat = np.empty(source.shape, np.float32)
        over_runs(lambda a, b: kernels.trilinear_float(padded, size, scale, offset, source, flat, a, b), count, threads)
        if values.dtype != np.float32:
            target[...] = to_codes(flat, values.dtype).reshape(values.shape)
    elif values.dtype == np.float32:
        over_runs(lambda a, b: kernels.tetrahedral_float(padded, size, scale, offset, source, flat, a, b), count, threads)
    else:
        top = np.float32(peak)
        over_runs(lambda a, b: kernels.tetrahedral_integer(padded, size, scale, offset, source, flat, top, a, b), count, threads)
    return target


def apply_lut(lut: Lut, values: np.ndarray, interpolation: Interpolation = "tetrahedral", threads: int | None = None) -> np.ndarray:
    """Through the LUT's tables and formulas in turn. values: (..., 3) float32, uint8 or uint16; same shape and type out."""
    values = _checked(values)
    if len(lut.chain) == 1 and lut.lattice is not None:
        return apply_lattice(lut.lattice, values, interpolation, threads)
    reached = values
    for node in lut.chain:
        if isinstance(node, Curve1D):
            reached = apply_curve(node, reached, threads)
            continue
        if reached.dtype != np.float32:
            reached = reached.astype(np.float32) / np.float32(PEAKS[reached.dtype])
        reached = apply_lattice(node, reached, interpolation, threads) if isinstance(node, Lattice) else node(reached)
    return reached if values.dtype == np.float32 else to_codes(reached, values.dtype)
