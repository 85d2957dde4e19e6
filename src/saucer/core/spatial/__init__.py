"""Spatial step kinds, one module each: what needs a pixel's place or its neighbours, and so can be in no LUT."""

from __future__ import annotations

import importlib
import pkgutil
from functools import lru_cache

from saucer.core.spatial.registry import REGISTRY, SpatialKind


@lru_cache(maxsize=1)
def spatial_kinds() -> dict[str, SpatialKind]:
    """Every spatial step kind by its id, in order of their titles."""
    for info in pkgutil.iter_modules(__path__):
        importlib.import_module(f"{__name__}.{info.name}")
    return dict(sorted(REGISTRY.items(), key=lambda item: item[1].title))
