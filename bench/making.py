"""towards.*, apart.*, stress.*: looks made and tested by the core alone, beside what somebody is ready to wait."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from bench.looks import ten_steps
from bench.measure import Result, against_budget
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.engine.evaluate import sample_look, show_on_srgb
from saucer.core.engine.lattice import SHAPER
from saucer.core.engine.plan import prepare
from saucer.core.engine.rendering import render
from saucer.core.look.model import look_from
from saucer.core.making.apart.apart import take_apart
from saucer.core.making.towards.towards import propose
from saucer.core.pictures.scale import make_proxy
from saucer.core.reports.stress.stress import SMALL, Subject, find_breaks
from saucer.demo.catalogue import FOLDER, PICTURES

ROUNDS = 5
PRINT = {"kind": "curves", "red": [[0, 0.03], [0.5, 0.56], [1, 0.97]], "blue": [[0, 0.08], [0.5, 0.47], [1, 0.9]]}


def run() -> Iterator[Result]:
    srgb = ENCODINGS["srgb"]
    pictures = [
        (how.name, make_proxy(FOLDER / how.file, ENCODINGS[how.encoding], *SMALL)[0]) for how in PICTURES if how.encoding == "srgb"
    ]
    look = look_from({"input": "srgb", "output": "srgb", "steps": [PRINT, {"kind": "saturation", "factor": 0.8}]})
    plan = prepare(look)
    graded = np.clip(show_on_srgb(render(plan, pictures[0][1]), plan.end, plan.view), 0, 1)
    yield against_budget("towards.one", lambda: propose([pictures[1][1]], srgb, graded), "2 s", 2000, 1, ROUNDS)
    table = sample_look(plan, 33, shaper=SHAPER)
    yield against_budget("apart.33", lambda: take_apart(table, srgb, srgb), "3 s", 3000, 1, ROUNDS)
    subjects = [Subject(name, pixels) for name, pixels in pictures]
    tested = ten_steps()
    yield against_budget(
        f"stress.{len(subjects)}",
        lambda: find_breaks(tested, subjects, count=len(subjects)),
        "2 s a picture",
        2000 * len(subjects),
        1,
        ROUNDS,
    )
