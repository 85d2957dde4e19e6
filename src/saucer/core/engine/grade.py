"""Grading whole pictures: a look or LUT on a file of any allowed size, strip by strip."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from pathlib import Path

import numpy as np

from saucer.core.colour.conversion import convert
from saucer.core.colour.encodings import Encoding
from saucer.core.colour.rendering import View
from saucer.core.engine.cache import PrefixCache
from saucer.core.engine.plan import Plan, enclose, prepare
from saucer.core.engine.rendering import EXACTLY, Sampling, render, windows
from saucer.core.look.model import Look
from saucer.core.lut.apply import apply_lut
from saucer.core.lut.table import Lut
from saucer.core.numeric.planes import fade_between
from saucer.core.pictures.carried import lost_words
from saucer.core.pictures.io import HOLDS_ALPHA, PictureReader, kind_of_name, upright, write_strips
from saucer.core.pictures.stored import Depth
from saucer.core.steps.registry import Frame, Luts, no_luts

STRIP_PIXELS = 1 << 21


@dataclass(frozen=True, eq=False)
class Grade:
    """A prepared look or a LUT with the encodings it expects and gives, laid on at `strength`."""

    through: Lut | Plan
    expects: Encoding
    gives: Encoding
    strength: float = 1.0
    sampling: Sampling = EXACTLY
    view: View = "plain"
    """By which pictures are brought to what it expects, and what it gives is shown."""

    def sampled(self, nodes: int, source: Encoding, target: Encoding) -> Grade:
        """The same between these, with the per-pixel steps of a look on a lattice of so many nodes a side, for many frames.

        Over the codes of `source`: those that the look expects hold no light above their white
        """
        whole = self
        if isinstance(self.through, Plan) and self.strength == self.through.strength == 1:
            whole = replace(self, through=enclose(self.through, source, target), expects=source, gives=target)
        return replace(whole, sampling=Sampling(nodes, PrefixCache()))

    @staticmethod
    def of_look(look: Look, strength: float = 1.0, luts: Luts = no_luts) -> Grade:
        plan = prepare(look, luts)
        plan.check_end()
        return Grade(plan, plan.source, plan.end, strength, view=plan.view)

    @staticmethod
    def of_lut(lut: Lut, expects: Encoding, gives: Encoding, strength: float, view: View) -> Grade:
        return Grade(lut, expects, gives, strength, view=view)

    def reach(self, height: int) -> int:
        """Rows above and below a row that take part in it."""
        return self.through.reach(height) if isinstance(self.through, Plan) and self.strength > 0 else 0

    def __call__(self, pixels: np.ndarray, source: Encoding, target: Encoding, frame: Frame | None = None) -> np.ndarray:
        """(rows, width, 3) float32 in `source` to `target`; `frame` when the rows are part of a larger picture.

        Strength fades in the encoding that it gives, as a layer of a stack does; at 0 the converted values are left.
        """
        if self.strength == 0:
            return convert(pixels, source, target, self.view)
        expected = convert(pixels, source, self.expects, self.view)
        done = (
            render(self.through, expected, frame, self.sampling)
            if isinstance(self.through, Plan)
            else apply_lut(self.through, expected)
        )
        if self.strength != 1:
            done = fade_between(convert(pixels, source, self.gives, self.view), done, self.strength)
        return convert(done, self.gives, target, self.view)


@dataclass(frozen=True)
class Graded:
    """mended: pixels that had samples which were not finite (`read_picture`); left_out: what the new file has no room for, in words"""

    mended: int
    left_out: tuple[str, ...]


def grade_file(
    grade: Grade,
    source: Path,
    target: Path,
    source_encoding: Encoding,
    target_encoding: Encoding,
    name: str = "",
    report: Callable[[float], None] = lambda share: None,
    number: int = 0,
    depth: Depth | None = None,
    packed: bool = True,
    white: int | None = None,
) -> Graded:
    """Grade a picture file at its full size and depth; `target` appears whole or not at all.

    What is transparent stays so: colour is graded as it is without alpha, and stored as it came, multiplied by it or not.
    What it says beside its samples goes with it; an EXR keeps its windows, and in another EXR its further channels.
    number: of the frame, where it is one of a moving picture; depth: of what is written, that of the source without
    packed: as small as its kind of file makes it; white: of a raw photograph, as of `read_picture`
    report: is told the share done after each strip; what it raises ends the work
    Raises: PictureError
    """
    with PictureReader(source, name or source.name, white) as reader:
        info, kind = reader.info, kind_of_name(target)
        rows = info.height if reader.orientation != 1 else max(1, STRIP_PIXELS // info.width)
        keep_alpha, with_extra = kind in HOLDS_ALPHA, kind == info.kind == "openexr"
        channels, behind = 4 if reader.has_alpha and keep_alpha else 3, 4 if reader.has_alpha else 3
        turned = reader.orientation in (5, 6, 7, 8)
        width, height = (info.height, info.width) if turned else (info.width, info.height)

        def upright_strips() -> Iterator[np.ndarray]:
            for strip in reader.strips(rows, with_extra=with_extra):
                whole = upright(strip, reader.orientation)
                for top in range(0, len(whole), max(1, STRIP_PIXELS // width)):
                    yield whole[top : top + max(1, STRIP_PIXELS // width)]

        def graded() -> Iterator[np.ndarray]:
            done_rows = 0
            for window, top, inside in windows(upright_strips(), height, grade.reach(height)):
                pixels = np.ascontiguousarray(window[..., :3])
                done = grade(pixels, source_encoding, target_encoding, Frame(width, height, top, number))[inside]
                if reader.has_alpha:
                    done[_is_nothing(window[inside], reader.premultiplied, kind == "openexr")] = 0
                kept = [window[inside, :, 3:4]] if channels == 4 else []
                kept += [window[inside, :, behind:]] if with_extra else []
                yield np.concatenate([done, *kept], axis=-1) if kept else done
                done_rows += len(done)
                report(done_rows / height)

        write_strips(
            graded(),
            target,
            width,
            height,
            channels,
            depth or info.depth,
            packed=packed,
            premultiplied=reader.premultiplied,
            encoding=target_encoding,
            carried=reader.carried if reader.orientation == 1 else replace(reader.carried, window=None),
            extra=list(zip(reader.extra, reader.extra_formats, strict=True)) if with_extra else (),
        )
        return Graded(reader.mended, lost_words(reader.carried, kind, [] if with_extra else reader.extra, reader.parts))


def _is_nothing(window: np.ndarray, premultiplied: bool, becomes_premultiplied: bool) -> np.ndarray:
    """(h, w) of (h, w, 4): what covers nothing and sheds no light either; stored multiplied by alpha, a grade would light it up."""
    transparent = window[..., 3] <= 0
    if premultiplied:
        return np.asarray(transparent & ~window[..., :3].any(axis=-1))
    return np.asarray(transparent & becomes_premultiplied)
