"""`apply` on folders, sequences and clips, as a person types it."""

from __future__ import annotations

import fcntl
import os
import select
import struct
import subprocess
import sys
import termios
from pathlib import Path

import numpy as np
import pytest

from saucer.core.clips.reading import ClipReader
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.engine.grade import Grade
from saucer.core.look.model import look_from, look_text
from saucer.core.pictures.io import Picture, read_picture, write_picture
from saucer.core.steps.registry import Frame
from tests.clips import moving, psnr, write
from tests.core.test_cli import saucer

LOOK = look_from(
    {"input": "rec709", "output": "rec709", "steps": [{"kind": "saturation", "factor": 0.5}, {"kind": "grain", "amount": 0.2}]}
)


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    (tmp_path / "look.json").write_text(look_text(LOOK))
    (tmp_path / "frames").mkdir()
    for number in (8, 9, 10):
        write_picture(Picture(moving(number), "u16"), tmp_path / "frames" / f"quay_{number:04d}.png")
    return tmp_path


def expected(number: int) -> np.ndarray:
    rec709 = ENCODINGS["rec709"]
    return np.clip(Grade.of_look(LOOK)(moving(number), rec709, rec709, Frame(64, 48, 0, number)), 0, 1)


def test_a_sequence_keeps_its_numbers(folder: Path):
    done = saucer(folder, "apply", "look.json", "frames/quay_####.png", "-o", "out/graded.###.tif")
    assert (done.returncode, done.stdout) == (0, "3 frames, 8 to 10\n")
    assert sorted(path.name for path in (folder / "out").iterdir()) == ["graded.008.tif", "graded.009.tif", "graded.010.tif"]
    for number in (8, 10):
        assert np.abs(read_picture(folder / "out" / f"graded.{number:03d}.tif").pixels - expected(number)).max() < 3e-5


def test_gaps_and_names_that_are_taken_are_refused(folder: Path):
    assert saucer(folder, "apply", "look.json", "frames/quay_####.png", "-o", "out").returncode == 0
    again = saucer(folder, "apply", "look.json", "frames/quay_####.png", "-o", "out")
    assert again.returncode != 0
    assert "is there already; give --overwrite" in again.stderr
    assert saucer(folder, "apply", "look.json", "frames/quay_####.png", "-o", "out", "--overwrite").returncode == 0
    (folder / "frames" / "quay_0009.png").unlink()
    gap = saucer(folder, "apply", "look.json", "frames/quay_####.png", "-o", "new")
    assert "frame 9 of 8 to 10 is missing" in gap.stderr
    assert not (folder / "new").exists()
    assert "no frames of this name" in saucer(folder, "apply", "look.json", "frames/pier_####.png", "-o", "new").stderr


def test_a_sequence_with_gaps_is_taken_as_it_is_said(folder: Path):
    (folder / "frames" / "quay_0009.png").unlink()
    given = ("apply", "look.json", "frames/quay_####.png", "--gaps")
    left = saucer(folder, *given, "leave", "-o", "left/a.####.tif")
    assert left.stdout == "missing, and left so: 9\n2 frames, 8 to 10\n"
    assert sorted(path.name for path in (folder / "left").iterdir()) == ["a.0008.tif", "a.0010.tif"]
    held = saucer(folder, *given, "hold", "-o", "held")
    assert held.stdout == "the frame before stands in the place of 9\n3 frames, 8 to 10\n"
    rec709 = ENCODINGS["rec709"]
    # Its grain is that of its own number: a held frame does not stand still.
    wanted = np.clip(Grade.of_look(LOOK)(moving(8), rec709, rec709, Frame(64, 48, 0, 9)), 0, 1)
    assert np.abs(read_picture(folder / "held" / "quay_0009.png").pixels - wanted).max() < 3e-5


def test_a_folder_of_pictures(folder: Path):
    (folder / "frames" / "notes.txt").write_text("tide at six")
    done = saucer(folder, "apply", "look.json", "frames", "-o", "out")
    assert done.returncode == 0
    assert "left out: notes.txt: not a picture" in done.stdout
    assert done.stdout.endswith("3 pictures\n")
    assert np.abs(read_picture(folder / "out" / "quay_0009.png").pixels - expected(9)).max() < 3e-5
    assert "is the folder the pictures come from" in saucer(folder, "apply", "look.json", "frames", "-o", "frames").stderr


def test_a_clip(folder: Path):
    write(folder / "in.mov", "prores_ks", "yuv422p10le", 6)
    assert saucer(folder, "apply", "look.json", "in.mov", "-o", "out.mov").returncode == 0
    with ClipReader(folder / "out.mov") as reader:
        assert reader.info.count == 6
        assert psnr(reader.frame(4).rgb(), expected(4)) > 36
    assert "is there already" in saucer(folder, "apply", "look.json", "in.mov", "-o", "out.mov").stderr
    assert (
        "written as .mp4 (H.264, H.265), .mov (ProRes, VC-3) or .mkv (FFV1)"
        in saucer(folder, "apply", "look.json", "in.mov", "-o", "out.avi").stderr
    )
    full = saucer(folder, "apply", "look.json", "in.mov", "-o", "full.mov", "--range", "full", "--matrix", "bt709")
    assert full.returncode == 0
    with ClipReader(folder / "full.mov") as one, ClipReader(folder / "out.mov") as other:
        # Taken as full, black is lifted.
        assert one.frame(0).rgb().min() > other.frame(0).rgb().min() + 0.02


def test_what_pictures_say_is_believed_and_told_once(folder: Path):
    """Every frame says PQ, the look expects Rec.709."""
    for number in (8, 9, 10):
        path = folder / "frames" / f"quay_{number:04d}.png"
        write_picture(Picture(moving(number), "u16"), path, encoding=ENCODINGS["pq"])
    given = ("apply", "look.json", "frames/quay_####.png", "-o", "out/graded.###.tif")
    first, last = saucer(folder, *given).stdout.splitlines()
    tag = "its cICP chunk: primaries 9, transfer 16 of ITU-T H.273"
    assert first == f"quay_0008.png: read as pq, as {tag} says (--picture-encoding says otherwise)"
    assert last == "3 frames, 8 to 10"
    rec709, pq = ENCODINGS["rec709"], ENCODINGS["pq"]
    wanted = Grade.of_look(LOOK)(moving(8), pq, rec709, Frame(64, 48, 0, 8))
    assert np.abs(read_picture(folder / "out" / "graded.008.tif").pixels - np.clip(wanted, 0, 1)).max() < 5e-4
    first, _ = saucer(folder, *given, "--picture-encoding", "rec709", "--overwrite").stdout.splitlines()
    assert first == f"quay_0008.png: {tag} means pq; it is read as rec709, as --picture-encoding says"
    assert np.abs(read_picture(folder / "out" / "graded.008.tif").pixels - expected(8)).max() < 3e-5


PQ_TAGS = {"color_primaries": 9, "color_trc": 16, "colorspace": 9, "color_range": 1}


def test_the_tags_of_a_clip_are_believed_as_those_of_a_picture_are(folder: Path):
    """ITU-T H.273: primaries 9 and transfer 16 are BT.2020 and PQ."""
    write(folder / "in.mp4", "libx264", "yuv420p10le", 3, tags=PQ_TAGS)
    given = ("apply", "look.json", "in.mp4", "-o", "out.mov")
    assert saucer(folder, *given).stdout == "in.mp4: read as pq, as its tags say (--picture-encoding says otherwise)\n"
    with ClipReader(folder / "in.mp4") as source, ClipReader(folder / "out.mov") as reader:
        raw = source.frame(1).rgb()
        wanted = Grade.of_look(LOOK)(raw, ENCODINGS["pq"], ENCODINGS["rec709"], Frame(64, 48, 0, 1))
        assert psnr(reader.frame(1).rgb(), np.clip(wanted, 0, 1)) > 36
        assert reader.info.encoding == "rec709"
    told = saucer(folder, *given, "--overwrite", "--picture-encoding", "rec709").stdout
    assert told == "in.mp4: its tags mean pq; it is read as rec709, as --picture-encoding says\n"


def test_what_of_a_clip_cannot_be_kept_is_told(folder: Path):
    write(folder / "uneven.mkv", "ffv1", "yuv444p", 6, times=[0, 40, 100, 140, 200, 300])
    given = ("apply", "look.json", "uneven.mkv", "--picture-encoding", "rec709")
    assert saucer(folder, *given, "-o", "kept.mov").stdout == ""
    told = saucer(folder, *given, "-o", "a.mov", "--constant").stdout
    assert told == "uneven.mkv: frames of unequal length are made equally long: some stand twice, some are left out\n"
    write(folder / "clear.mov", "prores_ks", "yuva444p10le", 2)
    told = saucer(folder, "apply", "look.json", "clear.mov", "-o", "b.mov", "--picture-encoding", "rec709").stdout
    assert told == "clear.mov: its alpha is left out: ProRes 422 HQ, 10 bit holds none\n"


def test_a_codec_is_chosen_where_a_suffix_has_several(folder: Path):
    write(folder / "in.mov", "prores_ks", "yuv422p10le", 2)
    given = ("apply", "look.json", "in.mov", "--picture-encoding", "rec709")
    for codec, name, found in (("h265", "a.mp4", "hevc"), ("prores4444", "b.mov", "prores"), ("", "c.mkv", "ffv1")):
        assert saucer(folder, *given, "-o", name, *(["--codec", codec] if codec else [])).returncode == 0
        with ClipReader(folder / name) as reader:
            assert reader.info.codec == found
    assert "H.265, 10 bit, 4:2:0 is written as .mp4" in saucer(folder, *given, "-o", "d.mov", "--codec", "h265").stderr


def test_what_a_clip_without_tags_is_read_as_is_told(folder: Path):
    write(folder / "in.mp4", count=3)
    done = saucer(folder, "apply", "look.json", "in.mp4", "-o", "out.mp4")
    assert done.stdout == "in.mp4: does not say what it is in; it is read as rec709 (--picture-encoding says otherwise)\n"
    assert saucer(folder, "apply", "look.json", "in.mp4", "-o", "two.mp4", "--picture-encoding", "rec709").stdout == ""


@pytest.mark.parametrize(("code", "matrix"), [(1, "bt709"), (6, "bt601")])
def test_a_small_clip_stays_coded_as_it_says(folder: Path, code: int, matrix: str):
    write(folder / "in.mp4", count=2, tags={"color_primaries": 1, "color_trc": 1, "colorspace": code, "color_range": 1})
    assert saucer(folder, "apply", "look.json", "in.mp4", "-o", "out.mp4").returncode == 0
    with ClipReader(folder / "out.mp4") as reader:
        assert (reader.info.coding.matrix, reader.info.matrix_from) == (matrix, "file")


def test_nothing_is_written_over_what_is_read_unasked(folder: Path):
    before = (folder / "frames" / "quay_0008.png").read_bytes()
    given = ("apply", "look.json", "frames/quay_0008.png", "-o", "frames/../frames/quay_0008.png")
    refused = saucer(folder, *given)
    assert "is there already and is what would be read; give --overwrite" in refused.stderr
    assert (folder / "frames" / "quay_0008.png").read_bytes() == before
    assert saucer(folder, *given, "--overwrite").returncode == 0
    assert (folder / "frames" / "quay_0008.png").read_bytes() != before


@pytest.mark.parametrize(
    ("source", "output", "words"),
    [
        ("frames/quay_0008.png", "nowhere/x.png", "saucer: nowhere: no such folder; make it first"),
        ("frames/quay_0008.png", "frames", "saucer: frames: is a folder; name the file in it"),
        ("in.mov", "nowhere/x.mov", "saucer: nowhere: no such folder; make it first"),
        ("hollow", "out", "saucer: hollow: holds no picture that can be read"),
        ("frames", "look.json", "saucer: look.json: is a file; several pictures need a folder"),
        ("broken.mov", "x.mov", "saucer: broken.mov: "),
        ("broken.png", "x.png", "saucer: broken.png: "),
    ],
)
def test_what_cannot_be_is_one_line_that_names_the_culprit_and_leaves_nothing(folder: Path, source: str, output: str, words: str):
    (folder / "hollow").mkdir()
    write(folder / "in.mov", "prores_ks", "yuv422p10le", 2)
    (folder / "broken.mov").write_bytes((folder / "in.mov").read_bytes()[:3000])
    (folder / "broken.png").write_bytes((folder / "frames" / "quay_0008.png").read_bytes()[:200])
    before = sorted(folder.rglob("*"))
    done = saucer(folder, "apply", "look.json", source, "-o", output)
    assert (done.returncode, len(done.stderr.splitlines())) == (1, 1), done.stderr
    assert done.stderr.startswith(words)
    assert sorted(folder.rglob("*")) == before


def test_progress_is_for_terminals_only(folder: Path):
    """A pseudo-terminal as standard error; a pipe gets nothing but words."""
    write(folder / "in.mov", "prores_ks", "yuv422p10le", 12)
    leader, follower = os.openpty()
    fcntl.ioctl(follower, termios.TIOCSWINSZ, struct.pack("HHHH", 24, 80, 0, 0))
    done = subprocess.run(
        [sys.executable, "-m", "saucer.core.commands.main", "apply", "look.json", "in.mov", "-o", "out.mov"], cwd=folder, stderr=follower,
        stdout=subprocess.PIPE, check=False, timeout=120, env=os.environ,
    )  # fmt: skip
    assert done.returncode == 0
    assert select.select([leader], [], [], 0)[0], "somebody at a terminal is told nothing"
    assert "/12" in os.read(leader, 1 << 16).decode()
    os.close(follower)
    os.close(leader)
    assert saucer(folder, "apply", "look.json", "in.mov", "-o", "two.mov").stderr == ""
