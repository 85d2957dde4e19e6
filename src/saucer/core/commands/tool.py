"""`tool NAME IN... -o OUT`: the tools on LUT files."""

from __future__ import annotations

import argparse
from pathlib import Path

from pydantic import ValidationError

from saucer.core.commands.convert import read_part
from saucer.core.commands.files import Commands, say_lost, write_bytes
from saucer.core.errors import LutError
from saucer.core.files.fitting import write_lut
from saucer.core.files.format import Options
from saucer.core.files.registry import format_for
from saucer.core.look.problems import describe
from saucer.core.making.tools import TOOLS, ToolInput, ToolSettings, find_tool


def _tool(given: argparse.Namespace) -> None:
    tool = find_tool(given.name)
    if len(given.luts) != tool.inputs:
        raise LutError("tool", f"{tool.id} takes {tool.inputs} LUT file{'s' if tool.inputs > 1 else ''}, got {len(given.luts)}")
    try:
        settings = ToolSettings(amount=given.amount, size=given.size or None, low=given.low, high=given.high)
    except ValidationError as error:
        raise LutError("tool", "; ".join(describe(error))) from None
    luts = [read_part(path) for path in given.luts]
    made = tool.use([ToolInput(lut, path.name) for lut, path in zip(luts, given.luts, strict=True)], settings)
    if made.words:
        print(made.words)
    words = f"{tool.id} of {' and '.join(path.name for path in given.luts)}"
    titled = made.lut.titled(luts[0].title, (*luts[0].comments, f"Made with Saucer: {words}"))
    form = format_for(given.output.name, given.format)
    written = write_lut(titled, form, Options(given.depth, given.output.suffix.lower()))
    write_bytes(written.data, given.output)
    say_lost(written)


def add(commands: Commands) -> None:
    work = commands.add_parser("tool", help="fade, join, blend, invert, resize, crop or repair LUT files")
    work.add_argument("name", choices=tuple(TOOLS))
    work.add_argument("luts", type=Path, nargs="+", metavar="lut")
    work.add_argument("-o", "--output", type=Path, required=True)
    work.add_argument("--amount", type=float, default=0.5, help="strength, or the second LUT's share, 0 to 1")
    work.add_argument("--size", type=int, default=0, help="nodes a side, or samples of a grey axis")
    work.add_argument("--low", type=float, default=0.0, help="of the domain")
    work.add_argument("--high", type=float, default=1.0)
    work.add_argument("--format", help="by the suffix of the output without")
    work.add_argument("--depth", type=int, default=0)
    work.set_defaults(run=_tool)
