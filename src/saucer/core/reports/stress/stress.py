"""Where a look breaks: every measure's worst over a set of pictures, ramps and LUT sizes, the step that does it, and what would help."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field

import numpy as np

from saucer.core.bake.bake import sample_for
from saucer.core.bake.fidelity import Truth, measure
from saucer.core.engine.plan import Plan, Stage, prepare
from saucer.core.errors import SaucerError
from saucer.core.files.formats.cube import FORMAT as CUBE
from saucer.core.look.model import Look
from saucer.core.pictures.scale import unheard
from saucer.core.reports.stress.limits import LIMITS
from saucer.core.reports.stress.pictures import PICTURE_WORDS, Place, Strain, strain
from saucer.core.reports.stress.ramps import RAMP_WORDS, Along, strain_ramps
from saucer.core.reports.stress.remedies import Remedy, remedies_for, with_remedy, without
from saucer.core.steps.pixel.convert import Convert
from saucer.core.steps.registry import Luts, no_luts

SIZES = (17, 33, 65)
DECIDING = 33
SMALL = (480, 270)
"""Width and height that small copies of pictures fit into."""
SAMPLED = 60_000
"""Pixels of the whole set by which LUTs of it are measured."""
HELPS = 0.2
"""Share of what is too much that leaving a step out must take away for it to be the one that does it."""


@dataclass(frozen=True)
class Subject:
    """pixels: (h, w, 3) float32 code values of the look's input, a small copy of a whole picture"""

    name: str
    pixels: np.ndarray


@dataclass(frozen=True)
class Break:
    """One measure beyond its limit.

    times: how many times its limit; on: the worst picture, or ramp; place: on that picture; failing: how many pictures are beyond it
    path, id, title: the step without which it is least, empty where no single one does it; remedy: None where nothing tried helps
    """

    what: str
    figure: float
    times: float
    words: str
    on: str
    place: Place | None
    failing: int
    path: str = ""
    id: str = ""
    title: str = ""
    remedy: Remedy | None = None


@dataclass(frozen=True)
class Stress:
    """breaks: the worst first; figures: the worst of every measure, within its limit or not; pictures: how many were asked

    sizes: LUT size -> 99th percentile of CIEDE2000 from the look, of the sort of colours that comes out worst
    """

    breaks: tuple[Break, ...]
    figures: dict[str, float]
    pictures: int
    sizes: dict[int, float]


Measured = Mapping[str, Strain | Along]
"""By what is measured: everything that one picture, the ramps or a LUT say at once."""


@dataclass
class _Worst:
    """on: also tells which of the things that are measured it is; measure: all that this thing says of a look"""

    figure: float = 0.0
    on: str = ""
    place: Place | None = None
    words: str = ""
    failing: int = 0
    of_picture: bool = False
    measure: Callable[[Plan], Measured] = field(default=lambda plan: {})


class _Trials:
    """Changed looks on what is measured, each once: most of what breaks does so on the same few pictures."""

    def __init__(self, luts: Luts) -> None:
        self._luts = luts
        self._done: dict[tuple[str, int], Measured | None] = {}

    def measure(self, look: Look, one: _Worst) -> Measured | None:
        """None where such a look cannot be: a step stood on what another left behind."""
        key = (look.content_hash, id(one.measure))
        if key not in self._done:
            try:
                plan = prepare(look, self._luts)
                plan.check_end()
                self._done[key] = one.measure(plan)
            except SaucerError:
                self._done[key] = None
        return self._done[key]


def find_breaks(
    look: Look,
    subjects: Iterable[Subject],
    luts: Luts = no_luts,
    limits: Mapping[str, float] = LIMITS,
    report: Callable[[float], None] = unheard,
    count: int = 0,
) -> Stress:
    """subjects: read one after the other; of each measure the worst is kept, so that memory does not grow with their number

    report: is told the share done, of `count` pictures; what it raises ends the work
    Raises: SaucerError as prepare, and where the look ends in another encoding than it declares
    """
    plan = prepare(look, luts)
    plan.check_end()
    worst: dict[str, _Worst] = {}
    trials = _Trials(luts)
    sample, pictures = [], 0
    for pictures, subject in enumerate(subjects, 1):
        report(0.7 * (pictures - 1) / max(count, pictures))
        measure_picture = _of_picture(subject.pixels)
        for what, found in measure_picture(plan).items():
            _keep_picture(worst, what, found, subject.name, measure_picture, limits)
        sample.append(_some(subject.pixels, max(200, SAMPLED // max(count, 1))))
    report(0.7)
    for what, along in strain_ramps(plan).items():
        words = RAMP_WORDS[what].format(figure=along.figure, at=along.at)
        worst[what] = _Worst(along.figure, f"the {along.ramp} ramp", None, words, measure=strain_ramps)
    seen = np.concatenate(sample)[None] if sample else None
    sizes = _sizes(plan, seen)
    report(0.8)
    words = f"as a LUT of {DECIDING} nodes, colours are off by {sizes[DECIDING]:.1f}; " + ", ".join(
        f"{value:.1f} with {size}" for size, value in sizes.items() if size != DECIDING
    )
    worst["lut"] = _Worst(
        sizes[DECIDING], "a LUT", None, words, measure=lambda one: {"lut": Strain(_size(Truth(one, seen), DECIDING))}
    )
    breaks = []
    for what, one in worst.items():
        if abs(one.figure) > limits[what]:
            breaks.append(_explain(look, plan, trials, what, one, worst, limits))
            report(0.8 + 0.2 * len(breaks) / len(worst))
    breaks.sort(key=lambda one: -one.times)
    return Stress(tuple(breaks), {what: one.figure for what, one in worst.items()}, pictures, sizes)


def _of_picture(pixels: np.ndarray) -> Callable[[Plan], dict[str, Strain]]:
    return lambda plan: strain(plan, pixels)


def _keep_picture(
    worst: dict[str, _Worst], what: str, found: Strain, name: str, measure_picture: Callable[[Plan], Measured],
    limits: Mapping[str, float],
) -> None:  # fmt: skip
    kept = worst.setdefault(what, _Worst(of_picture=True))
    kept.failing += abs(found.figure) > limits[what]
    if abs(found.figure) > abs(kept.figure):
        kept.figure, kept.on, kept.place, kept.measure = found.figure, name, found.place, measure_picture
        kept.words = PICTURE_WORDS[what].format(figure=found.figure, share=_share(found.figure))


def _share(share: float) -> str:
    return f"{share * 100:.1f} %" if share < 0.1 else f"{share * 100:.0f} %"


def _some(pixels: np.ndarray, most: int) -> np.ndarray:
    flat = pixels.reshape(-1, 3)
    return flat[:: max(1, len(flat) // most)]


def _sizes(plan: Plan, seen: np.ndarray | None) -> dict[int, float]:
    truth = Truth(plan, seen)
    return {size: _size(truth, size) for size in SIZES}


def _size(truth: Truth, size: int) -> float:
    return measure(truth, sample_for(truth.plan, CUBE, size)[0]).p99


def _explain(
    look: Look, plan: Plan, trials: _Trials, what: str, one: _Worst, worst: Mapping[str, _Worst], limits: Mapping[str, float]
) -> Break:
    guilty = _find_guilty(look, plan, trials, what, one, limits[what])
    times = abs(one.figure) / max(limits[what], 1e-9)
    if guilty is None:
        return Break(what, one.figure, times, one.words, one.on, one.place, one.failing)
    remedy = _find_remedy(look, plan, trials, what, guilty, one, worst, limits)
    return Break(
        what, one.figure, times, one.words, one.on, one.place, one.failing, guilty.path, guilty.step.id, guilty.title, remedy
    )


def _find_guilty(look: Look, plan: Plan, trials: _Trials, what: str, one: _Worst, limit: float) -> Stage | None:
    """By leaving each step out: the one without which the figure is least, where that takes away enough of what is too much."""
    least, guilty = abs(one.figure) - HELPS * (abs(one.figure) - limit), None
    for stage in plan.walk():
        if stage.kind is None or not stage.acts or isinstance(stage.step, Convert):
            continue
        found = trials.measure(without(look, stage.place), one)
        if found is not None and abs(found[what].figure) < least:
            least, guilty = abs(found[what].figure), stage
    return guilty


def _find_remedy(
    look: Look, plan: Plan, trials: _Trials, what: str, guilty: Stage, one: _Worst, worst: Mapping[str, _Worst],
    limits: Mapping[str, float],
) -> Remedy | None:  # fmt: skip
    """The gentlest with which it is within its limit, and nothing else that held is beyond one on the same picture."""
    for remedy in remedies_for(what, look, guilty.place, plan.end):
        found = trials.measure(with_remedy(look, remedy), one)
        if found is None or abs(found[what].figure) > limits[what]:
            continue
        # What ramps and LUTs measure is about one thing each; of a picture, the rest must not get worse for it.
        harmed = one.of_picture and any(
            abs(each.figure) > max(limits[name], abs(worst[name].figure)) for name, each in found.items()
        )
        if not harmed:
            return remedy
    return None
