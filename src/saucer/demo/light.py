"""Light transport: a scene of ours through a path tracer, then air and glare.

The scenes, their shapes and their light are ours; the paths are traced by a general-purpose renderer (docs/decisions/0007).
"""

from __future__ import annotations

import tempfile
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

import numpy as np

from saucer.demo.geometry import Mesh

SAMPLES_A_PASS = 4


@dataclass
class Scene:
    """Shapes, emitters and a camera, gathered piece by piece; `render` gives scene-linear light on BT.709 primaries."""

    eye: tuple[float, float, float]
    target: tuple[float, float, float]
    field_of_view: float
    environment: np.ndarray | None = None
    focus: float | None = None
    aperture: float = 0.0
    parts: list[tuple[Mesh, dict[str, Any], dict[str, Any] | None]] = field(default_factory=list)
    others: list[dict[str, Any]] = field(default_factory=list)

    def add(self, mesh: Mesh, material: dict[str, Any] | None = None, emits=None) -> None:
        self.parts.append((mesh, material or matt((0.5, 0.5, 0.5)), None if emits is None else area(emits)))

    def lamp(self, centre, radius: float, radiance) -> None:
        self.others.append({"type": "sphere", "center": list(centre), "radius": radius, "emitter": area(radiance)})


def area(radiance) -> dict[str, Any]:
    return {"type": "area", "radiance": {"type": "rgb", "value": list(map(float, radiance))}}


def _colour(colour) -> dict[str, Any]:
    if isinstance(colour, str):
        return {"type": "mesh_attribute", "name": "vertex_color"}
    return {"type": "rgb", "value": list(map(float, colour))}


def matt(colour) -> dict[str, Any]:
    return {"type": "twosided", "bsdf": {"type": "diffuse", "reflectance": _colour(colour)}}


def glazed(colour, roughness: float = 0.05, ior: float = 1.5) -> dict[str, Any]:
    if isinstance(colour, str):  # the plastic model cannot average a painted mesh, the principled one need not
        shine = {"roughness": roughness**0.5, "specular": min(1.0, ((ior - 1) / (ior + 1)) ** 2 / 0.08)}
        return {"type": "twosided", "bsdf": {"type": "principled", "base_color": _colour(colour)} | shine}
    body = {
        "type": "roughplastic",
        "diffuse_reflectance": _colour(colour),
        "alpha": roughness,
        "int_ior": ior,
        "nonlinear": True,
    }
    return {"type": "twosided", "bsdf": body}


def soft(colour, roughness: float = 0.5, sheen: float = 0.0, metallic: float = 0.0) -> dict[str, Any]:
    body = {"type": "principled", "base_color": _colour(colour), "roughness": roughness, "sheen": sheen}
    return {"type": "twosided", "bsdf": body | {"metallic": metallic, "sheen_tint": 0.6}}


def leaf(colour, through: float = 0.9) -> dict[str, Any]:
    """A thin leaf: part of the light goes through; `diff_trans` counts 0..2."""
    return {"type": "principledthin", "base_color": _colour(colour), "roughness": 0.5, "diff_trans": through}


def _write_ply(mesh: Mesh, path: Path) -> None:
    names = ["x", "y", "z"] + (["r", "g", "b"] if mesh.colours is not None else [])
    columns = [mesh.vertices] + ([mesh.colours] if mesh.colours is not None else [])
    vertices = np.concatenate(columns, axis=1).astype("<f4")
    faces = np.empty(len(mesh.faces), dtype=[("n", "u1"), ("v", "<i4", 3)])
    faces["n"], faces["v"] = 3, mesh.faces
    head = "ply\nformat binary_little_endian 1.0\n" + f"element vertex {len(vertices)}\n"
    head += "".join(f"property float {name}\n" for name in names)
    head += f"element face {len(faces)}\nproperty list uchar int vertex_indices\nend_header\n"
    path.write_bytes(head.encode() + vertices.tobytes() + faces.tobytes())


@dataclass
class Rendered:
    """light (h, w, 3) scene-linear; distance (h, w) metres along the ray, inf at the sky; rays (h, w, 3) unit vectors."""

    light: np.ndarray
    distance: np.ndarray
    rays: np.ndarray
    eye: np.ndarray


def render(scene: Scene, width: int, height: int, samples: int, bounces: int = 6) -> Rendered:
    import mitsuba as mi
    from mitsuba_oidn import denoise

    mi.set_variant("llvm_ad_rgb", "scalar_rgb")
    sensor: dict[str, Any] = {
        "type": "thinlens" if scene.aperture else "perspective",
        "fov": scene.field_of_view,
        "to_world": mi.ScalarTransform4f().look_at(list(scene.eye), list(scene.target), [0, 1, 0]),
        "film": {"type": "hdrfilm", "width": width, "height": height, "rfilter": {"type": "box"}},
        "sampler": {"type": "independent", "sample_count": SAMPLES_A_PASS},
    }
    if scene.aperture:
        sensor |= {"aperture_radius": scene.aperture, "focus_distance": scene.focus}
    paths = {"type": "path", "max_depth": bounces}
    integrator = {"type": "aov", "aovs": "albedo:albedo,normal:sh_normal,distance:depth", "image": paths}
    world: dict[str, Any] = {"type": "scene", "sensor": sensor, "integrator": integrator}
    with tempfile.TemporaryDirectory() as folder:
        for number, (mesh, material, emitter) in enumerate(scene.parts):
            path = Path(folder) / f"{number}.ply"
            _write_ply(mesh, path)
            shape: dict[str, Any] = {"type": "ply", "filename": str(path), "bsdf": material}
            world[f"part{number}"] = shape | ({"emitter": emitter} if emitter else {})
        for number, shape in enumerate(scene.others):
            world[f"other{number}"] = shape
        if scene.environment is not None:
            bitmap = mi.Bitmap(scene.environment)
            world["sky"] = {"type": "envmap", "bitmap": bitmap}
        loaded = mi.load_dict(world)
        # Few samples at a time, each with its own seed: the renderer holds every path of a pass in memory.
        passes = max(1, samples // SAMPLES_A_PASS)
        planes = sum(np.array(mi.render(loaded, spp=SAMPLES_A_PASS, seed=number)) for number in range(passes)) / passes
    colour, rest = planes[..., :3], planes[..., -7:]
    albedo, normal, distance = rest[..., :3], rest[..., 3:6], rest[..., 6]
    clean = np.array(
        denoise(
            np.ascontiguousarray(colour, np.float32),
            albedo=np.ascontiguousarray(np.clip(albedo, 0, 1), np.float32),
            normal=np.ascontiguousarray(normal, np.float32),
            hdr=True,
        )
    )
    return Rendered(clean, np.where(distance > 0, distance, np.inf), _rays(scene, width, height), np.asarray(scene.eye, float))


def _rays(scene: Scene, width: int, height: int) -> np.ndarray:
    eye, target = np.asarray(scene.eye, float), np.asarray(scene.target, float)
    forward = (target - eye) / np.linalg.norm(target - eye)
    right = np.cross(forward, [0, 1, 0])
    right /= np.linalg.norm(right)
    up = np.cross(right, forward)
    reach = np.tan(np.radians(scene.field_of_view) / 2)
    x = (np.arange(width) + 0.5) / width * 2 - 1
    y = (1 - (np.arange(height) + 0.5) / height * 2) * height / width
    rays = forward + reach * (x[None, :, None] * right + y[:, None, None] * up)
    return rays / np.linalg.norm(rays, axis=-1, keepdims=True)


def air(
    shot: Rendered, colour, density: float, *, falloff: float = 0.0, sun=None, sun_colour=(0, 0, 0), reach=4000.0
) -> np.ndarray:
    """Haze: exponential in distance, thinning with height, brighter towards the sun (single scattering).

    density per metre at height 0, falloff per metre of height. Source: the closed form of exponential height fog.
    """
    distance = np.minimum(shot.distance, reach)
    rise = shot.rays[..., 1]
    if falloff:
        slope = np.where(np.abs(rise * falloff) < 1e-6, 1e-6, rise * falloff)
        depth = density * np.exp(-falloff * shot.eye[1]) * (1 - np.exp(-np.clip(slope * distance, -30, 30))) / slope
    else:
        depth = density * distance
    through = np.exp(-np.clip(depth, 0, 50))[..., None]
    veil = np.asarray(colour, float)
    if sun is not None:
        toward = np.clip(shot.rays @ (np.asarray(sun) / np.linalg.norm(sun)), 0, 1)[..., None]
        veil = veil + np.asarray(sun_colour) * (0.3 * toward**4 + 0.7 * toward**40)
    return shot.light * through + veil * (1 - through)


def glare(light: np.ndarray, amount: float = 0.03, sizes=(0.004, 0.016, 0.06)) -> np.ndarray:
    """Scatter in the lens: a share of the light spread over wide Gaussians; sizes are fractions of the height."""
    from scipy.ndimage import gaussian_filter

    spread = sum(gaussian_filter(light, (size * light.shape[0], size * light.shape[0], 0)) for size in sizes)
    return light * (1 - amount) + amount * spread / len(sizes)
