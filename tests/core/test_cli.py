"""The commands that work without a server, as a person types them."""

from __future__ import annotations

import argparse
import contextlib
import io
import json
import os
import re
import shutil
import signal
import subprocess
import sys
from pathlib import Path

import numpy as np
import pytest

from saucer.core.colour.encodings import ENCODINGS
from saucer.core.commands.main import _parser, main
from saucer.core.files.formats import cube
from saucer.core.look.bundle import read_bundle
from saucer.core.look.model import look_text
from saucer.core.lut.apply import apply_lut
from saucer.core.pictures.io import read_picture
from saucer.launch.main import CORE
from tests.make import CHANGED, a_look, a_lut, a_picture, evaluate, random_pixels, render


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    (tmp_path / "look.json").write_text(look_text(a_look(name="Salt")))
    (tmp_path / "a.cube").write_bytes(cube.write(a_lut(9, title="Other")))
    a_picture(tmp_path / "in.png")
    return tmp_path


def saucer_alone(folder: Path, *words: str) -> subprocess.CompletedProcess[str]:
    """In a process of its own, as from a shell; starting it takes far longer than most commands do."""
    environment = os.environ | {"PYTHONPATH": str(Path(__file__).parents[2] / "src")}
    command = [sys.executable, "-m", "saucer.core.commands.main", *words]
    return subprocess.run(command, cwd=folder, env=environment, capture_output=True, text=True, check=False)


def saucer(folder: Path, *words: str) -> subprocess.CompletedProcess[str]:
    """The same in this process."""
    out, problems, pipes = io.StringIO(), io.StringIO(), signal.getsignal(signal.SIGPIPE)
    try:
        with contextlib.chdir(folder), contextlib.redirect_stdout(out), contextlib.redirect_stderr(problems):
            code = main(words)
    except SystemExit as ended:
        code = int(ended.code or 0)
    finally:
        signal.signal(signal.SIGPIPE, pipes)
    return subprocess.CompletedProcess(words, code, out.getvalue(), problems.getvalue())


@pytest.mark.parametrize("saucer", [saucer_alone, saucer])
def test_bake_apply_inspect(folder: Path, saucer):
    assert saucer(folder, "bake", "look.json", "-o", "out.cube", "--size", "17", "--title", "Ferry").returncode == 0
    baked = cube.read((folder / "out.cube").read_bytes())
    assert (baked.size, baked.title) == (17, "Ferry")
    assert saucer(folder, "apply", "out.cube", "in.png", "-o", "out.png").returncode == 0
    graded = read_picture(folder / "out.png")
    assert graded.depth == "u16"
    expected = apply_lut(baked, read_picture(folder / "in.png").pixels)
    assert np.abs(graded.pixels - expected).max() <= 0.51 / 65535
    told = json.loads(saucer(folder, "inspect", "out.cube", "--json").stdout)
    assert (told["kind"], told["size"], told["title"], told["format"]) == ("3D", 17, "Ferry", "cube")
    assert "Expects srgb, gives srgb" in saucer(folder, "inspect", "out.cube").stdout


def test_apply_a_look_at_part_strength(folder: Path):
    assert saucer(folder, "apply", "look.json", "in.png", "-o", "half.tif", "--strength", "0.5").returncode == 0
    x = read_picture(folder / "in.png").pixels
    half = (x + evaluate(a_look(), x)) / 2
    assert np.abs(read_picture(folder / "half.tif").pixels - half).max() <= 0.51 / 65535


def test_apply_beyond_full_where_the_steps_allow_it(folder: Path):
    (folder / "held.json").write_text(look_text(a_look(CHANGED["tone"], {"kind": "limit", "high": 0.9})))
    assert saucer(folder, "apply", "look.json", "in.png", "-o", "more.tif", "--strength", "1.4").returncode == 0
    for through, said in (("held.json", "a step that goes no further (Limit)"), ("a.cube", "a LUT file goes no further than 1")):
        refused = saucer(folder, "apply", through, "in.png", "-o", "no.tif", "--strength", "1.4")
        assert refused.returncode == 1
        assert said in refused.stderr
        assert not (folder / "no.tif").exists()


def test_inspect_a_look_a_picture_and_a_disc(folder: Path):
    look = json.loads(saucer(folder, "inspect", "look.json", "--json", "--disc", "disc.png").stdout)
    assert look["steps"][0].startswith("steps[0] curves: red 3 points")
    assert read_picture(folder / "disc.png").width == 512
    assert json.loads(saucer(folder, "inspect", "in.png", "--json").stdout)["depth"] == "u16"


@pytest.mark.parametrize(
    ("words", "said"),
    [
        (["bake", "gone.json", "-o", "x.cube"], "saucer: gone.json: no such file"),
        (["bake", "look.json", "-o", "x.cube", "--size", "500"], "saucer: size: must be from 2 to 129 nodes a side, got 500"),
        (["bake", "look.json", "-o", "x.lut"], "saucer: x.lut: no LUT format for this name; Saucer writes cc (.cc), "),
        (["bake", "a.cube", "-o", "x.cube"], "saucer: a.cube, line 1: not valid JSON"),
        (["bake", "look.json", "-o", "no/x.cube"], "saucer: no/x.cube: no such file"),
        (["apply", "a.cube", "gone.png", "-o", "x.png"], "saucer: gone.png: no such file"),
        (["apply", "a.cube", "look.json", "-o", "x.png"], "saucer: look.json: not a picture that Saucer reads"),
        (["apply", "in.png", "in.png", "-o", "x.png"], "saucer: in.png: 40 x 24 is no picture LUT"),
        (["apply", "a.cube", "in.png", "-o", "x.gif"], "saucer: x.gif: no picture format for this name"),
        (["apply", "a.cube", "in.png", "-o", "x.png", "--expects", "zap"], 'saucer: --expects: unknown encoding "zap"'),
        (
            ["apply", "look.json", "in.png", "-o", "x.png", "--expects", "srgb"],
            "saucer: look.json: a look declares its own encodings",
        ),
        (["inspect", "gone.cube"], "saucer: gone.cube: no such file"),
    ],
)
def test_bad_input_is_one_clear_line_and_leaves_nothing(folder: Path, words, said):
    before = sorted(path.name for path in folder.iterdir())
    done = saucer(folder, *words)
    assert done.returncode == 1
    assert done.stderr.startswith(said)
    assert done.stderr.count("\n") == 1
    assert sorted(path.name for path in folder.iterdir()) == before


def test_a_cut_picture_is_one_line_too(folder: Path):
    data = (folder / "in.png").read_bytes()
    (folder / "cut.png").write_bytes(data[: len(data) // 2])
    done = saucer_alone(folder, "apply", "a.cube", "cut.png", "-o", "x.png")
    assert (done.returncode, done.stderr.count("\n")) == (1, 1)
    assert done.stderr.startswith("saucer: cut.png: the picture is damaged or cut short")


def test_wrong_usage_is_2(folder: Path):
    assert saucer_alone(folder, "bake").returncode == 2
    assert saucer(folder, "apply", "a.cube", "in.png", "-o", "x.png", "--strength", "2").returncode == 2
    assert saucer(folder, "encodings").stdout.count("\n") == len(ENCODINGS)


def test_encodings_of_the_picture_and_the_result(folder: Path):
    done = saucer(
        folder,
        "apply",
        "a.cube",
        "in.png",
        "-o",
        "x.tif",
        "--strength",
        "0",
        "--picture-encoding",
        "srgb",
        "--expects",
        "film-log",
        "--output-encoding",
        "srgb",
    )
    assert done.returncode == 0, done.stderr
    assert np.abs(read_picture(folder / "x.tif").pixels - random_pixels()).max() < 2e-5


def test_a_look_with_everything_is_baked_applied_inspected_and_its_losses_told(folder: Path):
    steps = [CHANGED[kind] for kind in ("white-balance", "tone", "hue-bands", "limit")]
    steps += [{"kind": "lut", "file": "a.cube", "expects": "film-log", "gives": "srgb"}, {"kind": "vignette", "amount": 0.6}]
    (folder / "all.json").write_text(json.dumps({"format": "saucer-look", "version": 1, "steps": steps}))
    baked = saucer(folder, "bake", "all.json", "-o", "all.cube", "--size", "17")
    assert (baked.returncode, baked.stdout) == (0, "left out, because no LUT can hold it: Vignette (step 6)\n")
    look = read_bundle((folder / "all.json").read_bytes(), "all.json", folder)
    assert saucer(folder, "apply", "all.json", "in.png", "-o", "all.tif").returncode == 0
    expected = render(look.look, read_picture(folder / "in.png").pixels, luts=look.luts)
    assert np.abs(read_picture(folder / "all.tif").pixels - np.clip(expected, 0, 1)).max() <= 0.51 / 65535
    told = json.loads(saucer(folder, "inspect", "all.json", "--json").stdout)
    assert told["steps"][5].startswith("steps[5] vignette: 60 %")
    lost = json.loads(saucer(folder, "losses", "all.json", "in.png", "--json").stdout)
    assert [one["path"] for one in lost] == [f"steps[{i}]" for i in range(5)]
    assert "steps[3] limit" in saucer(folder, "losses", "all.json", "in.png").stdout
    done = saucer(folder, "losses", "all.json", "gone.png")
    assert (done.returncode, done.stderr) == (1, "saucer: gone.png: no such file\n")


def test_a_wrong_end_and_a_missing_lut_are_one_line(folder: Path):
    for steps, words in (
        ([{"kind": "convert", "to": "pq"}], 'saucer: output: the steps end in "pq" but the look declares "srgb"; declare "pq"'),
        ([{"kind": "lut", "file": "gone.cube"}], 'saucer: bad.json, steps[0], file: "gone.cube": no such file'),
    ):
        (folder / "bad.json").write_text(json.dumps({"format": "saucer-look", "version": 1, "steps": steps}))
        done = saucer(folder, "bake", "bad.json", "-o", "x.cube")
        assert (done.returncode, done.stderr.count("\n")) == (1, 1)
        assert done.stderr.startswith(words)
        assert not (folder / "x.cube").exists()


def test_encodings_as_json_and_the_schema(folder: Path):
    assert [one["id"] for one in json.loads(saucer(folder, "encodings", "--json").stdout)] == list(ENCODINGS)
    assert json.loads(saucer(folder, "schema").stdout)["title"] == "Saucer look file"


def test_the_launcher_passes_every_command_on():
    commands = next(action for action in _parser()._actions if isinstance(action, argparse._SubParsersAction))
    assert set(CORE) == set(commands.choices)


def test_a_reader_that_has_read_enough_ends_it_quietly(folder: Path):
    words = f"{sys.executable} -m saucer.core.commands.main schema | head -n 1"
    done = subprocess.run(words, shell=True, cwd=folder, capture_output=True, text=True)
    assert (done.stdout, done.stderr) == ("{\n", "")


@pytest.mark.parametrize("shell", ["bash", "zsh"])
def test_a_shell_completes_commands_options_and_files(folder: Path, shell: str):
    """The script that is printed is one to the shell itself, where it is installed, and knows every command."""
    script = saucer(folder, "--print-completion", shell).stdout
    assert {"apply", "inspect", "losses", "chart"} <= set(re.findall(r"[a-z]+", script))
    assert "--picture-encoding" in script
    program = shutil.which(shell)
    if program is None:
        return
    checked = subprocess.run([program, "-n", "-c", script], capture_output=True, text=True, check=False)
    assert (checked.returncode, checked.stderr) == (0, "")


def test_a_shell_that_was_told_completes_a_command(folder: Path):
    script = saucer(folder, "--print-completion", "bash").stdout
    asked = (
        'COMP_WORDS=(saucer ins); COMP_CWORD=1; "$(complete -p saucer | sed "s/.*-F \\([^ ]*\\).*/\\1/")"; echo "${COMPREPLY[*]}"'
    )
    done = subprocess.run(["bash", "-c", f"{script}\n{asked}"], capture_output=True, text=True, check=False)
    assert done.stdout.strip() == "inspect", done.stderr
