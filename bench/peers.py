"""What OpenColorIO does, as functions."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
import PyOpenColorIO as ocio

from saucer.core.lut.table import Lattice


def lattice_transform(lattice: Lattice) -> ocio.Lut3DTransform:
    transform = ocio.Lut3DTransform(lattice.size)
    transform.setData(np.ascontiguousarray(lattice.table).reshape(-1))
    return transform


def baker_names(suffix: str) -> list[str]:
    """OpenColorIO's names of the bakers that write this suffix."""
    return [name for name, ending in ocio.Baker.getFormats() if ending == suffix]


def writer_name(suffix: str) -> str:
    return next(name for name, ending in ocio.GroupTransform.GetWriteFormats() if ending == suffix)


def baker(transform: ocio.Transform, form: str, size: int) -> Callable[[], str]:
    """A function that bakes a transform to the text of a file of one of its baker's formats."""
    config = ocio.Config()
    config.addColorSpace(ocio.ColorSpace(name="source"))
    target = ocio.ColorSpace(name="target")
    target.setTransform(transform, ocio.COLORSPACE_DIR_FROM_REFERENCE)
    config.addColorSpace(target)
    made = ocio.Baker()
    made.setConfig(config)
    made.setFormat(form)
    made.setInputSpace("source")
    made.setTargetSpace("target")
    made.setCubeSize(size)
    return made.bake
