"""Compiled interpolation. Nothing here checks its input: `apply.py` does, once, before calling.

Tetrahedral: each cell of the lattice is cut into six tetrahedra by the order of the three fractions; a value is the weighted sum of
four corners. Source: Kasson, Nin, Plouffe, Hafner, "Performing color space conversions with three-dimensional linear
interpolation", J. Electron. Imaging 4(3), 1995.
"""

from __future__ import annotations

import numpy as np
from numba import njit

from saucer.core.lut.blend import blend_corners

FASTMATH = {"contract", "nsz", "arcp", "reassoc"}  # never nnan: a NaN index would read outside the table
BLOCK = 512


@njit(nogil=True, cache=True, fastmath=FASTMATH, inline="always")
def _locate(x, scale, offset, last):  # type: ignore[no-untyped-def]
    """Position on the lattice, held to 0..last; NaN becomes 0."""
    at = x * scale + offset
    at = at if at > np.float32(0) else np.float32(0)
    return at if at < last else last


@njit(nogil=True, cache=True, fastmath=FASTMATH)
def _index_block(red, green, blue, count, size, scale, offset, corners, weights):  # type: ignore[no-untyped-def]
    """Corner offsets (4, BLOCK) int32 and weights (4, BLOCK) float32 of one block. Only selects, so that it vectorises."""
    last = np.float32(size - 1)
    cell = np.int32(size - 2)
    step_b, step_g, step_r = np.int32(4), np.int32(4 * size), np.int32(4 * size * size)
    c0, c1, c2, c3 = corners[0], corners[1], corners[2], corners[3]
    w0, w1, w2, w3 = weights[0], weights[1], weights[2], weights[3]
    for j in range(count):
        pr = _locate(red[j], scale[0], offset[0], last)
        pg = _locate(green[j], scale[1], offset[1], last)
        pb = _locate(blue[j], scale[2], offset[2], last)
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
        last_step = step_b if fb == lo else (step_g if fg == lo else step_r)
        full = base + step_r + step_g + step_b
        c0[j] = base
        c1[j] = base + first
        c2[j] = full - last_step
        c3[j] = full
        w0[j] = np.float32(1) - hi
        w1[j] = hi - mid
        w2[j] = mid - lo
        w3[j] = lo


@njit(nogil=True, cache=True, fastmath=FASTMATH)
def _blend_block(lattice, count, corners, weights, out):  # type: ignore[no-untyped-def]
    c0, c1, c2, c3 = corners[0], corners[1], corners[2], corners[3]
    w0, w1, w2, w3 = weights[0], weights[1], weights[2], weights[3]
    for j in range(count):
        blend_corners(lattice, c0[j], c1[j], c2[j], c3[j], w0[j], w1[j], w2[j], w3[j], out, 3 * j)


@njit(nogil=True, cache=True, fastmath=FASTMATH)
def tetrahedral_float(lattice, size, scale, offset, source, target, start, stop):  # type: ignore[no-untyped-def]
    """source, target: (3 * n,) float32, interleaved; pixels start..stop are done."""
    planes = np.empty((3, BLOCK), np.float32)
    corners, weights = np.empty((4, BLOCK), np.int32), np.empty((4, BLOCK), np.float32)
    out = np.empty(3 * BLOCK + 4, np.float32)
    for begin in range(start, stop, BLOCK):
        count = min(BLOCK, stop - begin)
        red, green, blue = planes[0], planes[1], planes[2]
        for j in range(count):
            red[j], green[j], blue[j] = source[3 * (begin + j)], source[3 * (begin + j) + 1], source[3 * (begin + j) + 2]
        _index_block(red, green, blue, count, size, scale, offset, corners, weights)
        if begin + count < stop:
            # The next block overwrites the one float that the last pixel's 4-wide store spills.
            _blend_block(lattice, count, corners, weights, target[3 * begin :])
        else:
            _blend_block(lattice, count, corners, weights, out)
            for j in range(3 * count):
                target[3 * begin + j] = out[j]


@njit(nogil=True, cache=True, fastmath=FASTMATH)
def tetrahedral_integer(lattice, size, scale, offset, source, target, peak, start, stop):  # type: ignore[no-untyped-def]
    """As tetrahedral_float for (3 * n,) uint8 or uint16 in and out; `scale` takes in the 1/peak of the source."""
    planes = np.empty((3, BLOCK), np.float32)
    corners, weights = np.empty((4, BLOCK), np.int32), np.empty((4, BLOCK), np.float32)
    out = np.empty(3 * BLOCK + 4, np.float32)
    for begin in range(start, stop, BLOCK):
        count = min(BLOCK, stop - begin)
        red, green, blue = planes[0], planes[1], planes[2]
        for j in range(count):
            red[j] = np.float32(source[3 * (begin + j)])
            green[j] = np.float32(source[3 * (begin + j) + 1])
            blue[j] = np.float32(source[3 * (begin + j) + 2])
        _index_block(red, green, blue, count, size, scale, offset, corners, weights)
        _blend_block(lattice, count, corners, weights, out)
        store_integer(out, target, peak, 3 * begin, 3 * count)


@njit(nogil=True, cache=True, fastmath=FASTMATH)
def store_integer(values, target, peak, at, count):  # type: ignore[no-untyped-def]
    """Round `count` floats to the nearest code 0..peak; NaN becomes 0."""
    for j in range(count):
        code = values[j] * peak + np.float32(0.5)
        code = code if code > np.float32(0) else np.float32(0)
        target[at + j] = target.dtype.type(np.int32(code if code < peak else peak))


@njit(nogil=True, cache=True, fastmath=FASTMATH)
def tetrahedral_plain(lattice, size, scale, offset, source, target, start, stop):  # type: ignore[no-untyped-def]
    """The same as tetrahedral_float, one pixel after the other with branches: the reference that the fast form is tested against."""
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
        order = np.argsort(-parts)
        hi, mid, lo = parts[order[0]], parts[order[1]], parts[order[2]]
        one = base + strides[order[0]]
        two = one + strides[order[1]]
        three = two + strides[order[2]]
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
