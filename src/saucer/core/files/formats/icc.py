"""ICC device link: one lattice between two RGB encodings. Source: ICC.1:2022 (profile version 4.4), clauses 7, 8.6, 10.12 (lutAToBType).

Read are also lut8Type and lut16Type (10.10, 10.11), as version 2 links have them. Numbers are 16-bit, or 8-bit where a file has them so.
"""

from __future__ import annotations

import struct
from datetime import UTC, datetime

import numpy as np

from saucer.core.errors import LutError
from saucer.core.files.format import PLAIN, Format, Holds, Options
from saucer.core.files.lines import one_line
from saucer.core.lut.domain import UNIT
from saucer.core.lut.icc_tables import LONGEST_CURVE, PEAK, Bytes, read_tables, tags_of
from saucer.core.lut.table import Curve1D, Lut, lut_of

SIGNATURE = b"acsp"
DATE = datetime(2000, 1, 1, tzinfo=UTC)
"""Of every profile we write, so that the same LUT gives the same bytes."""
_CLASSES = {b"mntr": "a display profile", b"prtr": "an output profile", b"scnr": "an input profile", b"spac": "a colour space profile",
            b"abst": "an abstract profile", b"nmcl": "a named colour profile"}  # fmt: skip


def sniff(data: bytes) -> bool:
    return data[36:40] == SIGNATURE


def read(data: bytes) -> Lut:
    """Raises: LutError for what is no RGB to RGB device link, is damaged, or outside 2..129 nodes a side"""
    profile = Bytes(data, "the profile")
    kind = profile.part(12, 4)
    if kind != b"link":
        raise LutError("byte 12", f"{_CLASSES.get(kind, 'a profile')}, not a device link; a LUT is needed, made from two profiles")
    if profile.part(16, 4) != b"RGB " or profile.part(20, 4) != b"RGB ":
        spaces = " to ".join(profile.part(at, 4).decode("ascii", "replace").strip() for at in (16, 20))
        raise LutError("byte 16", f"links {spaces}; only RGB to RGB is read")
    tags = tags_of(profile)
    if b"A2B0" not in tags:
        raise LutError("byte 128", "has no A2B0 tag, in which a device link keeps its table")
    chain = read_tables(Bytes(tags[b"A2B0"], "the A2B0 tag"))
    return lut_of(chain, _text(tags.get(b"desc", b"")))


def _text(tag: bytes) -> str:
    """The first string of a multiLocalizedUnicodeType, or of an older textDescriptionType."""
    if tag[:4] == b"mluc" and len(tag) >= 28:
        length, start = struct.unpack(">II", tag[20:28])
        return tag[start : start + min(length, 400)].decode("utf-16-be", "replace").strip("\0").strip()
    if tag[:4] == b"desc" and len(tag) >= 12:
        return tag[12 : 12 + min(int.from_bytes(tag[8:12]), 200)].decode("ascii", "replace").strip("\0").strip()
    return ""


def _codes(values: np.ndarray) -> bytes:
    return np.floor(np.clip(values, 0, 1).astype(np.float64) * PEAK + 0.5).astype(">u2").tobytes()


def _padded(data: bytes) -> bytes:
    return data + bytes(-len(data) % 4)


def _localised(text: str) -> bytes:
    words = one_line(text)[:200].encode("utf-16-be")
    return b"mluc" + struct.pack(">IIIHHII", 0, 1, 12, 0x656E, 0x4742, len(words), 28) + words


def _curve_tags(curve: Curve1D | None) -> bytes:
    if curve is None:
        return (b"curv" + struct.pack(">II", 0, 0)) * 3
    return b"".join(_padded(b"curv" + struct.pack(">II", 0, curve.size) + _codes(channel)) for channel in curve.planar)


def _table_tag(lut: Lut) -> bytes:
    """lutAToBType with A curves, lattice and B curves; its outputs are RGB, so there is no matrix."""
    assert lut.lattice is not None
    size = lut.lattice.size
    b_curves = _curve_tags(None)
    lattice = bytes([size] * 3 + [0] * 13) + bytes([2, 0, 0, 0]) + _codes(lut.lattice.table)
    at_b = 32
    at_lattice = at_b + len(b_curves)
    at_a = at_lattice + len(_padded(lattice))
    head = b"mAB " + struct.pack(">IBBH5I", 0, 3, 3, 0, at_b, 0, 0, at_lattice, at_a)
    return head + b_curves + _padded(lattice) + _curve_tags(lut.shaper)


def write(lut: Lut, options: Options = PLAIN) -> bytes:
    """Raises: LutError for anything but one lattice over 0..1, with or without curves in front"""
    if lut.lattice is None or lut.domain != UNIT or lut.lattice.domain != UNIT or (lut.shaper and lut.shaper.size > LONGEST_CURVE):
        raise LutError("", f"a device link holds one lattice over 0..1, and curves of up to {LONGEST_CURVE} entries in front")
    sequence = struct.pack(">IIQI", 0, 0, 0, 0)
    described = sequence + _padded(_localised("RGB")) * 2
    tags = {
        b"desc": _localised(lut.title or "Untitled"),
        b"cprt": _localised(next((c for c in lut.comments if c.startswith("Rights: ")), "Rights: not stated")[8:]),
        b"pseq": b"pseq" + struct.pack(">II", 0, 2) + described * 2,
        b"A2B0": _table_tag(lut),
    }
    directory, body, at = b"", b"", 132 + 12 * len(tags)
    for name, content in tags.items():
        directory += name + struct.pack(">II", at, len(content))
        body += _padded(content)
        at += len(_padded(content))
    header = struct.pack(
        ">I4sI4s4s4s6H4s4sIIIQI3I4s44x", at, b"", 0x04400000, b"link", b"RGB ", b"RGB ",
        DATE.year, DATE.month, DATE.day, 0, 0, 0, SIGNATURE, b"", 0, 0, 0, 0, 0, 0x0000F6D6, 0x00010000, 0x0000D32D, b"",
    )  # fmt: skip
    return header + struct.pack(">I", len(tags)) + directory + body


FORMAT = Format(
    "icc", "ICC device link", (".icc", ".icm"), sniff, read, write,
    Holds(frozenset({"3D", "1D + 3D"}), depths=(16,), longest=LONGEST_CURVE, beyond=False, words=True),
)  # fmt: skip
