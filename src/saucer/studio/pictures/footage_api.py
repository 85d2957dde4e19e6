"""Clips, sequences and media folders."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction
from functools import partial
from pathlib import Path
from typing import Annotated, Literal

from django.conf import settings
from django.core.files.uploadedfile import TemporaryUploadedFile
from django.http import HttpRequest
from ninja import File, Form, Router, Schema, UploadedFile
from pydantic import Field

from saucer.core.clips.sequences import Gaps, find_sequences
from saucer.core.errors import PictureError
from saucer.studio.common.lanes import HEAVY, MEDIA
from saucer.studio.common.reading import tell_each
from saucer.studio.common.uploads import place_of
from saucer.studio.people.access import designer, file_of, intake
from saucer.studio.people.models import Person
from saucer.studio.people.rules import may_change
from saucer.studio.people.signed_in import person_of
from saucer.studio.pictures import footage, media, rules
from saucer.studio.pictures.models import Footage, Picture
from saucer.studio.pictures.work import start_proxy

router = Router(tags=["footage"])
Words = Annotated[str, Field(max_length=1000)]
CLIP_LIMIT = settings.FOOTAGE_UPLOAD_LIMIT


class FootageOut(Schema):
    """id: of its picture; plays: is its small copy there; codec ... alpha: what the file says of itself

    held: frames of a sequence that are missing, in words, each held by the one before; leaves_gaps: none is delivered for them
    """

    id: int
    name: str
    kind: str
    first: int
    count: int
    rate: str
    seconds: float
    timecode: str
    matrix: str
    full: bool | None
    matrix_from: str
    range_from: str
    codec: str
    bits: int
    chroma: str
    variable: bool
    alpha: bool
    held: str
    leaves_gaps: bool
    in_place: bool
    plays: bool
    may_change: bool


class TakenIn(Schema):
    """pictures: their numbers, stills, sequences and clips alike; left_out: what could not be brought in, in words"""

    pictures: list[int]
    left_out: list[str]


class FootageChange(Schema):
    """rate: frames a second, as "24" or "24000/1001"."""

    matrix: Literal["bt601", "bt709", "bt2020"] | None = None
    full: bool | None = None
    rate: Annotated[str | None, Field(pattern=r"^[1-9]\d{0,4}(/[1-9]\d{0,4})?$")] = None


class SequenceOut(Schema):
    """name: of its first frame, by which it is brought in; gaps: frames that are missing, in words"""

    name: str
    title: str
    first: int
    last: int
    gaps: str


class FolderOut(Schema):
    folders: list[str]
    clips: list[str]
    stills: list[str]
    sequences: list[SequenceOut]
    others: int


class PathsIn(Schema):
    """gaps: what becomes of a sequence that lacks frames"""

    gaps: Gaps = "refuse"
    paths: Annotated[list[Words], Field(min_length=1, max_length=500)]


def _out(found: Footage, person: Person) -> FootageOut:
    rate = footage.rate_of(found)
    told = {
        "codec": "",
        "bits": 8,
        "chroma": "",
        "variable": False,
        "alpha": False,
        "held": "",
        "matrix_from": "",
        "range_from": "",
    } | found.facts
    told = {name: told[name] for name in FootageOut.model_fields if name in told} | {
        "leaves_gaps": bool(found.facts.get("missing"))
    }
    return FootageOut(
        id=found.pk, name=found.picture.name, kind=found.kind, first=found.first, count=found.count, rate=str(rate),
        seconds=float(found.count / rate), timecode=found.timecode, matrix=found.matrix, full=found.full, in_place=bool(found.folder),
        plays=found.proxy_id is not None, may_change=may_change(person, found.picture.owner_id), **told,
    )  # fmt: skip


@router.get("", response=list[FootageOut])
def list_footage(request: HttpRequest) -> list[FootageOut]:
    """Everything that moves."""
    person = person_of(request)
    found = Footage.objects.visible_to(person).filter(picture__passing=False).select_related("picture").order_by("-pk")[:2000]
    return tell_each(found, lambda one: _out(one, person))


@router.post("", response=TakenIn, auth=intake("bring in footage", file_of(CLIP_LIMIT)))
@HEAVY
def take_in(request: HttpRequest, files: File[list[UploadedFile]], gaps: Form[Gaps] = "refuse") -> TakenIn:
    """Stills, clips and the frames of sequences together: what belongs together is found by its names. Proxies become jobs.

    gaps: what becomes of a sequence that lacks frames: refused, left as it is, or the frame before held in the place of each
    """
    person = person_of(request)
    taken: list[int] = []
    left: list[str] = []
    sources: dict[str, footage.Source] = {}
    for file in files:
        assert isinstance(file, TemporaryUploadedFile)
        name = place_of(file.name, "file")
        if name in sources:
            left.append(f"{name}: is there twice; the first one was taken")
            continue
        sources[name] = footage.Source(Path(file.temporary_file_path()), name)
    clips = [name for name in sources if Path(name).suffix.lower() in media.CLIPS]
    sequences, stills = find_sequences(name for name in sources if name not in clips)
    for numbered in sequences:
        ordered = [sources[name] for _, name in sorted(numbered.names.items())]
        _try(taken, left, partial(_moving, person, partial(footage.bring_in_sequence, person, numbered, ordered, gaps=gaps)))
    for name in clips:
        _try(taken, left, partial(_moving, person, partial(footage.bring_in_clip, person, sources[name])))
    for name in stills:
        _try(taken, left, partial(rules.bring_in, person, sources[name].path, name))
    if not taken and left:
        raise PictureError("", " ; ".join(left)[:900])
    return TakenIn(pictures=taken, left_out=left)


def _moving(person: Person, bring: Callable[[], Picture]) -> Picture:
    picture = bring()
    start_proxy(person, picture.pk)
    return picture


def _try(taken: list[int], left: list[str], bring: Callable[[], Picture]) -> None:
    try:
        taken.append(bring().pk)
    except PictureError as error:
        left.append(str(error))


@router.get("/folders", response=list[str], auth=designer("look into media folders"))
def list_folders(request: HttpRequest) -> list[str]:
    """The media folders that whoever runs the server has allowed."""
    return media.names()


@router.get("/folders/{name}", response=FolderOut, auth=designer("look into media folders"))
@MEDIA
def list_folder(request: HttpRequest, name: Words, path: Words = "") -> FolderOut:
    """What a media folder of the server holds."""
    found = media.list_folder(name, path)
    return FolderOut(
        folders=found.folders, clips=found.clips, stills=found.stills, others=found.others,
        sequences=[
            SequenceOut(name=one.name_of(one.first), title=one.title, first=one.first, last=one.last, gaps=one.gaps)
            for one in found.sequences
        ],
    )  # fmt: skip


@router.post("/folders/{name}", response=TakenIn, auth=intake("bring in media"))
@MEDIA
def take_from_folder(request: HttpRequest, name: Words, given: PathsIn) -> TakenIn:
    """Read in place: nothing is copied but the small copies that are seen. A sequence is named by any of its frames."""
    person = person_of(request)
    taken: list[int] = []
    left: list[str] = []
    for path in given.paths:
        _try(taken, left, partial(_moving, person, partial(footage.bring_in_from, person, name, path, given.gaps)))
    if not taken and left:
        raise PictureError("", " ; ".join(left)[:900])
    return TakenIn(pictures=taken, left_out=left)


@router.get("/{pk}", response=FootageOut)
def read(request: HttpRequest, pk: int) -> FootageOut:
    """A clip or sequence: frames, rate, timecode, and whether it can be played yet."""
    return _out(footage.find(pk, person_of(request)), person_of(request))


@router.patch("/{pk}", response=FootageOut, auth=designer("change clips"))
@HEAVY
def change(request: HttpRequest, pk: int, given: FootageChange) -> FootageOut:
    """How it codes colour, in place of what the file says; how fast a sequence runs."""
    person = person_of(request)
    rate = Fraction(given.rate) if given.rate else None
    changed = footage.set_facts(person, pk, given.matrix, given.full, rate)
    if changed.proxy_id is None:
        start_proxy(person, pk)
    return _out(changed, person)


@router.post("/{pk}/proxy", response=FootageOut, auth=designer("make proxies"))
def make_proxy(request: HttpRequest, pk: int) -> FootageOut:
    """The small copy that plays, once more: where its job failed or was cancelled."""
    person = person_of(request)
    found = footage.find(pk, person)
    start_proxy(person, pk)
    return _out(found, person)
