"""Every format against programs outside: what we write is read by them with our colours, what they write is read by us equal.

The list of formats that OpenColorIO reads and writes is its own documentation's; Hald pictures and .3dl are libavfilter's lut3d and haldclut.
"""

from __future__ import annotations

from pathlib import Path

import numpy as np
import OpenImageIO as oiio
import pytest

from saucer.core.bake.bake import Words, bake_file
from saucer.core.bake.exact import chain_of
from saucer.core.engine.plan import prepare
from saucer.core.files.format import Options
from saucer.core.files.picture_lut import hald_layout
from saucer.core.files.registry import formats, read_lut
from saucer.core.lut.apply import apply_lut
from saucer.core.lut.domain import grid
from saucer.core.lut.formulas import Cdl, Exponent, HalfCurve, Log, LogChannel, Matrix, Range
from saucer.core.lut.table import Curve1D, Lattice, Lut, lut_of
from tests.make import CHANGED, LUTS, a_look, a_lut, evaluate

ocio = pytest.importorskip("PyOpenColorIO", reason="development requirements are not installed")
pytest.importorskip("av", reason="development requirements are not installed")
from bench.peers import baker_names, writer_name  # noqa: E402

from tests.reference.libraries import (  # noqa: E402
    LittleCms,
    baked_by_ocio,
    by_libavfilter,
    by_ocio,
    file_by_ocio,
    hald_of_libavfilter,
)

X = np.random.default_rng(3).random((4000, 3), dtype=np.float32)
WIDE = X * np.float32(1.6) - np.float32(0.3)


def inside(lut: Lut) -> Lut:
    """The same with its entries in 0..1, as formats of whole numbers hold them."""
    return Lut(lattice=Lattice(np.clip(lut.lattice.table, 0, 1)), title=lut.title)


def a_curve() -> Lut:
    samples = np.linspace(0, 1, 129, dtype=np.float32)[:, None] ** np.array([0.7, 1.0, 1.4], np.float32)
    return Lut(Curve1D(samples))


@pytest.mark.parametrize(
    ("form", "atol"), [("cube", 3e-7), ("csp", 3e-7), ("clf", 3e-7), ("ctf", 3e-7), ("spi3d", 3e-7), ("3dl", 0.51 / 4095)]
)
@pytest.mark.parametrize("size", [5, 17, 33])
def test_opencolorio_reads_our_lattices(tmp_path: Path, form, atol, size):
    lut = inside(a_lut(size)) if form == "3dl" else a_lut(size)
    path = tmp_path / f"a{formats()[form].suffix}"
    path.write_bytes(formats()[form].write(lut, Options()))
    np.testing.assert_allclose(file_by_ocio(path, X), apply_lut(lut, X), atol=atol)


@pytest.mark.parametrize("form", ["cube", "csp", "clf", "ctf", "spi1d"])
def test_opencolorio_reads_our_curves(tmp_path: Path, form):
    path = tmp_path / f"a{formats()[form].suffix}"
    path.write_bytes(formats()[form].write(a_curve(), Options()))
    np.testing.assert_allclose(file_by_ocio(path, X), apply_lut(a_curve(), X), atol=4e-7)


@pytest.mark.parametrize("form", ["cube", "csp", "clf", "ctf"])
def test_opencolorio_reads_our_shapers(tmp_path: Path, form):
    lut = Lut(
        Curve1D(
            np.linspace(0, 1, 65537 // 16, dtype=np.float32)[:, None].repeat(3, 1) ** np.float32(0.8), ((0.0,) * 3, (2.0,) * 3)
        ),
        a_lut(9).lattice,
        "Salt",
        ("made for a test",),
    )
    path = tmp_path / f"a{formats()[form].suffix}"
    path.write_bytes(formats()[form].write(lut, Options()))
    back = formats()[form].read(path.read_bytes())
    assert (back.title, back.comments) == ("Salt", ("made for a test",))
    # OpenColorIO resamples a .csp prelut with a spline, which near 0 is not the straight line between our points.
    atol = 2e-4 if form == "csp" else 1e-6
    np.testing.assert_allclose(file_by_ocio(path, X * 2), apply_lut(lut, X * 2), atol=atol)


NODES = {
    "range": Range(0.1, 0.9, -0.2, 1.1), "range without clamp": Range(0.1, 0.9, -0.2, 1.1, False), "range below": Range(0.1, None, 0.1, None), "range above": Range(None, 0.8, None, 0.8),
    "matrix": Matrix(((0.8, 0.3, -0.1), (0.1, 0.7, 0.4), (-0.2, 0.1, 1.3)), (0.02, -0.01, 0.3)),
    "log10": Log("log10"), "antiLog2": Log("antiLog2"),
    "linToLog": Log("linToLog", 10.0, (LogChannel(0.25, 0.6, 1.0, 0.01), LogChannel(0.2, 0.5, 2.0, 0.02), LogChannel(0.3, 0.4, 1.0, 0.05))),
    "logToLin": Log("logToLin", 2.0, (LogChannel(0.1, 0.6, 1.0, 0.01),) * 3),
    "cameraLinToLog": Log("cameraLinToLog", 10.0, (LogChannel(0.247, 0.386, 5.556, 0.0523, 0.0106),) * 3),
    "cameraLogToLin": Log("cameraLogToLin", 10.0, (LogChannel(0.247, 0.386, 5.556, 0.0523, 0.0106, 5.37),) * 3),
    **{style: Exponent(style, (2.2, 1.8, 2.4)) for style in ("basicFwd", "basicRev", "basicMirrorFwd", "basicMirrorRev", "basicPassThruFwd", "basicPassThruRev")},
    **{style: Exponent(style, (2.4, 2.2, 3.0), (0.055, 0.1, 0.16)) for style in ("monCurveFwd", "monCurveRev", "monCurveMirrorFwd", "monCurveMirrorRev")},
    **{f"cdl {style}": Cdl((1.2, 0.9, 1.1), (0.05, -0.03, 0.0), (0.8, 1.3, 1.1), 1.3, style) for style in ("Fwd", "Rev", "FwdNoClamp", "RevNoClamp")},
}  # fmt: skip


@pytest.mark.parametrize("name", NODES)
@pytest.mark.parametrize("form", ["clf", "ctf"])
def test_opencolorio_reads_each_of_our_formulas(tmp_path: Path, name, form):
    lut = lut_of([NODES[name]])
    path = tmp_path / f"a.{form}"
    path.write_bytes(formats()[form].write(lut, Options()))
    ours = apply_lut(lut, WIDE)
    np.testing.assert_allclose(
        file_by_ocio(path, WIDE), ours, rtol=6e-5, atol=6e-5 if "antiLog" in name or "log10" in name else 2e-5
    )
    assert np.abs(ours - apply_lut(read_lut(path.read_bytes(), "a")[0], WIDE)).max() == 0, "and we read our own file to the bit"


@pytest.mark.parametrize("kind", [kind for kind in CHANGED if kind != "lut"])
def test_a_baked_clf_means_the_look_to_opencolorio(tmp_path: Path, kind):
    """Where a step has formulas, OpenColorIO gets the look itself; elsewhere its lattice."""
    look = a_look(CHANGED[kind], output="acescct" if kind == "convert" else "srgb")
    path = tmp_path / "baked.clf"
    path.write_bytes(bake_file(look, formats()["clf"], 33, Words("Baked"), luts=LUTS).data)
    chain = chain_of(prepare(look, LUTS), 33)
    np.testing.assert_allclose(file_by_ocio(path, X), apply_lut(chain, X), atol=5e-5)
    if not any(isinstance(node, Lattice) for node in chain.chain):
        np.testing.assert_allclose(file_by_ocio(path, X), evaluate(look, X, luts=LUTS), atol=5e-5)


@pytest.mark.parametrize("form", ["cdl", "cc", "ccc"])
def test_opencolorio_reads_our_corrections(tmp_path: Path, form):
    """As OpenColorIO reads them when it is told nothing: without clamps, like ours."""
    lut = Lut(title="Salt 01", links=(NODES["cdl FwdNoClamp"],))
    path = tmp_path / f"a.{form}"
    path.write_bytes(formats()[form].write(lut, Options()))
    transform = ocio.FileTransform(str(path), cccId="Salt-01" if form != "cc" else "")
    np.testing.assert_allclose(by_ocio(transform, WIDE), apply_lut(lut, WIDE), atol=3e-6)


@pytest.mark.parametrize("suffix", ["cube", "csp", "3dl", "spi3d", "spi1d", "clf", "ctf"])
def test_what_opencolorio_bakes_is_read_equal(tmp_path: Path, suffix):
    names = baker_names(suffix)
    assert names
    table = np.clip(a_lut(17).lattice.table, 0, 1)
    transform = ocio.Lut3DTransform(17)
    transform.setData(np.ascontiguousarray(table).reshape(-1))
    if suffix == "spi1d":
        transform = ocio.ExponentTransform([1.7, 1.7, 1.7, 1.0])
    for name in names:
        data = baked_by_ocio(transform, name, 17)
        lut, form = read_lut(data, "theirs")
        assert form.id == suffix
        path = tmp_path / f"theirs.{suffix}"
        path.write_bytes(data)
        np.testing.assert_allclose(apply_lut(lut, X), file_by_ocio(path, X), atol=3e-6)


@pytest.mark.parametrize("suffix", ["clf", "ctf", "cc", "ccc", "cdl"])
def test_what_opencolorio_writes_is_read_equal(suffix):
    group = ocio.GroupTransform()
    cdl = ocio.CDLTransform()
    cdl.setSlope([1.2, 0.9, 1.1])
    cdl.setOffset([0.05, -0.03, 0.0])
    cdl.setPower([0.8, 1.3, 1.1])
    cdl.setSat(1.3)
    cdl.setStyle(ocio.CDL_ASC if suffix in ("clf", "ctf") else ocio.CDL_NO_CLAMP)
    group.appendTransform(cdl)
    if suffix in ("clf", "ctf"):
        lut3d = ocio.Lut3DTransform(5)
        lut3d.setData(np.ascontiguousarray(a_lut(5).lattice.table).reshape(-1))
        lut3d.setInterpolation(ocio.INTERP_TETRAHEDRAL)
        log = ocio.LogCameraTransform(linSideBreak=[0.01] * 3, base=10.0)
        for one in (
            ocio.MatrixTransform(matrix=[0.9, 0.1, 0, 0, 0, 1, 0, 0, 0.1, 0, 0.8, 0, 0, 0, 0, 1], offset=[0.01, 0, 0.02, 0]),
            ocio.RangeTransform(0.0, 0.9, 0.1, 1.0),
            ocio.ExponentWithLinearTransform([2.4, 2.4, 2.4, 1], [0.055, 0.055, 0.055, 0]),
            lut3d,
            log,
        ):
            group.appendTransform(one)
    data = group.write(writer_name(suffix)).encode()
    lut, form = read_lut(data, "theirs")
    assert form.id == suffix
    np.testing.assert_allclose(apply_lut(lut, X), by_ocio(group, X), atol=2e-5)


def test_a_half_domain_table_written_by_opencolorio_is_read_equal():
    transform = ocio.Lut1DTransform(65536, True)
    codes = np.arange(65536, dtype=np.uint16).view(np.float16).astype(np.float32)
    for index in range(65536):
        x = codes[index]
        y = 0.5 * float(x) + 0.1 if np.isfinite(x) else 0.0
        transform.setValue(index, y, y, y)
    group = ocio.GroupTransform()
    group.appendTransform(transform)
    lut, _ = read_lut(group.write(writer_name("clf")).encode(), "half")
    assert isinstance(lut.chain[0], HalfCurve)
    values = WIDE * np.float32(50)
    np.testing.assert_allclose(apply_lut(lut, values), by_ocio(group, values), rtol=1e-5, atol=1e-5)


@pytest.mark.parametrize(("dtype", "codes"), [(np.uint8, 1), (np.uint16, 2)])
def test_libavfilter_reads_our_cube(tmp_path: Path, dtype, codes):
    lut = inside(a_lut(33))
    path = tmp_path / "a.cube"
    path.write_bytes(formats()["cube"].write(lut, Options()))
    source = np.random.default_rng(7).integers(0, np.iinfo(dtype).max + 1, (60, 80, 3)).astype(dtype)
    theirs = by_libavfilter("lut3d", f"file={path}:interp=tetrahedral", source)
    assert np.abs(apply_lut(lut, source).astype(int) - theirs).max() <= codes


def test_libavfilter_reads_our_3dl(tmp_path: Path):
    """Its reader takes 17 nodes at 12 bits only, and divides by 4096 where white is 4095: one code of 4095 apart at white."""
    lut = inside(a_lut(17))
    path = tmp_path / "a.3dl"
    data = formats()["3dl"].write(lut, Options(12))
    body = b"\n".join(line for line in data.split(b"\n") if not line.startswith((b"3DMESH", b"Mesh", b"#")))
    path.write_bytes(body)
    source = np.random.default_rng(7).integers(0, 65536, (60, 80, 3)).astype(np.uint16)
    theirs = by_libavfilter("lut3d", f"file={path}:interp=tetrahedral", source)
    ours = apply_lut(read_lut(body, "a")[0], source).astype(float) * 4095 / 4096
    assert np.abs(ours - theirs).max() <= 3


def test_libavfilter_reads_our_hald():
    """haldclut takes the picture LUT as its second input."""
    lut = inside(a_lut(16))
    data = formats()["hald"].write(lut, Options(16, ".png"))
    hald = read_lut(data, "hald")[0]
    picture = (hald.lattice.table.reshape(-1, 3)[hald_layout(16)] * 65535 + 0.5).astype(np.uint16)
    source = np.random.default_rng(7).integers(0, 65536, (60, 80, 3)).astype(np.uint16)
    theirs = by_libavfilter("haldclut", "interp=tetrahedral", source, picture)
    assert np.abs(apply_lut(hald, source).astype(int) - theirs).max() <= 3


def test_the_hald_identity_is_that_of_the_public_description(tmp_path: Path):
    """A Hald of level L is L**3 pixels square; pixel number p has red p mod L**2, green p / L**2 mod L**2, blue p / L**4, each over L**2 - 1."""
    level = 4
    side = level**2
    lut = Lut(lattice=Lattice(grid(side).reshape(side, side, side, 3)))
    data = formats()["hald"].write(lut, Options(16, ".png"))
    path = tmp_path / "hald.png"
    path.write_bytes(data)
    pixels = np.asarray(oiio.ImageBuf(str(path)).get_pixels(oiio.FLOAT))
    assert pixels.shape == (level**3, level**3, 3)
    p = np.arange(level**6)
    expected = np.stack([p % side, p // side % side, p // side**2], axis=1) / (side - 1)
    theirs = hald_of_libavfilter(level).astype(np.float64) / 65535
    np.testing.assert_allclose(pixels, theirs, atol=1.01 / 65535)
    np.testing.assert_allclose(pixels.reshape(-1, 3), expected, atol=0.51 / 65535)


@pytest.mark.parametrize("shaped", [False, True])
def test_littlecms_reads_our_device_links(shaped):
    lut = inside(a_lut(17))
    if shaped:
        lut = Lut(Curve1D(np.linspace(0, 1, 1024, dtype=np.float32)[:, None].repeat(3, 1) ** np.float32(0.8)), lut.lattice)
    data = formats()["icc"].write(lut, Options())
    cms = LittleCms()
    theirs = cms.apply(cms.transform(cms.open(data)), X)
    # Both ends of a curve and a lattice are 16-bit numbers; LittleCMS reads them with 16-bit steps in between as well.
    np.testing.assert_allclose(theirs, apply_lut(lut, X), atol=8 / 65535)


@pytest.mark.parametrize("version", [2.1, 4.3])
def test_device_links_made_by_littlecms_are_read_equal(version):
    cms = LittleCms()
    transform = cms.transform(cms.gamma_profile(2.2), cms.gamma_profile(1.6))
    lut, form = read_lut(cms.link(transform, version), "theirs.icc")
    assert form.id == "icc"
    data = cms.link(transform, version)
    theirs = cms.apply(cms.transform(cms.open(data)), X)
    np.testing.assert_allclose(apply_lut(lut, X), theirs, atol=12 / 65535)
