"""The .csp text format: a prelut for each channel, then a 1D table or a lattice. Source: its public description, `CSPLUTV100`."""

from __future__ import annotations

import numpy as np

from saucer.core.errors import LutError
from saucer.core.files.format import PLAIN, Format, Holds, Options
from saucer.core.files.lines import Text, numbers, one_line, rows_text
from saucer.core.lut.domain import FEWEST_NODES, MOST_NODES, UNIT, Bounds
from saucer.core.lut.table import MOST_SAMPLES, Curve1D, Lattice, Link, Lut, lut_of, red_fastest

MOST_PRELUT = 65536
MANY_POINTS = 2048
RESAMPLED = 65536
"""Samples of the evenly spaced table that stands in for a prelut whose points are not evenly spaced."""


def sniff(data: bytes) -> bool:
    return data[:64].lstrip(b"\xef\xbb\xbf \t\r\n").upper().startswith(b"CSPLUTV")


def _metadata(text: Text) -> tuple[str, ...]:
    if text.peek().upper() != "BEGIN METADATA":
        return ()
    text.take()
    lines = []
    while (line := text.take("END METADATA")).upper() != "END METADATA":
        lines.append(line)
    return tuple(lines[:50])


def _numbers_line(text: Text, count: int, what: str) -> np.ndarray:
    words = text.take(what).split()
    try:
        return np.array(numbers(words, count, what), np.float64)
    except LutError as error:
        raise text.here(error.problem) from None


def _prelut(text: Text, channel: str) -> tuple[np.ndarray, np.ndarray]:
    count = text.take_whole(1, f"the number of prelut points of {channel}", 0, MOST_PRELUT)[0]
    if count < 2:  # some programs write 0 where there is no prelut
        return np.array([0.0, 1.0]), np.array([0.0, 1.0])
    points = _numbers_line(text, count, f"the prelut inputs of {channel}")
    if not (np.diff(points) > 0).all():
        raise text.here(f"the prelut inputs of {channel} must rise")
    return points, _numbers_line(text, count, f"the prelut outputs of {channel}")


def _is_straight(points: np.ndarray, values: np.ndarray) -> bool:
    return len(points) == 2 and values[0] == 0 and values[1] == 1


def _shaper(preluts: list[tuple[np.ndarray, np.ndarray]]) -> Curve1D:
    """Evenly spaced samples of the preluts; the very points where all three are evenly spaced already."""
    low = tuple(float(points[0]) for points, _ in preluts)
    high = tuple(float(points[-1]) for points, _ in preluts)
    sizes = {len(points) for points, _ in preluts}
    even = all(np.allclose(points, np.linspace(points[0], points[-1], len(points)), rtol=0, atol=2e-6 * (points[-1] - points[0]))
               for points, _ in preluts)  # fmt: skip
    count = sizes.pop() if len(sizes) == 1 and even else RESAMPLED
    columns = [np.interp(np.linspace(points[0], points[-1], count), points, values) for points, values in preluts]
    return Curve1D(np.stack(columns, axis=1).astype(np.float32), (low, high))  # type: ignore[arg-type]


def read(data: bytes) -> Lut:
    """Raises: LutError with `line N`"""
    text = Text(data)
    text.take("CSPLUTV100")
    kind = text.take("1D or 3D").upper()
    if kind not in ("1D", "3D"):
        raise text.here(f'expected 1D or 3D, got "{kind[:40]}"')
    words = _metadata(text)
    preluts = [_prelut(text, channel) for channel in ("red", "green", "blue")]
    domain: Bounds = tuple(tuple(float(points[end]) for points, _ in preluts) for end in (0, -1))  # type: ignore[assignment]
    straight = all(_is_straight(*prelut) for prelut in preluts)
    chain: list[Link] = [] if straight else [_shaper(preluts)]
    if kind == "1D":
        count = text.take_whole(1, "the number of rows", 2, MOST_SAMPLES)[0]
        chain.append(Curve1D(text.rows(count, 3, f"a 1D table of {count}"), domain if straight else UNIT))
    else:
        sizes = text.take_whole(3, "the size of the lattice", FEWEST_NODES, MOST_NODES)
        if len(set(sizes)) != 1:
            raise text.here(f"the three sides must be equal, got {' '.join(map(str, sizes))}")
        size = sizes[0]
        rows = red_fastest(text.rows(size**3, 3, f"a lattice of {size}"), size)
        chain.append(Lattice(rows.reshape(size, size, size, 3), domain if straight else UNIT))
    extra = text.take()
    if extra:
        raise text.here(f'text after the end of the table: "{extra[:60]}"')
    return lut_of(chain, words[0] if words else "", words[1:])


def _prelut_lines(points: np.ndarray, values: np.ndarray) -> list[str]:
    def line(numbers_: np.ndarray) -> str:
        return " ".join(np.format_float_positional(number, unique=True, trim="0") for number in numbers_)

    return [str(len(points)), line(points), line(values)]


def _fewer(points: np.ndarray, values: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """Of a long prelut the points that its shape needs, close together at its beginning: at most 2e-6 of the range away; or all."""
    if len(points) <= MANY_POINTS:
        return points, values
    chosen = np.unique(np.concatenate([[0], np.geomspace(1, len(points) - 1, MANY_POINTS).round().astype(int)]))
    away = np.abs(np.interp(points, points[chosen], values[chosen]) - values).max()
    return (points[chosen], values[chosen]) if away <= 2e-6 * float(np.ptp(values)) else (points, values)


def write(lut: Lut, options: Options = PLAIN) -> bytes:
    """Raises: LutError for a lattice behind a shaper that does not span 0..1"""
    if lut.links or (lut.shaper is not None and lut.lattice is not None and lut.lattice.domain != UNIT):
        raise LutError("", "a .csp file holds a prelut and one table over 0..1")
    words = [one_line(word) for word in (lut.title, *lut.comments) if word]
    lines = ["CSPLUTV100", "3D" if lut.lattice is not None else "1D", ""]
    lines += ["BEGIN METADATA", *words, "END METADATA", ""] if words else []
    shaper = lut.shaper if lut.lattice is not None else None
    for channel in range(3):
        low, high = (bound[channel] for bound in lut.domain)
        values = shaper.planar[channel] if shaper is not None else np.array([0, 1], np.float32)
        points, values = _fewer(np.linspace(low, high, len(values)).astype(np.float64), values)
        lines += _prelut_lines(points, values)
    lines.append("")
    if lut.lattice is not None:
        size = lut.lattice.size
        lines += [f"{size} {size} {size}", ""]
        table = red_fastest(lut.lattice.table.reshape(-1, 3), size)
    else:
        assert lut.shaper is not None
        lines += [str(lut.shaper.size), ""]
        table = lut.shaper.samples
    return "\n".join(lines).encode() + rows_text(table)


FORMAT = Format("csp", "CSP", (".csp",), sniff, read, write, Holds(frozenset({"1D", "3D", "1D + 3D"}), domain=True, words=True))
