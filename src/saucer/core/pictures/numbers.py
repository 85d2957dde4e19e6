"""The numbers by which files say what they are in: ColourPrimaries and TransferCharacteristics of ITU-T H.273, tables 2 and 3."""

from __future__ import annotations

MEANT = {
    (1, 1): "rec709", (1, 13): "srgb", (1, 8): "linear-709", (9, 1): "rec2020", (9, 14): "rec2020", (9, 15): "rec2020",
    (9, 16): "pq", (9, 18): "hlg", (9, 8): "linear-2020", (11, 17): "p3-theatre", (12, 13): "display-p3",
    (12, 16): "pq-p3", (12, 18): "hlg-p3",
}  # fmt: skip
"""Ids of encodings by what is read."""
_WRITTEN = {
    "srgb": (1, 13), "rec709": (1, 1), "rec709-camera": (1, 1), "gamma22-709": (1, 4), "display-p3": (12, 13), "p3-theatre": (11, 17),
    "rec2020": (9, 14), "hlg": (9, 18), "pq": (9, 16), "pq-1000": (9, 16), "hlg-p3": (12, 18), "pq-p3": (12, 16), "pq-p3-1000": (12, 16),
}  # fmt: skip


def tags_of(encoding_id: str) -> tuple[int, int]:
    """ColourPrimaries and TransferCharacteristics to write into a file; 2, unspecified, for what the tables have no number for."""
    return _WRITTEN.get(encoding_id, (2, 2))
