"""Working in linear light or in OKLab inside a step whose samples are code values."""

from __future__ import annotations

import numpy as np

from saucer.core.colour.encodings import Encoding
from saucer.core.colour.oklab import LAB_TO_LMS, LINEAR_TO_LMS, LMS_TO_LAB, LMS_TO_LINEAR
from saucer.core.colour.primaries import BT709, rgb_to_rgb
from saucer.core.elementary import compiled, cube_root
from saucer.core.planes import NO_OFFSET, Operation, mix


def in_light(encoding: Encoding, operation: Operation) -> Operation:
    """`operation` on linear light, (3, n) in the encoding's own primaries."""
    decode, encode = encoding.transfer.decode_fast, encoding.transfer.encode_fast
    if decode is None or encode is None:
        return operation

    def run(planes: np.ndarray) -> None:
        decode(planes.reshape(-1))
        operation(planes)
        encode(planes.reshape(-1))

    return run


@compiled
def _cube_roots(values):  # type: ignore[no-untyped-def]
    for j in range(values.size):
        values[j] = cube_root(values[j])


@compiled
def _cubes(values):  # type: ignore[no-untyped-def]
    for j in range(values.size):
        values[j] = values[j] * values[j] * values[j]


@compiled
def _grey_again(before, after):  # type: ignore[no-untyped-def]
    """Where the three planes of `before`, one after the other, are equal, put them back."""
    n = before.size // 3
    for channel in range(3):
        red, green, blue, result = before[:n], before[n : 2 * n], before[2 * n :], after[channel * n : (channel + 1) * n]
        for j in range(n):
            grey = (red[j] == green[j]) & (green[j] == blue[j])
            result[j] = red[j] if grey else result[j]


def to_oklab(planes: np.ndarray, linear_to_lms: np.ndarray) -> None:
    """(3, n) linear light to L, a, b, in place."""
    mix(planes, linear_to_lms, NO_OFFSET)
    _cube_roots(planes.reshape(-1))
    mix(planes, LMS_TO_LAB.astype(np.float32), NO_OFFSET)


def from_oklab(planes: np.ndarray, lms_to_linear: np.ndarray) -> None:
    """(3, n) L, a, b to linear light, in place."""
    mix(planes, LAB_TO_LMS.astype(np.float32), NO_OFFSET)
    _cubes(planes.reshape(-1))
    mix(planes, lms_to_linear, NO_OFFSET)


def lms_matrices(encoding: Encoding) -> tuple[np.ndarray, np.ndarray]:
    """Linear light of the encoding's primaries to OKLab's LMS, and back, (3, 3) float32."""
    there = LINEAR_TO_LMS @ rgb_to_rgb(encoding.primaries, BT709)
    back = rgb_to_rgb(BT709, encoding.primaries) @ LMS_TO_LINEAR
    return there.astype(np.float32), back.astype(np.float32)


def in_oklab(encoding: Encoding, operation: Operation, neutrals_stay: bool = True) -> Operation:
    """`operation` on (3, n) OKLab L, a, b. With `neutrals_stay`, samples of three equal code values come back bit for bit."""
    there, back = lms_matrices(encoding)

    def inner(planes: np.ndarray) -> None:
        to_oklab(planes, there)
        operation(planes)
        from_oklab(planes, back)

    work = in_light(encoding, inner)
    if not neutrals_stay:
        return work

    def run(planes: np.ndarray) -> None:
        before = planes.copy()
        work(planes)
        _grey_again(before.reshape(-1), planes.reshape(-1))

    return run
