"""Gradient noise for terrain, bark, cloud and glaze, on any number of points at once."""

import numpy as np


def _hash(cell: np.ndarray, seed: int) -> np.ndarray:
    """(..., d) integer cells to a repeatable 32-bit number each."""
    value = np.full(cell.shape[:-1], (seed * 0x9E3779B1) & 0xFFFFFFFF, np.uint64)
    for axis in range(cell.shape[-1]):
        value = (value ^ (cell[..., axis].astype(np.int64) & 0xFFFFFFFF).astype(np.uint64)) * np.uint64(0x85EBCA6B)
        value = (value ^ (value >> np.uint64(13))) & np.uint64(0xFFFFFFFF)
    value = (value * np.uint64(0xC2B2AE35)) & np.uint64(0xFFFFFFFF)
    return value ^ (value >> np.uint64(16))


def value_noise(points: np.ndarray, seed: int = 0) -> np.ndarray:
    """Smooth value noise in -1..1 at points shaped (..., d), d = 2 or 3; one cell is one unit."""
    cell = np.floor(points)
    part = points - cell
    part = part * part * part * (part * (part * 6 - 15) + 10)
    cell = cell.astype(np.int64)
    axes = points.shape[-1]
    total = np.zeros(points.shape[:-1])
    for corner in range(1 << axes):
        offset = np.array([(corner >> axis) & 1 for axis in range(axes)])
        weight = np.prod(np.where(offset == 1, part, 1 - part), axis=-1)
        total += weight * (_hash(cell + offset, seed).astype(np.float64) / 2147483647.5 - 1)
    return total


def fbm(points: np.ndarray, octaves: int = 5, seed: int = 0, gain: float = 0.5) -> np.ndarray:
    """Sum of octaves of value noise, roughly -1..1, at points shaped (..., d)."""
    total, amplitude, reach = 0.0, 1.0, 0.0
    for octave in range(octaves):
        total = total + amplitude * value_noise(points * 2.0**octave + 17.31 * octave, seed + octave)
        reach += amplitude
        amplitude *= gain
    return total / reach


def smoothstep(low: float, high: float, x: np.ndarray) -> np.ndarray:
    """0 below `low`, 1 above `high`, smooth between."""
    t = np.clip((x - low) / (high - low), 0, 1)
    return t * t * (3 - 2 * t)
