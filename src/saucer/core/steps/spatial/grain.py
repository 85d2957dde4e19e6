"""Grain: noise of a given coarseness, strongest in the middle tones. The same seed gives the same grain at every size of a picture.

White noise on a grid is blurred by a Gaussian, the same in every direction, and averaged over the area of each pixel: a proxy shows the
average of what its pixels are in full size. It is as strong, in every encoding, as on the cube root of light (the curve of OKLab and of
CIELAB), channel by channel: code values move by as much as that root's change moves them. It moves from frame to frame of a moving picture:
the number of the frame goes into the seed.
"""

from __future__ import annotations

import math
from functools import lru_cache
from typing import Annotated, Literal

import numpy as np
from pydantic import Field

from saucer.core.colour.encodings import Encoding
from saucer.core.numeric.elementary import F, clamp, compiled, near_cube_root
from saucer.core.numeric.parallel import over_runs
from saucer.core.steps.parameters import Share, StepParameters, within
from saucer.core.steps.registry import Frame, SpatialKind, register

ROWS = 68
FULL = 0.12
"""Standard deviation of the cube root of light in the middle tones at amount 1, before pixels average."""
BLUR = 0.6
"""Standard deviation of the Gaussian, in distances between grains: enough that the grid itself does not show."""
ENTRIES = 4097
REACH = 1.75
"""Distances between grains at which it is cut; 1.4 % of its middle is left there."""
SHORTEST_RUN = 12
BEFORE = 2
"""Grains to the left of the picture and above it that may take part."""


class Grain(StepParameters):
    """size: distance between grains. Pixels average over what they cover: where they cover many grains, the noise is that much weaker."""

    kind: Literal["grain"] = "grain"
    amount: Share = 0.0
    size: Annotated[float, within(0.0003, 0.02, "picture heights")] = 0.0018
    colour: Annotated[bool, Field(description="each channel its own grain")] = False
    seed: Annotated[int, Field(ge=0, le=2**31 - 1)] = 1


@compiled
def _nodes(values, columns, iy, seed):  # type: ignore[no-untyped-def]
    """Numbers of mean 0 and variance 1, triangular, of grains of one row: the sums of two halves of a 32-bit hash of the place."""
    row = np.uint32(np.uint32(np.uint32(iy) * np.uint32(0x85EBCA77)) ^ seed)
    for x in range(values.size):
        # Numba widens sums and shifts to 64 bits, which would halve the lanes: each is cast back.
        h = np.uint32(np.uint32(columns[x] * np.uint32(0x9E3779B1)) ^ row)
        h = np.uint32(h ^ np.uint32(h >> np.uint32(16)))
        h = np.uint32(h * np.uint32(0x7FEB352D))
        h = np.uint32(h ^ np.uint32(h >> np.uint32(15)))
        h = np.uint32(h * np.uint32(0x846CA68B))
        h = np.uint32(h ^ np.uint32(h >> np.uint32(16)))
        total = np.int32(np.int32(np.uint32(h & np.uint32(0xFFFF))) + np.int32(np.uint32(h >> np.uint32(16))))
        values[x] = F(np.int32(total - np.int32(65535))) * F(np.sqrt(6) / 65536)


@compiled
def _weigh(first, weights, begin, per_cell):  # type: ignore[no-untyped-def]
    """For each pixel of a line, `begin` being the first: the first grain that takes part, and the shares of it and those after it.

    weights: (grains, pixels). The Gaussian's integral over the pixel, such that a point between grains has variance 1 on average
    """
    half, blur = 0.5 * per_cell, BLUR * math.sqrt(2.0)
    scale = 0.5 / per_cell * math.sqrt(2.0 * BLUR * math.sqrt(math.pi))
    for x in range(first.size):
        middle = (begin + x + 0.5) * per_cell
        start = math.ceil(middle - half - REACH)
        first[x] = np.uint32(start + BEFORE)  # counted from a place that no pixel comes before
        for k in range(weights.shape[0]):
            away = middle - (start + k)
            weights[k, x] = F(scale * (math.erf((away + half) / blur) - math.erf((away - half) / blur)))


@lru_cache(maxsize=32)
def _line(begin: int, count: int, per_cell: float) -> tuple[np.ndarray, np.ndarray]:
    """As `_weigh` fills them for so many pixels; read-only."""
    first = np.empty(count, np.uint32)
    weights = np.empty((math.floor(per_cell + 2 * REACH) + 1, count), np.float32)
    _weigh(first, weights, begin, per_cell)
    first.flags.writeable = weights.flags.writeable = False
    return first, weights


@lru_cache(maxsize=32)
def _layout(count: int, per_cell: float) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """How the grains of a row lie in memory for so many pixels: their columns, for each pixel the place of its first, the weights.

    Where runs of pixels take grains one after the other, the grains of each run lie together and what two runs share lies there twice,
    so that sums go straight over memory; `weights` are spread alike then, and wider than `count`. All read-only.
    """
    first, weights = _line(0, count, per_cell)
    begins = np.concatenate([[0], np.flatnonzero(np.diff(first.astype(np.int64)) != 1) + 1])
    if count < SHORTEST_RUN * len(begins):
        columns = np.arange(first[-1] + len(weights), dtype=np.uint32)
        columns.flags.writeable = False
        return columns, first, weights
    extra = (len(weights) - 1) * (np.searchsorted(begins, np.arange(count), side="right") - 1)
    places = np.arange(count) + extra
    columns, spread = np.zeros(places[-1] + len(weights), np.uint32), np.zeros((len(weights), places[-1] + 1), np.float32)
    for k, row in enumerate(weights):
        columns[places + k] = first + np.uint32(k)
        spread[k, places] = row
    found = columns, places.astype(np.uint32), spread
    for one in found:  # as those above: for a compiler they would be of another type
        one.flags.writeable = False
    return found


@compiled
def _mix_rows(mixed, rows, shares):  # type: ignore[no-untyped-def]
    """Sums of rows, each by its share; four at a time, so that the sums are read and written less often."""
    mixed[:] = F(0)
    four = len(rows) // 4 * 4
    for k in range(0, four, 4):
        _add_four(mixed, rows[k], rows[k + 1], rows[k + 2], rows[k + 3], shares[k], shares[k + 1], shares[k + 2], shares[k + 3])
    for k in range(four, len(rows)):
        _add_one(mixed, rows[k], shares[k])


@compiled
def _add_four(total, a, b, c, d, sa, sb, sc, sd):  # type: ignore[no-untyped-def]
    for x in range(total.size):
        total[x] += (sa * a[x] + sb * b[x]) + (sc * c[x] + sd * d[x])


@compiled
def _add_one(total, row, share):  # type: ignore[no-untyped-def]
    for x in range(total.size):
        total[x] += share * row[x]


@compiled
def _weigh_four(total, a, b, c, d, wa, wb, wc, wd):  # type: ignore[no-untyped-def]
    for x in range(total.size):
        total[x] += (wa[x] * a[x] + wb[x] * b[x]) + (wc[x] * c[x] + wd[x] * d[x])


@compiled
def _weigh_one(total, row, weights):  # type: ignore[no-untyped-def]
    for x in range(total.size):
        total[x] += weights[x] * row[x]


@compiled
def _gather(out, values, places):  # type: ignore[no-untyped-def]
    for x in range(out.size):
        out[x] = values[places[x]]


@compiled
def _add_gathered(noise, mixed, first, weights):  # type: ignore[no-untyped-def]
    for x in range(noise.size):
        noise[x] += weights[x] * mixed[first[x]]


@compiled
def _mix_along(noise, spread, mixed, first, weights):  # type: ignore[no-untyped-def]
    """For each pixel the sum of grains by their weights, as `_layout` lays them. spread: as wide as the weights, to work in."""
    taps = len(weights)
    if spread.size == noise.size:
        noise[:] = F(0)
        for k in range(taps):
            _add_gathered(noise, mixed[k:], first, weights[k])
        return
    spread[:] = F(0)
    four = taps // 4 * 4
    for k in range(0, four, 4):
        _weigh_four(
            spread,
            mixed[k:],
            mixed[k + 1 :],
            mixed[k + 2 :],
            mixed[k + 3 :],
            weights[k],
            weights[k + 1],
            weights[k + 2],
            weights[k + 3],
        )
    for k in range(four, taps):
        _weigh_one(spread, mixed[k:], weights[k])
    _gather(noise, spread, first)


@compiled
def _take_apart(row, red, green, blue):  # type: ignore[no-untyped-def]
    for x in range(red.size):
        red[x], green[x], blue[x] = row[3 * x], row[3 * x + 1], row[3 * x + 2]


@compiled
def _put_together(row, red, green, blue):  # type: ignore[no-untyped-def]
    for x in range(red.size):
        row[3 * x], row[3 * x + 1], row[3 * x + 2] = red[x], green[x], blue[x]


@compiled
def _look_up(codes, out, table):  # type: ignore[no-untyped-def]
    for x in range(codes.size):
        at = np.uint32(np.int32(clamp(codes[x], F(0), F(1)) * F(ENTRIES - 1) + F(0.5)))
        out[x] = table[at]


@compiled
def _roots_of_light(light, out):  # type: ignore[no-untyped-def]
    for x in range(light.size):
        out[x] = near_cube_root(light[x])


@compiled
def _slopes_of_light(light, out):  # type: ignore[no-untyped-def]
    for x in range(light.size):
        root = near_cube_root(light[x])
        out[x] = F(3) * root * root


@compiled
def _luma(out, red, green, blue, wr, wg, wb):  # type: ignore[no-untyped-def]
    for x in range(out.size):
        out[x] = wr * red[x] + wg * green[x] + wb * blue[x]


@compiled
def _scales(scale, tones, deviation):  # type: ignore[no-untyped-def]
    """From cube roots of light: how strong the noise is, in full in the middle tones, a quarter of it in black and white."""
    for x in range(scale.size):
        off = F(2) * clamp(tones[x], F(0), F(1)) - F(1)
        scale[x] = deviation * (F(1) - F(0.75) * off * off)


@compiled
def _add(codes, noise, scale, slopes):  # type: ignore[no-untyped-def]
    for x in range(codes.size):
        codes[x] += noise[x] * scale[x] * slopes[x]


@compiled
def _lay_on(row, noise, root_table, slope_table, deviation, wr, wg, wb, red, green, blue, slopes, tones, scale):  # type: ignore[no-untyped-def]
    """A row of a picture under a row of noise for each channel, or one for all. The last six are rows to work in."""
    last = noise.shape[0] - 1
    _take_apart(row, red, green, blue)
    _luma(scale, red, green, blue, wr, wg, wb)
    if root_table.size:
        _look_up(scale, tones, root_table)
    else:
        _roots_of_light(scale, tones)
    _scales(scale, tones, deviation)
    for channel, codes in enumerate((red, green, blue)):
        if slope_table.size:
            _look_up(codes, slopes, slope_table)
        else:
            _slopes_of_light(codes, slopes)
        _add(codes, noise[min(channel, last)], scale, slopes)
    _put_together(row, red, green, blue)


@compiled
def _grain(rows, columns, first, across, first_row, down, root_table, slope_table, deviation, weights, seeds, start, stop):  # type: ignore[no-untyped-def]
    """columns, first, across: as `_layout` gives them; first_row, down: for every row at hand; tables: empty for linear light."""
    taps, width = len(down), first.size
    noise, spread, mixed = (
        np.empty((seeds.size, width), np.float32),
        np.empty(across.shape[1], np.float32),
        np.empty(columns.size, np.float32),
    )
    grains, known, shares = np.empty((seeds.size, taps, columns.size), np.float32), np.full(taps, -1), np.empty(taps, np.float32)
    red, green, blue, scale = (
        np.empty(width, np.float32), np.empty(width, np.float32), np.empty(width, np.float32), np.empty(width, np.float32),
    )  # fmt: skip
    slopes, tones = np.empty(width, np.float32), np.empty(width, np.float32)
    wr, wg, wb = weights[0], weights[1], weights[2]
    for row in range(start, stop):
        for k in range(taps):
            wanted = int(first_row[row]) + k
            if known[wanted % taps] != wanted:
                for channel in range(seeds.size):
                    _nodes(grains[channel, wanted % taps], columns, wanted, seeds[channel])
                known[wanted % taps] = wanted
            shares[wanted % taps] = down[k, row]
        for channel in range(seeds.size):
            _mix_rows(mixed, grains[channel], shares)
            _mix_along(noise[channel], spread, mixed, first, across)
        _lay_on(rows[row], noise, root_table, slope_table, deviation, wr, wg, wb, red, green, blue, slopes, tones, scale)


@lru_cache(maxsize=32)
def _tables(encoding: Encoding) -> tuple[np.ndarray, np.ndarray]:
    """(ENTRIES,) cube root of light over code values 0..1, and by how much codes change for a change of it; empty for linear light."""
    if encoding.linear:
        return np.empty(0, np.float32), np.empty(0, np.float32)
    step = 1 / (ENTRIES - 1)
    codes = np.linspace(0, 1, ENTRIES)[:, None] + np.array([-step / 2, 0, step / 2])
    below, root, above = np.cbrt(encoding.transfer.decode(codes)).T
    return root.astype(np.float32), (step / np.maximum(above - below, 1e-9)).astype(np.float32)


def evaluate(step: Grain, pixels: np.ndarray, encoding: Encoding, frame: Frame) -> np.ndarray:
    base = step.seed * 3 + frame.number * 0x9E3779B1
    seeds = np.array([(base + channel) * 0x27D4EB2F & 0xFFFFFFFF for channel in range(3 if step.colour else 1)], np.uint32)
    rows, weights = pixels.reshape(len(pixels), -1), encoding.luma.astype(np.float32)
    per_cell, deviation = 1 / (step.size * frame.height), F(FULL * step.amount)
    across, down = _layout(frame.width, per_cell), _line(frame.top, len(rows), per_cell)
    numbers = [*across, *down, *_tables(encoding), deviation, weights, seeds]
    over_runs(lambda a, b: _grain(rows, *numbers, a, b), len(rows), chunk=ROWS)
    return pixels


def neutral(step: Grain) -> bool:
    return step.amount == 0


def summary(step: Grain) -> str:
    kind = "colour" if step.colour else "mono"
    return "no change" if neutral(step) else f"{step.amount * 100:.0f} %, {kind}, size {step.size * 100:.2g} % of the height"


register(SpatialKind(Grain, "Grain", evaluate, neutral, summary, examples=({"amount": 0.5},)))
