"""Grain: noise of a given coarseness, strongest in the middle tones. The same seed gives the same grain on a proxy and in full size.

It moves from frame to frame of a moving picture: the number of the frame goes into the seed.
"""

from __future__ import annotations

from typing import Annotated, Literal

import numpy as np
from pydantic import Field

from saucer.core.colour.encodings import Encoding
from saucer.core.numeric.elementary import F, clamp, compiled
from saucer.core.numeric.parallel import over_runs
from saucer.core.steps.parameters import Share, StepParameters, within
from saucer.core.steps.registry import Frame, SpatialKind, register

ROWS = 16
FULL = 0.12
"""Standard deviation in code values of mid grey at amount 1."""


class Grain(StepParameters):
    """size: distance between grains. Where it is less than a pixel, a pixel averages over many and the noise is that much weaker."""

    kind: Literal["grain"] = "grain"
    amount: Share = 0.0
    size: Annotated[float, within(0.0003, 0.02, "picture heights")] = 0.0018
    colour: Annotated[bool, Field(description="each channel its own grain")] = False
    seed: Annotated[int, Field(ge=0, le=2**31 - 1)] = 1


@compiled
def _nodes(values, iy, seed):  # type: ignore[no-untyped-def]
    """Numbers of mean 0 and variance 1, triangular, of one row of grains: the sums of two halves of a 32-bit hash of the place."""
    row = np.uint32(np.uint32(np.uint32(iy) * np.uint32(0x85EBCA77)) ^ seed)
    for x in range(values.size):
        # Numba widens sums and shifts to 64 bits, which would halve the lanes: each is cast back.
        h = np.uint32(np.uint32(np.uint32(x) * np.uint32(0x9E3779B1)) ^ row)
        h = np.uint32(h ^ np.uint32(h >> np.uint32(16)))
        h = np.uint32(h * np.uint32(0x7FEB352D))
        h = np.uint32(h ^ np.uint32(h >> np.uint32(15)))
        h = np.uint32(h * np.uint32(0x846CA68B))
        h = np.uint32(h ^ np.uint32(h >> np.uint32(16)))
        total = np.int32(np.int32(np.uint32(h & np.uint32(0xFFFF))) + np.int32(np.uint32(h >> np.uint32(16))))
        values[x] = F(np.int32(total - np.int32(65535))) * F(np.sqrt(6) / 65536)


@compiled
def _places(columns, left, right, per_cell):  # type: ignore[no-untyped-def]
    """For each pixel of a row: the grain to its left, and the weights of that and the next one, their squares summing to 1."""
    for x in range(columns.size):
        u = (F(x) + F(0.5)) * per_cell
        column = np.floor(u)
        f = u - column
        w = f * f * (F(3) - F(2) * f)
        keep = F(1) - w
        size = F(1) / np.sqrt(keep * keep + w * w)
        columns[x] = np.uint32(np.int32(column))
        left[x], right[x] = keep * size, w * size


@compiled
def _noise_row(noise, wy, above, below, columns, left, right):  # type: ignore[no-untyped-def]
    """One row of noise: four grains round each pixel, smoothly weighted, of variance 1."""
    up = F(1) - wy
    size = F(1) / np.sqrt(wy * wy + up * up)
    up, down = up * size, wy * size
    above_next, below_next = above[1:], below[1:]
    for x in range(noise.size):
        at = columns[x]
        noise[x] = left[x] * (up * above[at] + down * below[at]) + right[x] * (up * above_next[at] + down * below_next[at])


@compiled
def _noise_row_between(noise, above, below):  # type: ignore[no-untyped-def]
    """The same where grains are a pixel apart: each pixel lies in the middle of four."""
    above_next, below_next = above[1:], below[1:]
    for x in range(noise.size):
        noise[x] = F(0.5) * ((above[x] + below[x]) + (above_next[x] + below_next[x]))


@compiled
def _lay_on(out, for_red, for_green, for_blue, deviation, wr, wg, wb):  # type: ignore[no-untyped-def]
    """Add a row of noise, in full in the middle tones, a quarter of it in black and white."""
    for x in range(for_red.size):
        r, g, b = out[3 * x], out[3 * x + 1], out[3 * x + 2]
        off = F(2) * clamp(wr * r + wg * g + wb * b, F(0), F(1)) - F(1)
        scale = deviation * (F(1) - F(0.75) * off * off)
        out[3 * x] = r + for_red[x] * scale
        out[3 * x + 1] = g + for_green[x] * scale
        out[3 * x + 2] = b + for_blue[x] * scale


@compiled
def _grain(rows, top, per_cell, deviation, weights, seeds, start, stop):  # type: ignore[no-untyped-def]
    width = rows.shape[1] // 3
    count = int(F(width) * per_cell) + 3
    noise = np.empty((seeds.size, width), np.float32)
    grains = np.empty((seeds.size, 2, count), np.float32)
    columns, left, right = np.empty(width, np.uint32), np.empty(width, np.float32), np.empty(width, np.float32)
    _places(columns, left, right, per_cell)
    known = np.full(2, -1)
    wr, wg, wb = weights[0], weights[1], weights[2]
    for row in range(start, stop):
        v = (F(top + row) + F(0.5)) * per_cell
        iy = int(np.floor(v))
        fy = v - F(iy)
        wy = fy * fy * (F(3) - F(2) * fy)
        for wanted in (iy, iy + 1):
            slot = wanted & 1
            if known[slot] != wanted:
                for channel in range(seeds.size):
                    _nodes(grains[channel, slot], wanted, seeds[channel])
                known[slot] = wanted
        for channel in range(seeds.size):
            above, below = grains[channel, iy & 1], grains[channel, (iy + 1) & 1]
            if per_cell == F(1):
                _noise_row_between(noise[channel], above, below)
            else:
                _noise_row(noise[channel], wy, above, below, columns, left, right)
        last = seeds.size - 1
        _lay_on(rows[row], noise[0], noise[min(1, last)], noise[last], deviation, wr, wg, wb)


def evaluate(step: Grain, pixels: np.ndarray, encoding: Encoding, frame: Frame) -> np.ndarray:
    cell = step.size * frame.height
    deviation = FULL * step.amount * min(cell, 1.0)
    base = step.seed * 3 + frame.number * 0x9E3779B1
    seeds = np.array([(base + channel) * 0x27D4EB2F & 0xFFFFFFFF for channel in range(3 if step.colour else 1)], np.uint32)
    rows = pixels.reshape(len(pixels), -1)
    numbers = [F(1 / max(cell, 1.0)), F(deviation), encoding.luma.astype(np.float32), seeds]
    over_runs(lambda a, b: _grain(rows, frame.top, *numbers, a, b), len(rows), chunk=ROWS)
    return pixels


def neutral(step: Grain) -> bool:
    return step.amount == 0


def summary(step: Grain) -> str:
    kind = "colour" if step.colour else "mono"
    return "no change" if neutral(step) else f"{step.amount * 100:.0f} %, {kind}, size {step.size * 100:.2g} % of the height"


register(SpatialKind(Grain, "Grain", evaluate, neutral, summary, examples=({"amount": 0.5},)))
