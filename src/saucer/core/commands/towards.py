"""`towards REFERENCE PICTURES -o look.json`: a look that brings pictures towards the colours of another one."""

from __future__ import annotations

import argparse
from pathlib import Path
from typing import get_args

import numpy as np

from saucer.core.colour.conversion import convert
from saucer.core.colour.encodings import ENCODINGS, Encoding, encoding
from saucer.core.colour.rendering import View
from saucer.core.commands.believed import Believed
from saucer.core.commands.files import Commands, require_file, write_bytes
from saucer.core.errors import PictureError
from saucer.core.look.model import look_from, look_text
from saucer.core.making.towards.towards import Proposal, What, propose
from saucer.core.making.towards.whole import TITLES, group_of, words_of
from saucer.core.pictures.scale import make_proxy

SRGB, REC709 = ENCODINGS["srgb"], ENCODINGS["rec709"]
SMALL = (480, 270)


def _towards(given: argparse.Namespace) -> None:
    named = encoding(given.picture_encoding, "--picture-encoding") if given.picture_encoding else None
    believed, view = Believed(named, SRGB), given.view
    encodings = {believed.of_picture(require_file(one)) for one in given.pictures}
    if len(encodings) > 1:
        raise PictureError(
            "pictures", f"are in several encodings ({', '.join(sorted(one.id for one in encodings))}); one look takes one"
        )
    (source,) = encodings
    display = source if source.referred == "display" else REC709
    pictures = [_read(one, source, display, view) for one in given.pictures]
    reference = _read(given.reference, Believed(None, SRGB).of_picture(require_file(given.reference)), SRGB, view)
    found = {one.what: one for one in propose(pictures, display, np.clip(reference, 0, 1), given.tolerance, view)}
    chosen = found.get(given.what)
    for one in found.values():
        _say(one, chosen is one)
    if chosen is None:
        raise PictureError(given.reference.name, "has nothing of this that would bring the pictures nearer to it")
    for words in words_of(chosen, pictures, display):
        print(f"  {words}")
    steps = [{"kind": "convert", "to": display.id, "rendering": view}] if source != display else []
    group = group_of(chosen, given.reference.stem, display, display, view)
    content = {"name": group["name"], "input": source.id, "output": display.id, "view": view, "steps": [*steps, group]}
    write_bytes(look_text(look_from(content)).encode(), given.output)


def _read(path: Path, source: Encoding, target: Encoding, view: View) -> np.ndarray:
    pixels, _ = make_proxy(path, source, *SMALL)
    return np.ascontiguousarray(np.clip(convert(pixels, source, target, view), 0, 1), np.float32)


def _say(one: Proposal, is_chosen: bool) -> None:
    skin = f", skin turns by {one.skin:+.0f} degrees" if one.skin else ""
    print(f"{'*' if is_chosen else ' '} {TITLES[one.what]:<16}{one.gone * 100:3.0f} % of the way{skin}")


def _degrees(text: str) -> float:
    value = float(text)
    if not 0 <= value <= 180:
        raise argparse.ArgumentTypeError(f"must be from 0 to 180, got {text}")
    return value


def add(commands: Commands) -> None:
    towards = commands.add_parser("towards", help="a look that brings pictures towards the colours of another one")
    towards.add_argument("reference", type=Path, help="the picture whose colours are wanted")
    towards.add_argument("pictures", type=Path, nargs="+", help="one picture, or several that one look is for")
    towards.add_argument("-o", "--output", type=Path, required=True, help="the look")
    towards.add_argument(
        "--what", choices=get_args(What), default="all", help="tone and colour (all), or one of them (default all)"
    )
    towards.add_argument("--tolerance", type=_degrees, default=10.0, help="degrees that skin may turn (default 10)")
    towards.add_argument("--picture-encoding", help="what the pictures are encoded in (default: what they say, else srgb)")
    towards.add_argument("--view", choices=get_args(View), default="soft", help="between a scene's light and a display's")
    towards.set_defaults(run=_towards)
