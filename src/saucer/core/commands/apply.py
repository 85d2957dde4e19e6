"""`apply LUT-OR-LOOK PICTURE -o OUT`: a picture through a LUT or look, at full size and depth."""

from __future__ import annotations

import argparse
from collections.abc import Mapping
from pathlib import Path

from saucer.core.colour.encodings import Encoding, encoding
from saucer.core.commands.files import Commands, load, require_file
from saucer.core.engine.grade import Grade, grade_file
from saucer.core.errors import LookError
from saucer.core.look.bundle import Bundle


def _apply(given: argparse.Namespace) -> None:
    through = load(given.through)
    own: Mapping[str, Encoding] = {}
    if isinstance(through, Bundle):
        if given.expects or given.gives:
            raise LookError(given.through.name, "a look declares its own encodings; --expects and --gives are for LUT files")
        grade, own = Grade.of_look(through.look, given.strength, through.luts), through.look.own
    else:
        expects = encoding(given.expects or "srgb", "--expects")
        grade = Grade.of_lut(through, expects, encoding(given.gives, "--gives") if given.gives else expects, given.strength)
    source = encoding(given.picture_encoding, "--picture-encoding", own) if given.picture_encoding else grade.expects
    target = encoding(given.output_encoding, "--output-encoding", own) if given.output_encoding else grade.gives
    grade_file(grade, require_file(given.picture), given.output, source, target)


def _share(text: str) -> float:
    value = float(text)
    if not 0 <= value <= 1:
        raise argparse.ArgumentTypeError(f"must be from 0 to 1, got {text}")
    return value


def add(commands: Commands) -> None:
    lay = commands.add_parser("apply", help="put a picture through a LUT or look, at full size and depth")
    lay.add_argument("through", metavar="lut-or-look", type=Path)
    lay.add_argument("picture", type=Path)
    lay.add_argument("-o", "--output", type=Path, required=True)
    lay.add_argument("--strength", type=_share, default=1.0, help="0 to 1")
    for option, what in (
        ("--picture-encoding", "what the picture is encoded in (default: what the LUT or look expects)"),
        ("--output-encoding", "what the result is encoded in (default: what the LUT or look gives)"),
        ("--expects", "what a LUT file expects (default srgb)"),
        ("--gives", "what a LUT file gives (default: what it expects)"),
    ):
        lay.add_argument(option, help=f"{what}; see `encodings`")
    lay.set_defaults(run=_apply)
