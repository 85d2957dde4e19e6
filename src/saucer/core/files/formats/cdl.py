"""ASC CDL decision list (.cdl): ASC CDL 1.2 in a ColorDecisionList element."""

from __future__ import annotations

from saucer.core.files.corrections import NAMESPACE, correction_lines, document, read
from saucer.core.files.format import PLAIN, Format, Holds, Options
from saucer.core.files.xml_tree import root_of
from saucer.core.lut.table import Lut


def sniff(data: bytes) -> bool:
    return root_of(data)[0] == "ColorDecisionList"


def write(lut: Lut, options: Options = PLAIN) -> bytes:
    """Raises: LutError unless the LUT is one CDL and nothing else"""
    inner = [f"    {line}" for line in correction_lines(lut, namespace=False)]
    start = [f'<ColorDecisionList xmlns="{NAMESPACE}">', "  <ColorDecision>"]
    return document([*start, *inner, "  </ColorDecision>", "</ColorDecisionList>"])


FORMAT = Format("cdl", "ASC CDL decision list", (".cdl",), sniff, read, write, Holds(frozenset({"cdl"}), words=True))
