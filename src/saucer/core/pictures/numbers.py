"""The numbers by which files say what they are in: ColourPrimaries and TransferCharacteristics of ITU-T H.273, tables 2 and 3."""

from __future__ import annotations

from saucer.core.colour.encodings import Encoding
from saucer.core.colour.primaries import BT2020, P3_D65

MEANT = {
    (1, 1): "rec709", (1, 13): "srgb", (1, 8): "linear-709", (9, 1): "rec2020", (9, 14): "rec2020", (9, 15): "rec2020",
    (9, 16): "pq", (9, 18): "hlg", (9, 8): "linear-2020", (11, 17): "p3-theatre", (12, 13): "display-p3",
    (12, 16): "pq-p3", (12, 18): "hlg-p3",
}  # fmt: skip
"""Ids of encodings by what is read."""
_WRITTEN = {
    "srgb": (1, 13), "rec709": (1, 1), "rec709-camera": (1, 1), "gamma22-709": (1, 4), "display-p3": (12, 13), "p3-theatre": (11, 17),
    "rec2020": (9, 14),
}  # fmt: skip


UNSAID = (2, 2)
_HDR_PRIMARIES = {BT2020.corners: 9, P3_D65.corners: 12}


def tags_of(encoding: Encoding) -> tuple[int, int]:
    """ColourPrimaries and TransferCharacteristics to write into a file; 2, unspecified, for what the tables have no number for."""
    if encoding.hdr and encoding.primaries.corners in _HDR_PRIMARIES:
        return _HDR_PRIMARIES[encoding.primaries.corners], 16 if encoding.hdr_display else 18
    return _WRITTEN.get(encoding.id, UNSAID)
