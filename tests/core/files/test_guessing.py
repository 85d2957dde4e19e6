"""What LUTs from elsewhere want, by names and contents of our own making: 95 of 100 right, the rest asked, none wrong without a word.

The names follow how people write them (common practice, no source); none is of a real file.
"""

from __future__ import annotations

from functools import lru_cache

import pytest

from saucer.core.colour.encodings import ENCODINGS
from saucer.core.files.guessing import guess
from saucer.core.files.spelling import find_names
from saucer.core.lut.table import Lut
from tests.make import a_look, sample_look

RENDERED = {"kind": "convert", "to": "rec709", "rendering": "scale"}
HELD = {"kind": "limit", "low": 0, "high": 1}
CONTENTS = {
    "warm": [{"kind": "white-balance", "warm": 15}],
    "contrast": [{"kind": "tone", "contrast": 1.3}],
    "faded": [{"kind": "curves", "master": [[0, 0.1], [0.5, 0.55], [1, 0.9]]}],
    "toe": [{"kind": "tone", "contrast": 1.2, "toe": 0.5}],
    "harsh": [{"kind": "curves", "master": [[0, 0], [0.3, 0.12], [0.7, 0.88], [1, 1]]}],
}
"""For pictures as they come; `harsh` looks like one for log to anybody."""


@lru_cache
def made(content: str) -> Lut:
    """Of a name above, else "log ID" (rendered), "print ID" (rendered, black raised and white lowered), "soft ID", "within ID"."""
    if content in CONTENTS:
        return sample_look(a_look(*CONTENTS[content], input="rec709", output="rec709"), 33)
    how, encoding = content.split(" ")
    if how == "within":
        return sample_look(a_look({"kind": "saturation", "factor": 0.8}, input=encoding, output=encoding), 33)
    steps = {
        "log": [RENDERED, HELD],
        "print": [RENDERED, {"kind": "levels", "master": {"output_black": 0.06, "output_white": 0.93}}, HELD],
        "soft": [RENDERED | {"rendering": "soft"}, HELD],
    }[how]
    return sample_look(a_look(*steps, input=encoding, output="rec709"), 33)


# Name of the file, content, what it expects and gives.
RIGHT = """
S-Log3 to Rec709 | log s-log3 | s-log3 rec709
SLog3_to_Rec709 | print s-log3 | s-log3 rec709
slog3_2_rec709 | soft s-log3 | s-log3 rec709
SLog3ToRec709 | log s-log3 | s-log3 rec709
slog3torec709 | log s-log3 | s-log3 rec709
S-Log3-S-Gamut3.Cine to LC-709 | log s-log3-cine | s-log3-cine rec709
SGamut3CineSLog3_To_LC-709 | log s-log3-cine | s-log3-cine rec709
SGamut3CineSLog3_To_LC-709TypeA | print s-log3-cine | s-log3-cine rec709
SLog3SGamut3.CineToRec709 | soft s-log3-cine | s-log3-cine rec709
S-Gamut3_S-Log3_to_Rec.709 | log s-log3 | s-log3 rec709
SLog2_to_Rec709 | log s-log2 | s-log2 rec709
SLog2SGamut_To_Rec709 | print s-log2 | s-log2 rec709
S-Log2 -> BT.709 | soft s-log2 | s-log2 rec709
SLog_to_Rec709 | log s-log | s-log rec709
LogC_to_Rec709 | log logc3-ei800 | logc3-ei800 rec709
LogC3 to Rec709 | print logc3-ei800 | logc3-ei800 rec709
LogC3_EI400_to_Rec709 | log logc3-ei400 | logc3-ei400 rec709
LogC-EI1600-to-709 | log logc3-ei1600 | logc3-ei1600 rec709
LogC2Rec709 | log logc3-ei800 | logc3-ei800 rec709
LogC4_to_Rec709 | soft logc4 | logc4 rec709
LogC4toRec709 | log logc4 | logc4 rec709
V-Log2BT709 | log v-log | v-log rec709
VLog_to_V709 via Rec709 | log v-log | v-log rec709
V-Log V-Gamut to Rec.709 | print v-log | v-log rec709
vlog2rec709 | soft v-log | v-log rec709
Log3G10 to Rec709 | log log3g10 | log3g10 rec709
log3g10_to_bt709 | print log3g10 | log3g10 rec709
C-Log to Rec709 | log c-log | c-log rec709
CLog2_to_Rec709 | log c-log2 | c-log2 rec709
C-Log3 to BT.709 | print c-log3 | c-log3 rec709
CLog3ToRec709 | soft c-log3 | c-log3 rec709
D-Log to Rec709 | log d-log | d-log rec709
DLog_to_Rec709 | print d-log | d-log rec709
D-Log D-Gamut to Rec.709 | soft d-log | d-log rec709
N-Log to Rec709 | log n-log | n-log rec709
NLog_BT2020_to_REC709 | log n-log | n-log rec709
F-Log to Rec709 | log f-log | f-log rec709
FLog_to_BT709 | log f-log | f-log rec709
F-Log2 to Rec709 | soft f-log2 | f-log2 rec709
FLog2C_to_Rec709 | log f-log2-c | f-log2-c rec709
Cineon to Rec709 | log film-log | film-log rec709
film log to sRGB | log film-log | film-log srgb
Printing density to Rec.709 | print film-log | film-log rec709
ACEScct to Rec709 | log acescct | acescct rec709
ACEScct_to_sRGB | soft acescct | acescct srgb
ACEScc to Rec709 | log acescc | acescc rec709
S-Log3 to DCI-P3 | log s-log3 | s-log3 p3-theatre
LogC3 to P3-D65 | log logc3-ei800 | logc3-ei800 p3-d65
V-Log to Display P3 | log v-log | v-log display-p3
S-Log3 to Rec2020 | log s-log3 | s-log3 rec2020
LogC3_to_Rec2020 | log logc3-ei800 | logc3-ei800 rec2020
S-Log3 to PQ | log s-log3 | s-log3 pq
LogC4_to_Rec2100_PQ_1000nits | log logc4 | logc4 pq-1000
V-Log to Rec2020 ST2084 1000 nits | log v-log | v-log pq-1000
S-Log3 to P3 PQ 1000 | log s-log3 | s-log3 pq-p3-1000
LogC3 to P3-D65 PQ | log logc3-ei800 | logc3-ei800 pq-p3
HLG to Rec709 | warm | hlg rec709
HLG_to_PQ | warm | hlg pq
PQ to HLG | warm | pq hlg
Rec2100 PQ to Rec709 | warm | pq rec709
Rec709 to sRGB | warm | rec709 srgb
sRGB_to_Rec709 | contrast | srgb rec709
Rec709toSRGB | warm | rec709 srgb
Rec709 to P3-DCI | warm | rec709 p3-theatre
Rec.709 to Rec.2020 | warm | rec709 rec2020
Rec709_to_DCDM | warm | rec709 dcdm
P3-D65 to X'Y'Z' | warm | p3-d65 dcdm
sRGB to opRGB | warm | srgb oprgb
ROMM RGB to sRGB | warm | romm-rgb srgb
gamma 2.2 to Rec709 | warm | gamma22-709 rec709
Rec709 to S-Log3 | warm | rec709 s-log3
Rec709_to_LogC3 | warm | rec709 logc3-ei800
sRGB to ACEScg | warm | srgb acescg
ACEScg to ACEScct | warm | acescg acescct
ACES2065-1 to ACEScg | warm | aces2065-1 acescg
S-Log3 to LogC3 | within s-log3 | s-log3 logc3-ei800
LogC3 to ACEScct | within logc3-ei800 | logc3-ei800 acescct
V-Log to S-Log3 | within v-log | v-log s-log3
C-Log2 into LogC4 | within c-log2 | c-log2 logc4
Linear to sRGB | warm | linear-709 srgb
Linear Rec.709 to sRGB | warm | linear-709 srgb
linear_to_rec709 | contrast | linear-709 rec709
Scene linear to Rec709 | warm | linear-709 rec709
lin rec2020 to PQ | warm | linear-2020 pq
sRGB to Linear | warm | srgb linear-709
Rec709 from S-Log3 | log s-log3 | s-log3 rec709
Rec709 from LogC | print logc3-ei800 | logc3-ei800 rec709
Rec709 for V-Log | log v-log | v-log rec709
S-Log3 Rec709 | log s-log3 | s-log3 rec709
LogC3 - Rec709 Harbour | print logc3-ei800 | logc3-ei800 rec709
Dusk (F-Log2 Rec709) | log f-log2 | f-log2 rec709
S-Log3 Harbour | log s-log3 | s-log3 rec709
Ferry print V-Log | print v-log | v-log rec709
LogC3 evening | soft logc3-ei800 | logc3-ei800 rec709
C-Log3 morning | log c-log3 | c-log3 rec709
N-Log print | print n-log | n-log rec709
S-Log3 warmer | within s-log3 | s-log3 s-log3
LogC4 pale | within logc4 | logc4 logc4
ACEScct dusk | within acescct | acescct acescct
Film log pale | within film-log | film-log film-log
Warm sRGB | warm | srgb srgb
Rec709 faded | faded | rec709 rec709
Evening Rec.709 | contrast | rec709 rec709
BT709 toe | toe | rec709 rec709
Harbour P3-D65 | warm | p3-d65 p3-d65
Night PQ | warm | pq pq
HLG lift | warm | hlg hlg
sRGB faded 2020 | faded | srgb srgb
Rec2020 pale | faded | rec2020 rec2020
display p3 crisp | contrast | display-p3 display-p3
gamma22 warm | warm | gamma22-709 gamma22-709
"""
# What nobody could know: asked, with what is likely.
ASKED = """
Linear Gradient Sunset | warm
Catalog cool | warm
Catalog 709 Lane | harsh
Teal evening | warm
log book of the ferry | warm
Captain's log 3 | contrast
Evening 2020 | faded
Dialogue cut | contrast
Analog C print | faded
Prologue | contrast
Print look | print film-log
night 03 | soft logc4
Harbour | log s-log3
Rec709 punch | harsh
Film print Rec709 | print logc3-ei800
to Rec709 | log s-log3
Harbour_to_sRGB | warm
S-Log3 to Rec709 | warm
LogC3_to_Rec709 | faded
Rec709 to sRGB | harsh
sRGB Rec709 | warm
Rec709 S-Log3 | log s-log3
D-Log M to | warm
linear | warm
Basic log | contrast
"""


def rows(text: str) -> list[list[str]]:
    return [[part.strip() for part in line.split("|")] for line in text.strip().splitlines()]


def test_the_table_is_as_long_as_was_asked():
    assert len(rows(RIGHT)) + len(rows(ASKED)) >= 120


@pytest.mark.parametrize(("name", "content", "ends"), rows(RIGHT))
def test_what_a_name_says_and_the_curve_does_not_deny_is_guessed(name, content, ends):
    found = guess(made(content), name)
    assert (f"{found.expects} {found.gives}", found.how) == (ends, "guessed"), found.reason


@pytest.mark.parametrize(("name", "content"), rows(ASKED))
def test_what_nobody_can_know_is_asked(name, content):
    found = guess(made(content), name)
    assert found.how == "asked", found
    assert found.reason


@pytest.mark.parametrize("id", ENCODINGS)
def test_every_shipped_encoding_is_found_by_its_own_id(id):
    assert [one.id for one in find_names(f"look_{id}")[0]] == [id]
    assert [one.id for one in find_names(f"{id} to srgb")[0]] == ([id, "srgb"] if id != "srgb" else ["srgb"])


def test_a_title_goes_before_the_name_and_a_pair_before_a_single_name():
    lut = made("log s-log3")
    assert guess(lut.titled("S-Log3 to Rec709", ()), "Rec709 v2").expects == "s-log3"
    assert guess(lut.titled("Rec709", ()), "S-Log3 to Rec709").expects == "s-log3"
    assert guess(lut.titled("", ("made from S-Log3 to Rec.709",)), "v2").expects == "s-log3"
