"""A foggy hillside: conifers stepping back into the fog, a hut with one lit window."""

import numpy as np

from saucer.demo.geometry import Mesh, blades, box, heightfield, merge, tube
from saucer.demo.light import Scene, air, glare, leaf, matt, render
from saucer.demo.noise import fbm
from saucer.demo.sky import sky

SUN = np.array([0.85, 0.62, -1.0])


def _land(at: np.ndarray) -> np.ndarray:
    rise = 0.16 * np.clip(-at[:, 1] - 6, 0, None) ** 1.05 * (0.75 + 0.35 * np.sin(at[:, 0] * 0.012 + 0.6))
    return rise + 5.5 * fbm(at * 0.016, 5, 4) + 0.35 * fbm(at * 0.35, 4, 9) - 1.6


def _conifer(seed: int) -> tuple[Mesh, Mesh]:
    rng = np.random.default_rng(seed)
    tall = 9.0
    needles = []
    for _ in range(230):
        level = rng.uniform(0.07, 1.0)
        reach = (1 - level) ** 0.8 * 1.95 + 0.12
        turn = rng.uniform(0, 2 * np.pi)
        t = np.linspace(0, 1, 13)[1:]
        branch = np.stack(
            [np.cos(turn) * reach * t, level * tall - 0.55 * reach * t**1.4 + 0.1 * reach * t, np.sin(turn) * reach * t], -1
        )
        needles.append(np.repeat(branch, 7, axis=0) + rng.normal(scale=0.07, size=(84, 3)))
    points = np.concatenate(needles)
    spray = blades(points, 0.26, rng)
    wide = Mesh(points.repeat(5, axis=0) + (spray.vertices - points.repeat(5, axis=0)) * [3.4, -0.9, 3.4], spray.faces)
    return wide, tube(np.array([[0, -0.5, 0], [0, tall * 0.5, 0], [0, tall, 0]]), np.array([0.16, 0.1, 0.01]), 8)


def light(width: int, height: int, samples: int) -> np.ndarray:
    dome = sky(
        (0.50, 0.55, 0.62),
        (0.72, 0.72, 0.70),
        sun=SUN,
        sun_light=(26, 22, 17),
        sun_size=6,
        glow=(0.9, 0.75, 0.55),
        glow_width=30,
        ground=(0.12, 0.13, 0.10),
        falloff=0.6,
    )
    scene = Scene((0, 3.2, 9), (1.5, 7.4, -42), 46, dome)
    rng = np.random.default_rng(5)
    land = heightfield(np.linspace(-170, 170, 420), np.linspace(-300, 10, 420), _land)
    scene.add(
        land.painted(lambda p: np.array([0.105, 0.11, 0.045]) + 0.05 * fbm(p[:, [0, 2]] * 0.25, 5, 6)[:, None] * [1.2, 0.6, 0.2]),
        matt("vertex"),
    )
    spread = np.stack([rng.uniform(-1, 1, 150000), rng.uniform(0, 1, 150000)], -1)
    place = np.stack([spread[:, 0] * (5 + 38 * spread[:, 1] ** 1.5), 6 - 55 * spread[:, 1] ** 1.5], -1)
    turf = blades(np.stack([place[:, 0], _land(place), place[:, 1]], -1), 0.3, rng)
    dry = np.repeat(fbm(place * 0.22, 4, 13)[:, None] + rng.normal(scale=0.25, size=(len(place), 1)), 5, axis=0)
    scene.add(
        Mesh(turf.vertices, turf.faces, np.clip(np.array([0.19, 0.18, 0.075]) + dry * [0.13, 0.06, 0.03], 0.02, 0.8)),
        leaf("vertex", 0.6),
    )
    kinds = [_conifer(seed) for seed in (1, 2, 3)]
    spots = np.stack([rng.uniform(-95, 95, 900), rng.uniform(-210, -12, 900)], -1)
    thick = fbm(spots * 0.03, 3, 77) + 0.25 * rng.normal(size=900)
    clear = (np.abs(spots[:, 0] - 3) > 6 + 0.12 * (spots[:, 1] + 60)) | (spots[:, 1] < -70)
    chosen = spots[(thick > 0.12) & clear][:120]
    crowns, trunks = [], []
    for number, spot in enumerate(chosen):
        at = (spot[0], _land(spot[None])[0] - 0.2, spot[1])
        scale, turn = rng.uniform(0.55, 1.35), rng.uniform(0, 360)
        crown, trunk = kinds[number % 3]
        tone = np.array([0.045, 0.075, 0.04]) * rng.uniform(0.7, 1.3) + rng.normal(scale=0.006, size=3)
        crowns.append(crown.moved(at, scale, turn).painted(np.clip(tone, 0.01, 1)))
        trunks.append(trunk.moved(at, scale))
    scene.add(merge(crowns), leaf("vertex", 0.3))
    scene.add(merge(trunks), matt((0.08, 0.06, 0.05)))
    at = np.array([7.5, 0, -33.0])
    at[1] = _land(at[None, [0, 2]])[0]
    boards = lambda p: (0.15 + 0.05 * fbm(p * [1, 9, 1], 4, 3))[:, None] * [1.0, 0.72, 0.5]
    scene.add(box((5.2, 3.0, 4.2), (0, 1.2, 0)).moved(at, turn=-18).painted(boards), matt("vertex"))
    slopes = [box((5.8, 0.15, 3.0), (0, 0, 0)).moved((0, 3.3, s * 1.15), tilt=s * 35) for s in (-1, 1)]
    scene.add(merge(slopes).moved(at, turn=-18), matt((0.10, 0.055, 0.045)))
    scene.add(
        merge([box((0.9, 0.8, 0.06), (-1.1, 1.5, 2.12)), box((0.7, 0.8, 0.06), (1.3, 1.5, 2.12))]).moved(at, turn=-18),
        None,
        (3.4, 1.9, 0.65),
    )
    posts = []
    for x in np.linspace(-16, 14, 16):
        z = -11.5 - 0.18 * x + 0.6 * np.sin(x)
        foot = _land(np.array([[x, z]]))[0]
        posts.append(tube(np.array([[x, foot - 0.3, z], [x + 0.04, foot + 1.15, z]]), 0.06, 8))
    tops = np.array([post.vertices[-1] for post in posts])
    posts += [tube(tops - [0, drop, 0], 0.028, 6) for drop in (0.15, 0.6)]
    scene.add(merge(posts), matt((0.13, 0.11, 0.09)))
    shot = render(scene, width, height, samples)
    thick_air = 0.0052 * (1 + 0.4 * fbm(shot.rays[..., :2] * [5, 11], 4, 2))
    return glare(air(shot, (0.60, 0.62, 0.64), thick_air, falloff=0.02, sun=SUN, sun_colour=(0.55, 0.45, 0.30), reach=900), 0.05)
