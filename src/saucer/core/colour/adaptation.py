"""Chromatic adaptation: how a colour is seen under another white."""

from __future__ import annotations

import numpy as np

BRADFORD = np.array([[0.8951, 0.2664, -0.1614], [-0.7502, 1.7135, 0.0367], [0.0389, -0.0685, 1.0296]])
"""Cone response matrix. Source: Lam 1985, as given in ICC.1:2022 annex E."""

CAT16 = np.array([[0.401288, 0.650173, -0.051461], [-0.250268, 1.204414, 0.045854], [-0.002079, 0.048952, 0.953127]])
"""Cone response matrix. Source: Li et al., "Comprehensive color solutions", Color Res. Appl. 42 (2017), M16."""

CAT02 = np.array([[0.7328, 0.4296, -0.1624], [-0.7036, 1.6975, 0.0061], [0.0030, 0.0136, 0.9834]])
"""Cone response matrix. Source: CIE 159:2004 (CIECAM02); makers' own transforms mostly use it."""

CONES = {"cat16": CAT16, "bradford": BRADFORD, "cat02": CAT02}


def adaptation(cones: np.ndarray, source: np.ndarray, target: np.ndarray) -> np.ndarray:
    """(3, 3) float64 that takes XYZ seen under the white `source` to XYZ seen alike under `target`; both (3,) XYZ.

    Full von Kries adaptation. Source: ICC.1:2022 annex E; Li et al. 2017, eq. 4-7 with D = 1
    """
    gain = (cones @ target) / (cones @ source)
    return np.linalg.inv(cones) @ (gain[:, None] * cones)
