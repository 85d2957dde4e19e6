"""A quay at dusk: a small ferry under a wide sky, lamps just lit, water that carries both."""

import numpy as np

from saucer.demo.geometry import Mesh, box, grid_faces, heightfield, lathe, merge, tube
from saucer.demo.light import Scene, air, glare, glazed, matt, render, soft
from saucer.demo.noise import fbm
from saucer.demo.sky import sky

SUN = np.array([0.55, 0.03, -1.0])


def _water(at: np.ndarray) -> np.ndarray:
    swell = 0.10 * fbm(at * [0.09, 0.16], 3, 5)
    ripple = 0.035 * fbm(at * [0.55, 1.1], 4, 8)
    return (swell + ripple) / (1 + np.hypot(*at.T) / 160)


def _hull() -> Mesh:
    along = np.linspace(0, 1, 60)
    half = 4.2 * np.clip(1 - np.maximum(0, (along - 0.62) / 0.38) ** 2.2, 0.02, 1) * np.clip(along / 0.05, 0.75, 1)
    sheer = 3.0 + 1.5 * np.maximum(0, along - 0.55) ** 1.5 * 3
    levels = np.linspace(0, 1, 14)
    rows = []
    for level in levels:
        width = half * (0.72 + 0.28 * level**0.7)
        rows.append(np.stack([along * 38 - 19 + level * along**3 * 1.6, -0.6 + level * (sheer + 0.6), width], -1))
    side = np.stack(rows)
    other = side * [1, 1, -1]
    parts = [
        Mesh(side.reshape(-1, 3), grid_faces(*side.shape[:2])),
        Mesh(other.reshape(-1, 3), grid_faces(*side.shape[:2])),
        Mesh(np.concatenate([side[-1], other[-1]]), grid_faces(2, 60)),
        Mesh(np.concatenate([side[:, 0], other[:, 0]]), grid_faces(2, 14)),
    ]
    return merge(parts)


def _hull_paint(at: np.ndarray) -> np.ndarray:
    wear = 0.5 + 0.5 * fbm(at * [0.8, 2.5, 0.8], 4, 31)[:, None]
    navy, red, white = np.array([[0.03, 0.06, 0.13], [0.42, 0.07, 0.05], [0.72, 0.70, 0.64]])
    colour = np.where(at[:, 1:2] > 2.35, white, np.where(at[:, 1:2] > 0.35, navy, red))
    return colour * (0.75 + 0.4 * wear)


def _ferry(scene: Scene) -> None:
    where: dict = {"to": (3.5, 0, -56), "turn": 16}
    scene.add(_hull().painted(_hull_paint).moved(**where), soft("vertex", 0.45))
    cream, buff, dark = soft((0.68, 0.64, 0.55), 0.5), soft((0.55, 0.30, 0.09), 0.5), soft((0.05, 0.05, 0.06), 0.5)
    decks = [box((26, 2.4, 6.6), (-2.5, 4.4, 0)), box((15, 2.2, 5.6), (-1.0, 6.8, 0)), box((5, 2.0, 5.0), (4.2, 8.9, 0))]
    scene.add(merge(decks).moved(**where), cream)
    roofs = [box((27, 0.18, 7.4), (-2.5, 5.7, 0)), box((16, 0.18, 6.4), (-1.0, 8.0, 0)), box((6, 0.2, 5.6), (4.2, 10, 0))]
    scene.add(merge(roofs).moved(**where), dark)
    funnel = lathe([(1.1, 8.0), (1.05, 9.5), (0.98, 11.6)], 40, 4).moved((-4.5, 0, 0), tilt=0)
    scene.add(funnel.moved(**where), buff)
    scene.add(lathe([(1.0, 11.2), (0.98, 12.2), (0.7, 12.22)], 40, 2).moved((-4.5, 0, 0)).moved(**where), dark)
    masts = [
        tube(np.array([[8.5, 4, 0], [8.3, 15, 0]]), 0.12),
        tube(np.array([[-13, 5.5, 0], [-13.3, 12.5, 0]]), 0.1),
        tube(np.array([[8.3, 14.5, 0], [0, 12.6, 0], [-13.3, 12.3, 0]]), 0.025, 6),
        tube(np.array([[8.3, 14.5, 0], [17.8, 4.6, 0]]), 0.025, 6),
    ]
    scene.add(merge(masts).moved(**where), dark)
    rails = [tube(np.array([[-18, 3.0 + h, s * 3.9], [6, 3.0 + h, s * 3.9]]), 0.03, 6) for h in (0.5, 1.0) for s in (-1, 1)]
    scene.add(merge(rails).moved(**where), cream)
    rng = np.random.default_rng(4)
    for level, count, start, gap in ((4.5, 11, -13.5, 2.2), (6.9, 6, -6.8, 2.2), (9.1, 3, 2.6, 1.5)):
        half = {4.5: 3.32, 6.9: 2.82, 9.1: 2.52}[level]
        for index in range(count):
            pane = box((1.2, 0.95, 0.06), (start + index * gap, level, half))
            lit = rng.uniform() < 0.72
            scene.add(
                pane.moved(**where),
                glazed((0.02, 0.02, 0.025)),
                np.array((2.6, 1.5, 0.55)) * rng.uniform(0.5, 1.2) if lit else None,
            )
    for at, colour in (((8.4, 15.1, 0), (14, 9, 5)), ((-18.5, 6.3, 0), (9, 6, 3)), ((4.2, 10.5, 2.7), (0.4, 6, 1.2))):
        scene.add(lathe([(0.01, -0.16), (0.16, 0), (0.01, 0.16)], 16, 4).moved(at).moved(**where), None, colour)


def _shore(scene: Scene) -> None:
    def hills(at, base, height, seed):
        return base + height * (0.55 + 0.45 * fbm(at * 0.004, 6, seed)) * np.clip(1 - np.abs(at[:, 1] + 900) / 420, 0, 1)

    for far, height, seed, tone in ((0, 95, 2, 0.05), (500, 190, 12, 0.045)):
        land = heightfield(
            np.linspace(-2200, 2200, 360), np.linspace(-1300, -520, 50), lambda p, h=height, s=seed: hills(p, -12, h, s)
        )
        scene.add(land.moved((0, 0, -far)), matt((tone, tone * 1.1, tone * 0.8)))
    rng = np.random.default_rng(11)
    for _ in range(26):
        scene.lamp(
            (rng.uniform(-480, 330), rng.uniform(2, 16), rng.uniform(-560, -500)),
            0.7,
            np.array((30, 17, 6)) * rng.uniform(0.3, 1.2),
        )
    stone = lambda p: (0.16 + 0.08 * fbm(p * [1.3, 1.3, 1.3], 5, 44))[:, None] * [1.0, 0.93, 0.84]
    top = heightfield(
        np.linspace(-30, 30, 420),
        np.linspace(-9, 4, 120),
        lambda p: 1.1 + 0.05 * fbm(p * 1.4, 5, 17) + 0.02 * np.sign(np.sin(p[:, 0] * 2.4)),
    )
    scene.add(top.painted(stone), glazed("vertex", 0.3))
    scene.add(box((60, 4, 0.6), (0, -0.95, -9.2)), matt((0.10, 0.095, 0.09)))
    for x in (-8.5, -2.4, 4.2, 10.8):
        bollard = lathe([(0.30, 0), (0.26, 0.1), (0.2, 0.42), (0.21, 0.55), (0.33, 0.66), (0.3, 0.76), (0.0, 0.8)], 40)
        scene.add(bollard.moved((x, 1.1, -7.9)), soft((0.05, 0.05, 0.055), 0.35, metallic=0.3))
    t = np.linspace(0, 1, 60)
    rope = np.stack([-2.4 - 5.0 * t, 1.7 + 1.2 * t - 2.4 * t * (1 - t), -8.0 - 41 * t], -1)
    scene.add(tube(rope, 0.045, 8), matt((0.35, 0.28, 0.18)))
    for x in (-11.5, 12.2):
        scene.add(tube(np.array([[x, 1, -7.2], [x, 5.4, -7.2], [x + 0.9, 5.75, -7.2]]), 0.07), soft((0.03, 0.04, 0.04), 0.4))
        scene.lamp((x + 0.95, 5.5, -7.2), 0.19, (95, 52, 18))
    crates = [
        box((1.0, 0.75, 0.9)).moved(at, turn=turn)
        for at, turn in (((7.3, 1.5, -5.6), 12), ((8.5, 1.5, -5.9), -20), ((7.7, 2.26, -5.7), 33))
    ]
    scene.add(
        merge(crates).painted(lambda p: (0.20 + 0.07 * fbm(p * [2, 14, 2], 4, 3))[:, None] * [1.0, 0.72, 0.42]), matt("vertex")
    )


def light(width: int, height: int, samples: int) -> np.ndarray:
    dome = sky(
        (0.035, 0.07, 0.20), (0.62, 0.36, 0.24), sun=SUN, sun_light=(34, 12, 3.2), sun_size=1.6, glow=(2.3, 0.95, 0.28),
        glow_width=26, cloud=0.42, cloud_light=(1.25, 0.52, 0.30), cloud_shade=(0.09, 0.085, 0.14), cloud_scale=0.8,
        ground=(0.02, 0.03, 0.05), falloff=0.42, seed=21,
    )  # fmt: skip
    scene = Scene((1.5, 3.3, 5.5), (0.6, 5.9, -40), 54, dome)
    near = np.concatenate([-np.geomspace(9, 520, 560)[::-1]])
    water = heightfield(
        np.concatenate([-np.geomspace(4, 500, 240)[::-1], np.linspace(-3.8, 3.8, 60), np.geomspace(4, 500, 240)]), near, _water
    )
    scene.add(water, glazed((0.012, 0.03, 0.035), 0.06, 1.33))
    _ferry(scene)
    _shore(scene)
    shot = render(scene, width, height, samples)
    return glare(air(shot, (0.34, 0.22, 0.20), 0.00055, falloff=0.012, sun=SUN, sun_colour=(1.3, 0.5, 0.15)), 0.05)
