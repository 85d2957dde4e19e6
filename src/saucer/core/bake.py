"""Baking: a look made into a LUT, with the words that say how it was made."""

from __future__ import annotations

from collections.abc import Sequence

from saucer import __version__
from saucer.core.errors import LutError
from saucer.core.evaluate import sampled
from saucer.core.look import Look, walk
from saucer.core.lut.table import LARGEST, SMALLEST, Lut
from saucer.core.spatial import spatial_kinds
from saucer.core.steps.registry import Luts, no_luts


def bake(look: Look, size: int, title: str = "", author: str = "", notes: Sequence[str] = (), luts: Luts = no_luts) -> Lut:
    """The look as a LUT of size**3 nodes, its spatial steps left out. The same arguments give the same LUT.

    Raises: LutError for a size outside 2..129
    """
    if not SMALLEST <= size <= LARGEST:
        raise LutError("size", f"must be from {SMALLEST} to {LARGEST} nodes a side, got {size}")
    comments = [
        f"Made with Saucer {__version__} from the look {look.content_hash[:12]}",
        f"Expects {look.input}, gives {look.output}",
        *(f"Left out: {words}" for words in words_left_out(look)),
        *([f"Author: {author}"] if author else []),
        *notes,
    ]
    return sampled(look, size, luts=luts).titled(title or look.name or "Untitled look", tuple(comments))


def words_left_out(look: Look) -> list[str]:
    """The spatial steps that a LUT of this look cannot hold, each with its place."""
    kinds = spatial_kinds()
    return [
        f"{step.name or kinds[step.kind].title} ({path})"
        for path, step in walk(look.steps)
        if step.kind in kinds and step.enabled and not kinds[step.kind].neutral(step)
    ]
