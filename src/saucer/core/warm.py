"""Run every kernel once, so that no person waits for a compiler."""

from __future__ import annotations

import numpy as np

from saucer.core.blending import MODES, blend
from saucer.core.colour.conversion import conversion
from saucer.core.colour.difference_fast import difference_of_light
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.evaluate import as_lut, evaluate, sampled
from saucer.core.look import look_from
from saucer.core.lut.apply import apply_lut
from saucer.core.lut.table import Lut, nodes, red_fastest
from saucer.core.lut.text import read_rows, with_end, write_rows, write_whole_rows
from saucer.core.planes import through
from saucer.core.rendering import render
from saucer.core.scopes import histogram, outside

BENT = [[0, 0.05], [0.5, 0.6], [1, 1]]
# Settings that between them reach every kernel of the per-pixel and of the spatial steps.
STEPS = (
    {"kind": "curves", "master": BENT, "red": BENT},
    {"kind": "curves", "master": BENT, "master_on": "luma"},
    {"kind": "levels", "master": {"gamma": 1.2}, "red": {"output_black": 0.1}},
    {"kind": "channel-mix", "red": [0.9, 0.1, 0]},
    {"kind": "tone", "exposure": 1, "contrast": 1.2, "toe": 0.1, "shoulder": 0.1, "brightness": 0.1},
    {"kind": "white-balance", "warm": 10},
    {"kind": "saturation", "factor": 1.1},
    {"kind": "saturation", "muted": 0.1},
    {"kind": "hue-bands", "bands": [{"centre": 45 * i, "hue": 5} for i in range(8)]},
    {"kind": "isolate-hue", "others": 0.5},
    {"kind": "split-tone", "all": {"amount": 0.1}, "strength": 0.5},
    {"kind": "cdl", "power": [1.1, 1, 1], "saturation": 1.1},
    {"kind": "limit", "low": 0, "keep": "hue"},
    {"kind": "limit", "low": 0},
)
SPATIAL = (
    {"kind": "vignette", "amount": 0.5},
    {"kind": "grain", "amount": 0.5},
    {"kind": "soft-focus", "amount": 0.5, "radius": 0.05},
    {"kind": "graduated-wash", "amount": 0.5, "strength": 0.5},
)


def warm() -> None:
    """Takes about a second with compiled kernels on disk, a minute without."""
    for encoding in ("srgb", "linear-709"):
        look = look_from({"input": encoding, "output": encoding, "steps": STEPS[:1]})
        lut = sampled(look, 3)
        for dtype in (np.float32, np.uint8, np.uint16):
            apply_lut(lut, np.zeros((2, 2, 3), dtype))
            apply_lut(Lut(lattice=lut.lattice), np.zeros((2, 2, 3), dtype), "trilinear")
    evaluate(look_from({"steps": STEPS}), np.zeros((2, 3), np.float32))
    render(look_from({"steps": SPATIAL}), np.zeros((24, 24, 3), np.float32))
    srgb, wide = ENCODINGS["srgb"], ENCODINGS["linear-2020"]
    for target in ENCODINGS.values():
        for source in (srgb, wide):
            for operation in (conversion(source, target, "soft", 4.0, "compress"), conversion(target, source, "soft", 4.0, "clip")):
                if operation is not None:
                    through(operation, np.zeros((2, 3), np.float32))
    for mode in MODES:
        blend(mode, np.zeros((3, 2), np.float32), np.zeros((3, 2), np.float32))
    as_lut(nodes(3), 3, srgb)
    red_fastest(np.zeros((8, 3), np.float32), 2)
    write_whole_rows(np.zeros((2, 3), np.uint32))
    difference_of_light(np.zeros((2, 3), np.float32), np.zeros((2, 3), np.float32))
    histogram(np.zeros((2, 3), np.float32), srgb)
    outside(np.zeros((2, 3), np.float32))
    text = with_end(write_rows(np.zeros((2, 3), np.float32)))
    read_rows(text, 0, 1, np.empty((2, 3), np.float32), 0, 2)
