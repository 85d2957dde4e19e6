"""Bringing pictures in, saying what they are, taking them away."""

from __future__ import annotations

import io
from functools import lru_cache
from pathlib import Path

import numpy as np
from django.conf import settings
from django.db import transaction

from saucer.core.colour.conversion import convert
from saucer.core.colour.encodings import ENCODINGS, Encoding
from saucer.core.errors import PictureError
from saucer.core.grade import proxy
from saucer.core.pictures import PictureInfo, fitted, inspect_picture
from saucer.studio.deleting import bring_back, put_away
from saucer.studio.encodings import rules as encodings
from saucer.studio.people.models import Person, Role
from saucer.studio.people.rules import record, require, require_own
from saucer.studio.pictures.models import Picture
from saucer.studio.refusals import NotFound, NotPossible
from saucer.studio.store import keep_bytes, keep_file, local_file, open_kept

PROXY = (960, 540)
SMALLER = (480, 640, 720)
_GUESS = {"openexr": "linear-709", "dpx": "film-log"}


def bring_in(person: Person, path: Path, file_name: str, name: str = "", encoding_id: str = "") -> Picture:
    """Keep a picture file and make its proxy. Without an encoding it is guessed from the kind of file, and can be changed.

    Raises: NotAllowed; PictureError; EncodingError. Nothing is kept in the database unless all of it worked.
    """
    require(person, Role.DESIGNER, "bring in pictures")
    place = Path(file_name).name[:200] or "picture"
    if path.stat().st_size > settings.PICTURE_UPLOAD_LIMIT:
        raise PictureError(place, f"larger than {settings.PICTURE_UPLOAD_LIMIT // 2**20} MB")
    info = inspect_picture(path, place)
    chosen = encoding_id or _GUESS.get(info.kind, "srgb")
    proxy_sha, mended = _make_proxy(path, chosen, place)
    sha256 = keep_file(path)
    with transaction.atomic():
        picture = Picture.objects.create(
            name=(name or Path(place).stem)[:120], encoding=chosen, file_name=place, sha256=sha256, proxy_sha256=proxy_sha,
            mended=mended, owner=person, **_stored(info),
        )  # fmt: skip
        record(person, "bring in picture", picture, sha256=sha256)
    return picture


def _stored(info: PictureInfo) -> dict[str, object]:
    return {"kind": info.kind, "depth": info.depth, "width": info.width, "height": info.height}


def _make_proxy(path: Path, encoding_id: str, place: str) -> tuple[str, int]:
    pixels, mended = proxy(path, encodings.find(encoding_id), *PROXY, name=place)
    packed = io.BytesIO()
    np.save(packed, pixels)
    return keep_bytes(packed.getvalue()), mended


def find(pk: int) -> Picture:
    """Raises: NotFound, for deleted ones too."""
    picture = Picture.objects.filter(pk=pk, deleted=None).first()
    if picture is None:
        raise NotFound("There is no such picture, or it was deleted.")
    return picture


def change(person: Person, pk: int, name: str | None, encoding_id: str | None) -> Picture:
    """Rename a picture, or say that it is in another encoding: its proxy is then made again."""
    picture = find(pk)
    require_own(person, picture.owner, "change this picture")
    if name is not None:
        if not name.strip():
            raise NotPossible("A picture needs a name.")
        picture.name = name.strip()[:120]
    if encoding_id is not None and encoding_id != picture.encoding:
        with local_file(picture.sha256) as path:
            picture.proxy_sha256, picture.mended = _make_proxy(path, encoding_id, picture.file_name)
        picture.encoding = encoding_id
    with transaction.atomic():
        picture.save()
        record(person, "change picture", picture, name=picture.name, encoding=picture.encoding)
    return picture


def delete(person: Person, pk: int) -> None:
    """It can be brought back for 30 days."""
    put_away(person, find(pk), "picture")


def restore(person: Person, pk: int) -> Picture:
    return bring_back(person, Picture, pk, "picture")


@lru_cache(maxsize=24)
def _proxy(sha256: str) -> np.ndarray:
    with open_kept(sha256) as file:
        pixels: np.ndarray = np.load(io.BytesIO(file.read()), allow_pickle=False)
    pixels.flags.writeable = False
    return pixels


@lru_cache(maxsize=24)
def _proxy_as(sha256: str, source: Encoding, target: Encoding) -> np.ndarray:
    pixels = np.ascontiguousarray(convert(_proxy(sha256), source, target), np.float32)
    pixels.flags.writeable = False
    return pixels


@lru_cache(maxsize=24)
def _small_proxy_as(sha256: str, source: Encoding, target: Encoding, width: int) -> np.ndarray:
    light = convert(_proxy(sha256), source, ENCODINGS["linear-709"])
    small = fitted(light, width, PROXY[1])
    pixels = np.ascontiguousarray(convert(small, ENCODINGS["linear-709"], target), np.float32)
    pixels.flags.writeable = False
    return pixels


def proxy_in(picture: Picture, target: Encoding | None = None, width: int | None = None) -> np.ndarray:
    """(h, w, 3) float32 proxy of the picture as code values of the encoding, of its own without; read-only, kept between requests.

    width: when given and well below the proxy's, its light is averaged down to the next larger of a few widths
    """
    source = encodings.find(picture.encoding)
    step = next((step for step in SMALLER if width is not None and width <= step), None)
    if step is None:
        return _proxy_as(picture.proxy_sha256, source, target or source)
    return _small_proxy_as(picture.proxy_sha256, source, target or source, step)
