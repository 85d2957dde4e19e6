"""Bringing pictures in, saying what they are, taking them away."""

from __future__ import annotations

import io
from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager, suppress
from dataclasses import dataclass, replace
from datetime import timedelta
from functools import lru_cache
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any

import numpy as np
from django.conf import settings
from django.core.files.base import ContentFile
from django.db import transaction
from django.db.models import Count, Q
from django.utils import timezone

from saucer.core.colour.conversion import convert
from saucer.core.colour.encodings import ENCODINGS, Encoding
from saucer.core.colour.rendering import View
from saucer.core.errors import PictureError
from saucer.core.pictures.io import inspect_picture
from saucer.core.pictures.profile_tables import CONVERTED_TO, convert_by_tables
from saucer.core.pictures.raw import check_white
from saucer.core.pictures.scale import make_proxy, scale_down, unheard
from saucer.core.pictures.stated import Stated, stated_encoding
from saucer.core.pictures.stored import SUFFIXES, PictureInfo
from saucer.studio.common.models import Blob
from saucer.studio.common.refusals import NotFound, NotPossible
from saucer.studio.common.store import PASSING, keep_bytes, keep_file, local_file, look_up, open_kept, put
from saucer.studio.common.uploads import check_size, place_of
from saucer.studio.encodings import rules as encodings
from saucer.studio.people.deleting import bring_back, put_away
from saucer.studio.people.models import Person, Role
from saucer.studio.people.rules import may, record, require, require_own
from saucer.studio.pictures.models import Footage, Picture

PROXY = (960, 540)
PASSING_FOR = timedelta(days=1)
MOST_PASSING = 6
"""Of one person at a time; the oldest goes when another comes."""
GONE = "There is no such picture, or it was deleted."
SMALLER = (480, 640, 720)
MOST_AT_ONCE = 16_000_000
"""Pixels whose proxy is made while somebody waits: a second or two, with 16 bits."""
_GUESS = {"openexr": "linear-709", "dpx": "film-log", "hdr": "linear-709", "raw": "linear-709"}


@dataclass(frozen=True)
class NewPicture:
    """A picture file that was looked into: its size and kind are known and it may be brought in.

    encoding: said by the person, else by the file, else guessed; stated: what the file says, whoever decided
    """

    name: str
    file_name: str
    encoding: str
    info: PictureInfo
    passing: bool = False
    stated: Stated | None = None

    @property
    def is_large(self) -> bool:
        return is_large(self.info.width, self.info.height)


def is_large(width: int, height: int) -> bool:
    """Takes its proxy so long to make that it is a job?"""
    return width * height > MOST_AT_ONCE


def look_into(
    person: Person, path: Path, file_name: str, name: str = "", encoding_id: str = "", passing: bool = False
) -> NewPicture:
    """Without an encoding it is what the file says, else guessed from its kind, and can be changed. What a profile says that is none of
    ours becomes an encoding of the team's own; where only its tables say it, `as_kept` converts a single picture.

    passing: only to look at, which everybody may. Raises: NotAllowed, PictureError, EncodingError
    """
    require(person, Role.VIEWER if passing else Role.DESIGNER, "bring in pictures")
    place = place_of(file_name, "picture")
    check_size(path.stat().st_size, settings.PICTURE_UPLOAD_LIMIT, place, PictureError)
    info = inspect_picture(path, place)
    stated = stated_encoding(path)
    if stated is not None and stated.own is not None and not encoding_id and may(person, Role.DESIGNER):
        stated = replace(stated, encoding=encodings.adopt(person, stated.own).id)
    said = stated.encoding if stated is not None else ""
    chosen = encodings.find(encoding_id or said or _GUESS.get(info.kind, "srgb")).id
    return NewPicture((name or Path(place).stem)[:120], place, chosen, info, passing, stated)


def bring_in(person: Person, path: Path, file_name: str, name: str = "", encoding_id: str = "", passing: bool = False) -> Picture:
    """Keep a picture file and make its proxy. Raises: as `look_into`. Nothing is kept in the database unless all of it worked."""
    new = look_into(person, path, file_name, name, encoding_id, passing)
    with as_kept(new, path, encoding_id) as (new, path):
        proxy = proxy_of(path, new.encoding, new.file_name)
        return add(person, new, keep_file(path), proxy)


@contextmanager
def as_kept(new: NewPicture, path: Path, encoding_id: str) -> Iterator[tuple[NewPicture, Path]]:
    """The picture and the file to keep of it: its own, or one that was converted by the tables of its profile, in 16 bits.

    encoding_id: as the person said, which keeps the file as it is; empty where nothing was said
    """
    stated = new.stated
    if encoding_id or stated is None or stated.tables is None or stated.own is not None:
        yield new, path
        return
    tables, words = stated.tables, f"{stated.words} (of tables; converted by them)"
    new = replace(
        new, file_name=f"{Path(new.file_name).stem}.tiff", encoding=CONVERTED_TO.id,
        stated=replace(stated, encoding=CONVERTED_TO.id, words=words),
    )  # fmt: skip
    with TemporaryDirectory() as folder:
        converted = Path(folder) / "converted.tiff"
        convert_by_tables(path, converted, tables, new.file_name)
        yield replace(new, info=inspect_picture(converted, new.file_name)), converted


def words_of_stated(stated: Stated | None) -> str:
    """What a file says of itself, and what of it is not read."""
    return "; ".join(one for one in (stated.words, stated.left_out) if one) if stated is not None else ""


def add(person: Person, new: NewPicture, blob: Blob, proxy: Proxy) -> Picture:
    """blob: its file, kept"""
    with transaction.atomic():
        encodings.hold(new.encoding)
        picture = Picture.objects.create(
            name=new.name, encoding=new.encoding, file_name=new.file_name, blob=blob, proxy=proxy.blob, mended=proxy.mended,
            owner=person, passing=new.passing, stated=words_of_stated(new.stated)[:160],
            stated_encoding=new.stated.encoding if new.stated else "", **_facts_of(new.info),
        )  # fmt: skip
        if new.passing:
            let_go(person, but_last=MOST_PASSING)
        record(person, "look at picture" if new.passing else "bring in picture", picture, sha256=blob.pk)
    return picture


def keep_passing(person: Person, pk: int) -> Picture:
    """A picture of one's own that was only to be looked at becomes the team's. Raises: NotAllowed, NotFound"""
    require(person, Role.DESIGNER, "keep pictures")
    with transaction.atomic():
        picture = Picture.objects.select_for_update().filter(pk=pk, deleted=None, owner=person).first()
        if picture is None:
            raise NotFound(GONE)
        if picture.passing:
            picture.passing = False
            picture.save(update_fields=["passing"])
            record(person, "bring in picture", picture, sha256=picture.blob_id)
    return picture


def let_go(person: Person, but_last: int = 0) -> None:
    """Pictures that this person only looked at, but for the last so many."""
    old = Picture.objects.filter(owner=person, passing=True, deleted=None).order_by("-pk").values_list("pk", flat=True)[but_last:]
    Picture.objects.filter(pk__in=list(old)).update(deleted=timezone.now())


def list_for(person: Person) -> list[Picture]:
    """The team's, and those that this person only looks at, these first, the newest before the others; `shot_count`: in projects."""
    found = Picture.objects.visible_to(person).select_related("footage").annotate(shot_count=Count("shots"))
    found = found.exclude(passing=True, created__lt=timezone.now() - PASSING_FOR)
    return sorted(found, key=lambda one: (not one.passing, one.position, -one.pk if one.passing else one.pk))


def _facts_of(info: PictureInfo) -> dict[str, object]:
    return {"kind": info.kind, "depth": info.depth, "width": info.width, "height": info.height}


@dataclass(frozen=True)
class Proxy:
    """encoding, white: as what its file was read; mended: pixels that were not finite"""

    blob: Blob
    encoding: str
    white: int
    mended: int


def proxy_of(
    path: Path, encoding_id: str, place: str, report: Callable[[float], None] = unheard, white: int | None = None
) -> Proxy:
    """Seconds of work for a large picture.

    report: called with the fraction done; raise from it to stop; white: of a raw photograph, kelvin. Raises: PictureError
    """
    pixels, mended = make_proxy(path, encodings.find(encoding_id), *PROXY, name=place, report=report, white=white)
    packed = io.BytesIO()
    np.save(packed, pixels)
    proxy = Proxy(keep_bytes(packed.getvalue()), encoding_id, white or 0, mended)
    _keep_small(proxy.blob.pk, pixels, encodings.find(encoding_id))  # for walls of hundreds: reading it is what takes long there
    return proxy


def make_proxy_again(picture: Picture) -> None:
    """From the picture itself, where the stored proxy is damaged. Raises: PictureError"""
    with local_file(picture.blob_id) as path:
        proxy = proxy_of(path, picture.encoding, picture.file_name, white=picture.chosen_white)
    Picture.objects.filter(pk=picture.pk).update(proxy=proxy.blob, mended=proxy.mended)


def find(pk: int, person: Person) -> Picture:
    """Raises: NotFound, for deleted ones and what is kept from the person too"""
    picture: Picture | None = Picture.objects.find_for(person, pk)
    if picture is None:
        raise NotFound(GONE)
    return picture


def find_many(ids: Sequence[int], person: Person) -> list[Picture]:
    """In this order; one query. Raises: NotFound where one of them is not there for the person"""
    found = Picture.objects.visible_to(person).in_bulk(ids)
    if len(found) < len(set(ids)):
        raise NotFound(GONE)
    return [found[pk] for pk in ids]


def find_to_share(ids: Sequence[int], person: Person) -> list[Picture]:
    """To be put where others look: into sets, boards, projects, remarks. Raises: NotFound; NotPossible for a frame of one's own"""
    found = Picture.objects.visible_to(person).select_related("footage").in_bulk(ids)
    if len(found) < len(set(ids)):
        raise NotFound("Some of these pictures were deleted meanwhile. Choose again.")
    passing = next((one for one in found.values() if one.passing), None)
    if passing is not None:
        raise NotPossible(f"Your own frame {passing.name} goes when you sign out. Keep it among the pictures first.")
    return [found[pk] for pk in ids]


def find_proxy(pk: int, person: Person) -> Picture:
    """Only what it takes to look at it. Raises: NotFound"""
    picture: Picture | None = Picture.objects.only("proxy", "encoding", "owner", "test", "passing").find_for(person, pk)
    if picture is None:
        raise NotFound(GONE)
    return picture


@dataclass(frozen=True)
class Reading:
    """How a picture's file is read; what is none stays as it is.

    white: kelvin that a raw photograph is balanced to; 0: as its camera said
    """

    encoding: str | None = None
    white: int | None = None

    def changes(self, picture: Picture) -> bool:
        return self.encoding not in (None, picture.encoding) or self.white not in (None, picture.white)

    def over(self, picture: Picture) -> tuple[str, int]:
        """Encoding and white as they then are."""
        return (
            picture.encoding if self.encoding is None else self.encoding,
            picture.white if self.white is None else self.white,
        )  # fmt: skip


def check_change(person: Person, pk: int, wanted: Reading) -> Picture:
    """May this person change it, and to this? Raises: NotFound, NotAllowed, EncodingError; PictureError for no white; NotPossible"""
    picture = find(pk, person)
    if not (picture.passing and picture.owner_id == person.pk):
        require_own(person, picture.owner, "change this picture")
    if wanted.encoding is not None:
        encodings.find(wanted.encoding)
    if wanted.white is not None and wanted.white != picture.white:
        if picture.kind != "raw" or Footage.objects.filter(pk=pk).exists():
            raise NotPossible("Only a raw photograph has a white to choose.")
        if wanted.white:
            check_white(wanted.white, "white")
    return picture


def change(person: Person, pk: int, name: str | None, wanted: Reading, proxy: Proxy | None = None) -> Picture:
    """Rename a picture, or say how it is read: its proxy is then made again. proxy: where it was made already"""
    picture = check_change(person, pk, wanted)
    fields: dict[str, Any] = {}
    if name is not None:
        if not name.strip():
            raise NotPossible("A picture needs a name.")
        fields["name"] = name.strip()[:120]
    if wanted.changes(picture):
        proxy = proxy or read_again(picture, wanted)
        fields |= {"encoding": proxy.encoding, "white": proxy.white, "proxy": proxy.blob, "mended": proxy.mended}
    with transaction.atomic():
        changed = Picture.objects.visible_to(person).select_for_update(of=("self",)).filter(pk=pk).first()
        if changed is None:
            raise NotFound(GONE)
        if proxy is not None and wanted.over(changed) != (proxy.encoding, proxy.white):
            raise NotPossible("Somebody has chosen how this picture is read meanwhile. Look at it, and choose again.")
        encodings.hold(fields.get("encoding", ""))
        for field, value in fields.items():
            setattr(changed, field, value)
        changed.save(update_fields=list(fields))
        if "encoding" in fields:
            Footage.objects.filter(pk=pk).update(proxy=None)  # its light was averaged as that of another encoding
        told = {"white": changed.white} if wanted.white is not None else {}
        record(person, "change picture", changed, name=changed.name, encoding=changed.encoding, **told)
    return changed


def read_again(picture: Picture, wanted: Reading, report: Callable[[float], None] = unheard) -> Proxy:
    """Its proxy as the file is then read. report: as `proxy_of`. Raises: PictureError"""
    encoding_id, white = wanted.over(picture)
    with local_file(picture.blob_id) as path:
        return proxy_of(path, encoding_id, picture.file_name, report, white or None)


def name_file(picture: Picture) -> str:
    """The name it came under, ending as what it is: a PNG that came as x.html leaves as x.png."""
    suffixes, name = SUFFIXES.get(picture.kind, (".bin",)), Path(picture.file_name)
    return picture.file_name if name.suffix.lower() in suffixes else f"{name.stem}{suffixes[0]}"


def delete(person: Person, pk: int) -> None:
    """It can be brought back for 30 days."""
    put_away(person, Picture.objects.known_to(person), pk, "picture")


def restore(person: Person, pk: int) -> Picture:
    return bring_back(person, Picture.objects.known_to(person), pk, "picture")


@lru_cache(maxsize=24)
def _proxy(sha256: str) -> np.ndarray:
    with open_kept(sha256) as file:
        pixels: np.ndarray = np.load(io.BytesIO(file.read()), allow_pickle=False)
    pixels.flags.writeable = False
    return pixels


@lru_cache(maxsize=24)
def _proxy_as(sha256: str, source: Encoding, target: Encoding, view: View) -> np.ndarray:
    pixels = np.ascontiguousarray(convert(_proxy(sha256), source, target, view), np.float32)
    pixels.flags.writeable = False
    return pixels


@lru_cache(maxsize=24)
def _small_proxy_as(sha256: str, source: Encoding, target: Encoding, view: View, width: int) -> np.ndarray:
    small = _kept_small(sha256, source) if width == SMALLER[0] else _averaged(_proxy(sha256), source, width)
    pixels = np.ascontiguousarray(convert(small, source, target, view), np.float32)
    pixels.flags.writeable = False
    return pixels


def _averaged(pixels: np.ndarray, source: Encoding, width: int) -> np.ndarray:
    """Averaged down in linear light, in its own encoding."""
    small = scale_down(convert(pixels, source, ENCODINGS["linear-709"]), width, PROXY[1])
    return np.asarray(convert(small, ENCODINGS["linear-709"], source), np.float32)


def _small_name(sha256: str, source: Encoding) -> str:
    return f"{PASSING}small-{sha256[:40]}-{source.id}.npy"


def _keep_small(sha256: str, pixels: np.ndarray, source: Encoding) -> np.ndarray:
    """In half floats: finer than the 8 bits that cards are seen in."""
    small = _averaged(pixels, source, SMALLER[0]).astype(np.float16)
    packed = io.BytesIO()
    np.save(packed, small)
    put(_small_name(sha256, source), ContentFile(packed.getvalue()))
    return small.astype(np.float32)


def _kept_small(sha256: str, source: Encoding) -> np.ndarray:
    """Made again where it was swept away, or cut off."""
    name = _small_name(sha256, source)
    with suppress(ValueError, EOFError):  # cut off
        if (kept := look_up(name, "small copy", bool)) is not None:
            return np.asarray(np.load(io.BytesIO(kept), allow_pickle=False), np.float32)
    return _keep_small(sha256, _proxy(sha256), source)


def proxy_in(picture: Picture, target: Encoding | None = None, width: int | None = None, view: View = "plain") -> np.ndarray:
    """(h, w, 3) float32 proxy of the picture as code values of the encoding, of its own without; read-only, kept between requests.

    view: by which it goes from scene to display, or back
    width: when given and well below the proxy's, its light is averaged down to the next larger of a few widths
    """
    source = encodings.find(picture.encoding)
    step = next((step for step in SMALLER if width is not None and width <= step), None)
    if step is None:
        return _proxy_as(picture.proxy_id, source, target or source, view)
    return _small_proxy_as(picture.proxy_id, source, target or source, view, step)


def _count_uses(encoding_id: str) -> int:
    """Deleted ones too, which can come back, and small copies of clips."""
    return Picture.objects.filter(Q(encoding=encoding_id) | Q(footage__proxy_encoding=encoding_id)).count()


encodings.USES.append(("pictures", _count_uses))
