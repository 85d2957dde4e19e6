"""The encodings Saucer knows, and those that a team defines as data."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

import numpy as np

from saucer.core.colour import primaries as p
from saucer.core.colour.primaries import Primaries, luma_weights
from saucer.core.colour.transfer import LINEAR, Transfer, bent, hdr, log, power
from saucer.core.errors import EncodingError

Referred = Literal["scene", "display"]


@dataclass(frozen=True)
class Encoding:
    """RGB primaries, white point and transfer function. `linear` encodings need a shaper in front of a lattice.

    peak: cd/m2, of PQ where it is stated what its displays reach: what is brighter is not shown
    """

    id: str
    name: str
    primaries: Primaries
    transfer: Transfer
    referred: Referred
    source: str
    peak: float | None = None

    @property
    def linear(self) -> bool:
        return self.transfer is LINEAR

    @property
    def bounded(self) -> bool:
        """Its display cannot show more than linear 1.0, and no code of it says more."""
        return self.referred == "display" and self.transfer not in (hdr.PQ, power.DCDM)

    @property
    def top(self) -> float:
        """The most linear light that its display shows; infinite where that is not said."""
        if self.peak is not None:
            return self.peak / hdr.REFERENCE_WHITE
        return 1.0 if self.bounded else math.inf

    @property
    def hdr(self) -> bool:
        """PQ or HLG."""
        return self.transfer in (hdr.PQ, hdr.HLG)

    @property
    def hdr_display(self) -> bool:
        """Its display shows light far above white: PQ's."""
        return self.transfer is hdr.PQ

    @property
    def luma(self) -> np.ndarray:
        """(3,) float64 luma weights, from the encoding's own primaries."""
        return luma_weights(self.primaries)


_REACHES = "display of 1000 cd/m\N{SUPERSCRIPT TWO}"
_ALL = (
    Encoding("srgb", "sRGB", p.BT709, power.SRGB, "display", "IEC 61966-2-1:1999"),
    Encoding("rec709", "Rec.709 display", p.BT709, power.BT1886, "display", "ITU-R BT.709-6, BT.1886 (gamma 2.4, black 0)"),
    Encoding("rec709-camera", "Rec.709 camera", p.BT709, power.BT709_CAMERA, "scene", "ITU-R BT.709-6, item 1.2"),
    Encoding("gamma22-709", "Gamma 2.2, Rec.709 primaries", p.BT709, power.GAMMA22, "display", "pure power, on BT.709-6, table 1"),
    Encoding("display-p3", "Display P3", p.P3_D65, power.SRGB, "display", "SMPTE EG 432-1, curve of IEC 61966-2-1"),
    Encoding("p3-d65", "P3-D65, gamma 2.6", p.P3_D65, power.GAMMA26, "display", "SMPTE EG 432-1, gamma of RP 431-2"),
    Encoding("oprgb", "opRGB", p.OPRGB, power.OPRGB, "display", "IEC 61966-2-5:2007"),
    Encoding("romm-rgb", "ROMM RGB", p.ROMM, power.ROMM, "display", "ISO 22028-2:2013"),
    Encoding(
        "dcdm",
        "DCDM X'Y'Z'",
        p.XYZ,
        power.DCDM,
        "display",
        "SMPTE ST 428-1: 48 cd/m2 is white; not adapted",
    ),
    Encoding("p3-theatre", "P3 theatre", p.P3_THEATRE, power.GAMMA26, "display", "SMPTE RP 431-2"),
    Encoding("rec2020", "Rec.2020 display", p.BT2020, power.BT1886, "display", "ITU-R BT.2020-2, BT.1886"),
    Encoding("hlg", "HLG", p.BT2020, hdr.HLG, "scene", "ITU-R BT.2100-3, table 5; 75 % is white (BT.2408-7)"),
    Encoding("pq", "PQ", p.BT2020, hdr.PQ, "display", "ITU-R BT.2100-3, table 4; 203 cd/m2 is white (BT.2408-7)"),
    Encoding(
        "pq-1000",
        f"PQ, {_REACHES}",
        p.BT2020,
        hdr.PQ,
        "display",
        "ITU-R BT.2100-3, table 4; light above the peak is not shown",
        1000.0,
    ),
    Encoding("hlg-p3", "HLG, P3-D65", p.P3_D65, hdr.HLG, "scene", "ITU-R BT.2100-3, table 5, on the primaries of SMPTE EG 432-1"),
    Encoding("pq-p3", "PQ, P3-D65", p.P3_D65, hdr.PQ, "display", "ITU-R BT.2100-3, table 4, on the primaries of SMPTE EG 432-1"),
    Encoding(
        "pq-p3-1000",
        f"PQ, P3-D65, {_REACHES}",
        p.P3_D65,
        hdr.PQ,
        "display",
        "as pq-1000, on the primaries of SMPTE EG 432-1",
        1000.0,
    ),
    Encoding("linear-709", "Linear, Rec.709 primaries", p.BT709, LINEAR, "scene", "ITU-R BT.709-6, table 1"),
    Encoding("linear-2020", "Linear, Rec.2020 primaries", p.BT2020, LINEAR, "scene", "ITU-R BT.2020-2, table 3"),
    Encoding("aces2065-1", "ACES2065-1", p.AP0, LINEAR, "scene", "SMPTE ST 2065-1"),
    Encoding("acescg", "ACEScg", p.AP1, LINEAR, "scene", "S-2014-004"),
    Encoding("acescc", "ACEScc", p.AP1, log.ACESCC, "scene", "S-2014-003"),
    Encoding("acescct", "ACEScct", p.AP1, log.ACESCCT, "scene", "S-2016-001"),
    Encoding("film-log", "Film log", p.BT709, log.FILM_LOG, "scene", "Cineon 10-bit printing density, 95/685, 0.002 D, gamma 0.6"),
    Encoding("s-log3", "S-Log3, S-Gamut3", p.S_GAMUT3, log.S_LOG3, "scene", "S-Gamut3.Cine/S-Log3 technical summary"),
    Encoding(
        "s-log3-cine", "S-Log3, S-Gamut3.Cine", p.S_GAMUT3_CINE, log.S_LOG3, "scene", "S-Gamut3.Cine/S-Log3 technical summary"
    ),
    *(
        Encoding(f"logc3-ei{index}", f"LogC3 at EI {index}", p.WIDE_GAMUT_3, curve, "scene", "LogC3 curve, usage in VFX (2012)")
        for index, curve in log.LOGC3.items()
    ),
    Encoding("logc4", "LogC4", p.WIDE_GAMUT_4, log.LOGC4, "scene", "LogC4 logarithmic colour space, specification (2022)"),
    Encoding("v-log", "V-Log", p.V_GAMUT, log.V_LOG, "scene", "V-Log/V-Gamut reference manual (2014)"),
    Encoding("log3g10", "Log3G10", p.WIDE_GAMUT_RGB, log.LOG3G10, "scene", "Log3G10 and Wide Gamut RGB white paper (2017)"),
    Encoding(
        "s-log", "S-Log, S-Gamut", p.S_GAMUT, log.S_LOG, "scene", "S-Log white paper (2009), S-Gamut/S-Log2 technical summary"
    ),
    Encoding("s-log2", "S-Log2, S-Gamut", p.S_GAMUT, log.S_LOG2, "scene", "S-Gamut/S-Log2 technical summary (2012)"),
    Encoding("c-log", "C-Log, Cinema Gamut", p.CINEMA_GAMUT, bent.C_LOG, "scene", "C-Log white paper (2018)"),
    Encoding("c-log2", "C-Log2, Cinema Gamut", p.CINEMA_GAMUT, bent.C_LOG2, "scene", "C-Log white paper (2018)"),
    Encoding("c-log3", "C-Log3, Cinema Gamut", p.CINEMA_GAMUT, bent.C_LOG3, "scene", "C-Log white paper (2018)"),
    Encoding("d-log", "D-Log, D-Gamut", p.D_GAMUT, log.D_LOG, "scene", "D-Log and D-Gamut white paper (2017)"),
    Encoding("n-log", "N-Log", p.BT2020, bent.N_LOG, "scene", "N-Log specification document 1.0.0 (2018)"),
    Encoding("f-log", "F-Log", p.F_GAMUT, log.F_LOG, "scene", "F-Log data sheet 1.1"),
    Encoding("f-log2", "F-Log2", p.F_GAMUT, log.F_LOG2, "scene", "F-Log2 data sheet 1.0"),
    Encoding("f-log2-c", "F-Log2 C", p.F_GAMUT_C, log.F_LOG2, "scene", "F-Log2 C data sheet"),
)

ENCODINGS: dict[str, Encoding] = {encoding.id: encoding for encoding in _ALL}


LOG_FOR_LIGHT = ("acescct", "film-log", "f-log2")


def log_of(light: Encoding) -> Encoding | None:
    """A log encoding on the primaries of a linear one; None where none is known, or it is not linear."""
    if not light.linear:
        return None
    found = (ENCODINGS[one] for one in LOG_FOR_LIGHT)
    return next((one for one in found if one.primaries.corners == light.primaries.corners), None)


def encoding(name: str, place: str = "encoding", own: Mapping[str, Encoding] | None = None) -> Encoding:
    """The encoding with this id, shipped or among `own`. Raises: EncodingError that lists the ids, naming `place`."""
    found = ENCODINGS.get(name) or (own or {}).get(name)
    if found is None:
        raise EncodingError(place, f'unknown encoding "{name}"; use one of {", ".join([*ENCODINGS, *(own or {})])}')
    return found
