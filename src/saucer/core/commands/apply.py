"""`apply LUT-OR-LOOK SOURCE -o OUT`: a picture, a folder of pictures, a numbered sequence or a clip, at full size and depth."""

from __future__ import annotations

import argparse
import re
from collections.abc import Callable, Iterator, Mapping
from contextlib import contextmanager
from dataclasses import dataclass, replace
from pathlib import Path
from typing import get_args

from tqdm import tqdm

from saucer.core.clips.coding import LUMA, Coding
from saucer.core.clips.decoding import NO_CLIP
from saucer.core.clips.reading import inspect_clip
from saucer.core.clips.sequences import Gaps, Sequence, find_sequences, require_whole
from saucer.core.clips.writing import KINDS, OFFERED
from saucer.core.colour.encodings import Encoding, encoding
from saucer.core.colour.rendering import View
from saucer.core.commands.believed import Believed
from saucer.core.commands.files import Commands, add_member, load, require_file
from saucer.core.engine.grade import Grade, grade_file
from saucer.core.engine.moving import grade_clip, kind_of_clip
from saucer.core.errors import LookError, LutError, PictureError
from saucer.core.look.bundle import Bundle
from saucer.core.look.model import Look, stopper_of
from saucer.core.pictures.io import inspect_picture
from saucer.core.pictures.raw import check_white
from saucer.core.pictures.scale import unheard
from saucer.core.pictures.stored import sniff
from saucer.core.reading.limits import LONGEST_SIDE
from saucer.core.steps.kinds import title_of

_HASHES = re.compile(r"#+")
NOT_RAW = "is no raw photograph, so that --raw-white changes nothing in it"


@dataclass(frozen=True)
class _Work:
    grade: Grade
    believed: Believed
    target: Encoding
    overwrite: bool
    said: Coding | None
    with_sound: bool
    codec: str
    lines: int
    constant: bool
    gaps: Gaps
    white: int | None

    def one(self, source: Path, target: Path, number: int = 0, report: Callable[[float], None] = unheard) -> None:
        """A picture. number: of the frame, for what moves from frame to frame"""
        self._require_room(source, target)
        encoding = self.believed.of_picture(source)
        if self.white is not None and inspect_picture(source).kind != "raw":
            self.believed.tell(source.name, NOT_RAW)
        done = grade_file(self.grade, source, target, encoding, self.target, number=number, report=report, white=self.white)
        if done.mended:
            tqdm.write(f"{source.name}: {done.mended} pixels were not finite; no number became 0, infinity 65504")
        for words in done.left_out:
            self.believed.tell(source.name, f"left out, because {target.suffix} files have no room for it: {words}")

    def clip(self, source: Path, target: Path) -> None:
        self._require_room(source, target)
        kind = KINDS[kind_of_clip(target, self.codec)]
        info = inspect_clip(source)
        encoding = self.believed.of_clip(source, info)
        said = self.said if info.coding is not None else None
        wide = f"that its pixels are {info.aspect} as wide as high is left out: {kind.suffix} does not say it"
        for is_so, words in (
            (self.white is not None, NOT_RAW),
            (
                info.variable and self.constant,
                "frames of unequal length are made equally long: some stand twice, some are left out",
            ),
            (info.alpha and not kind.with_alpha, f"its alpha is left out: {kind.name} holds none"),
            (info.aspect != 1 and not kind.says_aspect, wide),
            (self.target.hdr_display and not kind.says_mastering, f"{kind.name} does not say on what display it was made"),
        ):
            if is_so:
                self.believed.tell(source.name, words)
        with _progress(info.count, "frame") as report:
            sound = grade_clip(
                self.grade, source, target, encoding, self.target, said, report, self.with_sound, self.codec, self.lines,
                self.constant,
            )  # fmt: skip
        if sound.problem:
            self.believed.tell(source.name, sound.problem)
        if sound.left_out:
            self.believed.tell(source.name, f"left out: {sound.left_out} tracks of sound in a form that is not read")

    def _require_room(self, source: Path, target: Path) -> None:
        """Before anything is read that takes long."""
        if not target.parent.is_dir():
            raise PictureError(str(target.parent), "no such folder; make it first")
        if target.is_dir():
            raise PictureError(str(target), "is a folder; name the file in it")
        if target.exists() and not self.overwrite:
            own = " and is what would be read" if source.exists() and target.samefile(source) else ""
            raise PictureError(str(target), f"is there already{own}; give --overwrite to replace it")


@contextmanager
def _progress(count: int, unit: str) -> Iterator[Callable[[float], None]]:
    """How much is done, how fast, and the time left, where somebody looks at a terminal. Told: the share that is done"""
    with tqdm(total=count, unit=unit, disable=None, leave=False, dynamic_ncols=True) as bar:

        def report(share: float) -> None:
            bar.update(round(share * count) - bar.n)

        yield report


def _check_strength(look: Look, strength: float) -> None:
    """Raises: LookError where it lies beyond full and a step goes no further"""
    stopper = stopper_of(look.steps)
    if strength > 1 and stopper is not None:
        raise LookError("--strength", f"must be at most 1, for the look holds a step that goes no further ({title_of(stopper)})")


def _apply(given: argparse.Namespace) -> None:
    through = load(given.through, given.member)
    own: Mapping[str, Encoding] = {}
    if isinstance(through, Bundle):
        if given.expects or given.gives:
            raise LookError(given.through.name, "a look declares its own encodings; --expects and --gives are for LUT files")
        look = through.look.model_copy(update={"view": given.view}) if given.view else through.look
        _check_strength(look, given.strength)
        grade, own = Grade.of_look(look, given.strength, through.luts), look.own
    else:
        if given.strength > 1:
            raise LutError("--strength", f"a LUT file goes no further than 1, got {given.strength:g}")
        expects = encoding(given.expects or "srgb", "--expects")
        gives = encoding(given.gives, "--gives") if given.gives else expects
        grade = Grade.of_lut(through, expects, gives, given.strength, given.view or "soft")
    named = encoding(given.picture_encoding, "--picture-encoding", own) if given.picture_encoding else None
    target = encoding(given.output_encoding, "--output-encoding", own) if given.output_encoding else grade.gives
    said = Coding(given.matrix or "bt709", given.range == "full") if given.matrix or given.range else None
    believed = Believed(named, grade.expects)
    sound, shape = not given.no_sound, (given.codec, given.lines, given.constant)
    work = _Work(grade, believed, target, given.overwrite, said, sound, *shape, given.gaps, given.raw_white)
    _lay(work, given.picture, given.output)


def _lay(work: _Work, source: Path, output: Path) -> None:
    if source.is_dir():
        _lay_on_folder(work, source, output)
    elif _HASHES.search(source.name):
        _lay_on_sequence(work, _sequence_of(source), source.parent, output)
    elif _is_picture(require_file(source)):
        # A picture keeps its old way: what -o names is written, unless it is the picture itself.
        itself = output.exists() and output.samefile(source)
        with _progress(100, "%") as report:
            replace(work, overwrite=work.overwrite or not itself).one(source, output, report=report)
    else:
        work.clip(source, output)


def _is_picture(path: Path) -> bool:
    """By its content; what is neither a picture nor a clip is taken for a damaged picture."""
    with path.open("rb") as file:
        if sniff(file.read(16)) is not None:
            return True
    try:
        inspect_clip(path)
    except PictureError as error:
        return error.problem.startswith(NO_CLIP)
    return False


def _sequence_of(pattern: Path) -> Sequence:
    """The frames that a name with ### in place of its number means. Raises: PictureError"""
    stem, suffix = _HASHES.split(pattern.name, maxsplit=1)
    names = [path.name for path in pattern.parent.iterdir() if path.name.startswith(stem) and path.name.endswith(suffix)]
    found = [one for one in find_sequences(names)[0] if one.stem == stem and one.suffix.lower() == suffix.lower()]
    if not found:
        raise PictureError(str(pattern), "no frames of this name; the number stands where the # are, as in shot_####.exr")
    return max(found, key=lambda one: len(one.names))


def _lay_on_sequence(work: _Work, sequence: Sequence, folder: Path, output: Path) -> None:
    """output: a name with ### too, or a folder that takes the frames under their own names"""
    if work.gaps == "refuse":
        require_whole(sequence, sequence.title)
    held = sequence.first
    numbers = range(sequence.first, sequence.last + 1) if work.gaps == "hold" else sorted(sequence.names)
    for number in tqdm(numbers, unit="frame", disable=None, leave=False, dynamic_ncols=True):
        held = number if number in sequence.names else held
        name = sequence.name_of(number)
        if _HASHES.search(output.name):
            target = output.parent / _HASHES.sub(lambda found, n=number: f"{n:0{len(found[0])}d}", output.name, count=1)  # type: ignore[misc]
        else:
            target = output / name
        target.parent.mkdir(parents=True, exist_ok=True)
        work.one(folder / sequence.name_of(held), target, number)
    if sequence.missing:
        what = "the frame before stands in the place of" if work.gaps == "hold" else "missing, and left so:"
        print(f"{what} {sequence.gaps}")
    print(f"{len(numbers)} frames, {sequence.first} to {sequence.last}")


def _lay_on_folder(work: _Work, folder: Path, output: Path) -> None:
    """Every picture in it, under its own name; what is none is told."""
    if output.resolve() == folder.resolve():
        raise PictureError(str(output), "is the folder the pictures come from; give another one")
    if output.exists() and not output.is_dir():
        raise PictureError(str(output), "is a file; several pictures need a folder")
    paths = [path for path in sorted(folder.iterdir()) if path.is_file()]
    numbers = {name: number for one in find_sequences([path.name for path in paths])[0] for number, name in one.names.items()}
    done = 0
    for path in tqdm(paths, unit="file", disable=None, leave=False, dynamic_ncols=True):
        try:
            inspect_picture(path)
        except PictureError as error:
            tqdm.write(f"left out: {error}")
            continue
        output.mkdir(parents=True, exist_ok=True)
        work.one(path, output / path.name, numbers.get(path.name, 0))
        done += 1
    print(f"{done} pictures")
    if not done:
        raise PictureError(str(folder), "holds no picture that can be read")


def _strength(text: str) -> float:
    value = float(text)
    if not 0 <= value <= 1.5:
        raise argparse.ArgumentTypeError(f"must be from 0 to 1.5, got {text}")
    return value


def _lines(text: str) -> int:
    value = int(text)
    if not 32 <= value <= LONGEST_SIDE:
        raise argparse.ArgumentTypeError(f"must be from 32 to {LONGEST_SIDE}, got {text}")
    return value


def _white(text: str) -> int:
    try:
        return check_white(int(text), "--raw-white")
    except PictureError as error:
        raise argparse.ArgumentTypeError(error.problem) from None


def add(commands: Commands) -> None:
    lay = commands.add_parser("apply", help="put pictures, sequences or clips through a LUT or look, at full size and depth")
    lay.add_argument("through", metavar="lut-or-look", type=Path)
    lay.add_argument("picture", metavar="source", type=Path, help="a picture, a folder, a sequence (shot_####.exr) or a clip")
    lay.add_argument("-o", "--output", type=Path, required=True, help="a file; a folder, or a name with ####, for several")
    lay.add_argument(
        "--strength", type=_strength, default=1.0, help="0 to 1; to 1.5, beyond full, where the steps of a look allow it"
    )
    for option, what in (
        (
            "--picture-encoding",
            "what the picture is encoded in (default: what it says of itself, else what the LUT or look expects)",
        ),
        ("--output-encoding", "what the result is encoded in (default: what the LUT or look gives)"),
        ("--expects", "what a LUT file expects (default srgb)"),
        ("--gives", "what a LUT file gives (default: what it expects)"),
    ):
        lay.add_argument(option, help=f"{what}; see `encodings`")
    lay.add_argument(
        "--view", choices=get_args(View), help="between a scene's light and a display's (default: the look's; soft for a LUT file)"
    )
    lay.add_argument("--matrix", choices=sorted(LUMA), help="of a clip, in place of what it says")
    lay.add_argument("--range", choices=["limited", "full"], help="of a clip, in place of what it says")
    lay.add_argument(
        "--codec", choices=OFFERED, default="", help="of a clip, where its suffix has several (h264, prores, ffv1 else)"
    )
    lay.add_argument("--constant", action="store_true", help="make the frames of a clip equally long, where they are not")
    lay.add_argument("--lines", type=_lines, default=0, help="of a clip at most: a smaller copy, averaged in linear light")
    lay.add_argument(
        "--gaps", choices=["refuse", "leave", "hold"], default="refuse",
        help="frames that a sequence lacks: refuse it (without this), leave them out, or hold the frame before",
    )  # fmt: skip
    lay.add_argument("--raw-white", type=_white, help="kelvin that raw photographs are balanced to (default: what the camera says)")
    add_member(lay)
    lay.add_argument("--no-sound", action="store_true", help="leave out the sound of a clip")
    lay.add_argument("--overwrite", action="store_true", help="replace files that are there")
    lay.set_defaults(run=_apply)
