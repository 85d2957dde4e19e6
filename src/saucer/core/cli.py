"""The command line without a server: bake, apply, inspect, encodings, losses, schema, and those in `commands`.

Exit 0: done; 1: the input is bad, one line on stderr, no output file; 2: wrong usage.
"""

from __future__ import annotations

import argparse
import contextlib
import json
import os
import signal
import sys
from collections.abc import Iterator, Mapping, Sequence
from pathlib import Path
from typing import Any

import numpy as np

from saucer.core import fingerprint
from saucer.core.bake import Part, Words, bake_file, between, part_of, words_left_out
from saucer.core.bundle import ZIP, Bundle, read_bundle
from saucer.core.colour.conversion import convert
from saucer.core.colour.encodings import ENCODINGS, Encoding, encoding
from saucer.core.commands import chart, pair, standin, tool
from saucer.core.commands import convert as convert_files
from saucer.core.commands.paths import read_bytes, write_bytes
from saucer.core.errors import LookError, SaucerError
from saucer.core.files import Options, format_for, formats, read_lut
from saucer.core.grade import Grade, grade_file, proxy
from saucer.core.guessing import guess
from saucer.core.health import examine
from saucer.core.junctions import ends_of
from saucer.core.look import walk
from saucer.core.losses import losses
from saucer.core.lut.apply import apply_lut
from saucer.core.lut.table import Lut
from saucer.core.pictures import Picture, inspect_picture, sniff, write_picture
from saucer.core.schema import text as schema_text
from saucer.core.spatial import spatial_kinds
from saucer.core.steps import step_kinds


def _load(path: Path) -> Lut | Bundle:
    data = read_bytes(path)
    if data.startswith(ZIP) or data.lstrip(b"\xef\xbb\xbf \t\r\n")[:1] == b"{":
        return read_bundle(data, path.name, path.parent)
    return read_lut(data, path.name)[0]


def _load_look(path: Path) -> Bundle:
    return read_bundle(read_bytes(path), path.name, path.parent)


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
    bundle = _load_look(given.look)
    part = _part(given)
    look = between(part_of(bundle.look, part, bundle.luts), given.expects, given.gives)
    left_out = words_left_out(bundle.look, part)
    form = format_for(given.output.name, given.format)
    words = Words(given.title or bundle.look.name or given.look.stem, given.author, given.rights, given.note)
    made = bake_file(look, form, given.size, words, Options(given.depth, given.output.suffix.lower()), bundle.luts, part, left_out)
    write_bytes(made.data, given.output)
    for left in left_out:
        print(f"left out, because no LUT can hold it: {left}")
    convert_files.say_lost(made)


def _apply(given: argparse.Namespace) -> None:
    through = _load(given.through)
    own: Mapping[str, Encoding] = {}
    if isinstance(through, Bundle):
        if given.expects or given.gives:
            raise LookError(given.through.name, "a look declares its own encodings; --expects and --gives are for LUT files")
        grade, own = Grade.of_look(through.look, given.strength, through.luts), through.look.own
    else:
        expects = encoding(given.expects or "srgb", "--expects")
        grade = Grade.of_lut(through, expects, encoding(given.gives, "--gives") if given.gives else expects, given.strength)
    source = encoding(given.picture_encoding, "--picture-encoding", own) if given.picture_encoding else grade.expects
    if not given.picture.is_file():
        raise SaucerError(str(given.picture), "no such file")
    target = encoding(given.output_encoding, "--output-encoding", own) if given.output_encoding else grade.gives
    grade_file(grade, given.picture, given.output, source, target)


def _describe(path: Path) -> dict[str, Any]:
    with path.open("rb") as file:
        head = file.read(16)
    if sniff(head):
        info = inspect_picture(path)
        return {
            "what": "picture",
            "kind": info.kind,
            "width": info.width,
            "height": info.height,
            "channels": info.channels,
            "depth": info.depth,
        }
    data = read_bytes(path)
    through = _load(path)
    if isinstance(through, Bundle):
        look = through.look
        kinds = step_kinds() | spatial_kinds()
        ends = ends_of(look, through.luts)
        changes = {one.path: f", {one.before} to {one.after}" if one.before != one.after else "" for one in ends.steps}
        steps = [
            f"{p} {step.kind}: {kinds[step.kind].summary(step) if step.kind in kinds else f'{len(step.steps)} steps'}{changes[p]}"
            for p, step in walk(look.steps)
        ]
        return {
            "what": "look",
            "luts": sorted(through.files),
            "name": look.name,
            "input": look.input,
            "output": look.output,
            "strength": look.strength,
            "steps": steps,
            "content": look.content_hash,
            **({"problem": ends.problem} if ends.problem else {}),
        }
    lut, form = read_lut(data, path.name)
    grey = np.repeat(np.linspace(0, 1, 5, dtype=np.float32)[:, None], 3, axis=1)
    parts = lut.tables or [apply_lut(lut, grey)]
    found, guessed = examine(lut), guess(lut, path.stem)
    return {
        "what": "LUT", "format": form.id, "kind": lut.kind, "size": lut.size, "title": lut.title, "domain": lut.domain,
        "lowest": float(min(part.min() for part in parts)), "highest": float(max(part.max() for part in parts)),
        "grey": [[round(float(v), 5) for v in row] for row in apply_lut(lut, grey)], "comments": list(lut.comments),
        "expects": f"{guessed.expects} ({guessed.how}: {guessed.reason})", "gives": guessed.gives,
        "health": [
            {"id": one.id, "level": one.level, "number": round(one.number, 4), "sentence": one.sentence, "advice": one.advice}
            for one in found.findings
        ],
    }  # fmt: skip


def _inspect(given: argparse.Namespace) -> None:
    try:
        found = _describe(given.file)
    except OSError as error:
        raise SaucerError(str(given.file), (error.strerror or str(error)).lower()) from None
    if given.disc:
        if found["what"] == "picture":
            raise SaucerError(given.file.name, "a picture has no fingerprint")
        through = _load(given.file)
        srgb = ENCODINGS["srgb"]
        if isinstance(through, Bundle):
            disc = fingerprint.of_look(through.look, 512, through.luts)
        else:
            disc = fingerprint.of_lut(through, srgb, srgb, 512)
        values = disc.astype(np.float32) / 255
        write_picture(Picture(np.ascontiguousarray(values[..., :3]), "u8", values[..., 3]), given.disc)
    if given.json:
        print(json.dumps(found, indent=2))
        return
    for key, value in found.items():
        if key != "health":
            print(f"{key:10} {value}")
    for one in found.get("health", []):
        print(f"{'health':10} {one['level']:5} {one['sentence']} {one['advice']}".rstrip())


def _encodings(given: argparse.Namespace) -> None:
    if given.json:
        rows = [
            {"id": e.id, "name": e.name, "referred": e.referred, "linear": e.linear, "source": e.source} for e in ENCODINGS.values()
        ]
        print(json.dumps(rows, indent=2))
        return
    for item in ENCODINGS.values():
        print(f"{item.id:14} {item.name:28} {item.referred:8} {item.source}; primaries {item.primaries.source}")


def _losses(given: argparse.Namespace) -> None:
    bundle = _load_look(given.look)
    look = bundle.look
    if not given.picture.is_file():
        raise SaucerError(str(given.picture), "no such file")
    source = (
        encoding(given.picture_encoding, "--picture-encoding", look.own) if given.picture_encoding else look.encoding(look.input)
    )
    pixels, _ = proxy(given.picture, source, 960, 540)
    found = losses(look, convert(pixels, source, look.encoding(look.input)), bundle.luts)
    if given.json:
        print(json.dumps([vars(loss) for loss in found], indent=2))
        return
    names = {path: step.name or step.kind for path, step in walk(look.steps)}
    print(f"{'step':34} {'encoding':14} {'clipped':>8} {'here':>7} {'merged':>7}")
    for loss in found:
        line = f"{loss.path} {names[loss.path]}"
        print(f"{line:34} {loss.encoding:14} {loss.clipped:8.2%} {loss.clipped_here:7.2%} {loss.merged:7.2%}")


def _schema(given: argparse.Namespace) -> None:
    print(schema_text(), end="")


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="saucer", description="Colour looks and LUTs without a server.")
    commands = parser.add_subparsers(dest="command", required=True)
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
    make.add_argument("--steps", default="", metavar="K-M", help="only these top-level steps, counted from 1")
    make.add_argument("--group", default="", metavar="PATH", help="only this group or step, e.g. steps[1]")
    make.add_argument("--format", choices=sorted(formats()), help="by the suffix of the output without")
    make.set_defaults(run=_bake)
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
    look_at = commands.add_parser("inspect", help="say what a LUT, look or picture file holds")
    look_at.add_argument("file", type=Path)
    look_at.add_argument("--json", action="store_true")
    look_at.add_argument("--disc", type=Path, help="also write its fingerprint to this picture")
    look_at.set_defaults(run=_inspect)
    for module in (convert_files, tool, chart, pair, standin):
        module.add(commands)
    listed = commands.add_parser("encodings", help="list the encodings and where they are published")
    listed.add_argument("--json", action="store_true")
    listed.set_defaults(run=_encodings)
    lost = commands.add_parser("losses", help="say what detail of a picture each step of a look destroys")
    lost.add_argument("look", type=Path)
    lost.add_argument("picture", type=Path)
    lost.add_argument("--picture-encoding", help="what the picture is encoded in (default: what the look expects); see `encodings`")
    lost.add_argument("--json", action="store_true")
    lost.set_defaults(run=_losses)
    commands.add_parser("schema", help="print the JSON Schema of the look file").set_defaults(run=_schema)
    return parser


def _share(text: str) -> float:
    value = float(text)
    if not 0 <= value <= 1:
        raise argparse.ArgumentTypeError(f"must be from 0 to 1, got {text}")
    return value


@contextlib.contextmanager
def _quiet_libraries() -> Iterator[None]:
    """Picture libraries print their own complaints to file descriptor 2; ours is the one line that a person should read."""
    sys.stderr.flush()
    kept = os.dup(2)
    nowhere = os.open(os.devnull, os.O_WRONLY)
    try:
        os.dup2(nowhere, 2)
        yield
    finally:
        os.dup2(kept, 2)
        os.close(kept)
        os.close(nowhere)


def main(arguments: Sequence[str] | None = None) -> int:
    signal.signal(signal.SIGPIPE, signal.SIG_DFL)  # ending quietly when `| head` has read enough, as other commands do
    given = _parser().parse_args(arguments)
    problem: SaucerError | None = None
    with _quiet_libraries():
        try:
            given.run(given)
        except SaucerError as error:
            problem = error
    if problem is not None:
        print(f"saucer: {problem}", file=sys.stderr)
    return 0 if problem is None else 1


if __name__ == "__main__":
    raise SystemExit(main())
