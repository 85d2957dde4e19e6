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
from saucer.core.lut.domain import FEWEST_NODES, MOST_NODES, UNIT
from saucer.core.lut.formulas import Exponent, Matrix
from saucer.core.lut.table import Curve1D, Lattice, Link, Lut, lut_of

SIGNATURE = b"acsp"
PEAK = 65535.0
LONGEST_CURVE = 4096
DATE = datetime(2000, 1, 1, tzinfo=UTC)
"""Of every profile we write, so that the same LUT gives the same bytes."""
_CLASSES = {b"mntr": "a display profile", b"prtr": "an output profile", b"scnr": "an input profile", b"spac": "a colour space profile",
            b"abst": "an abstract profile", b"nmcl": "a named colour profile"}  # fmt: skip


def sniff(data: bytes) -> bool:
    return data[36:40] == SIGNATURE


class _Bytes:
    """Big-endian numbers out of a piece of the file, each access checked."""

    def __init__(self, data: bytes, place: str) -> None:
        self.data, self.place = data, place

    def part(self, start: int, count: int) -> bytes:
        if start < 0 or count < 0 or start + count > len(self.data):
            raise LutError(f"byte {start}", f"{self.place} is cut short or points outside the file")
        return self.data[start : start + count]

    def u8(self, at: int) -> int:
        return self.part(at, 1)[0]

    def u16(self, at: int) -> int:
        return int.from_bytes(self.part(at, 2))

    def u32(self, at: int) -> int:
        return int.from_bytes(self.part(at, 4))

    def s15(self, at: int, count: int) -> np.ndarray:
        return np.frombuffer(self.part(at, 4 * count), ">i4") / 65536.0

    def table(self, at: int, count: int, wide: bool) -> np.ndarray:
        """`count` unsigned numbers as float32 0..1."""
        if wide:
            return (np.frombuffer(self.part(at, 2 * count), ">u2") / PEAK).astype(np.float32)
        return (np.frombuffer(self.part(at, count), np.uint8) / 255.0).astype(np.float32)


def _tags(profile: _Bytes) -> dict[bytes, bytes]:
    count = profile.u32(128)
    if count > 200:
        raise LutError("byte 128", f"{count} tags are more than a profile holds")
    found = {}
    for index in range(count):
        at = 132 + 12 * index
        found[profile.part(at, 4)] = profile.part(profile.u32(at + 4), profile.u32(at + 8))
    return found


def read(data: bytes) -> Lut:
    """Raises: LutError for what is no RGB to RGB device link, is damaged, or outside 2..129 nodes a side"""
    profile = _Bytes(data, "the profile")
    kind = profile.part(12, 4)
    if kind != b"link":
        raise LutError("byte 12", f"{_CLASSES.get(kind, 'a profile')}, not a device link; a LUT is needed, made from two profiles")
    if profile.part(16, 4) != b"RGB " or profile.part(20, 4) != b"RGB ":
        spaces = " to ".join(profile.part(at, 4).decode("ascii", "replace").strip() for at in (16, 20))
        raise LutError("byte 16", f"links {spaces}; only RGB to RGB is read")
    tags = _tags(profile)
    if b"A2B0" not in tags:
        raise LutError("byte 128", "has no A2B0 tag, in which a device link keeps its table")
    table = _Bytes(tags[b"A2B0"], "the A2B0 tag")
    readers = {b"mAB ": _read_a_to_b, b"mft2": _read_lut16, b"mft1": _read_lut8}
    reader = readers.get(table.part(0, 4))
    if reader is None:
        raise LutError("A2B0", f'a table of type "{table.part(0, 4).decode("ascii", "replace")}" is not read')
    chain = reader(table)
    return lut_of(chain, _text(tags.get(b"desc", b"")))


def _text(tag: bytes) -> str:
    """The first string of a multiLocalizedUnicodeType, or of an older textDescriptionType."""
    if tag[:4] == b"mluc" and len(tag) >= 28:
        length, start = struct.unpack(">II", tag[20:28])
        return tag[start : start + min(length, 400)].decode("utf-16-be", "replace").strip("\0").strip()
    if tag[:4] == b"desc" and len(tag) >= 12:
        return tag[12 : 12 + min(int.from_bytes(tag[8:12]), 200)].decode("ascii", "replace").strip("\0").strip()
    return ""


def _lattice(values: np.ndarray, sides: bytes | list[int]) -> Lattice:
    if len(set(sides)) != 1 or not FEWEST_NODES <= sides[0] <= MOST_NODES:
        raise LutError(
            "A2B0", f"a lattice of {' x '.join(map(str, sides))}; sides must be equal, from {FEWEST_NODES} to {MOST_NODES}"
        )
    return Lattice(values.reshape(sides[0], sides[0], sides[0], 3))


def _need_three(table: _Bytes) -> None:
    if (table.u8(8), table.u8(9)) != (3, 3):
        raise LutError("A2B0", f"takes {table.u8(8)} and gives {table.u8(9)} channels; 3 and 3 are needed")


def _read_lut16(table: _Bytes) -> list[Link]:
    """lut16Type: matrix (used for XYZ only), input tables, lattice, output tables."""
    _need_three(table)
    entries, outputs = table.u16(48), table.u16(50)
    return _lut_parts(table, 52, entries, outputs, True)


def _read_lut8(table: _Bytes) -> list[Link]:
    _need_three(table)
    return _lut_parts(table, 48, 256, 256, False)


def _lut_parts(table: _Bytes, at: int, entries: int, outputs: int, wide: bool) -> list[Link]:
    if not (2 <= entries <= 4096 and 2 <= outputs <= 4096):
        raise LutError("A2B0", f"curves of {entries} and {outputs} entries; 2 to 4096 are allowed")
    size, width = table.u8(10), 2 if wide else 1
    count = size**3 * 3
    before = table.table(at, 3 * entries, wide).reshape(3, entries).T
    middle = table.table(at + 3 * entries * width, count, wide)
    behind = table.table(at + (3 * entries + count) * width, 3 * outputs, wide).reshape(3, outputs).T
    chain: list[Link] = [] if _straight(before) else [Curve1D(before)]
    chain.append(_lattice(middle, [size] * 3))
    return chain if _straight(behind) else [*chain, Curve1D(behind)]


def _straight(samples: np.ndarray) -> bool:
    line = np.linspace(0, 1, len(samples))[:, None]
    return bool(np.abs(samples - line).max() <= 0.5 / PEAK)


def _curves(table: _Bytes, at: int) -> list[Link]:
    """Three curves, one after the other; none where they all do nothing."""
    if at == 0:
        return []
    samples, exponents = [], []
    for _ in range(3):
        kind, start = table.part(at, 4), at
        if kind == b"curv":
            count = table.u32(at + 8)
            at += 12 + 2 * count
            if count == 0:
                exponents.append(1.0)
                samples.append(np.array([0, 1], np.float32))
            elif count == 1:
                exponents.append(table.u16(start + 12) / 256)
                samples.append((np.linspace(0, 1, LONGEST_CURVE) ** exponents[-1]).astype(np.float32))
            else:
                samples.append(table.table(start + 12, count, True))
        elif kind == b"para":
            form = table.u16(at + 8)
            counts = {0: 1, 1: 3, 2: 4, 3: 5, 4: 7}
            if form not in counts:
                raise LutError("A2B0", f"a parametric curve of type {form} is not known")
            numbers = table.s15(at + 12, counts[form])
            at += 12 + 4 * counts[form]
            if form == 0:
                exponents.append(float(numbers[0]))
            samples.append(_parametric(form, numbers, np.linspace(0, 1, LONGEST_CURVE)).astype(np.float32))
        else:
            raise LutError("A2B0", f'a curve of type "{kind.decode("ascii", "replace")}" is not read')
        at = (at + 3) // 4 * 4
    if len(exponents) == 3:
        if set(exponents) == {1.0}:
            return []
        if min(exponents) > 0:
            return [Exponent("basicFwd", (exponents[0], exponents[1], exponents[2]))]
    longest = max(len(one) for one in samples)
    if longest < 2 or longest > 65536:
        raise LutError("A2B0", f"a curve of {longest} entries")
    even = np.linspace(0, 1, longest)
    columns = [one if len(one) == longest else np.interp(even, np.linspace(0, 1, len(one)), one) for one in samples]
    return [Curve1D(np.stack(columns, axis=1).astype(np.float32))]


def _parametric(form: int, p: np.ndarray, x: np.ndarray) -> np.ndarray:
    """parametricCurveType. Source: ICC.1:2022, 10.18, table 68"""
    g, a, b, c, d, e, f = [*p, *np.zeros(7 - len(p))] if form else [p[0], 1.0, 0.0, 0.0, 0.0, 0.0, 0.0]
    with np.errstate(all="ignore"):
        bent = np.maximum(a * x + b, 0) ** g
        if form == 0:
            result = bent
        elif form == 1:
            result = np.where(a * x + b >= 0, bent, 0)
        elif form == 2:
            result = np.where(a * x + b >= 0, bent + c, c)
        else:
            result = np.where(x >= d, bent + e, c * x + f)
    if not np.isfinite(result).all():
        raise LutError("A2B0", "a parametric curve that is not finite")
    return np.asarray(np.clip(result, 0, 1), np.float64)


def _read_a_to_b(table: _Bytes) -> list[Link]:
    """lutAToBType: A curves, lattice, M curves, matrix, B curves."""
    _need_three(table)
    at_b, at_matrix, at_m, at_lattice, at_a = (table.u32(12 + 4 * index) for index in range(5))
    chain = _curves(table, at_a)
    if at_lattice:
        sides = table.part(at_lattice, 16)[:3]
        precision = table.u8(at_lattice + 16)
        if precision not in (1, 2):
            raise LutError("A2B0", f"a lattice of {precision}-byte numbers; 1 and 2 are allowed")
        count = int(np.prod([int(side) for side in sides])) * 3
        chain.append(_lattice(table.table(at_lattice + 20, count, precision == 2), list(sides)))
    chain += _curves(table, at_m)
    if at_matrix:
        numbers = table.s15(at_matrix, 12)
        rows = tuple(tuple(float(v) for v in numbers[3 * i : 3 * i + 3]) for i in range(3))
        offset = tuple(float(v) for v in numbers[9:12])
        if rows != ((1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0)) or any(offset):
            chain.append(Matrix(rows, offset))  # type: ignore[arg-type]
    chain += _curves(table, at_b)
    return chain or [Lattice(np.stack(np.meshgrid(*[np.array([0, 1], np.float32)] * 3, indexing="ij"), axis=-1))]


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
