"""Making any LUT fit a format, saying in words what is lost, and measuring it on what was written."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from saucer.core.errors import LutError
from saucer.core.files.format import PLAIN, Format, Holds, Options
from saucer.core.lut.apply import apply_lut
from saucer.core.lut.domain import UNIT, ramp, spread_over
from saucer.core.lut.formulas import Cdl
from saucer.core.lut.table import Curve1D, Lut, lut_of
from saucer.core.lut.tables import DEFAULT_SIZE, as_tables, change_domain, resize, sample_whole

CURVES_AS_LATTICE = 65
"""Nodes a side of a lattice that a 1D table is made into."""


@dataclass(frozen=True, eq=False)
class Fit:
    """A LUT as a format can hold it, and a sentence for each thing that had to give way."""

    lut: Lut
    lost: tuple[str, ...]


@dataclass(frozen=True)
class _Target:
    """What the LUT is to fit. size: nodes a side that are asked for, None for its own"""

    form: Format
    options: Options
    size: int | None

    @property
    def holds(self) -> Holds:
        return self.form.holds


Rule = Callable[[Lut, _Target], tuple[Lut, str]]
"""The LUT with one thing made to fit, and what that lost, in words; the LUT itself and nothing where it fits already."""


def fit_lut(lut: Lut, form: Format, options: Options = PLAIN, size: int | None = None) -> Fit:
    """The LUT as this format can hold it.

    size: nodes a side, where a lattice has to be made or resized; without, as near to the LUT's own as the format allows
    Raises: LutError for a 3D LUT into a format that only holds curves, and for a depth the format does not have
    """
    holds = form.holds
    if options.depth and options.depth not in holds.depths:
        known = ", ".join(map(str, sorted(holds.depths))) or "no whole numbers"
        raise LutError("depth", f"{form.name} has {known}, not {options.depth} bits")
    if "cdl" in holds.tables:
        return _nearest_cdl(lut)
    if "links" in holds.tables:
        return Fit(resize(lut, size) if size and not lut.links and lut.lattice else lut, ())
    target, lost = _Target(form, options, size), []
    for rule in RULES:
        lut, words = rule(lut, target)
        lost += [words] if words else []
    return Fit(lut, tuple(lost))


def _sample_links(lut: Lut, target: _Target) -> tuple[Lut, str]:
    if not lut.links:
        return lut, ""
    tables = as_tables(lut, target.holds.size_for(target.size or lut.size or DEFAULT_SIZE))
    return tables, f"its {lut.kind} became a {tables.kind} table of {tables.size}"


def _make_lattice(lut: Lut, target: _Target) -> tuple[Lut, str]:
    if lut.lattice is not None or "1D" in target.holds.tables:
        return lut, ""
    count = target.holds.size_for(target.size or CURVES_AS_LATTICE)
    return sample_whole(lut, count), f"the 1D table became a lattice of {count}"


def _refuse_mixing(lut: Lut, target: _Target) -> tuple[Lut, str]:
    if lut.lattice is not None and target.holds.tables == {"1D"}:
        raise LutError(
            target.form.name, "holds curves only, and this LUT mixes channels; extract its grey axis first, or take another format"
        )
    return lut, ""


def _drop_shaper(lut: Lut, target: _Target) -> tuple[Lut, str]:
    holds = target.holds
    room = "1D + 3D" in holds.tables and (holds.domain or lut.domain == UNIT)
    if lut.shaper is None or lut.lattice is None or room:
        return lut, ""
    count = holds.size_for(target.size or lut.size)
    made = sample_whole(lut, count, None if holds.domain else UNIT)
    return made, f"no room for the shaper: the lattice of {count} is spaced evenly over its input"


def _crop_domain(lut: Lut, target: _Target) -> tuple[Lut, str]:
    if lut.domain == UNIT or target.holds.domain:
        return lut, ""
    span = f"{min(lut.domain[0]):g} to {max(lut.domain[1]):g}"
    return change_domain(lut, UNIT), f"inputs outside 0 to 1 (the LUT has {span})"


def _resize_lattice(lut: Lut, target: _Target) -> tuple[Lut, str]:
    if lut.lattice is None:
        return lut, ""
    wanted = target.size or lut.lattice.size
    count = target.holds.size_for(wanted)
    return resize(lut, count), "" if count == wanted else size_words(wanted, count)


def _shorten_curve(lut: Lut, target: _Target) -> tuple[Lut, str]:
    curve, count = lut.shaper, target.holds.longest
    if curve is None or curve.size <= count:
        return lut, ""
    shorter = Curve1D(apply_lut(lut_of([curve]), ramp(count, curve.domain)), curve.domain)
    return replace(lut, shaper=shorter), f"the 1D table of {curve.size} has {count} samples"


def _tell_clamping(lut: Lut, target: _Target) -> tuple[Lut, str]:
    outside = float(np.mean([((table < 0) | (table > 1)).any(axis=1).mean() for table in lut.tables]))
    if not outside or target.holds.beyond:
        return lut, ""
    return lut, f"{max(outside * 100, 0.01):.2g} % of the entries lie outside 0 to 1 and are held there"


def _tell_rounding(lut: Lut, target: _Target) -> tuple[Lut, str]:
    return lut, f"rounded to {target.options.depth or target.holds.depths[0]} bits" if target.holds.depths else ""


RULES: tuple[Rule, ...] = (
    _sample_links, _make_lattice, _refuse_mixing, _drop_shaper, _crop_domain, _resize_lattice, _shorten_curve, _tell_clamping,
    _tell_rounding,
)  # fmt: skip
"""In the order in which one makes room for the next."""


def size_words(wanted: int, count: int) -> str:
    return f"no file of this kind has {wanted} nodes a side: it has {count}"


def _nearest_cdl(lut: Lut) -> Fit:
    if len(lut.chain) == 1 and isinstance(lut.chain[0], Cdl) and lut.chain[0].style == "FwdNoClamp":
        return Fit(lut, ())
    if len(lut.chain) == 1 and isinstance(lut.chain[0], Cdl) and lut.chain[0].style == "Fwd":
        free = replace(lut.chain[0], style="FwdNoClamp")
        return Fit(replace(lut, links=(free,)), ("no room to say that it holds to 0 to 1: what is outside stays outside",))
    found = replace(nearest_cdl(lut), style="FwdNoClamp")
    return Fit(
        Lut(title=lut.title, comments=lut.comments, links=(found,)),
        ("only slope, offset, power and saturation fit: this is the nearest",),
    )


def nearest_cdl(lut: Lut) -> Cdl:
    """The CDL with the least squared difference from the LUT over its inputs in 0..1."""
    from scipy.optimize import least_squares  # here: to load it takes longer than most commands

    inputs = spread_over(UNIT, 3000)
    wanted = np.clip(apply_lut(lut, inputs), 0, 1)

    def made(p: np.ndarray) -> Cdl:
        values = [float(v) for v in p]
        return Cdl(
            (values[0], values[1], values[2]), (values[3], values[4], values[5]), (values[6], values[7], values[8]), values[9]
        )

    start = np.array([1, 1, 1, 0, 0, 0, 1, 1, 1, 1], float)
    low = np.array([0, 0, 0, -2, -2, -2, 0.05, 0.05, 0.05, 0])
    high = np.array([8, 8, 8, 2, 2, 2, 8, 8, 8, 4])
    solved = least_squares(lambda p: (made(p)(inputs) - wanted).ravel(), start, bounds=(low, high), x_scale=0.1, max_nfev=200)
    return made(np.round(solved.x, 7))


@dataclass(frozen=True, eq=False)
class WrittenLut:
    """A written file, read back: what it lost in words, and by how much the colours moved, in code values, over the LUT's input.

    inside: the same within inputs and outputs of 0..1, where a file that holds no more can be right
    """

    data: bytes
    lut: Lut
    lost: tuple[str, ...]
    mean: float
    largest: float
    inside: float


def write_lut(lut: Lut, form: Format, options: Options = PLAIN, size: int | None = None) -> WrittenLut:
    """Fit, write, read back and measure. Raises: LutError"""
    fit = fit_lut(lut, form, options, size)
    data = form.write(fit.lut, options)
    back = form.read(data)
    inputs = spread_over(lut.domain)
    wanted, got = apply_lut(lut, inputs), apply_lut(back, inputs)
    moved = np.abs(got - wanted).max(axis=1)
    within = ((inputs >= 0) & (inputs <= 1)).all(axis=1) & ((wanted >= 0) & (wanted <= 1)).all(axis=1)
    inside = float(moved[within].max()) if within.any() else float("nan")
    return WrittenLut(data, back, fit.lost, float(moved.mean()), float(moved.max()), inside)
