"""`stress LOOK PICTURES`: where a look breaks, over pictures, ramps of 10 bits and as a LUT; exit code 2 where a limit is passed."""

from __future__ import annotations

import argparse
import json
from collections.abc import Iterator
from dataclasses import asdict, replace
from pathlib import Path
from typing import get_args

from tqdm import tqdm

from saucer.core.colour.conversion import convert
from saucer.core.colour.encodings import encoding
from saucer.core.colour.rendering import View
from saucer.core.commands.believed import Believed
from saucer.core.commands.files import Commands, add_member, load_look, require_file
from saucer.core.engine.plan import Plan, prepare
from saucer.core.errors import PictureError, SaucerError
from saucer.core.look.tree import path_of
from saucer.core.pictures.io import inspect_picture
from saucer.core.pictures.scale import make_proxy
from saucer.core.reports.stress.limits import LIMITS, check_limit
from saucer.core.reports.stress.stress import SMALL, Break, Stress, Subject, find_breaks

PASSED = 2
"""Exit code where the look breaks."""


def _stress(given: argparse.Namespace) -> int:
    bundle = load_look(given.look, given.member)
    look = bundle.look.model_copy(update={"view": given.view}) if given.view else bundle.look
    plan = prepare(look, bundle.luts)
    named = encoding(given.picture_encoding, "--picture-encoding", look.own) if given.picture_encoding else None
    believed = Believed(named, plan.source, given.json)
    paths = _pictures(given.pictures, believed)
    limits = {**LIMITS, **dict(given.limit)}
    with tqdm(total=100, unit="%", disable=None, leave=False, dynamic_ncols=True) as bar:
        found = find_breaks(
            look, _subjects(paths, plan, believed), bundle.luts, limits, lambda share: _move(bar, share), len(paths)
        )
    if given.json:
        print(json.dumps(as_json(found, limits), indent=2))
    else:
        _say(found)
    return PASSED if found.breaks else 0


def _move(bar: tqdm, share: float) -> None:
    bar.update(round(share * 100) - bar.n)


def _pictures(given: list[Path], believed: Believed) -> list[Path]:
    """Those named, and every picture of the folders named; what is none is told. Raises: PictureError where there is none"""
    found = []
    for one in given:
        for path in sorted(one.iterdir()) if one.is_dir() else [require_file(one)]:
            try:
                if path.is_file():
                    inspect_picture(path)
                    found.append(path)
            except PictureError as error:
                if not one.is_dir():
                    raise
                believed.tell(path.name, f"left out: {error.problem}")
    if given and not found:
        raise PictureError(str(given[0]), "holds no picture that can be read")
    return found


def _subjects(paths: list[Path], plan: Plan, believed: Believed) -> Iterator[Subject]:
    for path in paths:
        source = believed.of_picture(path)
        pixels, _ = make_proxy(path, source, *SMALL)
        yield Subject(path.name, convert(pixels, source, plan.source, plan.view))


def as_json(found: Stress, limits: dict[str, float]) -> dict[str, object]:
    """What a pipeline reads: the breaks, the worst of every measure beside its limit, and LUT sizes."""
    return {
        "holds": not found.breaks,
        "pictures": found.pictures,
        "breaks": [_break_json(one) for one in found.breaks],
        "figures": {what: {"figure": round(figure, 4), "limit": limits[what]} for what, figure in found.figures.items()},
        "sizes": {str(size): round(value, 4) for size, value in found.sizes.items()},
    }


def _break_json(one: Break) -> dict[str, object]:
    remedy = one.remedy and {**asdict(one.remedy), "place": path_of(one.remedy.place)}
    return {**asdict(replace(one, remedy=None)), "figure": round(one.figure, 4), "times": round(one.times, 2), "remedy": remedy}


def _say(found: Stress) -> None:
    for one in found.breaks:
        where = f" ({one.place[0] * 100:.0f} % from the left, {one.place[1] * 100:.0f} % from the top)" if one.place else ""
        also = f", and {one.failing - 1} more" if one.failing > 1 else ""
        print(f"{one.what:<9}{one.times:5.1f} x  {one.words}; on {one.on}{where}{also}")
        if one.path:
            print(f"{'':17}by {one.path} {one.title}" + (f"; {one.remedy.words.lower()}" if one.remedy else ""))
    if not found.breaks:
        print(f"holds on {found.pictures} pictures, along ramps of 10 bits and as a LUT")


def _limit(text: str) -> tuple[str, float]:
    what, _, value = text.partition("=")
    try:
        most = float(value)
        check_limit(what, most)
    except ValueError:
        raise argparse.ArgumentTypeError(f'must be like clipped={LIMITS["clipped"]:g}, got "{text[:40]}"') from None
    except SaucerError as error:
        raise argparse.ArgumentTypeError(str(error)) from None
    return what, most


def add(commands: Commands) -> None:
    said = f"exit code {PASSED} where a limit is passed"
    stress = commands.add_parser("stress", help=f"where a look breaks, over pictures, 10-bit ramps and as a LUT; {said}")
    stress.add_argument("look", type=Path)
    stress.add_argument("pictures", type=Path, nargs="*", help="pictures, or folders of them; none: ramps and LUTs only")
    defaults = ", ".join(f"{what}={value:g}" for what, value in LIMITS.items())
    stress.add_argument(
        "--limit", type=_limit, action="append", default=[], metavar="WHAT=MOST", help=f"in place of one of: {defaults}"
    )
    stress.add_argument(
        "--picture-encoding", help="what the pictures are encoded in (default: what they say, else what the look expects)"
    )
    stress.add_argument("--view", choices=get_args(View), help="between a scene's light and a display's (default: the look's)")
    add_member(stress)
    stress.add_argument("--json", action="store_true")
    stress.set_defaults(run=_stress)
