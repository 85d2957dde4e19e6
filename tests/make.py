"""Factories for tests: looks, LUTs, pictures, small and exact."""

from __future__ import annotations

import io
import struct
import zipfile
import zlib
from functools import cache
from pathlib import Path
from typing import Any

import numpy as np
from hypothesis import strategies as st
from PIL import Image
from pydantic import ValidationError

from saucer.core.engine.evaluate import evaluate as evaluate_plan
from saucer.core.engine.evaluate import sample_look as sample_plan
from saucer.core.engine.plan import prepare
from saucer.core.engine.rendering import EXACTLY, Sampling
from saucer.core.engine.rendering import render as render_plan
from saucer.core.files.formats import cube
from saucer.core.look.model import Look, look_from
from saucer.core.lut.domain import grid
from saucer.core.lut.table import Lattice, Lut
from saucer.core.pictures.io import Picture, write_picture
from saucer.core.pictures.stored import Depth
from saucer.core.steps.kinds import pixel_kinds, spatial_kinds
from saucer.core.steps.parameters import SETTINGS, StepParameters
from saucer.core.steps.registry import Frame, Luts, no_luts

BENT = [[0.0, 0.04], [0.3, 0.22], [0.7, 0.8], [1.0, 0.96]]
WARM = {"kind": "curves", "red": [[0, 0], [0.5, 0.58], [1, 1]], "blue": [[0, 0.1], [0.5, 0.45], [1, 0.85]]}


def a_look(*steps: dict[str, Any], **fields: Any) -> Look:
    return look_from({"format": "saucer-look", "version": 1, "steps": list(steps) or [WARM]} | fields)


def a_lut(size: int = 9, seed: int = 1, title: str = "") -> Lut:
    """A lattice that is no identity and not symmetric in any way."""
    rng = np.random.default_rng(seed)
    table = grid(size).reshape(size, size, size, 3) ** np.float32(1.1) + rng.normal(scale=0.03, size=(size,) * 3 + (3,))
    return Lut(lattice=Lattice(table.astype(np.float32)), title=title)


def random_pixels(height: int = 24, width: int = 40, seed: int = 5) -> np.ndarray:
    return np.random.default_rng(seed).random((height, width, 3), dtype=np.float32)


def a_picture(path: Path, depth: Depth = "u16", height: int = 24, width: int = 40, seed: int = 5) -> Path:
    write_picture(Picture(random_pixels(height, width, seed), depth), path)
    return path


SHA = "ab" * 32
# One setting of each per-pixel kind that changes something; a new kind adds its own here.
CHANGED: dict[str, dict[str, Any]] = {
    "curves": {"kind": "curves", "master": [[0, 0.1], [0.4, 0.3], [1, 0.9]]},
    "levels": {"kind": "levels", "master": {"input_black": 0.05, "gamma": 1.3}, "blue": {"output_black": 0.1}},
    "channel-mix": {"kind": "channel-mix", "red": [0.8, 0.3, -0.1], "offset": [0, 0.02, 0], "light": "linear"},
    "tone": {"kind": "tone", "exposure": 0.5, "contrast": 1.4, "toe": 0.4, "shoulder": -0.5, "brightness": -0.1},
    "white-balance": {"kind": "white-balance", "warm": 40, "tint": -0.004},
    "saturation": {"kind": "saturation", "factor": 1.3, "muted": 0.4},
    "hue-bands": {
        "kind": "hue-bands",
        "bands": [
            {"centre": c, "hue": h, "saturation": s, "lightness": li}
            for c, h, s, li in zip(
                (20, 65, 110, 150, 200, 260, 300, 335), (10, -20, 0, 30, -15, 0, 5, 0), (1.2, 1, 0.5, 1, 1.6, 0.8, 1, 0),
                (0.05, 0, -0.1, 0, 0.02, 0, 0, 0), strict=True,
            )
        ],
    },
    "colour-curves": {
        "kind": "colour-curves", "turn": [[15, 12], [80, -8], [200, 0], [330, 20]], "saturation": [[40, 1.4], [140, 0.6], [260, 1.1]],
        "lightness": [[30, 0.06], [250, -0.12]], "saturation_by_lightness": [[0.1, 0.4], [0.4, 1.2], [0.9, 0.8]],
    },
    "isolate-hue": {"kind": "isolate-hue", "centre": 30, "width": 70, "softness": 25, "others": 0.2},
    "split-tone": {
        "kind": "split-tone", "shadows": {"hue": 250, "amount": 0.05}, "highlights": {"hue": 80, "amount": 0.04, "lightness": 0.03},
        "all": {"hue": 10, "amount": 0.01}, "lean": 0.3, "overlap": 0.7,
    },
    "cdl": {"kind": "cdl", "slope": [1.1, 1, 0.9], "offset": [0.02, 0, -0.03], "power": [1.2, 0.9, 1], "saturation": 1.3},
    "wash": {"kind": "wash", "mode": "soft-light", "colour": [0.9, 0.4, 0.2]},
    "tone-wash": {
        "kind": "tone-wash", "mode": "overlay",
        "colours": [{"at": 0.1, "colour": [0.1, 0.2, 0.5]}, {"at": 0.5, "colour": [0.5, 0.4, 0.45]}, {"at": 0.9, "colour": [1, 0.9, 0.6]}],
    },
    "lut": {"kind": "lut", "sha256": SHA, "expects": "rec709", "gives": "rec709"},
    "convert": {"kind": "convert", "to": "acescct"},
    "limit": {"kind": "limit", "low": 0.1, "high": 0.8, "knee": 0.3, "keep": "hue"},
}  # fmt: skip
CHANGED_SPATIAL: dict[str, dict[str, Any]] = {
    "vignette": {"kind": "vignette", "amount": 0.8, "midpoint": 0.5, "roundness": 0.4},
    "graduated-wash": {"kind": "graduated-wash", "amount": 0.7, "colour": [0.2, 0.4, 0.9], "start": [0.1, 0], "end": [0.5, 0.8]},
    "soft-focus": {"kind": "soft-focus", "amount": 0.6, "radius": 0.03},
    "sharpen": {"kind": "sharpen", "amount": 1.5, "radius": 0.01, "threshold": 0.01},
    "bloom": {"kind": "bloom", "amount": 0.8, "threshold": 0.4, "radius": 0.04},
    "halation": {"kind": "halation", "amount": 1.5, "threshold": 0.3, "radius": 0.03},
    "grain": {"kind": "grain", "amount": 0.7, "size": 0.01, "colour": True, "seed": 5},
}


def LUTS(sha256: str) -> Lut:
    """The LUT that CHANGED names."""
    assert sha256 == SHA
    return _LUT


_LUT = a_lut(9)


@cache
def any_step(kind: str) -> st.SearchStrategy[StepParameters]:
    """Any allowed parameters of a kind, drawn from its own JSON Schema."""
    parameters = (pixel_kinds() | spatial_kinds())[kind].parameters
    schema = parameters.model_json_schema()
    fields = {name: _any_of(part, schema.get("$defs", {})) for name, part in schema["properties"].items()}
    fields |= {name: st.just(value) for name, value in _FIXED.get(kind, {}).items()}
    for name in SETTINGS[1:]:
        fields.pop(name)
    return st.fixed_dictionaries(fields).map(lambda content: _allowed(parameters, content)).filter(lambda step: step is not None)


_FIXED: dict[str, dict[str, Any]] = {
    "lut": {"sha256": SHA, "file": "", "expects": "rec709", "gives": "", "title": ""},
    "convert": {"to": "p3-theatre"},
}


def _allowed(parameters: type[StepParameters], content: dict[str, Any]) -> StepParameters | None:
    if parameters.__name__ == "Curves":
        content = content | {
            name: sorted({round(x, 2): [round(x, 2), y] for x, y in content[name]}.values())
            for name in ("master", "red", "green", "blue")
        }
    if parameters.__name__ == "ColourCurves":
        for name in ("turn", "saturation", "lightness", "saturation_by_lightness"):
            coarse = 0.05 if name == "saturation_by_lightness" else 5
            apart = {round(x / coarse): [round(x / coarse) * coarse, y] for x, y in content[name] if x / coarse < 71.4}
            content[name] = [apart[at] for at in sorted(apart)]
    if parameters.__name__ == "ToneWash":
        apart = {round(one["at"], 2): one | {"at": round(one["at"], 2)} for one in content["colours"]}
        content["colours"] = [apart[at] for at in sorted(apart)] if len(apart) > 1 else []
    if parameters.__name__ == "HueBands":
        begin = content["bands"][0]["centre"]
        for index, band in enumerate(content["bands"]):
            band["centre"] = (begin / 8 + 45 * index) % 360
    if parameters.__name__ == "Levels":
        for name in ("master", "red", "green", "blue"):
            ends = sorted((content[name]["input_black"], content[name]["input_white"]))
            content[name] |= {"input_black": ends[0], "input_white": min(2, ends[1] + 0.002)}
    if parameters.__name__ == "Limit" and content["low"] is not None and content["high"] is not None:
        content["low"], content["high"] = min(content["low"], content["high"]), max(content["low"], content["high"])
    try:
        return parameters.model_validate(content)
    except ValidationError:
        return None


def _any_of(part: dict[str, Any], definitions: dict[str, Any]) -> st.SearchStrategy[Any]:
    if "$ref" in part:
        part = definitions[part["$ref"].rsplit("/", 1)[-1]]
    if "const" in part:
        return st.just(part["const"])
    if "enum" in part:
        return st.sampled_from(part["enum"])
    if "anyOf" in part:
        return st.one_of(*(_any_of(one, definitions) for one in part["anyOf"]))
    match part.get("type"):
        case "number":
            high = part.get("maximum", part.get("exclusiveMaximum", 360) - 1e-3)
            # Six decimals, as people give them; subnormal numbers are no settings.
            inside = st.floats(part["minimum"], high).map(lambda v: min(max(round(v, 6), part["minimum"]), high))
            return inside | st.sampled_from([part["minimum"], high])
        case "integer":
            return st.integers(part["minimum"], part["maximum"])
        case "boolean":
            return st.booleans()
        case "null":
            return st.none()
        case "string":
            return st.just("")
        case "object":
            return st.fixed_dictionaries({name: _any_of(one, definitions) for name, one in part["properties"].items()})
        case "array":
            if "prefixItems" in part:
                return st.tuples(*(_any_of(one, definitions) for one in part["prefixItems"])).map(list)
            return st.lists(_any_of(part["items"], definitions), min_size=part.get("minItems", 0), max_size=part["maxItems"])
    raise AssertionError(f"no way to draw {part}")


def evaluate(look: Look, values: np.ndarray, steps: int | None = None, luts: Luts = no_luts) -> np.ndarray:
    """A look that is prepared for this once, or its first so many steps."""
    return evaluate_plan(prepare(look, luts).first(steps), values)


def sample_look(look: Look, size: int, steps: int | None = None, luts: Luts = no_luts) -> Lut:
    return sample_plan(prepare(look, luts).first(steps), size)


def render(
    look: Look, pixels: np.ndarray, frame: Frame | None = None, steps: int | None = None, luts: Luts = no_luts,
    sampling: Sampling = EXACTLY,
) -> np.ndarray:  # fmt: skip
    return render_plan(prepare(look, luts).first(steps), pixels, frame, sampling)


def png(path: Path, *chunks: tuple[bytes, bytes]) -> Path:
    """Four by four black pixels, with these chunks behind the header. Source: PNG specification, third edition, 5.3"""
    Image.fromarray(np.zeros((4, 4, 3), np.uint8)).save(path)
    data = path.read_bytes()
    made = b"".join(
        struct.pack(">I", len(content)) + name + content + struct.pack(">I", zlib.crc32(name + content)) for name, content in chunks
    )
    path.write_bytes(data[:33] + made + data[33:])
    return path


def a_pack(count: int, nodes: int = 9, seed: int = 0) -> bytes:
    """A zip of so many LUTs, each another one."""
    file = io.BytesIO()
    with zipfile.ZipFile(file, "w") as archive:
        for index in range(count):
            archive.writestr(f"{index}.cube", cube.write(a_lut(nodes, seed=seed + index)))
    return file.getvalue()
