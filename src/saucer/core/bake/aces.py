"""ACES look transforms: a look between two ACES encodings as one Common LUT Format file from ACES2065-1 to ACES2065-1.

Source: SMPTE ST 2065-1 (ACES2065-1), ST 2136-1 (Common LUT Format); the form of the transform identifier is that of S-2014-002 and
S-2014-006 (`urn:ampas:aces:transformId:v1.5:LMT.vendor.name.aN.vN`), from memory.
"""

from __future__ import annotations

import re

from saucer.core.bake.exact import chain_of
from saucer.core.bake.ocio import from_reference, to_reference
from saucer.core.colour.encodings import ENCODINGS, Encoding
from saucer.core.engine.plan import prepare
from saucer.core.errors import LutError
from saucer.core.files.formats.clf import write_transform
from saucer.core.look.model import Look
from saucer.core.lut.table import Lut
from saucer.core.steps.registry import Luts, no_luts

ACES = frozenset({"aces2065-1", "acescg", "acescc", "acescct"})


def is_aces(expects: str, gives: str) -> bool:
    """Are both of ACES's own encodings? Ids of encodings"""
    return {expects, gives} <= ACES


def transform_id(name: str, version: int) -> str:
    words = re.sub(r"[^A-Za-z0-9]+", "", "".join(part[:1].upper() + part[1:] for part in name.split())) or "Look"
    return f"urn:ampas:aces:transformId:v1.5:LMT.Saucer.{words}.a1.v{version}"


def look_transform(look: Look, version: int, size: int = 65, luts: Luts = no_luts) -> bytes:
    """A look as an ACES look transform. size: nodes a side of its lattices

    Raises: LutError where it expects or gives an encoding that is none of ACES's
    """
    if not is_aces(look.input, look.output):
        raise LutError("ACES look transform", f"needs an ACES encoding at both ends; this look is {look.input} to {look.output}")
    chain = chain_of(prepare(look, luts), size)
    return enclosed(chain, ENCODINGS[look.input], ENCODINGS[look.output], look.name, version)


def enclosed(lut: Lut, expects: Encoding, gives: Encoding, name: str, version: int) -> bytes:
    """A LUT between two ACES encodings as a look transform, with the ways from and to ACES2065-1 around it."""
    before = () if expects.id == "aces2065-1" else from_reference(expects)
    after = () if gives.id == "aces2065-1" else to_reference(gives)
    links = (*before, *lut.chain, *after)
    title = name or "Untitled look"
    comments = (f"ACES look transform of {title}, version {version}",)
    return write_transform(
        Lut(links=links, title=title, comments=comments), transform_id(title, version), "ACES2065-1", "ACES2065-1"
    )
