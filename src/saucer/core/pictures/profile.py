"""What a written picture says of its encoding: ICC profiles of displays, cICP in PNG, chromaticities in EXR."""

from __future__ import annotations

import struct
from functools import lru_cache

import numpy as np
import OpenImageIO as oiio

from saucer.core.colour.adaptation import BRADFORD, adaptation
from saucer.core.colour.encodings import Encoding
from saucer.core.colour.primaries import rgb_to_xyz, xyz_of
from saucer.core.pictures.numbers import UNSAID, tags_of

D50 = np.array([0.9642, 1.0, 0.8249])
"""The white that profiles connect by. Source: ICC.1:2022, 7.2.16"""
HOLDS_PROFILE = frozenset({"png", "jpeg", "tiff", "webp"})
ENTRIES = 4096


def state(spec: oiio.ImageSpec, kind: str, encoding: Encoding | None) -> None:
    """Write into a file's header what it is in. Of a scene's logarithmic encoding nothing is said: no format has a word for it."""
    spec["oiio:ColorSpace"] = "unknown"  # without, the library calls every PNG sRGB
    if encoding is None:
        return
    if kind == "openexr" and encoding.linear:
        own = encoding.primaries
        spec.attribute("chromaticities", oiio.TypeDesc("float[8]"), (*own.red, *own.green, *own.blue, *own.white))
    elif kind == "png" and encoding.hdr and tags_of(encoding) != UNSAID:  # no ICC profile of curves holds these
        spec.attribute("CICP", oiio.TypeDesc("int[4]"), (*tags_of(encoding), 0, 1))
    elif kind in HOLDS_PROFILE and encoding.referred == "display" and encoding.bounded:
        data = profile_of(encoding)
        spec.attribute("ICCProfile", oiio.TypeDesc(f"uint8[{len(data)}]"), np.frombuffer(data, np.uint8))


@lru_cache(maxsize=32)
def profile_of(encoding: Encoding) -> bytes:
    """A display's profile of three primaries and a curve, of version 2.4, which everything reads.

    Source: ICC.1:2001-04, 6.1 (header), 6.3 (tags), 6.5.3 (curveType), 6.5.17 (textDescriptionType), 6.5.26 (XYZType)
    """
    to_d50 = adaptation(BRADFORD, xyz_of(encoding.primaries.white), D50) @ rgb_to_xyz(encoding.primaries)
    curve = np.clip(encoding.transfer.decode(np.linspace(0, 1, ENTRIES)), 0, 1)
    table = b"curv" + bytes(4) + struct.pack(">I", ENTRIES) + (curve * 65535 + 0.5).astype(">u2").tobytes()
    name = encoding.name.encode("ascii", "replace") + b"\0"
    tags = {
        b"desc": b"desc" + bytes(4) + struct.pack(">I", len(name)) + name + bytes(4 + 4 + 2 + 1 + 67),
        b"cprt": b"text" + bytes(4) + b"No copyright, use freely\0",
        b"wtpt": _xyz(D50),
        **{letter + b"XYZ": _xyz(to_d50[:, channel]) for channel, letter in enumerate((b"r", b"g", b"b"))},
    }
    start = 128 + 4 + 12 * (len(tags) + 3)
    body, entries = b"", b""
    for tag, content in tags.items():
        entries += struct.pack(">4sII", tag, start + len(body), len(content))
        body += content + bytes(-len(content) % 4)
    entries += b"".join(struct.pack(">4sII", letter + b"TRC", start + len(body), len(table)) for letter in (b"r", b"g", b"b"))
    body += table + bytes(-len(table) % 4)
    head = struct.pack(">I4xI4s4s4s", start + len(body), 0x02400000, b"mntr", b"RGB ", b"XYZ ")
    head += struct.pack(">6H", 1980, 1, 1, 0, 0, 0) + b"acsp"  # the same picture gives the same bytes
    head = head.ljust(68, b"\0") + _xyz(D50)[8:]
    return head.ljust(128, b"\0") + struct.pack(">I", len(tags) + 3) + entries + body


def _xyz(values: np.ndarray) -> bytes:
    return b"XYZ " + bytes(4) + b"".join(struct.pack(">i", round(float(one) * 65536)) for one in values)
