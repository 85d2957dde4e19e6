"""Six clay busts in human skin tones, in one large soft light, for judging what a look does to people."""

import numpy as np

from saucer.demo.geometry import Mesh, box, from_distance, heightfield, lathe
from saucer.demo.light import Scene, glare, glazed, matt, render, soft
from saucer.demo.noise import fbm, smoothstep

# Linear BT.709 reflectance of six tones, light to deep: made up along the range that published skin measurements cover
# (CIELAB L* about 75 down to 32, hue angle 45 to 65 degrees).
TONES = (
    (0.66, 0.42, 0.32),
    (0.56, 0.335, 0.215),
    (0.45, 0.24, 0.135),
    (0.33, 0.165, 0.085),
    (0.20, 0.095, 0.05),
    (0.105, 0.052, 0.033),
)
HAIR = (
    (0.30, 0.16, 0.05),
    (0.07, 0.035, 0.015),
    (0.02, 0.014, 0.011),
    (0.16, 0.045, 0.015),
    (0.012, 0.01, 0.009),
    (0.10, 0.10, 0.10),
)
WEAR = ((0.12, 0.20, 0.30), (0.42, 0.36, 0.27), (0.36, 0.07, 0.06), (0.10, 0.17, 0.10), (0.52, 0.38, 0.10), (0.32, 0.33, 0.36))


def _ellipsoid(p, centre, radii):
    q = (p - centre) / radii
    length = np.linalg.norm(q, axis=-1)
    return (length - 1) * length / (np.linalg.norm(q / radii, axis=-1) + 1e-9)


def _capsule(p, a, b, radius):
    a, b = np.asarray(a, float), np.asarray(b, float)
    t = np.clip(((p - a) @ (b - a)) / ((b - a) @ (b - a)), 0, 1)
    return np.linalg.norm(p - (a + t[..., None] * (b - a)), axis=-1) - radius


def _join(a, b, k):
    h = np.clip(0.5 + 0.5 * (b - a) / k, 0, 1)
    return b + (a - b) * h - k * h * (1 - h)


def _carve(a, b, k):
    return -_join(-a, b, k)


def _head(p: np.ndarray, v: np.ndarray) -> np.ndarray:
    """Signed distance of a head and shoulders facing +Z; `v` holds six small deviations."""
    side = p * [1, 1, 1]
    side[..., 0] = np.abs(side[..., 0])
    body = _ellipsoid(p, (0, 0.10, -0.012), (0.079 + 0.004 * v[0], 0.108 + 0.006 * v[1], 0.098))
    body = _join(body, _ellipsoid(p, (0, 0.038, 0.018), (0.060 + 0.005 * v[2], 0.072, 0.070)), 0.035)
    body = _join(body, _ellipsoid(p, (0, -0.022, 0.055), (0.024, 0.019, 0.021)), 0.03)
    body = _join(body, _ellipsoid(side, (0.040, 0.052, 0.052), (0.022, 0.018, 0.020)), 0.03)
    body = _join(body, _capsule(side, (0.012, 0.102, 0.083), (0.048, 0.098, 0.066), 0.009), 0.022)
    body = _carve(body, _ellipsoid(side, (0.031, 0.082, 0.091), (0.019, 0.012, 0.016)), 0.016)
    body = _join(body, _ellipsoid(side, (0.031, 0.081, 0.070), (0.0155, 0.0125, 0.0135)), 0.004)
    nose = _join(
        _capsule(p, (0, 0.094, 0.086), (0, 0.053, 0.104 + 0.004 * v[3]), 0.0085),
        _ellipsoid(side, (0.011 + 0.002 * v[4], 0.048, 0.092), (0.009, 0.007, 0.010)),
        0.010,
    )
    body = _join(body, nose, 0.012)
    body = _join(body, _ellipsoid(p, (0, 0.021, 0.080), (0.023, 0.0065, 0.011)), 0.007)
    body = _join(body, _ellipsoid(p, (0, 0.010, 0.078), (0.020, 0.0075, 0.011)), 0.006)
    body = _carve(body, _capsule(side, (0, 0.0158, 0.093), (0.022, 0.0150, 0.081), 0.0014), 0.004)
    ear = _carve(
        _ellipsoid(side, (0.080, 0.072, -0.015), (0.011, 0.029, 0.019)),
        _ellipsoid(side, (0.090, 0.074, -0.008), (0.008, 0.019, 0.011)),
        0.008,
    )
    body = _join(body, ear, 0.008)
    neck = _capsule(p, (0, -0.11, -0.035), (0, 0.02, -0.025), 0.053 + 0.004 * v[5])
    body = _join(body, neck, 0.03)
    return _join(body, _ellipsoid(p, (0, -0.180, -0.035), (0.185, 0.085, 0.085)), 0.055)


def _hair(p: np.ndarray, v: np.ndarray, style: int) -> np.ndarray:
    cap = _ellipsoid(p, (0, 0.122, -0.026), (0.089, 0.104, 0.104))
    if style == 1:
        cap = _join(cap, _ellipsoid(p, (0, 0.215, -0.075), (0.045, 0.040, 0.045)), 0.02)
    if style == 2:
        side = np.concatenate([np.abs(p[..., :1]), p[..., 1:]], -1)
        cap = _join(cap, _capsule(side, (0.072, 0.09, -0.045), (0.085, -0.06, -0.045), 0.032), 0.05)
    front = p[..., 2] - 0.052 - 0.5 * (p[..., 1] - 0.155) + 0.4 * np.abs(p[..., 0])
    cap = _carve(cap, -np.maximum(front, -(p[..., 1] - 0.055) * 0 + front), 0.01) if style != 2 else np.maximum(cap, front)
    grain = 0.0035 * np.sin(110 * (p[..., 0] + 0.35 * p[..., 2]) + 6 * fbm(p * 26, 2, 4)) + 0.002 * fbm(p * 90, 2, 5)
    return np.maximum(cap, front) + grain


def _skin(tone, v):
    tone = np.asarray(tone)

    def paint(p: np.ndarray) -> np.ndarray:
        side = np.abs(p[:, 0])
        flush = np.exp(-(((side - 0.042) / 0.02) ** 2) - ((p[:, 1] - 0.045) / 0.02) ** 2) * (p[:, 2] > 0.03)
        flush = flush + np.exp(-((side / 0.014) ** 2) - ((p[:, 1] - 0.052) / 0.014) ** 2) * (p[:, 2] > 0.08)
        lips = smoothstep(0.027, 0.020, side) * smoothstep(0.0125, 0.008, np.abs(p[:, 1] - 0.0155)) * (p[:, 2] > 0.070)
        mottle = 0.05 * fbm(p * 55, 4, 3) + 0.03 * fbm(p * 300, 2, 7)
        colour = tone * (1 + mottle[:, None]) * (1 + flush[:, None] * [0.06, -0.15, -0.13])
        return colour * (1 - lips[:, None] * [0.12, 0.42, 0.34])

    return paint


def _bust(scene: Scene, index: int, at, turn: float) -> None:
    rng = np.random.default_rng(100 + index)
    v = rng.uniform(-1, 1, 6)
    step = 0.0024
    head = from_distance(lambda p: _head(p, v), (-0.20, -0.30, -0.15), (0.20, 0.24, 0.14), step)
    scene.add(head.painted(_skin(TONES[index], v)).moved(at, 1.0, turn), soft("vertex", 0.46, 0.25))
    hair = from_distance(lambda p: _hair(p, v, index % 3), (-0.14, -0.12, -0.17), (0.14, 0.29, 0.12), step)
    scene.add(hair.moved(at, 1.0, turn), soft(HAIR[index], 0.42, 0.5))
    scarf = lathe(
        [(0.072, -0.09), (0.088, -0.10), (0.096, -0.12), (0.15, -0.155), (0.20, -0.19), (0.215, -0.24), (0.215, -0.33)], 160, 10
    )
    folds = Mesh(
        scarf.vertices * [1, 1, 0.56] * (1 + 0.02 * fbm(scarf.vertices * [14, 40, 14], 4, index)[:, None]) + [0, 0, -0.035],
        scarf.faces,
    )
    scene.add(folds.moved(at, 1.0, turn), soft(WEAR[index], 0.9, 0.8))


def light(width: int, height: int, samples: int) -> np.ndarray:
    scene = Scene((0.0, 0.36, 2.75), (0.0, 0.275, 0.0), 34, None, focus=2.62, aperture=0.012)
    places = [
        (-0.66, 0.20, 0.02, 14),
        (-0.24, 0.20, 0.10, 5),
        (0.20, 0.20, 0.10, -7),
        (0.64, 0.20, 0.02, -16),
        (-0.46, 0.47, -0.36, 10),
        (0.42, 0.47, -0.36, -11),
    ]
    for index, slot in zip((0, 2, 3, 5, 1, 4), places, strict=True):
        _bust(scene, index, slot[:3], slot[3])
    scene.add(box((1.5, 0.28, 0.4), (0, 0.05, -0.38)), matt((0.17, 0.165, 0.16)))
    wall = heightfield(np.linspace(-3, 3, 260), np.linspace(-1, 3, 180), lambda p: 0.01 * fbm(p * 2, 5, 3))
    scene.add(
        Mesh(wall.vertices[:, [0, 2, 1]] + [0, 0, -1.25], wall.faces).painted(
            lambda p: (0.20 + 0.03 * fbm(p * 1.1, 5, 8))[:, None] * [1.0, 0.97, 0.93]
        ),
        matt("vertex"),
    )
    scene.add(box((6, 0.1, 6), (0, -0.17, 0)), glazed((0.12, 0.11, 0.10), 0.3))
    key = Mesh(
        np.array([[-2.2, 0.4, 1.9], [-1.2, 0.4, 2.9], [-1.2, 2.2, 2.7], [-2.2, 2.2, 1.7]]),
        np.array([[0, 1, 2], [0, 2, 3], [0, 2, 1], [0, 3, 2]]),
    )
    scene.add(key, None, (7.5, 6.6, 5.6))
    fill = Mesh(
        np.array([[2.4, 0.0, 0.6], [2.4, 1.8, 0.6], [2.0, 1.8, 2.2], [2.0, 0.0, 2.2]]),
        np.array([[0, 2, 1], [0, 3, 2], [0, 1, 2], [0, 2, 3]]),
    )
    scene.add(fill, None, (0.75, 0.95, 1.25))
    rim = Mesh(
        np.array([[1.6, 1.3, -1.1], [1.6, 2.3, -1.0], [0.7, 2.3, -1.2], [0.7, 1.3, -1.2]]),
        np.array([[0, 2, 1], [0, 3, 2], [0, 1, 2], [0, 2, 3]]),
    )
    scene.add(rim, None, (6.0, 5.4, 4.6))
    scene.others.append({"type": "constant", "radiance": {"type": "rgb", "value": [0.10, 0.11, 0.13]}})
    return glare(render(scene, width, height, samples).light, 0.02)
