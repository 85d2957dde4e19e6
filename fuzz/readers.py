"""What a fuzzer asks each reader: one function a kind, given bytes. What it returns says how they were taken; what it raises is a finding.

Read in this process, where coverage is seen; the limits of a reader's process are tried by `fuzz.hostile`.
"""

from __future__ import annotations

import hashlib
import io
import os
import tempfile
import zipfile
from collections.abc import Callable
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import OpenImageIO as oiio
import opentimelineio as otio
from PIL import Image, ImageCms

from saucer.core.clips.decoding import StoredClip
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.errors import LookError, LutError, PictureError, SaucerError
from saucer.core.files.fitting import fit_lut
from saucer.core.files.format import Options
from saucer.core.files.registry import formats, read_lut
from saucer.core.files.zips import read_members
from saucer.core.look.bundle import read_bundle
from saucer.core.lut.domain import grid
from saucer.core.lut.formulas import Cdl
from saucer.core.lut.table import Curve1D, Lattice, Lut
from saucer.core.pictures.profile import profile_of
from saucer.core.pictures.profile_tables import tables_of_profile
from saucer.core.pictures.stated import find_stated
from saucer.core.pictures.stored import inspect_stored, read_stored
from saucer.studio.projects.conform.timelines import TimelineError, parse_timeline

PLACE = "fuzz"
LARGEST_HERE = 1 << 20
"""Pixels of a picture or frame that is decoded: larger ones only take time."""
formats()  # imports the modules of the formats


def _on_disk(data: bytes) -> Path:
    """One file a process, written anew for each."""
    path = Path(tempfile.gettempdir()) / f"saucer-fuzz-{os.getpid()}"
    path.write_bytes(data)
    return path


def _refused(error: SaucerError) -> str:
    assert error.place.startswith(PLACE), "a refusal says where"
    assert len(error.problem) > 5, "a refusal says what"
    return "refused"


def lut(data: bytes) -> str:
    try:
        read, form = read_lut(data, PLACE)
    except LutError as error:
        return _refused(error)
    assert all(np.isfinite(table).all() for table in read.tables)
    return form.id


def look(data: bytes) -> str:
    try:
        bundle = read_bundle(data, PLACE)
    except (LookError, LutError):
        return "refused"
    return "bundle" if bundle.files else "look"


def pack(data: bytes) -> str:
    """A bad member is a bad row, a pack that holds too much is refused."""
    try:
        for _, content in read_members(data, PLACE, 50, 8 << 20):
            if not isinstance(content, LutError):
                lut(content)
    except LutError as error:
        return _refused(error)
    return "read"


def picture(data: bytes) -> str:
    path = _on_disk(data)
    try:
        info = inspect_stored(path, PLACE)
        find_stated(path)
        if info.width * info.height <= LARGEST_HERE:
            read_stored(path, PLACE)
    except PictureError as error:
        return _refused(error)
    return info.kind


def clip(data: bytes) -> str:
    path = _on_disk(data)
    try:
        with StoredClip(path, PLACE, None, 1) as opened:
            if opened.facts.width * opened.facts.height <= LARGEST_HERE:
                opened.frame(0)
                opened.frame(opened.facts.count - 1)
    except PictureError as error:
        return _refused(error)
    return "read"


def timeline(data: bytes) -> str:
    try:
        parse_timeline(data, PLACE, Fraction(24))
    except TimelineError as error:
        return _refused(error)
    return "otio" if data.lstrip().startswith(b"{") else "edl"


def profile(data: bytes) -> str:
    """As it stands in a picture."""
    packed = io.BytesIO()
    Image.fromarray(np.zeros((4, 4, 3), np.uint8)).save(packed, "PNG", icc_profile=data)
    path = _on_disk(packed.getvalue())
    try:
        find_stated(path)
    except PictureError as error:
        return _refused(error)
    return "tables" if tables_of_profile(data) else "none"


READERS: dict[str, Callable[[bytes], str]] = {
    "lut": lut, "look": look, "pack": pack, "picture": picture, "clip": clip, "timeline": timeline, "profile": profile,
}  # fmt: skip


def seeds(kind: str) -> list[bytes]:
    """Small good files, of every format that the kind has."""
    return {
        "lut": _luts, "look": _looks, "pack": _packs, "picture": _pictures, "clip": _clips, "timeline": _timelines, "profile": _profiles,
    }[kind]()  # fmt: skip


def _luts() -> list[bytes]:
    lattice = Lut(lattice=Lattice((grid(4) ** np.float32(1.2)).reshape(4, 4, 4, 3)), title="seed", comments=("Rights: seed",))
    curve = Lut(Curve1D(np.repeat(np.linspace(0, 1, 8, dtype=np.float32)[:, None], 3, 1)))
    found = []
    for form in formats().values():
        made = Lut(links=(Cdl((1.1, 1, 1)),)) if "cdl" in form.holds.tables else curve if form.id == "spi1d" else lattice
        found.append(form.write(fit_lut(made, form).lut, Options()))
    return found


_CURVES = b'{"kind": "curves", "red": [[0, 0.1], [1, 1]]}'
_LOOK = b'{"format": "saucer-look", "version": 1, "name": "seed", "steps": [%s]}'


def _looks() -> list[bytes]:
    one = _luts()[0]
    steps = b'{"kind": "lut", "sha256": "%s"}, %s' % (hashlib.sha256(one).hexdigest().encode(), _CURVES)
    packed = [_packed(method, {"look.json": _LOOK % steps, "luts/one.cube": one}) for method in _METHODS]
    return [_LOOK % _CURVES, *packed]


_METHODS = (zipfile.ZIP_STORED, zipfile.ZIP_DEFLATED, zipfile.ZIP_LZMA)


def _packs() -> list[bytes]:
    return [_packed(method, {f"Film/{index}.lut": one for index, one in enumerate(_luts()[:4])}) for method in _METHODS]


def _packed(method: int, members: dict[str, bytes]) -> bytes:
    file = io.BytesIO()
    with zipfile.ZipFile(file, "w", method) as archive:
        for name, data in members.items():
            archive.writestr(name, data)
    return file.getvalue()


def _pictures() -> list[bytes]:
    """8 x 6, in the formats and depths that are read."""
    ramp = np.linspace(0, 1, 8 * 6 * 3, dtype=np.float32).reshape(6, 8, 3)
    found = []
    with tempfile.TemporaryDirectory() as folder:
        for suffix, depth, bits in (
            ("png", oiio.UINT8, 8), ("png", oiio.UINT16, 16), ("jpg", oiio.UINT8, 8), ("tif", oiio.UINT8, 8), ("tif", oiio.FLOAT, 32),
            ("exr", oiio.HALF, 16), ("exr", oiio.FLOAT, 32), ("dpx", oiio.UINT16, 10), ("dpx", oiio.UINT16, 16), ("webp", oiio.UINT8, 8),
        ):  # fmt: skip
            path, spec = Path(folder) / f"one.{suffix}", oiio.ImageSpec(8, 6, 3, depth)
            spec.attribute("oiio:BitsPerSample", bits)
            target = oiio.ImageOutput.create(str(path))
            target.open(str(path), spec)
            target.write_image(ramp)
            target.close()
            found.append(path.read_bytes())
    return found


def _clips() -> list[bytes]:
    """Three frames of 32 x 32, in the containers and codecs that are read."""
    found = []
    for suffix, codec, form in (
        ("mp4", "libx264", "yuv420p"), ("mov", "prores_ks", "yuv422p10le"), ("mkv", "ffv1", "yuv444p"), ("avi", "mjpeg", "yuvj420p"),
        ("webm", "libvpx", "yuv420p"), ("mov", "png", "rgb24"),
    ):  # fmt: skip
        file = io.BytesIO()
        with av.open(file, "w", format={"mkv": "matroska"}.get(suffix, suffix)) as container:
            stream = container.add_stream(codec, rate=24)
            stream.width, stream.height, stream.pix_fmt = 32, 32, form
            for number in range(3):
                frame = av.VideoFrame.from_ndarray(np.full((32, 32, 3), 60 * number, np.uint8), format="rgb24")
                container.mux(stream.encode(frame))
            container.mux(stream.encode())
        found.append(file.getvalue())
    return found


def _timelines() -> list[bytes]:
    made = otio.schema.Timeline("seed")
    track = otio.schema.Track("V1", kind=otio.schema.TrackKind.Video)
    for number in range(2):
        span = otio.opentime.TimeRange(otio.opentime.RationalTime(10, 24), otio.opentime.RationalTime(48, 24))
        media = otio.schema.ExternalReference(f"file:///a/quay_{number}.mov", span)
        track.append(otio.schema.Clip(f"shot {number}", media, span))
    made.tracks.append(track)
    edit_list = (
        "TITLE: SEED\nFCM: NON-DROP FRAME\n\n"
        "001  QUAY     V     C        01:00:00:00 01:00:02:00 00:00:00:00 00:00:02:00\n"
        "* FROM CLIP NAME: QUAY.MOV\n*ASC_SOP (1.1 1 1)(0 0 0)(1 1 1)\n*ASC_SAT 0.9\n"
        "002  AX       V     D    024 01:00:04:00 01:00:06:00 00:00:02:00 00:00:04:00\n* TO CLIP NAME: HARBOUR.MOV\n"
    )
    return [otio.adapters.write_to_string(made, "otio_json", indent=0).encode(), edit_list.encode()]


def _profiles() -> list[bytes]:
    tables = next(one for one in _luts() if one[36:40] == b"acsp")
    return [tables, profile_of(ENCODINGS["rec709"]), ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes()]
