"""Numbers as text, both ways, compiled: rows of a LUT file are nearly all of its bytes."""

from __future__ import annotations

from enum import IntEnum

import numpy as np
from numba import njit


class Stop(IntEnum):
    """Why `parse_rows` stopped. The position it returns is the start of the row concerned."""

    END = 0
    FULL = 1
    WORDS = 2
    COUNT = 3
    NUMBER = 4
    LONG = 5


_TENS = np.array([10.0**power for power in range(23)])


_ONE = np.uintp(1)
_LONGEST = np.uintp(18)
"""Digits that surely fit a 64-bit integer."""


@njit(nogil=True, cache=True, forceinline=True)
def _blank(code):  # type: ignore[no-untyped-def]
    return code == 32 or code == 9


@njit(nogil=True, cache=True, forceinline=True)
def _line_end(code):  # type: ignore[no-untyped-def]
    return code == 10 or code == 13


@njit(nogil=True, cache=True, forceinline=True)
def _digit(code):  # type: ignore[no-untyped-def]
    return code >= 48 and code <= 57


@njit(nogil=True, cache=True, forceinline=True)
def _after_line_end(data, position):  # type: ignore[no-untyped-def]
    if data[position] == 13 and data[position + _ONE] == 10:
        position += _ONE
    return position + _ONE


@njit(nogil=True, cache=True)
def parse_rows(data, length, position, line, columns, out, filled, most, tens):  # type: ignore[no-untyped-def]
    """Read rows of exactly `columns` decimal numbers into out[filled:most].

    data: uint8 text with two line feeds behind its `length`, so that no loop has to look for the end; lines end in LF, CRLF or CR;
    blank lines and lines that begin with # are passed over. Positions are unsigned: Numba tests signed ones for being negative.
    Returns (why, rows filled, position, line): Stop.END at the end of the text, FULL when a row follows the last wanted one, else
    the row that could not be read: WORDS (starts with a letter), COUNT, NUMBER, or LONG (more digits or a larger exponent than the
    fast path holds exactly; the caller parses that one row by other means).
    """
    while position < length:
        start = position
        while _blank(data[position]):
            position += _ONE
        first = data[position]
        if _line_end(first) or first == 35:
            while not _line_end(data[position]):
                position += _ONE
            position = _after_line_end(data, position)
            line += 1
            continue
        if (first >= 65 and first <= 90) or (first >= 97 and first <= 122) or first == 34:
            return Stop.WORDS, filled, start, line
        if filled >= most:
            return Stop.FULL, filled, start, line
        for column in range(columns):
            while _blank(data[position]):
                position += _ONE
            negative = data[position] == 45
            signed = negative or data[position] == 43
            if signed:
                position += _ONE
            mantissa = np.uint64(0)
            begin = position
            while _digit(data[position]):
                mantissa = mantissa * np.uint64(10) + np.uint64(data[position] - 48)
                position += _ONE
            digits = position - begin
            exponent = np.int64(0)
            if data[position] == 46:
                position += _ONE
                begin = position
                while _digit(data[position]):
                    mantissa = mantissa * np.uint64(10) + np.uint64(data[position] - 48)
                    position += _ONE
                digits += position - begin
                exponent = -np.int64(position - begin)
            if digits == 0:
                return (Stop.COUNT if _line_end(data[position]) and not signed else Stop.NUMBER), filled, start, line
            if data[position] == 101 or data[position] == 69:
                position += _ONE
                down = data[position] == 45
                if down or data[position] == 43:
                    position += _ONE
                if not _digit(data[position]):
                    return Stop.NUMBER, filled, start, line
                power = np.int64(0)
                while _digit(data[position]):
                    power = min(power * 10 + np.int64(data[position] - 48), np.int64(9999))
                    position += _ONE
                exponent += -power if down else power
            # Up to 2**53 and 10**22 both are exact doubles, so one multiplication or division rounds once.
            if digits > _LONGEST or mantissa > np.uint64(9007199254740992) or exponent < -22 or exponent > 22:
                return Stop.LONG, filled, start, line
            value = np.float64(mantissa)
            value = value / tens[-exponent] if exponent < 0 else value * tens[exponent]
            out[filled, column] = np.float32(-value if negative else value)
            if not (_blank(data[position]) or _line_end(data[position])):
                return Stop.NUMBER, filled, start, line
        while _blank(data[position]):
            position += _ONE
        if not _line_end(data[position]):
            return Stop.COUNT, filled, start, line
        position = _after_line_end(data, position)
        line += 1
        filled += 1
    return Stop.END, filled, position, line


def with_end(data: bytes) -> np.ndarray:
    """Text as `read_rows` takes it: uint8, two line feeds added."""
    return np.frombuffer(data + b"\n\n", np.uint8)


def read_rows(data: np.ndarray, position: int, line: int, out: np.ndarray, filled: int, most: int) -> tuple[Stop, int, int, int]:
    """`parse_rows` on text made by `with_end`; out is (rows, columns) float32."""
    length = np.uintp(data.size - 2)
    why, filled, position, line = parse_rows(data, length, np.uintp(position), line, out.shape[1], out, filled, most, _TENS)
    return Stop(why), filled, int(position), line


DECIMALS = 8
LARGEST_WRITTEN = 1e9


_PAIRS = np.frombuffer("".join(f"{number:02d}" for number in range(100)).encode(), np.uint8).copy()


@njit(nogil=True, cache=True, forceinline=True)
def _put_four(buffer, at, number, pairs):  # type: ignore[no-untyped-def]
    """Four digits of a uint32 below 10000, two at a time."""
    high, low = number // np.uint32(100), number % np.uint32(100)
    buffer[at] = pairs[np.uintp(2) * high]
    buffer[at + _ONE] = pairs[np.uintp(2) * high + _ONE]
    buffer[at + np.uintp(2)] = pairs[np.uintp(2) * low]
    buffer[at + np.uintp(3)] = pairs[np.uintp(2) * low + _ONE]


@njit(nogil=True, cache=True, forceinline=True)
def _put_whole(buffer, at, whole):  # type: ignore[no-untyped-def]
    """A uint32 without leading zeros; returns the place behind it."""
    if whole < np.uint32(10):
        buffer[at] = np.uint8(48 + whole)
        return at + _ONE
    width = _ONE
    rest = whole // np.uint32(10)
    while rest > 0:
        width += _ONE
        rest //= np.uint32(10)
    for place in range(width):
        buffer[at + width - _ONE - np.uintp(place)] = np.uint8(48 + whole % np.uint32(10))
        whole //= np.uint32(10)
    return at + width


@njit(nogil=True, cache=True)
def format_rows(values, buffer, pairs, side):  # type: ignore[no-untyped-def]
    """Write (n, columns) float32 as lines of fixed-point numbers; returns the bytes used. |value| must be below 1e9.

    Eight decimals: a float32 from 0.125 up reads back bit for bit, smaller ones within 5e-9.
    side: 0, or nodes a side of the lattice whose places (three whole numbers, the last fastest) stand in front of each row
    """
    at = np.uintp(0)
    rows, columns = values.shape
    for row in range(rows):
        if side > 0:
            for place in (row // (side * side), row // side % side, row % side):
                at = _put_whole(buffer, at, np.uint32(place))
                buffer[at] = 32
                at += _ONE
        for column in range(columns):
            value = np.float64(values[row, column])
            code = np.uint64(np.abs(value) * 1e8 + 0.5)
            if value < 0 and code != 0:
                buffer[at] = 45
                at += _ONE
            whole = np.uint32(code // np.uint64(100000000))
            part = np.uint32(code - np.uint64(whole) * np.uint64(100000000))
            at = _put_whole(buffer, at, whole)
            buffer[at] = 46
            _put_four(buffer, at + _ONE, part // np.uint32(10000), pairs)
            _put_four(buffer, at + np.uintp(5), part % np.uint32(10000), pairs)
            buffer[at + np.uintp(9)] = 32 if column < columns - 1 else 10
            at += np.uintp(10)
    return at


@njit(nogil=True, cache=True)
def format_whole_rows(values, buffer):  # type: ignore[no-untyped-def]
    """Write (n, columns) uint32 as lines; returns the bytes used."""
    at = np.uintp(0)
    rows, columns = values.shape
    for row in range(rows):
        for column in range(columns):
            at = _put_whole(buffer, at, values[row, column])
            buffer[at] = 32 if column < columns - 1 else 10
            at += _ONE
    return at


def write_whole_rows(values: np.ndarray) -> bytes:
    """(n, columns) uint32 as text, one row a line, LF."""
    buffer = np.empty(values.size * 11, np.uint8)
    return buffer[: format_whole_rows(np.ascontiguousarray(values, np.uint32), buffer)].tobytes()


def write_rows(values: np.ndarray, side: int = 0) -> bytes:
    """(n, columns) float32 as text, one row a line, LF; with the places of a lattice of `side` in front of each where that is given.

    Raises ValueError for a value of 1e9 or more.
    """
    if values.size and np.abs(values).max() >= LARGEST_WRITTEN:
        raise ValueError("a value is too large to be written")
    buffer = np.empty(values.size * 21 + (len(values) * 12 if side else 0), np.uint8)
    return buffer[: format_rows(np.ascontiguousarray(values, np.float32), buffer, _PAIRS, side)].tobytes()
