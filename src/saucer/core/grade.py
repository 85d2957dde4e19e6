"""Grading whole pictures: a look or LUT on a file of any allowed size, strip by strip, and the small proxy a screen needs."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path

import numpy as np

from saucer.core.colour.conversion import convert
from saucer.core.colour.encodings import ENCODINGS, Encoding
from saucer.core.evaluate import faded
from saucer.core.look import Look
from saucer.core.lut.apply import apply_lut
from saucer.core.lut.table import Lut
from saucer.core.pictures import HOLDS_ALPHA, PictureReader, fitted, kind_of_name, upright, write_strips
from saucer.core.rendering import reach, render, windows
from saucer.core.spatial.registry import Frame
from saucer.core.steps.registry import Luts, no_luts

STRIP_PIXELS = 1 << 21


@dataclass(frozen=True)
class Grade:
    """A look or a LUT with the encodings it expects and gives, laid on at `strength`."""

    through: Lut | Look
    expects: Encoding
    gives: Encoding
    strength: float = 1.0
    luts: Luts = no_luts

    @staticmethod
    def of_look(look: Look, strength: float = 1.0, luts: Luts = no_luts) -> Grade:
        return Grade(look, look.encoding(look.input), look.encoding(look.output), strength, luts)

    @staticmethod
    def of_lut(lut: Lut, expects: Encoding, gives: Encoding, strength: float = 1.0) -> Grade:
        return Grade(lut, expects, gives, strength)

    def reach(self, height: int) -> int:
        """Rows above and below a row that take part in it."""
        return reach(self.through, height) if isinstance(self.through, Look) and self.strength > 0 else 0

    def __call__(self, pixels: np.ndarray, source: Encoding, target: Encoding, frame: Frame | None = None) -> np.ndarray:
        """(rows, width, 3) float32 in `source` to `target`; `frame` when the rows are part of a larger picture.

        At strength 0 the plainly converted values: strength fades the look only.
        """
        result = pixels
        if self.strength > 0:
            expected = convert(pixels, source, self.expects)
            if isinstance(self.through, Look):
                done = render(self.through, expected, frame, luts=self.luts)
            else:
                done = apply_lut(self.through, expected)
            result = convert(done, self.gives, target)
        if self.strength == 1:
            return result
        return faded(convert(pixels, source, target), result, self.strength)


def grade_file(
    grade: Grade,
    source: Path,
    target: Path,
    source_encoding: Encoding,
    target_encoding: Encoding,
    name: str = "",
    report: Callable[[float], None] = lambda share: None,
) -> None:
    """Grade a picture file at its full size and depth; `target` appears whole or not at all.

    report: is told the share done after each strip; what it raises ends the work
    Raises: PictureError
    """
    kind_of_name(target)
    with PictureReader(source, name or source.name) as reader:
        info = reader.info
        rows = info.height if reader.orientation != 1 else max(1, STRIP_PIXELS // info.width)
        keep_alpha = kind_of_name(target) in HOLDS_ALPHA
        turned = reader.orientation in (5, 6, 7, 8)
        width, height = (info.height, info.width) if turned else (info.width, info.height)

        def upright_strips() -> Iterator[np.ndarray]:
            for strip in reader.strips(rows):
                whole = upright(strip, reader.orientation)
                for top in range(0, len(whole), max(1, STRIP_PIXELS // width)):
                    yield whole[top : top + max(1, STRIP_PIXELS // width)]

        def graded() -> Iterator[np.ndarray]:
            done_rows = 0
            for window, top, inside in windows(upright_strips(), height, grade.reach(height)):
                pixels = np.ascontiguousarray(window[..., :3])
                done = grade(pixels, source_encoding, target_encoding, Frame(width, height, top))[inside]
                if window.shape[2] == 4 and keep_alpha:
                    done = np.concatenate([done, window[inside, :, 3:]], axis=-1)
                yield done
                done_rows += len(done)
                report(done_rows / height)

        write_strips(graded(), target, width, height, 4 if reader.has_alpha and keep_alpha else 3, info.depth)


def proxy(path: Path, source: Encoding, width: int, height: int, name: str = "") -> tuple[np.ndarray, int]:
    """A picture file averaged down in linear light to fit width x height, upright, in its own encoding.

    Returns: (h, w, 3) float32 code values; the number of pixels that were not finite and became 0
    Raises: PictureError
    """
    linear = ENCODINGS["linear-709"]
    with PictureReader(path, name or path.name) as reader:
        info = reader.info
        turned = reader.orientation in (5, 6, 7, 8)
        bound = (height, width) if turned else (width, height)
        factor = max(1, int(min(info.width / bound[0], info.height / bound[1])))
        small = [
            _averaged(convert(strip[..., :3], source, linear), factor)
            for strip in reader.strips(STRIP_PIXELS // info.width, factor)
        ]
        light = fitted(upright(np.concatenate(small), reader.orientation), width, height)
    return np.asarray(convert(light, linear, source), np.float32), reader.mended


def _averaged(strip: np.ndarray, factor: int) -> np.ndarray:
    """Means of factor x factor blocks; what is left over at the right and bottom is averaged over what is there."""
    if factor == 1:
        return strip
    by_row = np.add.reduceat(strip, np.arange(0, strip.shape[0], factor), axis=0)
    blocks = np.add.reduceat(by_row, np.arange(0, strip.shape[1], factor), axis=1)
    tall = np.diff([*range(0, strip.shape[0], factor), strip.shape[0]])
    wide = np.diff([*range(0, strip.shape[1], factor), strip.shape[1]])
    return np.asarray(blocks / (tall[:, None] * wide)[..., None], np.float32)
