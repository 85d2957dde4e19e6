"""The colour transform file: a ProcessList like the Common LUT Format's, under a version of its own. Source: its public schema."""

from __future__ import annotations

from saucer.core.files.process_list import Head, list_format
from saucer.core.files.xml_tree import root_of


def sniff(data: bytes) -> bool:
    tag, attributes = root_of(data)
    return tag == "ProcessList" and "compCLFversion" not in attributes and "version" in attributes


FORMAT = list_format("ctf", "Colour transform file", ".ctf", Head("version", "2.0"), sniff)
