"""Odd and broken LUT files, each quirk named, with the reading or the error line it must give. All are made here."""

from __future__ import annotations

import io
import struct
from dataclasses import dataclass

import numpy as np
import pytest

from saucer.core.errors import LutError
from saucer.core.files.format import Options
from saucer.core.files.picture_lut import as_file, identity
from saucer.core.files.registry import formats, read_lut
from saucer.core.lut.apply import apply_lut
from saucer.core.lut.table import Lut
from tests.make import a_lut

GREY = np.repeat(np.linspace(0, 1, 9, dtype=np.float32)[:, None], 3, axis=1)


@dataclass(frozen=True)
class Reads:
    """A file that is read: its format, kind and size, and what it makes of mid grey (all three channels)."""

    quirk: str
    data: bytes
    form: str
    kind: str
    size: int
    grey: float = 0.5


@dataclass(frozen=True)
class Refused:
    """A file that is refused, with words that begin so behind the file's name."""

    quirk: str
    data: bytes
    words: str


def text(lines: str) -> bytes:
    return lines.encode()


IDENTITY_2 = "0 0 0\n1 0 0\n0 1 0\n1 1 0\n0 0 1\n1 0 1\n0 1 1\n1 1 1\n"
CUBE = f"LUT_3D_SIZE 2\n{IDENTITY_2}"
BLUE_FIRST = "0 0 0\n0 0 1\n0 1 0\n0 1 1\n1 0 0\n1 0 1\n1 1 0\n1 1 1\n"


def three_dl(peak: int, size: int = 4, mesh: str | None = None, head: str = "") -> str:
    steps = [round(i * peak / (size - 1)) for i in range(size)]
    rows = "".join(f"{r} {g} {b}\n" for r in steps for g in steps for b in steps)
    return f"{head}{mesh or ' '.join(str(round(i * 1023 / (size - 1))) for i in range(size))}\n{rows}"


THREE = three_dl(4095)
CSP = f"CSPLUTV100\n3D\n\n2\n0 1\n0 1\n2\n0 1\n0 1\n2\n0 1\n0 1\n\n2 2 2\n{IDENTITY_2}"
SPI1D = "Version 1\nFrom 0.0 1.0\nLength 3\nComponents 1\n{\n0\n0.5\n1\n}\n"
SPI3D = "SPILUT 1.0\n3 3\n2 2 2\n" + "".join(f"{r} {g} {b} {r} {g} {b}\n" for r in (0, 1) for g in (0, 1) for b in (0, 1))


def clf(inner: str, head: str = 'compCLFversion="3" id="a"') -> bytes:
    return text(f'<?xml version="1.0" encoding="UTF-8"?>\n<ProcessList {head}>\n{inner}\n</ProcessList>\n')


FLOATS = 'inBitDepth="32f" outBitDepth="32f"'
LUT3D = f'<LUT3D {FLOATS}>\n<Array dim="2 2 2 3">\n{BLUE_FIRST}</Array>\n</LUT3D>'
CC = '<ColorCorrection id="a">\n<SOPNode><Slope>1 1 1</Slope><Offset>0 0 0</Offset><Power>1 1 1</Power></SOPNode>\n<SatNode><Saturation>1</Saturation></SatNode>\n</ColorCorrection>'
CC_B = CC.replace('id="a"', 'id="b"')
CDL = f'<ColorDecisionList xmlns="urn:ASC:CDL:v1.01">\n<ColorDecision>\n{CC}\n</ColorDecision>\n</ColorDecisionList>\n'
ICC = formats()["icc"].write(Lut(lattice=a_lut(5).lattice), Options())


def icc_with(at: int, value: bytes) -> bytes:
    return ICC[:at] + value + ICC[at + len(value) :]


def picture(width: int, height: int) -> bytes:
    return as_file(np.zeros((height, width, 3), np.float32), 8, ".png")


READS = (
    Reads("lines end in CR alone", CUBE.replace("\n", "\r").encode(), "cube", "3D", 2),
    Reads("lines end in CRLF, with a byte order mark", b"\xef\xbb\xbf" + CUBE.replace("\n", "\r\n").encode(), "cube", "3D", 2),
    Reads("no line end at the end", CUBE.rstrip("\n").encode(), "cube", "3D", 2),
    Reads("tabs between numbers", CUBE.replace(" ", "\t").replace("LUT_3D_SIZE\t", "LUT_3D_SIZE ").encode(), "cube", "3D", 2),
    Reads("exponents, signs and bare points", text(CUBE.replace("1 1 1", "+1. 1e0 .1E+1")), "cube", "3D", 2),
    Reads("a title in two words without quotes", text(f"TITLE Salt ferry\n{CUBE}"), "cube", "3D", 2),
    Reads("a title with quotes inside", text(f'TITLE "Salt "ferry""\n{CUBE}'), "cube", "3D", 2),
    Reads("keywords in lower case", text(CUBE.replace("LUT_3D_SIZE", "lut_3d_size")), "cube", "3D", 2),
    Reads("comments and blank lines between rows", text(CUBE.replace("0 0 1\n", "# half\n\n0 0 1\n")), "cube", "3D", 2),
    Reads("an accent in latin-1 in a comment", b"# caf\xe9\n" + CUBE.encode(), "cube", "3D", 2),
    Reads("a domain of 0 to 2", text(f"DOMAIN_MIN 0 0 0\nDOMAIN_MAX 2 2 2\n{CUBE}"), "cube", "3D", 2, 0.25),
    Reads("an input range in place of a domain", text(f"LUT_3D_INPUT_RANGE 0 2\n{CUBE}"), "cube", "3D", 2, 0.25),
    Reads("a 1D table in .cube", text("LUT_1D_SIZE 3\n0 0 0\n0.25 0.25 0.25\n1 1 1\n"), "cube", "1D", 3, 0.25),
    Reads("a shaper in front of a lattice", text(f"LUT_1D_SIZE 2\nLUT_3D_SIZE 2\n0 0 0\n0.5 0.5 0.5\n{IDENTITY_2}"), "cube", "1D + 3D", 2, 0.25),
    Reads("entries outside 0 to 1", text(CUBE.replace("1 1 1\n", "2 2 2\n")), "cube", "3D", 2, 1.0),
    Reads("a .cube file under another name is known by its content", CUBE.encode(), "cube", "3D", 2),
    Reads("12-bit .3dl with a 10-bit mesh", THREE.encode(), "3dl", "3D", 4),
    Reads("10-bit .3dl", three_dl(1023).encode(), "3dl", "3D", 4),
    Reads("16-bit .3dl", three_dl(65535).encode(), "3dl", "3D", 4),
    Reads("8-bit .3dl", three_dl(255).encode(), "3dl", "3D", 4),
    Reads("3DMESH and Mesh lines", three_dl(4095, 5, "0 256 512 767 1023", "3DMESH\nMesh 2 12\n").encode(), "3dl", "3D", 5),
    Reads("a Mesh line that declares 12 bits of a dark table", three_dl(900, 5, "0 256 512 767 1023", "Mesh 2 12\n").encode(), "3dl", "3D", 5, 450 / 4095),
    Reads("a mesh that misses even spacing by a code", three_dl(4095, 4, "0 342 681 1023").encode(), "3dl", "3D", 4),
    Reads("trailing LUT8 and gamma lines", text(THREE + "LUT8\ngamma 1.0\n"), "3dl", "3D", 4),
    Reads("comments above the mesh", text(f"# made by hand\n#Tokens\n{THREE}"), "3dl", "3D", 4),
    Reads("a .csp without prelut points", text(CSP.replace("2\n0 1\n0 1\n", "0\n", 1).replace("2\n0 1\n0 1\n", "0\n").replace("2\n0 1\n0 1\n", "0\n")), "csp", "3D", 2),
    Reads("metadata in a .csp", text(CSP.replace("3D\n", "3D\nBEGIN METADATA\nSalt\nEND METADATA\n")), "csp", "3D", 2),
    Reads("a prelut that bends", text(CSP.replace("2\n0 1\n0 1\n", "3\n0 0.5 1\n0 0.25 1\n")), "csp", "1D + 3D", 2, 0.25),
    Reads("a prelut with uneven points", text(CSP.replace("2\n0 1\n0 1\n", "3\n0 0.2 1\n0 0.1 1\n")), "csp", "1D + 3D", 2, 0.4375),
    Reads("a prelut that only scales", text(CSP.replace("2\n0 1\n0 1\n", "2\n0 2\n0 1\n")), "csp", "3D", 2, 0.25),
    Reads("a 1D .csp", text("CSPLUTV100\n1D\n2\n0 1\n0 1\n2\n0 1\n0 1\n2\n0 1\n0 1\n3\n0 0 0\n.25 .25 .25\n1 1 1\n"), "csp", "1D", 3, 0.25),
    Reads("one component in .spi1d", SPI1D.encode(), "spi1d", "1D", 3),
    Reads("a .spi1d over -1 to 3", text(SPI1D.replace("0.0 1.0", "-1 3")), "spi1d", "1D", 3, 0.375),
    Reads("a .spi1d without From", text(SPI1D.replace("From 0.0 1.0\n", "")), "spi1d", "1D", 3),
    Reads("rows of a .spi3d in another order", text("\n".join([*SPI3D.splitlines()[:3], *reversed(SPI3D.splitlines()[3:])])), "spi3d", "3D", 2),
    Reads("a lattice in CLF", clf(LUT3D), "clf", "3D", 2),
    Reads("10-bit numbers in CLF", clf(LUT3D.replace('outBitDepth="32f"', 'outBitDepth="10i"').replace("1", "1023").replace("10230i", "10i")), "clf", "3D", 2),
    Reads("CLF numbers on one long line", clf(LUT3D.replace(BLUE_FIRST, BLUE_FIRST.replace("\n", " "))), "clf", "3D", 2),
    Reads("a bypassed node", clf(f'<Range {FLOATS} bypass="true"><minInValue>0</minInValue><minOutValue>0</minOutValue></Range>{LUT3D}'), "clf", "3D", 2),
    Reads("a namespace and a prefix in CLF", clf(LUT3D.replace("<", "<c:").replace("<c:/", "</c:"), 'compCLFversion="3" id="a" xmlns:c="urn:x"'), "clf", "3D", 2),
    Reads("a matrix of 10 bits in, floats out", clf('<Matrix inBitDepth="10i" outBitDepth="32f"><Array dim="3 3">0.000488759 0 0 0 0.000488759 0 0 0 0.000488759</Array></Matrix>'), "clf", "Matrix", 0, 0.25),
    Reads("one column for three channels", clf(f'<LUT1D {FLOATS}><Array dim="3 1">0 0.25 1</Array></LUT1D>'), "clf", "1D", 3, 0.25),
    Reads("rawHalfs", clf(f'<LUT1D {FLOATS} rawHalfs="true"><Array dim="2 1">0 15360</Array></LUT1D>'), "clf", "1D", 2),
    Reads("a ProcessList of a ctf", clf(LUT3D, 'version="1.3" id="a"'), "ctf", "3D", 2),
    Reads("the old name Gamma for Exponent", clf(f'<Gamma {FLOATS} style="basicFwd"><GammaParams gamma="2"/></Gamma>'), "clf", "Exponent", 0, 0.25),
    Reads("a bare ColorCorrection", CC.encode(), "cc", "Cdl", 0),
    Reads("SATNode in capitals", CC.replace("SatNode", "SATNode").encode(), "cc", "Cdl", 0),
    Reads("a decision list of one", CDL.encode(), "cdl", "Cdl", 0),
    Reads("a collection of one", text(f"<ColorCorrectionCollection>{CC}</ColorCorrectionCollection>"), "ccc", "Cdl", 0),
    Reads("an 8-bit strip of 16", as_file(identity("strip", 16), 8, ".png"), "strip", "3D", 16),
    Reads("16-bit tiles of 64, as large as a Hald", as_file(identity("tiles", 64), 16, ".png"), "tiles", "3D", 64),
    Reads("a Hald of level 8, as large as tiles", as_file(identity("hald", 64), 8, ".png"), "hald", "3D", 64),
    Reads("a Hald in TIFF", as_file(identity("hald", 16), 16, ".tif"), "hald", "3D", 16),
    Reads("a device link", ICC, "icc", "3D", 5, -1),
    Reads("a device link with bytes behind its end", ICC + b"\0\0\0\0", "icc", "3D", 5, -1),
)  # fmt: skip

REFUSED = (
    Refused("an empty file", b"", "the file is empty"),
    Refused("blank lines only", b"\n\n\n", "the file is empty"),
    Refused("a text that is no LUT", b"dear colleagues,\n", "not a LUT file that Saucer reads"),
    Refused("a JPEG", b"\xff\xd8\xff\xe0" + bytes(64), "not a LUT file that Saucer reads"),
    Refused("commas for points", CUBE.replace("0 1 0", "0 1,0 0").encode(), 'line 4: expected three numbers with a point as the decimal sign, got "0 1,0 0"'),
    Refused("a row too few", CUBE.rsplit("1 1 1", 1)[0].encode(), "line 8: the file ends after 7 rows; LUT_3D_SIZE 2 needs 8"),
    Refused("a row too many", text(CUBE + "1 1 1\n"), "line 10: one row more than the 8"),
    Refused("a size that would take a terabyte", b"LUT_3D_SIZE 20000\n0 0 0\n", "line 1: LUT_3D_SIZE must be a whole number from 2 to 129, got 20000"),
    Refused("a size no file could fill", b"LUT_3D_SIZE 129\n0 0 0\n", "line 2: the file ends after 1 rows; LUT_3D_SIZE 129 needs 2146689"),
    Refused("not a number", CUBE.replace("0 1 0", "0 nan 0").encode(), 'line 4: "nan" is not a finite number'),
    Refused("UTF-16", CUBE.encode("utf-16"), "not a LUT file"),
    Refused(".3dl with a negative number", THREE.replace("0 0 1365", "0 0 -1365", 1).encode(), "line 3: expected whole numbers from 0, got -1365"),
    Refused(".3dl with a fraction", THREE.replace("0 0 1365", "0 0 0.5", 1).encode(), "line 3: expected whole numbers from 0, got 0.5"),
    Refused(".3dl with a row too few", "\n".join(THREE.splitlines()[:-1]).encode(), "line 64: the file ends after 63 rows; a mesh of 4 needs 64"),
    Refused(".3dl with a row too many", text(THREE + "1 2 3\n"), 'line 66: one row more than the 64 of a mesh of 4: "1 2 3"'),
    Refused(".3dl with a mesh that falls", three_dl(4095, 4, "0 700 300 1023").encode(), "line 1: the input mesh must rise"),
    Refused(".3dl with 20 bits", three_dl(2**20).encode(), "line 5: 1.04858e+06 is more than 16 bits hold"),
    Refused(".csp of neither kind", text(CSP.replace("3D", "2D")), 'line 2: expected 1D or 3D, got "2D"'),
    Refused(".csp with a prelut that falls", text(CSP.replace("0 1\n0 1", "1 0\n0 1", 1)), "line 5: the prelut inputs of red must rise"),
    Refused(".csp with unequal sides", text(CSP.replace("2 2 2", "2 2 3")), "line 14: the three sides must be equal, got 2 2 3"),
    Refused(".csp cut off in its head", b"CSPLUTV100\n3D\n2\n0 1\n", "line 4: the file ends where the prelut outputs of red should be"),
    Refused(".csp with text behind", text(CSP + "the end\n"), 'line 23: text after the end of the table: "the end"'),
    Refused(".spi1d without its brace", text(SPI1D.replace("}\n", "")), "line 8: the file ends where the closing brace } should be"),
    Refused(".spi1d with an unknown word", text(SPI1D.replace("Components", "Channels")), 'line 4: unknown word "Channels"'),
    Refused(".spi1d with more rows than it says", text(SPI1D.replace("1\n}", "1\n2\n}")), 'line 9: expected the closing brace } after 3 rows, got "2"'),
    Refused(".spi3d with a place twice", text(SPI3D.replace("0 0 1 0 0 1", "0 0 0 0 0 1")), "line 5: the place 0 0 0 stands twice"),
    Refused(".spi3d with a place outside", text(SPI3D.replace("0 0 1 0 0 1", "0 0 2 0 0 1")), "line 5: the place 0 0 2 is not on a lattice of 2"),
    Refused("CLF that is not well-formed", clf(LUT3D.replace("</Array>", "")), "line 14: not well-formed XML: mismatched tag"),
    Refused("CLF with an entity bomb", b'<!DOCTYPE a [<!ENTITY b "bb">]>\n<ProcessList compCLFversion="3"/>', "not a LUT file"),
    Refused("CLF with a document type inside", b'<?xml version="1.0"?>\n<ProcessList compCLFversion="3" id="a">&b;</ProcessList>', "line 2: not well-formed XML: undefined entity"),
    Refused("CLF with a node that is not known", clf(f"<Sparkle {FLOATS}/>"), "line 3: Sparkle: this kind of node is not known; known are LUT1D"),
    Refused("CLF without bit depths", clf(LUT3D.replace('inBitDepth="32f" ', "")), "line 3: LUT3D: needs inBitDepth and outBitDepth"),
    Refused("CLF whose depths do not meet", clf(LUT3D + LUT3D.replace('inBitDepth="32f"', 'inBitDepth="10i"')), "line 14: LUT3D: takes 10i where the node before gives 32f"),
    Refused("CLF with a wrong number of numbers", clf(LUT3D.replace("1 1 1\n</Array>", "</Array>")), "line 4: Array: holds 21 numbers; dim asks for 24"),
    Refused("CLF with a word among numbers", clf(LUT3D.replace("0 1 1", "0 one 1")), 'line 8: expected three numbers with a point as the decimal sign, got "0 one 1"'),
    Refused("CLF with a huge dim", clf(LUT3D.replace("2 2 2 3", "900 900 900 3")), "line 4: Array: dim of a LUT3D must be N N N 3 with N from 2 to 129"),
    Refused("CLF without nodes", clf(""), "line 2: ProcessList: holds no node"),
    Refused("CLF with an infinite exponent", clf(f'<Exponent {FLOATS} style="basicFwd"><ExponentParams exponent="inf"/></Exponent>'), "line 3: ExponentParams: exponent needs 1 number"),
    Refused("CLF with a range upside down", clf(f"<Range {FLOATS}><minInValue>1</minInValue><maxInValue>0</maxInValue><minOutValue>0</minOutValue><maxOutValue>1</maxOutValue></Range>"), "line 3: Range: maxInValue must be above minInValue"),
    Refused("a CDL with a negative slope", CC.replace("<Slope>1 1 1", "<Slope>-1 1 1").encode(), "line 2: SOPNode: Slope must not be negative, got -1 1 1"),
    Refused("a CDL with a power of 0", CC.replace("<Power>1 1 1", "<Power>0 1 1").encode(), "line 2: SOPNode: Power must be above 0"),
    Refused("a CDL with two numbers", CC.replace("<Offset>0 0 0", "<Offset>0 0").encode(), "line 2: Offset needs 3 numbers, got 2"),
    Refused("a collection of two", text(f"<ColorCorrectionCollection>{CC}{CC_B}</ColorCorrectionCollection>"), "holds 2 corrections (a, b); say which one"),
    Refused("an empty collection", b"<ColorCorrectionCollection></ColorCorrectionCollection>", "line 1: ColorCorrectionCollection: holds no ColorCorrection"),
    Refused("a picture of no LUT's size", picture(40, 30), "40 x 30 is no picture LUT"),
    Refused("a PNG cut short", as_file(identity("strip", 16), 8, ".png")[:50], "the PNG header cannot be read"),
    Refused("a display profile", icc_with(12, b"mntr"), "byte 12: a display profile, not a device link"),
    Refused("a link to CMYK", icc_with(20, b"CMYK"), "byte 16: links RGB to CMYK; only RGB to RGB is read"),
    Refused("a device link cut short", ICC[:400], "byte"),
    Refused("a device link whose table is a riddle", ICC.replace(b"mAB ", b"what"), 'A2B0: a table of type "what" is not read'),
    Refused("a device link with a lattice of 200", ICC.replace(bytes([5, 5, 5] + [0] * 13), bytes([200, 200, 200] + [0] * 13)), "byte"),
)  # fmt: skip


def test_the_corpus_is_large_enough():
    names = [one.quirk for one in (*READS, *REFUSED)]
    assert len(names) == len(set(names)) >= 60


@pytest.mark.parametrize("case", READS, ids=lambda case: case.quirk)
def test_what_programs_write_is_read(case):
    lut, form = read_lut(case.data, "odd.lut")
    assert (form.id, lut.kind, lut.size) == (case.form, case.kind, case.size)
    if case.grey >= 0:
        np.testing.assert_allclose(apply_lut(lut, GREY)[4], case.grey, atol=2e-3)


@pytest.mark.parametrize("case", REFUSED, ids=lambda case: case.quirk)
def test_what_is_broken_is_refused_with_its_place(case):
    with pytest.raises(LutError) as refusal:
        read_lut(case.data, "odd.lut")
    told = str(refusal.value)
    assert told.startswith(("odd.lut: ", "odd.lut, "))
    assert told[9:].startswith(case.words), told
    assert "Traceback" not in told
    assert "\n" not in told


def test_a_lattice_in_the_table_of_a_device_link_is_found_where_its_offset_says():
    assert struct.unpack(">I", ICC[128:132])[0] == 4
    assert io.BytesIO(ICC).read(4) == struct.pack(">I", len(ICC))
