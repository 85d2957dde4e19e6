"""Factories for tests: looks, LUTs, pictures, small and exact."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import numpy as np

from saucer.core.look import Look, look_from
from saucer.core.lut.table import Lattice, Lut, nodes
from saucer.core.pictures import Depth, Picture, write_picture

BENT = [[0.0, 0.04], [0.3, 0.22], [0.7, 0.8], [1.0, 0.96]]
WARM = {"kind": "curves", "red": [[0, 0], [0.5, 0.58], [1, 1]], "blue": [[0, 0.1], [0.5, 0.45], [1, 0.85]]}


def a_look(*steps: dict[str, Any], **fields: Any) -> Look:
    return look_from({"format": "saucer-look", "version": 1, "steps": list(steps) or [WARM]} | fields)


def a_lut(size: int = 9, seed: int = 1, title: str = "") -> Lut:
    """A lattice that is no identity and not symmetric in any way."""
    rng = np.random.default_rng(seed)
    table = nodes(size).reshape(size, size, size, 3) ** np.float32(1.1) + rng.normal(scale=0.03, size=(size,) * 3 + (3,))
    return Lut(lattice=Lattice(table.astype(np.float32)), title=title)


def random_pixels(height: int = 24, width: int = 40, seed: int = 5) -> np.ndarray:
    return np.random.default_rng(seed).random((height, width, 3), dtype=np.float32)


def a_picture(path: Path, depth: Depth = "u16", height: int = 24, width: int = 40, seed: int = 5) -> Path:
    write_picture(Picture(random_pixels(height, width, seed), depth), path)
    return path
