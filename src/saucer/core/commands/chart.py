"""`chart new` and `chart read`: the round trip through another program."""

from __future__ import annotations

import argparse
import json
from pathlib import Path

from saucer.core.bake.bake import Words
from saucer.core.commands.files import Commands, require_file, say_lost, write_bytes
from saucer.core.errors import LutError
from saucer.core.files.fitting import write_lut
from saucer.core.files.format import Options
from saucer.core.files.registry import format_for
from saucer.core.lut.health import examine
from saucer.core.making.roundtrip.chart import new_chart
from saucer.core.making.roundtrip.reading import Expected, ReadBack, read_chart
from saucer.core.pictures.io import kind_of_name

MEASURES = ("grain", "vignette", "edge", "ripple", "twins")


def _new(given: argparse.Namespace) -> None:
    if kind_of_name(given.output) not in ("png", "tiff"):
        raise LutError(given.output.name, "charts are written as PNG or TIFF")
    write_bytes(
        new_chart(given.kind, given.size, given.depth, given.patch, given.output.suffix.lower(), given.layout), given.output
    )


def _described(back: ReadBack) -> dict[str, object]:
    seen = back.measured
    return {
        "chart": back.kind, "size": back.size, "depth": back.depth, "verdict": back.verdict,
        "found": [{"id": one.id, "codes": round(one.codes, 2), "sentence": one.sentence} for one in back.found],
        **({"measured": {name: round(getattr(seen, name), 3) for name in MEASURES}} if seen else {}),
        "health": examine(back.smooth).summary,
    }  # fmt: skip


def _read(given: argparse.Namespace) -> None:
    require_file(given.picture)
    expected = Expected(given.kind, given.size, given.patch, given.layout) if given.kind else None
    back = read_chart(given.picture, given.picture.name, expected)
    found = _described(back)
    if given.output:
        lut = back.lut if given.raw else back.smooth
        words = Words(note=f"Read back from a {back.kind} chart; {back.verdict}")
        titled = lut.titled(given.picture.stem, (f"Note: {words.note}",))
        made = write_lut(titled, format_for(given.output.name, given.format), Options(suffix=given.output.suffix.lower()))
        write_bytes(made.data, given.output)
        say_lost(made)
    if given.json:
        print(json.dumps(found, indent=2))
        return
    print(f"{back.kind} chart of {back.size} colours a side, {back.depth}")
    for line in back.verdict.split("; "):
        print(line)
    print(f"health: {found['health']}")


def add(commands: Commands) -> None:
    chart = commands.add_parser("chart", help="neutral charts for other programs to recolour, and reading them back")
    actions = chart.add_subparsers(dest="action", required=True)
    make = actions.add_parser("new", help="write a neutral chart")
    make.add_argument("-o", "--output", type=Path, required=True, help="a PNG or TIFF file")
    look = actions.add_parser("read", help="read a recoloured chart back as a LUT")
    look.add_argument("picture", type=Path)
    look.add_argument("-o", "--output", type=Path, help="write the LUT here")
    look.add_argument("--raw", action="store_true", help="as it stands, without taking out what got in")
    look.add_argument("--format", help="of the LUT; by its suffix without")
    look.add_argument("--json", action="store_true")
    for one, needed in ((make, True), (look, False)):
        words = "twin: every colour twice, shows what else got in" if needed else "of the chart that was made, if its strip is lost"
        one.add_argument("--kind", choices=("twin", "plain"), default="twin" if needed else None, help=words)
        one.add_argument("--size", type=int, default=17, help="colours a side: 5 to 65; of a plain chart a square number")
        one.add_argument("--patch", type=int, default=8, help="pixels of a twin chart's patches, 4 to 16")
        one.add_argument("--layout", choices=("hald", "tiles", "strip"), default="hald", help="of a plain chart")
    make.add_argument("--depth", type=int, choices=(8, 16), default=16)
    make.set_defaults(run=_new)
    look.set_defaults(run=_read)
