"""Baking: a look made into a LUT, with the words that say how it was made."""

from __future__ import annotations

from collections.abc import Sequence

from saucer import __version__
from saucer.core.errors import LutError
from saucer.core.evaluate import sampled
from saucer.core.look import Look
from saucer.core.lut.table import LARGEST, SMALLEST, Lut


def bake(look: Look, size: int, title: str = "", author: str = "", notes: Sequence[str] = ()) -> Lut:
    """The look as a LUT of size**3 nodes. The same arguments give the same LUT.

    Raises: LutError for a size outside 2..129
    """
    if not SMALLEST <= size <= LARGEST:
        raise LutError("size", f"must be from {SMALLEST} to {LARGEST} nodes a side, got {size}")
    comments = [
        f"Made with Saucer {__version__} from the look {look.content_hash[:12]}",
        f"Expects {look.input}, gives {look.output}",
        *([f"Author: {author}"] if author else []),
        *notes,
    ]
    return sampled(look, size).titled(title or look.name or "Untitled look", tuple(comments))
