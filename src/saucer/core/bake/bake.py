"""Baking: a look, or a part of one, made into a LUT, with the words that say how it was made."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from saucer import __version__
from saucer.core.bake.exact import chain_of
from saucer.core.bake.part import WHOLE, Part, name_left_out
from saucer.core.engine.evaluate import evaluate, sample_look
from saucer.core.engine.lattice import SHAPER, Shaper
from saucer.core.engine.plan import Plan, prepare
from saucer.core.errors import LutError
from saucer.core.files.fitting import WrittenLut, fit_lut, size_words, write_lut
from saucer.core.files.format import PLAIN, Format, Options
from saucer.core.look.model import Look
from saucer.core.lut.apply import apply_lut
from saucer.core.lut.domain import UNIT, check_size, grid, ramp, spread_over
from saucer.core.lut.table import Curve1D, Lattice, Lut
from saucer.core.lut.tables import CURVE_SIZE
from saucer.core.steps.registry import Luts, no_luts

NO_SHAPER = "no room for a shaper over linear light: the lattice is spaced evenly over 0 to 1, and what is brighter is lost"
READERS = "a 1D table stands before the lattice: OpenColorIO takes both, libavfilter and many programs only one of them"
MIXES_FROM = 2e-3
"""Code values by which a look may differ from its own curves and still count as a look of curves."""


@dataclass(frozen=True)
class Words:
    """What is written into the file."""

    title: str = ""
    author: str = ""
    rights: str = ""
    note: str = ""
    extra: tuple[str, ...] = ()

    def comments(self, look: Look, part: Part, left_out: Sequence[str]) -> tuple[str, ...]:
        """left_out: as the person who baked counts the steps"""
        return (
            f"Made with Saucer {__version__} from the look {look.content_hash[:12]}",
            *([part.words[0].upper() + part.words[1:]] if part.words else []),
            *self.extra,
            f"Expects {look.input}, gives {look.output}",
            *([f"Light of a scene is seen by the view {look.view}"] if look.view != "plain" and look.takes_scene_light else []),
            "Made to be read by tetrahedral interpolation",
            *(f"Left out: {words}" for words in left_out),
            *(f"{name}: {' '.join(text.split())}" for name, text in
              (("Author", self.author), ("Rights", self.rights), ("Note", self.note)) if text),
        )  # fmt: skip


def bake(look: Look, size: int, title: str = "", author: str = "", notes: Sequence[str] = (), luts: Luts = no_luts) -> Lut:
    """The look as a LUT of size**3 nodes, its spatial steps left out. The same arguments give the same LUT.

    Raises: LutError for a size outside 2..129
    """
    check_size(size)
    plan, words = prepare(look, luts), Words(title, author, extra=tuple(notes))
    return sample_look(plan, size).titled(title or look.name or "Untitled look", words.comments(look, WHOLE, name_left_out(plan)))


def sample_for(plan: Plan, form: Format, size: int, shaper: Shaper = SHAPER) -> tuple[Lut, tuple[str, ...]]:
    """The look as this format can hold it, sampled at the very nodes the file will have; and what had to give way, in words.

    Raises: LutError
    """
    check_size(size)
    holds = form.holds
    if "links" in holds.tables or "cdl" in holds.tables:
        chain = chain_of(plan, size, shaper)
        shaped = plan.source.linear and any(isinstance(link, Lattice) for link in chain.chain)
        return chain, (held_words(shaper),) if shaped else ()
    if "3D" not in holds.tables:
        return _curves_of(plan, form, shaper), (held_words(shaper),) if plan.source.linear else ()
    count = holds.size_for(size)
    lost = () if count == size else (size_words(size, count),)
    if plan.source.linear and ("1D + 3D" not in holds.tables or not holds.domain):
        table = evaluate(plan, grid(count))
        return Lut(lattice=Lattice(table.reshape(count, count, count, 3))), (*lost, NO_SHAPER)
    if plan.source.linear:
        lost = (*lost, held_words(shaper), *((READERS,) if form.id == "cube" else ()))
    return sample_look(plan, count, shaper=shaper), lost


def held_words(shaper: Shaper) -> str:
    return f"light below 0 and above {shaper.top:g} is held there"


def _curves_of(plan: Plan, form: Format, shaper: Shaper) -> Lut:
    """A look that leaves every channel to itself, as a 1D table. Raises: LutError for one that mixes channels"""
    domain = shaper.curve().domain if plan.source.linear else UNIT
    made = Lut(Curve1D(evaluate(plan, ramp(CURVE_SIZE, domain)), domain))
    colours = spread_over(domain)
    if np.abs(apply_lut(made, colours) - evaluate(plan, colours)).max() > MIXES_FROM:
        raise LutError(form.name, "holds curves only, and this look mixes channels; take another format")
    return made


def bake_file(
    look: Look, form: Format, size: int, words: Words, options: Options = PLAIN, luts: Luts = no_luts, part: Part = WHOLE,
    left_out: Sequence[str] | None = None, shaper: Shaper = SHAPER,
) -> WrittenLut:  # fmt: skip
    """A look as a file: the same arguments give the same bytes. Raises: LutError

    look: the part already; `part` and `left_out` only name it and what it left out, in the steps of the whole look
    """
    plan = prepare(look, luts)
    lut, lost = sample_for(plan, form, size, shaper)
    named = name_left_out(plan) if left_out is None else left_out
    titled = lut.titled(words.title or look.name or "Untitled look", words.comments(look, part, named))
    made = write_lut(titled, form, options, size=form.holds.size_for(size) if form.holds.sizes else None)
    return replace(made, lost=(*lost, *made.lost))


def round_as_written(lut: Lut, form: Format, options: Options = PLAIN) -> Lut:
    """The LUT with the rounding and clipping that its file will have, without writing it. Raises: LutError"""
    fit = fit_lut(lut, form, options).lut
    depth = options.depth or (form.holds.depths[0] if form.holds.depths else 0)
    if not depth or fit.lattice is None:
        return fit
    peak = np.float32(2**depth - 1)
    table = np.floor(np.clip(fit.lattice.table, 0, 1) * peak + np.float32(0.5)) / peak
    return replace(fit, lattice=Lattice(table, fit.lattice.domain))
