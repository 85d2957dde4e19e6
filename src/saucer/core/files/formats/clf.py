"""The Common LUT Format. Source: SMPTE ST 2136-1; S-2014-006."""

from __future__ import annotations

from saucer.core.files.process_list import Head, list_format
from saucer.core.files.xml_tree import root_of


def sniff(data: bytes) -> bool:
    tag, attributes = root_of(data)
    return tag == "ProcessList" and (b"compCLFversion" in attributes or b"version" not in attributes)


FORMAT = list_format("clf", "Common LUT Format", ".clf", Head("compCLFversion", "3.0"), sniff)
