"""`standin editor IN OUT`: a simulated outside editor, to try a round trip with."""

from __future__ import annotations

import argparse
from pathlib import Path

from saucer.core.commands.files import Commands, require_file
from saucer.core.making.roundtrip.standin import Editor, edit


def _editor(given: argparse.Namespace) -> None:
    require_file(given.source)
    edit(
        Editor(not given.no_recolour, given.grain, given.vignette, given.sharpen, given.jpeg, given.resize),
        given.source,
        given.target,
    )


def add(commands: Commands) -> None:
    stand = commands.add_parser("standin", help="stand-ins for other programs, to try things with")
    actions = stand.add_subparsers(dest="action", required=True)
    editor = actions.add_parser("editor", help="recolour a picture as an outside editor would, and on request spoil it")
    editor.add_argument("source", type=Path)
    editor.add_argument("target", type=Path)
    editor.add_argument("--no-recolour", action="store_true", help="leave the colours as they are")
    editor.add_argument("--grain", type=float, default=0.0, help="amount, 0 to 1")
    editor.add_argument("--vignette", type=float, default=0.0, help="amount, 0 to 1")
    editor.add_argument("--sharpen", type=float, default=0.0, help="times, 0 to 4")
    editor.add_argument("--jpeg", type=int, default=0, help="quality 1 to 100; 0 writes what the target's suffix says")
    editor.add_argument("--resize", type=float, default=1.0, help="scale down by this factor and back up")
    editor.set_defaults(run=_editor)
