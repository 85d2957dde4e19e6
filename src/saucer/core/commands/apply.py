"""`apply LUT-OR-LOOK SOURCE -o OUT`: a picture, a folder of pictures, a numbered sequence or a clip, at full size and depth."""

from __future__ import annotations

import argparse
import re
from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from pathlib import Path
from typing import get_args

from saucer.core.clips.coding import LUMA, Coding
from saucer.core.clips.decoding import NO_CLIP
from saucer.core.clips.reading import inspect_clip
from saucer.core.clips.sequences import Sequence, find_sequences, require_whole
from saucer.core.colour.encodings import Encoding, encoding
from saucer.core.colour.rendering import View
from saucer.core.commands.files import Commands, load, require_file
from saucer.core.engine.grade import Grade, grade_file
from saucer.core.engine.moving import grade_clip
from saucer.core.errors import LookError, PictureError
from saucer.core.look.bundle import Bundle
from saucer.core.pictures.io import inspect_picture
from saucer.core.pictures.stated import stated_encoding
from saucer.core.pictures.stored import sniff

_HASHES = re.compile(r"#+")


@dataclass(frozen=True)
class _Work:
    grade: Grade
    source: Encoding
    target: Encoding
    overwrite: bool
    said: Coding | None
    told: set[str] = field(default_factory=set)
    """What was said of a file already is not said of each frame after it."""

    def one(self, source: Path, target: Path, number: int = 0) -> None:
        """A picture. number: of the frame, for what moves from frame to frame"""
        if target.exists() and not self.overwrite:
            raise PictureError(str(target), "is there already; give --overwrite to replace it")
        self._tell_encoding(source)
        done = grade_file(self.grade, source, target, self.source, self.target, number=number)
        if done.mended:
            print(f"{source.name}: {done.mended} pixels were not finite; no number became 0, infinity 65504")
        for words in done.left_out:
            if words not in self.told:
                self.told.add(words)
                print(f"{source.name}: left out, because {target.suffix} files have no room for it: {words}")

    def _tell_encoding(self, source: Path) -> None:
        """Where a picture says that it is in something else than it is read as."""
        said = stated_encoding(source)
        if said is None or said.encoding == self.source.id or said.words in self.told:
            return
        self.told.add(said.words)
        meant = f"means {said.encoding}" if said.encoding else "is none that Saucer knows"
        print(f"{source.name}: its {said.words} {meant}; it is read as {self.source.id} (--picture-encoding says which)")

    def clip(self, source: Path, target: Path) -> None:
        if target.exists() and not self.overwrite:
            raise PictureError(str(target), "is there already; give --overwrite to replace it")
        grade_clip(self.grade, source, target, self.source, self.target, self._said_of(source))

    def _said_of(self, source: Path) -> Coding | None:
        return self.said if self.said is None or inspect_clip(source).coding is not None else None


def _apply(given: argparse.Namespace) -> None:
    through = load(given.through)
    own: Mapping[str, Encoding] = {}
    if isinstance(through, Bundle):
        if given.expects or given.gives:
            raise LookError(given.through.name, "a look declares its own encodings; --expects and --gives are for LUT files")
        look = through.look.model_copy(update={"view": given.view}) if given.view else through.look
        grade, own = Grade.of_look(look, given.strength, through.luts), look.own
    else:
        expects = encoding(given.expects or "srgb", "--expects")
        gives = encoding(given.gives, "--gives") if given.gives else expects
        grade = Grade.of_lut(through, expects, gives, given.strength, given.view or "soft")
    source = encoding(given.picture_encoding, "--picture-encoding", own) if given.picture_encoding else grade.expects
    target = encoding(given.output_encoding, "--output-encoding", own) if given.output_encoding else grade.gives
    said = Coding(given.matrix or "bt709", given.range == "full") if given.matrix or given.range else None
    _lay(_Work(grade, source, target, given.overwrite, said), given.picture, given.output)


def _lay(work: _Work, source: Path, output: Path) -> None:
    if source.is_dir():
        _lay_on_folder(work, source, output)
    elif _HASHES.search(source.name):
        _lay_on_sequence(work, _sequence_of(source), source.parent, output)
    elif _is_picture(require_file(source)):
        # A picture keeps its old way: what -o names is written.
        replace(work, overwrite=True).one(source, output)
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
    require_whole(sequence, sequence.title)
    for number, name in sorted(sequence.names.items()):
        if _HASHES.search(output.name):
            target = output.parent / _HASHES.sub(lambda found, n=number: f"{n:0{len(found[0])}d}", output.name, count=1)  # type: ignore[misc]
        else:
            target = output / name
        target.parent.mkdir(parents=True, exist_ok=True)
        work.one(folder / name, target, number)
    print(f"{len(sequence.names)} frames, {sequence.first} to {sequence.last}")


def _lay_on_folder(work: _Work, folder: Path, output: Path) -> None:
    """Every picture in it, under its own name; what is none is told."""
    output.mkdir(parents=True, exist_ok=True)
    if output.resolve() == folder.resolve():
        raise PictureError(str(output), "is the folder the pictures come from; give another one")
    paths = [path for path in sorted(folder.iterdir()) if path.is_file()]
    numbers = {name: number for one in find_sequences([path.name for path in paths])[0] for number, name in one.names.items()}
    done = 0
    for path in paths:
        try:
            inspect_picture(path)
        except PictureError as error:
            print(f"left out: {error}")
            continue
        work.one(path, output / path.name, numbers.get(path.name, 0))
        done += 1
    print(f"{done} pictures")
    if not done:
        raise PictureError(str(folder), "holds no picture that can be read")


def _share(text: str) -> float:
    value = float(text)
    if not 0 <= value <= 1:
        raise argparse.ArgumentTypeError(f"must be from 0 to 1, got {text}")
    return value


def add(commands: Commands) -> None:
    lay = commands.add_parser("apply", help="put pictures, sequences or clips through a LUT or look, at full size and depth")
    lay.add_argument("through", metavar="lut-or-look", type=Path)
    lay.add_argument("picture", metavar="source", type=Path, help="a picture, a folder, a sequence (shot_####.exr) or a clip")
    lay.add_argument("-o", "--output", type=Path, required=True, help="a file; a folder, or a name with ####, for several")
    lay.add_argument("--strength", type=_share, default=1.0, help="0 to 1")
    for option, what in (
        ("--picture-encoding", "what the picture is encoded in (default: what the LUT or look expects)"),
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
    lay.add_argument("--overwrite", action="store_true", help="replace files that are there")
    lay.set_defaults(run=_apply)
