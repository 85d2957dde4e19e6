"""The Planckian locus: the colours of a black body, by which warm and cool are measured."""

from __future__ import annotations

from functools import lru_cache
from pathlib import Path

import numpy as np

C2 = 1.438776877e-2
"""Second radiation constant, m K. Source: CODATA 2018."""

WARMEST = 1000.0
"""Mired (1000 K) up to which the locus is used here; it begins at 0, an infinite temperature."""


@lru_cache(maxsize=1)
def _observer() -> tuple[np.ndarray, np.ndarray]:
    table = np.loadtxt(Path(__file__).with_name("cie1931.csv"), delimiter=",", comments="#")
    return table[:, 0] * 1e-9, table[:, 1:]


def locus_uv(mired: float) -> np.ndarray:
    """(2,) float64 CIE 1960 u, v of a black body of 10**6 / mired kelvin, 0..WARMEST.

    Source: Planck's law integrated with the CIE 1931 observer (CIE 015:2018, 7.2), every 5 nm
    """
    wavelength, observer = _observer()
    x = C2 * mired * 1e-6 / wavelength
    # x / expm1(x) stays finite as the temperature goes to infinity; the factor mired**-1 left out does not change the colour.
    power = wavelength**-4.0 * np.where(x > 1e-12, x / np.expm1(np.maximum(x, 1e-12)), 1.0)
    return uv_of(power @ observer)


def uv_of(xyz: np.ndarray) -> np.ndarray:
    """(3,) XYZ to (2,) CIE 1960 u, v. Source: CIE 015:2018, 9.4"""
    x, y, z = xyz
    return np.array([4 * x, 6 * y]) / (x + 15 * y + 3 * z)


def xyz_of_uv(uv: np.ndarray) -> np.ndarray:
    """(2,) CIE 1960 u, v to (3,) XYZ with Y = 1."""
    u, v = uv
    return np.array([1.5 * u / v, 1.0, (2 - 0.5 * u - 5 * v) / v])


def _normal(mired: float) -> np.ndarray:
    """(2,) unit vector across the locus, towards green (positive Duv)."""
    along = locus_uv(mired + 0.01) - locus_uv(mired - 0.01 if mired >= 0.01 else mired)
    u, v = along / np.hypot(*along)
    # With falling temperature the locus runs towards larger u; a quarter turn left of that is up, away from magenta.
    return np.array([-v, u])


def white_at(mired: float, duv: float) -> np.ndarray:
    """(3,) XYZ, Y = 1, of the white at this place along the locus and this distance across it (positive: green)."""
    return xyz_of_uv(locus_uv(mired) + duv * _normal(mired))


def place_of(xyz: np.ndarray) -> tuple[float, float]:
    """(mired, Duv) of a white: the nearest point of the locus and the signed distance from it. The inverse of `white_at`.

    Raises: ValueError when the nearest point would lie beyond the locus' ends. Source of Duv: ANSI C78.377; Ohno 2014
    """
    uv = uv_of(xyz)
    grid = np.linspace(0, WARMEST, 401)
    mired = float(grid[np.argmin([np.sum((locus_uv(m) - uv) ** 2) for m in grid])])
    for _ in range(30):
        # Newton on: the way to the point is at right angles to the locus.
        normal = _normal(mired)
        along = np.array([normal[1], -normal[0]])
        speed = np.hypot(*(locus_uv(mired + 0.01) - locus_uv(max(mired - 0.01, 0)))) / 0.02
        move = float((uv - locus_uv(mired)) @ along / speed)
        mired = float(np.clip(mired + move, 0, WARMEST))
        if abs(move) < 1e-9:
            break
    if not 0 < mired < WARMEST:
        raise ValueError("outside the Planckian locus")
    return mired, float((uv - locus_uv(mired)) @ _normal(mired))
