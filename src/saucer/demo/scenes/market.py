"""A night market: warm lanterns, coloured tubes, wet paving, fruit under the awnings."""

import numpy as np

from saucer.demo.geometry import Mesh, box, heightfield, lathe, merge, sphere, tube
from saucer.demo.light import Scene, air, glare, glazed, matt, render, soft
from saucer.demo.noise import fbm, smoothstep
from saucer.demo.sky import sky

FRUIT = ((0.72, 0.24, 0.02), (0.55, 0.05, 0.03), (0.36, 0.48, 0.05), (0.78, 0.55, 0.05), (0.18, 0.03, 0.11), (0.30, 0.20, 0.08))
CLOTH = ((0.50, 0.07, 0.05), (0.10, 0.22, 0.30), (0.62, 0.44, 0.12), (0.08, 0.26, 0.16), (0.48, 0.42, 0.34))


def _awning(width: float, depth: float, colour, rng) -> Mesh:
    sheet = heightfield(
        np.linspace(-width / 2, width / 2, 70),
        np.linspace(-depth / 2, depth / 2, 30),
        lambda p: 2.55 - 0.24 * p[:, 1] - 0.10 * np.cos(p[:, 0] / width * np.pi) + 0.03 * fbm(p * 2, 3, int(rng.integers(99))),
    )
    stripe = lambda p: np.where((np.floor((p[:, :1] + 20) / 0.28) % 2) > 0, colour, np.array((0.66, 0.60, 0.5)))
    return sheet.painted(stripe)


def _stall(scene: Scene, at, turn: float, index: int, rng) -> None:
    where: dict = {"to": at, "turn": turn}
    width = 2.9
    scene.add(_awning(width + 0.3, 1.9, CLOTH[index % 5], rng).moved(**where), matt("vertex"))
    posts = [tube(np.array([[x, 0, z], [x, 2.55 - 0.24 * z, z]]), 0.035, 8) for x in (-width / 2, width / 2) for z in (-0.85, 0.85)]
    scene.add(merge(posts).moved(**where), soft((0.08, 0.07, 0.06), 0.5))
    wood = lambda p: (0.17 + 0.06 * fbm(p * [2, 16, 9], 4, 5))[:, None] * [1.0, 0.7, 0.42]
    scene.add(
        merge([box((width, 0.09, 1.1), (0, 0.86, 0.2)), box((width, 0.8, 0.05), (0, 0.42, 0.72))]).moved(**where).painted(wood),
        matt("vertex"),
    )
    scene.add(box((width, 2.2, 0.06), (0, 1.1, -0.95)).moved(**where), matt((0.08, 0.07, 0.065)))
    for crate in range(4):
        x = -width / 2 + 0.42 + crate * 0.69
        tint = FRUIT[(index * 2 + crate) % 6]
        heap = [
            sphere(0.055, (x + rng.uniform(-0.25, 0.25), 0.97 + rng.uniform(0, 0.13), 0.3 + rng.uniform(-0.33, 0.38)), 9)
            for _ in range(70)
        ]
        scene.add(merge(heap).moved(**where), glazed(tint, 0.16))
    for x in rng.uniform(-1.2, 1.2, 2):
        jar = lathe([(0.0, 0), (0.10, 0.01), (0.13, 0.12), (0.12, 0.25), (0.06, 0.3), (0.07, 0.34)], 32)
        scene.add(jar.moved((x, 0.9, -0.25)).moved(**where), glazed(CLOTH[(index + 2) % 5], 0.06))


def _tube_sign(scene: Scene, line, radius: float, colour, at, turn: float) -> None:
    scene.add(tube(np.asarray(line, float), radius, 10).moved(at, turn=turn), None, colour)


def _signs(scene: Scene) -> None:
    t = np.linspace(0, 2 * np.pi, 80)
    ring = np.stack([np.cos(t) * 0.55, np.sin(t) * 0.55, 0 * t], -1)
    _tube_sign(scene, ring, 0.03, (0.6, 11, 13), (-3.55, 3.9, -5.2), 62)
    _tube_sign(scene, ring * 0.6, 0.025, (14, 1.2, 7), (-3.5, 3.9, -5.1), 62)
    wave = np.stack([np.linspace(-1.3, 1.3, 90), 0.22 * np.sin(np.linspace(0, 6 * np.pi, 90)), np.zeros(90)], -1)
    _tube_sign(scene, wave, 0.03, (15, 1.0, 5.5), (3.7, 3.7, -6.2), -62)
    fish = np.stack([1.0 * np.cos(t), 0.4 * np.sin(t) * (1 + 0.4 * np.cos(t)), 0 * t], -1)
    _tube_sign(scene, fish, 0.03, (12, 5.2, 0.4), (-3.6, 3.75, -11.5), 60)
    bars = np.array([[-0.6, -0.7, 0], [-0.2, 0.7, 0], [0.2, -0.7, 0], [0.6, 0.7, 0]])
    _tube_sign(scene, bars, 0.03, (0.8, 3.0, 16), (3.9, 4.1, -13.5), -60)


def _paving(at: np.ndarray) -> np.ndarray:
    joint = np.minimum(np.abs(np.sin(at[:, 0] * 5.2)), np.abs(np.sin(at[:, 1] * 3.4 + np.floor(at[:, 0] * 5.2 / np.pi) * 1.3)))
    return 0.012 * smoothstep(0.02, 0.22, joint) + 0.016 * fbm(at * 0.7, 4, 61)


def light(width: int, height: int, samples: int) -> np.ndarray:
    dome = sky(
        (0.004, 0.008, 0.022),
        (0.02, 0.022, 0.035),
        sun=(0, 1, 0),
        cloud=0.2,
        cloud_light=(0.015, 0.015, 0.02),
        cloud_shade=(0.01, 0.011, 0.016),
    )
    scene = Scene((0.35, 1.62, 4.6), (-0.1, 1.75, -6), 58, dome, focus=8.0, aperture=0.018)
    rng = np.random.default_rng(17)
    floor = heightfield(np.linspace(-7, 7, 620), np.linspace(-32, 5, 900), _paving)
    scene.add(
        floor.painted(lambda p: (0.09 + 0.03 * fbm(p[:, [0, 2]] * 2, 4, 9))[:, None] * [1.0, 0.95, 0.9]),
        glazed("vertex", 0.12, 1.4),
    )
    for row in range(6):
        _stall(scene, (-2.95, 0, 0.4 - row * 4.1), 76 + rng.uniform(-4, 4), row, rng)
        _stall(scene, (3.05, 0, -0.9 - row * 4.1), -77 + rng.uniform(-4, 4), row + 3, rng)
    for side in (-1, 1):
        wall = heightfield(np.linspace(-32, 5, 200), np.linspace(0, 8.5, 90), lambda p: 0.05 * fbm(p * 1.5, 4, 23))
        flat = Mesh(wall.vertices[:, [1, 2, 0]] * [1, 1, 1] + [side * 5.0, 0, 0], wall.faces)
        scene.add(flat.painted(lambda p: (0.12 + 0.05 * fbm(p * 1.1, 5, 29))[:, None] * [1.0, 0.86, 0.74]), matt("vertex"))
    scene.add(box((11, 8, 0.3), (0, 4, -27)), matt((0.10, 0.09, 0.09)))
    for row in range(9):
        z = 1.2 - row * 2.9
        sag = np.linspace(-4.6, 4.6, 40)
        scene.add(
            tube(np.stack([sag, 4.35 - 0.75 * (1 - (sag / 4.6) ** 2), np.full(40, z)], -1), 0.012, 6), matt((0.03, 0.03, 0.03))
        )
        for x in np.linspace(-3.2, 3.2, 5):
            warm = np.array((13, 6.2, 1.9)) if (row + int(x * 10)) % 4 else np.array((12, 2.6, 1.2))
            scene.lamp(
                (x + rng.uniform(-0.2, 0.2), 4.35 - 0.75 * (1 - (x / 4.6) ** 2) - 0.2, z), 0.13, warm * rng.uniform(0.7, 1.15)
            )
    for row in range(6):
        scene.lamp((-2.75, 2.15, 0.4 - row * 4.1), 0.07, (95, 62, 30))
        scene.lamp((2.85, 2.15, -0.9 - row * 4.1), 0.07, (88, 66, 38) if row % 2 else (70, 74, 66))
    _signs(scene)
    shot = render(scene, width, height, samples)
    return glare(air(shot, (0.05, 0.035, 0.028), 0.016), 0.11, (0.003, 0.014, 0.07))
