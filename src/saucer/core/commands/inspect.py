"""`inspect FILE`: what a LUT, look or picture file holds."""

from __future__ import annotations

import argparse
import json
from pathlib import Path
from typing import Any

import numpy as np

from saucer.core.colour.encodings import ENCODINGS
from saucer.core.commands.files import Commands, is_look, read_bytes, require_file
from saucer.core.engine.plan import Stage, prepare
from saucer.core.errors import SaucerError
from saucer.core.files.format import Format
from saucer.core.files.guessing import guess
from saucer.core.files.registry import read_lut
from saucer.core.look.bundle import Bundle, read_bundle
from saucer.core.look.family import describe_member
from saucer.core.lut.apply import apply_lut
from saucer.core.lut.domain import ramp
from saucer.core.lut.health import examine
from saucer.core.lut.table import Lut
from saucer.core.pictures.io import Picture, inspect_picture, write_picture
from saucer.core.pictures.stored import sniff
from saucer.core.reports.fingerprint import draw_look, draw_lut

DISC = 512


def _describe_picture(path: Path) -> dict[str, Any]:
    return {"what": "picture"} | vars(inspect_picture(path))


def _describe_step(stage: Stage) -> str:
    summary = stage.kind.summary(stage.step) if stage.kind else f"{len(stage.inner)} steps"
    change = f", {stage.before.id} to {stage.after.id}" if stage.before.id != stage.after.id else ""
    return f"{stage.path} {stage.step.kind}: {summary}{change}"


def _describe_look(bundle: Bundle) -> dict[str, Any]:
    look, plan = bundle.look, prepare(bundle.look, bundle.luts)
    return {
        "what": "look", "luts": sorted(bundle.files), "name": look.name, "input": look.input, "output": look.output, "view": look.view,
        "strength": look.strength, "steps": [_describe_step(stage) for stage in plan.walk()], "content": look.content_hash,
        **({"family": {one.name: describe_member(look, one.name) for one in look.family}} if look.family else {}),
        **({"problem": plan.problem} if plan.problem else {}),
    }  # fmt: skip


def _describe_lut(lut: Lut, form: Format, name: str) -> dict[str, Any]:
    grey = ramp(5)
    parts = lut.tables or [apply_lut(lut, grey)]
    guessed = guess(lut, name)
    found = examine(lut, is_told=guessed.how == "declared")
    return {
        "what": "LUT", "format": form.id, "kind": lut.kind, "size": lut.size, "title": lut.title, "domain": lut.domain,
        "lowest": float(min(part.min() for part in parts)), "highest": float(max(part.max() for part in parts)),
        "grey": [[round(float(v), 5) for v in row] for row in apply_lut(lut, grey)], "comments": list(lut.comments),
        "expects": f"{guessed.expects} ({guessed.how}: {guessed.reason})", "gives": guessed.gives,
        "health": [
            {"id": one.id, "level": one.level, "number": round(one.number, 4), "sentence": one.sentence, "advice": one.advice}
            for one in found.findings
        ],
    }  # fmt: skip


def _draw(through: Lut | Bundle, path: Path) -> None:
    srgb = ENCODINGS["srgb"]
    disc = (
        draw_look(through.look, DISC, through.luts) if isinstance(through, Bundle) else draw_lut(through, srgb, srgb, DISC, "plain")
    )
    values = disc.astype(np.float32) / 255
    write_picture(Picture(np.ascontiguousarray(values[..., :3]), "u8", values[..., 3]), path)


def _inspect(given: argparse.Namespace) -> None:
    with require_file(given.file).open("rb") as file:
        head = file.read(16)
    if sniff(head):
        if given.disc:
            raise SaucerError(given.file.name, "a picture has no fingerprint")
        found = _describe_picture(given.file)
    else:
        data = read_bytes(given.file)
        through: Lut | Bundle
        if is_look(data):
            through = read_bundle(data, given.file.name, given.file.parent)
            found = _describe_look(through)
        else:
            through, form = read_lut(data, given.file.name)
            found = _describe_lut(through, form, given.file.stem)
        if given.disc:
            _draw(through, given.disc)
    if given.json:
        print(json.dumps(found, indent=2))
        return
    for key, value in found.items():
        if key not in ("health", "family"):
            print(f"{key:10} {value}")
    for name, lines in found.get("family", {}).items():
        print(f"{'family':10} {name}: {'; '.join(lines) or 'as the recipe'}")
    for one in found.get("health", []):
        print(f"{'health':10} {one['level']:5} {one['sentence']} {one['advice']}".rstrip())


def add(commands: Commands) -> None:
    look_at = commands.add_parser("inspect", help="say what a LUT, look or picture file holds")
    look_at.add_argument("file", type=Path)
    look_at.add_argument("--json", action="store_true")
    look_at.add_argument("--disc", type=Path, help="also write its fingerprint to this picture")
    look_at.set_defaults(run=_inspect)
