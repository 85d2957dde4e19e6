"""Every kind of step. A module of `pixel/` or `spatial/` registers its kind; here they are found, by walking both folders."""

from __future__ import annotations

import importlib
import pkgutil
from functools import lru_cache
from typing import Any

from saucer.core.steps import pixel, spatial
from saucer.core.steps.registry import REGISTRY, Kind, PixelKind, SpatialKind


@lru_cache(maxsize=1)
def kinds() -> dict[str, Kind]:
    """Every kind by its id, in order of their titles, per-pixel ones first."""
    for package in (pixel, spatial):
        for info in pkgutil.iter_modules(package.__path__):
            importlib.import_module(f"{package.__name__}.{info.name}")
    return dict(sorted(REGISTRY.items(), key=lambda item: (isinstance(item[1], SpatialKind), item[1].title)))


@lru_cache(maxsize=1)
def pixel_kinds() -> dict[str, PixelKind]:
    return {name: kind for name, kind in kinds().items() if isinstance(kind, PixelKind)}


@lru_cache(maxsize=1)
def spatial_kinds() -> dict[str, SpatialKind]:
    return {name: kind for name, kind in kinds().items() if isinstance(kind, SpatialKind)}


def kind_of(step: Any) -> Kind | None:
    """The kind of a step; None for a group, which is of no kind."""
    return kinds().get(step.kind)


def lets_beyond(step: Any) -> bool:
    """May its strength, or that of what holds it, lie beyond full? A limit would be passed, colour that was taken away turn round."""
    return any(getattr(bound, "le", 0) > 1 for bound in type(step).model_fields["strength"].metadata)


def title_of(step: Any) -> str:
    """What people call a step: by the name they gave it, else by its kind."""
    kind = kind_of(step)
    return str(step.name or (kind.title if kind else "Group"))
