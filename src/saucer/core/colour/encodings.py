"""The encodings Saucer knows, and conversion between them."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from saucer.core.colour.primaries import AP1, BT709, Primaries, luma_weights, rgb_to_rgb
from saucer.core.colour.transfer import ACESCCT, BT1886, FILM_LOG, LINEAR, SRGB, Transfer
from saucer.core.errors import EncodingError


@dataclass(frozen=True)
class Encoding:
    """RGB primaries, white point and transfer function. `linear` encodings need a shaper in front of a lattice."""

    id: str
    name: str
    primaries: Primaries
    transfer: Transfer
    referred: Literal["scene", "display"]
    source: str

    @property
    def linear(self) -> bool:
        return self.transfer is LINEAR

    @property
    def luma(self) -> np.ndarray:
        """(3,) float64 luma weights, from the encoding's own primaries."""
        return luma_weights(self.primaries)


ENCODINGS: dict[str, Encoding] = {
    encoding.id: encoding
    for encoding in (
        Encoding("srgb", "sRGB", BT709, SRGB, "display", "IEC 61966-2-1:1999"),
        Encoding("rec709", "Rec.709 display", BT709, BT1886, "display", "ITU-R BT.709-6, BT.1886 (gamma 2.4, black 0)"),
        Encoding("linear-709", "Linear, Rec.709 primaries", BT709, LINEAR, "scene", "ITU-R BT.709-6, table 1"),
        Encoding("film-log", "Film log", BT709, FILM_LOG, "scene", "Cineon 10-bit printing density, 95/685, 0.002 D, gamma 0.6"),
        Encoding("acescct", "ACEScct", AP1, ACESCCT, "scene", "S-2016-001"),
    )
}


def encoding(name: str, place: str = "encoding") -> Encoding:
    """The encoding with this id. Raises: EncodingError that lists the ids, naming `place`."""
    try:
        return ENCODINGS[name]
    except KeyError:
        raise EncodingError(place, f'unknown encoding "{name}"; use one of {", ".join(ENCODINGS)}') from None


def convert(values: np.ndarray, source: Encoding, target: Encoding) -> np.ndarray:
    """Code values of one encoding as code values of another; 1.0 stays white, nothing is clipped.

    values: (..., 3) float32 or float64; the result has the same shape and dtype
    Linear in between, 3x3 through XYZ with Bradford adaptation where white points differ.
    """
    if source.id == target.id:
        return values
    linear = source.transfer.decode(values)
    if source.primaries != target.primaries:
        linear = linear @ rgb_to_rgb(source.primaries, target.primaries).T.astype(values.dtype)
    return np.asarray(target.transfer.encode(linear), values.dtype)


def to_linear_709(values: np.ndarray, source: Encoding) -> np.ndarray:
    """(..., 3) code values as linear light on BT.709 primaries."""
    return convert(values, source, ENCODINGS["linear-709"])
