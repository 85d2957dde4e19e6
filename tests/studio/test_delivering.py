"""Deliveries: files at full depth out of what was applied when they were asked for, in parts that survive what befalls workers."""

from __future__ import annotations

import io
import json
import re
import tempfile
import zipfile
from datetime import timedelta
from fractions import Fraction
from pathlib import Path

import av
import jsonschema_rs
import numpy as np
import opentimelineio as otio
import PyOpenColorIO as ocio
import pytest
from django.core.management import CommandError, call_command
from django.db import connection
from django.utils import timezone

from saucer.core.clips.reading import ClipReader
from saucer.core.clips.sequences import find_sequences
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.engine.grade import Grade
from saucer.core.look.model import look_from
from saucer.core.pictures.io import Picture as Pixels
from saucer.core.pictures.io import read_picture, write_picture
from saucer.core.steps.registry import Frame
from saucer.studio.catalogue import rules as catalogue
from saucer.studio.catalogue.models import Entry
from saucer.studio.common import store
from saucer.studio.common.refusals import NotPossible
from saucer.studio.jobs import rules as jobs
from saucer.studio.jobs.models import Job
from saucer.studio.looks import rules as looks
from saucer.studio.looks.models import LookDraft
from saucer.studio.luts.rules import at_hand
from saucer.studio.packing.returning import bring_back, read_pack
from saucer.studio.pictures import footage
from saucer.studio.pictures import rules as pictures
from saucer.studio.projects import rules as projects
from saucer.studio.projects.deliver import making, naming
from saucer.studio.projects.deliver import rules as delivering
from saucer.studio.projects.deliver.burning import burn_into
from saucer.studio.projects.deliver.frozen import schema_text
from saucer.studio.projects.grade import grading
from saucer.studio.projects.grade.stacking import look_of
from saucer.studio.projects.models import Delivery, DeliveryItem, Shot
from saucer.studio.projects.story import details, notes, ordering, shots
from tests.clips import moving, psnr, write
from tests.studio.work import run_worker

pytestmark = pytest.mark.django_db(transaction=True)
TRIM = [{"kind": "cdl", "slope": [1.1, 1.0, 0.95], "offset": [0.01, 0, 0], "power": [1, 0.9, 1], "saturation": 0.9, "clamp": True}]


def empty(folder: Path) -> Path:
    return Path(tempfile.mkdtemp(dir=folder))


@pytest.fixture
def project(designer, tmp_path):
    """A still in 8 bit, a clip and a sequence in two scenes, under a look, the first one trimmed."""
    made = projects.create(designer, "The Salt Ferry", code="TSF", delivery="srgb")
    write_picture(Pixels(moving(1, 160, 90), "u8"), tmp_path / "pier.png")
    still = pictures.bring_in(designer, tmp_path / "pier.png", "pier.png").pk
    path = write(
        tmp_path / "gulls.mov",
        "prores_ks",
        "yuv422p10le",
        20,
        size=(160, 90),
        tags={"colorspace": 1, "color_range": 1},
        timecode="10:00:00:00",
    )
    clip = footage.bring_in_clip(designer, footage.Source(path, "gulls.mov")).pk
    names = [f"mast.{number:03d}.png" for number in range(1, 6)]
    for number, name in enumerate(names):
        write_picture(Pixels(moving(number, 160, 90), "u16"), tmp_path / name)
    (numbered,), _ = find_sequences(names)
    frames = footage.bring_in_sequence(designer, numbered, [footage.Source(tmp_path / name, name) for name in names]).pk
    wanted = [shots.NewShot(still, "Quay"), shots.NewShot(clip, "Quay", first=4, last=15), shots.NewShot(frames, "Deck")]
    added = shots.add_shots(designer, made.pk, wanted)
    draft = looks.create(
        designer,
        look_from(
            {
                "name": "Hearth",
                "steps": [
                    {"kind": "white-balance", "warm": 25},
                    {"kind": "saturation", "factor": 1.15},
                    {"kind": "vignette", "amount": 0.3},
                ],
            }
        ),
    )
    looks.save_version(designer, draft.pk)
    Entry.objects.filter(pk=draft.pk).update(may_pass_on="yes")
    grading.put_look(designer, made.pk, [one.pk for one in added], draft.pk, None, 0.8, stack=False)
    grading.set_trims(designer, made.pk, [added[0].pk], look_from({"steps": TRIM}).steps)
    return made


EVERYTHING = {
    "stills": "tiff",
    "sequences": "png",
    "clips": "prores",
    "luts": "cube",
    "cdl": True,
    "timeline": True,
    "looks": True,
    "sheet": True,
}


def deliver(api, project, **choice) -> dict:
    made = api.expect(200, "POST", f"/projects/{project.pk}/deliveries", choice)
    run_worker()
    return api.get(f"/projects/{project.pk}/deliveries/{made['number']}")


def read(api, project, delivery: dict, name: str) -> bytes:
    (item,) = [one for one in delivery["items"] if one["file_name"] == name]
    response = api.client.get(f"/api/projects/{project.pk}/deliveries/{delivery['number']}/files/{item['id']}")
    return b"".join(response.streaming_content)


def as_picture(data: bytes, folder: Path, name: str) -> np.ndarray:
    (folder / name).write_bytes(data)
    return read_picture(folder / name).pixels


def test_everything_is_delivered_under_its_names_and_told_in_a_report(api, project, tmp_path):
    found = api.expect(200, "POST", f"/projects/{project.pk}/deliveries/estimate", EVERYTHING)
    assert (found["number"], found["files"], found["left_out"]) == (
        1,
        3 + 12 + 5 + 2 + 3,
        ["pier: a still has no sequence", "pier: a still is no clip"],
    )
    assert found["seconds"] > 0
    assert found["bytes"] > 1000
    made = deliver(api, project, **EVERYTHING)
    assert made["job"]["state"] == "done"
    names = {one["file_name"] for one in made["items"]}
    assert {
        "stills/Quay_pier.tif",
        "stills/Quay_gulls.tif",
        "clips/Quay_gulls.mov",
        "clips/Deck_mast.mov",
        "luts/Quay_pier.cube",
    } <= names
    assert {"sequences/Quay_gulls/Quay_gulls.000004.png", "sequences/Deck_mast/Deck_mast.000005.png"} <= names
    assert {
        "lists/trims.ccc",
        "lists/timeline.otio",
        "lists/timeline.edl",
        "lists/contact-sheet.pdf",
        "lists/report.json",
    } <= names
    (pack,) = [name for name in names if name.startswith("looks/")]
    assert re.fullmatch(r"looks/looks-of-.+-delivery-1\.zip", pack)
    assert any("vignette" in words.lower() for words in made["left_out"]), "a LUT cannot hold it"
    report = json.loads(read(api, project, made, "lists/report.json"))
    told = {one["file"]: one for one in report["files"]}
    assert told["clips/Quay_gulls.mov"]["layers"][0]["name"] == "Hearth"
    assert all(one["sha256"] and one["look"] for one in told.values())
    whole = api.client.get(f"/api/projects/{project.pk}/deliveries/1/all.zip")
    with zipfile.ZipFile(io.BytesIO(b"".join(whole.streaming_content))) as packed:
        assert set(packed.namelist()) == names
        assert packed.testzip() is None
    assert read(api, project, made, "lists/contact-sheet.pdf").startswith(b"%PDF-")


def wanted_of(shot: Shot, pixels: np.ndarray, number: int = 0) -> np.ndarray:
    look = look_of(shot, list(shot.layers.select_related("version__entry")), "srgb")
    return np.clip(
        Grade.of_look(look, 1.0, at_hand)(pixels, ENCODINGS[look.input], ENCODINGS["srgb"], Frame(160, 90, 0, number)), 0, 1
    )


def test_pixels_are_those_of_the_whole_stack_at_full_depth(api, project, tmp_path):
    made = deliver(api, project, stills="tiff", sequences="tiff", clips="prores")
    still, clip, _ = Shot.objects.order_by("pk")
    data = read(api, project, made, "stills/Quay_pier.tif")
    seen = as_picture(data, tmp_path, "a.tif")
    source = np.round(np.clip(moving(1, 160, 90), 0, 1) * 255) / np.float32(255)
    assert np.abs(seen - wanted_of(still, source.astype(np.float32))).max() < 2e-5
    with store.local_file(clip.picture.footage.files.get().blob_id) as path, ClipReader(path) as reader:
        raw = reader.frame(9).rgb()
    frame = as_picture(read(api, project, made, "sequences/Quay_gulls/Quay_gulls.000009.tif"), tmp_path, "b.tif")
    assert np.abs(frame - wanted_of(clip, raw, 9)).max() < 2e-5
    (tmp_path / "c.mov").write_bytes(read(api, project, made, "clips/Quay_gulls.mov"))
    with ClipReader(tmp_path / "c.mov") as reader:
        assert (reader.info.count, reader.info.timecode, reader.info.encoding) == (12, "10:00:00:04", "srgb")
        assert psnr(reader.frame(5).rgb(), wanted_of(clip, raw, 9)) > 40


def test_frames_of_a_sequence_keep_what_they_say_and_their_alpha(api, designer, project, tmp_path):
    """EXR in and out by OpenEXR: a larger window, an attribute, alpha and depth, frame by frame."""
    OpenEXR = pytest.importorskip("OpenEXR", reason="development requirements are not installed")
    names = [f"buoy.{number:03d}.exr" for number in range(1, 4)]
    for number, name in enumerate(names):
        header = {
            "compression": OpenEXR.ZIP_COMPRESSION, "type": OpenEXR.scanlineimage, "owner": f"Tidemark {number}",
            "displayWindow": (np.array([0, 0], np.int32), np.array([199, 119], np.int32)),
            "dataWindow": (np.array([4, 6], np.int32), np.array([163, 95], np.int32)),
        }  # fmt: skip
        channels = {one: moving(number, 160, 90)[..., index].astype(np.float16) for index, one in enumerate("RGB")}
        channels |= {"A": np.full((90, 160), 0.5 + number / 8, np.float16), "Z": np.full((90, 160), 7.5 + number, np.float32)}
        with OpenEXR.File(header, channels) as file:
            file.write(str(tmp_path / name))
    (numbered,), _ = find_sequences(names)
    frames = footage.bring_in_sequence(designer, numbered, [footage.Source(tmp_path / name, name) for name in names]).pk
    shots.add_shots(designer, project.pk, [shots.NewShot(frames, "Deck", first=1, last=2)])
    made = deliver(api, project, sequences="openexr")
    for number, stored in enumerate(sorted(one["file_name"] for one in made["items"] if "buoy" in one["file_name"]), 1):
        (tmp_path / "out.exr").write_bytes(read(api, project, made, stored))
        with OpenEXR.File(str(tmp_path / "out.exr"), separate_channels=True) as file:
            assert file.header()["owner"] == f"Tidemark {number}"
            assert np.array(file.header()["dataWindow"]).tolist() == [[4, 6], [163, 95]]
            found = file.channels()
            assert set(found) == {"R", "G", "B", "A", "Z"}
            np.testing.assert_array_equal(found["A"].pixels, np.float16(0.5 + number / 8))
            np.testing.assert_array_equal(found["Z"].pixels, np.float32(7.5 + number))


def test_dpx_stills_hold_sixteen_bits_as_the_library_reads_them(api, project, tmp_path):
    """Of a still in 8 bit and of a frame in 10: within half a step of 16 bits of the graded pixels (SMPTE ST 268-1, read by libavcodec)."""
    still, clip, _ = Shot.objects.order_by("pk")
    source = np.round(np.clip(moving(1, 160, 90), 0, 1) * 255) / np.float32(255)
    with store.local_file(clip.picture.footage.files.get().blob_id) as path, ClipReader(path) as reader:
        poster = reader.frame(clip.poster).rgb()
    made = deliver(api, project, stills="dpx", template="{shot}")
    wanted = {"pier": wanted_of(still, source.astype(np.float32)), "gulls": wanted_of(clip, poster, clip.poster)}
    for name, pixels in wanted.items():
        path = tmp_path / f"{name}.dpx"
        path.write_bytes(read(api, project, made, f"stills/{name}.dpx"))
        with av.open(str(path), format="dpx_pipe") as container:
            seen = next(container.decode(video=0)).to_ndarray(format="rgb48le")
        assert np.abs(seen - pixels.astype(np.float64) * 65535).max() <= 1.5


def test_the_lut_of_a_shot_on_the_ungraded_frame_is_the_delivered_still(api, project, designer, tmp_path):
    """By libavfilter's lut3d, within 2 codes of 8 bit; without the vignette, which no LUT holds."""
    draft = looks.create(
        designer, look_from({"name": "Plain", "steps": [{"kind": "tone", "contrast": 1.2}, {"kind": "saturation", "factor": 1.2}]})
    )
    looks.save_version(designer, draft.pk)
    still = Shot.objects.order_by("pk").first()
    grading.put_look(designer, project.pk, [still.pk], draft.pk, None, 0.9, stack=False)
    made = deliver(api, project, shots=[still.pk], stills="png", luts="cube", lut_size=65)
    (tmp_path / "shot.cube").write_bytes(read(api, project, made, "luts/Quay_pier.cube"))
    codes = np.ascontiguousarray(np.round(np.clip(moving(1, 160, 90), 0, 1) * 255).astype(np.uint8))
    graph = av.filter.Graph()
    frame = av.VideoFrame.from_ndarray(codes, format="rgb24")
    source = graph.add_buffer(width=160, height=90, format=frame.format, time_base=1)
    lut, sink = graph.add("lut3d", f"file={tmp_path / 'shot.cube'}:interp=tetrahedral"), graph.add("buffersink")
    source.link_to(lut)
    lut.link_to(sink)
    graph.configure()
    frame.pts = 0
    graph.push(frame)
    theirs = graph.pull().to_ndarray(format="rgb24").astype(int)
    ours = as_picture(read(api, project, made, "stills/Quay_pier.png"), tmp_path, "s.png") * 255
    assert np.abs(theirs - ours).max() <= 2


def test_lists_are_read_by_other_libraries(api, project):
    made = deliver(api, project, clips="h264", cdl=True, timeline=True)
    timeline = otio.adapters.read_from_string(read(api, project, made, "lists/timeline.otio").decode(), "otio_json")
    clips = list(timeline.find_clips())
    assert [clip.name for clip in clips] == ["pier", "gulls", "mast"]
    assert clips[1].source_range == otio.opentime.TimeRange(
        otio.opentime.from_timecode("10:00:00:04", 24), otio.opentime.RationalTime(12, 24)
    )
    assert clips[1].media_reference.target_url == "clips/Quay_gulls.mp4"
    assert clips[1].metadata["saucer"]["layers"][0]["version"] == 1
    edits = otio.adapters.read_from_string(read(api, project, made, "lists/timeline.edl").decode(), "cmx_3600")
    first = next(iter(edits.find_clips()))
    assert list(first.metadata["cdl"]["asc_sop"]["slope"]) == pytest.approx([1.1, 1.0, 0.95])
    assert first.metadata["cdl"]["asc_sat"] == pytest.approx(0.9)


def test_the_collection_is_read_by_opencolorio(api, project, tmp_path):
    made = deliver(api, project, cdl=True)
    (tmp_path / "trims.ccc").write_bytes(read(api, project, made, "lists/trims.ccc"))
    found = ocio.CDLTransform.CreateFromFile(str(tmp_path / "trims.ccc"), "Quay-pier")
    assert found.getSlope() == pytest.approx([1.1, 1.0, 0.95])
    assert found.getOffset() == pytest.approx([0.01, 0, 0])
    assert found.getPower() == pytest.approx([1, 0.9, 1])
    assert found.getSat() == pytest.approx(0.9)


def test_trims_that_are_no_cdl_are_fitted_and_the_error_told(api, project, designer):
    still = Shot.objects.order_by("pk").first()
    grading.set_trims(
        designer,
        project.pk,
        [still.pk],
        look_from({"steps": [{"kind": "curves", "master": [[0, 0], [0.3, 0.2], [0.7, 0.8], [1, 1]]}]}).steps,
    )
    made = deliver(api, project, cdl=True)
    words = json.loads(read(api, project, made, "lists/report.json"))["cdl"]["Quay pier"]
    assert words.startswith("the trims as one CDL: off by 0.0")
    assert "as one CDL" in read(api, project, made, "lists/trims.ccc").decode()


def test_what_is_applied_is_fixed_when_it_is_asked_for(api, project, designer, tmp_path):
    clean = deliver(api, project, stills="tiff")
    asked = api.expect(200, "POST", f"/projects/{project.pk}/deliveries", {"stills": "tiff"})
    grading.take_off(designer, project.pk, list(Shot.objects.values_list("pk", flat=True)))
    run_worker()
    after = api.get(f"/projects/{project.pk}/deliveries/{asked['number']}")
    sums = [{one["file_name"]: one["sha256"] for one in made["items"] if one["kind"] == "still"} for made in (clean, after)]
    assert sums[0] == sums[1]


def test_names_come_from_a_template_and_are_never_the_same(api, project):
    path = f"/projects/{project.pk}/deliveries/estimate"
    found = api.expect(200, "POST", path, {"stills": "png", "template": "{code} {shot} {look} {version} {delivery}"})
    assert found["names"][0] == "stills/TSF_pier_Hearth_v1_001.png"
    assert "would both be called TSF" in api.expect(422, "POST", path, {"stills": "png", "template": "{code}"})["detail"]
    assert "There is no {take}" in api.expect(422, "POST", path, {"stills": "png", "template": "{take}"})["detail"]
    assert api.expect(422, "POST", path, {})["detail"] == "Choose what is to be delivered."
    assert naming.name_from("{shot}", {"shot": '../..\\x:<"y?'}) == "x-y"
    assert naming.name_from("a  {scene} ", {"scene": "1 Quay"}) == "a_1_Quay"
    assert naming.name_from("{shot}", {"shot": "=+-@cmd\u202egnp"}) == "cmdgnp"


class Died(BaseException):
    """A worker that ends in the middle."""


def test_a_part_that_is_done_is_not_made_again_after_a_worker_died(api, project, designer, monkeypatch):
    asked = api.expect(200, "POST", f"/projects/{project.pk}/deliveries", {"sequences": "png", "stills": "png"})
    real, made = making._write_frame, []

    def dies(item, *rest):
        if len(made) == 5:
            raise Died
        made.append(item.row.file_name)
        return real(item, *rest)

    monkeypatch.setattr(making, "_write_frame", dies)
    parts = list(Job.objects.filter(kind="deliver-part").order_by("pk").values_list("pk", flat=True))
    for pk in parts:
        try:
            jobs.perform(pk)
        except Died:
            break
    kept = DeliveryItem.objects.exclude(blob=None).count()
    assert kept > 0
    assert all(store.is_whole(one.blob_id) for one in DeliveryItem.objects.exclude(blob=None))
    again: list[str] = []

    def goes_on(item, *rest):
        again.append(item.row.file_name)
        return real(item, *rest)

    monkeypatch.setattr(making, "_write_frame", goes_on)
    run_worker()
    found = api.get(f"/projects/{project.pk}/deliveries/{asked['number']}")
    assert found["job"]["state"] == "done"
    assert found["done"] == found["files"]
    assert not set(again) & set(made), "nothing twice"


def test_a_missing_source_fails_its_part_keeps_the_others_and_goes_on_when_it_is_back(api, project, designer, monkeypatch):
    clip = Shot.objects.get(code="gulls").picture.footage.files.get()
    path = Path(store.default_storage.path(store.name_of(clip.blob_id)))
    away = path.rename(path.with_suffix(".away"))
    made = deliver(api, project, clips="h264", stills="png")
    assert made["job"]["state"] == "failed"
    assert "of 5 parts failed; the others are kept" in made["job"]["problem"]
    assert made["job"]["may_restart"]
    assert 0 < made["done"] < made["files"]
    away.rename(path)
    api.expect(200, "POST", f"/jobs/{made['job']['id']}/restart")
    run_worker()
    again = api.get(f"/projects/{project.pk}/deliveries/{made['number']}")
    assert (again["job"]["state"], again["done"]) == ("done", again["files"])


def test_a_source_that_changed_underneath_is_told_and_nothing_of_it_is_delivered(api, project, designer, tmp_path, settings):
    (tmp_path / "rushes").mkdir()
    settings.MEDIA_FOLDERS = {"rushes": str(tmp_path / "rushes")}
    write(tmp_path / "rushes" / "tide.mp4", count=6, size=(160, 90))
    picture = footage.bring_in_from(designer, "rushes", "tide.mp4")
    (shot,) = shots.add_shots(designer, project.pk, [shots.NewShot(picture.pk, "Deck")])
    write(tmp_path / "rushes" / "tide.mp4", count=7, size=(160, 90))
    made = deliver(api, project, shots=[shot.pk], clips="h264")
    assert made["job"]["state"] == "failed"
    assert "tide.mp4: has changed since it was brought in" in made["job"]["problem"]
    assert made["done"] == 0


def test_a_full_disk_leaves_no_file_with_a_final_name(api, project, monkeypatch):
    real, count = store.put, [0]

    def full(name, content):
        count[0] += 1
        if count[0] == 2:
            raise OSError(28, "No space left on device")
        real(name, content)

    monkeypatch.setattr(store, "put", full)
    made = deliver(api, project, stills="png")
    assert made["job"]["state"] == "failed"
    assert "disk is full" in made["job"]["problem"]
    assert made["done"] == 2
    monkeypatch.setattr(store, "put", real)
    api.expect(200, "POST", f"/jobs/{made['job']['id']}/restart")
    run_worker()
    assert api.get(f"/projects/{project.pk}/deliveries/1")["job"]["state"] == "done"


def test_two_at_once_have_their_own_numbers_and_a_cancelled_one_stops(api, project):
    path = f"/projects/{project.pk}/deliveries"
    first, second = (api.expect(200, "POST", path, {"stills": form}) for form in ("png", "jpeg"))
    assert (first["number"], second["number"]) == (1, 2)
    api.expect(200, "POST", f"/jobs/{second['job']['id']}/cancel")
    run_worker()
    states = {one["number"]: (one["job"]["state"], one["done"]) for one in api.get(path)}
    assert states == {1: ("done", 4), 2: ("cancelled", 0)}
    assert {one["kind"] for one in api.get("/jobs")} == {"deliver"}, "its parts are not told one by one"


def test_words_are_burnt_into_review_clips(api, project, tmp_path):
    made = deliver(api, project, clips="h264", burn=True, mark="for review")
    (tmp_path / "a.mp4").write_bytes(read(api, project, made, "clips/Quay_gulls.mp4"))
    plain = deliver(api, project, clips="h264")
    (tmp_path / "b.mp4").write_bytes(read(api, project, plain, "clips/Quay_gulls.mp4"))
    with ClipReader(tmp_path / "a.mp4") as burnt, ClipReader(tmp_path / "b.mp4") as clean:
        one, other = burnt.frame(3).rgb(), clean.frame(3).rgb()
    assert np.abs(one[20:70] - other[20:70]).mean() < 0.02
    assert np.abs(one[-12:] - other[-12:]).mean() > 0.1
    words = burn_into(np.full((360, 640, 3), 0.5, np.float32), "gulls", "10:00:00:04", "for review")
    assert words[:300, :400].std() == 0
    assert words[-16:, :120].max() > 0.9


def test_an_export_overwrites_nothing_unasked(api, project, designer, tmp_path):
    deliver(api, project, stills="png")
    delivery = Delivery.objects.get()
    assert len(delivering.export(delivery, tmp_path / "out", overwrite=False)) == 4
    with pytest.raises(NotPossible, match="is there already"):
        delivering.export(delivery, tmp_path / "out", overwrite=False)
    delivering.export(delivery, tmp_path / "out", overwrite=True)
    assert (tmp_path / "out" / "stills" / "Quay_pier.png").stat().st_size > 1000


def test_the_terminal_exports_what_the_page_delivers(project, tmp_path, capsys):
    words = (
        "project",
        "export",
        "tsf",
        "-o",
        str(tmp_path / "out"),
        "--stills",
        "png",
        "--luts",
        "cube",
        "--sheet",
        "--template",
        "{shot}",
    )
    call_command(*words)
    assert (tmp_path / "out" / "stills" / "pier.png").is_file()
    assert (tmp_path / "out" / "luts" / "mast.cube").is_file()
    assert (tmp_path / "out" / "lists" / "contact-sheet.pdf").read_bytes().startswith(b"%PDF-")
    assert "files in" in capsys.readouterr().out
    with pytest.raises(CommandError, match="is there already; give --overwrite"):
        call_command(*words)
    call_command(*words, "--overwrite")
    with pytest.raises(CommandError, match="stills"):
        call_command("project", "export", "TSF", "-o", str(tmp_path / "b"), "--stills", "gif")
    with pytest.raises(CommandError, match="no project with"):
        call_command("project", "export", "Other", "-o", str(tmp_path / "b"), "--stills", "png")
    call_command("project", "list")
    assert "3 shots" in capsys.readouterr().out


def test_a_look_that_may_not_be_passed_on_stays_here(api, project):
    """What it does to the shots leaves, as pictures; the look itself, and one that uses a LUT which may not, do not."""
    Entry.objects.filter(kind="look").update(may_pass_on="no")
    made = deliver(api, project, stills="jpeg", looks=True)
    assert made["job"]["state"] == "done"
    assert [one["file_name"] for one in made["items"] if one["file_name"].startswith("looks/")] == []
    assert any("Hearth is applied, and stays here itself: may not be passed on" in words for words in made["left_out"])


def test_the_looks_of_a_delivery_leave_as_one_pack_in_the_version_that_was_applied(api, project, designer, tmp_path):
    """A newer version that nobody has put on the shots does not leave with them; another studio takes the pack in."""
    entry = Entry.objects.get(kind="look")
    applied = entry.latest.content
    looks.save_draft(
        designer,
        entry.pk,
        look_from({"name": "Hearth", "steps": [{"kind": "levels"}]}),
        LookDraft.objects.get(entry=entry).revision,
    )
    looks.save_version(designer, entry.pk)
    made = deliver(api, project, luts="csp", looks=True)
    (name,) = [one["file_name"] for one in made["items"] if one["file_name"].startswith("looks/")]
    data = read(api, project, made, name)
    (tmp_path / "pack.zip").write_bytes(data)
    pack = read_pack(tmp_path / "pack.zip", "pack.zip", empty(tmp_path))
    (packed,), members = pack.entries, pack.members
    assert (packed.name, [one.number for one in packed.versions]) == ("Hearth", [1])
    assert packed.versions[0].content == applied
    assert [file.format for file in packed.files] == ["look", "csp"]
    assert {"SHA256SUMS", "READ ME.txt", "LICENCES.txt"} <= members.keys()
    entry.refresh_from_db()
    catalogue.delete(designer, entry.kind, entry.pk)
    returned = bring_back(designer, tmp_path / "pack.zip", "pack.zip", lambda done: None)
    assert [one.name for one in returned.entries] == ["Hearth"]
    assert Entry.objects.get(pk=returned.entries[0].pk).latest.content == applied


def test_nothing_that_happens_while_it_runs_changes_what_leaves(api, project, designer, curator, tmp_path):
    """Everything is changed, renamed and removed between asking and making; what leaves is what left before, to the byte."""
    grading.set_trims(designer, project.pk, list(Shot.objects.values_list("pk", flat=True)), look_from({"steps": TRIM}).steps)
    notes.add_note(designer, project.pk, Shot.objects.get(code="gulls").pk, "Lighter here", 6)
    clean = deliver(api, project, **EVERYTHING, template="{project}_{scene}_{shot}_{look}")
    asked = api.expect(
        200, "POST", f"/projects/{project.pk}/deliveries", EVERYTHING | {"template": "{project}_{scene}_{shot}_{look}"}
    )
    still, clip, frames = Shot.objects.order_by("pk")
    other = look_from({"steps": [{"kind": "cdl", "slope": [2, 2, 2]}]}).steps
    grading.set_trims(designer, project.pk, [still.pk, clip.pk], other)
    grading.set_strength(designer, project.pk, [clip.pk], 0.1)
    grading.take_off(designer, project.pk, [frames.pk])
    details.set_frames(designer, project.pk, clip.pk, {"first": 6, "last": 9, "poster": 7})
    details.rename_shot(designer, project.pk, still.pk, "other")
    details.change_shots(designer, project.pk, [still.pk], {"note": "changed", "encoding": "rec709"})
    ordering.move_shots(designer, project.pk, [frames.pk], "Quay", still.pk)
    ordering.rename_scene(designer, project.pk, clip.scene_id, "Harbour")
    notes.add_note(designer, project.pk, clip.pk, "Darker now", None)
    pictures.change(designer, still.picture_id, "another", "display-p3")
    footage.set_facts(designer, frames.picture_id, None, None, Fraction(30))
    projects.change(designer, project.pk, {"name": "Renamed", "code": "RE", "delivery": "rec2020"})
    entry = Entry.objects.get(kind="look")
    catalogue.change(designer, entry.kind, entry.pk, {"name": "Not Hearth", "note": "changed", "licence": "None"})
    catalogue.delete(designer, entry.kind, entry.pk)
    shots.take_out(designer, project.pk, [still.pk, clip.pk, frames.pk])
    for picture in (still.picture_id, clip.picture_id, frames.picture_id):
        pictures.delete(designer, picture)
    run_worker()
    after = api.get(f"/projects/{project.pk}/deliveries/{asked['number']}")
    assert after["job"]["state"] == "done", after["job"]["problem"]
    first, second = ({one["file_name"]: one["sha256"] for one in made["items"]} for made in (clean, after))
    numbered = {name for name in first if name.startswith(("looks/", "lists/"))}
    assert {name: sha for name, sha in first.items() if name not in numbered} == {
        name: sha for name, sha in second.items() if not name.startswith(("looks/", "lists/"))
    }
    # What tells its own number and time is held against the other with these taken out.
    for name in ("lists/trims.ccc", "lists/timeline.otio", "lists/timeline.edl", "lists/report.json"):
        told = [read(api, project, made, name).decode() for made in (clean, after)]
        plain = [re.sub(r'"(asked|at|delivery)": ("[^"]*"|\d+)', "", text) for text in told]
        assert plain[0] == plain[1], name
    sheets = [read(api, project, made, "lists/contact-sheet.pdf").split(b"endobj") for made in (clean, after)]
    seen = [[part.split(b"obj", 1)[1] for part in parts if b"/Subtype /Image" in part] for parts in sheets]
    assert len(seen[0]) == 3
    assert seen[0] == seen[1]
    packs = []
    for made, number in ((clean, 1), (after, 2)):
        data = read(api, project, made, f"looks/looks-of-the-salt-ferry-delivery-{number}.zip")
        (tmp_path / "pack.zip").write_bytes(data)
        packs.append(read_pack(tmp_path / "pack.zip", "pack.zip", empty(tmp_path)).entries)
    assert packs[0] == packs[1]
    document = json.loads(api.client.get(f"/api/projects/{project.pk}/deliveries/2/document.json").content)
    assert [(one["scene"], one["code"], one["first"]) for one in document["shots"]] == [
        ("Quay", "pier", None), ("Quay", "gulls", 4), ("Deck", "mast", 0),
    ]  # fmt: skip
    assert document["shots"][1]["notes"][0]["words"] == "Lighter here"
    jsonschema_rs.validate(json.loads(schema_text()), document)


def test_a_delivery_is_what_its_parts_make_it_however_they_end(api, project):
    """Cancelled by their own numbers, parts left a delivery running for ever."""
    asked = api.expect(200, "POST", f"/projects/{project.pk}/deliveries", {"stills": "png"})
    parts = list(Job.objects.filter(parent=asked["job"]["id"]).values_list("pk", flat=True))
    for part in parts:
        assert api.get(f"/jobs/{asked['job']['id']}")["state"] == "waiting"
        api.expect(200, "POST", f"/jobs/{part}/cancel")
    told = api.get(f"/jobs/{asked['job']['id']}")
    assert (told["state"], told["may_restart"]) == ("cancelled", True)
    assert told["problem"].startswith("3 of 3 parts were cancelled")
    api.expect(200, "POST", f"/jobs/{told['id']}/restart")
    run_worker()
    assert api.get(f"/projects/{project.pk}/deliveries/1")["job"]["state"] == "done"


def test_what_was_cut_off_between_two_steps_is_put_right(api, project):
    """Parts that ended without their whole, and jobs that are in no queue any more; what is queued is let be."""
    asked, fresh = (api.expect(200, "POST", f"/projects/{project.pk}/deliveries", {"stills": one}) for one in ("png", "jpeg"))
    parts = Job.objects.filter(parent=asked["job"]["id"])
    parts.update(state="done")
    Job.objects.update(created=timezone.now() - timedelta(hours=1))
    # Rows of the queue may not be changed through the model: it is procrastinate's own.
    with connection.cursor() as cursor:
        cursor.execute(
            "DELETE FROM procrastinate_jobs WHERE (args->>'job')::int = ANY(%s)", [[*parts.values_list("pk", flat=True)]]
        )
    assert jobs.put_right() == 1
    assert jobs.put_right() == 0, "it is in the queue now"
    parts.update(state="failed", problem="It was too large")
    with connection.cursor() as cursor:
        cursor.execute("DELETE FROM procrastinate_jobs WHERE (args->>'job')::int = %s", [asked["job"]["id"]])
    assert jobs.put_right() == 1
    assert "It was too large" in api.get(f"/jobs/{asked['job']['id']}")["problem"]
    assert api.get(f"/jobs/{fresh['job']['id']}")["state"] == "waiting"
