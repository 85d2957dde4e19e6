"""Clips and numbered sequences as pictures: brought in, read at full depth, seen through their proxies."""

from __future__ import annotations

import tempfile
from collections import OrderedDict
from collections.abc import Callable, Iterator, Sequence
from contextlib import AbstractContextManager, contextmanager
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from threading import Lock
from typing import Any, cast

import numpy as np
from django.db import transaction
from timecode import Timecode

from saucer.core.clips.coding import LUMA, ClipInfo, Coding, Matrix
from saucer.core.clips.reading import ClipReader
from saucer.core.clips.sequences import Gaps, SequenceReader, require_whole, spans_of
from saucer.core.clips.sequences import Sequence as Numbered
from saucer.core.clips.sound import SoundReader
from saucer.core.clips.writing import KINDS, ClipWriter
from saucer.core.colour.conversion import convert
from saucer.core.colour.encodings import ENCODINGS, Encoding
from saucer.core.colour.rendering import View
from saucer.core.engine.moving import AnyFrame, rows_of, write_frames
from saucer.core.errors import PictureError
from saucer.core.pictures.io import Picture as Pixels
from saucer.core.pictures.io import inspect_picture, write_picture
from saucer.core.pictures.scale import average_down, scale_down, unheard
from saucer.studio.common.models import Blob
from saucer.studio.common.refusals import NotFound, NotPossible
from saucer.studio.common.store import keep_file, local_file
from saucer.studio.encodings import rules as encodings
from saucer.studio.people.models import Person, Role
from saucer.studio.people.rules import record, require, require_own
from saucer.studio.pictures import media, rules
from saucer.studio.pictures.models import Footage, FootageFile, Picture

Reader = ClipReader | SequenceReader
SHAPED = "acescct"
"""Linear light is kept in this encoding in a proxy, which holds 0 to 1 only."""
MOST_FILES = 20_000
CHANGED = "has changed since it was brought in; bring it in again"


@dataclass(frozen=True)
class Source:
    """A file that is to be brought in. path: where it lies now; folder: where it is read in place and not kept"""

    path: Path
    name: str
    in_place: bool = False

    def keep(self) -> FootageFile:
        told = self.path.stat()
        blob = None if self.in_place else keep_file(self.path)
        return FootageFile(
            file_name=self.name[:255], blob=blob, bytes=told.st_size, changed=told.st_mtime_ns if self.in_place else 0
        )


def bring_in_clip(person: Person, source: Source, folder: str = "", path: str = "", name: str = "") -> Picture:
    """folder, path: of a media folder that it is read from in place. Raises: NotAllowed, PictureError"""
    require(person, Role.DESIGNER, "bring in clips")
    with ClipReader(source.path, source.name) as reader:
        info, first = reader.info, reader.frame(0).rgb()
    told = _coding_of(info)
    facts = {
        "codec": info.codec, "bits": info.bits, "chroma": info.chroma, "turn": info.turn, "variable": info.variable, "alpha": info.alpha,
        "aspect": str(info.aspect), "matrix_from": info.matrix_from, "range_from": info.range_from,
    }  # fmt: skip
    footage = Footage(
        kind="clip", count=info.count, rate_top=info.rate.numerator, rate_bottom=info.rate.denominator, timecode=info.timecode[:20],
        facts=facts, folder=folder, path=path, **told,
    )  # fmt: skip
    return _add(person, footage, [source], first, info.encoding, name or Path(source.name).stem, source.name)


def bring_in_sequence(
    person: Person, numbered: Numbered, sources: Sequence[Source], folder: str = "", path: str = "", rate: Fraction = Fraction(24),
    gaps: Gaps = "refuse",
) -> Picture:  # fmt: skip
    """sources: its files in order; gaps: what becomes of it where frames are missing, which is told from then on

    The frame before is seen in the place of one that is missing, and goes into clips; left as it is, no file is delivered for it.

    Raises: NotAllowed; PictureError, naming what is missing
    """
    require(person, Role.DESIGNER, "bring in sequences")
    if gaps == "refuse":
        require_whole(numbered, numbered.title)
    by_name = {one.name: one for one in sources}
    sources = [by_name[name] for name in numbered.held()]
    if len(sources) > MOST_FILES:
        raise PictureError(numbered.title, f"more than {MOST_FILES} frames; bring it in in parts")
    infos = [inspect_picture(one.path, one.name) for one in by_name.values()]
    for info, one in zip(infos, by_name.values(), strict=True):
        if (info.width, info.height) != (infos[0].width, infos[0].height):
            raise PictureError(
                one.name, f"is {info.width} x {info.height}; the frames before it are {infos[0].width} x {infos[0].height}"
            )
    bits = 8 if infos[0].depth == "u8" else 16
    facts: dict[str, Any] = {"codec": infos[0].kind, "bits": bits, "chroma": "RGB", "held": numbered.gaps[:200]}
    if gaps == "leave" and numbered.missing:
        facts["missing"] = spans_of(number - numbered.first for number in numbered.missing)
    footage = Footage(
        kind="sequence", first=numbered.first, count=len(sources), rate_top=rate.numerator, rate_bottom=rate.denominator, facts=facts,
        folder=folder, path=path,
    )  # fmt: skip
    return _add(person, footage, sources, None, "", numbered.title, sources[0].name)


def bring_in_from(person: Person, folder: str, path: str, gaps: Gaps = "refuse") -> Picture:
    """What lies in a media folder: a clip, a still, or a sequence by any of its frames. gaps: as `bring_in_sequence`

    Raises: as the others; NotPossible
    """
    require(person, Role.DESIGNER, "bring in media")
    place = media.place_in(folder, path)
    if not place.is_file():
        raise NotPossible(f'"{path}" is no file.')
    parent = str(place.parent.relative_to(media.root_of(folder)))
    if place.suffix.lower() in media.CLIPS:
        return bring_in_clip(person, Source(place, place.name, True), folder, parent)
    found = media.list_folder(folder, parent)
    numbered = next((one for one in found.sequences if place.name in one.names.values()), None)
    if numbered is None:
        numbered = Numbered(place.stem, 0, place.suffix, {0: place.name})
    sources = [Source(place.parent / name, name, True) for _, name in sorted(numbered.names.items())]
    return bring_in_sequence(person, numbered, sources, folder, parent, gaps=gaps)


def _coding_of(info: ClipInfo) -> dict[str, Any]:
    return {} if info.coding is None else {"matrix": info.coding.matrix, "full": info.coding.full}


def _add(
    person: Person, footage: Footage, sources: Sequence[Source], first: np.ndarray | None, encoding: str, name: str, file_name: str
) -> Picture:
    """first: the first frame, where it is no picture file by itself"""
    files = [source.keep() for source in sources]
    with tempfile.TemporaryDirectory() as folder:
        still = sources[0].path
        if first is not None:
            still = Path(folder) / "first.exr"
            write_picture(Pixels(first, "f32"), still)
        new = rules.look_into(person, still, f"{Path(file_name).stem}{still.suffix}", name, encoding)
        proxy = rules.proxy_of(still, new.encoding, file_name)
        blob = keep_file(still) if first is not None or files[0].blob is None else files[0].blob
    with transaction.atomic():
        picture = rules.add(person, new, blob, proxy)
        footage.picture = picture
        footage.save()
        for position, file in enumerate(files):
            file.footage, file.position = footage, position
        FootageFile.objects.bulk_create(files, batch_size=1000)
    return picture


def find(pk: int, person: Person) -> Footage:
    """Raises: NotFound, for what is kept from the person too"""
    footage: Footage | None = Footage.objects.visible_to(person).select_related("picture").filter(pk=pk).first()
    if footage is None:
        raise NotFound("There is no such clip or sequence, or it was deleted.")
    return footage


def of_picture(picture: Picture) -> Footage:
    """What moves of a picture that was found. Raises: NotFound for one that does not"""
    footage: Footage | None = Footage.objects.select_related("picture").filter(pk=picture.pk).first()
    if footage is None:
        raise NotFound("There is no such clip or sequence, or it was deleted.")
    return footage


@contextmanager
def opened_sound(footage: Footage) -> Iterator[SoundReader | None]:
    """The sound of a clip; none of a sequence. Raises: as `opened`"""
    if footage.kind == "sequence":
        yield None
        return
    file = footage.files.all()[0]
    with _place_of(footage, file) as path, SoundReader(path, file.file_name) as reader:
        yield reader


@contextmanager
def opened(footage: Footage) -> Iterator[Reader]:
    """The frames at full size and depth. Raises: PictureError, where a file read in place has changed or is gone"""
    files = list(footage.files.all())

    def place(number: int) -> AbstractContextManager[Path]:
        return _place_of(footage, files[number])

    if footage.kind == "sequence":
        yield SequenceReader([file.file_name for file in files], place)
        return
    with place(0) as path, ClipReader(path, files[0].file_name, coding_of(footage)) as reader:
        if reader.info.count != footage.count:
            raise PictureError(files[0].file_name, f"has {reader.info.count} frames, not {footage.count}: it {CHANGED}")
        yield reader


@contextmanager
def _place_of(footage: Footage, file: FootageFile) -> Iterator[Path]:
    if file.blob_id is not None:
        with local_file(file.blob_id) as path:
            yield path
        return
    try:
        path = media.place_in(footage.folder, f"{footage.path}/{file.file_name}")
        told = path.stat()
    except (NotFound, OSError):
        raise PictureError(file.file_name, f'is no longer in the media folder "{footage.folder}"') from None
    if (told.st_size, told.st_mtime_ns) != (file.bytes, file.changed):
        raise PictureError(file.file_name, CHANGED)
    yield path


def coding_of(footage: Footage) -> Coding | None:
    return Coding(cast(Matrix, footage.matrix), bool(footage.full)) if footage.matrix else None


def rate_of(footage: Footage) -> Fraction:
    return Fraction(footage.rate_top, footage.rate_bottom)


def set_facts(person: Person, pk: int, matrix: str | None, full: bool | None, rate: Fraction | None) -> Footage:
    """How a clip codes colour, and how fast a sequence runs; its proxies are to be made again where colour changes.

    Raises: NotFound, NotAllowed, NotPossible
    """
    footage = find(pk, person)
    require_own(person, footage.picture.owner, "change this clip")
    if (matrix is not None or full is not None) and not footage.matrix:
        raise NotPossible("Its frames are RGB: there is no matrix and no range to be said.")
    if matrix is not None and matrix not in LUMA:
        raise NotPossible(f'There is no matrix "{matrix}"; use one of {", ".join(LUMA)}.')
    if rate is not None and footage.kind == "clip":
        raise NotPossible("A clip says itself how fast it runs.")
    given: dict[str, Any] = {}
    if matrix is not None:
        given["matrix"] = matrix
    if full is not None:
        given["full"] = full
    if given:
        given["facts"] = footage.facts | {"matrix_from": "person", "range_from": "person"}
    if rate is not None:
        given |= {"rate_top": rate.numerator, "rate_bottom": rate.denominator}
    for field, value in given.items():
        setattr(footage, field, value)
    proxy = None
    if "facts" in given:
        proxy = _first_frame_again(footage)
        footage.proxy = None
        given["proxy"] = None
    with transaction.atomic():
        locked = Picture.objects.select_for_update().filter(pk=pk, deleted=None).first()
        if locked is None:
            raise NotFound(rules.GONE)
        footage.save(update_fields=list(given))
        if proxy is not None:
            locked.blob, locked.proxy, locked.mended = proxy
            locked.save(update_fields=["blob", "proxy", "mended"])
        record(person, "change picture", locked, **{name: value for name, value in given.items() if name not in ("facts", "proxy")})
    return find(pk, person)


def _first_frame_again(footage: Footage) -> tuple[Blob, Blob, int]:
    with opened(footage) as reader, tempfile.TemporaryDirectory() as folder:
        still = Path(folder) / "first.exr"
        write_picture(Pixels(reader.frame(0).rgb(), "f32"), still)
        proxy = rules.proxy_of(still, footage.picture.encoding, footage.picture.file_name)
        return keep_file(still), proxy.blob, proxy.mended


def make_proxy(footage: Footage, report: Callable[[float], None] = unheard) -> tuple[Blob, str]:
    """Every frame averaged down in linear light, as a small clip; seconds to minutes of work. Returns: the clip, and what it is in

    Raises: PictureError
    """
    source = encodings.find(footage.picture.encoding)
    kept = ENCODINGS[SHAPED] if source.linear else source
    light = ENCODINGS["linear-709"]
    width, height = footage.picture.width, footage.picture.height
    scale = min(1.0, rules.PROXY[0] / width, rules.PROXY[1] / height)
    size = max(2, round(width * scale)), max(2, round(height * scale))

    def shrink(frame: AnyFrame) -> np.ndarray:
        return convert(average_down(rows_of(frame), (width, height), source, rules.PROXY), light, kept)

    with opened(footage) as reader, tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "proxy.mp4"
        with ClipWriter(path, KINDS["intra"], *size, rate_of(footage)) as writer:
            write_frames(iter(reader.frames()), writer, shrink, footage.count, width * height, report)
        return keep_file(path), kept.id


def keep_proxy(pk: int, blob: Blob, encoding: str, of: Footage) -> None:
    """of: the footage as the proxy was made of it; where that was changed meanwhile, nothing is kept. In a transaction."""
    same = {"matrix": of.matrix, "full": of.full, "picture__encoding": of.picture.encoding}
    found = Footage.objects.filter(pk=pk, **same).values_list("pk", flat=True)
    Footage.objects.filter(pk__in=list(found)).update(proxy=blob, proxy_encoding=encoding)


MOST_OPEN = 6
_open: OrderedDict[str, tuple[ClipReader, Lock]] = OrderedDict()
_opening = Lock()


def frame_in(footage: Footage, number: int, target: Encoding, width: int | None = None, view: View = "plain") -> np.ndarray:
    """(h, w, 3) float32 of the proxy's frame as code values of `target`. number: from 0; view: as `proxy_in`

    Raises: NotPossible before the proxy is made; PictureError for a frame that is not there
    """
    if footage.proxy_id is None:
        raise NotPossible("The small copy that plays is not made yet; see the jobs at the top.")
    reader, lock = _reader(footage.proxy_id)
    with lock:
        raw = reader.frame(number)
    kept, light = encodings.find(footage.proxy_encoding), ENCODINGS["linear-709"]
    pixels = raw.rgb()
    if width is not None and width < pixels.shape[1]:
        small = scale_down(convert(pixels, kept, light), width, rules.PROXY[1])
        return np.ascontiguousarray(convert(convert(small, light, kept), kept, target, view))
    return convert(pixels, kept, target, view)


def _reader(sha256: str) -> tuple[ClipReader, Lock]:
    """Kept open: opening takes as long as decoding several frames."""
    with _opening:
        found = _open.pop(sha256, None)
        if found is None:
            with local_file(sha256) as path:
                reader = ClipReader(path, "proxy", threads=1)
                reader.__enter__()
            found = reader, Lock()
        _open[sha256] = found
        if len(_open) > MOST_OPEN:
            _open.popitem(last=False)  # closed when nobody reads in it any more
    return found


def _timecode(footage: Footage, text: str) -> Timecode:
    rate = rate_of(footage)
    named = str(rate) if rate.denominator == 1 else f"{float(rate):.3f}".rstrip("0").rstrip(".")
    return Timecode(named, text)


def timecode_at(footage: Footage, number: int) -> str:
    """The timecode of a frame, from 0; empty where the source has none."""
    if not footage.timecode:
        return ""
    return str(_timecode(footage, footage.timecode) + number) if number else footage.timecode


def frame_at(footage: Footage, number: int) -> int:
    """How many frames after 00:00:00:00 a frame of footage with a timecode stands."""
    return int(_timecode(footage, footage.timecode).frame_number) + number


def number_of(footage: Footage, absolute: int) -> int:
    """The frame, from 0, that so many frames after 00:00:00:00 means; of footage without a timecode the number itself."""
    return absolute - frame_at(footage, 0) if footage.timecode else absolute - footage.first


def name_of_frame(footage: Footage, number: int) -> str:
    """A frame as it is told to people: its timecode, else its number."""
    return timecode_at(footage, number) or str(footage.first + number)
