"""Per-pixel step kinds, one module each. A module registers itself; `step_kinds()` imports them all."""

from __future__ import annotations

import importlib
import pkgutil
from functools import lru_cache

from saucer.core.steps.registry import REGISTRY, StepKind


@lru_cache(maxsize=1)
def step_kinds() -> dict[str, StepKind]:
    """Every step kind by its id, in order of their titles."""
    for info in pkgutil.iter_modules(__path__):
        importlib.import_module(f"{__name__}.{info.name}")
    return dict(sorted(REGISTRY.items(), key=lambda item: item[1].title))
