"""Text files read line by line, tables of numbers by the compiled parser, with the line number at hand for every complaint."""

from __future__ import annotations

import codecs
from collections.abc import Sequence

import numpy as np

from saucer.core.errors import LutError
from saucer.core.lut.numbers import Stop, read_rows, with_end, write_rows
from saucer.core.reading.limits import LONGEST_LINE

NOT_FINITE = ("NAN", "INF", "INFINITY")
LARGEST_FLOAT = float(np.finfo(np.float32).max)


def checked_text(data: bytes) -> bytes:
    """The content of a text file without its byte order mark. Raises: LutError for UTF-16 and for zero bytes."""
    if data.startswith((codecs.BOM_UTF16_LE, codecs.BOM_UTF16_BE)):
        raise LutError("line 1", "the file is UTF-16 text; save it again as plain text or UTF-8")
    data = data.removeprefix(codecs.BOM_UTF8)
    if b"\0" in data:
        raise LutError(f"line {data[: data.index(0)].count(10) + 1}", "holds a zero byte; the file is damaged or not text")
    return data


def numbers(words: Sequence[str], count: int, what: str) -> tuple[float, ...]:
    """Exactly `count` finite numbers. Raises: LutError without a place; `what` is e.g. "DOMAIN_MIN"."""
    needs = f"{what} needs {count} number{'s' if count > 1 else ''}"
    if len(words) != count:
        raise LutError("", f"{needs}, got {len(words)}")
    try:
        values = tuple(float(word) for word in words)
    except ValueError:
        values = (float("nan"),)
    if not np.isfinite(values).all() or any("_" in word for word in words):
        raise LutError("", f'{needs}, got "{" ".join(words)[:60]}"')
    if max(map(abs, values)) > LARGEST_FLOAT:
        raise LutError("", f'a number too large to hold in "{" ".join(words)[:60]}"')
    return values


def whole(words: Sequence[str], count: int, what: str, low: int, high: int) -> tuple[int, ...]:
    """Exactly `count` whole numbers from low to high. Raises: LutError without a place"""
    values = numbers(words, count, what)
    for value, word in zip(values, words, strict=True):
        if value != int(value) or not low <= value <= high:
            raise LutError("", f"{what} must be a whole number from {low} to {high}, got {word[:20]}")
    return tuple(int(value) for value in values)


_COUNTS = {1: "one number", 2: "two numbers", 3: "three numbers", 6: "three positions and three numbers"}


def row_problem(why: Stop, row: str, columns: int = 3) -> str:
    """What is wrong with a row that the compiled parser stopped at."""
    bad = next((word for word in row.split() if word.upper().lstrip("+-") in NOT_FINITE), None)
    if bad is not None:
        return f'"{bad}" is not a finite number'
    point = "" if why is Stop.COUNT else " with a point as the decimal sign"
    return f'expected {_COUNTS.get(columns, f"{columns} numbers")}{point}, got "{row[:60]}"'


class Text:
    """A text file and how far it is read. Lines end in LF, CRLF or CR; `line` is the number of the next one, from 1."""

    def __init__(self, data: bytes) -> None:
        self._data = checked_text(data)
        self._codes = with_end(self._data)
        self._position, self.line = 0, 1

    @property
    def ended(self) -> bool:
        return self._position >= len(self._data)

    def here(self, problem: str) -> LutError:
        """An error about the line that was taken last."""
        return LutError(f"line {max(1, self.line - 1)}", problem)

    def take(self, what: str = "") -> str:
        """The next line that is neither blank nor a comment, without its blanks. Raises: LutError saying what was looked for"""
        while not self.ended:
            text = self._take()
            if text and not text.startswith("#"):
                return text
        if what:
            raise LutError(f"line {max(1, self.line - 1)}", f"the file ends where {what} should be")
        return ""

    def peek(self) -> str:
        """The next such line, which stays to be taken."""
        kept = self._position, self.line
        text = self.take()
        self._position, self.line = kept
        return text

    def _take(self) -> str:
        data, start = self._data, self._position
        try:
            end = line_end(data, start)
        except LutError as error:
            raise LutError(f"line {self.line}", error.problem) from None
        self._position = end + (2 if data[end : end + 2] == b"\r\n" else 1)
        self.line += 1
        return data[start:end].decode("utf-8", "replace").strip()

    def take_whole(self, count: int, what: str, low: int, high: int) -> tuple[int, ...]:
        words = self.take(what).split()
        try:
            return whole(words, count, what, low, high)
        except LutError as error:
            raise self.here(error.problem) from None

    def rows(self, count: int, columns: int, what: str) -> np.ndarray:
        """(count, columns) float32. Raises: LutError with the line of the row that is wrong or missing

        what: the thing that asks for so many rows, e.g. "a lattice of 33"
        """
        # What is announced but cannot be there is not made room for: a row takes two bytes a number at least.
        room = min(count, (len(self._data) - self._position) // (2 * columns) + 1)
        out = np.empty((room, columns), np.float32)
        filled = 0
        while filled < count:
            why, filled, self._position, self.line = read_rows(self._codes, self._position, self.line, out, filled, len(out))
            if filled == count:
                break
            if why is Stop.END or (why is Stop.FULL and filled == room):
                raise LutError(f"line {max(1, self.line - 1)}", f"the file ends after {filled} rows; {what} needs {count}")
            at, text = self.line, self._take()
            if why is not Stop.LONG:
                raise LutError(f"line {at}", row_problem(why, text, columns))
            try:
                out[filled] = numbers(text.split(), columns, "a row")
            except LutError as error:
                raise LutError(f"line {at}", error.problem) from None
            filled += 1
        return out

    def comments(self) -> tuple[str, ...]:
        return comments(self._data)


def line_end(data: bytes, position: int) -> int:
    """Where the line that holds `position` ends. Raises: LutError without a place for one that is longer than any is"""
    most = position + LONGEST_LINE + 1
    ends = [at for at in (data.find(b"\n", position, most), data.find(b"\r", position, most)) if at >= 0]
    end = min(ends, default=min(most, len(data)))
    if end - position > LONGEST_LINE:
        raise LutError("", f"is longer than {LONGEST_LINE // 1024} KB; this is no table of numbers")
    return end


def comments(data: bytes) -> tuple[str, ...]:
    """The first lines that begin with #, without it."""
    head = data[:16384].decode("utf-8", "replace").splitlines()
    return tuple(text.strip().lstrip("#").strip() for text in head if text.lstrip().startswith("#"))[:50]


def one_line(text: str) -> str:
    """A title or comment without line ends and double quotes."""
    printable = "".join(letter if letter.isprintable() else " " for letter in text)
    return " ".join(printable.split()).replace('"', "'")


def rows_text(table: np.ndarray, side: int = 0) -> bytes:
    """(n, columns) float32 as lines, with places of a lattice of `side` in front. Raises: LutError for a value too large to be written"""
    try:
        return write_rows(table, side)
    except ValueError as error:
        raise LutError("table", str(error)) from None
