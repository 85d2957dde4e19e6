"""file.*: reading and writing LUT files of 65 nodes beside OpenColorIO and colour-science; bake.129: a look baked to a .cube of 129.

colour-science reads and writes .cube and .spi3d only, and OpenColorIO writes a lattice as text through its baker.
"""

from __future__ import annotations

import tempfile
from collections.abc import Callable, Iterator
from pathlib import Path

import numpy as np
import PyOpenColorIO as ocio

from bench.applying import a_lattice
from bench.measure import Result, compare
from bench.peers import baker, baker_names, lattice_transform, writer_name
from saucer.core.bake.bake import Words, bake_file
from saucer.core.files.format import Options
from saucer.core.files.registry import formats
from saucer.core.look.model import look_from
from saucer.core.lut.table import Lattice, Lut

ROUNDS = 5
WANTED = {"3dl": 12.0, "csp": 8.0, "clf": 3.0, "ctf": 3.0, "spi3d": 3.0}
STEPS = [
    {"kind": "cdl", "slope": [1.1, 1.0, 0.9], "offset": [0.02, 0.0, -0.01], "power": [1.1, 1.0, 0.95], "saturation": 1.1},
    {"kind": "channel-mix", "red": [0.9, 0.1, 0.0], "green": [0.05, 0.9, 0.05], "blue": [0.0, 0.1, 0.9]},
]


def _read_by_ocio(path: Path) -> Callable[[], object]:
    def read() -> object:
        ocio.ClearAllCaches()
        return ocio.Config.CreateRaw().getProcessor(ocio.FileTransform(str(path)))

    return read


def _clf_writer(lattice: Lattice, suffix: str) -> Callable[[], object]:
    group = ocio.GroupTransform()
    group.appendTransform(lattice_transform(lattice))
    return lambda: group.write(writer_name(suffix))


def _ocio_look() -> ocio.GroupTransform:
    cdl = ocio.CDLTransform()
    cdl.setSlope([1.1, 1.0, 0.9])
    cdl.setOffset([0.02, 0.0, -0.01])
    cdl.setPower([1.1, 1.0, 0.95])
    cdl.setSat(1.1)
    cdl.setStyle(ocio.CDL_NO_CLAMP)
    rows = [[0.9, 0.1, 0.0, 0], [0.05, 0.9, 0.05, 0], [0.0, 0.1, 0.9, 0], [0, 0, 0, 1]]
    group = ocio.GroupTransform()
    group.appendTransform(cdl)
    group.appendTransform(ocio.MatrixTransform(matrix=[value for row in rows for value in row]))
    return group


def _numpy_look(x: np.ndarray) -> np.ndarray:
    slope, offset, power = np.array([1.1, 1.0, 0.9]), np.array([0.02, 0.0, -0.01]), np.array([1.1, 1.0, 0.95])
    y = x * slope + offset
    y = np.where(y > 0, np.maximum(y, 0) ** power, y)
    luma = (y @ np.array([0.2126, 0.7152, 0.0722]))[..., None]
    y = luma + 1.1 * (y - luma)
    return y @ np.array([[0.9, 0.1, 0.0], [0.05, 0.9, 0.05], [0.0, 0.1, 0.9]]).T


def run() -> Iterator[Result]:
    import colour

    lattice = Lattice(np.clip(a_lattice(65).table, 0, 1))
    lut = Lut(lattice=lattice, title="bench")
    theirs = colour.LUT3D(lattice.table.astype(np.float64), "bench")
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        for form, wanted in WANTED.items():
            path = folder / f"bench.{form}"
            path.write_bytes(formats()[form].write(lut, Options()))

            def read(path: Path = path, form: str = form) -> object:
                return formats()[form].read(path.read_bytes())

            yield compare(f"file.{form}.read.65", read, "OpenColorIO", _read_by_ocio(path), wanted, ROUNDS)
            writer = (
                _clf_writer(lattice, form)
                if form in ("clf", "ctf")
                else baker(lattice_transform(lattice), baker_names(form)[0], 65)
            )
            yield compare(
                f"file.{form}.write.65",
                lambda form=form: formats()[form].write(lut, Options()),
                "OpenColorIO",
                writer,
                1.5 if form == "3dl" else 8,
                ROUNDS,
            )
        cube = folder / "bench.cube"
        cube.write_bytes(formats()["cube"].write(lut, Options()))
        yield compare(
            "file.cube.read.65", lambda: formats()["cube"].read(cube.read_bytes()), "colour-science",
            lambda: colour.io.read_LUT_IridasCube(str(cube)), 20, 3,
        )  # fmt: skip
        yield compare(
            "file.cube.write.65", lambda: cube.write_bytes(formats()["cube"].write(lut, Options())), "colour-science",
            lambda: colour.io.write_LUT_IridasCube(theirs, str(folder / "theirs.cube")), 30, 3,
        )  # fmt: skip
        look, words = look_from({"steps": STEPS}), Words("bench")
        # Ours reads the file back and measures it as well; the peers only write.
        ours = lambda: bake_file(look, formats()["cube"], 129, words)  # noqa: E731
        yield compare("bake.129", ours, "OpenColorIO baker", baker(_ocio_look(), baker_names("cube")[0], 129), 4, 3)

        def by_colour() -> None:
            table = _numpy_look(colour.LUT3D.linear_table(129))
            colour.io.write_LUT_IridasCube(colour.LUT3D(table, "bench"), str(folder / "theirs129.cube"))

        yield compare("bake.129.colour", ours, "NumPy, colour-science", by_colour, 12, 1)
