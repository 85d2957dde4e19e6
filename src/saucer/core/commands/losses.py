"""`losses LOOK PICTURE`: what detail of a picture each step of a look destroys."""

from __future__ import annotations

import argparse
import json
from pathlib import Path
from typing import get_args

from saucer.core.colour.conversion import convert
from saucer.core.colour.encodings import encoding
from saucer.core.colour.rendering import View
from saucer.core.commands.files import Commands, add_member, load_look, require_file
from saucer.core.engine.plan import prepare
from saucer.core.pictures.scale import make_proxy
from saucer.core.reports.losses import find_losses


def _losses(given: argparse.Namespace) -> None:
    bundle = load_look(given.look, given.member)
    look = bundle.look.model_copy(update={"view": given.view}) if given.view else bundle.look
    plan = prepare(look, bundle.luts)
    named = given.picture_encoding
    source = encoding(named, "--picture-encoding", look.own) if named else plan.source
    pixels, _ = make_proxy(require_file(given.picture), source, 960, 540)
    found = find_losses(plan, convert(pixels, source, plan.source, plan.view))
    if given.json:
        print(json.dumps([vars(loss) for loss in found], indent=2))
        return
    names = {stage.path: stage.step.name or stage.step.kind for stage in plan.walk()}
    print(f"{'step':34} {'encoding':14} {'clipped':>7} {'here':>7} {'fallen':>7} {'here':>7} {'merged':>7}")
    for loss in found:
        shares = (loss.clipped, loss.clipped_here, loss.fallen, loss.fallen_here, loss.merged)
        line = f"{loss.path} {names[loss.path]}"
        print(f"{line:34} {loss.encoding:14} " + " ".join(f"{share:7.2%}" for share in shares))


def add(commands: Commands) -> None:
    lost = commands.add_parser("losses", help="say what detail of a picture each step of a look destroys")
    lost.add_argument("look", type=Path)
    lost.add_argument("picture", type=Path)
    lost.add_argument("--picture-encoding", help="what the picture is encoded in (default: what the look expects); see `encodings`")
    lost.add_argument("--view", choices=get_args(View), help="between a scene's light and a display's (default: the look's)")
    add_member(lost)
    lost.add_argument("--json", action="store_true")
    lost.set_defaults(run=_losses)
