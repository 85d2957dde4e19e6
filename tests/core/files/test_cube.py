from __future__ import annotations

import numpy as np
import pytest
from hypothesis import example, given
from hypothesis import strategies as st
from hypothesis.extra.numpy import arrays

from saucer.core.errors import LutError
from saucer.core.files.formats import cube
from saucer.core.files.registry import format_for, formats, read_lut
from saucer.core.lut.table import Curve1D, Lattice, Lut
from tests.make import a_lut

GOOD = """# made for a test
TITLE "Salt"
LUT_3D_SIZE 2
DOMAIN_MIN 0 0 0
DOMAIN_MAX 1 1 1

0 0 0
1 0 0
0 0.5 0
1 1 0
0 0 1
1 0 1
0 1 1
1 1 1
"""
LINES = GOOD.splitlines()


def with_line(number: int, text: str | None) -> bytes:
    """GOOD with line `number` (from 1) replaced, or taken out."""
    lines = list(LINES)
    lines[number - 1 : number] = [] if text is None else [text]
    return ("\n".join(lines) + "\n").encode()


def test_red_runs_fastest():
    lut = cube.read(GOOD.encode())
    assert lut.lattice is not None
    assert lut.title == "Salt"
    assert lut.comments == ("made for a test",)
    assert lut.lattice.table[1, 0, 0].tolist() == [1, 0, 0]
    assert lut.lattice.table[0, 1, 0].tolist() == [0, 0.5, 0]
    assert lut.lattice.table[0, 0, 1].tolist() == [0, 0, 1]


@pytest.mark.parametrize(
    "quirk",
    [
        GOOD.replace("\n", "\r\n"),
        GOOD.replace("\n", "\r"),
        "\ufeff" + GOOD,
        GOOD.rstrip("\n"),
        GOOD + "\n\n  \n# the end\n",
        GOOD.replace("0 0.5 0", "  0\t0.5   0  "),
        GOOD.replace("0 0.5 0", "0 5e-1 0"),
        GOOD.replace("0 0.5 0", "0.0 +.5 0."),
        GOOD.replace("0 0.5 0", "0.00000000000000000000 0.50000000000000000000000 0"),
        GOOD.replace("0 0.5 0", "-0 0.05E+1 0"),
        GOOD.replace('TITLE "Salt"', "TITLE Salt"),
        GOOD.replace("LUT_3D_SIZE 2\n", "\n# size\n   LUT_3D_SIZE   2  \n"),
        GOOD.replace("DOMAIN_MIN 0 0 0\nDOMAIN_MAX 1 1 1\n", "LUT_3D_INPUT_RANGE 0.0 1.0\n"),
        GOOD.replace("0 0 1\n1 0 1", "0 0 1\n# half way\n\n1 0 1"),
    ],
)
def test_what_other_programs_write_is_read(quirk):
    lut = cube.read(quirk.encode())
    assert lut.title == "Salt"
    assert lut.lattice is not None
    assert np.array_equal(lut.lattice.table, cube.read(GOOD.encode()).lattice.table)
    assert lut.domain == ((0, 0, 0), (1, 1, 1))


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (with_line(9, "0 0.5"), 'line 9: expected three numbers, got "0 0.5"'),
        (with_line(9, "0 0.5 0 0"), 'line 9: expected three numbers, got "0 0.5 0 0"'),
        (with_line(9, "0 0,5 0"), 'line 9: expected three numbers with a point as the decimal sign, got "0 0,5 0"'),
        (with_line(9, "0 0.5x 0"), "line 9: expected three numbers with a point"),
        (with_line(9, "0 0x5 0"), "line 9: expected three numbers with a point"),
        (with_line(9, "0 1e 0"), "line 9: expected three numbers with a point"),
        (with_line(9, "0 . 0"), "line 9: expected three numbers with a point"),
        (with_line(9, "0 - 0"), "line 9: expected three numbers with a point"),
        (with_line(9, "0 1_0 0"), "line 9: expected three numbers with a point"),
        (with_line(9, "0 nan 0"), 'line 9: "nan" is not a finite number'),
        (with_line(9, "nan 0 0"), 'line 9: "nan" is not a finite number'),
        (with_line(9, "0 -inf 0"), 'line 9: "-inf" is not a finite number'),
        (with_line(9, "0 1e400 0"), "line 9: a row needs 3 numbers, got"),
        (with_line(9, "0 1e60 0"), 'line 9: a number too large to hold in "0 1e60 0"'),
        (with_line(14, None), "line 13: the file ends after 7 rows; LUT_3D_SIZE 2 needs 8"),
        (GOOD.encode() + b"1 1 1\n", "line 15: one row more than the 8 that LUT_3D_SIZE 2 asks for"),
        (with_line(3, "LUT_3D_SIZE 3"), "line 14: the file ends after 8 rows; LUT_3D_SIZE 3 needs 27"),
        (with_line(3, "LUT_3D_SIZE 1"), "line 3: LUT_3D_SIZE must be a whole number from 2 to 129, got 1"),
        (with_line(3, "LUT_3D_SIZE 130"), "line 3: LUT_3D_SIZE must be a whole number from 2 to 129, got 130"),
        (with_line(3, "LUT_3D_SIZE 2.5"), "line 3: LUT_3D_SIZE must be a whole number"),
        (with_line(3, "LUT_3D_SIZE two"), 'line 3: LUT_3D_SIZE needs 1 number, got "two"'),
        (with_line(3, "LUT_3D_SIZE 2 2"), "line 3: LUT_3D_SIZE needs 1 number, got 2"),
        (with_line(3, "LUT_3D_SIZE 2\nLUT_3D_SIZE 2"), "line 4: LUT_3D_SIZE stands twice, first in line 3"),
        (with_line(3, None), "line 6: the table begins before any LUT_1D_SIZE or LUT_3D_SIZE"),
        (with_line(4, "DOMAIN_MIN 0 0"), "line 4: DOMAIN_MIN needs 3 numbers, got 2"),
        (with_line(4, "DOMAIN_MIN 0 0 nan"), 'line 4: DOMAIN_MIN needs 3 numbers, got "0 0 nan"'),
        (with_line(5, "DOMAIN_MAX 1 0 1"), "line 5: DOMAIN_MAX must be above DOMAIN_MIN in every channel"),
        (with_line(5, "LUT_3D_INPUT_RANGE 1 0"), "line 5: LUT_3D_INPUT_RANGE must rise, got 1 to 0"),
        (with_line(5, "GAMMA 2.2"), 'line 5: unknown keyword "GAMMA"; known are TITLE, '),
        (with_line(9, "DOMAIN_MAX 1 1 1"), 'line 9: "DOMAIN_MAX 1 1 1" stands among the rows of the table'),
        (b"# only a comment\n", "line 1: the file ends without LUT_1D_SIZE or LUT_3D_SIZE"),
        (b"", "line 1: the file ends without"),
        (GOOD.encode("utf-16"), "line 1: the file is UTF-16 text"),
        (GOOD.encode().replace(b"0 0.5 0", b"0 0.5\x000"), "line 9: holds a zero byte"),
    ],
)
def test_broken_files_are_refused_with_the_line(data, words):
    with pytest.raises(LutError) as refusal:
        cube.read(data)
    assert str(refusal.value).startswith(words)


def test_a_1d_lut_and_a_shaper_before_a_lattice():
    one = cube.read(b"LUT_1D_SIZE 3\nLUT_1D_INPUT_RANGE -0.5 2\n0 0 0\n.2 .3 .4\n1 1 1\n")
    assert (one.kind, one.size, one.domain) == ("1D", 3, ((-0.5,) * 3, (2.0,) * 3))
    rows = "".join(f"{x} {x} {x}\n" for x in (0, 0.4, 1)) + "\n".join(LINES[6:])
    both = cube.read(f"LUT_1D_SIZE 3\nLUT_1D_INPUT_RANGE 0 16\nLUT_3D_SIZE 2\n{rows}\n".encode())
    assert both.kind == "1D + 3D"
    assert both.shaper is not None
    assert both.lattice is not None
    assert both.shaper.domain == ((0.0,) * 3, (16.0,) * 3)
    assert both.lattice.domain == ((0.0,) * 3, (1.0,) * 3)
    assert both.shaper.samples[1].tolist() == pytest.approx([0.4] * 3)
    assert both.lattice.table[0, 1, 0].tolist() == [0, 0.5, 0]


@example(np.zeros((2, 2, 2, 3), np.float32), "a\x00b")
@given(arrays(np.float32, (3, 3, 3, 3), elements=st.floats(-100, 100, width=32)), st.text(max_size=30))
def test_what_is_written_reads_back(table, title):
    lut = Lut(lattice=Lattice(table, ((-0.25, 0.0, 0.0), (1.0, 2.5, 1.0))), title=title, comments=("one\ntwo",))
    data = cube.write(lut)
    back = cube.read(data)
    assert back.lattice is not None
    np.testing.assert_allclose(back.lattice.table, table, atol=5.1e-9, rtol=0)
    big = np.abs(table) >= 0.125
    assert np.array_equal(back.lattice.table[big], table[big]), "bit for bit from 0.125 up"
    assert back.domain == lut.domain
    shown = "".join(letter if letter.isprintable() else " " for letter in title)
    assert back.title == " ".join(shown.split()).replace('"', "'")
    assert cube.write(lut) == data, "the same LUT gives the same bytes"


def test_both_tables_read_back():
    lut = Lut(Curve1D(np.random.default_rng(1).random((1025, 3), np.float32), ((0.0,) * 3, (16.0,) * 3)), a_lut(5).lattice, "Both")
    back = cube.read(cube.write(lut))
    assert back.shaper is not None
    assert back.lattice is not None
    np.testing.assert_allclose(back.shaper.samples, lut.shaper.samples, atol=5.1e-9)
    np.testing.assert_allclose(back.lattice.table, lut.lattice.table, atol=5.1e-9)
    assert back.shaper.domain == lut.shaper.domain


def test_numbers_with_many_digits_are_rounded_once():
    """Python's float() is correctly rounded (IEEE 754); ours must give the same float32."""
    rng = np.random.default_rng(8)
    texts = [f"{value:.{digits}f}" for value in rng.random(200) for digits in (3, 8, 15, 17, 22)] + [
        "1e-30",
        "123456789.125",
        "4.9e-324",
        "0.1",
    ]
    texts += ["0"] * (-len(texts) % 3)
    rows = [" ".join(texts[i : i + 3]) for i in range(0, len(texts), 3)]
    lut = cube.read(f"LUT_1D_SIZE {len(rows)}\n".encode() + "\n".join(rows).encode())
    assert lut.shaper is not None
    assert np.array_equal(lut.shaper.samples.reshape(-1), np.array([float(text) for text in texts]).astype(np.float32))


def test_what_the_format_cannot_hold():
    with pytest.raises(LutError, match="too large to be written"):
        cube.write(Lut(lattice=Lattice(np.full((2, 2, 2, 3), 3e9, np.float32))))
    uneven = Curve1D(np.zeros((2, 3), np.float32), ((0.0, 0.0, 0.0), (1.0, 2.0, 1.0)))
    with pytest.raises(LutError, match="one range for all channels"):
        cube.write(Lut(uneven, a_lut(2).lattice))


@given(st.binary(max_size=400))
def test_no_bytes_crash_the_reader(data):
    for text in (data, GOOD.encode()[:40] + data, with_line(9, None) + data):
        problem = None
        try:
            cube.read(text)
        except LutError as error:
            problem = str(error)
        assert problem is None or problem.startswith("line ")


def test_formats_are_found_by_content_and_by_name():
    assert format_for("x/LOOK.CUBE").id == "cube"
    assert read_lut(GOOD.encode(), "renamed.txt")[1] is formats()["cube"]
    with pytest.raises(LutError, match=r"a\.cube: not a LUT file that Saucer reads"):
        read_lut(b"\x89PNG", "a.cube")
    with pytest.raises(LutError, match=r"a\.cube, line 9: expected three numbers"):
        read_lut(with_line(9, "0"), "a.cube")
