"""Clips and sequences in the studio: brought in, played from their proxies, corrected, read in place; what changes underneath is told."""

from __future__ import annotations

import os
from fractions import Fraction
from io import BytesIO
from pathlib import Path

import numpy as np
import pytest

from saucer.core.clips.reading import ClipReader
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.errors import PictureError
from saucer.core.pictures.io import Picture as Pixels
from saucer.core.pictures.io import read_picture, write_picture
from saucer.studio.common.store import local_file
from saucer.studio.pictures import footage
from saucer.studio.pictures.models import Footage, Picture
from saucer.studio.projects import rules as projects
from saucer.studio.projects.deliver.choice import DeliveryChoice
from saucer.studio.projects.deliver.planning import plan
from saucer.studio.projects.story import shots
from tests.clips import moving, psnr, write
from tests.raw import write_dng
from tests.studio.conftest import api_for
from tests.studio.work import run_worker

pytestmark = pytest.mark.django_db(transaction=True)


def send(api, *paths: Path, gaps: str = "refuse") -> dict:
    files = []
    for path in paths:
        data = BytesIO(path.read_bytes())
        data.name = path.name
        files.append(data)
    headers = {"X-CSRFToken": api.client.cookies["csrftoken"].value}
    response = api.client.post("/api/footage", {"files": files, "gaps": gaps}, headers=headers)
    assert response.status_code == 200, response.content[:500]
    return response.json()


def frames_in(folder: Path, *numbers: int, suffix: str = ".png") -> list[Path]:
    folder.mkdir(exist_ok=True)
    paths = [folder / f"deck_{number:04d}{suffix}" for number in numbers]
    for number, path in zip(numbers, paths, strict=True):
        write_picture(Pixels(moving(number), "u16" if suffix == ".png" else "f32"), path)
    return paths


def test_a_sequence_with_gaps_is_taken_with_the_frame_before_where_that_is_said(api, designer, tmp_path):
    """Frames 3, 4, 7 of 3 to 7: five frames, of which two are those before them; the delivery's report says so."""
    paths = frames_in(tmp_path / "frames", 3, 4, 7)
    (picture,) = send(api, *paths, gaps="hold")["pictures"]
    (told,) = api.get("/footage")
    assert (told["first"], told["count"], told["held"]) == (3, 5, "5 to 6")
    kept = footage.of_picture(Picture.objects.get(pk=picture))
    with footage.opened(kept) as reader:
        seen = [reader.frame(number).rgb() for number in range(5)]
    assert all(np.array_equal(seen[1], one) for one in seen[2:4])
    assert not np.array_equal(seen[3], seen[4])
    project = projects.create(designer, "Ferry")
    shots.add_shots(designer, project.pk, [shots.NewShot(picture, "Deck")])
    planned = api.expect(200, "POST", f"/projects/{project.pk}/deliveries/estimate", {"sequences": "png"})
    assert planned["left_out"] == ["deck: frames 5 to 6 are missing; the frame before stands in their place"]


def test_a_sequence_with_gaps_is_left_as_it_is_where_that_is_said(api, designer, tmp_path):
    """Seen with the frame before; of what is missing no file is delivered, and the others keep their numbers."""
    (picture,) = send(api, *frames_in(tmp_path / "frames", 3, 4, 7), gaps="leave")["pictures"]
    (told,) = api.get("/footage")
    assert (told["first"], told["count"], told["held"], told["leaves_gaps"]) == (3, 5, "5 to 6", True)
    project = projects.create(designer, "Ferry")
    shots.add_shots(designer, project.pk, [shots.NewShot(picture, "Deck")])
    choice = DeliveryChoice(sequences="png", template="{shot}")
    planned = plan(project, choice, 1, "Ilse")
    assert [one.file_name.rsplit("/")[-1] for one in planned.files] == ["deck.000003.png", "deck.000004.png", "deck.000007.png"]
    assert [one.frame for one in planned.files] == [0, 1, 4]
    assert planned.left_out == [
        "deck: frames 5 to 6 are missing; the frame before stands in their place in clips, and no file of a sequence"
    ]


def test_a_drop_of_everything_becomes_clips_sequences_and_stills(api, tmp_path):
    clip = write(
        tmp_path / "quay.mov", "prores_ks", "yuv422p10le", 12, tags={"colorspace": 1, "color_range": 1}, timecode="10:00:00:00"
    )
    frames = frames_in(tmp_path / "frames", 7, 8, 9)
    gap = frames_in(tmp_path / "gap", 3, 5)
    for path in gap:
        path.rename(path.with_name(path.name.replace("deck", "gull")))
    still = frames_in(tmp_path / "still", 1)[0].rename(tmp_path / "pier.png")
    (tmp_path / "notes.mov").write_bytes(b"nothing")
    taken = send(api, clip, *frames, *(tmp_path / "gap").iterdir(), still, tmp_path / "notes.mov")
    assert len(taken["pictures"]) == 3
    assert sorted(words.split(":")[0] for words in taken["left_out"]) == ["gull", "notes.mov"]
    assert any("frame 4 of 3 to 5 is missing" in words for words in taken["left_out"])
    told = {one["name"]: one for one in api.get("/footage")}
    assert (told["quay"]["count"], told["quay"]["matrix"], told["quay"]["full"], told["quay"]["timecode"]) == (
        12,
        "bt709",
        False,
        "10:00:00:00",
    )
    assert (told["deck"]["kind"], told["deck"]["first"], told["deck"]["count"]) == ("sequence", 7, 3)
    assert not told["deck"]["plays"]
    run_worker()
    assert all(one["plays"] for one in api.get("/footage"))
    moves = {one["name"]: one["moving"] for one in api.get("/pictures") if not one["test"]}
    assert moves["quay"] == {"kind": "clip", "first": 0, "count": 12, "rate": 24.0, "timecode": "10:00:00:00", "plays": True}
    assert moves["pier"] is None


def test_the_proxy_has_every_frame_and_its_colours(api, designer, tmp_path):
    picture = footage.bring_in_clip(designer, footage.Source(write(tmp_path / "a.mov", "prores_ks", "yuv422p10le", 9), "a.mov"))
    found = footage.of_picture(picture)
    seen: list[float] = []
    found.proxy, found.proxy_encoding = footage.make_proxy(found, seen.append)
    found.save()
    assert len(seen) == 9
    for number in (8, 0, 4, 5):
        assert psnr(footage.frame_in(found, number, ENCODINGS["rec709"]), moving(number)) > 36
    with pytest.raises(PictureError, match="has frames 0 to 8, got 9"):
        footage.frame_in(found, 9, ENCODINGS["rec709"])


def test_light_above_white_survives_in_the_proxy_of_a_linear_sequence(designer, tmp_path):
    folder = tmp_path / "frames"
    folder.mkdir()
    names = []
    for number in (1, 2):
        write_picture(Pixels(moving(number) * np.float32(6), "f32"), folder / f"sun.{number}.exr")
        names.append(f"sun.{number}.exr")
    (numbered,), _ = footage_sequences(names)
    picture = footage.bring_in_sequence(designer, numbered, [footage.Source(folder / name, name) for name in names])
    assert picture.encoding == "linear-709"
    found = footage.of_picture(picture)
    found.proxy, found.proxy_encoding = footage.make_proxy(found)
    seen = footage.frame_in(found, 1, ENCODINGS["linear-709"])
    assert seen.max() > 4.5
    assert np.abs(seen / (moving(2) * 6) - 1).mean() < 0.02


def footage_sequences(names):
    from saucer.core.clips.sequences import find_sequences

    return find_sequences(names)


def test_matrix_and_range_are_corrected_and_everything_is_made_again(api, designer, curator, tmp_path):
    path = write(tmp_path / "a.mp4", count=4, options={"crf": "4"}, tags={"colorspace": 1, "color_range": 1})
    pk = send(api, path)["pictures"][0]
    run_worker()
    before = Footage.objects.get(pk=pk)
    frame = footage.frame_in(before, 2, ENCODINGS["rec709"])
    changed = api.expect(200, "PATCH", f"/footage/{pk}", {"full": True})
    assert (changed["full"], changed["range_from"], changed["plays"]) == (True, "person", False)
    run_worker()
    after = Footage.objects.select_related("picture").get(pk=pk)
    lifted = footage.frame_in(after, 2, ENCODINGS["rec709"])
    assert np.abs(lifted.mean() - (frame.mean() * 219 + 16) / 255) < 0.01
    with local_file(after.picture.blob_id) as still, ClipReader(path, said=footage.coding_of(after)) as reader:
        assert np.abs(read_picture(still).pixels - reader.frame(0).rgb()).max() < 1e-6
    assert api.expect(422, "PATCH", f"/footage/{pk}", {"rate": "25"})["detail"] == "A clip says itself how fast it runs."
    other = api_for(curator).expect(200, "PATCH", f"/footage/{pk}", {"matrix": "bt601"})
    assert other["matrix"] == "bt601"


def test_another_encoding_makes_the_proxy_again(api, tmp_path):
    pk = send(api, write(tmp_path / "a.mp4", count=4))["pictures"][0]
    run_worker()
    api.expect(200, "PATCH", f"/pictures/{pk}", {"encoding": "logc4"})
    assert not api.get(f"/footage/{pk}")["plays"]
    run_worker()
    assert Footage.objects.get(pk=pk).proxy_encoding == "logc4"


def test_a_sequence_runs_as_fast_as_it_is_said_to(api, tmp_path):
    pk = send(api, *frames_in(tmp_path / "frames", 1, 2, 3))["pictures"][0]
    assert api.expect(200, "PATCH", f"/footage/{pk}", {"rate": "30000/1001"})["rate"] == str(Fraction(30000, 1001))
    assert "no matrix and no range" in api.expect(422, "PATCH", f"/footage/{pk}", {"full": True})["detail"]
    api.expect(422, "PATCH", f"/footage/{pk}", {"rate": "24/0"})


@pytest.fixture
def rushes(tmp_path, settings) -> Path:
    folder = tmp_path / "rushes"
    (folder / "day 1").mkdir(parents=True)
    settings.MEDIA_FOLDERS = {"rushes": str(folder), "gone": str(tmp_path / "gone")}
    write(folder / "day 1" / "quay.mp4", count=5)
    frames_in(folder / "day 1", 1, 2, 3)
    return folder


def test_a_media_folder_is_read_in_place(api, designer, rushes, tmp_path):
    before = {path: (path.stat().st_size, path.stat().st_mtime_ns) for path in rushes.rglob("*")}
    assert api.get("/footage/folders") == ["gone", "rushes"]
    listed = api.get("/footage/folders/rushes?path=day 1")
    assert (listed["clips"], [one["title"] for one in listed["sequences"]]) == (["quay.mp4"], ["deck"])
    taken = api.expect(200, "POST", "/footage/folders/rushes", {"paths": ["day 1/quay.mp4", "day 1/deck_0001.png"]})
    assert (len(taken["pictures"]), taken["left_out"]) == (2, [])
    run_worker()
    assert all(one["plays"] and one["in_place"] for one in api.get("/footage"))
    assert {path: (path.stat().st_size, path.stat().st_mtime_ns) for path in rushes.rglob("*")} == before
    assert not Footage.objects.exclude(files__blob=None).exists(), "nothing of it is kept"


def test_nothing_outside_a_media_folder_is_reached(api, rushes, tmp_path):
    (tmp_path / "secret").mkdir()
    write(tmp_path / "secret" / "other.mp4", count=2)
    os.symlink(tmp_path / "secret", rushes / "way out")
    assert "way out" not in api.get("/footage/folders/rushes")["folders"]
    for path in ("../secret", "way out", "/etc", "day 1/../../secret"):
        assert "lies outside" in api.expect(422, "GET", f"/footage/folders/rushes?path={path}")["detail"]
    for path in ("../secret/other.mp4", "way out/other.mp4"):
        assert "lies outside" in api.expect(422, "POST", "/footage/folders/rushes", {"paths": [path]})["detail"]
    assert "cannot be reached" in api.expect(404, "GET", "/footage/folders/gone")["detail"]
    assert "Whoever runs the server" in api.expect(404, "GET", "/footage/folders/other")["detail"]


def test_what_changes_underneath_is_told(designer, rushes):
    clip, frames = (footage.bring_in_from(designer, "rushes", f"day 1/{name}").pk for name in ("quay.mp4", "deck_0001.png"))
    write(rushes / "day 1" / "quay.mp4", count=9)
    (rushes / "day 1" / "deck_0002.png").unlink()
    with (
        pytest.raises(PictureError, match=r"quay.mp4: has changed since it was brought in"),
        footage.opened(footage.find(clip, designer)),
    ):
        pass
    with footage.opened(footage.find(frames, designer)) as reader:
        assert reader.frame(0).rgb().shape == (48, 64, 3)
        with pytest.raises(PictureError, match=r'deck_0002.png: is no longer in the media folder "rushes"'):
            reader.frame(1).rgb()


def test_camera_files_and_transport_streams_lie_in_media_folders_too(api, rushes):
    write_dng(rushes / "day 1" / "photo.DNG", np.full((64, 96, 3), 0.1))
    write(rushes / "day 1" / "reel.m2ts", count=3)
    listed = api.get("/footage/folders/rushes?path=day 1")
    assert "photo.DNG" in listed["stills"]
    assert "reel.m2ts" in listed["clips"]
    taken = api.expect(200, "POST", "/footage/folders/rushes", {"paths": ["day 1/photo.DNG", "day 1/reel.m2ts"]})
    assert (len(taken["pictures"]), taken["left_out"]) == (2, [])
    assert Picture.objects.get(pk=taken["pictures"][0]).kind == "raw"


def test_a_shot_comes_from_the_folder_of_its_footage_unless_a_timeline_says_its_reel(api, designer, rushes, tmp_path):
    clip = footage.bring_in_from(designer, "rushes", "day 1/quay.mp4").pk
    (loose,) = send(api, write(tmp_path / "loose.mp4", count=3))["pictures"]
    project = projects.create(designer, "Ferry")
    wanted = [shots.NewShot(clip, "Quay"), shots.NewShot(clip, "Quay", facts={"reel": "A012"}), shots.NewShot(loose, "Quay")]
    assert [one.roll for one in shots.add_shots(designer, project.pk, wanted)] == ["day 1", "A012", ""]


def test_the_clip_itself_is_downloaded(api, tmp_path):
    path = write(tmp_path / "a.mp4", count=3)
    pk = send(api, path)["pictures"][0]
    response = api.client.get(f"/api/pictures/{pk}/file")
    assert b"".join(response.streaming_content) == path.read_bytes()
    assert Picture.objects.get(pk=pk).width == 64
