"""A room left in shadow with one bright window: more than ten stops between the curtain and the corner."""

import numpy as np

from saucer.demo.geometry import Mesh, box, heightfield, lathe, merge, sphere, tube
from saucer.demo.light import Scene, air, glare, glazed, leaf, matt, render, soft
from saucer.demo.noise import fbm
from saucer.demo.sky import sky

SUN = np.array([0.55, 0.62, -1.0])


def _boards(at: np.ndarray) -> np.ndarray:
    plank = np.floor(at[:, 0] / 0.14)
    tone = 0.16 + 0.045 * np.sin(plank * 12.99) + 0.06 * fbm(np.stack([at[:, 0] * 25, at[:, 2] * 1.6 + plank], -1), 4, 3)
    seam = np.where(np.abs((at[:, 0] / 0.14) % 1 - 0.5) > 0.48, 0.35, 1.0)
    return (tone * seam)[:, None] * [1.0, 0.60, 0.32]


def _paper(at: np.ndarray) -> np.ndarray:
    leafy = np.sin(at[:, 0] * 22 + 2 * np.sin(at[:, 1] * 11)) * np.sin(at[:, 1] * 22 + at[:, 2] * 22)
    return np.where(leafy[:, None] > 0.35, (0.20, 0.25, 0.20), (0.26, 0.31, 0.25)) * (1 + 0.12 * fbm(at * 2, 4, 5)[:, None])


def _chair() -> Mesh:
    legs = [tube(np.array([[x, 0, z], [x * 0.94, 0.45, z * 0.94]]), 0.022) for x in (-0.22, 0.22) for z in (-0.21, 0.21)]
    back = [tube(np.array([[x, 0.45, -0.2], [x * 1.05, 0.98, -0.29]]), 0.017) for x in np.linspace(-0.2, 0.2, 5)]
    rail = tube(
        np.stack([np.linspace(-0.23, 0.23, 12), np.full(12, 0.99), -0.29 - 0.03 * np.cos(np.linspace(-1.5, 1.5, 12))], -1), 0.026
    )
    return merge([*legs, *back, rail, box((0.48, 0.035, 0.46), (0, 0.46, 0))])


def light(width: int, height: int, samples: int) -> np.ndarray:
    dome = sky(
        (0.9, 1.5, 3.0),
        (3.4, 3.6, 3.7),
        sun=SUN,
        sun_light=(26000, 23000, 18500),
        sun_size=1.0,
        cloud=0.3,
        cloud_light=(7, 7, 6.8),
        cloud_shade=(2.4, 2.5, 2.8),
        ground=(0.6, 0.65, 0.35),
        seed=15,
    )
    scene = Scene((-1.55, 1.42, 2.6), (0.62, 1.12, -1.6), 58, dome)
    floor = heightfield(np.linspace(-2.6, 2.6, 620), np.linspace(-2.4, 3.2, 220), lambda p: 0 * p[:, 0])
    scene.add(floor.painted(_boards), glazed("vertex", 0.22))
    # The far wall stands around a window 1.5 wide and 1.5 high; the left wall and the ceiling close the room.
    pieces = [((-1.5, 1.35), (2.2, 2.7)), ((1.95, 1.35), (1.3, 2.7)), ((0.45, 0.42), (1.7, 0.84)), ((0.45, 2.5), (1.7, 0.4))]
    for (x, y), (w, h) in pieces:
        panel = heightfield(
            np.linspace(x - w / 2, x + w / 2, 240), np.linspace(y - h / 2, y + h / 2, 240), lambda p: 0.001 * fbm(p * 8, 3, 2)
        )
        scene.add(Mesh(panel.vertices[:, [0, 2, 1]] + [0, 0, -2.4], panel.faces).painted(_paper), matt("vertex"))
    scene.add(
        merge(
            [
                box((1.74, 0.05, 0.5), (0.45, 0.84, -2.5)),
                box((1.74, 0.05, 0.35), (0.45, 2.3, -2.55)),
                box((0.05, 1.5, 0.35), (-0.4, 1.57, -2.55)),
                box((0.05, 1.5, 0.35), (1.3, 1.57, -2.55)),
            ]
        ),
        soft((0.62, 0.58, 0.5), 0.4),
    )
    bars = [box((0.035, 1.46, 0.05), (x, 1.57, -2.5)) for x in (-0.12, 0.45, 1.02)] + [
        box((1.7, 0.035, 0.05), (0.45, y, -2.5)) for y in (1.35, 1.85)
    ]
    scene.add(merge(bars), soft((0.6, 0.56, 0.48), 0.4))
    side = heightfield(np.linspace(-2.4, 3.2, 420), np.linspace(0, 2.7, 220), lambda p: 0.001 * fbm(p * 8, 3, 4))
    for x in (-2.6, 2.6):
        scene.add(Mesh(side.vertices[:, [1, 2, 0]] + [x, 0, 0], side.faces).painted(_paper), matt("vertex"))
    scene.add(merge([box((5.4, 0.1, 5.8), (0, 2.75, 0.4)), box((5.4, 2.8, 0.1), (0, 1.35, 3.2))]), matt((0.45, 0.43, 0.39)))
    for x, flip in ((-0.62, 1), (1.52, -1)):
        cloth = heightfield(
            np.linspace(-0.24, 0.24, 120),
            np.linspace(0.1, 2.45, 90),
            lambda p: 0.045 * np.sin(p[:, 0] * 58) + 0.012 * fbm(p * 6, 3, 6),
        )
        scene.add(Mesh(cloth.vertices[:, [0, 2, 1]] * [flip, 1, 1] + [x, 0, -2.27], cloth.faces), leaf((0.52, 0.33, 0.20), 0.7))
    scene.add(tube(np.array([[-0.95, 2.48, -2.27], [1.85, 2.48, -2.27]]), 0.02), soft((0.3, 0.2, 0.1), 0.3, metallic=0.8))
    chair = _chair()
    scene.add(chair.moved((0.95, 0, -0.65), 1.0, 205), glazed((0.09, 0.045, 0.025), 0.2))
    scene.add(
        merge(
            [
                box((1.15, 0.04, 0.7), (0.05, 0.74, -1.45)),
                *[box((0.05, 0.74, 0.05), (0.05 + x, 0.37, -1.45 + z)) for x in (-0.5, 0.5) for z in (-0.28, 0.28)],
            ]
        ).painted(lambda p: (0.13 + 0.05 * fbm(p * [3, 3, 30], 4, 8))[:, None] * [1.0, 0.55, 0.3]),
        glazed("vertex", 0.15),
    )
    jug = lathe([(0, 0), (0.07, 0), (0.1, 0.08), (0.09, 0.17), (0.055, 0.22), (0.06, 0.28), (0.052, 0.28), (0.04, 0.2)], 80, 10)
    scene.add(jug.moved((-0.2, 0.76, -1.5)), glazed((0.10, 0.24, 0.38), 0.05))
    for x, z in ((0.2, -1.38), (0.27, -1.45), (0.18, -1.5)):
        scene.add(sphere(0.042, (x, 0.80, z), 20), glazed((0.62, 0.26, 0.03), 0.2))
    scene.add(
        lathe([(0, 0), (0.12, 0.0), (0.15, 0.03), (0.145, 0.035), (0, 0.012)], 60).moved((0.22, 0.76, -1.44)),
        glazed((0.6, 0.56, 0.48), 0.08),
    )
    shelf = [box((1.15, 1.9, 0.04), (-1.55, 0.95, -2.36))] + [
        box((1.15, 0.035, 0.3), (-1.55, y, -2.22)) for y in (0.3, 0.75, 1.2, 1.65, 1.9)
    ]
    scene.add(merge(shelf), glazed((0.07, 0.035, 0.02), 0.3))
    rng = np.random.default_rng(3)
    for level in (0.32, 0.77, 1.22):
        x = -2.05
        while x < -1.1:
            thick, tall = rng.uniform(0.02, 0.05), rng.uniform(0.2, 0.34)
            tint = np.array([(0.32, 0.06, 0.04), (0.05, 0.10, 0.18), (0.28, 0.22, 0.12), (0.07, 0.14, 0.08), (0.4, 0.36, 0.3)])[
                rng.integers(5)
            ]
            scene.add(box((thick, tall, 0.2), (x, level + tall / 2, -2.2)), soft(tint * rng.uniform(0.6, 1.1), 0.6))
            x += thick + 0.004
    arm = heightfield(
        np.linspace(-0.8, 0.8, 160),
        np.linspace(-0.55, 0.55, 120),
        lambda p: 0.012 + 0.002 * np.sin(p[:, 0] * 40) * np.sin(p[:, 1] * 40),
    )
    rug = lambda p: (
        np.where((np.abs(p[:, :1] - 0.5) % 0.4 < 0.2), (0.30, 0.05, 0.04), (0.07, 0.08, 0.14))
        * (1 + 0.2 * fbm(p * 60, 2, 1)[:, None])
    )
    scene.add(arm.moved((0.5, 0, -0.2), 1.25).painted(rug), matt("vertex"))
    scene.lamp((-2.05, 1.52, 1.1), 0.05, (2.6, 1.4, 0.5))
    hills = heightfield(
        np.linspace(-60, 60, 120), np.linspace(-90, -8, 90), lambda p: -2.2 + 3.4 * fbm(p * 0.05, 5, 7) + 0.05 * (-p[:, 1])
    )
    scene.add(
        hills.painted(lambda p: np.array([0.12, 0.18, 0.05]) + 0.06 * fbm(p * 0.3, 4, 4)[:, None] * [1, 0.5, 0.3]), matt("vertex")
    )
    shot = render(scene, width, height, samples, 9)
    return glare(air(shot, (2.2, 2.4, 2.6), 0.0004), 0.035)
