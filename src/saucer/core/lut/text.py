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


@njit(nogil=True, cache=True)
def parse_rows(data, position, line, columns, out, filled, most, tens):  # type: ignore[no-untyped-def]
    """Read rows of exactly `columns` decimal numbers into out[filled:most].

    data: uint8 text; blank lines and lines that begin with # are passed over; lines end in LF, CRLF or CR
    Returns (why, rows filled, position, line): Stop.END at the end of the text, FULL when a row follows the last wanted one, else
    the row that could not be read: WORDS (starts with a letter), COUNT, NUMBER, or LONG (more digits or a larger exponent than the
    fast path holds exactly; the caller parses that one number row by other means).
    """
    length = data.size
    while position < length:
        start = position
        while position < length and (data[position] == 32 or data[position] == 9):
            position += 1
        if position >= length:
            break
        first = data[position]
        if first == 10 or first == 13 or first == 35:
            while position < length and data[position] != 10 and data[position] != 13:
                position += 1
            if position + 1 < length and data[position] == 13 and data[position + 1] == 10:
                position += 1
            position += 1
            line += 1
            continue
        if (first >= 65 and first <= 90) or (first >= 97 and first <= 122) or first == 34:
            return 2, filled, start, line
        if filled >= most:
            return 1, filled, start, line
        for column in range(columns):
            while position < length and (data[position] == 32 or data[position] == 9):
                position += 1
            negative = False
            if position < length and (data[position] == 45 or data[position] == 43):
                negative = data[position] == 45
                position += 1
            mantissa = np.uint64(0)
            digits, exponent, seen = 0, 0, False
            while position < length and data[position] >= 48 and data[position] <= 57:
                mantissa = mantissa * np.uint64(10) + np.uint64(data[position] - 48)
                digits += 1 if mantissa > 0 else 0
                seen = True
                position += 1
            if position < length and data[position] == 46:
                position += 1
                while position < length and data[position] >= 48 and data[position] <= 57:
                    mantissa = mantissa * np.uint64(10) + np.uint64(data[position] - 48)
                    digits += 1 if mantissa > 0 else 0
                    exponent -= 1
                    seen = True
                    position += 1
            if not seen:
                blank = position >= length or data[position] == 10 or data[position] == 13
                return (3 if blank and not negative else 4), filled, start, line
            if position < length and (data[position] == 101 or data[position] == 69):
                position += 1
                down = False
                if position < length and (data[position] == 45 or data[position] == 43):
                    down = data[position] == 45
                    position += 1
                power, seen = 0, False
                while position < length and data[position] >= 48 and data[position] <= 57:
                    power = min(power * 10 + (data[position] - 48), 9999)
                    seen = True
                    position += 1
                if not seen:
                    return 4, filled, start, line
                exponent += -power if down else power
            # Up to 2**53 and 10**22 both are exact doubles, so one multiplication or division rounds once.
            if digits > 18 or mantissa > np.uint64(9007199254740992) or exponent < -22 or exponent > 22:
                return 5, filled, start, line
            value = np.float64(mantissa)
            value = value / tens[-exponent] if exponent < 0 else value * tens[exponent]
            out[filled, column] = np.float32(-value if negative else value)
            if position < length and data[position] != 32 and data[position] != 9 and data[position] != 10 and data[position] != 13:
                return 4, filled, start, line
        while position < length and (data[position] == 32 or data[position] == 9):
            position += 1
        if position < length and data[position] != 10 and data[position] != 13:
            return 3, filled, start, line
        if position + 1 < length and data[position] == 13 and data[position + 1] == 10:
            position += 1
        position += 1
        line += 1
        filled += 1
    return 0, filled, position, line


def read_rows(data: np.ndarray, position: int, line: int, out: np.ndarray, filled: int, most: int) -> tuple[Stop, int, int, int]:
    """`parse_rows` with the powers of ten it needs; out is (rows, columns) float32."""
    why, filled, position, line = parse_rows(data, position, line, out.shape[1], out, filled, most, _TENS)
    return Stop(why), filled, position, line


DECIMALS = 8
_SCALE = 10.0**DECIMALS
LARGEST_WRITTEN = 1e9


@njit(nogil=True, cache=True)
def format_rows(values, buffer):  # type: ignore[no-untyped-def]
    """Write (n, columns) float32 as lines of fixed-point numbers; returns the bytes used. |value| must be below 1e9.

    Eight decimals: a float32 from 0.125 up reads back bit for bit, smaller ones within 5e-9.
    """
    at = 0
    rows, columns = values.shape
    for row in range(rows):
        for column in range(columns):
            value = np.float64(values[row, column])
            code = np.int64(np.floor(np.abs(value) * 1e8 + 0.5))
            if value < 0 and code != 0:
                buffer[at] = 45
                at += 1
            whole, part = code // 100000000, code % 100000000
            if whole < 10:
                buffer[at] = np.uint8(48 + whole)
                at += 1
            else:
                width = 1
                rest = whole // 10
                while rest > 0:
                    width += 1
                    rest //= 10
                for place in range(width - 1, -1, -1):
                    buffer[at + place] = np.uint8(48 + whole % 10)
                    whole //= 10
                at += width
            buffer[at] = 46
            for place in range(8, 0, -1):
                buffer[at + place] = np.uint8(48 + part % 10)
                part //= 10
            at += 9
            buffer[at] = 32 if column < columns - 1 else 10
            at += 1
    return at


def write_rows(values: np.ndarray) -> bytes:
    """(n, columns) float32 as text, one row a line, LF. Raises ValueError for a value of 1e9 or more."""
    if values.size and np.abs(values).max() >= LARGEST_WRITTEN:
        raise ValueError("a value is too large to be written")
    buffer = np.empty(values.size * 21, np.uint8)
    return buffer[: format_rows(np.ascontiguousarray(values, np.float32), buffer)].tobytes()
