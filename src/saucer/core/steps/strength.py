"""The strength of a step, a group or a look: between what comes in and what it makes of it."""

from __future__ import annotations

import numpy as np

from saucer.core.colour.conversion import conversion
from saucer.core.colour.encodings import Encoding
from saucer.core.colour.rendering import Rendering
from saucer.core.numeric.elementary import F
from saucer.core.numeric.planes import Operation, fade


def at_strength(operation: Operation, before: Encoding, after: Encoding, strength: float, rendering: Rendering) -> Operation:
    """a + s (f(x) - a), where a is x itself, or x properly converted where the encoding changes."""
    if strength == 1:
        return operation
    converted = conversion(before, after, rendering)
    if strength == 0:
        return converted or (lambda planes: None)

    def run(planes: np.ndarray) -> None:
        kept = planes.copy()
        operation(planes)
        if converted is not None:
            converted(kept)
        fade(planes.reshape(-1), kept.reshape(-1), F(strength))

    return run
