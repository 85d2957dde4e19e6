"""The commands on LUT files, charts and pairs, as a person types them."""

from __future__ import annotations

import json
from pathlib import Path

import numpy as np
import pytest

from saucer.core.files.format import Options
from saucer.core.files.registry import formats, read_lut
from saucer.core.look.model import look_text
from saucer.core.lut.apply import apply_lut
from saucer.core.lut.domain import grid
from saucer.core.making.roundtrip.standin import Editor
from tests.core.test_cli import saucer
from tests.make import CHANGED, WARM, a_look, a_lut, evaluate, random_pixels

X = random_pixels().reshape(-1, 3)
TWO = '<ColorCorrectionCollection><ColorCorrection id="a"><SatNode><Saturation>1.1</Saturation></SatNode></ColorCorrection><ColorCorrection id="b"><SatNode><Saturation>0.5</Saturation></SatNode></ColorCorrection></ColorCorrectionCollection>'


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    (tmp_path / "a.cube").write_bytes(formats()["cube"].write(a_lut(9, title="Salt"), Options()))
    (tmp_path / "b.cube").write_bytes(formats()["cube"].write(a_lut(9, 2, title="Tide"), Options()))
    (tmp_path / "two.ccc").write_text(TWO)
    steps = [CHANGED["cdl"], {"kind": "group", "name": "Film", "steps": [WARM]}, {"kind": "grain", "amount": 0.4}]
    (tmp_path / "look.json").write_text(look_text(a_look(*steps, name="Salt")))
    return tmp_path


def lut_of(path: Path):
    return read_lut(path.read_bytes(), path.name)[0]


@pytest.mark.parametrize("target", ["a.3dl", "a.csp", "a.clf", "a.ctf", "a.spi3d", "a.icc", "a.cc"])
def test_convert_says_what_is_lost(folder: Path, target):
    done = saucer(folder, "convert", "a.cube", target)
    assert (done.returncode, done.stderr) == (0, "")
    made = lut_of(folder / target)
    exact = target in ("a.csp", "a.clf", "a.ctf", "a.spi3d")
    assert bool(np.abs(apply_lut(made, X) - apply_lut(a_lut(9), X)).max() < 1e-6) is exact
    assert ("lost: " in done.stdout) is not exact
    assert ("measured: colours move by" in done.stdout) is not exact


def test_convert_to_a_picture_in_a_depth_and_a_part_of_a_collection(folder: Path):
    done = saucer(folder, "convert", "a.cube", "a.tif", "--format", "strip", "--depth", "8")
    assert "lost: rounded to 8 bits" in done.stdout
    assert read_lut((folder / "a.tif").read_bytes(), "a")[1].id == "strip"
    refused = saucer(folder, "convert", "two.ccc", "x.cc")
    assert (refused.returncode, refused.stderr) == (1, "saucer: two.ccc: holds 2 corrections (a, b); say which one\n")
    assert saucer(folder, "convert", "two.ccc", "x.cc", "--part", "b").returncode == 0
    assert lut_of(folder / "x.cc").chain[0].saturation == 0.5
    assert (
        saucer(folder, "convert", "two.ccc", "y.cc", "--part", "c").stderr
        == 'saucer: two.ccc: holds no correction "c"; it has a, b\n'
    )
    assert not (folder / "y.cc").exists()


@pytest.mark.parametrize(
    ("words", "expected"),
    [(["--steps", "1"], [CHANGED["cdl"]]), (["--steps", "1-2"], [CHANGED["cdl"], WARM]), (["--group", "steps[1]"], [WARM])],
)
def test_bake_a_part(folder: Path, words, expected):
    assert saucer(folder, "bake", "look.json", "-o", "part.cube", *words).returncode == 0
    assert np.abs(apply_lut(lut_of(folder / "part.cube"), X) - evaluate(a_look(*expected), X)).max() < 0.01


def test_bake_between_encodings_with_words(folder: Path):
    done = saucer(
        folder,
        "bake",
        "look.json",
        "-o",
        "x.clf",
        "--expects",
        "s-log3",
        "--gives",
        "rec709",
        "--rights",
        "Team only",
        "--note",
        "First",
    )
    assert done.stdout.splitlines()[0] == "left out, because no LUT can hold it: Grain (step 3)"
    comments = lut_of(folder / "x.clf").comments
    assert {"Expects s-log3, gives rec709", "Rights: Team only", "Note: First", "Left out: Grain (step 3)"} <= set(comments)
    wrong = saucer(folder, "bake", "look.json", "-o", "y.cube", "--steps", "two")
    assert wrong.stderr == 'saucer: --steps: must be K or K-M, counted from 1, got "two"\n'


@pytest.mark.parametrize(
    ("words", "kind"),
    [
        (["strength", "a.cube", "--amount", "0.4"], "3D"), (["compose", "a.cube", "b.cube"], "3D"), (["blend", "a.cube", "b.cube"], "3D"),
        (["invert", "a.cube", "--size", "9"], "3D"), (["resize", "a.cube", "--size", "17"], "3D"), (["domain", "a.cube", "--high", "2"], "3D"),
        (["grey", "a.cube"], "1D"), (["smooth", "a.cube"], "3D"), (["extend", "a.cube"], "3D"),
    ],
)  # fmt: skip
def test_tools(folder: Path, words, kind):
    done = saucer(folder, "tool", *words, "-o", "out.cube")
    assert (done.returncode, done.stderr) == (0, "")
    made = lut_of(folder / "out.cube")
    assert made.kind == kind
    assert any(words[0] in comment and "a.cube" in comment for comment in made.comments)


def test_a_tool_without_its_second_lut(folder: Path):
    refused = saucer(folder, "tool", "blend", "a.cube", "-o", "x.cube")
    assert (refused.returncode, refused.stderr) == (1, "saucer: tool: blend takes 2 LUT files, got 1\n")


def test_a_chart_out_through_the_stand_in_and_back(folder: Path):
    assert saucer(folder, "chart", "new", "-o", "chart.png", "--size", "9").returncode == 0
    assert saucer(folder, "standin", "editor", "chart.png", "out.png", "--vignette", "0.3").returncode == 0
    told = json.loads(saucer(folder, "chart", "read", "out.png", "-o", "back.cube", "--json").stdout)
    assert [one["id"] for one in told["found"]] == ["vignette"]
    wanted = np.clip(evaluate(Editor().look, grid(9)), 0, 1).reshape(9, 9, 9, 3)
    assert np.sqrt(np.mean((lut_of(folder / "back.cube").lattice.table - wanted) ** 2)) < 0.02
    assert saucer(folder, "standin", "editor", "chart.png", "clean.tif").returncode == 0
    assert "Clean: the colours alone" in saucer(folder, "chart", "read", "clean.tif").stdout
    refused = saucer(folder, "chart", "read", "clean.tif", "--kind", "twin", "--size", "17")
    assert refused.returncode == 1
    assert refused.stderr.startswith("saucer: clean.tif: the chart was ")
    assert saucer(folder, "chart", "new", "-o", "x.jpg").stderr == "saucer: x.jpg: charts are written as PNG or TIFF\n"


def test_a_pair(folder: Path):
    from saucer.core.pictures.io import Picture, write_picture

    pixels = random_pixels(90, 120)
    write_picture(Picture(pixels, "u8"), folder / "before.png")
    write_picture(Picture(np.clip(evaluate(a_look(WARM), pixels), 0, 1), "u8"), folder / "after.png")
    done = saucer(folder, "pair", "before.png", "after.png", "-o", "pair.cube", "--size", "9")
    assert done.returncode == 0
    assert done.stdout.startswith("residual   CIEDE2000 0.")
    assert np.abs(apply_lut(lut_of(folder / "pair.cube"), X) - evaluate(a_look(WARM), X)).mean() < 0.01
    write_picture(Picture(pixels[:50], "u8"), folder / "small.png")
    assert "must be the same picture at the same size" in saucer(folder, "pair", "before.png", "small.png", "-o", "x.cube").stderr
    assert not (folder / "x.cube").exists()


def test_inspect_tells_health_and_what_is_expected(folder: Path):
    (folder / "rough.cube").write_bytes(formats()["cube"].write(a_lut(17), Options()))
    told = json.loads(saucer(folder, "inspect", "rough.cube", "--json").stdout)
    levels = {one["id"]: one["level"] for one in told["health"]}
    assert levels["rough"] in ("notice", "bad")
    assert told["expects"].startswith("srgb (asked")
    assert "Neighbouring entries scatter" in saucer(folder, "inspect", "rough.cube").stdout
