"""The Common LUT Format. Source: SMPTE ST 2136-1; S-2014-006."""

from __future__ import annotations

from saucer.core.files import PLAIN, Format, Holds, Options
from saucer.core.files.process_list import Head, read
from saucer.core.files.process_list import write as write_list
from saucer.core.files.xml_tree import root_of
from saucer.core.lut.table import Lut


def sniff(data: bytes) -> bool:
    tag, attributes = root_of(data)
    return tag == "ProcessList" and (b"compCLFversion" in attributes or b"version" not in attributes)


def write(lut: Lut, options: Options = PLAIN) -> bytes:
    return write_list(lut, Head("compCLFversion", "3.0"))


FORMAT = Format(
    "clf", "Common LUT Format", (".clf",), sniff, read, write,
    Holds(frozenset({"1D", "3D", "1D + 3D", "nodes"}), domain=True, words=True),
)  # fmt: skip
