"""CIELAB and the CIEDE2000 colour difference."""

from __future__ import annotations

import numpy as np

from saucer.core.colour.primaries import BT709, rgb_to_xyz, xyz_of


def xyz_to_lab(xyz: np.ndarray, white: np.ndarray) -> np.ndarray:
    """(..., 3) XYZ to (..., 3) CIELAB. Source: CIE 15:2018, 8.2.1.1."""
    t = xyz / white
    f = np.where(t > (6 / 29) ** 3, np.cbrt(t), t * (29 / 6) ** 2 / 3 + 4 / 29)
    x, y, z = f[..., 0], f[..., 1], f[..., 2]
    return np.stack([116 * y - 16, 500 * (x - y), 200 * (y - z)], axis=-1)


def linear_709_to_lab(linear: np.ndarray) -> np.ndarray:
    """(..., 3) linear BT.709, 1.0 is white, to (..., 3) CIELAB under D65."""
    return xyz_to_lab(linear @ rgb_to_xyz(BT709).T, xyz_of(BT709.white))


def ciede2000(one: np.ndarray, other: np.ndarray) -> np.ndarray:
    """CIEDE2000 with kL = kC = kH = 1.

    one, other: (..., 3) CIELAB
    Returns: (...) float64; about 1 is one just-noticeable difference
    Source: Sharma, Wu, Dalal, "The CIEDE2000 color-difference formula", Color Res. Appl. 30 (2005), eq. 2-22
    """
    l1, a1, b1 = np.moveaxis(np.asarray(one, np.float64), -1, 0)
    l2, a2, b2 = np.moveaxis(np.asarray(other, np.float64), -1, 0)
    mean7 = ((np.hypot(a1, b1) + np.hypot(a2, b2)) / 2) ** 7
    g = 0.5 * (1 - np.sqrt(mean7 / (mean7 + 25.0**7)))
    a1, a2 = (1 + g) * a1, (1 + g) * a2
    c1, c2 = np.hypot(a1, b1), np.hypot(a2, b2)
    h1, h2 = np.degrees(np.arctan2(b1, a1)) % 360, np.degrees(np.arctan2(b2, a2)) % 360
    grey = c1 * c2 == 0
    turn = h2 - h1
    turn = np.where(turn > 180, turn - 360, np.where(turn < -180, turn + 360, turn))
    turn = np.where(grey, 0.0, turn)
    d_l, d_c, d_h = l2 - l1, c2 - c1, 2 * np.sqrt(c1 * c2) * np.sin(np.radians(turn / 2))
    l_mean, c_mean = (l1 + l2) / 2, (c1 + c2) / 2
    total = h1 + h2
    apart = np.abs(h1 - h2) > 180
    h_mean = np.where(apart, np.where(total < 360, total + 360, total - 360), total) / 2
    h_mean = np.where(grey, total, h_mean)
    t = (
        1
        - 0.17 * np.cos(np.radians(h_mean - 30))
        + 0.24 * np.cos(np.radians(2 * h_mean))
        + 0.32 * np.cos(np.radians(3 * h_mean + 6))
        - 0.20 * np.cos(np.radians(4 * h_mean - 63))
    )
    s_l = 1 + 0.015 * (l_mean - 50) ** 2 / np.sqrt(20 + (l_mean - 50) ** 2)
    s_c, s_h = 1 + 0.045 * c_mean, 1 + 0.015 * c_mean * t
    rotation = np.sin(np.radians(60 * np.exp(-(((h_mean - 275) / 25) ** 2))))
    r_t = -2 * np.sqrt(c_mean**7 / (c_mean**7 + 25.0**7)) * rotation
    l_term, c_term, h_term = d_l / s_l, d_c / s_c, d_h / s_h
    return np.sqrt(np.maximum(l_term**2 + c_term**2 + h_term**2 + r_t * c_term * h_term, 0))
