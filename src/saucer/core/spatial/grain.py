"""Grain: noise of a given coarseness, strongest in the middle tones. The same seed gives the same grain on a proxy and in full size."""

from __future__ import annotations

from typing import Annotated, Literal

import numpy as np
from pydantic import Field

from saucer.core.colour.encodings import Encoding
from saucer.core.elementary import F, compiled, held, inlined
from saucer.core.parallel import over_runs
from saucer.core.spatial.registry import Frame, SpatialKind, register
from saucer.core.steps.parameters import Share, StepParameters, within

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


@inlined
def _random(x, y, seed):  # type: ignore[no-untyped-def]
    """A number of mean 0 and variance 1, triangular, from a place: the sum of two halves of a 32-bit hash."""
    h = np.uint32(np.uint32(x) * np.uint32(0x9E3779B1)) ^ np.uint32(np.uint32(y) * np.uint32(0x85EBCA77)) ^ seed
    h = np.uint32(h ^ (h >> np.uint32(16)))
    h = np.uint32(h * np.uint32(0x7FEB352D))
    h = np.uint32(h ^ (h >> np.uint32(15)))
    h = np.uint32(h * np.uint32(0x846CA68B))
    h = np.uint32(h ^ (h >> np.uint32(16)))
    total = np.int32(h & np.uint32(0xFFFF)) + np.int32(h >> np.uint32(16)) - np.int32(65535)
    return F(total) * F(np.sqrt(6) / 65536)


@compiled
def _noise_row(noise, v, per_cell, seed):  # type: ignore[no-untyped-def]
    """One row of noise: four hashed corners round each pixel, smoothly weighted, brought back to variance 1."""
    row = np.floor(v)
    fy = v - row
    wy = fy * fy * (F(3) - F(2) * fy)
    iy = np.int32(row)
    for x in range(noise.size):
        u = (F(x) + F(0.5)) * per_cell
        column = np.floor(u)
        fx = u - column
        wx = fx * fx * (F(3) - F(2) * fx)
        ix = np.int32(column)
        a, b = (F(1) - wx) * (F(1) - wy), wx * (F(1) - wy)
        c, d = (F(1) - wx) * wy, wx * wy
        total = a * _random(ix, iy, seed) + b * _random(np.int32(ix + np.int32(1)), iy, seed)
        below, beside = np.int32(iy + np.int32(1)), np.int32(ix + np.int32(1))
        total += c * _random(ix, below, seed) + d * _random(beside, below, seed)
        noise[x] = total / np.sqrt(a * a + b * b + c * c + d * d)


@compiled
def _grain(source, target, top, per_cell, deviation, weights, seeds, start, stop):  # type: ignore[no-untyped-def]
    width = source.shape[1] // 3
    noise, scale = np.empty(width, np.float32), np.empty(width, np.float32)
    wr, wg, wb = weights[0], weights[1], weights[2]
    for row in range(start, stop):
        v = (F(top + row) + F(0.5)) * per_cell
        given, out = source[row], target[row]
        for x in range(width):
            luma = held(wr * given[3 * x] + wg * given[3 * x + 1] + wb * given[3 * x + 2], F(0), F(1))
            off = luma + luma - F(1)
            scale[x] = deviation * (F(1) - F(0.75) * off * off)
        _noise_row(noise, v, per_cell, seeds[0])
        if seeds.size == 1:
            for x in range(width):
                add = noise[x] * scale[x]
                out[3 * x] = given[3 * x] + add
                out[3 * x + 1] = given[3 * x + 1] + add
                out[3 * x + 2] = given[3 * x + 2] + add
        else:
            for channel in range(3):
                if channel:
                    _noise_row(noise, v, per_cell, seeds[channel])
                for x in range(width):
                    out[3 * x + channel] = given[3 * x + channel] + noise[x] * scale[x]


def evaluate(step: Grain, pixels: np.ndarray, encoding: Encoding, frame: Frame) -> np.ndarray:
    cell = step.size * frame.height
    deviation = FULL * step.amount * min(cell, 1.0)
    seeds = np.array([(step.seed * 3 + channel) * 0x27D4EB2F & 0xFFFFFFFF for channel in range(3 if step.colour else 1)], np.uint32)
    source = np.ascontiguousarray(pixels).reshape(len(pixels), -1)
    result = np.empty_like(source)
    numbers = [F(1 / max(cell, 1.0)), F(deviation), encoding.luma.astype(np.float32), seeds]
    over_runs(lambda a, b: _grain(source, result, frame.top, *numbers, a, b), len(source), chunk=ROWS)
    return result.reshape(pixels.shape)


def neutral(step: Grain) -> bool:
    return step.amount == 0


def summary(step: Grain) -> str:
    kind = "colour" if step.colour else "mono"
    return "no change" if neutral(step) else f"{step.amount * 100:.0f} %, {kind}, size {step.size * 100:.2g} % of the height"


register(SpatialKind(Grain, "Grain", evaluate, neutral, summary))
