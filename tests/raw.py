"""A raw photograph of a made-up camera: a DNG as its specification lays it out, of a sensor of two by two colours."""

from __future__ import annotations

import struct
from pathlib import Path

import numpy as np

MATRIX = ((0.9, -0.25, -0.1), (-0.35, 1.2, 0.15), (-0.05, 0.2, 0.6))
"""XYZ to the camera under D65, which the file states as ColorMatrix1. Made up; its colours lie as those of a camera may."""
NEUTRAL = (0.5, 1.0, 0.6)
"""What the camera gives for a grey, stated as AsShotNeutral."""
BLACK, WHITE = 512, 16383


def mosaic(camera: np.ndarray) -> np.ndarray:
    """(h, w) of a sensor's red, green, green, blue out of (h, w, 3) of its three channels."""
    found = np.empty(camera.shape[:2])
    for row, column, channel in ((0, 0, 0), (0, 1, 1), (1, 0, 1), (1, 1, 2)):
        found[row::2, column::2] = camera[row::2, column::2, channel]
    return found


def write_dng(path: Path, camera: np.ndarray, orientation: int = 1, order: str = "<", matrix: object = MATRIX) -> Path:
    """camera: (h, w, 3) 0..1 of the sensor's range; matrix: none for a camera that nobody knows. Source of the tags: Digital Negative specification 1.6; TIFF 6.0"""
    height, width = camera.shape[:2]
    codes = np.round(BLACK + np.clip(mosaic(camera), 0, 1) * (WHITE - BLACK)).astype(f"{order}u2").tobytes()
    one, many = {3: "H", 4: "I"}, {5: ("II", 1_000_000), 10: ("ii", 10_000)}

    def packed(kind: int, values: object) -> tuple[int, bytes]:
        if isinstance(values, bytes):
            return len(values), values
        numbers = list(np.ravel(values))
        if kind in one:
            return len(numbers), b"".join(struct.pack(order + one[kind], int(number)) for number in numbers)
        form, under = many[kind]
        return len(numbers), b"".join(struct.pack(order + form, round(number * under), under) for number in numbers)

    tags: list[tuple[int, int, object]] = [
        (254, 4, 0), (256, 4, width), (257, 4, height), (258, 3, 16), (259, 3, 1), (262, 3, 32803), (271, 2, b"Nobody\0"),
        (272, 2, b"Made-up One\0"), (273, 4, 0), (274, 3, orientation), (277, 3, 1), (278, 4, height), (279, 4, len(codes)), (284, 3, 1),
        (33421, 3, (2, 2)), (33422, 1, bytes([0, 1, 1, 2])), (50706, 1, bytes([1, 4, 0, 0])), (50707, 1, bytes([1, 1, 0, 0])),
        (50708, 2, b"Made-up One\0"), (50714, 4, BLACK), (50717, 4, WHITE), (50721, 10, matrix), (50728, 5, NEUTRAL), (50778, 3, 21),
    ]  # fmt: skip
    tags = [one for one in tags if one[0] != 50721 or matrix is not None]
    head, behind = 8 + 2 + 12 * len(tags) + 4, b""
    sizes = [len(packed(kind, values)[1]) for _, kind, values in tags]
    strip = head + sum(size + size % 2 for size in sizes if size > 4)
    entries = b""
    for tag, kind, values in tags:
        count, data = packed(kind, strip if tag == 273 else values)
        entries += struct.pack(f"{order}HHI", tag, kind, count)
        if len(data) <= 4:
            entries += data.ljust(4, b"\0")
        else:
            entries += struct.pack(f"{order}I", head + len(behind))
            behind += data + b"\0" * (len(data) % 2)
    mark = b"II*\0" if order == "<" else b"MM\0*"
    path.write_bytes(mark + struct.pack(f"{order}IH", 8, len(tags)) + entries + struct.pack(f"{order}I", 0) + behind + codes)
    return path
