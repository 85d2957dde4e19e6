"""A LUT taken apart: steps that can be edited and do what it does, and a last LUT that holds what they do not explain.

The steps are fitted in what the LUT gives, after a conversion where it expects another encoding; those that do not pay are left out, and
curves keep points only where they bend. Codes that the LUT gives are held to 0..1, and those that it takes are held where it holds them.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

import numpy as np

from saucer.core.bake.fidelity import Spread
from saucer.core.colour.conversion import convert
from saucer.core.colour.difference_fast import difference_of_light
from saucer.core.colour.encodings import Encoding
from saucer.core.colour.rendering import View
from saucer.core.errors import LutError
from saucer.core.lut.apply import apply_lut
from saucer.core.lut.domain import grid, halton
from saucer.core.lut.scattered import fit_change
from saucer.core.lut.table import Lattice, Lut
from saucer.core.making.apart.fitting import Sample, fit
from saucer.core.making.apart.parts import MODELS, PLACES, Part, fewer_points
from saucer.core.making.apart.seen import codes_of_seen, lab_of, light_of
from saucer.core.numeric.planes import from_planes
from saucer.core.steps.kinds import pixel_kinds
from saucer.core.steps.parameters import StepParameters
from saucer.core.steps.pixel.curves import Curves
from saucer.core.steps.registry import Junction

FITTED, GREYS, GREY_WEIGHT = 9, 33, 4.0
"""Nodes a side, and greys with their weight, by which steps are fitted."""
GOOD = 0.3
"""Mean CIEDE2000 from which the first model is good enough, and no other is tried."""
PROBES = 8000
"""Colours, spread evenly over what the LUT gives, or what a display shows of it, by which it is measured."""
REST_NODES, REST_SEEN = 33, 49
"""Nodes a side of the last LUT, and of the colours that it is made of."""
REST_WEIGHT = 2e3
PAYS = (0.02, 0.5)
"""By how much mean CIEDE2000 a step must lower the error to stay, from *close* to *simple*."""
FEWER_TRIED = 2
BENT = (1 / 1020, 8 / 255)
"""By how much a curve may be off, in code values, to lose a point; from *close* to *simple*."""


@dataclass(frozen=True, eq=False)
class Apart:
    """steps: in what the LUT gives, after a conversion where it expects something else

    shares: by how much the mean error would rise without each of them, CIEDE2000
    untouched, explained, whole: how far from the LUT is doing nothing, the steps alone, and the steps with the rest
    rest: what the steps do not explain, from what they make to what the LUT makes, in the same encoding
    """

    steps: tuple[StepParameters, ...]
    shares: tuple[float, ...]
    untouched: Spread
    explained: Spread
    whole: Spread
    rest: Lut


def take_apart(
    lut: Lut, expects: Encoding, gives: Encoding, simple: float = 0.3, view: View = "soft",
    report: Callable[[float], None] = lambda share: None,
) -> Apart:  # fmt: skip
    """simple: 0 as close as it can be .. 1 only what matters most

    view: by which what the LUT expects is brought to what it gives; report: told the share done, what it raises ends the work
    Raises: LutError for a LUT that gives linear light, whose codes 0..1 end where white begins
    """
    if gives.linear:
        raise LutError(
            "gives", f"is linear light ({gives.name}), which goes on above 1; a LUT that gives codes 0 to 1 is taken apart"
        )
    work = _Work(lut, expects, gives, view)
    parts, numbers = _best_model(work, report)
    report(0.7)
    parts, numbers = _only_what_pays(work, parts, numbers, simple)
    steps = tuple(_plainer(part.make(one), simple) for part, one in zip(parts, numbers, strict=True))
    shares = tuple(work.error([step for step in steps if step is not one]).mean - work.error(steps).mean for one in steps)
    report(0.8)
    rest = _rest(work, steps)
    return Apart(steps, shares, work.error(()), work.error(steps), work.error(steps, rest), rest)


class _Work:
    """The LUT as it acts on colours of what it gives: from there to what it expects, and through it."""

    def __init__(self, lut: Lut, expects: Encoding, gives: Encoding, view: View) -> None:
        self.lut, self.expects, self.gives, self.view = lut, expects, gives, view
        self.junction = Junction(gives, view=view)
        self.probes = codes_of_seen(halton(PROBES).copy(), self.junction)
        self.wanted = self.made(self.probes)

    def made(self, values: np.ndarray) -> np.ndarray:
        """(n, 3) float32 code values of what it gives, before and after."""
        taken = np.ascontiguousarray(convert(values, self.gives, self.expects, self.view), np.float32)
        return np.clip(apply_lut(self.lut, taken), 0, 1)

    def sample(self) -> Sample:
        greys = np.repeat(np.linspace(0, 1, GREYS, dtype=np.float32)[:, None], 3, axis=1)
        values = np.concatenate([codes_of_seen(grid(FITTED), self.junction), greys])
        weight = np.concatenate([np.ones(FITTED**3), np.full(GREYS, GREY_WEIGHT)])
        aim = lab_of(np.ascontiguousarray(self.made(values).T), self.junction)
        return Sample(np.ascontiguousarray(values.T), aim, weight)

    def through(self, values: np.ndarray, steps: Sequence[StepParameters]) -> np.ndarray:
        planes = np.array(values.T, np.float32, order="C")
        for step in steps:
            kind = pixel_kinds()[step.kind]
            if not kind.neutral(step):
                kind.prepare(step, self.junction)(planes)
        return np.clip(from_planes(planes), 0, 1)

    def error(self, steps: Sequence[StepParameters], rest: Lut | None = None) -> Spread:
        """CIEDE2000 between the LUT and the steps, and the rest where it is given."""
        seen = self.through(self.probes, steps)
        seen = seen if rest is None else np.clip(apply_lut(rest, seen), 0, 1)
        return Spread.of(difference_of_light(light_of(seen, self.junction), light_of(self.wanted, self.junction)))


def _best_model(work: _Work, report: Callable[[float], None]) -> tuple[tuple[Part, ...], list[np.ndarray]]:
    """The first model that is good enough, else the one that comes closest."""
    sample, found = work.sample(), []
    for index, parts in enumerate(MODELS):

        def told(share: float, at: int = index) -> None:
            report(0.7 * (at + share) / len(MODELS))

        numbers, _ = fit(parts, _begin(work, parts), sample, work.junction, report=told)
        error = work.error([part.make(one) for part, one in zip(parts, numbers, strict=True)]).mean
        found.append((error, index, parts, numbers))
        if error <= GOOD:
            break
    _, _, parts, numbers = min(found, key=lambda one: one[:2])
    return parts, numbers


def _begin(work: _Work, parts: Sequence[Part]) -> list[np.ndarray]:
    """Neutral, but for the curves, which are read off the greys."""
    greys = np.repeat(np.linspace(0, 1, 257, dtype=np.float32)[:, None], 3, axis=1)
    made = work.made(greys)
    begin = []
    for part in parts:
        numbers = part.neutral.copy()
        if part.name == "curves":
            numbers = np.concatenate([np.interp(PLACES, greys[:, channel], made[:, channel]) for channel in range(3)])
        begin.append(numbers)
    return begin


def _only_what_pays(
    work: _Work, parts: tuple[Part, ...], numbers: list[np.ndarray], simple: float
) -> tuple[tuple[Part, ...], list[np.ndarray]]:
    """Parts that explain too little go, the least first, the others fitted anew after each."""
    least = _between(PAYS, simple)
    sample = work.sample()
    while len(parts) > 1:
        whole = work.error([part.make(one) for part, one in zip(parts, numbers, strict=True)]).mean
        # Only those that are missed least as they stand are fitted without.
        missed = [work.error([part.make(one) for other, (part, one) in enumerate(zip(parts, numbers, strict=True)) if other != index]).mean
                  for index in range(len(parts))]  # fmt: skip
        tried = []
        for index in np.argsort(missed)[:FEWER_TRIED].tolist():
            fewer = parts[:index] + parts[index + 1 :]
            fitted, _ = fit(fewer, numbers[:index] + numbers[index + 1 :], sample, work.junction, rounds=4)
            error = work.error([part.make(one) for part, one in zip(fewer, fitted, strict=True)]).mean
            tried.append((error - whole, index, fewer, fitted))
        share, _, fewer, fitted = min(tried, key=lambda one: one[:2])
        if share > least:
            break
        parts, numbers = fewer, fitted
    return parts, fit(parts, numbers, sample, work.junction, rounds=10)[0]


def _plainer(step: StepParameters, simple: float) -> StepParameters:
    return fewer_points(step, _between(BENT, simple)) if isinstance(step, Curves) else step


def _between(ends: tuple[float, float], share: float) -> float:
    low, high = ends
    return float(low * (high / low) ** min(max(share, 0.0), 1.0))


def _rest(work: _Work, steps: Sequence[StepParameters]) -> Lut:
    values = grid(REST_SEEN)
    seen = work.through(values, steps)
    change = (work.made(values) - seen).astype(np.float64)
    weight = np.full(len(values), REST_WEIGHT)
    found = fit_change(seen, change, weight, REST_NODES, np.zeros((REST_NODES**3, 3)), steps=120)
    table = np.clip(grid(REST_NODES) + found, 0, 1).astype(np.float32)
    return replace(Lut(lattice=Lattice(table.reshape((REST_NODES,) * 3 + (3,)))), title="What the steps do not explain")
