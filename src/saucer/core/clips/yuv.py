"""Luma and chroma planes to RGB and back, in float32, for any depth and sampling of chroma.

Source: ITU-T H.273 (2021), 8.3 (ranges, matrices) and figure 1 (where chroma samples lie); chroma is interpolated linearly between them.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from saucer.core.clips.coding import LUMA, Coding, Siting
from saucer.core.errors import ShapeError
from saucer.core.numeric.elementary import F, compiled
from saucer.core.numeric.parallel import over_runs
from saucer.core.reading.passing import passed

ROWS = 64
"""Rows that one thread takes at a time."""


@passed
@dataclass(frozen=True)
class Layout:
    """across, down: luma samples to a chroma sample, 1 or 2; bits: of a sample; siting: where chroma samples lie"""

    across: int
    down: int
    bits: int
    siting: Siting = "left"

    @property
    def words(self) -> str:
        return {(1, 1): "4:4:4", (2, 1): "4:2:2", (2, 2): "4:2:0"}.get((self.across, self.down), f"{self.across}x{self.down}")


@compiled
def _blend_rows(line, above, below, wy, count):  # type: ignore[no-untyped-def]
    up = F(1) - wy
    for x in range(count):
        line[x] = up * F(above[x]) + wy * F(below[x])


@compiled
def _spread(line, wide, count, centred):  # type: ignore[no-untyped-def]
    """A chroma row to twice its length; wide holds 2 * count."""
    near, far = (F(0.75), F(0.25)) if centred else (F(1), F(0))
    half = F(0.25) if centred else F(0.5)
    wide[0] = line[0]
    for x in range(count - 1):
        wide[2 * x + 1] = (F(1) - half) * line[x] + half * line[x + 1]
        wide[2 * x + 2] = near * line[x + 1] + far * line[x]
    wide[2 * count - 1] = line[count - 1]


@compiled
def _to_rgb(y, u, v, out, height, top, numbers, across, down, centred, cosited_rows, start, stop):  # type: ignore[no-untyped-def]
    """out: rows from `top` on of a picture of that height; start, stop: rows of the picture

    numbers: luma scale and offset, chroma scale and offset, red per Cr, green per Cb and Cr, blue per Cb
    """
    width = out.shape[1] // 3
    count = (width + across - 1) // across
    chroma_rows = (height + down - 1) // down
    line, wide_u, wide_v = np.empty(count, np.float32), np.empty(2 * count + 1, np.float32), np.empty(2 * count + 1, np.float32)
    red, green, blue = np.empty(width, np.float32), np.empty(width, np.float32), np.empty(width, np.float32)
    ys, yo, cs, co = numbers[0], numbers[1], numbers[2], numbers[3]
    rv, gu, gv, bu = numbers[4], numbers[5], numbers[6], numbers[7]
    for row in range(start, stop):
        place = F(row) if down == 1 else (F(row) * F(0.5) if cosited_rows else F(row) * F(0.5) - F(0.25))
        place = place if place > F(0) else F(0)
        first = min(int(place), chroma_rows - 1)
        second = min(first + 1, chroma_rows - 1)
        wy = place - F(first)
        if across == 1:
            _blend_rows(wide_u, u[first], u[second], wy, count)
            _blend_rows(wide_v, v[first], v[second], wy, count)
        else:
            _blend_rows(line, u[first], u[second], wy, count)
            _spread(line, wide_u, count, centred)
            _blend_rows(line, v[first], v[second], wy, count)
            _spread(line, wide_v, count, centred)
        target, luma = out[row - top], y[row]
        # Apart first: a loop that stores three channels side by side is not vectorised.
        for x in range(width):
            light = F(luma[x]) * ys + yo
            cb, cr = wide_u[x] * cs + co, wide_v[x] * cs + co
            red[x] = light + rv * cr
            green[x] = light - gu * cb - gv * cr
            blue[x] = light + bu * cb
        for x in range(width):
            target[3 * x] = red[x]
            target[3 * x + 1] = green[x]
            target[3 * x + 2] = blue[x]


def _numbers(coding: Coding, bits: int) -> np.ndarray:
    kr, kb = LUMA[coding.matrix]
    kg = 1 - kr - kb
    step = 2.0 ** (bits - 8)
    low, span, chroma_span = (0.0, 2.0**bits - 1, 2.0**bits - 1) if coding.full else (16 * step, 219 * step, 224 * step)
    middle = 128 * step
    return np.array(
        [1 / span, -low / span, 1 / chroma_span, -middle / chroma_span,
         2 * (1 - kr), 2 * (1 - kb) * kb / kg, 2 * (1 - kr) * kr / kg, 2 * (1 - kb)], np.float32,
    )  # fmt: skip


def to_rgb(
    planes: tuple[np.ndarray, np.ndarray, np.ndarray],
    width: int,
    height: int,
    layout: Layout,
    coding: Coding,
    threads: int | None = None,
    rows: tuple[int, int] | None = None,
) -> np.ndarray:
    """(height, width, 3) float32 code values; black 0, white 1, what lies beyond is kept. rows: only these, the last not included

    planes: Y, Cb, Cr, (rows, at least as many columns as there are samples) uint8 or uint16, contiguous
    Raises: ShapeError where a plane is too small
    """
    small = -(-width // layout.across), -(-height // layout.down)
    for plane, (across, down) in zip(planes, ((width, height), small, small), strict=True):
        if plane.shape[0] < down or plane.shape[1] < across:
            raise ShapeError("planes", f"need {down} rows of {across}, got {plane.shape}")
    top, bottom = rows or (0, height)
    out = np.empty((bottom - top, width * 3), np.float32)
    numbers = _numbers(coding, layout.bits)
    centred, corner = layout.siting == "centre", layout.siting == "corner"
    y, u, v = planes
    over_runs(
        lambda a, b: _to_rgb(y, u, v, out, height, top, numbers, layout.across, layout.down, centred, corner, top + a, top + b),
        bottom - top, threads, ROWS,
    )  # fmt: skip
    return out.reshape(bottom - top, width, 3)


@compiled
def _store(value, peak):  # type: ignore[no-untyped-def]
    return np.int32(min(max(value + F(0.5), F(0)), peak))


@compiled
def _part_row(line, luma, cb, cr, room, numbers, peak, width):  # type: ignore[no-untyped-def]
    """A row of red, green, blue to luma as it is stored, and to blue and red less luma; room: three rows to work in."""
    red, green, blue = room[0], room[1], room[2]
    kr, kg, kb, ys, yo = numbers[0], numbers[1], numbers[2], numbers[3], numbers[4]
    # Apart first: a loop that loads three channels side by side is not vectorised.
    for x in range(width):
        red[x], green[x], blue[x] = line[3 * x], line[3 * x + 1], line[3 * x + 2]
    for x in range(width):
        held_red, held_blue = min(max(red[x], F(0)), F(1)), min(max(blue[x], F(0)), F(1))
        light = kr * held_red + kg * min(max(green[x], F(0)), F(1)) + kb * held_blue
        luma[x] = _store(light * ys + yo, peak)
        cb[x] = held_blue - light
        cr[x] = held_red - light


@compiled
def _put_chroma(line, target, even, odd, scale, offset, peak, across, width):  # type: ignore[no-untyped-def]
    """A row of differences to samples of chroma: every one, or every second one with its neighbours (weights 1, 2, 1).

    even, odd: half a row each, to work in
    """
    if across == 1:
        for x in range(width):
            target[x] = _store(line[x] * scale + offset, peak)
        return
    pairs = width // 2
    # Apart first, and the neighbour by a cut: a loop that loads every second one, or one before the first, is not vectorised.
    for x in range(pairs):
        even[x], odd[x] = line[2 * x], line[2 * x + 1]
    target[0] = _store((F(0.75) * line[0] + F(0.25) * line[min(1, width - 1)]) * scale + offset, peak)
    after, later = even[1:], target[1:]
    for x in range(pairs - 1):
        mean = F(0.25) * (odd[x] + odd[x + 1]) + F(0.5) * after[x]
        later[x] = _store(mean * scale + offset, peak)
    if width % 2 and width > 1:
        target[width // 2] = _store((F(0.25) * line[width - 2] + F(0.75) * line[width - 1]) * scale + offset, peak)


@compiled
def _from_rgb(rgb, y, u, v, top, numbers, peak, across, down, start, stop):  # type: ignore[no-untyped-def]
    """rgb: rows from the luma row `top` on; start, stop: chroma rows, counted from there. Chroma lies between two rows."""
    height, width = rgb.shape[0], rgb.shape[1] // 3
    room = np.empty((3, width), np.float32)
    cb, cr = np.empty((2, width), np.float32), np.empty((2, width), np.float32)
    us, vs, co = numbers[5], numbers[6], numbers[7]
    for pair in range(start, stop):
        for part in range(down):
            row = min(pair * down + part, height - 1)
            _part_row(rgb[row], y[top + row], cb[part], cr[part], room, numbers, peak, width)
        if down == 2:
            for x in range(width):
                cb[0, x] = F(0.5) * (cb[0, x] + cb[1, x])
                cr[0, x] = F(0.5) * (cr[0, x] + cr[1, x])
        _put_chroma(cb[0], u[top // down + pair], room[0], room[1], us, co, peak, across, width)
        _put_chroma(cr[0], v[top // down + pair], room[0], room[1], vs, co, peak, across, width)


def from_rgb(
    rgb: np.ndarray, planes: tuple[np.ndarray, np.ndarray, np.ndarray], layout: Layout, coding: Coding, threads: int | None = None,
    top: int = 0,
) -> None:  # fmt: skip
    """Fill Y, Cb, Cr planes from (h, w, 3) float32 code values held to 0..1, rounded to nearest; chroma sited left.

    top: the rows are those from here on, an even number
    planes: as `to_rgb` takes them, with room for every sample
    """
    height = len(rgb)
    kr, kb = LUMA[coding.matrix]
    n = _numbers(coding, layout.bits).astype(np.float64)
    span, chroma_span, middle = 1 / n[0], 1 / n[2], 128 * 2.0 ** (layout.bits - 8)
    numbers = np.array(
        [
            kr,
            1 - kr - kb,
            kb,
            span,
            -n[1] * span,
            chroma_span / (2 * (1 - kb)),
            chroma_span / (2 * (1 - kr)),
            middle,
        ],
        np.float32,
    )
    y, u, v = planes
    flat, peak = np.ascontiguousarray(rgb, np.float32).reshape(height, -1), F(2**layout.bits - 1)
    across, down = layout.across, layout.down
    over_runs(
        lambda a, b: _from_rgb(flat, y, u, v, top, numbers, peak, across, down, a, b), -(-height // down), threads, ROWS
    )  # fmt: skip
