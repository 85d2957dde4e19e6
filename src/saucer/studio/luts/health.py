"""The health report of a LUT on the Shelf, kept between requests."""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from saucer.core.engine.evaluate import show_on_srgb
from saucer.core.lut.health import Health, examine
from saucer.studio.encodings.rules import studio_view
from saucer.studio.luts.models import Lut
from saucer.studio.luts.rules import TOLD, at_hand, encodings_of, first_file


@lru_cache(maxsize=32)
def _examine(sha256: str, is_told: bool) -> Health:
    return examine(at_hand(sha256), is_told)


def report(lut: Lut) -> tuple[Health, np.ndarray]:
    """The report, and the coarse lattice's colours as shown in sRGB, 0..1."""
    found = _examine(first_file(lut).blob_id, lut.known in TOLD)
    shown = show_on_srgb(np.ascontiguousarray(found.graphs.edge, np.float32), encodings_of(lut)[1], studio_view())
    return found, np.clip(shown, 0, 1)
