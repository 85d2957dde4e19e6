"""Pictures that bring a profile of something that does not ship: it becomes an encoding of the team's own."""

from __future__ import annotations

import io

import numpy as np
import pytest
from PIL import Image

from saucer.core.colour.adaptation import BRADFORD, adaptation
from saucer.core.colour.conversion import convert
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.colour.primaries import BT709, rgb_to_xyz, xyz_of
from saucer.core.look.model import look_from
from saucer.core.lut.apply import to_codes
from saucer.core.pictures.io import read_picture
from saucer.core.pictures.profile import D50
from saucer.core.pictures.profile_tables import tables_of_profile
from saucer.core.pictures.scale import unheard
from saucer.core.pictures.stated import GAIN_MAP
from saucer.studio.common.refusals import NotPossible
from saucer.studio.common.store import local_file
from saucer.studio.encodings import rules as encodings
from saucer.studio.encodings.models import TeamEncoding
from saucer.studio.people.models import Activity
from saucer.studio.pictures import rules as pictures
from saucer.studio.pictures.models import Picture
from saucer.studio.preview import graded
from saucer.studio.preview.bench import region
from tests.raw import NEUTRAL, write_dng
from tests.reference.test_profile_tables import lut_tag, with_tables
from tests.reference.test_stated import MONITOR, ONE_POWER, a_profile, corners_of
from tests.studio.work import run_worker


def test_a_profile_of_a_monitor_becomes_an_encoding_of_the_teams_own(db, designer, viewer, api, tmp_path):
    """Brought twice it is one encoding; who only looks at a picture defines nothing; a picture is converted from what it is."""
    data = a_profile(ONE_POWER, corners_of(MONITOR))
    codes = np.random.default_rng(4).integers(0, 256, (24, 40, 3)).astype(np.uint8)
    for name in ("a.png", "b.png"):
        Image.fromarray(codes).save(tmp_path / name, icc_profile=data)
    assert pictures.look_into(viewer, tmp_path / "a.png", "a.png", passing=True).encoding == "srgb"
    assert not TeamEncoding.objects.exists()
    first, second = (pictures.bring_in(designer, tmp_path / name, name) for name in ("a.png", "b.png"))
    (known,) = TeamEncoding.objects.all()
    assert first.encoding == second.encoding == first.stated_encoding == known.encoding_id
    assert known.encoding_id.startswith("icc-studio-monitor-7-")
    shown = Image.open(io.BytesIO(b"".join(content_of(api.client.get(f"/api/pictures/{first.pk}/frame.png")))))
    wanted = np.clip(convert(codes / 255.0, encodings.find(known.encoding_id), ENCODINGS["srgb"]), 0, 1) * 255
    assert np.abs(np.asarray(shown) - wanted).max() <= 1
    otherwise = pictures.bring_in(designer, tmp_path / "a.png", "a.png", encoding_id="display-p3")
    assert (otherwise.encoding, otherwise.stated_encoding) == ("display-p3", "")


def test_a_picture_in_a_profile_of_tables_is_converted_once_and_says_so(db, designer, viewer, api, tmp_path):
    """The tables' own way against the picture that is shown; who says what it is in gets it as it is; looking on needs no right."""
    data = with_tables(lut_tag(True), b"Lab ")
    codes = np.random.default_rng(5).integers(20, 220, (24, 40, 3)).astype(np.uint8)
    Image.fromarray(codes).save(tmp_path / "scan.png", icc_profile=data)
    seen = pictures.look_into(designer, tmp_path / "scan.png", "scan.png")
    assert (seen.encoding, seen.file_name) == ("srgb", "scan.png"), "as frames of a sequence are taken, which nobody converts"
    kept = pictures.bring_in(designer, tmp_path / "scan.png", "scan.png")
    assert (kept.encoding, kept.stated_encoding, kept.file_name, kept.depth) == ("romm-rgb", "romm-rgb", "scan.tiff", "u16")
    assert kept.stated == "ICC profile: Scanner 3 (of tables; converted by them)"
    assert not TeamEncoding.objects.exists()
    shown = Image.open(io.BytesIO(b"".join(content_of(api.client.get(f"/api/pictures/{kept.pk}/frame.png")))))
    tables = tables_of_profile(data)
    assert tables is not None
    light = tables.xyz(codes.reshape(-1, 3) / 255) @ adaptation(BRADFORD, D50, xyz_of(BT709.white)).T
    wanted = ENCODINGS["srgb"].transfer.encode(np.clip(light @ np.linalg.inv(rgb_to_xyz(BT709)).T, 0, 1)) * 255
    assert np.abs(np.asarray(shown).reshape(-1, 3) - wanted).max() <= 1
    said = pictures.bring_in(designer, tmp_path / "scan.png", "scan.png", encoding_id="display-p3")
    assert (said.encoding, said.file_name) == ("display-p3", "scan.png")
    assert pictures.bring_in(viewer, tmp_path / "scan.png", "scan.png", passing=True).encoding == "romm-rgb"


@pytest.mark.django_db(transaction=True)
def test_a_large_picture_in_such_a_profile_is_converted_by_its_job(designer, api, tmp_path, monkeypatch):
    monkeypatch.setattr(pictures, "MOST_AT_ONCE", 100)
    Image.fromarray(np.full((24, 40, 3), 128, np.uint8)).save(
        tmp_path / "scan.png", icc_profile=with_tables(lut_tag(True), b"Lab ")
    )
    job = api.upload("/pictures", "scan.png", (tmp_path / "scan.png").read_bytes()).json()
    run_worker()
    made = Picture.objects.get(pk=api.get(f"/jobs/{job['id']}")["picture"])
    assert (made.encoding, made.file_name, made.depth) == ("romm-rgb", "scan.tiff", "u16")


def content_of(response):
    return response.streaming_content if response.streaming else [response.content]


def test_a_raw_photograph_is_the_teams_in_the_light_of_its_camera(db, designer, viewer, api, tmp_path):
    """Its encoding is defined once, whoever brings another picture of that camera; a proxy of it is shown; it leaves as it came."""
    camera = np.full((64, 96, 3), np.array(NEUTRAL) * 0.18)
    paths = [write_dng(tmp_path / name, camera) for name in ("one.dng", "two.dng")]
    assert pictures.look_into(viewer, paths[0], "one.dng", passing=True).encoding == "linear-709"
    first, second = (pictures.bring_in(designer, path, path.name) for path in paths)
    (known,) = TeamEncoding.objects.all()
    assert first.encoding == second.encoding == known.encoding_id
    assert (first.kind, first.stated.split(":")[0]) == ("raw", "raw data")
    shown = np.asarray(Image.open(io.BytesIO(b"".join(content_of(api.client.get(f"/api/pictures/{first.pk}/frame.png"))))))
    assert np.ptp(shown[20, 20, :3].astype(int)) <= 1, "grey, by the camera's white"
    assert pictures.name_file(first) == "one.dng"
    assert b"".join(content_of(api.client.get(f"/api/pictures/{first.pk}/file"))) == paths[0].read_bytes()


def test_a_raw_photograph_is_balanced_to_a_chosen_white_wherever_it_is_read(db, designer, api, tmp_path):
    """Seen small, at 1:1 and as a file: each as the core reads it with that white; and back to the camera's."""
    path = write_dng(tmp_path / "one.dng", np.full((64, 96, 3), np.array(NEUTRAL) * 0.18))
    picture = pictures.bring_in(designer, path, path.name)
    before = pictures.proxy_in(picture)
    told = api.expect(200, "PATCH", f"/pictures/{picture.pk}", {"white": 3200})
    assert (told["white"], told["encoding"]) == (3200, picture.encoding)
    wanted = read_picture(path, white=3200).pixels
    picture.refresh_from_db()
    assert np.abs(pictures.proxy_in(picture) - wanted).max() < 1e-4
    assert np.abs(before - wanted).max() > 0.02
    light, plain = ENCODINGS["linear-709"], look_from({"input": "linear-709", "output": "linear-709"})
    seen = convert(
        convert(wanted[8:12, 8:12], encodings.find(picture.encoding), light, plain.view), light, ENCODINGS["srgb"], plain.view
    )
    assert np.array_equal(region(plain, picture, 8, 8, 4, 4), to_codes(seen, np.uint8))
    work = graded.GradedWork(pictures=[picture.pk], look=plain, format="openexr")
    made = graded.make(designer, work, unheard)[0]
    with local_file(made.pk) as file:
        delivered = read_picture(file).pixels
    assert np.abs(delivered - convert(wanted, encodings.find(picture.encoding), light, plain.view)).max() < 1e-3
    assert api.expect(200, "PATCH", f"/pictures/{picture.pk}", {"white": 0})["white"] == 0
    assert [one.data.get("white") for one in Activity.objects.filter(action="change picture").order_by("pk")] == [3200, 0]
    picture.refresh_from_db()
    assert np.array_equal(pictures.proxy_in(picture), before)


def test_only_a_raw_photograph_has_a_white_to_choose_and_only_one_that_there_is(db, designer, api, tmp_path):
    Image.new("RGB", (8, 8)).save(tmp_path / "plain.png")
    plain = pictures.bring_in(designer, tmp_path / "plain.png", "plain.png")
    assert "Only a raw photograph" in api.expect(422, "PATCH", f"/pictures/{plain.pk}", {"white": 5000})["detail"]
    raw = pictures.bring_in(designer, write_dng(tmp_path / "one.dng", np.full((64, 96, 3), 0.2)), "one.dng")
    assert "from 2,000 to 25,000 kelvin" in api.expect(422, "PATCH", f"/pictures/{raw.pk}", {"white": 900})["detail"]
    assert Picture.objects.get(pk=raw.pk).white == 0


def test_a_white_that_was_chosen_while_another_was_being_read_is_not_written_over(db, designer, tmp_path):
    raw = pictures.bring_in(designer, write_dng(tmp_path / "one.dng", np.full((64, 96, 3), 0.2)), "one.dng")
    made = pictures.read_again(raw, pictures.Reading("linear-709"))
    pictures.change(designer, raw.pk, None, pictures.Reading(white=4000))
    with pytest.raises(NotPossible, match="meanwhile"):
        pictures.change(designer, raw.pk, None, pictures.Reading("linear-709"), made)
    assert Picture.objects.get(pk=raw.pk).white == 4000


@pytest.mark.django_db(transaction=True)
def test_a_large_raw_photograph_is_balanced_by_its_job(designer, api, tmp_path, monkeypatch):
    path = write_dng(tmp_path / "one.dng", np.full((64, 96, 3), np.array(NEUTRAL) * 0.18))
    raw = pictures.bring_in(designer, path, "one.dng")
    monkeypatch.setattr(pictures, "MOST_AT_ONCE", 100)
    api.expect(202, "PATCH", f"/pictures/{raw.pk}", {"white": 3200})
    run_worker()
    raw.refresh_from_db()
    assert raw.white == 3200
    assert np.abs(pictures.proxy_in(raw) - read_picture(path, white=3200).pixels).max() < 1e-4


def test_a_picture_with_a_gain_map_says_what_is_left_out(db, designer, tmp_path):
    Image.fromarray(np.zeros((24, 40, 3), np.uint8)).save(tmp_path / "plain.jpg")
    data = (tmp_path / "plain.jpg").read_bytes()
    mark = b"urn:iso:std:iso:ts:21496:-1\0"
    (tmp_path / "map.jpg").write_bytes(data[:2] + b"\xff\xe2" + (len(mark) + 2).to_bytes(2, "big") + mark + data[2:])
    made = pictures.bring_in(designer, tmp_path / "map.jpg", "map.jpg")
    assert made.stated.endswith(GAIN_MAP)
    assert made.encoding == "srgb"
