"""look.*: steps on lattices, beside the same steps in plain NumPy; and what keeping the steps before the edited one wins."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import cycle

import numpy as np
from tests import numpy_steps
from tests.make import CHANGED, CHANGED_SPATIAL, LUTS

from bench.measure import Result, compare
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.engine.cache import PrefixCache
from saucer.core.engine.evaluate import evaluate, sample_look
from saucer.core.engine.plan import prepare
from saucer.core.look.model import Look, look_from
from saucer.core.lut.domain import grid
from saucer.core.numeric.planes import through
from saucer.core.steps.kinds import pixel_kinds, spatial_kinds
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


def every_spatial_kind() -> Look:
    """All kinds there are that look at more than one pixel, as strong as the tests have them, behind every per-pixel kind."""
    every = every_kind()
    spatial = [CHANGED_SPATIAL[kind] for kind in spatial_kinds() if kind not in ("vignette", "grain")]
    return look_from(
        {"steps": [*(step.model_dump() for step in every.steps[:-2]), *spatial, *(step.model_dump() for step in every.steps[-2:])]}
    )


def _with_strength(look: Look, index: int, strength: float) -> Look:
    """As a designer drags the strength of one step."""
    steps = list(look.steps)
    steps[index] = steps[index].model_copy(update={"strength": float(strength)})
    return look.model_copy(update={"steps": tuple(steps)})


def run() -> Iterator[Result]:
    look = ten_steps()
    for size in (17, 33, 65):
        x = grid(size)
        budget = 4 if size == 33 else 0
        yield compare(
            f"look.10steps.{size}",
            lambda x=x: evaluate(prepare(look), x),
            "NumPy, float32",
            lambda x=x: numpy_steps.look(look, x),
            budget,
        )
    cache = PrefixCache()
    dragged = cycle(_with_strength(look, 5, strength) for strength in np.linspace(0.3, 0.9, 24).round(3))
    yield compare(
        "look.10steps.33.kept",
        lambda: sample_look(prepare(next(dragged)), 33, cache),
        "all ten steps anew",
        lambda: sample_look(prepare(next(dragged)), 33),
        0,
    )
    junction = Junction(ENCODINGS["srgb"], luts=LUTS)
    for kind, setting in CHANGED.items():
        step = pixel_kinds()[kind].parameters.model_validate(setting)
        operation = pixel_kinds()[kind].prepare(step, junction)
        for size in (17, 33, 65):
            x = grid(size)

            def theirs(step=step, x=x) -> np.ndarray:  # type: ignore[no-untyped-def]
                return numpy_steps.one(step, x, ENCODINGS["srgb"], LUTS)[0]

            rounds = 15 if size < 65 else 5
            yield compare(f"look.{kind}.{size}", lambda op=operation, x=x: through(op, x), "NumPy, float32", theirs, 0, rounds)


def without_spatial(look: Look) -> Look:
    """What a lattice holds of it."""
    return look.model_copy(update={"steps": tuple(step for step in look.steps if step.kind not in spatial_kinds())})
