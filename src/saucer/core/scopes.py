"""Scopes: counted from float code values, never from a picture that was compressed for the screen."""

from __future__ import annotations

import numpy as np

from saucer.core.colour.encodings import Encoding

BINS = 256


def histogram(values: np.ndarray, encoding: Encoding, bins: int = BINS) -> np.ndarray:
    """Counts (4, bins) int64 of red, green, blue and luma over 0..1; what lies outside is counted in the end bins.

    values: (..., 3) float32 code values
    """
    flat = values.reshape(-1, 3)
    luma = flat @ encoding.luma.astype(np.float32)
    counts = [
        np.bincount(np.clip((plane * bins).astype(np.int32), 0, bins - 1), minlength=bins)
        for plane in (flat[:, 0], flat[:, 1], flat[:, 2], luma)
    ]
    return np.stack(counts)


def outside(values: np.ndarray) -> tuple[float, float]:
    """Shares 0..1 of the pixels with some channel at or below 0, and at or above 1."""
    flat = values.reshape(-1, 3)
    return float((flat <= 0).any(axis=1).mean()), float((flat >= 1).any(axis=1).mean())
