"""ASC CDL collection (.ccc): ASC CDL 1.2 in a ColorCorrectionCollection element."""

from __future__ import annotations

from saucer.core.files.corrections import NAMESPACE, correction_lines, document, read
from saucer.core.files.format import PLAIN, Format, Holds, Options
from saucer.core.files.xml_tree import root_of
from saucer.core.lut.table import Lut


def sniff(data: bytes) -> bool:
    return root_of(data)[0] == "ColorCorrectionCollection"


def write(lut: Lut, options: Options = PLAIN) -> bytes:
    """Raises: LutError unless the LUT is one CDL and nothing else"""
    inner = [f"  {line}" for line in correction_lines(lut, namespace=False)]
    return document([f'<ColorCorrectionCollection xmlns="{NAMESPACE}">', *inner, "</ColorCorrectionCollection>"])


FORMAT = Format("ccc", "ASC CDL collection", (".ccc",), sniff, read, write, Holds(frozenset({"cdl"}), words=True))
