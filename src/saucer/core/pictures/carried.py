"""What a picture says beside its samples, carried into the file that is made of it: EXIF, XMP and IPTC, attributes of EXR, its windows."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import OpenImageIO as oiio

from saucer.core.reading.passing import passed

# How a file is stored, and its colour, which are those of the new file; and what the library only tells of the reading.
_STORAGE = ("oiio:", "tiff:", "png:", "jpeg:", "webp:", "dpx:", "openexr:", "iccprofile", "thumbnail")
_OF_THE_FILE = frozenset({
    "orientation", "compression", "planarconfig", "cicp", "chromaticities", "exif:colorspace", "exif:pixelxdimension",
    "exif:pixelydimension", "xresolution", "yresolution", "resolutionunit", "name", "type", "view", "multiview",
})  # fmt: skip

_WITHOUT_EXIF = frozenset({"webp", "dpx"})


@passed
@dataclass(frozen=True)
class Carried:
    """attributes: name, type (by the library's name) and value

    window: x, y of the samples in the whole, and x, y, width and height of the whole; or none"""

    attributes: tuple[tuple[str, str, Any], ...] = ()
    window: tuple[int, int, int, int, int, int] | None = None


NOTHING = Carried()


def carried_from(spec: Any) -> Carried:
    """Of the header of a file that is read. Its orientation is settled when it is turned upright, and so is not carried."""
    found = []
    for one in spec.extra_attribs:
        name = one.name.lower()
        if name not in _OF_THE_FILE and not name.startswith(_STORAGE):
            found.append((one.name, *_as_written(one)))
    window = (spec.x, spec.y, spec.full_x, spec.full_y, spec.full_width, spec.full_height)
    moved = window != (0, 0, 0, 0, spec.width, spec.height)
    return Carried(tuple(found), window if moved else None)


def _as_written(one: Any) -> tuple[str, Any]:
    """Type and value as the library writes them: fractions that it reads as two whole numbers it takes as one number only."""
    if str(one.type) in ("uint16[2]", "uint32[2]", "int[2]", "uint[2]") and one.value[1]:
        return "float", one.value[0] / one.value[1]
    return str(one.type), one.value


def put_into(spec: oiio.ImageSpec, kind: str, carried: Carried) -> None:
    """Into the header of a file to be written; each kind keeps of it what it has room for."""
    for name, type_, value in carried.attributes:
        spec.attribute(name, oiio.TypeDesc(type_), value)
    if carried.window is not None and kind == "openexr":
        spec.x, spec.y, spec.full_x, spec.full_y, spec.full_width, spec.full_height = carried.window


def lost_words(carried: Carried, kind: str, lost: list[str], parts: int) -> tuple[str, ...]:
    """What a file of this kind has no room for, in words. lost: channels that are not written; parts: pictures in the file"""
    words = []
    if kind != "openexr" and carried.window is not None:
        x, y, _, _, width, height = carried.window
        words.append(f"its place at {x}, {y} in a window of {width} x {height}")
    if kind in _WITHOUT_EXIF and carried.attributes:
        names = [name for name, _, _ in carried.attributes]
        words.append(f"what it says of itself: {', '.join(names[:8])}{', ...' if len(names) > 8 else ''}")
    if lost:
        words.append(f"channels {', '.join(lost[:8])}{', ...' if len(lost) > 8 else ''}")
    if parts > 1:
        words.append(f"parts 2 to {parts} of the file")
    return tuple(words)
