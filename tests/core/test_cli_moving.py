"""`apply` on folders, sequences and clips, as a person types it."""

from __future__ import annotations

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
    assert "written as .mp4 (H.264) or .mov (ProRes)" in saucer(folder, "apply", "look.json", "in.mov", "-o", "out.avi").stderr
    full = saucer(folder, "apply", "look.json", "in.mov", "-o", "full.mov", "--range", "full", "--matrix", "bt709")
    assert full.returncode == 0
    with ClipReader(folder / "full.mov") as one, ClipReader(folder / "out.mov") as other:
        # Taken as full, black is lifted.
        assert one.frame(0).rgb().min() > other.frame(0).rgb().min() + 0.02


def test_what_a_picture_says_otherwise_is_told_once(folder: Path):
    """Every frame says PQ, the look expects Rec.709."""
    for number in (8, 9, 10):
        path = folder / "frames" / f"quay_{number:04d}.png"
        write_picture(Picture(moving(number), "u16"), path, encoding=ENCODINGS["pq"])
    done = saucer(folder, "apply", "look.json", "frames/quay_####.png", "-o", "out/graded.###.tif")
    first, last = done.stdout.splitlines()
    assert first.startswith("quay_0008.png: its cICP chunk: primaries 9, transfer 16 of ITU-T H.273 means pq; it is read as rec709")
    assert last == "3 frames, 8 to 10"
