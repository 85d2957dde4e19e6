"""`convert IN OUT`: a LUT file in another format, with what it loses said and measured."""

from __future__ import annotations

import argparse
from pathlib import Path

from saucer.core.commands.files import Commands, read_bytes, say_lost, write_bytes
from saucer.core.errors import LutError
from saucer.core.files.corrections import corrections
from saucer.core.files.fitting import write_lut
from saucer.core.files.format import Options
from saucer.core.files.registry import format_for, formats, read_lut
from saucer.core.lut.table import Lut


def read_part(path: Path, part: str = "") -> Lut:
    """A LUT file; `part` is the id of one correction of a collection. Raises: LutError"""
    data = read_bytes(path)
    if part:
        if not any(formats()[one].sniff(data) for one in ("cc", "ccc", "cdl")):
            raise LutError(path.name, "holds one LUT only; leave --part out")
        try:
            found = {one.id: one.as_lut() for one in corrections(data)}
        except LutError as error:
            raise error.within(path.name) from None
        if part not in found:
            raise LutError(path.name, f'holds no correction "{part}"; it has {", ".join(found)}')
        return found[part]
    return read_lut(data, path.name)[0]


def _convert(given: argparse.Namespace) -> None:
    lut = read_part(given.source, given.part)
    form = format_for(given.target.name, given.format)
    made = write_lut(lut, form, Options(given.depth, given.target.suffix.lower()), given.size or None)
    write_bytes(made.data, given.target)
    say_lost(made)


def add(commands: Commands) -> None:
    turn = commands.add_parser("convert", help="write a LUT file in another format")
    turn.add_argument("source", type=Path)
    turn.add_argument("target", type=Path)
    turn.add_argument("--format", choices=sorted(formats()), help="by the suffix of the target without")
    turn.add_argument("--size", type=int, default=0, help="nodes a side (default: as it is, or as near as the format has)")
    turn.add_argument("--depth", type=int, default=0, help="bits of a format of whole numbers")
    turn.add_argument("--part", default="", help="the id of one correction of a collection")
    turn.set_defaults(run=_convert)
