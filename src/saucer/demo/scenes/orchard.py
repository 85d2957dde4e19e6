"""An orchard in low sun: rows of trees with fruit, tall grass lit from behind, haze between the rows."""

import numpy as np

from saucer.demo.geometry import Mesh, blades, heightfield, leaves, merge, sphere, tube
from saucer.demo.light import Scene, air, glare, glazed, leaf, matt, render
from saucer.demo.noise import fbm
from saucer.demo.sky import sky

SUN = np.array([-0.62, 0.24, -1.0])


def _ground(at: np.ndarray) -> np.ndarray:
    return 0.25 * fbm(at * 0.12, 4, 2) + 0.05 * fbm(at * 0.9, 3, 6)


def _branch(start, way, length, radius, depth, rng, wood, tips) -> None:
    line = [np.asarray(start, float)]
    for _ in range(5):
        way = way + rng.normal(scale=0.16, size=3) + [0, 0.05, 0]
        way = way / np.linalg.norm(way)
        line.append(line[-1] + way * length / 5)
    wood.append(tube(np.array(line), np.linspace(radius, radius * 0.62, 6), 9))
    if depth <= 1:
        tips.extend(line[1:])
    if depth == 0:
        return
    for _ in range(3 if depth > 1 else 4):
        turn = way * 0.75 + rng.normal(scale=0.62, size=3) + [0, 0.12, 0]
        at = line[rng.integers(2, 6)]
        _branch(at, turn / np.linalg.norm(turn), length * rng.uniform(0.6, 0.8), radius * 0.58, depth - 1, rng, wood, tips)


def _tree(seed: int, dense: int) -> tuple[Mesh, Mesh, np.ndarray]:
    rng = np.random.default_rng(seed)
    wood: list[Mesh] = []
    tips: list[np.ndarray] = []
    _branch((0, 0, 0), np.array([0, 1.0, 0]), 1.5, 0.15, 4, rng, wood, tips)
    places = np.array(tips)
    chosen = places[rng.integers(0, len(places), dense)] + rng.normal(scale=0.17, size=(dense, 3))
    foliage = leaves(chosen, 0.12, rng)
    hue = np.repeat(rng.normal(size=(dense, 1)), 4, axis=0)
    green = np.array([0.20, 0.33, 0.055]) + hue * [0.055, 0.035, 0.01]
    fruit = chosen[rng.choice(dense, 70, replace=False)]
    return merge(wood), Mesh(foliage.vertices, foliage.faces, np.clip(green, 0.02, 0.8)), fruit


def _bark(at: np.ndarray) -> np.ndarray:
    return (0.12 + 0.07 * fbm(at * [9, 2.5, 9], 4, 3))[:, None] * [1.0, 0.82, 0.66]


def light(width: int, height: int, samples: int) -> np.ndarray:
    dome = sky(
        (0.16, 0.30, 0.62), (0.95, 0.80, 0.58), sun=SUN, sun_light=(2100, 1330, 640), sun_size=1.4, glow=(3.4, 2.1, 0.9),
        glow_width=20, cloud=0.16, cloud_light=(2.0, 1.5, 1.0), cloud_shade=(0.42, 0.42, 0.5), ground=(0.08, 0.09, 0.04), seed=7,
    )  # fmt: skip
    scene = Scene((0.6, 1.55, 6.2), (-0.25, 1.75, -6), 54, dome, focus=7.5, aperture=0.012)
    rng = np.random.default_rng(9)
    earth = heightfield(np.linspace(-60, 60, 260), np.linspace(-120, 12, 260), _ground)
    scene.add(
        earth.painted(lambda p: np.array([0.10, 0.12, 0.035]) + 0.04 * fbm(p[:, [0, 2]] * 0.8, 4, 12)[:, None] * [1, 0.8, 0.4]),
        matt("vertex"),
    )
    spread = np.stack([rng.uniform(-1, 1, 260000), rng.uniform(0, 1, 260000)], -1)
    place = np.stack([spread[:, 0] * (3 + spread[:, 1] ** 1.6 * 30), 5.2 - spread[:, 1] ** 1.6 * 48], -1)
    grass = blades(np.stack([place[:, 0], _ground(place), place[:, 1]], -1), 0.34, rng)
    tint = np.repeat(fbm(place * 0.5, 3, 4)[:, None] * 0.5 + rng.normal(scale=0.2, size=(len(place), 1)), 5, axis=0)
    scene.add(
        Mesh(grass.vertices, grass.faces, np.clip(np.array([0.24, 0.31, 0.07]) + tint * [0.16, 0.05, 0.03], 0.02, 0.9)),
        leaf("vertex"),
    )
    trees = [_tree(seed, 15000) for seed in (1, 2, 3)]
    fruits: list[Mesh] = []
    number = 0
    for row, x in enumerate((-8.6, -3.6, 3.3, 8.8)):
        for step in range(9):
            z = 1.2 - step * 5.6 + rng.uniform(-0.6, 0.6) - (2.5 if row % 3 else 0)
            if row == 1 and step == 1:
                continue
            at = np.array([x + rng.uniform(-0.5, 0.5), 0, z])
            at[1] = _ground(at[None, [0, 2]])[0] - 0.05
            wood, crown, fruit = trees[number % 3]
            where: dict = {"to": at, "turn": rng.uniform(0, 360), "scale": rng.uniform(0.85, 1.1)}
            scene.add(wood.painted(_bark).moved(**where), matt("vertex"))
            scene.add(crown.moved(**where), leaf("vertex", 1.0))
            if step < 4:
                hung = Mesh(fruit, np.zeros((0, 3), int)).moved(**where).vertices - [0, 0.06, 0]
                fruits.extend(sphere(0.047, point, 10) for point in hung[:: 1 + step])
            number += 1
    fallen = np.stack([rng.uniform(1.0, 5.0, 90), np.zeros(90), rng.uniform(-6, 3.2, 90)], -1)
    fallen[:, 1] = _ground(fallen[:, [0, 2]]) + 0.05
    fruits.extend(sphere(0.047, point, 12) for point in fallen)
    reds = lambda p: np.array([0.55, 0.075, 0.03]) + (0.5 + 0.5 * fbm(p * 6, 2, 8))[:, None] * [0.15, 0.16, 0.01]
    scene.add(merge(fruits).painted(reds), glazed("vertex", 0.18))
    shot = render(scene, width, height, samples, 7)
    return glare(air(shot, (0.42, 0.36, 0.26), 0.0075, falloff=0.12, sun=SUN, sun_colour=(2.6, 1.7, 0.75)), 0.07)
