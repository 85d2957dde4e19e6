"""preview.* and shelf.*: server time for what a person waits for, computing only, without the network."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from bench.measure import Result, against_budget
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.evaluate import sampled, shown
from saucer.core.grade import proxy
from saucer.core.look import Look, look_from
from saucer.core.lut.apply import apply_lut, to_codes
from saucer.demo.catalogue import FOLDER, PICTURES
from saucer.studio.images import encoded


def ten_steps() -> Look:
    """Ten Curves steps, the kinds there are, all four curves bent in each, in two groups."""
    bent = [[0, 0.02], [0.21, 0.17], [0.48, 0.5], [0.8, 0.84], [1, 0.98]]
    step = {"kind": "curves", "master": bent, "red": bent, "green": bent, "blue": bent, "strength": 0.6}
    return look_from({"steps": [{"kind": "group", "strength": 0.8, "steps": [step] * 5}, *[step] * 5]})


def run() -> Iterator[Result]:
    look = ten_steps()
    how = next(one for one in PICTURES if one.scene == "busts")
    picture, _ = proxy(FOLDER / how.file, ENCODINGS[how.encoding], 960, 540)

    def preview(size: int, form: str) -> bytes:
        values = apply_lut(sampled(look, size), picture)
        return encoded(to_codes(shown(values, ENCODINGS["srgb"]), np.uint8), form)  # type: ignore[arg-type]

    budget = "25 ms of server time at p95"
    yield against_budget("preview.10steps.960x540", lambda: preview(33, "jpeg"), budget, 25, 1)
    yield against_budget("preview.10steps.960x540.drag17", lambda: preview(17, "jpeg"), budget, 25, 1)
    yield against_budget("preview.10steps.960x540.rest.png", lambda: preview(33, "png"), "160 ms until the lossless frame", 160, 1)
