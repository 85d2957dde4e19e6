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

BLOCK = 1536


# One work array of floats and one of integers, cut at fixed places: LLVM sees that the parts do not overlap and vectorises. With a
# separate array for each part it would need more run-time overlap checks than it is willing to make (measured: 1.6 times slower).
RED, GREEN, BLUE, WEIGHTS, FLOATS = 0, BLOCK, 2 * BLOCK, 3 * BLOCK, 7 * BLOCK


@njit(nogil=True, cache=True, fastmath=FASTMATH, forceinline=True)
def _locate(x, scale, offset, last):  # type: ignore[no-untyped-def]
    """Position on the lattice, held to 0..last; NaN becomes 0."""
    at = x * scale + offset
    at = at if at > np.float32(0) else np.float32(0)
    return at if at < last else last


@njit(nogil=True, cache=True, fastmath=FASTMATH)
def _load_block(source, work, count):  # type: ignore[no-untyped-def]
    """The first `count` interleaved pixels of source, of any number type, as three planes of floats.

    The caller cuts the source: with a start to add, Numba would test each index for being negative, and nothing would vectorise.
    """
    red, green, blue = work[RED:GREEN], work[GREEN:BLUE], work[BLUE:WEIGHTS]
    for j in range(count):
        red[j] = np.float32(source[3 * j])
        green[j] = np.float32(source[3 * j + 1])
        blue[j] = np.float32(source[3 * j + 2])


@njit(nogil=True, cache=True, fastmath=FASTMATH)
def _index_block(work, corners, count, size, scale_r, scale_g, scale_b, offset_r, offset_g, offset_b):  # type: ignore[no-untyped-def]
    """Corner offsets and weights of one block, four of each a pixel. Only selects, no branches, so that it vectorises."""
    last = np.float32(size - 1)
    cell = np.int32(size - 2)
    step_b, step_g, step_r = np.int32(4), np.int32(4 * size), np.int32(4 * size * size)
    red, green, blue = work[RED:GREEN], work[GREEN:BLUE], work[BLUE:WEIGHTS]
    w0, w1 = work[WEIGHTS : WEIGHTS + BLOCK], work[WEIGHTS + BLOCK : WEIGHTS + 2 * BLOCK]
    w2, w3 = work[WEIGHTS + 2 * BLOCK : WEIGHTS + 3 * BLOCK], work[WEIGHTS + 3 * BLOCK : FLOATS]
    c0, c1, c2, c3 = corners[:BLOCK], corners[BLOCK : 2 * BLOCK], corners[2 * BLOCK : 3 * BLOCK], corners[3 * BLOCK : 4 * BLOCK]
    for j in range(count):
        pr = _locate(red[j], scale_r, offset_r, last)
        pg = _locate(green[j], scale_g, offset_g, last)
        pb = _locate(blue[j], scale_b, offset_b, last)
        ir, ig, ib = np.int32(pr), np.int32(pg), np.int32(pb)
        ir = ir if ir < cell else cell
        ig = ig if ig < cell else cell
        ib = ib if ib < cell else cell
        fr, fg, fb = pr - np.float32(ir), pg - np.float32(ig), pb - np.float32(ib)
        top = fr if fr > fg else fg
        low = fg if fr > fg else fr
        hi = top if top > fb else fb
        rest = fb if top > fb else top
        lo = low if low < rest else rest
        mid = rest if low < rest else low
        base = ir * step_r + ig * step_g + ib * step_b
        first = step_r if fr == hi else (step_g if fg == hi else step_b)
        final = step_b if fb == lo else (step_g if fg == lo else step_r)
        full = base + step_r + step_g + step_b
        c0[j] = base
        c1[j] = base + first
        c2[j] = full - final
        c3[j] = full
        w0[j] = np.float32(1) - hi
        w1[j] = hi - mid
        w2[j] = mid - lo
        w3[j] = lo


@njit(nogil=True, cache=True, fastmath=FASTMATH)
def _blend_block(lattice, work, corners, first, last, out):  # type: ignore[no-untyped-def]
    w0, w1 = work[WEIGHTS : WEIGHTS + BLOCK], work[WEIGHTS + BLOCK : WEIGHTS + 2 * BLOCK]
    w2, w3 = work[WEIGHTS + 2 * BLOCK : WEIGHTS + 3 * BLOCK], work[WEIGHTS + 3 * BLOCK : FLOATS]
    c0, c1, c2, c3 = corners[:BLOCK], corners[BLOCK : 2 * BLOCK], corners[2 * BLOCK : 3 * BLOCK], corners[3 * BLOCK : 4 * BLOCK]
    for j in range(first, last):
        blend_corners(lattice, c0[j], c1[j], c2[j], c3[j], w0[j], w1[j], w2[j], w3[j], out, 3 * j)  # type: ignore[call-arg]


@njit(nogil=True, cache=True, fastmath=FASTMATH)
def tetrahedral_float(lattice, size, scale, offset, source, target, start, stop):  # type: ignore[no-untyped-def]
    """source, target: (3 * n,) float32, interleaved; pixels start..stop are done."""
    work, corners = np.empty(FLOATS, np.float32), np.empty(4 * BLOCK, np.int32)
    out = np.empty(3 * BLOCK + 4, np.float32)
    for begin in range(start, stop, BLOCK):
        count = min(BLOCK, stop - begin)
        _load_block(source[3 * begin :], work, count)
        _index_block(work, corners, count, size, scale[0], scale[1], scale[2], offset[0], offset[1], offset[2])
        # A pixel is stored four floats wide. The last of the block goes through `out`, so that nothing past the block is written
        # and source and target may be the same array.
        _blend_block(lattice, work, corners, 0, count - 1, target[3 * begin :])
        _blend_block(lattice, work, corners, count - 1, count, out)
        last = 3 * (count - 1)
        for j in range(3):
            target[3 * begin + last + j] = out[last + j]


@njit(nogil=True, cache=True, fastmath=FASTMATH)
def tetrahedral_integer(lattice, size, scale, offset, source, target, peak, start, stop):  # type: ignore[no-untyped-def]
    """As tetrahedral_float for (3 * n,) uint8 or uint16 in and out; `scale` takes in the 1/peak of the source."""
    work, corners = np.empty(FLOATS, np.float32), np.empty(4 * BLOCK, np.int32)
    out = np.empty(3 * BLOCK + 4, np.float32)
    for begin in range(start, stop, BLOCK):
        count = min(BLOCK, stop - begin)
        _load_block(source[3 * begin :], work, count)
        _index_block(work, corners, count, size, scale[0], scale[1], scale[2], offset[0], offset[1], offset[2])
        _blend_block(lattice, work, corners, 0, count, out)
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
