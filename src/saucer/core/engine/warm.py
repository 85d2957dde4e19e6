"""Run every kernel once, so that no person waits for a compiler."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from saucer.core.clips.coding import Coding
from saucer.core.clips.yuv import Layout, from_rgb, to_rgb
from saucer.core.colour.conversion import conversion
from saucer.core.colour.difference_fast import difference_of_light
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.colour.rendering import ToneScale
from saucer.core.engine.evaluate import sample_look
from saucer.core.engine.lattice import as_lut
from saucer.core.engine.plan import prepare
from saucer.core.engine.rendering import render
from saucer.core.look.model import look_from
from saucer.core.lut.apply import apply_lut
from saucer.core.lut.domain import grid
from saucer.core.lut.health import examine
from saucer.core.lut.invert import invert
from saucer.core.lut.numbers import read_rows, with_end, write_rows, write_whole_rows
from saucer.core.lut.table import Lut, red_fastest
from saucer.core.numeric.blending import MODES, blend
from saucer.core.numeric.blur import blur
from saucer.core.numeric.planes import through
from saucer.core.pictures.scopes import histogram, outside
from saucer.core.steps.kinds import kinds


def warm(report: Callable[[str], None] = lambda what: None) -> None:
    """Takes about a second with compiled kernels on disk, minutes without on a busy machine. report: called with what comes next"""
    report("LUTs")
    for encoding in ("srgb", "linear-709"):
        lut = sample_look(prepare(look_from({"input": encoding, "output": encoding})), 5)
        for dtype in (np.float32, np.uint8, np.uint16):
            apply_lut(lut, np.zeros((2, 2, 3), dtype))
            apply_lut(Lut(lattice=lut.lattice), np.zeros((2, 2, 3), dtype), "trilinear")
    # Pictures and ramps that several use are kept from being written into; for a compiler they are of another type.
    kept = np.zeros((2, 2, 3), np.float32)
    kept.flags.writeable = False
    apply_lut(Lut(lattice=lut.lattice), kept)
    apply_lut(Lut(lattice=lut.lattice), kept, "trilinear")
    report("steps")
    examples = [{"kind": kind.kind} | example for kind in kinds().values() for example in kind.examples]
    render(prepare(look_from({"strength": 0.5, "steps": examples})), np.zeros((24, 24, 3), np.float32))
    blur(np.zeros((8, 8, 3), np.float32), 4.0)  # wide, which nothing is in so small a picture
    report("conversions between encodings")
    srgb, wide = ENCODINGS["srgb"], ENCODINGS["linear-2020"]
    for target in ENCODINGS.values():
        for source in (srgb, wide):
            ways = [conversion(*ends, "scale", scale=ToneScale(shoulder=1.5)) for ends in ((source, target), (target, source))]
            for operation in (
                conversion(source, target, "soft", 4.0, "compress"), conversion(target, source, "soft", 4.0, "clip"), *ways,
            ):  # fmt: skip
                if operation is not None:
                    through(operation, np.zeros((2, 3), np.float32))
    for method in ("bt2446-a", "bt2446-c"):
        for ends in ((ENCODINGS["pq"], srgb), (srgb, ENCODINGS["pq"])):
            operation = conversion(*ends, method)
            if operation is not None:
                through(operation, np.zeros((2, 3), np.float32))
    report("blend modes, health, scopes")
    for mode in MODES:
        blend(mode, np.zeros((3, 2), np.float32), np.zeros((3, 2), np.float32))
    as_lut(grid(3), 3, srgb)
    red_fastest(np.zeros((8, 3), np.float32), 2)
    write_whole_rows(np.zeros((2, 3), np.uint32))
    difference_of_light(np.zeros((2, 3), np.float32), np.zeros((2, 3), np.float32))
    examine(lut)
    invert(lut, 3)
    histogram(np.zeros((2, 3), np.float32), srgb)
    outside(np.zeros((2, 3), np.float32))
    report("clips")
    for samples in (np.uint8, np.uint16):
        planes = np.zeros((2, 2), samples), np.zeros((1, 1), samples), np.zeros((1, 1), samples)
        from_rgb(np.zeros((2, 2, 3), np.float32), planes, Layout(2, 2, 8), Coding("bt709", full=False))
        to_rgb(planes, 2, 2, Layout(2, 2, 8), Coding("bt709", full=False))
    text = with_end(write_rows(np.zeros((2, 3), np.float32)))
    read_rows(text, 0, 1, np.empty((2, 3), np.float32), 0, 2)


if __name__ == "__main__":
    warm(lambda what: print(f"  {what}", flush=True))
