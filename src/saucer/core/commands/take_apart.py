"""`take-apart LUT -o look.json`: a LUT as a look of steps that can be edited, and a LUT of what they do not explain beside it."""

from __future__ import annotations

import argparse
from pathlib import Path

from saucer.core.bake.fidelity import Spread
from saucer.core.colour.encodings import encoding
from saucer.core.commands.files import Commands, load, write_bytes
from saucer.core.errors import LutError
from saucer.core.files.formats import cube
from saucer.core.files.guessing import guess
from saucer.core.look.bundle import Bundle
from saucer.core.look.model import look_from, look_text
from saucer.core.making.apart.apart import take_apart
from saucer.core.making.apart.whole import content_of
from saucer.core.steps.kinds import title_of


def _share(text: str) -> float:
    value = float(text)
    if not 0 <= value <= 1:
        raise argparse.ArgumentTypeError(f"must be from 0 to 1, got {text}")
    return value


def _take_apart(given: argparse.Namespace) -> None:
    lut = load(given.lut)
    if isinstance(lut, Bundle):
        raise LutError(given.lut.name, "is a look: it is made of steps already")
    guessed = guess(lut, given.lut.stem)
    expects = encoding(given.expects or guessed.expects, "--expects")
    gives = encoding(given.gives or (given.expects or guessed.gives), "--gives")
    apart = take_apart(lut, expects, gives, given.simple, given.view)
    rest = given.output.with_name(f"{given.output.stem}-rest.cube")
    content = content_of(apart, expects, gives, given.view, {"file": rest.name})
    look = look_from(
        {"name": lut.title or given.lut.stem, "input": expects.id, "output": gives.id, "view": given.view, "steps": content}
    )
    write_bytes(cube.write(apart.rest), rest)
    write_bytes(look_text(look).encode(), given.output)
    if not given.expects:
        print(f"taken as    from {expects.id} to {gives.id} ({guessed.how}: {guessed.reason}); --expects and --gives say otherwise")
    for step, share in zip(apart.steps, apart.shares, strict=True):
        print(f"{title_of(step):<16}{share:5.2f} of CIEDE2000 without it")
    for what, spread in (("doing nothing", apart.untouched), ("the steps", apart.explained), ("with the rest", apart.whole)):
        print(f"{what:<16}{_said(spread)}")


def _said(spread: Spread) -> str:
    return f"CIEDE2000 {spread.mean:.2f} mean, {spread.p95:.2f} p95, {spread.largest:.2f} largest from the LUT"


def add(commands: Commands) -> None:
    apart = commands.add_parser("take-apart", help="a LUT as steps that can be edited, and a LUT of what they do not explain")
    apart.add_argument("lut", type=Path)
    apart.add_argument("-o", "--output", type=Path, required=True, help="the look; the LUT of the rest is written beside it")
    apart.add_argument(
        "--simple", type=_share, default=0.3, help="0 as close as it can be to 1 only what matters most (default 0.3)"
    )
    apart.add_argument("--expects", help="what the LUT expects, where its file and name do not say it; see `encodings`")
    apart.add_argument("--gives", help="what it gives (default: what it expects)")
    apart.add_argument("--view", choices=("soft", "plain"), default="soft", help="by which a scene's light is brought to a display")
    apart.set_defaults(run=_take_apart)
