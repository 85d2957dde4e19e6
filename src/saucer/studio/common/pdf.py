"""A PDF to draw on."""

from __future__ import annotations

from typing import BinaryIO

from reportlab import rl_config
from reportlab.pdfgen.canvas import Canvas

# Pictures as bytes and not as text, as every program has read them since PDF 1.2: a fifth smaller, and packed in C where text is in Python.
rl_config.useA85 = 0


def make_canvas(file: BinaryIO, size: tuple[float, float]) -> Canvas:
    """A document of pages of a size, in points; the same drawing gives the same bytes."""
    return Canvas(file, pagesize=size, invariant=1)
