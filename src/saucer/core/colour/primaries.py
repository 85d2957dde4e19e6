"""RGB primaries, white points and the matrices that follow from them."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

import numpy as np

from saucer.core.colour.adaptation import CONES, adaptation

D65 = (0.3127, 0.3290)
ACES_WHITE = (0.32168, 0.33767)
THEATRE_WHITE = (0.314, 0.351)


@dataclass(frozen=True)
class Primaries:
    """CIE 1931 xy chromaticities of red, green, blue and white. absolute: colours keep their XYZ, no white is adapted to"""

    name: str
    red: tuple[float, float]
    green: tuple[float, float]
    blue: tuple[float, float]
    white: tuple[float, float]
    source: str
    absolute: bool = False

    @property
    def corners(self) -> tuple[tuple[float, float], ...]:
        """Red, green, blue and white: equal for two names of one triangle."""
        return self.red, self.green, self.blue, self.white


BT709 = Primaries("BT.709", (0.64, 0.33), (0.30, 0.60), (0.15, 0.06), D65, "ITU-R BT.709-6, table 1")
BT2020 = Primaries("BT.2020", (0.708, 0.292), (0.170, 0.797), (0.131, 0.046), D65, "ITU-R BT.2020-2, table 3")
P3_D65 = Primaries("P3-D65", (0.680, 0.320), (0.265, 0.690), (0.150, 0.060), D65, "SMPTE EG 432-1")
P3_THEATRE = Primaries("P3", (0.680, 0.320), (0.265, 0.690), (0.150, 0.060), THEATRE_WHITE, "SMPTE RP 431-2")
AP0 = Primaries("AP0", (0.7347, 0.2653), (0.0, 1.0), (0.0001, -0.0770), ACES_WHITE, "SMPTE ST 2065-1")
AP1 = Primaries("AP1", (0.713, 0.293), (0.165, 0.830), (0.128, 0.044), ACES_WHITE, "S-2014-004")
# The wide gamuts of the camera logs, by the names their makers publish them under.
S_GAMUT3 = Primaries("S-Gamut3", (0.730, 0.280), (0.140, 0.855), (0.100, -0.050), D65, "S-Gamut3/S-Log3 technical summary")
S_GAMUT3_CINE = Primaries(
    "S-Gamut3.Cine", (0.766, 0.275), (0.225, 0.800), (0.089, -0.087), D65, "S-Gamut3/S-Log3 technical summary"
)
WIDE_GAMUT_3 = Primaries("Wide Gamut 3", (0.684, 0.313), (0.221, 0.848), (0.0861, -0.102), D65, "LogC3 curve, usage in VFX")
WIDE_GAMUT_4 = Primaries(
    "Wide Gamut 4", (0.7347, 0.2653), (0.1424, 0.8576), (0.0991, -0.0308), D65, "LogC4 logarithmic colour space"
)
V_GAMUT = Primaries("V-Gamut", (0.730, 0.280), (0.165, 0.840), (0.100, -0.030), D65, "V-Log/V-Gamut reference manual")
WIDE_GAMUT_RGB = Primaries(
    "Wide Gamut RGB",
    (0.780308, 0.304253),
    (0.121595, 1.493994),
    (0.095612, -0.084589),
    D65,
    "Log3G10 and Wide Gamut RGB white paper",
)
S_GAMUT = Primaries("S-Gamut", (0.730, 0.280), (0.140, 0.855), (0.100, -0.050), D65, "S-Gamut/S-Log2 technical summary")
D_GAMUT = Primaries("D-Gamut", (0.71, 0.31), (0.21, 0.88), (0.09, -0.08), D65, "D-Log and D-Gamut white paper (2017)")
CINEMA_GAMUT = Primaries("Cinema Gamut", (0.740, 0.270), (0.170, 1.140), (0.080, -0.100), D65, "C-Log white paper (2018)")
OPRGB = Primaries("opRGB", (0.64, 0.33), (0.21, 0.71), (0.15, 0.06), D65, "IEC 61966-2-5:2007")
ROMM = Primaries("ROMM RGB", (0.7347, 0.2653), (0.1596, 0.8404), (0.0366, 0.0001), (0.3457, 0.3585), "ISO 22028-2:2013")
XYZ = Primaries("CIE XYZ", (1.0, 0.0), (0.0, 1.0), (0.0, 0.0), (1 / 3, 1 / 3), "SMPTE ST 428-1", absolute=True)
F_GAMUT_C = Primaries("F-Gamut C", (0.7347, 0.2653), (0.0263, 0.9737), (0.1173, -0.0224), D65, "F-Log2 C data sheet")
F_GAMUT = Primaries("F-Gamut", (0.708, 0.292), (0.170, 0.797), (0.131, 0.046), D65, "F-Log2 data sheet")


def xyz_of(white: tuple[float, float]) -> np.ndarray:
    """(3,) float64 XYZ of a chromaticity at Y = 1."""
    x, y = white
    return np.array([x / y, 1.0, (1 - x - y) / y])


@lru_cache(maxsize=64)
def rgb_to_xyz(primaries: Primaries) -> np.ndarray:
    """(3, 3) float64 from linear RGB to XYZ, Y of white = 1. Source: SMPTE RP 177:1993."""
    corners = np.array([primaries.red, primaries.green, primaries.blue]).T
    columns = np.concatenate([corners, 1 - corners.sum(axis=0, keepdims=True)])
    return columns * np.linalg.solve(columns, xyz_of(primaries.white))


Adaptation = Literal["bradford", "cat02", "cat16"]


@lru_cache(maxsize=256)
def rgb_to_rgb(source: Primaries, target: Primaries, method: Adaptation = "bradford") -> np.ndarray:
    """(3, 3) float64 from one linear RGB to another, adapted where the white points differ."""
    same = source.white == target.white or source.absolute or target.absolute
    adapt = np.eye(3) if same else adaptation(CONES[method], xyz_of(source.white), xyz_of(target.white))
    return np.linalg.inv(rgb_to_xyz(target)) @ adapt @ rgb_to_xyz(source)


def luma_weights(primaries: Primaries) -> np.ndarray:
    """(3,) float64: the Y row of the primaries' matrix; sums to 1."""
    weights: np.ndarray = rgb_to_xyz(primaries)[1]
    return weights
