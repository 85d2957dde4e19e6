"""`bake LOOK -o OUT`: a look file, or a part of it, made into a LUT file."""

from __future__ import annotations

import argparse
from collections.abc import Callable
from pathlib import Path

from saucer.core.bake.bake import Words, bake_file
from saucer.core.bake.part import Part, name_left_out, put_between, take_part
from saucer.core.commands.files import Commands, add_member, load_look, say_lost, write_bytes
from saucer.core.engine.lattice import HIGHEST_TOP, SHAPER, Shaper
from saucer.core.engine.plan import prepare
from saucer.core.errors import LookError
from saucer.core.files.format import Options
from saucer.core.files.registry import format_for, formats


def _part(given: argparse.Namespace) -> Part:
    if given.steps and given.group:
        raise LookError("--steps, --group", "give one of them")
    if not given.steps:
        return Part(path=given.group or "")
    first, _, last = given.steps.partition("-")
    try:
        return Part(int(first), int(last or first))
    except ValueError:
        raise LookError("--steps", f'must be K or K-M, counted from 1, got "{given.steps}"') from None


def _bake(given: argparse.Namespace) -> None:
    bundle = load_look(given.look, given.member)
    part = _part(given)
    look = put_between(take_part(bundle.look, part, bundle.luts), given.expects, given.gives)
    left_out = name_left_out(prepare(bundle.look, bundle.luts), part)
    form = format_for(given.output.name, given.format)
    words = Words(given.title or bundle.look.name or given.look.stem, given.author, given.rights, given.note)
    made = bake_file(
        look, form, given.size, words, Options(given.depth, given.output.suffix.lower()), bundle.luts, part, left_out,
        Shaper(given.light_top, given.light_toe),
    )  # fmt: skip
    write_bytes(made.data, given.output)
    for left in left_out:
        print(f"left out, because no LUT can hold it: {left}")
    say_lost(made)


def light(low: float, high: float) -> Callable[[str], float]:
    def read(text: str) -> float:
        value = float(text)
        if not low <= value <= high:
            raise argparse.ArgumentTypeError(f"must be {low:g} to {high:g}, got {text}")
        return value

    return read


def add(commands: Commands) -> None:
    make = commands.add_parser("bake", help="make a look file into a LUT file")
    make.add_argument("look", type=Path)
    make.add_argument("-o", "--output", type=Path, required=True)
    make.add_argument("--size", type=int, default=33, help="nodes a side, 2 to 129 (default 33)")
    make.add_argument("--title", default="")
    make.add_argument("--author", default="")
    make.add_argument("--rights", default="", help="who may use it")
    make.add_argument("--note", default="")
    make.add_argument("--depth", type=int, default=0, help="bits of a format of whole numbers")
    make.add_argument("--expects", default="", help="what the LUT is to expect; a conversion is put in front; see `encodings`")
    make.add_argument("--gives", default="", help="what the LUT is to give; a conversion is put behind")
    make.add_argument(
        "--light-top",
        type=light(1, HIGHEST_TOP),
        default=SHAPER.top,
        help="linear input: the brightest light that is not held (default 16)",
    )
    make.add_argument(
        "--light-toe", type=light(1e-5, 1), default=SHAPER.toe, help="linear input: nodes are even in stops above it (default 0.01)"
    )
    make.add_argument("--steps", default="", metavar="K-M", help="only these top-level steps, counted from 1")
    make.add_argument("--group", default="", metavar="PATH", help="only this group or step, e.g. steps[1]")
    add_member(make)
    make.add_argument("--format", choices=sorted(formats()), help="by the suffix of the output without")
    make.set_defaults(run=_bake)
