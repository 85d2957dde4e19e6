"""OKLab. Source: B. Ottosson, "A perceptual color space for image processing", 2020 (matrices of 2021-01-25)."""

from __future__ import annotations

import numpy as np

LINEAR_TO_LMS = np.array(
    [
        [0.4122214708, 0.5363325363, 0.0514459929],
        [0.2119034982, 0.6806995451, 0.1073969566],
        [0.0883024619, 0.2817188376, 0.6299787005],
    ]
)
LMS_TO_LAB = np.array(
    [
        [0.2104542553, 0.7936177850, -0.0040720468],
        [1.9779984951, -2.4285922050, 0.4505937099],
        [0.0259040371, 0.7827717662, -0.8086757660],
    ]
)
LAB_TO_LMS = np.linalg.inv(LMS_TO_LAB)
LMS_TO_LINEAR = np.linalg.inv(LINEAR_TO_LMS)


def linear_to_oklab(linear: np.ndarray) -> np.ndarray:
    """(..., 3) linear BT.709 to (..., 3) L, a, b; L of white is 1."""
    lab: np.ndarray = np.cbrt(linear @ LINEAR_TO_LMS.T) @ LMS_TO_LAB.T
    return lab


def oklab_to_linear(lab: np.ndarray) -> np.ndarray:
    """(..., 3) L, a, b to (..., 3) linear BT.709, unclipped."""
    linear: np.ndarray = (lab @ LAB_TO_LMS.T) ** 3 @ LMS_TO_LINEAR.T
    return linear
