"""`schema`: the JSON Schema of the look file."""

from __future__ import annotations

import argparse

from saucer.core.commands.files import Commands
from saucer.core.look.schema import schema_text


def _schema(given: argparse.Namespace) -> None:
    print(schema_text(), end="")


def add(commands: Commands) -> None:
    commands.add_parser("schema", help="print the JSON Schema of the look file").set_defaults(run=_schema)
