"""Moving pictures of the demo, rendered by our own code: a road along the sea with lamps going by, and a walk between orchard trees.

Rays against a plane, cylinders and spheres, in scene light; `python -m saucer.demo.moving` renders the committed clips again.
"""

from __future__ import annotations

import sys
from collections.abc import Sequence
from concurrent.futures import ProcessPoolExecutor
from fractions import Fraction

import numpy as np

from saucer.core.clips.writing import KINDS, ClipWriter
from saucer.core.colour.conversion import conversion
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.numeric.planes import through
from saucer.demo.catalogue import FOLDER
from saucer.demo.noise import value_noise

RATE = 24
SUN = np.array([0.35, 0.09, 0.93]) / np.linalg.norm([0.35, 0.09, 0.93])


def rays(width: int, height: int, pitch: float, wide: float) -> np.ndarray:
    """(height, width, 3) unit vectors, x to the right, y up, z ahead. pitch: up, radians; wide: half the picture's width at distance 1"""
    x = (np.arange(width) + 0.5) / width * 2 - 1
    y = (1 - (np.arange(height) + 0.5) / height * 2) * height / width
    across, up = np.meshgrid(x * wide, y * wide)
    ahead = np.ones_like(across)
    turned = np.stack([across, up * np.cos(pitch) + ahead * np.sin(pitch), ahead * np.cos(pitch) - up * np.sin(pitch)], -1)
    return turned / np.linalg.norm(turned, axis=-1, keepdims=True)


def dusk(way: np.ndarray) -> np.ndarray:
    """Light of an evening sky, by direction."""
    height = np.clip(way[..., 1:2], 0, 1)
    towards = np.clip(way @ SUN, 0, 1)[..., None]
    low, high = np.array([1.5, 0.62, 0.26]), np.array([0.10, 0.17, 0.36])
    sky = low * np.exp(-height * 7) * (0.35 + 0.65 * towards**3) + high * (0.4 + 0.6 * np.sqrt(height))
    return sky + np.array([5.0, 2.6, 1.0]) * towards**240 + np.array([46.0, 26.0, 12.0]) * (towards > 0.99965)


def _waves(at: np.ndarray, time: float) -> np.ndarray:
    """Slopes (..., 2) of the water."""
    slope = np.zeros_like(at)
    for number, (length, size) in enumerate(((7.0, 0.05), (3.1, 0.06), (1.3, 0.07), (0.62, 0.06))):
        turn = 0.7 + number * 1.3
        way = np.array([np.cos(turn), np.sin(turn)])
        phase = (at @ way) / length * 2 * np.pi + time * np.sqrt(9.8 * 2 * np.pi / length)
        slope += size * np.cos(phase)[..., None] * way
    return slope


def sea_road(number: int, width: int = 960, height: int = 540, start: float = 0.0) -> np.ndarray:
    """(height, width, 3) scene light: a camera drives along the water, lamp posts go by."""
    time = number / RATE
    eye = np.array([start + 3.2 * time, 1.9 + 0.04 * np.sin(time * 3), 0.0])
    way = rays(width, height, -0.03 + 0.006 * np.sin(time * 2.1), 0.72)
    light = dusk(way)
    water = way[..., 1] < -1e-3
    reach = np.where(water, -eye[1] / np.minimum(way[..., 1], -1e-3), 0)
    place = eye[[0, 2]] + way[..., [0, 2]] * reach[..., None]
    calm = 1 / (1 + reach / 60)
    slope = _waves(place, time) * calm[..., None]
    normal = np.stack([-slope[..., 0], np.ones_like(reach), -slope[..., 1]], -1)
    normal /= np.linalg.norm(normal, axis=-1, keepdims=True)
    mirrored = way - 2 * (way * normal).sum(-1, keepdims=True) * normal
    mirrored[..., 1] = np.abs(mirrored[..., 1])
    seen = 0.02 + 0.98 * (1 - np.clip(-(way * normal).sum(-1), 0, 1)) ** 5
    sea = np.array([0.012, 0.03, 0.038]) + dusk(mirrored) * seen[..., None]
    light = np.where(water[..., None], sea, light)
    for index in range(-2, 18):
        light = _lamp_post(light, way, eye, np.array([index * 5.5, 0.0, 7.0 + (index % 3) * 2.5]), index, time)
    return light.astype(np.float32)


def _lamp_post(light: np.ndarray, way: np.ndarray, eye: np.ndarray, foot: np.ndarray, index: int, time: float) -> np.ndarray:
    away = foot - eye
    flat = way[..., [0, 2]]
    a, b = (flat**2).sum(-1), flat @ away[[0, 2]]
    near = b**2 - a * ((away[[0, 2]] ** 2).sum() - 0.09**2)
    distance = np.where(near > 0, (b - np.sqrt(np.maximum(near, 0))) / a, -1)
    high = eye[1] + way[..., 1] * distance
    post = (distance > 0) & (high > 0) & (high < 4.2)
    light = np.where(post[..., None], np.array([0.02, 0.022, 0.026]) * (1 + 6 * np.exp(-np.abs(high - 4.2))[..., None]), light)
    lamp = foot + np.array([0, 4.3, 0]) - eye
    along = way @ lamp
    off = np.sqrt(np.maximum((lamp**2).sum() - along**2, 0))
    flicker = 1 + 0.06 * np.sin(time * 17 + index * 2)
    glow = np.array([16.0, 8.6, 3.2]) * flicker
    ball = (off < 0.16) & (along > 0)
    light = np.where(ball[..., None], glow, light)
    return light + (along > 0)[..., None] * glow * 0.004 / (off[..., None] ** 2 + 0.06) * np.exp(-off[..., None] * 0.8)


def orchard_walk(number: int, width: int = 960, height: int = 540) -> np.ndarray:
    """(height, width, 3) scene light: a walk between two rows of trees, leaves moving a little."""
    time = number / RATE
    eye = np.array([0.12 * np.sin(time * 2.6), 1.6 + 0.035 * np.abs(np.sin(time * 5.2)), 1.15 * time])
    way = rays(width, height, 0.05, 0.78)
    height_of = np.clip(way[..., 1:2], 0, 1)
    light = (
        np.array([0.75, 0.86, 1.05]) * (1 - 0.55 * height_of)
        + np.array([2.4, 1.9, 1.2]) * np.clip(way @ SUN, 0, 1)[..., None] ** 24
    )
    ground = way[..., 1] < -1e-3
    reach = np.where(ground, -eye[1] / np.minimum(way[..., 1], -1e-3), 0)
    place = eye[[0, 2]] + way[..., [0, 2]] * reach[..., None]
    grass = 0.5 + 0.5 * value_noise(place * 3.1, 4) * np.clip(8 / (1 + reach), 0, 1)
    path = np.exp(-((place[..., 0] / 0.55) ** 2))[..., None]
    earth = np.array([0.10, 0.15, 0.04]) * (0.5 + grass[..., None]) * (1 - path) + np.array([0.2, 0.15, 0.1]) * path * (
        0.7 + 0.3 * grass[..., None]
    )
    stripes = 0.35 + 0.65 * (np.sin(place[..., 1] * 2 * np.pi / 2.4 + 1.2 * place[..., 0]) > -0.1)[..., None]
    light = np.where(ground[..., None], earth * stripes * 1.9, light)
    depth = np.where(ground, reach, 1e6)
    for row in range(14, -1, -1):
        for side in (-1, 1):
            light, depth = _tree(light, depth, way, eye, np.array([side * 2.6, 0.0, row * 2.4 + 0.9]), row * 2 + side, time)
    haze = 1 - np.exp(-np.minimum(depth, 60) / 160)[..., None]
    return (light * (1 - haze * (depth < 1e5)[..., None]) + haze * (depth < 1e5)[..., None] * np.array([0.72, 0.7, 0.62])).astype(
        np.float32
    )


def _tree(light, depth, way, eye, foot, seed, time):
    away = foot - eye
    if away[2] < -1.5:
        return light, depth
    flat = way[..., [0, 2]]
    a, b = (flat**2).sum(-1), flat @ away[[0, 2]]
    near = b**2 - a * ((away[[0, 2]] ** 2).sum() - 0.12**2)
    distance = np.where(near > 0, (b - np.sqrt(np.maximum(near, 0))) / a, -1)
    high = eye[1] + way[..., 1] * distance
    hit = (distance > 0) & (distance < depth) & (high > 0) & (high < 2.2)
    side = np.clip((way[..., 0] * distance - away[0]) / 0.12, -1, 1)[..., None]
    bark = np.array([0.11, 0.085, 0.06]) * (0.75 + 0.6 * side)
    light, depth = np.where(hit[..., None], bark, light), np.where(hit, distance, depth)
    for blob in range(3):
        sway = 0.04 * np.sin(time * (1.7 + 0.3 * blob) + seed)
        middle = away + np.array([(blob - 1) * 0.7 + sway, 2.5 + 0.35 * (blob % 2), 0.3 * (blob - 1)])
        _crown(light, depth, way, middle, 0.95 - 0.12 * blob, seed, sway)
    return light, depth


def _crown(light, depth, way, middle, radius, seed, sway):
    """A ball of leaves into the picture, where nothing is nearer; only its own pixels are looked at."""
    along = way @ middle
    inside = along**2 - ((middle**2).sum() - radius**2)
    mine = (inside > 0) & (along > 0.05)
    if not mine.any():
        return
    way, along, inside = way[mine], along[mine], inside[mine]
    distance = along - np.sqrt(inside)
    normal = (way * distance[..., None] - middle) / radius
    at = normal + seed * 0.43 + np.array([sway, 0, 0])
    leaf = 0.5 * value_noise(at * 6, seed & 15) + 0.45 * value_noise(at * 17, 3) + 0.35 * value_noise(at * 41, 5)
    hit = (distance > 0.05) & (distance < depth[mine]) & (inside > (0.16 + 0.34 * leaf) * radius**2)
    lit = np.clip(normal @ SUN, 0, 1)[..., None] * 1.6 + 0.3 + 0.25 * normal[..., 1:2]
    green = np.array([0.12, 0.2, 0.035]) * (1 + 1.1 * leaf[..., None]).clip(0.15)
    apples = (value_noise(at * 11, 9) > 0.72)[..., None] * np.array([0.55, 0.03, 0.01])
    light[mine] = np.where(hit[..., None], (green + apples) * np.maximum(lit, 0.08), light[mine])
    depth[mine] = np.where(hit, distance, depth[mine])


def _encoded(light: np.ndarray, target: str) -> np.ndarray:
    operation = conversion(ENCODINGS["linear-709"], ENCODINGS[target], "soft", 5.0, "compress")
    assert operation is not None
    return through(operation, np.ascontiguousarray(light))


CLIPS = (
    ("sea-road.mp4", sea_road, 98, "logc4", 0.30, {"g": "12", "crf": "17", "preset": "slow", "tune": "film"}),
    ("orchard-walk.mp4", orchard_walk, 97, "rec709", 0.9, {"g": "24", "crf": "19", "preset": "slow", "tune": "film"}),
)
"""File, scene, frames, what it is stored in, exposure, options of the encoder."""


def main(wanted: Sequence[str]) -> None:
    """Render the committed clips again, or some of them: some minutes."""
    for name, scene, count, encoding, exposure, options in CLIPS:
        if wanted and name not in wanted:
            continue
        kind = KINDS["intra"] if encoding == "logc4" else KINDS["h264"]
        writer = ClipWriter(FOLDER / name, kind, 960, 540, Fraction(RATE), ENCODINGS[encoding], "10:04:12:00", options)
        with writer, ProcessPoolExecutor() as pool:
            for light in pool.map(scene, range(count)):
                writer.write(_encoded(light * np.float32(exposure), encoding))


if __name__ == "__main__":
    main(sys.argv[1:])
