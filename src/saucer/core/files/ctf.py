"""The colour transform file: a ProcessList like the Common LUT Format's, under a version of its own. Source: its public schema."""

from __future__ import annotations

from saucer.core.files import PLAIN, Format, Holds, Options
from saucer.core.files.process_list import Head, read
from saucer.core.files.process_list import write as write_list
from saucer.core.files.xml_tree import root_of
from saucer.core.lut.table import Lut


def sniff(data: bytes) -> bool:
    tag, attributes = root_of(data)
    return tag == "ProcessList" and b"compCLFversion" not in attributes and b"version" in attributes


def write(lut: Lut, options: Options = PLAIN) -> bytes:
    return write_list(lut, Head("version", "2.0"))


FORMAT = Format(
    "ctf", "Colour transform file", (".ctf",), sniff, read, write,
    Holds(frozenset({"1D", "3D", "1D + 3D", "nodes"}), domain=True, words=True),
)  # fmt: skip
