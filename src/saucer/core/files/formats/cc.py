"""ASC CDL correction (.cc): ASC CDL 1.2 in a ColorCorrection element."""

from __future__ import annotations

from saucer.core.files.corrections import correction_lines, document, read
from saucer.core.files.format import PLAIN, Format, Holds, Options
from saucer.core.files.xml_tree import root_of
from saucer.core.lut.table import Lut


def sniff(data: bytes) -> bool:
    return root_of(data)[0] == "ColorCorrection"


def write(lut: Lut, options: Options = PLAIN) -> bytes:
    """Raises: LutError unless the LUT is one CDL and nothing else"""
    return document(correction_lines(lut, namespace=True))


FORMAT = Format("cc", "ASC CDL correction", (".cc",), sniff, read, write, Holds(frozenset({"cdl"}), words=True))
