"""Making any LUT fit a format, saying in words what is lost, and measuring it on what was written."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from saucer.core.errors import LutError
from saucer.core.files import PLAIN, Format, Options
from saucer.core.lut.apply import apply_lut
from saucer.core.lut.halton import over
from saucer.core.lut.nodes import Cdl
from saucer.core.lut.table import UNIT, Curve1D, Lut, lut_of
from saucer.core.lut.tools import DEFAULT_SIZE, as_tables, resized, whole_lattice, with_domain


@dataclass(frozen=True, eq=False)
class Fitted:
    """A LUT as a format can hold it, and a sentence for each thing that had to give way."""

    lut: Lut
    lost: tuple[str, ...]


def fitted(lut: Lut, form: Format, options: Options = PLAIN, size: int | None = None) -> Fitted:
    """The LUT as this format can hold it.

    size: nodes a side, where a lattice has to be made or resized; without, as near to the LUT's own as the format allows
    Raises: LutError for a 3D LUT into a format that only holds curves, and for a depth the format does not have
    """
    holds, lost = form.holds, []
    if options.depth and options.depth not in holds.depths:
        known = ", ".join(map(str, sorted(holds.depths))) or "no whole numbers"
        raise LutError("depth", f"{form.name} has {known}, not {options.depth} bits")
    if "cdl" in holds.tables:
        return _nearest_cdl(lut, form)
    if "nodes" in holds.tables:
        return Fitted(resized(lut, size) if size and not lut.nodes and lut.lattice else lut, ())
    if lut.nodes:
        tables = as_tables(lut, holds.size_for(size or lut.size or DEFAULT_SIZE))
        lost.append(f"its {lut.kind} became a {tables.kind} table of {tables.size}")
        lut = tables
    if lut.lattice is None and "1D" not in holds.tables:
        count = holds.size_for(size or 65)
        lut = whole_lattice(lut, count)
        lost.append(f"the 1D table became a lattice of {count}")
    elif lut.lattice is not None and holds.tables == {"1D"}:
        raise LutError(
            form.name, "holds curves only, and this LUT mixes channels; extract its grey axis first, or take another format"
        )
    if (
        lut.shaper is not None
        and lut.lattice is not None
        and ("1D + 3D" not in holds.tables or (not holds.domain and lut.domain != UNIT))
    ):
        count = holds.size_for(size or lut.size)
        lut = whole_lattice(lut, count, None if holds.domain else UNIT)
        lost.append(f"no room for the shaper: the lattice of {count} is spaced evenly over its input")
    if lut.domain != UNIT and not holds.domain:
        lost.append(f"inputs outside 0 to 1 (the LUT has {_span(lut)})")
        lut = with_domain(lut, UNIT)
    if lut.lattice is not None:
        wanted = size or lut.lattice.size
        count = holds.size_for(wanted)
        if count != wanted:
            lost.append(f"no file of this kind has {wanted} nodes a side: it has {count}")
        lut = resized(lut, count)
    if lut.shaper is not None and lut.shaper.size > holds.longest:
        count = holds.longest
        ramp = np.stack([np.linspace(a, b, count) for a, b in zip(*lut.shaper.domain, strict=True)], axis=1).astype(np.float32)
        lost.append(f"the 1D table of {lut.shaper.size} has {count} samples")
        lut = replace(lut, shaper=Curve1D(apply_lut(lut_of([lut.shaper]), ramp), lut.shaper.domain))
    outside = float(np.mean([((table < 0) | (table > 1)).any(axis=1).mean() for table in lut.tables]))
    if outside and not holds.beyond:
        lost.append(f"{max(outside * 100, 0.01):.2g} % of the entries lie outside 0 to 1 and are held there")
    if holds.depths:
        lost.append(f"rounded to {options.depth or holds.depths[0]} bits")
    return Fitted(lut, tuple(lost))


def _span(lut: Lut) -> str:
    return f"{min(lut.domain[0]):g} to {max(lut.domain[1]):g}"


def _nearest_cdl(lut: Lut, form: Format) -> Fitted:
    if len(lut.chain) == 1 and isinstance(lut.chain[0], Cdl) and lut.chain[0].style == "Fwd":
        return Fitted(lut, ())
    if len(lut.chain) == 1 and isinstance(lut.chain[0], Cdl) and lut.chain[0].style == "FwdNoClamp":
        held = replace(lut.chain[0], style="Fwd")
        return Fitted(replace(lut, nodes=(held,)), ("what lies outside 0 to 1 is held there, as ASC CDL 1.2 does",))
    found = nearest_cdl(lut)
    return Fitted(
        Lut(title=lut.title, comments=lut.comments, nodes=(found,)),
        ("only slope, offset, power and saturation fit: this is the nearest",),
    )


def nearest_cdl(lut: Lut) -> Cdl:
    """The CDL with the least squared difference from the LUT over its inputs in 0..1."""
    from scipy.optimize import least_squares

    inputs = over(UNIT, 3000)
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
class Converted:
    """A written file, read back: what it lost in words, and by how much the colours moved, in code values, over the LUT's input.

    inside: the same within inputs and outputs of 0..1, where a file that holds no more can be right
    """

    data: bytes
    lut: Lut
    lost: tuple[str, ...]
    mean: float
    largest: float
    inside: float


def written(lut: Lut, form: Format, options: Options = PLAIN, size: int | None = None) -> Converted:
    """Fit, write, read back and measure. Raises: LutError"""
    fit = fitted(lut, form, options, size)
    data = form.write(fit.lut, options)
    back = form.read(data)
    inputs = over(lut.domain)
    wanted, got = apply_lut(lut, inputs), apply_lut(back, inputs)
    moved = np.abs(got - wanted).max(axis=1)
    within = ((inputs >= 0) & (inputs <= 1)).all(axis=1) & ((wanted >= 0) & (wanted <= 1)).all(axis=1)
    inside = float(moved[within].max()) if within.any() else float("nan")
    return Converted(data, back, fit.lost, float(moved.mean()), float(moved.max()), inside)
