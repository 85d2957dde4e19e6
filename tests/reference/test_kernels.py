"""Interpolation and .cube files against OpenColorIO, libavfilter (through PyAV) and colour-science."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest

from saucer.core.bake.bake import bake
from saucer.core.files.formats import cube
from saucer.core.lut.apply import apply_lattice, apply_lut
from saucer.core.lut.table import Curve1D, Lattice, Lut
from tests.make import BENT, WARM, a_look, a_lut, random_pixels

ocio = pytest.importorskip("PyOpenColorIO", reason="development requirements are not installed")
av = pytest.importorskip("av", reason="development requirements are not installed")
from bench.peers import baker, baker_names, lattice_transform  # noqa: E402


def through_ocio(path: Path, values: np.ndarray, interpolation=None) -> np.ndarray:
    transform = ocio.FileTransform(str(path), interpolation=interpolation or ocio.INTERP_TETRAHEDRAL)
    processor = ocio.Config.CreateRaw().getProcessor(transform)
    out = np.ascontiguousarray(values.copy())
    processor.getOptimizedCPUProcessor(ocio.OPTIMIZATION_NONE).apply(ocio.PackedImageDesc(out, values.shape[1], values.shape[0], 3))
    return out


@pytest.mark.parametrize("size", [2, 17, 33, 65])
def test_tetrahedral_agrees_with_opencolorio(tmp_path: Path, size):
    lut = a_lut(size)
    (tmp_path / "a.cube").write_bytes(cube.write(lut))
    values = np.random.default_rng(size).uniform(-0.1, 1.1, (200, 300, 3)).astype(np.float32)
    np.testing.assert_allclose(apply_lattice(lut.lattice, values), through_ocio(tmp_path / "a.cube", values), atol=2e-6)


def test_trilinear_agrees_with_opencolorio(tmp_path: Path):
    lut = a_lut(17)
    (tmp_path / "a.cube").write_bytes(cube.write(lut))
    values = random_pixels(100, 200)
    np.testing.assert_allclose(
        apply_lattice(lut.lattice, values, "trilinear"), through_ocio(tmp_path / "a.cube", values, ocio.INTERP_LINEAR), atol=2e-6
    )


def test_a_shaper_file_agrees_with_opencolorio(tmp_path: Path):
    shaper = Curve1D(np.linspace(0, 1, 257, dtype=np.float32)[:, None].repeat(3, 1) ** np.float32(0.4), ((0.0,) * 3, (4.0,) * 3))
    lut = Lut(shaper, a_lut(17).lattice)
    (tmp_path / "s.cube").write_bytes(cube.write(lut))
    values = random_pixels(50, 60) * np.float32(4)
    np.testing.assert_allclose(apply_lut(lut, values), through_ocio(tmp_path / "s.cube", values), atol=2e-6)


def test_a_1d_file_with_a_domain_agrees_with_opencolorio(tmp_path: Path):
    samples = np.random.default_rng(3).random((33, 3), dtype=np.float32)
    lut = Lut(Curve1D(samples, ((-0.5,) * 3, (1.5,) * 3)))
    (tmp_path / "1d.cube").write_bytes(cube.write(lut))
    values = np.random.default_rng(4).uniform(-1, 2, (40, 50, 3)).astype(np.float32)
    np.testing.assert_allclose(apply_lut(lut, values), through_ocio(tmp_path / "1d.cube", values), atol=3e-6)


@pytest.mark.parametrize(
    ("pixel_format", "dtype", "peak", "codes"), [("gbrp", np.uint8, 255, 1), ("gbrp16le", np.uint16, 65535, 2)]
)
def test_our_baked_file_in_libavfilter(tmp_path: Path, pixel_format, dtype, peak, codes):
    """lut3d with interp=tetrahedral reads the file that we bake: within 1 code value at 8 bit and 2 at 16 bit."""
    look = a_look(WARM, {"kind": "curves", "master": BENT})
    path = tmp_path / "baked.cube"
    path.write_bytes(cube.write(bake(look, 33)))
    height, width = 120, 160
    source = np.random.default_rng(7).integers(0, peak + 1, (height, width, 3)).astype(dtype)
    frame = av.VideoFrame(width, height, pixel_format)
    for plane, channel in enumerate((1, 2, 0)):  # planes stand as green, blue, red
        row = frame.planes[plane].line_size // source.itemsize
        padded = np.zeros((height, row), dtype)
        padded[:, :width] = source[..., channel]
        frame.planes[plane].update(padded.tobytes())
    graph = av.filter.Graph()
    begin = graph.add_buffer(width=width, height=height, format=av.VideoFormat(pixel_format), time_base="1/25")
    lut3d = graph.add("lut3d", f"file={path}:interp=tetrahedral")
    end = graph.add("buffersink")
    begin.link_to(lut3d)
    lut3d.link_to(end)
    graph.configure()
    frame.pts = 0
    graph.push(frame)
    result = graph.pull()
    assert result.format.name == pixel_format
    theirs = np.empty_like(source)
    for plane, channel in enumerate((1, 2, 0)):
        row = result.planes[plane].line_size // source.itemsize
        theirs[..., channel] = np.frombuffer(bytes(result.planes[plane]), dtype).reshape(height, row)[:, :width]
    ours = apply_lut(bake(look, 33), source)
    assert np.abs(ours.astype(int) - theirs).max() <= codes


def test_cube_files_written_by_opencolorio_are_read_equal():
    table = a_lut(9).lattice.table
    for form in baker_names("cube"):
        lut = cube.read(baker(lattice_transform(Lattice(table)), form, 9)().encode())
        assert lut.lattice is not None
        np.testing.assert_allclose(lut.lattice.table, table, atol=1.1e-6)


def test_cube_files_written_by_colour_science_are_read_equal(tmp_path: Path):
    colour = pytest.importorskip("colour", reason="development requirements are not installed")
    table = a_lut(7).lattice.table.astype(float)
    domain = np.array([[-0.1, 0.0, 0.0], [1.0, 1.5, 1.0]])
    colour.io.write_LUT_IridasCube(colour.LUT3D(table, "Three", domain=domain, comments=["a word"]), str(tmp_path / "3.cube"))
    lut = cube.read((tmp_path / "3.cube").read_bytes())
    assert lut.lattice is not None
    assert lut.title == "Three"
    np.testing.assert_allclose(lut.lattice.table, table, atol=1.1e-7)
    np.testing.assert_allclose(lut.domain, domain)
    curve = np.random.default_rng(2).random((16, 3))
    colour.io.write_LUT_IridasCube(colour.LUT3x1D(curve, "One"), str(tmp_path / "1.cube"))
    one = cube.read((tmp_path / "1.cube").read_bytes())
    assert one.shaper is not None
    np.testing.assert_allclose(one.shaper.samples, curve, atol=1.1e-7)


def test_our_cube_is_read_equal_by_colour_science(tmp_path: Path):
    colour = pytest.importorskip("colour", reason="development requirements are not installed")
    lut = a_lut(7, title="Ours")
    (tmp_path / "o.cube").write_bytes(cube.write(lut))
    theirs = colour.io.read_LUT_IridasCube(str(tmp_path / "o.cube"))
    np.testing.assert_allclose(theirs.table, lut.lattice.table, atol=1e-8)
