"""The .cube text format: 1D, 3D, and a 1D shaper in front of a 3D.

Sources: "Cube LUT Specification 1.0" (2013) for TITLE, DOMAIN_MIN/MAX, LUT_1D_SIZE, LUT_3D_SIZE and the order of rows (red
fastest); LUT_1D_INPUT_RANGE, LUT_3D_INPUT_RANGE and both tables in one file are common practice, as libraries do it.
"""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np

from saucer.core.errors import LutError
from saucer.core.files.format import PLAIN, Format, Holds, Options
from saucer.core.files.lines import NOT_FINITE, checked_text, comments, line_end, numbers, one_line, row_problem, rows_text
from saucer.core.lut.domain import FEWEST_NODES, MOST_NODES, UNIT, Bounds
from saucer.core.lut.numbers import Stop, read_rows, with_end
from saucer.core.lut.table import MOST_SAMPLES, Curve1D, Lattice, Lut, red_fastest

TITLED = "Title: "
"""Begins the first comment of a file with both tables: programs that read these know no TITLE line, and refuse the whole file for it."""
KEYWORDS = ("TITLE", "LUT_1D_SIZE", "LUT_3D_SIZE", "DOMAIN_MIN", "DOMAIN_MAX", "LUT_1D_INPUT_RANGE", "LUT_3D_INPUT_RANGE")


@dataclass
class _Header:
    title: str = ""
    comments: list[str] = field(default_factory=list)
    seen: dict[str, int] = field(default_factory=dict)
    sizes: dict[str, int] = field(default_factory=dict)
    domain_min: tuple[float, float, float] = UNIT[0]
    domain_max: tuple[float, float, float] = UNIT[1]
    ranges: dict[str, tuple[float, float]] = field(default_factory=dict)

    @property
    def rows_1d(self) -> int:
        return self.sizes.get("LUT_1D_SIZE", 0)

    @property
    def rows_3d(self) -> int:
        return self.sizes.get("LUT_3D_SIZE", 0) ** 3


def sniff(data: bytes) -> bool:
    head = data[:65536].upper()
    return b"LUT_3D_SIZE" in head or b"LUT_1D_SIZE" in head


def _keyword(header: _Header, text: str, line: int) -> None:
    keyword, _, rest = text.partition(" ")
    keyword = keyword.upper()
    if keyword in NOT_FINITE:
        raise LutError("", f'"{text}" is not a finite number')
    if keyword not in KEYWORDS:
        raise LutError("", f'unknown keyword "{keyword[:40]}"; known are {", ".join(KEYWORDS)}')
    if keyword in header.seen:
        raise LutError("", f"{keyword} stands twice, first in line {header.seen[keyword]}")
    header.seen[keyword] = line
    words = rest.split()
    if keyword == "TITLE":
        header.title = rest.strip().strip('"')
    elif keyword in ("LUT_1D_SIZE", "LUT_3D_SIZE"):
        largest = MOST_NODES if keyword == "LUT_3D_SIZE" else MOST_SAMPLES
        size = numbers(words, 1, keyword)[0]
        if size != int(size) or not FEWEST_NODES <= size <= largest:
            raise LutError("", f"{keyword} must be a whole number from {FEWEST_NODES} to {largest}, got {words[0]}")
        header.sizes[keyword] = int(size)
    elif keyword == "DOMAIN_MIN":
        header.domain_min = numbers(words, 3, keyword)  # type: ignore[assignment]
    elif keyword == "DOMAIN_MAX":
        header.domain_max = numbers(words, 3, keyword)  # type: ignore[assignment]
    else:
        low, high = numbers(words, 2, keyword)
        if not low < high:
            raise LutError("", f"{keyword} must rise, got {low:g} to {high:g}")
        header.ranges[keyword] = (low, high)


def _rows(data: bytes, codes: np.ndarray, header: _Header) -> np.ndarray:
    """All rows of the file, header lines taken on the way. Raises: LutError with the line number."""
    out, filled, position, line = np.empty((0, 3), np.float32), 0, 0, 1
    while True:
        why, filled, position, line = read_rows(codes, position, line, out, filled, len(out))
        try:
            if why is Stop.END:
                return out[:filled]
            text = data[position : line_end(data, position)].decode("utf-8", "replace").strip()
            if why is Stop.FULL and len(out) == 0:
                wanted = header.rows_1d + header.rows_3d
                if not wanted:
                    raise LutError("", "the table begins before any LUT_1D_SIZE or LUT_3D_SIZE")
                # What is announced but cannot be there is not made room for: a row takes six bytes at least.
                out = np.empty((min(wanted, len(data) // 6 + 1), 3), np.float32)
                continue
            if why is Stop.FULL:
                raise LutError("", f"one row more than the {len(out)} that {_sizes(header)} asks for")
            if why is Stop.LONG:
                out[filled] = numbers(text.split(), 3, "a row")
                filled += 1
            elif why is not Stop.WORDS:
                raise LutError("", row_problem(why, text))
            elif len(out):
                if text.split()[0].upper() in NOT_FINITE:
                    raise LutError("", row_problem(why, text))
                raise LutError("", f'"{text[:40]}" stands among the rows of the table; keywords belong above it')
            else:
                _keyword(header, text, line)
        except LutError as error:
            raise LutError(f"line {line}", error.problem) from None
        # Past the line that was handled here, whichever way it ends.
        position = _next_line(data, position)
        line += 1


def _last_line(data: bytes) -> str:
    ends = data.count(b"\n") or data.count(b"\r")
    open_end = not data.endswith((b"\n", b"\r"))
    return f"line {max(1, ends + open_end)}"


def _next_line(data: bytes, position: int) -> int:
    end = line_end(data, position)
    return end + (2 if data[end : end + 2] == b"\r\n" else 1)


def _sizes(header: _Header) -> str:
    return " with ".join(f"{keyword} {size}" for keyword, size in header.sizes.items())


def read(data: bytes) -> Lut:
    """Raises: LutError with `line N` for anything that is not a complete, finite, consistent LUT."""
    data = checked_text(data)
    header = _Header()
    rows = _rows(data, with_end(data), header)
    wanted = header.rows_1d + header.rows_3d
    if not wanted:
        raise LutError(_last_line(data), "the file ends without LUT_1D_SIZE or LUT_3D_SIZE")
    if len(rows) != wanted:
        raise LutError(_last_line(data), f"the file ends after {len(rows)} rows; {_sizes(header)} needs {wanted}")
    domain: Bounds = (header.domain_min, header.domain_max)
    if not all(low < high for low, high in zip(*domain, strict=True)):
        at = max(header.seen.get("DOMAIN_MIN", 1), header.seen.get("DOMAIN_MAX", 1))
        raise LutError(f"line {at}", f"DOMAIN_MAX must be above DOMAIN_MIN in every channel, got {domain[0]} to {domain[1]}")
    both = bool(header.rows_1d and header.rows_3d)
    shaper = lattice = None
    if header.rows_1d:
        shaper = Curve1D(rows[: header.rows_1d], _range(header, "LUT_1D_INPUT_RANGE", domain))
    if header.rows_3d:
        size = header.sizes["LUT_3D_SIZE"]
        table = red_fastest(rows[header.rows_1d :], size).reshape(size, size, size, 3)
        lattice = Lattice(table, _range(header, "LUT_3D_INPUT_RANGE", UNIT if both else domain))
    told = comments(data)
    if both and not header.title and told and told[0].startswith(TITLED):
        return Lut(shaper, lattice, told[0].removeprefix(TITLED), told[1:])
    return Lut(shaper, lattice, header.title, told)


def _range(header: _Header, keyword: str, otherwise: Bounds) -> Bounds:
    if keyword not in header.ranges:
        return otherwise
    low, high = header.ranges[keyword]
    return (low, low, low), (high, high, high)


def _same(bounds: tuple[float, float, float], what: str) -> float:
    if len(set(bounds)) != 1:
        raise LutError(what, "a .cube file with both tables holds one range for all channels; crop the domain first")
    return bounds[0]


def write(lut: Lut, options: Options = PLAIN) -> bytes:
    """The same LUT gives the same bytes. Raises: LutError for what the format cannot hold."""
    lines = [f"# {one_line(comment)}" for comment in lut.comments]
    tables = []
    both = lut.shaper is not None and lut.lattice is not None
    if lut.title and both:
        lines.insert(0, f"# {TITLED}{one_line(lut.title)}")
    elif lut.title:
        lines.append(f'TITLE "{one_line(lut.title)}"')
    if lut.shaper is not None:
        lines.append(f"LUT_1D_SIZE {lut.shaper.size}")
        if both:
            low, high = (_same(bound, "1D table") for bound in lut.shaper.domain)
            lines.append(f"LUT_1D_INPUT_RANGE {low!r} {high!r}")
        tables.append(lut.shaper.samples)
    if lut.lattice is not None:
        lines.append(f"LUT_3D_SIZE {lut.lattice.size}")
        if both:
            low, high = (_same(bound, "3D table") for bound in lut.lattice.domain)
            lines.append(f"LUT_3D_INPUT_RANGE {low!r} {high!r}")
        tables.append(red_fastest(lut.lattice.table.reshape(-1, 3), lut.lattice.size))
    if not both and lut.domain != UNIT:
        for keyword, bound in zip(("DOMAIN_MIN", "DOMAIN_MAX"), lut.domain, strict=True):
            lines.append(f"{keyword} {' '.join(repr(float(number)) for number in bound)}")
    return "\n".join([*lines, ""]).encode() + b"".join(rows_text(table) for table in tables)


FORMAT = Format(
    "cube", "Cube LUT", (".cube",), sniff, read, write, Holds(frozenset({"1D", "3D", "1D + 3D"}), domain=True, words=True)
)
