"""What is delivered: files at full depth out of what was applied when they were asked for, lists, packs, and the terminal's export."""

from __future__ import annotations

import hashlib
import io
import json
import re
import zipfile

import av
import numpy as np
import opentimelineio as otio
import PyOpenColorIO as ocio
import pytest
from django.core.management import CommandError, call_command

from saucer.core.clips.reading import ClipReader
from saucer.core.clips.sequences import find_sequences
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.engine.grade import Grade
from saucer.core.look.model import look_from
from saucer.core.steps.registry import Frame
from saucer.studio.catalogue import rules as catalogue
from saucer.studio.catalogue.models import Entry
from saucer.studio.common import store
from saucer.studio.common.refusals import NotPossible
from saucer.studio.looks import rules as looks
from saucer.studio.looks.models import LookDraft
from saucer.studio.luts.rules import at_hand
from saucer.studio.packing.returning import bring_back, read_pack
from saucer.studio.pictures import footage
from saucer.studio.pictures.models import Footage
from saucer.studio.projects import rules as projects
from saucer.studio.projects.deliver import naming, planning
from saucer.studio.projects.deliver import rules as delivering
from saucer.studio.projects.deliver.burning import burn_into
from saucer.studio.projects.deliver.choice import DeliveryChoice
from saucer.studio.projects.grade import grading
from saucer.studio.projects.grade.stacking import look_of
from saucer.studio.projects.models import Delivery, Shot
from saucer.studio.projects.story import notes, shots
from tests.clips import moving, psnr
from tests.clips import write as write_clip
from tests.core.clips.test_carried import shown_at
from tests.core.clips.test_sound import clip as clip_with_sound
from tests.core.clips.test_sound import heard, tone
from tests.studio.delivery import EVERYTHING, as_picture, deliver, empty, project, read

pytestmark = pytest.mark.django_db(transaction=True)
__all__ = ["project"]


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


@pytest.mark.parametrize(("kind", "suffix"), [("h264", ".mp4"), ("h265", ".mp4"), ("prores4444", ".mov"), ("ffv1", ".mkv")])
def test_clips_leave_under_the_ending_of_their_kind(api, project, kind, suffix):
    made = deliver(api, project, clips=kind)
    assert made["job"]["state"] == "done", made["job"]["problem"]
    assert [one["file_name"] for one in made["items"] if one["kind"] == "clip"] == [
        f"clips/Deck_mast{suffix}",
        f"clips/Quay_gulls{suffix}",
    ]


def test_a_smaller_copy_of_a_clip_leaves_with_its_names_in_it(api, project, tmp_path):
    made = deliver(api, project, clips="prores", lines=45, burn=True)
    (tmp_path / "gulls.mov").write_bytes(read(api, project, made, "clips/Quay_gulls.mov"))
    with ClipReader(tmp_path / "gulls.mov") as reader:
        assert (reader.info.width, reader.info.height, reader.info.count) == (80, 44, 12)


def test_a_delivery_says_before_that_alpha_cannot_go(api, project):
    Footage.objects.filter(picture__shots__code="gulls").update(facts={"alpha": True, "variable": False})
    path = f"/projects/{project.pk}/deliveries/estimate"
    told = api.expect(200, "POST", path, {"clips": "h264"})["left_out"]
    assert "gulls: its alpha, of which H.264, 8 bit, 4:2:0 holds none" in told
    assert not [one for one in api.expect(200, "POST", path, {"clips": "ffv1"})["left_out"] if "alpha" in one]


def test_what_stands_for_a_shot_in_a_timeline_is_its_clip_its_frames_or_its_still(api, project, designer):
    """With LUTs and stills of all beside them; notes are markers; the report has the hash of every list."""
    notes.add_note(designer, project.pk, Shot.objects.get(code="gulls").pk, "Too blue", 7)
    made = deliver(api, project, stills="png", sequences="png", luts="cube", timeline=True, cdl=True)
    timeline = otio.adapters.read_from_string(read(api, project, made, "lists/timeline.otio").decode(), "otio_json")
    pier, gulls, mast = (clip.media_reference for clip in timeline.find_clips())
    assert pier.target_url == "stills/Quay_pier.png"
    assert (gulls.name_prefix, gulls.target_url_for_image_number(0)) == (
        "Quay_gulls.",
        "sequences/Quay_gulls/Quay_gulls.000004.png",
    )
    assert mast.target_url_for_image_number(4) == "sequences/Deck_mast/Deck_mast.000005.png"
    (marker,) = next(clip for clip in timeline.find_clips() if clip.name == "gulls").markers
    assert (marker.name.split(": ")[1], marker.marked_range.start_time.value) == ("Too blue", 7)
    told = json.loads(read(api, project, made, "lists/report.json"))["lists"]
    assert {one["file"] for one in told} == {"lists/trims.ccc", "lists/timeline.otio", "lists/timeline.edl"}
    for one in told:
        assert hashlib.sha256(read(api, project, made, one["file"])).hexdigest() == one["sha256"]


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
    assert words.startswith("the correction as one CDL: off by 0.0")
    assert "as one CDL" in read(api, project, made, "lists/trims.ccc").decode()


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
    assert words[-16:, -120:].max() > 0.9
    assert words[-16:, 250:400].max() < 0.5, "veiled, with no word in the middle"
    assert words[:24, -150:].max() > 0.9
    assert words[60:300].std() == 0
    alone = burn_into(np.full((360, 640, 3), 0.5, np.float32), "", "10:00:00:04")
    assert alone[-16:, :300].max() < 0.5
    assert alone[-16:, -120:].max() > 0.9


def test_a_clip_runs_as_fast_as_its_source_and_the_whole_is_called_after_the_project(api, project, tmp_path):
    Footage.objects.filter(kind="clip").update(rate_top=25)
    made = deliver(api, project, clips="prores", stills="png")
    clip = next(one["file_name"] for one in made["items"] if "gulls" in one["file_name"] and one["kind"] == "clip")
    (tmp_path / "a.mov").write_bytes(read(api, project, made, clip))
    with ClipReader(tmp_path / "a.mov") as reader:
        assert reader.info.rate == 25
    assert (made["done"], made["files"]) == (len(made["items"]),) * 2
    assert made["bytes"] > len(read(api, project, made, clip))
    for code, name in (("TSF", "tsf"), ("", "the-salt-ferry")):
        projects.change(project.owner, project.pk, {"code": code})
        whole = api.client.get(f"/api/projects/{project.pk}/deliveries/{made['number']}/all.zip")
        assert f'filename="{name}-delivery-001.zip"' in whole["Content-Disposition"]
        with zipfile.ZipFile(io.BytesIO(b"".join(whole.streaming_content))) as archive:
            assert {one["file_name"] for one in made["items"]} <= set(archive.namelist())


def test_the_sound_of_a_shot_is_that_of_its_frames(api, designer, project, tmp_path):
    """24 bits of PCM, bit for bit; a shot that runs at another speed has none, and says so."""
    samples = tone(2, 2)
    source = footage.Source(clip_with_sound(tmp_path / "bell.mov", [samples]), "bell.mov")
    bell = footage.bring_in_clip(designer, source).pk
    [shot] = shots.add_shots(designer, project.pk, [shots.NewShot(bell, "Bell", first=12, last=29)])
    made = deliver(api, project, shots=[shot.pk], clips="prores")
    [item] = [one for one in made["items"] if one["kind"] == "clip"]
    (tmp_path / "a.mov").write_bytes(read(api, project, made, item["file_name"]))
    assert np.array_equal(heard(tmp_path / "a.mov"), samples[24_000:60_000])
    assert delivering.find(designer, project.pk, made["number"]).items.get(kind="clip").facts["sound"] == "1 track, coded anew"
    Footage.objects.filter(picture=bell).update(rate_top=25)
    made = deliver(api, project, shots=[shot.pk], clips="prores")
    facts = delivering.find(designer, project.pk, made["number"]).items.get(kind="clip").facts
    assert (facts["sound"], facts["left_out"]) == ("none", ["sound: the clip runs at another speed than its file"])


def test_frames_of_unequal_length_stay_so_or_become_equal_where_that_is_asked(api, designer, project, tmp_path):
    """Of a part of a clip: as far apart as they were, from its first; said beforehand where they do not stay so."""
    times = [0, 40, 100, 140, 200, 300, 333, 400]
    source = footage.Source(write_clip(tmp_path / "uneven.mkv", "ffv1", "yuv444p", len(times), times=times), "uneven.mkv")
    uneven = footage.bring_in_clip(designer, source).pk
    [shot] = shots.add_shots(designer, project.pk, [shots.NewShot(uneven, "Uneven", first=1, last=6)])
    for constant, told in (
        (False, []),
        (True, ["UNEVEN: frames of unequal length, made equally long: some stand twice, some are left out"]),
    ):
        made = deliver(api, project, shots=[shot.pk], clips="h264", constant=constant)
        [item] = [one for one in made["items"] if one["kind"] == "clip"]
        path = tmp_path / f"{constant}.mp4"
        path.write_bytes(read(api, project, made, item["file_name"]))
        shown = np.array(shown_at(path))
        if constant:
            assert np.diff(shown) == pytest.approx(np.diff(shown).mean(), abs=0.0015)
        else:
            assert shown - shown[0] == pytest.approx((np.array(times[1:7]) - 40) / 1000, abs=0.0015)
        planned = planning.plan(project, DeliveryChoice(shots=[shot.pk], clips="h264", constant=constant), 9, "Ilse")
        assert [words.upper() for words in planned.left_out] == [words.upper() for words in told]
    Footage.objects.filter(picture=uneven).update(rate_top=25, rate_bottom=1)
    made = deliver(api, project, shots=[shot.pk], clips="h264")
    facts = delivering.find(designer, project.pk, made["number"]).items.get(kind="clip").facts
    assert facts["left_out"] == ["frames of unequal length, written at one rate: the clip runs at another speed than its file"]


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


def test_a_sequence_is_made_in_parts_that_several_workers_can_take(project, monkeypatch):
    """Each frame in one part, no part longer than another but for the last; a part for each still, clip and LUT."""
    monkeypatch.setattr(planning, "FRAMES_A_PART", 5)
    planned = planning.plan(project, DeliveryChoice(stills="png", sequences="png", luts="cube"), 1, "Ilse")
    frames: dict[int, dict[int, list[int]]] = {}
    for one in planned.files:
        if one.kind == "frame":
            frames.setdefault(one.place, {}).setdefault(one.part, []).append(one.frame)
    assert [[len(part) for part in parts.values()] for parts in frames.values()] == [[5, 5, 2], [5]]
    others = [one.part for one in planned.files if one.kind != "frame"]
    assert len(set(others)) == len(others)
    assert not set(others) & {part for parts in frames.values() for part in parts}
    assert {one.part for one in planned.files} == set(range(planned.parts))


def test_a_look_that_is_switched_off_gives_its_name_to_nothing(api, project):
    shot = Shot.objects.get(code="pier")
    layer = shot.layers.get(role="look")

    def named() -> list[str]:
        made = deliver(api, project, stills="png", shots=[shot.pk], template="{shot} {look} {version}")
        return [one["file_name"] for one in made["items"] if one["kind"] == "still"]

    assert named() == ["stills/pier_Hearth_v1.png"]
    type(layer).objects.filter(pk=layer.pk).update(enabled=False)
    assert named() == ["stills/pier_ungraded_v0.png"]
