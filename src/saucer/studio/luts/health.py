"""The health report of a LUT on the Shelf, kept between requests."""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from saucer.core.colour.conversion import convert
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.health import Health, examine
from saucer.studio.luts.models import LutEntry
from saucer.studio.luts.rules import ends_of, table_of


@lru_cache(maxsize=32)
def _examined(pk: int, sha256: str) -> Health:
    del sha256
    return examine(table_of(LutEntry.objects.get(pk=pk)))


def of(entry: LutEntry) -> tuple[Health, np.ndarray]:
    """The report, and the coarse lattice's colours as shown in sRGB, 0..1."""
    found = _examined(entry.pk, entry.sha256)
    shown = np.clip(convert(np.ascontiguousarray(found.graphs.edge, np.float32), ends_of(entry)[1], ENCODINGS["srgb"]), 0, 1)
    return found, shown
