"""Pictures through a look as it stands, saved or not, as files at their full size."""

from __future__ import annotations

import tempfile
from collections.abc import Iterator
from pathlib import Path
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from saucer.core.colour.encodings import Encoding
from saucer.core.engine.grade import Grade, grade_file
from saucer.core.files.zips import pack_into
from saucer.core.look.model import Look
from saucer.core.pictures.io import KINDS, Picture, depth_held, kind_written, write_picture
from saucer.core.pictures.stored import Depth
from saucer.core.steps.registry import Frame
from saucer.studio.common.models import Blob
from saucer.studio.common.names import file_stem
from saucer.studio.common.store import keep_file, local_file
from saucer.studio.encodings import rules as encodings
from saucer.studio.jobs.rules import JobResult, Progress
from saucer.studio.luts.rules import at_hand
from saucer.studio.people.models import Person
from saucer.studio.pictures import footage
from saucer.studio.pictures.models import Footage
from saucer.studio.pictures.models import Picture as KeptPicture
from saucer.studio.preview.seen import ReadAs, find_many_seen

MOST = 200
"""Pictures that are graded in one job."""


class GradedWork(BaseModel):
    """format, depth: empty for those that each picture came in; encoding: empty for what the look gives

    at: of a single picture that moves, the frame; else its first one
    """

    model_config = ConfigDict(extra="forbid")

    look: Look
    pictures: Annotated[list[int], Field(min_length=1, max_length=MOST)]
    format: Literal["", "png", "jpeg", "tiff", "openexr", "dpx"] = ""
    depth: Annotated[
        Literal["", "u8", "u16", "f16", "f32"], Field(description="bits, or floats, of a sample; held to what the format can")
    ] = ""
    encoding: Annotated[str, Field(max_length=40)] = ""
    at: Annotated[int | None, Field(ge=0, le=2**31 - 1)] = None
    read_as: ReadAs = {}


def check(person: Person, given: GradedWork) -> None:
    """Whatever would keep it from being done, before it waits. Raises: SaucerError, NotFound"""
    Grade.of_look(given.look, 1.0, at_hand)
    if given.encoding:
        encodings.find(given.encoding)
    find_many_seen(given.pictures, given.read_as, person)


def make(person: Person, given: GradedWork, report: Progress) -> tuple[Blob, JobResult]:
    """One file, or all of them in a zip. Raises: as `check`; PictureError"""
    grade = Grade.of_look(given.look, 1.0, at_hand)
    target = encodings.find(given.encoding) if given.encoding else grade.gives
    found = find_many_seen(given.pictures, given.read_as, person)
    left_out: list[str] = []
    with tempfile.TemporaryDirectory() as folder:

        def files() -> Iterator[Path]:
            for index, (picture, name) in enumerate(zip(found, _names(found, given), strict=True)):

                def told(share: float, at: int = index) -> None:
                    report((at + share) / len(found))

                lost = _grade(picture, Path(folder) / name, grade, target, given, told)
                left_out.extend(one if len(found) == 1 else f"{picture.name}: {one}" for one in lost)
                yield Path(folder) / name

        if len(found) == 1:
            (whole,) = files()
            name = whole.name
        else:
            whole, name = Path(folder) / "all.zip", f"{file_stem(given.look.name or 'look')}-{len(found)} pictures.zip"
            pack_into(whole, _packed(files()), level=1)  # pictures are packed already
        blob = keep_file(whole)
    return blob, JobResult(file=blob.pk, file_name=name, left_out=left_out)


def _packed(files: Iterator[Path]) -> Iterator[tuple[str, bytes]]:
    """Each gone once it is in the zip: two hundred large ones would fill a disk twice."""
    for one in files:
        yield one.name, one.read_bytes()
        one.unlink()


def _names(found: list[KeptPicture], given: GradedWork) -> Iterator[str]:
    """PICTURE-LOOK.png, each once."""
    taken: set[str] = set()
    for picture in found:
        stem = f"{Path(picture.file_name).stem}-{file_stem(given.look.name or 'look')}"
        suffix, number, name = KINDS[given.format or kind_written(picture.kind)], 1, stem
        while name.casefold() in taken:
            number += 1
            name = f"{stem}-{number}"
        taken.add(name.casefold())
        yield f"{name}{suffix}"


def _grade(
    picture: KeptPicture, target: Path, grade: Grade, encoding: Encoding, given: GradedWork, report: Progress
) -> tuple[str, ...]:
    """Returns: what the file has no room for, in words"""
    source = encodings.find(picture.encoding)
    kind = given.format or kind_written(picture.kind)
    depth: Depth | None = depth_held(kind, given.depth) if given.depth else None
    moving = Footage.objects.select_related("picture").filter(pk=picture.pk).first() if given.at is not None else None
    if moving is None:
        with local_file(picture.blob_id) as path:
            white = picture.chosen_white
            return grade_file(grade, path, target, source, encoding, picture.file_name, report, depth=depth, white=white).left_out
    number = given.at or 0
    with footage.opened(moving) as reader:
        frame = reader.frame(number)
        pixels = frame.rgb()
    done = grade(pixels, source, encoding, Frame(pixels.shape[1], pixels.shape[0], 0, number))
    write_picture(Picture(done, depth or depth_held(kind, "u16")), target, encoding=encoding)
    return ()
