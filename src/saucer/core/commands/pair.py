"""`pair ORIGINAL RECOLOURED -o OUT`: a LUT from two pictures."""

from __future__ import annotations

import argparse
from pathlib import Path

from saucer.core.colour.encodings import encoding
from saucer.core.commands.files import Commands, require_file, say_lost, write_bytes
from saucer.core.files.fitting import write_lut
from saucer.core.files.format import Options
from saucer.core.files.registry import format_for
from saucer.core.making.pair import fit_files


def _pair(given: argparse.Namespace) -> None:
    for path in (given.original, given.recoloured):
        require_file(path)
    form = format_for(given.output.name, given.format)
    fit = fit_files(given.original, given.recoloured, encoding(given.encoding, "--encoding"), given.size)
    residual = f"CIEDE2000 {fit.residual.mean:.2f} mean, {fit.residual.p95:.2f} p95"
    note = f"Fitted to {given.original.name} and {given.recoloured.name}: residual {residual}"
    words = (note, f"Expects {given.encoding}, gives {given.encoding}")
    titled = fit.lut.titled(given.title or given.recoloured.stem, words)
    made = write_lut(titled, form, Options(suffix=given.output.suffix.lower()))
    write_bytes(made.data, given.output)
    print(f"residual   CIEDE2000 {fit.residual.mean:.2f} mean, {fit.residual.p95:.2f} p95, {fit.residual.largest:.2f} largest")
    print(f"coverage   {fit.coverage:.1%} of the nodes have evidence; elsewhere the LUT is as smooth as it can be")
    if fit.moved > 0.01:
        print(f"warning    {fit.moved:.1%} of the pixels changed in a way that no LUT can explain")
    say_lost(made)


def add(commands: Commands) -> None:
    make = commands.add_parser("pair", help="fit a LUT to an original and its recoloured copy")
    make.add_argument("original", type=Path)
    make.add_argument("recoloured", type=Path)
    make.add_argument("-o", "--output", type=Path, required=True)
    make.add_argument("--encoding", default="srgb", help="of both pictures; see `encodings`")
    make.add_argument("--size", type=int, default=33, help="nodes a side, 5 to 65")
    make.add_argument("--title", default="")
    make.add_argument("--format", help="by the suffix of the output without")
    make.set_defaults(run=_pair)
