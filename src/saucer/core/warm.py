"""Run every kernel once, so that no person waits for a compiler."""

from __future__ import annotations

import numpy as np

from saucer.core.evaluate import evaluate, sampled
from saucer.core.look import look_from
from saucer.core.lut.apply import apply_lut
from saucer.core.lut.table import Lut, red_fastest
from saucer.core.lut.text import read_rows, with_end, write_rows


def warm() -> None:
    """Takes about a second with compiled kernels on disk, ten without."""
    bent = [[0, 0.05], [0.5, 0.6], [1, 1]]
    for encoding in ("srgb", "linear-709"):
        look = look_from({"input": encoding, "output": encoding, "steps": [{"kind": "curves", "master": bent, "red": bent}]})
        lut = sampled(look, 3)
        for dtype in (np.float32, np.uint8, np.uint16):
            apply_lut(lut, np.zeros((2, 2, 3), dtype))
            apply_lut(Lut(lattice=lut.lattice), np.zeros((2, 2, 3), dtype), "trilinear")
        evaluate(look, np.zeros((2, 3), np.float32))
    red_fastest(np.zeros((8, 3), np.float32), 2)
    text = with_end(write_rows(np.zeros((2, 3), np.float32)))
    read_rows(text, 0, 1, np.empty((2, 3), np.float32), 0, 2)
