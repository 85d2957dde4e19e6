"""`encodings`: every encoding and where it is published."""

from __future__ import annotations

import argparse
import json

from saucer.core.colour.encodings import ENCODINGS
from saucer.core.commands.files import Commands


def _encodings(given: argparse.Namespace) -> None:
    if given.json:
        rows = [
            {"id": e.id, "name": e.name, "referred": e.referred, "linear": e.linear, "source": e.source} for e in ENCODINGS.values()
        ]
        print(json.dumps(rows, indent=2))
        return
    for item in ENCODINGS.values():
        print(f"{item.id:14} {item.name:28} {item.referred:8} {item.source}; primaries {item.primaries.source}")


def add(commands: Commands) -> None:
    listed = commands.add_parser("encodings", help="list the encodings and where they are published")
    listed.add_argument("--json", action="store_true")
    listed.set_defaults(run=_encodings)
