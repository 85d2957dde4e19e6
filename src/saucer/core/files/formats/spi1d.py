"""The .spi1d text format: a 1D table over a range. Source: its public description, `Version 1`, one or three components."""

from __future__ import annotations

import numpy as np

from saucer.core.errors import LutError
from saucer.core.files.format import PLAIN, Format, Holds, Options
from saucer.core.files.lines import Text, numbers, rows_text, whole
from saucer.core.lut.table import MOST_SAMPLES, Curve1D, Lut

NAMES = ("VERSION", "FROM", "LENGTH", "COMPONENTS")


def sniff(data: bytes) -> bool:
    head = data[:4096].upper()
    return head.lstrip(b"\xef\xbb\xbf \t\r\n").startswith(b"VERSION") and b"LENGTH" in head


def read(data: bytes) -> Lut:
    """Raises: LutError with `line N`"""
    text = Text(data)
    seen: dict[str, tuple[float, ...]] = {}
    while (line := text.take("the opening brace {")) != "{":
        name, *words = line.split()
        try:
            match name.upper():
                case "FROM":
                    seen["FROM"] = numbers(words, 2, "From")
                case "VERSION":
                    seen["VERSION"] = whole(words, 1, "Version", 1, 1)
                case "LENGTH":
                    seen["LENGTH"] = whole(words, 1, "Length", 2, MOST_SAMPLES)
                case "COMPONENTS":
                    seen["COMPONENTS"] = whole(words, 1, "Components", 1, 3)
                case _:
                    raise LutError("", f'unknown word "{name[:40]}"; known are Version, From, Length, Components and {{')
        except LutError as error:
            raise text.here(error.problem) from None
    missing = [name.capitalize() for name in ("LENGTH",) if name not in seen]
    if missing:
        raise text.here(f"the table begins before {missing[0]}")
    low, high = seen.get("FROM", (0.0, 1.0))
    if not low < high:
        raise text.here(f"From must rise, got {low:g} to {high:g}")
    count, columns = int(seen["LENGTH"][0]), int(seen.get("COMPONENTS", (1.0,))[0])
    if columns == 2:
        raise text.here("Components must be 1 or 3, got 2")
    rows = text.rows(count, columns, f"Length {count}")
    end = text.take("the closing brace }")
    if end != "}":
        raise text.here(f'expected the closing brace }} after {count} rows, got "{end[:60]}"')
    samples = np.repeat(rows, 3, axis=1) if columns == 1 else rows
    return Lut(Curve1D(samples, ((low,) * 3, (high,) * 3)), comments=text.comments())


def write(lut: Lut, options: Options = PLAIN) -> bytes:
    """Raises: LutError for more than a 1D table, or a range that differs between channels"""
    if lut.shaper is None or lut.lattice is not None:
        raise LutError("", "a .spi1d file holds one 1D table and nothing else")
    low, high = lut.shaper.domain
    if len(set(low)) != 1 or len(set(high)) != 1:
        raise LutError("", "a .spi1d file holds one range for all channels; crop the domain first")
    head = ["Version 1", f"From {low[0]!r} {high[0]!r}", f"Length {lut.shaper.size}", "Components 3", "{", ""]
    return "\n".join(head).encode() + rows_text(lut.shaper.samples) + b"}\n"


FORMAT = Format("spi1d", "SPI 1D", (".spi1d",), sniff, read, write, Holds(frozenset({"1D"}), domain=True))
