"""How well a baked LUT does what the look does: on a picture, on several sorts of colours, and at the middle of every cell."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, fields

import numpy as np

from saucer.core.bake.bake import held_words, round_as_written, sample_for
from saucer.core.bake.colours import Sort, colours_for
from saucer.core.colour.conversion import convert, to_linear_709
from saucer.core.colour.difference_fast import difference_of_light
from saucer.core.colour.encodings import ENCODINGS, Encoding
from saucer.core.colour.itp import difference_itp
from saucer.core.colour.transfer import hdr
from saucer.core.engine.evaluate import evaluate
from saucer.core.engine.lattice import SHAPER, Shaper
from saucer.core.engine.plan import Plan
from saucer.core.errors import LutError
from saucer.core.files.format import PLAIN, Format, Options
from saucer.core.lut.apply import apply_lut
from saucer.core.lut.table import Lattice, Lut

WANTED_P99 = 0.5
SURVEYED_SIZES = (17, 25, 33, 49, 65)
MOST_CELLS = 64
"""Cells a side whose middles are all measured; of a larger lattice every second one, or third."""
WORST = 6
APART = 0.1
"""Two worst colours, or two places, are told apart from this distance on: in code values, and in picture heights."""


@dataclass(frozen=True)
class Spread:
    """Differences over one set of colours."""

    mean: float
    p95: float
    p99: float
    largest: float

    @staticmethod
    def of(differences: np.ndarray) -> Spread:
        p95, p99 = np.percentile(differences, [95, 99])
        return Spread(float(differences.mean()), float(p95), float(p99), float(differences.max()))


Rgb = tuple[float, float, float]


@dataclass(frozen=True)
class Worst:
    """A colour that comes out wrong.

    source: code values that go in; shown, exact, baked: in, meant and got as sRGB, 0..1; place: x and y, 0..1 of the picture
    """

    difference: float
    source: Rgb
    shown: Rgb
    exact: Rgb
    baked: Rgb
    place: tuple[float, float] | None


@dataclass(frozen=True)
class Sorts:
    """What differs on each sort of colours by itself; where there are several sets of a sort, on the worst of them."""

    picture: Spread | None
    uniform: Spread
    neutral: Spread
    dark: Spread
    skin: Spread

    @property
    def worst(self) -> tuple[str, Spread]:
        """The sort with the largest 99th percentile."""
        found = [(field.name, getattr(self, field.name)) for field in fields(self)]
        return max((one for one in found if one[1] is not None), key=lambda one: one[1].p99)


@dataclass(frozen=True)
class Fidelity:
    """One LUT against the look. size: nodes a side of its lattice; 0 for curves and formulas, which have none

    colours: CIEDE2000; itp: Delta E ITP (BT.2124) as well, where the output is PQ or HLG
    cells, trilinear: CIEDE2000 in the middles of cells, and on uniform colours by a reader that interpolates trilinearly
    """

    size: int
    colours: Sorts
    itp: Sorts | None
    cells: Spread
    trilinear: Spread
    worst: tuple[Worst, ...]

    @property
    def deciding(self) -> tuple[str, Spread]:
        """The sort of colours that comes out worst, by either difference, and how."""
        found = [sorts.worst for sorts in (self.colours, self.itp) if sorts is not None]
        return max(found, key=lambda one: one[1].p99)

    @property
    def p99(self) -> float:
        """Of the sort of colours that comes out worst."""
        return self.deciding[1].p99


class Truth:
    """What the look makes of the colours that are measured; worked out once for all sizes and formats.

    picture: (h, w, 3) float32 code values of the look's input encoding, or None
    """

    def __init__(self, plan: Plan, picture: np.ndarray | None = None) -> None:
        self.plan, self.shape = plan, picture.shape[:2] if picture is not None else None
        self.source, self.target = plan.source, plan.end
        sets = [] if picture is None else [picture.reshape(-1, 3)]
        self.count = len(sets[0]) if sets else 0
        self.parts: dict[Sort, tuple[slice, ...]] = {}
        begin = self.count
        for sort, chosen in colours_for(self.source).items():
            ends = begin + np.cumsum([len(one) for one in chosen])
            self.parts[sort] = tuple(slice(end - len(one), end) for one, end in zip(chosen, ends.tolist(), strict=True))
            sets += chosen
            begin = int(ends[-1])
        self.inputs = np.concatenate(sets)
        self.exact = evaluate(plan, np.ascontiguousarray(self.inputs, np.float32))
        self.light = self.light_of(self.exact)

    @property
    def is_hdr(self) -> bool:
        return self.target.hdr

    def light_of(self, values: np.ndarray) -> np.ndarray:
        """Linear BT.709 light as the screen or projector of the output shows it: a display clips what it cannot show."""
        if math.isfinite(self.target.top):
            values = np.clip(values, 0, float(self.target.transfer.encode(np.array(self.target.top))))
        if self.target.transfer is hdr.HLG:  # through the OOTF of a display of 1000 cd/m2
            return to_linear_709(convert(values, self.target, ENCODINGS["pq"]), ENCODINGS["pq"])
        return to_linear_709(values, self.target)

    def middles(self, size: int) -> np.ndarray:
        """(m, 3) inputs at the middles of the cells of a lattice."""
        step = -(-(size - 1) // MOST_CELLS)
        axis = (np.arange(0, size - 1, step, dtype=np.float32) + np.float32(0.5)) / np.float32(size - 1)
        grid = np.stack(np.meshgrid(axis, axis, axis, indexing="ij"), axis=-1).reshape(-1, 3)
        return SHAPER.light(grid) if self.source.linear else grid

    def sorted_out(self, differences: np.ndarray) -> Sorts:
        """Differences of all inputs, told apart."""

        def worst(sort: Sort) -> Spread:
            return max((Spread.of(differences[part]) for part in self.parts[sort]), key=lambda spread: spread.p99)

        picture = Spread.of(differences[: self.count]) if self.count else None
        return Sorts(picture, worst("uniform"), worst("neutral"), worst("dark"), worst("skin"))


def measure(truth: Truth, lut: Lut) -> Fidelity:
    """A LUT, as it is read from its file, against the look."""
    light = truth.light_of(apply_lut(lut, truth.inputs))
    differences = difference_of_light(truth.light, light)
    size = max((link.size for link in lut.chain if isinstance(link, Lattice)), default=0)
    middles = truth.middles(size or 33)
    exact = truth.light_of(evaluate(truth.plan, middles))
    cells = difference_of_light(exact, truth.light_of(apply_lut(lut, middles)))
    (uniform,) = truth.parts["uniform"]
    trilinear = truth.light_of(apply_lut(lut, truth.inputs[uniform], "trilinear"))
    return Fidelity(
        size,
        truth.sorted_out(differences),
        truth.sorted_out(difference_itp(truth.light, light)) if truth.is_hdr else None,
        Spread.of(cells),
        Spread.of(difference_of_light(truth.light[uniform], trilinear)),
        tuple(_worst(truth, differences, light)),
    )


def _worst(truth: Truth, differences: np.ndarray, light: np.ndarray) -> list[Worst]:
    """The worst colours that are not near each other, those of the picture with their place."""
    srgb, linear = ENCODINGS["srgb"], ENCODINGS["linear-709"]

    def shown(values: np.ndarray, source: Encoding) -> Rgb:
        r, g, b = np.clip(convert(values[None], source, srgb)[0], 0, 1)
        return float(r), float(g), float(b)

    found: list[Worst] = []
    taken: list[np.ndarray] = []
    for part in (slice(0, truth.count), slice(truth.count, None)):
        offset = part.start
        candidates = offset + np.argsort(differences[part])[::-1][:4000]
        kept = 0
        for at in candidates:
            near = any(np.abs(truth.inputs[at] - other).max() < APART for other in taken)
            if near or differences[at] < 1e-3:
                continue
            taken.append(truth.inputs[at])
            place = None
            if at < truth.count and truth.shape:
                row, column = divmod(int(at), truth.shape[1])
                place = ((column + 0.5) / truth.shape[1], (row + 0.5) / truth.shape[0])
            r, g, b = (float(v) for v in truth.inputs[at])
            found.append(
                Worst(
                    float(differences[at]), (r, g, b), shown(truth.inputs[at], truth.source), shown(truth.light[at], linear),
                    shown(light[at], linear), place,
                )
            )  # fmt: skip
            kept += 1
            if kept == WORST // 2:
                break
    return sorted(found, key=lambda worst: -worst.difference)


@dataclass(frozen=True)
class Report:
    """Fidelity by size for one format, and the smallest of its sizes that is good enough; None when none is.

    lost: what the format could not hold, in words, at the proposed or else the largest size
    """

    form: str
    depth: int
    sizes: tuple[Fidelity, ...]
    proposed: int | None
    lost: tuple[str, ...]


def survey(
    truth: Truth,
    form: Format,
    options: Options = PLAIN,
    sizes: Sequence[int] = SURVEYED_SIZES,
    tolerance: float = WANTED_P99,
    report: Callable[[], None] = lambda: None,
    shaper: Shaper = SHAPER,
) -> Report:
    """Every size in one format, its rounding included.

    report: called before each size; what it raises ends the work. Raises: LutError where the format cannot hold the look
    """
    found: list[Fidelity] = []
    lost: tuple[str, ...] = ()
    proposed = None
    for size in dict.fromkeys(form.holds.size_for(size) for size in sorted(sizes)):
        report()
        lut, words = sample_for(truth.plan, form, size, shaper)
        one = measure(truth, round_as_written(lut, form, options))
        found.append(one)
        if proposed is None:
            lost = words
        if proposed is None and one.p99 < tolerance:
            proposed = one.size
        if one.size == 0:
            break  # the other sizes would be the same file
    if not found:
        raise LutError("sizes", "give at least one size")
    if held_words(shaper) in lost and truth.count:
        light = truth.inputs[: truth.count]
        beyond = ((light < 0) | (light > shaper.top)).any(axis=1).mean()
        told = f"{held_words(shaper)} ({beyond * 100:.2g} % of this picture's pixels)"
        lost = tuple(told if one == held_words(shaper) else one for one in lost)
    return Report(form.id, options.depth or (form.holds.depths[0] if form.holds.depths else 0), tuple(found), proposed, lost)
