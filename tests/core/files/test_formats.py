"""What holds for every format: it round-trips, gives the same bytes, says what it loses, and refuses whatever is broken. A new one gets this for nothing."""

from __future__ import annotations

import tracemalloc

import numpy as np
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from saucer.core.errors import LutError
from saucer.core.files.fitting import fit_lut, nearest_cdl, write_lut
from saucer.core.files.format import Options
from saucer.core.files.registry import format_for, formats, read_lut
from saucer.core.files.xml_tree import root_of
from saucer.core.lut.apply import apply_lut
from saucer.core.lut.formulas import Cdl
from saucer.core.lut.table import Curve1D, Lattice, Lut, lut_of
from tests.make import a_lut, random_pixels

ALL = sorted(formats())
X = random_pixels(40, 50).reshape(-1, 3)
CORRECTION = Lut(title="Salt", links=(Cdl((1.1, 1.0, 0.9), (0.01, 0, -0.02), (1.1, 1, 0.9), 1.2),))
EXACTLY = {"cube": 1e-7, "csp": 1e-7, "clf": 1e-7, "ctf": 1e-7, "spi3d": 1e-7, "spi1d": 1e-7}


def plain(size: int = 9) -> Lut:
    return Lut(
        lattice=Lattice(np.clip(a_lut(size).lattice.table, 0, 1)), title="Salt ferry", comments=("made for a test", "Rights: team")
    )


def sample(form: str) -> Lut:
    """Something this format holds."""
    if "cdl" in formats()[form].holds.tables:
        return CORRECTION
    return Lut(Curve1D(np.sort(np.random.default_rng(2).random((50, 3), np.float32), axis=0))) if form == "spi1d" else plain()


@pytest.mark.parametrize("form", ALL)
@pytest.mark.parametrize("again", range(2))
def test_round_trip_in_every_depth_and_suffix(form, again):
    lut = sample(form)
    for depth in formats()[form].holds.depths or (0,):
        for suffix in formats()[form].suffixes:
            made = write_lut(lut, formats()[form], Options(depth, suffix))
            atol = 0.51 / (2**depth - 1) if depth else EXACTLY.get(form, 1e-6)
            back, known = read_lut(made.data, "a")
            assert known.id == form
            np.testing.assert_allclose(
                apply_lut(back, X), apply_lut(fit_lut(lut, formats()[form], Options(depth)).lut, X), atol=atol
            )
            assert write_lut(lut, formats()[form], Options(depth, suffix)).data == made.data, "the same LUT, the same bytes"
            assert not again or b"2026" not in made.data[:2000], "no date of today in the file"


@pytest.mark.parametrize("form", [form for form in ALL if formats()[form].holds.words])
def test_title_and_comments_survive(form):
    lut = sample(form).titled("Salt ferry", ("made for a test", "Rights: team"))
    back = read_lut(write_lut(lut, formats()[form]).data, "a")[0]
    told = " ".join((back.title, *back.comments))
    assert "Salt" in told
    assert "team" in told or form == "icc"


@pytest.mark.parametrize("form", ALL)
def test_comments_cannot_break_out(form):
    """A title with line ends, quotes and brackets stays a title."""
    nasty = 'a"\n0 0 0\r</Description><LUT3D>]]>&\x00\x07'
    lut = sample(form).titled(nasty, (nasty, "--><b>"))
    np.testing.assert_allclose(
        apply_lut(read_lut(write_lut(lut, formats()[form]).data, "a")[0], X),
        apply_lut(read_lut(write_lut(sample(form), formats()[form]).data, "a")[0], X),
    )


def test_what_is_lost_is_said_and_measured():
    shaped = Lut(
        Curve1D(np.linspace(0, 1, 256, dtype=np.float32)[:, None].repeat(3, 1) ** np.float32(0.4), ((0.0,) * 3, (4.0,) * 3)),
        a_lut(17).lattice,
    )
    assert write_lut(shaped, formats()["cube"]).lost == ()
    made = write_lut(shaped, formats()["spi3d"])
    assert made.lost == ("no room for the shaper: the lattice of 17 is spaced evenly over its input",)
    assert made.largest > 0.05, "what the missing shaper costs"
    dark = write_lut(a_lut(9), formats()["3dl"], Options(8))
    assert any("lie outside 0 to 1" in words for words in dark.lost)
    assert "rounded to 8 bits" in dark.lost
    assert 0 < dark.inside <= 0.06
    sizes = write_lut(a_lut(33), formats()["hald"])
    assert "no file of this kind has 33 nodes a side: it has 36" in sizes.lost
    with pytest.raises(LutError, match="holds curves only, and this LUT mixes channels"):
        write_lut(a_lut(9), formats()["spi1d"])
    with pytest.raises(LutError, match="3DL has 8, 10, 12, 16, not 14 bits"):
        write_lut(a_lut(9), formats()["3dl"], Options(14))


def test_the_nearest_cdl_finds_a_cdl():
    found = nearest_cdl(
        lut_of(
            [
                Lattice(
                    apply_lut(CORRECTION, np.stack(np.meshgrid(*[np.linspace(0, 1, 33, dtype=np.float32)] * 3, indexing="ij"), -1))
                )
            ]
        )
    )
    assert np.abs(apply_lut(lut_of([found]), X) - apply_lut(CORRECTION, X)).max() < 2e-3


def test_format_for_a_name():
    assert format_for("a.3DL").id == "3dl"
    assert format_for("a.png", "strip").id == "strip"
    with pytest.raises(LutError, match=r"a\.xyz: no LUT format for this name; Saucer writes "):
        format_for("a.xyz")


GOOD = {form: write_lut(sample(form) if form in ("spi1d", "cc", "ccc", "cdl") else plain(4), formats()[form]).data for form in ALL}


def read_or_none(data: bytes, name: str) -> Lut | None:
    """None where it is refused, which it must be in words that begin with the file's name."""
    told = ""
    try:
        return read_lut(data, name)[0]
    except LutError as error:
        told = str(error)
    assert told.startswith(name)
    return None


def mutated(data: bytes, cuts: list[tuple[float, int, bytes]]) -> bytes:
    for share, count, put in cuts:
        at = int(share * len(data))
        data = data[:at] + put + data[at + count :]
    return data


JUNK = st.binary(max_size=8) | st.sampled_from(
    [b"nan", b"1e999", b"-", b"\n", b" ", b"<", b">", b"&a;", b'"', b"\xff\xff\xff\xff", b"0", b"99999999999"]
)


@pytest.mark.parametrize("form", ALL)
@given(cuts=st.lists(st.tuples(st.floats(0, 1), st.integers(0, 40), JUNK), min_size=1, max_size=4))
@settings(max_examples=60, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
def test_a_spoilt_file_is_read_or_refused_but_never_crashes(form, cuts):
    data = mutated(GOOD[form], cuts)
    lut = read_or_none(data, "spoilt")
    if lut is None:
        return
    assert all(np.isfinite(table).all() for table in lut.tables)
    assert np.isfinite(apply_lut(lut, X[:50])).all()


@given(
    data=st.binary(max_size=400),
    start=st.sampled_from(
        [
            b"",
            b"LUT_3D_SIZE ",
            b"SPILUT 1.0\n",
            b"CSPLUTV100\n",
            b"Version 1\n",
            b"<ProcessList ",
            b"0 1 2\n",
            b"\x89PNG\r\n\x1a\n",
            b"II*\0",
            b"\0" * 36 + b"acsp",
        ]
    ),
)
@settings(max_examples=300, deadline=None)
def test_any_bytes_are_read_or_refused(start, data):
    read_or_none(start + data, "any")


@pytest.mark.parametrize("form", [form for form in ALL if form not in ("tiles", "strip", "hald")])
def test_reading_takes_no_more_than_ten_times_the_file(form):
    """Measured by tracemalloc, which NumPy reports to. Picture libraries keep their memory out of its sight."""
    lut = sample(form) if form in ("spi1d", "cc", "ccc", "cdl") else plain(33)
    data = write_lut(lut, formats()[form]).data
    formats()[form].read(data)
    tracemalloc.start()
    try:
        formats()[form].read(data)
        most = tracemalloc.get_traced_memory()[1]
    finally:
        tracemalloc.stop()
    assert most < 10 * len(data) + 300_000


def test_what_stands_before_the_first_element_of_xml_is_walked_over_once():
    """Forty empty comments and no element kept the interpreter for minutes; a document type could make an attribute of any length."""
    assert root_of(b"<?xml version='1.0'?>" + b"<!---->" * 9000 + b"<1") == ("", frozenset())
    assert root_of(b"\xef\xbb\xbf \n<?xml version='1.0'?><!-- a --><x:ProcessList xmlns:x='u' version='2'>") == (
        "ProcessList",
        {"version"},
    )
    assert root_of(b"<!DOCTYPE a [<!ENTITY e 'eeee'>]><ColorCorrection id='&e;'>") == ("", frozenset())
