"""Baking: a look, or a part of one, made into a LUT, with the words that say how it was made."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from saucer import __version__
from saucer.core.errors import LookError, LutError
from saucer.core.evaluate import evaluate, sampled
from saucer.core.exact import as_chain
from saucer.core.files import PLAIN, Format, Options
from saucer.core.files.fitting import Converted, fitted, written
from saucer.core.junctions import ends_of
from saucer.core.look import Group, Look, walk
from saucer.core.lut.apply import apply_lut
from saucer.core.lut.halton import over
from saucer.core.lut.table import LARGEST, SMALLEST, UNIT, Curve1D, Lattice, Lut, nodes
from saucer.core.lut.tools import CURVE_SIZE
from saucer.core.spatial import spatial_kinds
from saucer.core.steps.convert import Convert
from saucer.core.steps.registry import Luts, no_luts

MIXES_FROM = 2e-3
"""Code values by which a look may differ from its own curves and still count as a look of curves."""


@dataclass(frozen=True)
class Part:
    """What of a look is baked: all of it, top-level steps first..last (from 1), or the one group or step at `path`."""

    first: int | None = None
    last: int | None = None
    path: str = ""

    @property
    def words(self) -> str:
        if self.path:
            return f"only {step_words(self.path)}"
        if self.first is None and self.last is None:
            return ""
        return f"only steps {self.first or 1} to {self.last or 'the last'}"


WHOLE = Part()


def part_of(look: Look, part: Part, luts: Luts = no_luts) -> Look:
    """The part as a look of its own, from the encoding that reaches it to the one at its end; nothing else of the look takes part.

    Raises: LookError for a part that is not there
    """
    if part == WHOLE:
        return look
    every = {one.path: one for one in ends_of(look, luts).steps}
    if part.path:
        chosen = {path: step for path, step in walk(look.steps) if path == part.path}
        if not chosen:
            raise LookError("part", f'there is no "{part.path}" in this look')
        steps, first, last = tuple(chosen.values()), part.path, part.path
    else:
        low, high = part.first or 1, part.last or len(look.steps)
        if not 1 <= low <= high <= len(look.steps):
            raise LookError("part", f"the look has steps 1 to {len(look.steps)}, got {low} to {high}")
        steps, first, last = look.steps[low - 1 : high], f"steps[{low - 1}]", f"steps[{high - 1}]"
    return look.model_copy(update={"steps": steps, "strength": 1.0, "input": every[first].before, "output": every[last].after})


def between(look: Look, expects: str = "", gives: str = "") -> Look:
    """The look with conversions put around it, so that it takes `expects` and gives `gives`. Raises: EncodingError"""
    if (not expects or expects == look.input) and (not gives or gives == look.output):
        return look
    for name in filter(None, (expects, gives)):
        look.encoding(name)
    steps = look.steps
    if look.strength != 1:
        # The strength is the look's, not the conversions': it goes onto a group of what was there.
        steps = (Group(name=look.name, strength=look.strength, steps=look.steps),)
    before = (Convert(to=look.input),) if expects and expects != look.input else ()
    behind = (Convert(to=gives),) if gives and gives != look.output else ()
    return look.model_copy(
        update={
            "steps": (*before, *steps, *behind),
            "strength": 1.0,
            "input": expects or look.input,
            "output": gives or look.output,
        }
    )


@dataclass(frozen=True)
class Words:
    """What is written into the file."""

    title: str = ""
    author: str = ""
    rights: str = ""
    note: str = ""
    extra: tuple[str, ...] = ()

    def comments(self, look: Look, part: Part = WHOLE, left_out: Sequence[str] | None = None) -> tuple[str, ...]:
        """left_out: as the person who baked counts the steps; without, the steps of `look`"""
        return (
            f"Made with Saucer {__version__} from the look {look.content_hash[:12]}",
            *([part.words[0].upper() + part.words[1:]] if part.words else []),
            *self.extra,
            f"Expects {look.input}, gives {look.output}",
            *(f"Left out: {words}" for words in (words_left_out(look) if left_out is None else left_out)),
            *(f"{name}: {' '.join(text.split())}" for name, text in
              (("Author", self.author), ("Rights", self.rights), ("Note", self.note)) if text),
        )  # fmt: skip


def check_size(size: int) -> None:
    if not SMALLEST <= size <= LARGEST:
        raise LutError("size", f"must be from {SMALLEST} to {LARGEST} nodes a side, got {size}")


def bake(look: Look, size: int, title: str = "", author: str = "", notes: Sequence[str] = (), luts: Luts = no_luts) -> Lut:
    """The look as a LUT of size**3 nodes, its spatial steps left out. The same arguments give the same LUT.

    Raises: LutError for a size outside 2..129
    """
    check_size(size)
    words = Words(title, author, extra=tuple(notes))
    return sampled(look, size, luts=luts).titled(title or look.name or "Untitled look", words.comments(look))


def lut_for(look: Look, form: Format, size: int, luts: Luts = no_luts) -> tuple[Lut, tuple[str, ...]]:
    """The look as this format can hold it, sampled at the very nodes the file will have; and what had to give way, in words.

    Raises: LutError
    """
    check_size(size)
    holds = form.holds
    if "nodes" in holds.tables or "cdl" in holds.tables:
        return as_chain(look, size, luts), ()
    source, lost = look.encoding(look.input), []
    count = holds.size_for(size)
    if "3D" not in holds.tables:
        return _curves_of(look, form, luts), ()
    if count != size:
        lost.append(f"no file of this kind has {size} nodes a side: it has {count}")
    if source.linear and ("1D + 3D" not in holds.tables or not holds.domain):
        lost.append(
            "no room for a shaper over linear light: the lattice is spaced evenly over 0 to 1, and what is brighter is lost"
        )
        table = evaluate(look, nodes(count), luts=luts)
        return Lut(lattice=Lattice(table.reshape(count, count, count, 3))), tuple(lost)
    return sampled(look, count, luts=luts), tuple(lost)


def _curves_of(look: Look, form: Format, luts: Luts) -> Lut:
    """A look that leaves every channel to itself, as a 1D table. Raises: LutError for one that mixes channels"""
    shaped = sampled(look, 2, luts=luts).shaper  # its domain, where the input is linear
    domain = shaped.domain if shaped is not None else UNIT
    ramp = np.stack([np.linspace(low, high, CURVE_SIZE) for low, high in zip(*domain, strict=True)], axis=1).astype(np.float32)
    made = Lut(Curve1D(evaluate(look, ramp, luts=luts), domain))
    colours = over(domain)
    if np.abs(apply_lut(made, colours) - evaluate(look, colours, luts=luts)).max() > MIXES_FROM:
        raise LutError(form.name, "holds curves only, and this look mixes channels; take another format")
    return made


def bake_file(
    look: Look, form: Format, size: int, words: Words, options: Options = PLAIN, luts: Luts = no_luts, part: Part = WHOLE,
    left_out: Sequence[str] | None = None,
) -> Converted:  # fmt: skip
    """A look as a file: the same arguments give the same bytes. Raises: LutError

    look: the part already; `part` and `left_out` only name it and what it left out, in the steps of the whole look
    """
    lut, lost = lut_for(look, form, size, luts)
    titled = lut.titled(words.title or look.name or "Untitled look", words.comments(look, part, left_out))
    made = written(titled, form, options, size=form.holds.size_for(size) if form.holds.sizes else None)
    return replace(made, lost=(*lost, *made.lost))


def stored(lut: Lut, form: Format, options: Options = PLAIN) -> Lut:
    """The LUT with the rounding and clipping that its file will have, without writing it. Raises: LutError"""
    fit = fitted(lut, form, options).lut
    depth = options.depth or (form.holds.depths[0] if form.holds.depths else 0)
    if not depth or fit.lattice is None:
        return fit
    peak = np.float32(2**depth - 1)
    table = np.floor(np.clip(fit.lattice.table, 0, 1) * peak + np.float32(0.5)) / peak
    return replace(fit, lattice=Lattice(table, fit.lattice.domain))


def step_words(path: str) -> str:
    """A path as people count: `steps[2].steps[0]` is step 3.1."""
    return "step " + ".".join(str(int(index) + 1) for index in re.findall(r"\[(\d+)\]", path))


def words_left_out(look: Look, part: Part = WHOLE) -> list[str]:
    """The spatial steps that a LUT of this look, or of a part of it, cannot hold, each with its place in the look."""
    kinds = spatial_kinds()

    def inside(path: str) -> bool:
        if part.path:
            return path == part.path or path.startswith(f"{part.path}.")
        number = int(step_words(path).split()[1].split(".")[0])
        return (part.first or 1) <= number <= (part.last or number)

    return [
        f"{step.name or kinds[step.kind].title} ({step_words(path)})"
        for path, step in walk(look.steps)
        if step.kind in kinds and step.enabled and not kinds[step.kind].neutral(step) and inside(path)
    ]
