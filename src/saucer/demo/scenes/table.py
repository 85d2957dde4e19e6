"""A table by a window: glazed bowls and jars, linen, one side bright, one side left to the room."""

import numpy as np

from saucer.demo.geometry import Mesh, box, heightfield, lathe, merge, sphere, tube
from saucer.demo.light import Scene, glare, glazed, matt, render, soft
from saucer.demo.noise import fbm, smoothstep

BOWL = [
    (0.0, 0.0),
    (0.055, 0.0),
    (0.06, 0.015),
    (0.11, 0.05),
    (0.155, 0.11),
    (0.165, 0.135),
    (0.158, 0.136),
    (0.145, 0.11),
    (0.10, 0.06),
    (0.0, 0.03),
]
VASE = [
    (0.0, 0.0),
    (0.06, 0.0),
    (0.09, 0.06),
    (0.105, 0.14),
    (0.085, 0.23),
    (0.045, 0.29),
    (0.036, 0.34),
    (0.052, 0.38),
    (0.046, 0.38),
    (0.03, 0.34),
    (0.03, 0.3),
]
JAR = [
    (0.0, 0.0),
    (0.075, 0.0),
    (0.098, 0.03),
    (0.104, 0.12),
    (0.098, 0.2),
    (0.07, 0.235),
    (0.066, 0.255),
    (0.072, 0.265),
    (0.06, 0.265),
    (0.06, 0.2),
]
CUP = [(0.0, 0.0), (0.03, 0.0), (0.034, 0.012), (0.042, 0.03), (0.046, 0.085), (0.043, 0.086), (0.038, 0.03), (0.0, 0.016)]
PLATE = [(0.0, 0.0), (0.07, 0.0), (0.075, 0.006), (0.13, 0.022), (0.137, 0.026), (0.13, 0.028), (0.075, 0.012), (0.0, 0.009)]


def _two_glazes(low, high, line: float, seed: int):
    low, high = np.asarray(low), np.asarray(high)

    def paint(at: np.ndarray) -> np.ndarray:
        edge = at[:, 1] + 0.014 * fbm(at * [18, 4, 18], 4, seed)
        speck = smoothstep(0.42, 0.6, fbm(at * 150, 2, seed + 3))[:, None]
        colour = low + (high - low) * smoothstep(line - 0.012, line + 0.012, edge)[:, None]
        return colour * (1 - 0.55 * speck) * (1 + 0.12 * fbm(at * 14, 3, seed + 5)[:, None])

    return paint


def _wood(at: np.ndarray) -> np.ndarray:
    ring = fbm(at[:, [0, 2]] * [1.6, 15], 5, 14) + 0.4 * fbm(at[:, [0, 2]] * [5, 90], 3, 15)
    plank = 0.9 + 0.12 * np.sin(np.floor(at[:, 2] / 0.16) * 12.9)
    return ((0.24 + 0.10 * ring) * plank)[:, None] * [1.0, 0.62, 0.33]


def _cloth(p: np.ndarray) -> np.ndarray:
    fold = 0.016 * np.sin(p[:, 0] * 24 + 3 * fbm(p * 4, 3, 5)) * smoothstep(-0.2, 0.32, p[:, 1])
    return 0.764 + np.abs(fold) + 0.006 * fbm(p * 9, 4, 8) + 0.0006 * np.sin(p[:, 0] * 1400) * np.sin(p[:, 1] * 1400)


def light(width: int, height: int, samples: int) -> np.ndarray:
    scene = Scene((0.15, 1.30, 1.55), (0.02, 0.90, 0.0), 43, None, focus=1.62, aperture=0.009)
    top = heightfield(
        np.linspace(-1.3, 1.3, 900),
        np.linspace(-0.62, 0.75, 420),
        lambda p: 0.76 - 0.002 * (np.abs(np.sin(p[:, 1] / 0.16 * np.pi)) < 0.03),
    )
    scene.add(top.painted(_wood), glazed("vertex", 0.28))
    cloth = heightfield(np.linspace(-0.62, 0.1, 520), np.linspace(-0.2, 0.62, 520), _cloth)
    turn = cloth.moved((-0.02, 0, 0.05), turn=9)
    scene.add(turn, soft((0.66, 0.62, 0.54), 0.9, 0.6))
    items = [
        (VASE, (-0.38, 0.762, -0.22), 1.15, (0.03, 0.12, 0.19), (0.52, 0.55, 0.48), 0.16, 1),
        (JAR, (-0.08, 0.762, -0.30), 1.1, (0.30, 0.11, 0.045), (0.62, 0.54, 0.40), 0.13, 2),
        (BOWL, (0.16, 0.762, -0.02), 1.0, (0.07, 0.19, 0.15), (0.26, 0.44, 0.36), 0.09, 3),
        (BOWL, (-0.30, 0.772, 0.17), 0.72, (0.55, 0.50, 0.42), (0.70, 0.66, 0.58), 0.05, 4),
        (CUP, (0.42, 0.762, 0.14), 1.15, (0.44, 0.20, 0.10), (0.06, 0.05, 0.05), 0.05, 5),
        (CUP, (0.50, 0.762, -0.12), 1.15, (0.06, 0.10, 0.27), (0.60, 0.58, 0.53), 0.045, 6),
        (PLATE, (-0.04, 0.774, 0.30), 1.0, (0.20, 0.28, 0.36), (0.34, 0.43, 0.50), 0.012, 7),
        (JAR, (0.66, 0.762, -0.33), 1.35, (0.52, 0.34, 0.06), (0.66, 0.47, 0.12), 0.12, 8),
    ]  # fmt: skip
    for profile, at, scale, low, high, line, seed in items:
        body = lathe(profile, 220, 14)
        scene.add(body.painted(_two_glazes(low, high, line, seed)).moved(at, scale), glazed("vertex", 0.05))
    rng = np.random.default_rng(6)
    pears = lathe([(0.0, 0.0), (0.03, 0.002), (0.041, 0.03), (0.034, 0.065), (0.018, 0.09), (0.012, 0.105), (0.0, 0.108)], 60)
    for x, z, lean, tint in (
        (0.13, -0.03, 62, (0.50, 0.42, 0.06)),
        (0.20, 0.0, -48, (0.42, 0.44, 0.08)),
        (0.15, 0.04, 20, (0.56, 0.34, 0.05)),
    ):
        fruit = pears.painted(lambda p, t=tint: np.asarray(t) * (1 + 0.35 * fbm(p * 60, 4, 3)[:, None]))
        scene.add(fruit.moved((x, 0.83, z), turn=lean * 3, tilt=lean), glazed("vertex", 0.3))
    for x, z in ((-0.02, 0.27), (0.04, 0.33), (-0.08, 0.34)):
        scene.add(
            sphere(0.026, (x, 0.81, z), 30).painted(
                lambda p: np.array([0.20, 0.02, 0.06]) + 0.1 * fbm(p * 50, 3, 2)[:, None] * [1, 0.2, 0.4]
            ),
            glazed("vertex", 0.12),
        )
    stems = []
    for _ in range(7):
        bend = rng.normal(scale=0.09, size=2)
        t = np.linspace(0, 1, 16)
        line = np.stack([-0.38 + bend[0] * t**2, 1.16 + 0.36 * t, -0.22 + bend[1] * t**2], -1)
        stems.append(tube(line, 0.0022, 6))
        for head in line[8::2]:
            scene.add(sphere(0.011, head + rng.normal(scale=0.012, size=3), 8), soft((0.62, 0.52, 0.26), 0.8))
    scene.add(merge(stems), matt((0.16, 0.18, 0.07)))
    back = heightfield(np.linspace(-2.4, 2.4, 300), np.linspace(-0.2, 2.6, 200), lambda p: 0.006 * fbm(p * 5, 5, 40))
    plaster = Mesh(back.vertices[:, [0, 2, 1]] + [0, 0, -1.05], back.faces)
    scene.add(plaster.painted(lambda p: (0.40 + 0.06 * fbm(p * 1.3, 5, 41))[:, None] * [0.95, 0.98, 0.92]), matt("vertex"))
    scene.add(
        merge(
            [
                box((5, 0.1, 5), (0, 0, 0)),
                box((5, 0.1, 5), (0, 2.7, 0)),
                box((0.1, 2.8, 5), (2.4, 1.35, 0)),
                box((5, 2.8, 0.1), (0, 1.35, 2.6)),
            ]
        ),
        matt((0.32, 0.25, 0.19)),
    )
    frame = [box((0.08, 1.5, 0.05), (-1.5, 1.45, z)) for z in (-0.85, -0.28, 0.29, 0.86)] + [
        box((0.08, 0.05, 1.75), (-1.5, y, 0)) for y in (0.7, 1.45, 2.2)
    ]
    scene.add(merge(frame), soft((0.55, 0.53, 0.5), 0.5))
    pane = Mesh(
        np.array([[-1.62, 0.7, -0.85], [-1.62, 0.7, 0.86], [-1.62, 2.2, 0.86], [-1.62, 2.2, -0.85]]),
        np.array([[0, 2, 1], [0, 3, 2]]),
    )
    scene.add(pane, None, (5.2, 5.7, 6.4))
    scene.add(Mesh(pane.vertices[:, [0, 1, 2]], pane.faces[:, ::-1]), None, (5.2, 5.7, 6.4))
    return glare(render(scene, width, height, samples, 8).light, 0.03)
