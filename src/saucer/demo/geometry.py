"""Meshes for the demo scenes, made from formulas. Y is up, units are metres."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np


@dataclass
class Mesh:
    """vertices (n, 3), faces (m, 3), colours (n, 3) linear reflectance or None for one colour from the material."""

    vertices: np.ndarray
    faces: np.ndarray
    colours: np.ndarray | None = None

    def painted(self, paint: Callable[[np.ndarray], np.ndarray] | Sequence[float]) -> Mesh:
        colours = paint(self.vertices) if callable(paint) else np.tile(paint, (len(self.vertices), 1))
        return Mesh(self.vertices, self.faces, np.clip(colours, 0.0, 1.0))

    def moved(self, to=(0, 0, 0), scale=1.0, turn: float = 0.0, tilt: float = 0.0) -> Mesh:
        """Scaled, tilted about X, turned about Y (degrees), then moved."""
        a, b = np.radians(turn), np.radians(tilt)
        about_y = np.array([[np.cos(a), 0, np.sin(a)], [0, 1, 0], [-np.sin(a), 0, np.cos(a)]])
        about_x = np.array([[1, 0, 0], [0, np.cos(b), -np.sin(b)], [0, np.sin(b), np.cos(b)]])
        return Mesh((self.vertices * scale) @ (about_y @ about_x).T + to, self.faces, self.colours)


def merge(parts: Sequence[Mesh]) -> Mesh:
    offsets = np.cumsum([0] + [len(part.vertices) for part in parts[:-1]])
    colours = None
    if all(part.colours is not None for part in parts):
        colours = np.concatenate([part.colours for part in parts])
    return Mesh(
        np.concatenate([part.vertices for part in parts]),
        np.concatenate([part.faces + offset for part, offset in zip(parts, offsets, strict=True)]),
        colours,
    )


def grid_faces(rows: int, columns: int, wrap: bool = False) -> np.ndarray:
    index = np.arange(rows * columns).reshape(rows, columns)
    if wrap:
        index = np.concatenate([index, index[:, :1]], axis=1)
    a, b, c, d = index[:-1, :-1], index[:-1, 1:], index[1:, 1:], index[1:, :-1]
    return np.concatenate([np.stack([a, b, c], -1).reshape(-1, 3), np.stack([a, c, d], -1).reshape(-1, 3)])


def heightfield(x: np.ndarray, z: np.ndarray, height: Callable[[np.ndarray], np.ndarray]) -> Mesh:
    """A surface over the lines x and z; `height` takes (n, 2) positions."""
    gx, gz = np.meshgrid(x, z)
    flat = np.stack([gx.ravel(), gz.ravel()], -1)
    return Mesh(np.stack([flat[:, 0], height(flat), flat[:, 1]], -1), grid_faces(len(z), len(x)))


def lathe(profile: Sequence[tuple[float, float]], sides: int = 96, smooth: int = 8) -> Mesh:
    """A body of revolution from (radius, height) points, smoothed by a Catmull-Rom line."""
    points = np.asarray(profile, float)
    if smooth > 1:
        padded = np.concatenate([points[:1], points, points[-1:]])
        t = np.linspace(0, 1, smooth, endpoint=False)[:, None]
        pieces = [
            0.5 * (2 * b + (c - a) * t + (2 * a - 5 * b + 4 * c - d) * t**2 + (3 * b - a - 3 * c + d) * t**3)
            for a, b, c, d in zip(padded, padded[1:], padded[2:], padded[3:], strict=False)
        ]
        points = np.concatenate([*pieces, points[-1:]])
    angle = np.linspace(0, 2 * np.pi, sides, endpoint=False)
    radius, level = np.maximum(points[:, :1], 0), np.repeat(points[:, 1:], sides, axis=1)
    vertices = np.stack([radius * np.cos(angle), level, radius * np.sin(angle)], -1).reshape(-1, 3)
    return Mesh(vertices, grid_faces(len(points), sides, wrap=True)[:, ::-1])


def box(size, centre=(0, 0, 0)) -> Mesh:
    corners = np.array([[x, y, z] for x in (-0.5, 0.5) for y in (-0.5, 0.5) for z in (-0.5, 0.5)])
    quads = [(0, 1, 3, 2), (4, 6, 7, 5), (0, 4, 5, 1), (2, 3, 7, 6), (0, 2, 6, 4), (1, 5, 7, 3)]
    # Six separate sides, so that the renderer keeps the edges hard.
    vertices = np.concatenate([corners[list(quad)] for quad in quads]) * size + centre
    faces = np.concatenate([np.array([[0, 1, 2], [0, 2, 3]]) + 4 * side for side in range(6)])
    return Mesh(vertices, faces)


def tube(line: np.ndarray, radius: float | np.ndarray, sides: int = 12) -> Mesh:
    """A round tube along (n, 3) points."""
    line = np.asarray(line, float)
    along = np.gradient(line, axis=0)
    along /= np.linalg.norm(along, axis=1, keepdims=True) + 1e-12
    side = np.cross(along, np.where(np.abs(along[:, 1:2]) > 0.9, [[1.0, 0, 0]], [[0, 1.0, 0]]))
    side /= np.linalg.norm(side, axis=1, keepdims=True) + 1e-12
    up = np.cross(side, along)
    angle = np.linspace(0, 2 * np.pi, sides, endpoint=False)
    radius = np.broadcast_to(np.asarray(radius, float), len(line))[:, None, None]
    ring = np.cos(angle)[None, :, None] * side[:, None] + np.sin(angle)[None, :, None] * up[:, None]
    return Mesh((line[:, None] + radius * ring).reshape(-1, 3), grid_faces(len(line), sides, wrap=True))


def sphere(radius: float = 1.0, centre=(0, 0, 0), rings: int = 24) -> Mesh:
    angle = np.linspace(0, np.pi, rings)
    return lathe([(radius * np.sin(a), -radius * np.cos(a)) for a in angle], rings * 2, 1).moved(centre)


def leaves(points: np.ndarray, size: float, rng: np.random.Generator, droop: float = 0.3) -> Mesh:
    """One small folded leaf (two triangles) at each of the (n, 3) points, turned at random."""
    count = len(points)
    along = rng.normal(size=(count, 3))
    along[:, 1] -= droop
    along /= np.linalg.norm(along, axis=1, keepdims=True)
    side = np.cross(along, rng.normal(size=(count, 3)))
    side /= np.linalg.norm(side, axis=1, keepdims=True) + 1e-9
    length = size * rng.uniform(0.7, 1.3, (count, 1))
    tip, half = points + along * length, points + along * length * 0.5
    vertices = np.stack([points, half + side * length * 0.28, tip, half - side * length * 0.28], 1).reshape(-1, 3)
    faces = (np.arange(count)[:, None, None] * 4 + np.array([[0, 1, 2], [0, 2, 3]])).reshape(-1, 3)
    return Mesh(vertices, faces)


def blades(points: np.ndarray, height: float, rng: np.random.Generator) -> Mesh:
    """Grass: one bent blade of three triangles at each point."""
    count = len(points)
    lean = rng.normal(scale=0.35, size=(count, 3)) * [1, 0, 1]
    tall = height * rng.uniform(0.5, 1.3, (count, 1))
    side = rng.normal(size=(count, 3)) * [1, 0, 1]
    side *= 0.035 * tall / (np.linalg.norm(side, axis=1, keepdims=True) + 1e-9)
    middle = points + tall * (np.array([0, 0.55, 0]) + 0.35 * lean)
    tip = points + tall * (np.array([0, 1.0, 0]) + lean)
    vertices = np.stack([points - side, points + side, middle + side * 0.8, middle - side * 0.8, tip], 1)
    faces = np.arange(count)[:, None, None] * 5 + np.array([[0, 1, 2], [0, 2, 3], [3, 2, 4]])
    return Mesh(vertices.reshape(-1, 3), faces.reshape(-1, 3))


def from_distance(field: Callable[[np.ndarray], np.ndarray], low, high, step: float) -> Mesh:
    """The zero surface of a signed distance function over a box, by marching cubes."""
    from skimage.measure import marching_cubes

    axes = [np.arange(a, b + step, step) for a, b in zip(low, high, strict=True)]
    points = np.stack(np.meshgrid(*axes, indexing="ij"), -1)
    vertices, faces, _, _ = marching_cubes(field(points), 0.0, spacing=(step,) * 3)
    return Mesh(vertices + np.asarray(low), faces[:, ::-1])
