"""RGB primaries, white points and the matrices that follow from them."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

BRADFORD = np.array([[0.8951, 0.2664, -0.1614], [-0.7502, 1.7135, 0.0367], [0.0389, -0.0685, 1.0296]])
"""Cone response matrix. Source: Lam 1985, as given in ICC.1:2022 annex E."""

D65 = (0.3127, 0.3290)
ACES_WHITE = (0.32168, 0.33767)


@dataclass(frozen=True)
class Primaries:
    """CIE 1931 xy chromaticities of red, green, blue and white."""

    name: str
    red: tuple[float, float]
    green: tuple[float, float]
    blue: tuple[float, float]
    white: tuple[float, float]
    source: str


BT709 = Primaries("BT.709", (0.64, 0.33), (0.30, 0.60), (0.15, 0.06), D65, "ITU-R BT.709-6, table 1")
AP1 = Primaries("AP1", (0.713, 0.293), (0.165, 0.830), (0.128, 0.044), ACES_WHITE, "SMPTE ST 2065-1 / S-2014-004")


def xyz_of_white(white: tuple[float, float]) -> np.ndarray:
    """(3,) float64 XYZ of a chromaticity at Y = 1."""
    x, y = white
    return np.array([x / y, 1.0, (1 - x - y) / y])


@lru_cache(maxsize=64)
def rgb_to_xyz(primaries: Primaries) -> np.ndarray:
    """(3, 3) float64 from linear RGB to XYZ, Y of white = 1. Source: SMPTE RP 177:1993."""
    columns = np.stack([xyz_of_white(xy) for xy in (primaries.red, primaries.green, primaries.blue)], axis=1)
    return columns * np.linalg.solve(columns, xyz_of_white(primaries.white))


def bradford(source: tuple[float, float], target: tuple[float, float]) -> np.ndarray:
    """(3, 3) float64 adaptation of XYZ from one white (xy) to another. Source: ICC.1:2022 annex E."""
    gain = (BRADFORD @ xyz_of_white(target)) / (BRADFORD @ xyz_of_white(source))
    return np.linalg.inv(BRADFORD) @ (gain[:, None] * BRADFORD)


@lru_cache(maxsize=256)
def rgb_to_rgb(source: Primaries, target: Primaries) -> np.ndarray:
    """(3, 3) float64 from one linear RGB to another, Bradford-adapted where the white points differ."""
    adapt = np.eye(3) if source.white == target.white else bradford(source.white, target.white)
    return np.linalg.inv(rgb_to_xyz(target)) @ adapt @ rgb_to_xyz(source)


def luma_weights(primaries: Primaries) -> np.ndarray:
    """(3,) float64: the Y row of the primaries' matrix; sums to 1."""
    weights: np.ndarray = rgb_to_xyz(primaries)[1]
    return weights
