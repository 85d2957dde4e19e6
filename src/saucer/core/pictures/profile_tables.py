"""An embedded profile of tables: device RGB to the light that it means, by its lattice and curves, in float and not in eight bits.

Source: ICC.1:2022, 9.2.1 (A2B0, A2B1), 10.10 (lut16Type), 10.11 (lut8Type), 10.12 (lutAToBType), 6.3.4 and tables 11 and 12 (encodings
of the connection space)
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Literal

import numpy as np

from saucer.core.colour.adaptation import BRADFORD, adaptation
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.colour.primaries import rgb_to_xyz, xyz_of
from saucer.core.errors import LutError
from saucer.core.lut.apply import apply_lut
from saucer.core.lut.icc_tables import Bytes, read_tables, tags_of
from saucer.core.lut.table import Lut, lut_of
from saucer.core.pictures.carried import Carried
from saucer.core.pictures.io import PictureReader, write_strips
from saucer.core.pictures.profile import D50
from saucer.core.reading.passing import passed

CONVERTED_TO = ENCODINGS["romm-rgb"]
"""Holds nearly every colour of a surface, and its white is that of profiles."""
ROWS = 64


Space = Literal["xyz", "lab", "lab of 16"]


@passed
@dataclass(frozen=True, eq=False)
class ProfileTables:
    """lut: device RGB to codes of the connection space; space: which that is, and how it is coded"""

    lut: Lut
    space: Space

    def xyz(self, rgb: np.ndarray) -> np.ndarray:
        """(n, 3) device RGB, held to 0..1, as CIE XYZ relative to D50, float64."""
        return _TO_XYZ[self.space](apply_lut(self.lut, np.clip(rgb, 0, 1).astype(np.float32)).astype(np.float64))

    def convert(self, rgb: np.ndarray) -> np.ndarray:
        """(..., 3) device RGB as code values of ROMM RGB, float32; what that does not hold is held to its 0..1."""
        xyz = self.xyz(rgb.reshape(-1, 3)) @ adaptation(BRADFORD, D50, xyz_of(CONVERTED_TO.primaries.white)).T
        light = xyz @ np.linalg.inv(rgb_to_xyz(CONVERTED_TO.primaries)).T
        codes = CONVERTED_TO.transfer.encode(np.clip(light, 0, 1))
        return codes.astype(np.float32).reshape(rgb.shape)


def convert_by_tables(path: Path, target: Path, tables: ProfileTables, place: str) -> None:
    """The picture as a TIFF in ROMM RGB, 16 bits, alpha and metadata as they were. Raises: PictureError"""
    with PictureReader(path, place) as reader:
        info, channels = reader.info, 4 if reader.has_alpha else 3

        def converted() -> Iterator[np.ndarray]:
            for strip in reader.strips(ROWS):
                strip[..., :3] = tables.convert(strip[..., :3])
                yield strip

        # Its rows stay as they are stored, and so does what says how it is turned.
        turned = ("Orientation", "int", reader.orientation)
        carried = Carried((*reader.carried.attributes, turned))
        write_strips(converted(), target, info.width, info.height, channels, "u16", encoding=CONVERTED_TO, carried=carried)


def tables_of_profile(data: bytes) -> ProfileTables | None:
    """The relative colorimetric tables, else the perceptual ones; None for a profile of another kind, without any, or damaged."""
    try:
        tags, space = tags_of(Bytes(data, "the profile")), data[20:24]
        tag = tags.get(b"A2B1") or tags.get(b"A2B0")
        if tag is None or data[16:20] != b"RGB " or space not in (b"Lab ", b"XYZ "):
            return None
        lut = lut_of(read_tables(Bytes(tag, "the tables")))
    except LutError:
        return None
    return ProfileTables(lut, "xyz" if space == b"XYZ " else "lab of 16" if tag[:4] == b"mft2" else "lab")


def _lab(codes: np.ndarray) -> np.ndarray:
    return _xyz_of_lab(codes * [100, 255, 255] - [0, 128, 128])


def _lab_of_16(codes: np.ndarray) -> np.ndarray:
    """As lut16Type has it still: 100 and 127 are 0xFF00."""
    return _lab(codes * (65535 / 65280))


def _xyz_of_lab(lab: np.ndarray) -> np.ndarray:
    """Source: CIE 015:2018, 8.2.1, the other way round"""
    y = (lab[:, 0] + 16) / 116
    roots = np.column_stack([y + lab[:, 1] / 500, y, y - lab[:, 2] / 200])
    return np.where(roots > 24 / 116, roots**3, (116 * roots - 16) * 27 / 24389) * D50


def _xyz(codes: np.ndarray) -> np.ndarray:
    return codes * (65535 / 32768)


_TO_XYZ: dict[Space, Callable[[np.ndarray], np.ndarray]] = {"xyz": _xyz, "lab": _lab, "lab of 16": _lab_of_16}
"""To CIE XYZ, white D50 at Y = 1."""
