"""Skies as light: an equirectangular map of scene-linear radiance, with sun, gradient and lit cloud."""

import numpy as np

from saucer.demo.noise import fbm, smoothstep


def directions(width: int) -> np.ndarray:
    """(width/2, width, 3) unit vectors of an equirectangular map, Y up, as the renderer lays it out."""
    v, u = np.mgrid[0 : width // 2, 0:width]
    theta, phi = (v + 0.5) / (width // 2) * np.pi, (u + 0.5) / width * 2 * np.pi
    return np.stack([np.sin(theta) * np.sin(phi), np.cos(theta), -np.sin(theta) * np.cos(phi)], -1)


def sky(
    zenith,
    horizon,
    *,
    sun,
    sun_light=(0, 0, 0),
    sun_size: float = 1.0,
    glow=(0, 0, 0),
    glow_width: float = 25.0,
    ground=(0.05, 0.05, 0.05),
    cloud: float = 0.0,
    cloud_light=(1, 1, 1),
    cloud_shade=(0.2, 0.2, 0.25),
    cloud_scale: float = 1.0,
    falloff: float = 0.45,
    seed: int = 3,
    width: int = 2048,
) -> np.ndarray:
    """Radiance (width/2, width, 3) float32. Directions are vectors, `sun_size` and `glow_width` degrees.

    The sun is spread over `sun_size` degrees (radius), so that its shadows are soft as through thin haze.
    """
    way = directions(width)
    sun = np.asarray(sun, float) / np.linalg.norm(sun)
    height = np.clip(way[..., 1], 0, 1)[..., None]
    light = np.asarray(horizon) + (np.asarray(zenith) - horizon) * height**falloff
    angle = np.degrees(np.arccos(np.clip(way @ sun, -1, 1)))[..., None]
    low = np.exp(-height / 0.22)
    light = light + np.asarray(glow) * (np.exp(-angle / glow_width) * (0.35 + 0.65 * low))
    if cloud:
        plane = way[..., [0, 2]] / (np.abs(way[..., 1:2]) + 0.12) * cloud_scale
        thick = fbm(plane * [1.0, 2.2], 6, seed) + 0.55 * fbm(plane * 0.35, 3, seed + 9)
        cover = (smoothstep(0.05, 0.55, thick + cloud - 0.35) * smoothstep(0.0, 0.1, way[..., 1]))[..., None]
        core = smoothstep(0.2, 0.9, thick + cloud - 0.25)[..., None]
        near = np.exp(-angle / 55.0)
        lit = np.asarray(cloud_light) * (0.25 + 0.75 * near) * (1 - 0.75 * core) + np.asarray(cloud_shade) * core
        light = light * (1 - 0.85 * cover) + lit * 0.85 * cover
    light = np.where(way[..., 1:2] < -0.01, np.asarray(ground), light)
    light = light + np.asarray(sun_light) * smoothstep(sun_size, sun_size * 0.6, angle)
    return light.astype(np.float32)
