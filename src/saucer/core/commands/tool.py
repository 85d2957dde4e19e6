"""`tool NAME IN... -o OUT`: strength, compose, blend, invert, resize, domain, grey, and the mends of the health report."""

from __future__ import annotations

import argparse
from pathlib import Path
from typing import get_args

from saucer.core.commands.convert import read, say_lost
from saucer.core.commands.paths import write_bytes
from saucer.core.errors import LutError
from saucer.core.files import Options, format_for
from saucer.core.files.fitting import written
from saucer.core.health import Mend
from saucer.core.lut import tools
from saucer.core.lut.table import Lut
from saucer.core.mends import mend

NAMES = ("strength", "compose", "blend", "invert", "resize", "domain", "grey")


def _made(given: argparse.Namespace, luts: list[Lut]) -> Lut:
    one = luts[0]
    match given.name:
        case "strength":
            return tools.at_strength(one, given.amount)
        case "compose":
            return tools.composed(one, luts[1], given.size or None)
        case "blend":
            return tools.blended(one, luts[1], given.amount, given.size or None)
        case "resize":
            return tools.resized(one, given.size or tools.DEFAULT_SIZE)
        case "domain":
            return tools.with_domain(one, ((given.low,) * 3, (given.high,) * 3))
        case "grey":
            return tools.grey_axis(one, given.size or 1024)
        case "invert":
            found = tools.inverted(one, given.size or tools.DEFAULT_SIZE)
            print(f"undoes the LUT within {found.mean:.2g} on average, {found.largest:.2g} at most; "
                  f"{found.reached:.0%} of its nodes are colours the LUT can give")  # fmt: skip
            return found.lut
    return mend(one, given.name, given.size or tools.DEFAULT_SIZE)


def _tool(given: argparse.Namespace) -> None:
    wanted = 2 if given.name in ("compose", "blend") else 1
    if len(given.luts) != wanted:
        raise LutError("tool", f"{given.name} takes {wanted} LUT file{'s' if wanted > 1 else ''}, got {len(given.luts)}")
    luts = [read(path) for path in given.luts]
    result = _made(given, luts)
    words = f"{given.name} of {' and '.join(path.name for path in given.luts)}"
    titled = result.titled(luts[0].title, (*luts[0].comments, f"Made with Saucer: {words}"))
    form = format_for(given.output.name, given.format)
    made = written(titled, form, Options(given.depth, given.output.suffix.lower()))
    write_bytes(made.data, given.output)
    say_lost(made)


def add(commands: argparse._SubParsersAction[argparse.ArgumentParser]) -> None:
    work = commands.add_parser("tool", help="fade, join, blend, invert, resize, crop or mend LUT files")
    work.add_argument("name", choices=(*NAMES, *(name for name in get_args(Mend) if name not in NAMES)))
    work.add_argument("luts", type=Path, nargs="+", metavar="lut")
    work.add_argument("-o", "--output", type=Path, required=True)
    work.add_argument("--amount", type=float, default=0.5, help="strength, or the second LUT's share, 0 to 1")
    work.add_argument("--size", type=int, default=0, help="nodes a side, or samples of a grey axis")
    work.add_argument("--low", type=float, default=0.0, help="of the domain")
    work.add_argument("--high", type=float, default=1.0)
    work.add_argument("--format", help="by the suffix of the output without")
    work.add_argument("--depth", type=int, default=0)
    work.set_defaults(run=_tool)
