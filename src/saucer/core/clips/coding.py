"""How video codes colour: matrix, range, chroma sampling and siting; from the file's tags, else by its size."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from typing import Literal

from saucer.core.colour.encodings import Encoding
from saucer.core.pictures.numbers import MEANT, tags_of
from saucer.core.reading.passing import passed

Matrix = Literal["bt601", "bt709", "bt2020"]
Siting = Literal["left", "centre", "corner"]
Said = Literal["file", "size", "person"]

LUMA: dict[Matrix, tuple[float, float]] = {"bt601": (0.299, 0.114), "bt709": (0.2126, 0.0722), "bt2020": (0.2627, 0.0593)}
"""Kr and Kb. Source: ITU-T H.273 (2021), table 4, values 5 and 6, 1, and 9."""
MATRIX_CODES: dict[int, Matrix] = {1: "bt709", 5: "bt601", 6: "bt601", 9: "bt2020"}
CODES_OF: dict[Matrix, int] = {"bt601": 6, "bt709": 1, "bt2020": 9}
"""MatrixCoefficients of ITU-T H.273, table 4."""
SITING_CODES: dict[int, Siting] = {1: "left", 2: "centre", 3: "corner"}
"""By the library's numbers, which are those of ITU-T H.273, figure 1, plus one."""
LARGEST_SD = (768, 576)
"""Columns (of square pixels) and rows of the largest standard-definition picture: up to here an untagged file is taken to be BT.601.
Common practice, no source for untagged files; the sizes follow ITU-R BT.601-7."""
BT709_PRIMARIES, BT2020_PRIMARIES = 1, 9
_BT709_CURVES = (1, 2, 6, 14, 15)


@passed
@dataclass(frozen=True)
class Coding:
    """full: codes from 0 to the peak, in place of the 16..235 and 16..240 of ITU-R BT.601 and BT.709, scaled to the depth"""

    matrix: Matrix
    full: bool


@passed
@dataclass(frozen=True)
class Mastering:
    """The display that an HDR picture was made on: red, green, blue and white as x, y in fiftieths of a thousandth; the most and the
    least of its light in ten-thousandths of a candela a square metre. Source: SMPTE ST 2086; the units: ITU-T H.265, D.3.28"""

    corners: tuple[int, int, int, int, int, int, int, int]
    most: int
    least: int


LEAST_SAID = 1
"""Black of such an encoding is no light at all; this is the least that can be said of it, since 0 stands for what nobody knows."""


def mastering_of(encoding: Encoding) -> Mastering | None:
    """By an encoding that says how bright its display is; None for one that does not."""
    if not encoding.hdr_display or encoding.peak is None:
        return None
    own = encoding.primaries
    red, green, blue, white = own.red, own.green, own.blue, own.white
    corners = tuple(round(float(one) * 50_000) for corner in (red, green, blue, white) for one in corner)
    return Mastering(corners, round(encoding.peak * 10_000), LEAST_SAID)  # type: ignore[arg-type]


@passed
@dataclass(frozen=True)
class ClipInfo:
    """What a clip is.

    width, height: upright; count: frames; rate: frames a second; timecode: of the first frame, as the file says, or empty
    bits, chroma: of a sample, "4:2:0" or "RGB"; coding: None for RGB; matrix_from, range_from: who says so
    encoding: what the tags mean, else Rec.709; encoding_from: who says so
    turn: degrees against the clock by which a frame is turned upright
    variable: frames are not equally long; alpha: it has one
    aspect: width of a pixel to its height, upright; mastering: what the display was that it was made on, where it says so
    """

    codec: str
    width: int
    height: int
    count: int
    rate: Fraction
    timecode: str
    bits: int
    chroma: str
    coding: Coding | None
    matrix_from: Said
    range_from: Said
    encoding: str
    encoding_from: Said = "file"
    turn: int = 0
    variable: bool = False
    alpha: bool = False
    aspect: Fraction = Fraction(1)
    mastering: Mastering | None = None

    @property
    def seconds(self) -> float:
        return float(self.count / self.rate)


def _is_sd(width: int, height: int) -> bool:
    return width <= LARGEST_SD[0] and height <= LARGEST_SD[1]


def matrix_of(code: int, width: int, height: int) -> tuple[Matrix, Said]:
    """code: MatrixCoefficients of ITU-T H.273; where it says nothing that we know, the size of the picture decides."""
    if code in MATRIX_CODES:
        return MATRIX_CODES[code], "file"
    return ("bt601" if _is_sd(width, height) else "bt709"), "size"


def encoding_of(primaries: int, transfer: int) -> tuple[str, Said]:
    """Id of the encoding that tags of ITU-T H.273 mean; Rec.709 display ("size") where they say nothing that we know."""
    found = MEANT.get((primaries, transfer))
    if found is None and primaries == BT2020_PRIMARIES and transfer in _BT709_CURVES:
        return "rec2020", "file"
    if found is None:
        return "rec709", "file" if primaries == BT709_PRIMARIES and transfer in _BT709_CURVES else "size"
    return found, "file"


def matrix_for(encoding: Encoding, width: int, height: int, source: Coding | None = None) -> Matrix:
    """What a new file of this encoding is coded with: that of its primaries; in Rec.709 that of its source, else BT.601 for small ones."""
    if tags_of(encoding)[0] == BT2020_PRIMARIES:
        return "bt2020"
    if source is not None and source.matrix in ("bt601", "bt709"):
        return source.matrix
    return "bt601" if _is_sd(width, height) else "bt709"
