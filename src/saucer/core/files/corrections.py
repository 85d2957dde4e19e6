"""ASC CDL in XML: one correction, a collection, or a decision list. `cc.py`, `ccc.py` and `cdl.py` are the three wrappings.

They cannot say whether values are held to 0..1 on the way, as version 1.2 does: nothing is held, here as in the CDL step and in edit
lists, so that highlights of scene light stay. (OpenColorIO reads them so too, unless it is told otherwise.)

Source: ASC Color Decision List transfer functions and interchange syntax, version 1.2
"""

from __future__ import annotations

from dataclasses import dataclass

from saucer.core.errors import LutError
from saucer.core.files.process_list import cdl_lines, read_cdl
from saucer.core.files.xml_tree import Element, element, parse
from saucer.core.lut.formulas import Cdl
from saucer.core.lut.table import Lut

NAMESPACE = "urn:ASC:CDL:v1.01"


@dataclass(frozen=True)
class Correction:
    """One ColorCorrection: its id (or its place in the file), its description and its CDL."""

    id: str
    words: tuple[str, ...]
    cdl: Cdl

    def as_lut(self) -> Lut:
        return Lut(title=self.id, comments=self.words, links=(self.cdl,))


def _corrections_in(root: Element) -> list[Element]:
    if root.tag == "ColorCorrection":
        return [root]
    if root.tag == "ColorDecisionList":
        return [one for decision in root.all("ColorDecision") for one in decision.all("ColorCorrection")]
    return list(root.all("ColorCorrection"))


def corrections(data: bytes) -> list[Correction]:
    """Every correction of the file. Raises: LutError with the line"""
    root = parse(data)
    found = []
    for number, one in enumerate(_corrections_in(root), 1):
        parts = [one, *(child for child in one.children if child.tag in ("SOPNode", "SatNode", "SATNode"))]
        words = [" ".join(text.text.split()) for part in parts for text in part.children if text.tag.endswith("Description")]
        name = one.attributes.get("id", "") or ("" if root is one else f"correction {number}")
        found.append(Correction(name, tuple(filter(None, words)), read_cdl(one, "FwdNoClamp")))
    if not found:
        raise root.here("holds no ColorCorrection")
    return found


def read(data: bytes) -> Lut:
    """The one correction of the file. Raises: LutError; for several it names them"""
    found = corrections(data)
    if len(found) > 1:
        names = ", ".join(one.id for one in found[:8]) + (", ..." if len(found) > 8 else "")
        raise LutError("", f"holds {len(found)} corrections ({names}); say which one")
    return found[0].as_lut()


def single(lut: Lut) -> Cdl:
    """The CDL that is all the LUT does. Raises: LutError; `fitting.fitted` finds the nearest one before"""
    if len(lut.chain) != 1 or not isinstance(lut.chain[0], Cdl):
        raise LutError("", "holds more than slope, offset, power and saturation")
    return lut.chain[0]


def correction_lines(lut: Lut, namespace: bool) -> list[str]:
    """A ColorCorrection element, line by line."""
    identity = "-".join(lut.title.split()) or "look"
    start = element("ColorCorrection", id=identity, xmlns=NAMESPACE if namespace else None)[:-2]
    words = [f"  {element('Description', comment)}" for comment in lut.comments if comment]
    return [f"{start}>", *words, *(f"  {line}" for line in cdl_lines(single(lut))), "</ColorCorrection>"]


def document(lines: list[str]) -> bytes:
    return ("\n".join(['<?xml version="1.0" encoding="UTF-8"?>', *lines]) + "\n").encode()
