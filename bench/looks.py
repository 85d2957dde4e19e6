"""look.*: steps on lattices, beside the same steps in plain NumPy; and what keeping the steps before the edited one wins."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
from tests import numpy_steps
from tests.make import CHANGED, LUTS

from bench.measure import Result, compare
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.evaluate import evaluate, sampled
from saucer.core.lattice_cache import LatticeCache
from saucer.core.look import Look, look_from
from saucer.core.lut.table import nodes
from saucer.core.planes import through
from saucer.core.steps import step_kinds
from saucer.core.steps.registry import Junction

TEN = ("white-balance", "tone", "curves", "levels", "channel-mix", "saturation", "hue-bands", "split-tone", "cdl", "wash")


def ten_steps() -> Look:
    """Ten kinds in the usual order of work, some at part strength, four of them in a group."""
    steps = [CHANGED[kind] | ({"strength": 0.7} if kind in ("hue-bands", "wash") else {}) for kind in TEN]
    return look_from({"steps": [*steps[:4], {"kind": "group", "strength": 0.8, "steps": steps[4:8]}, *steps[8:]]})


def every_kind() -> Look:
    """Every per-pixel kind there is, a vignette and grain on top."""
    steps = [CHANGED[kind] for kind in CHANGED if kind not in ("convert", "limit")]
    way = [{"kind": "convert", "to": "acescct"}, {"kind": "convert", "to": "srgb", "gamut": "compress"}]
    finish = [CHANGED["limit"], {"kind": "vignette", "amount": 0.5}, {"kind": "grain", "amount": 0.4, "colour": True}]
    return look_from({"steps": [*steps, *way, *finish]})


def run() -> Iterator[Result]:
    look = ten_steps()
    for size in (17, 33, 65):
        x = nodes(size)
        budget = 4 if size == 33 else 0
        yield compare(
            f"look.10steps.{size}", lambda x=x: evaluate(look, x), "NumPy, float32", lambda x=x: numpy_steps.look(look, x), budget
        )
    cache = LatticeCache()
    yield compare(
        "look.10steps.33.kept", lambda: sampled(look, 33, cache=cache, edited=5), "all ten steps anew", lambda: sampled(look, 33), 0
    )
    junction = Junction(ENCODINGS["srgb"], luts=LUTS)
    for kind, setting in CHANGED.items():
        step = step_kinds()[kind].parameters.model_validate(setting)
        operation = step_kinds()[kind].prepare(step, junction)
        for size in (17, 33, 65):
            x = nodes(size)

            def theirs(step=step, x=x) -> np.ndarray:  # type: ignore[no-untyped-def]
                return numpy_steps.one(step, x, ENCODINGS["srgb"], LUTS)[0]

            rounds = 15 if size < 65 else 5
            yield compare(f"look.{kind}.{size}", lambda op=operation, x=x: through(op, x), "NumPy, float32", theirs, 0, rounds)
