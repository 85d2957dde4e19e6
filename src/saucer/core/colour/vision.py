"""How a picture is seen by eyes that tell fewer colours apart.

Source: Machado, Oliveira and Fernandes, "A physiologically-based model for simulation of color vision deficiency" (2009), with the tables
that the authors give for it: linear light of BT.709 primaries to linear light, every fifth of the severity; between these straight.
Those of short waves are an approximation, as the paper says.
"""

from __future__ import annotations

from typing import Literal

import numpy as np

from saucer.core.colour.encodings import ENCODINGS
from saucer.core.colour.oklab import linear_to_oklab

Vision = Literal["protan", "deutan", "tritan"]
"""Which cones see otherwise: those of long, of middle, or of short waves."""

_EVERY = 0.2
_TABLES: dict[Vision, tuple[tuple[float, ...], ...]] = {
    "protan": (
        (1, 0, 0, 0, 1, 0, 0, 0, 1),
        (0.734766, 0.334872, -0.069637, 0.051840, 0.919198, 0.028963, -0.004928, -0.004209, 1.009137),
        (0.539009, 0.579343, -0.118352, 0.082546, 0.866121, 0.051332, -0.007136, -0.011959, 1.019095),
        (0.385450, 0.769005, -0.154455, 0.100526, 0.829802, 0.069673, -0.007442, -0.022190, 1.029632),
        (0.259411, 0.923008, -0.182420, 0.110296, 0.804340, 0.085364, -0.006276, -0.034346, 1.040622),
        (0.152286, 1.052583, -0.204868, 0.114503, 0.786281, 0.099216, -0.003882, -0.048116, 1.051998),
    ),
    "deutan": (
        (1, 0, 0, 0, 1, 0, 0, 0, 1),
        (0.760729, 0.319078, -0.079807, 0.090568, 0.889315, 0.020117, -0.006027, 0.013325, 0.992702),
        (0.605511, 0.528560, -0.134071, 0.155318, 0.812366, 0.032316, -0.009376, 0.023176, 0.986200),
        (0.498864, 0.674741, -0.173604, 0.205199, 0.754872, 0.039929, -0.011131, 0.030969, 0.980162),
        (0.422823, 0.781057, -0.203881, 0.245752, 0.709602, 0.044646, -0.011843, 0.037423, 0.974421),
        (0.367322, 0.860646, -0.227968, 0.280085, 0.672501, 0.047413, -0.011820, 0.042940, 0.968881),
    ),
    "tritan": (
        (1, 0, 0, 0, 1, 0, 0, 0, 1),
        (0.895720, 0.133330, -0.029050, 0.029997, 0.945400, 0.024603, 0.013027, 0.104707, 0.882266),
        (0.948035, 0.089490, -0.037526, 0.014364, 0.946792, 0.038844, 0.010853, 0.193991, 0.795156),
        (1.104996, -0.046633, -0.058363, -0.032137, 0.971635, 0.060503, 0.001336, 0.317922, 0.680742),
        (1.257728, -0.139648, -0.118081, -0.078003, 0.975409, 0.102594, -0.003316, 0.501214, 0.502102),
        (1.255528, -0.076749, -0.178779, -0.078411, 0.930809, 0.147602, 0.004733, 0.691367, 0.303900),
    ),
}
TOLD, LOST = 0.05, 0.02
"""OKLab differences: neighbours that lie at least so far apart are told apart, and no longer where they come closer than that."""


def matrix_of(vision: Vision, severity: float) -> np.ndarray:
    """(3, 3) float64 from linear light of BT.709 primaries to the same. severity: 0 as most people see .. 1 without these cones"""
    table = np.array(_TABLES[vision])
    at = min(max(severity, 0.0), 1.0) / _EVERY
    low = min(int(at), len(table) - 2)
    return ((1 - (at - low)) * table[low] + (at - low) * table[low + 1]).reshape(3, 3)


def see_as(values: np.ndarray, vision: Vision, severity: float = 1.0) -> np.ndarray:
    """(..., 3) float32 sRGB code values as such eyes see what these show, held to what a screen shows."""
    srgb = ENCODINGS["srgb"].transfer
    light = srgb.decode(np.clip(values, 0, 1).astype(np.float64)) @ matrix_of(vision, severity).T
    return np.asarray(srgb.encode(np.clip(light, 0, 1)), np.float32)


def edges_lost(values: np.ndarray, seen: np.ndarray) -> float:
    """Share, 0..1, of the edges of colours in a picture that are no longer told; 0 where it has none.

    values, seen: (h, w, 3) sRGB code values as most people see them, and as other eyes do
    """
    srgb = ENCODINGS["srgb"].transfer
    before, after = (linear_to_oklab(srgb.decode(np.clip(one, 0, 1).astype(np.float64))) for one in (values, seen))
    told = lost = 0
    for axis in (0, 1):
        apart, left = (np.sqrt((np.diff(lab, axis=axis) ** 2).sum(axis=-1)) for lab in (before, after))
        told += int((apart > TOLD).sum())
        lost += int(((apart > TOLD) & (left < LOST)).sum())
    return lost / told if told else 0.0
