from __future__ import annotations

from contextlib import nullcontext
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import pytest

from saucer.core.clips.coding import Coding
from saucer.core.clips.reading import ClipReader
from saucer.core.clips.writing import KINDS, ClipWriter
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.engine.grade import Grade
from saucer.core.engine.moving import grade_clip
from saucer.core.errors import PictureError
from saucer.core.look.model import look_from
from tests.clips import moving, psnr, write


@pytest.mark.parametrize("kind", KINDS.values(), ids=lambda kind: kind.id)
@pytest.mark.parametrize("size", [(64, 48), (63, 47)])
def test_what_is_written_is_read_by_the_library(tmp_path: Path, kind, size):
    """By the library's own reading of the tags and its own conversion to RGB."""
    size = (max(size[0], kind.smallest[0] + size[0] % 2), max(size[1], kind.smallest[1] + size[1] % 2))
    path = tmp_path / f"a{kind.suffix}"
    with ClipWriter(path, kind, *size, Fraction(24000, 1001), ENCODINGS["rec709"], "01:00:00:00") as writer:
        for number in range(8):
            writer.write(moving(number, *size))
    with av.open(str(path)) as container:
        stream = container.streams.video[0]
        frames = list(container.decode(stream))
        assert (len(frames), stream.average_rate) == (8, Fraction(24000, 1001))
        assert (frames[0].color_primaries, frames[0].color_trc, int(frames[0].color_range)) == (1, 1, 1)
        said = {key.lower(): value for key, value in (stream.metadata | container.metadata).items()}
        assert said["timecode"] == "01:00:00:00"
        for number, frame in enumerate(frames):
            found = frame.reformat(format="rgb48le", interpolation="BILINEAR").to_ndarray()[: size[1], : size[0]] / 65535
            assert psnr(found, moving(number, *size)) > 36


@pytest.mark.parametrize(
    ("encoding", "tags", "matrix"),
    [("pq", (9, 16), "bt2020"), ("hlg", (9, 18), "bt2020"), ("display-p3", (12, 13), "bt709"), ("logc4", (2, 2), "bt709"), ("srgb", (1, 13), "bt709")],
)  # fmt: skip
def test_the_encoding_is_in_the_file(tmp_path: Path, encoding, tags, matrix):
    """Numbers of ITU-T H.273, tables 2 and 3; a log of a camera has none."""
    with ClipWriter(tmp_path / "a.mov", KINDS["prores"], 1280, 720, Fraction(25), ENCODINGS[encoding]) as writer:
        writer.write(np.full((720, 1280, 3), 0.5, np.float32))
    with ClipReader(tmp_path / "a.mov") as reader:
        assert reader.info.coding == Coding(matrix, False)
    with av.open(str(tmp_path / "a.mov")) as container:
        first = next(container.decode(video=0))
        assert (int(first.color_primaries), int(first.color_trc)) == tags


def test_nothing_is_left_of_a_clip_that_failed(tmp_path: Path):
    (tmp_path / "a.mp4").write_bytes(b"the one before")
    writer = ClipWriter(tmp_path / "a.mp4", KINDS["h264"], 64, 48, Fraction(24))
    writer.write(moving(0))
    writer.discard()
    assert [path.name for path in tmp_path.iterdir()] == ["a.mp4"]
    assert (tmp_path / "a.mp4").read_bytes() == b"the one before"
    with pytest.raises(PictureError, match=r"written as \.mp4"):
        ClipWriter(tmp_path / "a.mov", KINDS["h264"], 64, 48, Fraction(24))


def test_a_graded_clip_is_its_frames_graded(tmp_path: Path):
    """Decoded again, within what the codec leaves: the same frames written ungraded lose as much."""
    source = write(tmp_path / "in.mov", "prores_ks", "yuv422p10le", 12, size=(128, 96))
    look = look_from({"input": "rec709", "output": "rec709", "steps": [{"kind": "saturation", "factor": 1.3}]})
    seen: list[float] = []
    grade_clip(Grade.of_look(look), source, tmp_path / "out.mov", report=seen.append)
    assert seen == [pytest.approx(n / 12) for n in range(1, 13)]
    rec709 = ENCODINGS["rec709"]
    with ClipReader(source) as before, ClipReader(tmp_path / "out.mov") as after:
        assert after.info.count == 12
        for one, other in zip(before.frames(), after.frames(), strict=True):
            wanted = Grade.of_look(look)(one.rgb(), rec709, rec709)
            assert psnr(other.rgb(), np.clip(wanted, 0, 1)) > 40


def test_grain_moves_and_the_rest_stands_still(tmp_path: Path):
    look = look_from({"steps": [{"kind": "grain", "amount": 0.5}]})
    still = np.full((96, 128, 3), 0.5, np.float32)
    path = tmp_path / "still.mov"
    with ClipWriter(path, KINDS["prores"], 128, 96, Fraction(24), ENCODINGS["srgb"]) as writer:
        for _ in range(3):
            writer.write(still)
    for settings, moves in ((look, True), (look_from({"steps": [{"kind": "saturation", "factor": 1.2}]}), False)):
        grade_clip(Grade.of_look(settings), path, tmp_path / "out.mov")
        with ClipReader(tmp_path / "out.mov") as reader:
            first, second = reader.frame(0).rgb(), reader.frame(1).rgb()
        assert bool(np.abs(first - second).mean() > 0.01) is moves


def test_a_failing_step_ends_the_work_and_leaves_nothing(tmp_path: Path):
    source = write(tmp_path / "in.mp4", count=20)

    def stop(share: float) -> None:
        if share > 0.3:
            raise InterruptedError

    with pytest.raises(InterruptedError):
        grade_clip(Grade.of_look(look_from({"input": "rec709", "output": "rec709"})), source, tmp_path / "out.mp4", report=stop)
    assert [path.name for path in tmp_path.iterdir()] == ["in.mp4"]


@pytest.mark.parametrize("kind", KINDS.values(), ids=lambda kind: kind.id)
def test_what_an_encoder_does_not_take_is_said_before_anything_is_made(tmp_path: Path, kind):
    width, height = kind.smallest
    with pytest.raises(PictureError, match=f"takes pictures of {width} x {height} and more") if width > 1 else nullcontext():
        ClipWriter(tmp_path / f"a{kind.suffix}", kind, width - 1 or 2, height or 2, Fraction(24)).discard()
    assert list(tmp_path.iterdir()) == []


def test_ffv1_keeps_sixteen_bits(tmp_path: Path):
    """Without loss but for the way to Y'CbCr and back, whose steps are of 16 bits."""
    with ClipWriter(tmp_path / "a.mkv", KINDS["ffv1"], 64, 48, Fraction(24)) as writer:
        writer.write(moving(3))
    with ClipReader(tmp_path / "a.mkv") as reader:
        assert (reader.info.bits, reader.info.chroma) == (16, "4:4:4")
        assert np.abs(reader.frame(0).rgb() - np.clip(moving(3), 0, 1)).max() < 4 / 65535
