"""Compiled interpolation. Nothing here checks its input: `apply.py` does, once, before calling.

Tetrahedral: each cell of the lattice is cut into six tetrahedra by the order of the three fractions; a value is the weighted sum of
four corners. Source: Kasson, Nin, Plouffe, Hafner, "Performing color space conversions with three-dimensional linear
interpolation", J. Electron. Imaging 4(3), 1995.
"""

from __future__ import annotations

import numpy as np
from numba import njit

from saucer.core.lut.corners import blend_corners
from saucer.core.numeric.elementary import FASTMATH

BLOCK = 768
"""Pixels at a time: their corners and weights stay in the nearest cache, 21 kB."""

# One work array of floats and one of integers, cut at fixed places: LLVM sees that the parts do not overlap and vectorises. With a
# separate array for each part it would need more run-time overlap checks than it is willing to make (measured: 1.6 times slower).
CORNERS, WEIGHTS = 3 * BLOCK, 4 * BLOCK


@njit(nogil=True, cache=True, fastmath=FASTMATH, forceinline=True)
def _locate(x, scale, offset, last):  # type: ignore[no-untyped-def]
    """Position on the lattice, held to 0..last; NaN becomes 0."""
    at = x * scale + offset
    at = at if at > np.float32(0) else np.float32(0)
    return at if at < last else last


@njit(nogil=True, cache=True, fastmath=FASTMATH)
def _index_block(source, weights, corners, count, size, scale_r, scale_g, scale_b, offset_r, offset_g, offset_b):  # type: ignore[no-untyped-def]
    """Corner offsets and weights of the first `count` interleaved pixels of source, of any number type: three and four a pixel.

    Only selects, no branches, so that it vectorises. Offsets are computed in floats, which hold them exactly: the largest lattice has
    8.6 million, and integers are multiplied half as fast. The caller cuts the source: with a start to add, Numba would test each index
    for being negative, and nothing would vectorise.
    """
    last, cell = np.float32(size - 1), np.float32(size - 2)
    step_b, step_g, step_r = np.int32(4), np.int32(4 * size), np.int32(4 * size * size)
    by_b, by_g, by_r = np.float32(4), np.float32(4 * size), np.float32(4 * size * size)
    w0, w1, w2, w3 = weights[:BLOCK], weights[BLOCK : 2 * BLOCK], weights[2 * BLOCK : 3 * BLOCK], weights[3 * BLOCK : WEIGHTS]
    c0, c1, c2 = corners[:BLOCK], corners[BLOCK : 2 * BLOCK], corners[2 * BLOCK : CORNERS]
    for j in range(count):
        pr = _locate(np.float32(source[3 * j]), scale_r, offset_r, last)
        pg = _locate(np.float32(source[3 * j + 1]), scale_g, offset_g, last)
        pb = _locate(np.float32(source[3 * j + 2]), scale_b, offset_b, last)
        ir, ig, ib = np.float32(np.int32(pr)), np.float32(np.int32(pg)), np.float32(np.int32(pb))
        ir = ir if ir < cell else cell
        ig = ig if ig < cell else cell
        ib = ib if ib < cell else cell
        fr, fg, fb = pr - ir, pg - ig, pb - ib
        top = fr if fr > fg else fg
        low = fg if fr > fg else fr
        hi = top if top > fb else fb
        rest = fb if top > fb else top
        lo = low if low < rest else rest
        mid = rest if low < rest else low
        base = np.int32(ir * by_r + ig * by_g + ib * by_b)
        c0[j] = base
        c1[j] = base + (step_r if fr == hi else (step_g if fg == hi else step_b))
        c2[j] = base - (step_b if fb == lo else (step_g if fg == lo else step_r))
        w0[j] = np.float32(1) - hi
        w1[j] = hi - mid
        w2[j] = mid - lo
        w3[j] = lo


@njit(nogil=True, cache=True, fastmath=FASTMATH)
def _blend_block(lattice, size, weights, corners, first, last, out):  # type: ignore[no-untyped-def]
    w0, w1, w2, w3 = weights[:BLOCK], weights[BLOCK : 2 * BLOCK], weights[2 * BLOCK : 3 * BLOCK], weights[3 * BLOCK : WEIGHTS]
    c0, c1, c2 = corners[:BLOCK], corners[BLOCK : 2 * BLOCK], corners[2 * BLOCK : CORNERS]
    across = lattice[4 * (size * size + size + 1) :]
    for j in range(first, last):
        blend_corners(lattice, across, c0[j], c1[j], c2[j], w0[j], w1[j], w2[j], w3[j], out, 3 * j)  # type: ignore[call-arg]


@njit(nogil=True, cache=True, fastmath=FASTMATH)
def tetrahedral_float(lattice, size, scale, offset, source, target, start, stop):  # type: ignore[no-untyped-def]
    """source, target: (3 * n,) float32, interleaved; pixels start..stop are done."""
    weights, corners = np.empty(WEIGHTS, np.float32), np.empty(CORNERS, np.int32)
    out = np.empty(3 * BLOCK + 4, np.float32)
    for begin in range(start, stop, BLOCK):
        count = min(BLOCK, stop - begin)
        _index_block(
            source[3 * begin :], weights, corners, count, size, scale[0], scale[1], scale[2], offset[0], offset[1], offset[2]
        )
        # A pixel is stored four floats wide. The last of the block goes through `out`, so that nothing past the block is written
        # and source and target may be the same array.
        _blend_block(lattice, size, weights, corners, 0, count - 1, target[3 * begin :])
        _blend_block(lattice, size, weights, corners, count - 1, count, out)
        last = 3 * (count - 1)
        for j in range(3):
            target[3 * begin + last + j] = out[last + j]


@njit(nogil=True, cache=True, fastmath=FASTMATH)
def tetrahedral_integer(lattice, size, scale, offset, source, target, peak, start, stop):  # type: ignore[no-untyped-def]
    """As tetrahedral_float for (3 * n,) uint8 or uint16 in and out; `scale` takes in the 1/peak of the source."""
    weights, corners = np.empty(WEIGHTS, np.float32), np.empty(CORNERS, np.int32)
    out = np.empty(3 * BLOCK + 4, np.float32)
    for begin in range(start, stop, BLOCK):
        count = min(BLOCK, stop - begin)
        _index_block(
            source[3 * begin :], weights, corners, count, size, scale[0], scale[1], scale[2], offset[0], offset[1], offset[2]
        )
        _blend_block(lattice, size, weights, corners, 0, count, out)
        store_integer(out, target[3 * begin :], peak, 3 * count)


@njit(nogil=True, cache=True, fastmath=FASTMATH)
def store_integer(values, target, peak, count):  # type: ignore[no-untyped-def]
    """Round `count` floats to the nearest code 0..peak; NaN becomes 0."""
    for j in range(count):
        code = values[j] * peak + np.float32(0.5)
        code = code if code > np.float32(0) else np.float32(0)
        target[j] = np.int32(code if code < peak else peak)


@njit(nogil=True, cache=True, fastmath=FASTMATH)
def tetrahedral_plain(lattice, size, scale, offset, source, target, start, stop):  # type: ignore[no-untyped-def]
    """tetrahedral_float, one pixel after the other with branches: the reference that the fast form is tested against."""
    last = np.float32(size - 1)
    strides = (4 * size * size, 4 * size, 4)
    for pixel in range(start, stop):
        base = 0
        parts = np.empty(3, np.float32)
        for axis in range(3):
            at = _locate(source[3 * pixel + axis], scale[axis], offset[axis], last)
            cell = min(int(at), size - 2)
            parts[axis] = at - np.float32(cell)
            base += cell * strides[axis]
        first, second, third = 0, 1, 2
        if parts[second] > parts[first]:
            first, second = second, first
        if parts[third] > parts[second]:
            second, third = third, second
        if parts[second] > parts[first]:
            first, second = second, first
        hi, mid, lo = parts[first], parts[second], parts[third]
        one = base + strides[first]
        two = one + strides[second]
        three = two + strides[third]
        for channel in range(3):
            target[3 * pixel + channel] = (
                (np.float32(1) - hi) * lattice[base + channel]
                + (hi - mid) * lattice[one + channel]
                + (mid - lo) * lattice[two + channel]
                + lo * lattice[three + channel]
            )


@njit(nogil=True, cache=True, fastmath=FASTMATH)
def trilinear_float(lattice, size, scale, offset, source, target, start, stop):  # type: ignore[no-untyped-def]
    """Eight corners, three nested linear blends; buffers as tetrahedral_float."""
    last = np.float32(size - 1)
    step_r, step_g = 4 * size * size, 4 * size
    for pixel in range(start, stop):
        pr = _locate(source[3 * pixel], scale[0], offset[0], last)
        pg = _locate(source[3 * pixel + 1], scale[1], offset[1], last)
        pb = _locate(source[3 * pixel + 2], scale[2], offset[2], last)
        ir, ig, ib = min(int(pr), size - 2), min(int(pg), size - 2), min(int(pb), size - 2)
        fr, fg, fb = pr - np.float32(ir), pg - np.float32(ig), pb - np.float32(ib)
        base = ir * step_r + ig * step_g + ib * 4
        for channel in range(3):
            at = base + channel
            c00 = lattice[at] + fb * (lattice[at + 4] - lattice[at])
            c01 = lattice[at + step_g] + fb * (lattice[at + step_g + 4] - lattice[at + step_g])
            at += step_r
            c10 = lattice[at] + fb * (lattice[at + 4] - lattice[at])
            c11 = lattice[at + step_g] + fb * (lattice[at + step_g + 4] - lattice[at + step_g])
            c0, c1 = c00 + fg * (c01 - c00), c10 + fg * (c11 - c10)
            target[3 * pixel + channel] = c0 + fr * (c1 - c0)


@njit(nogil=True, cache=True, fastmath=FASTMATH)
def linear_channels(table, size, scale, offset, source, target, start, stop):  # type: ignore[no-untyped-def]
    """A 1D table per channel: table (3, size) float32, linear between samples, held at both ends."""
    last = np.float32(size - 1)
    for pixel in range(start, stop):
        for channel in range(3):
            at = _locate(source[3 * pixel + channel], scale[channel], offset[channel], last)
            cell = min(int(at), size - 2)
            low = table[channel, cell]
            target[3 * pixel + channel] = low + (at - np.float32(cell)) * (table[channel, cell + 1] - low)


@njit(nogil=True, cache=True)
def swap_ends(rows, size, out):  # type: ignore[no-untyped-def]
    """Rows (size**3, 3) with the first axis fastest to rows with the last one fastest, or back: the same exchange either way."""
    for first in range(size):
        for second in range(size):
            for third in range(size):
                source, target = (third * size + second) * size + first, (first * size + second) * size + third
                out[target, 0] = rows[source, 0]
                out[target, 1] = rows[source, 1]
                out[target, 2] = rows[source, 2]
