"""cube.*: reading and writing .cube text at 65 nodes, beside OpenColorIO's reader and baker."""

from __future__ import annotations

import tempfile
from collections.abc import Iterator
from pathlib import Path

import PyOpenColorIO as ocio

from bench.applying import a_lattice
from bench.measure import Result, compare
from bench.peers import baker, baker_names, lattice_transform
from saucer.core.files.formats import cube
from saucer.core.lut.table import Lut


def _ocio_reader(path: Path):  # type: ignore[no-untyped-def]
    def read() -> object:
        # A new config and empty caches, else the second reading is a look-up.
        ocio.ClearAllCaches()
        return ocio.Config.CreateRaw().getProcessor(ocio.FileTransform(str(path)))

    return read


def run() -> Iterator[Result]:
    lattice = a_lattice(65)
    lut = Lut(lattice=lattice, title="bench")
    data = cube.write(lut)
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "bench.cube"
        path.write_bytes(data)
        yield compare("cube.read.65", lambda: cube.read(path.read_bytes()), "OpenColorIO", _ocio_reader(path), 8, rounds=7)
    yield compare(
        "cube.write.65",
        lambda: cube.write(lut),
        "OpenColorIO baker",
        baker(lattice_transform(lattice), baker_names("cube")[0], lattice.size),
        12,
        rounds=7,
    )
