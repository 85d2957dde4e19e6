"""The tables of ICC profiles: lut8Type, lut16Type and lutAToBType, of three channels in and out, as what a LUT consists of.

Source: ICC.1:2022 (profile version 4.4), 7.3 (tag table), 10.6 (curveType), 10.10 to 10.12, 10.18 (parametricCurveType)
"""

from __future__ import annotations

import numpy as np

from saucer.core.errors import LutError
from saucer.core.lut.domain import FEWEST_NODES, MOST_NODES
from saucer.core.lut.formulas import Exponent, Matrix
from saucer.core.lut.table import Curve1D, Lattice, Link

PEAK = 65535.0
LONGEST_CURVE = 4096


class Bytes:
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


def tags_of(profile: Bytes) -> dict[bytes, bytes]:
    """What a profile holds, by signature. Raises: LutError where it is cut short"""
    count = profile.u32(128)
    if count > 200:
        raise LutError("byte 128", f"{count} tags are more than a profile holds")
    found = {}
    for index in range(count):
        at = 132 + 12 * index
        found[profile.part(at, 4)] = profile.part(profile.u32(at + 4), profile.u32(at + 8))
    return found


def read_tables(table: Bytes) -> list[Link]:
    """The elements of a tag, in order. Raises: LutError for another type, other channels, unequal or too many nodes, or damage"""
    readers = {b"mAB ": _read_a_to_b, b"mft2": _read_lut16, b"mft1": _read_lut8}
    reader = readers.get(table.part(0, 4))
    if reader is None:
        raise LutError("A2B0", f'a table of type "{table.part(0, 4).decode("ascii", "replace")}" is not read')
    return reader(table)


def _lattice(values: np.ndarray, sides: bytes | list[int]) -> Lattice:
    if len(set(sides)) != 1 or not FEWEST_NODES <= sides[0] <= MOST_NODES:
        raise LutError(
            "A2B0", f"a lattice of {' x '.join(map(str, sides))}; sides must be equal, from {FEWEST_NODES} to {MOST_NODES}"
        )
    return Lattice(values.reshape(sides[0], sides[0], sides[0], 3))


def _need_three(table: Bytes) -> None:
    if (table.u8(8), table.u8(9)) != (3, 3):
        raise LutError("A2B0", f"takes {table.u8(8)} and gives {table.u8(9)} channels; 3 and 3 are needed")


def _read_lut16(table: Bytes) -> list[Link]:
    """lut16Type: matrix (used for XYZ only), input tables, lattice, output tables."""
    _need_three(table)
    entries, outputs = table.u16(48), table.u16(50)
    return _lut_parts(table, 52, entries, outputs, True)


def _read_lut8(table: Bytes) -> list[Link]:
    _need_three(table)
    return _lut_parts(table, 48, 256, 256, False)


def _lut_parts(table: Bytes, at: int, entries: int, outputs: int, wide: bool) -> list[Link]:
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


def _curves(table: Bytes, at: int) -> list[Link]:
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
            samples.append(parametric(form, numbers, np.linspace(0, 1, LONGEST_CURVE)).astype(np.float32))
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


def parametric(form: int, p: np.ndarray, x: np.ndarray) -> np.ndarray:
    """parametricCurveType of codes x, held to 0..1. p: its numbers, g a b c d e f. Source: ICC.1:2022, 10.18, table 68"""
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


def _read_a_to_b(table: Bytes) -> list[Link]:
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
