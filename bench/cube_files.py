"""cube.*: reading and writing .cube text at 65 nodes, beside OpenColorIO's reader and baker."""

from __future__ import annotations

import tempfile
from collections.abc import Iterator
from pathlib import Path

import numpy as np
import PyOpenColorIO as ocio

from bench.applying import a_lattice
from bench.measure import Result, compare
from saucer.core.files import cube
from saucer.core.lut.table import Lattice, Lut


def _ocio_reader(path: Path):  # type: ignore[no-untyped-def]
    def read() -> object:
        # A new config and empty caches, else the second reading is a look-up.
        ocio.ClearAllCaches()
        return ocio.Config.CreateRaw().getProcessor(ocio.FileTransform(str(path)))

    return read


def _ocio_baker(lattice: Lattice):  # type: ignore[no-untyped-def]
    transform = ocio.Lut3DTransform(lattice.size)
    transform.setData(np.ascontiguousarray(lattice.table).reshape(-1))
    config = ocio.Config()
    config.addColorSpace(ocio.ColorSpace(name="source"))
    target = ocio.ColorSpace(name="target")
    target.setTransform(transform, ocio.COLORSPACE_DIR_FROM_REFERENCE)
    config.addColorSpace(target)
    baker = ocio.Baker()
    baker.setConfig(config)
    baker.setFormat("iridas_cube")
    baker.setInputSpace("source")
    baker.setTargetSpace("target")
    baker.setCubeSize(lattice.size)
    return baker.bake


def run() -> Iterator[Result]:
    lattice = a_lattice(65)
    lut = Lut(lattice=lattice, title="bench")
    data = cube.write(lut)
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "bench.cube"
        path.write_bytes(data)
        yield compare("cube.read.65", lambda: cube.read(path.read_bytes()), "OpenColorIO", _ocio_reader(path), 8, rounds=7)
    yield compare("cube.write.65", lambda: cube.write(lut), "OpenColorIO baker", _ocio_baker(lattice), 12, rounds=7)
