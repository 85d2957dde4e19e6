"""The Common LUT Format. Source: SMPTE ST 2136-1; S-2014-006."""

from __future__ import annotations

from saucer.core.files.process_list import Head, Transform, list_format, write
from saucer.core.files.xml_tree import root_of
from saucer.core.lut.table import Lut

HEAD = Head("compCLFversion", "3.0")


def sniff(data: bytes) -> bool:
    tag, attributes = root_of(data)
    return tag == "ProcessList" and ("compCLFversion" in attributes or "version" not in attributes)


FORMAT = list_format("clf", "Common LUT Format", ".clf", HEAD, sniff)


def write_transform(lut: Lut, identifier: str, expects: str, gives: str) -> bytes:
    """A file that says which transform it is and between what, as ACES has it. identifier: ACEStransformID"""
    return write(lut, HEAD, Transform(identifier, expects, gives))
