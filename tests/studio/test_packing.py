"""Packs that leave: what is in them, what its rights hold back, that it is the same as what the studio has, and that their page is whole."""

from __future__ import annotations

import errno
import hashlib
import io
import json
import subprocess
import zipfile
from datetime import timedelta
from pathlib import Path

import jsonschema_rs
import numpy as np
import pytest
from django.utils import timezone

from saucer.core.engine.evaluate import evaluate
from saucer.core.engine.plan import prepare
from saucer.core.errors import LutError
from saucer.core.files.format import PLAIN
from saucer.core.files.registry import formats, read_lut
from saucer.core.look.model import look_from, parse_look
from saucer.core.lut.apply import apply_lut
from saucer.studio.catalogue.models import Entry, Kind, VersionState
from saucer.studio.catalogue.order import many
from saucer.studio.catalogue.review import rules as review
from saucer.studio.common.models import Blob
from saucer.studio.common.refusals import NotPossible
from saucer.studio.jobs import rules as jobs
from saucer.studio.jobs.models import Job, State
from saucer.studio.looks import rules as looks
from saucer.studio.luts import rules as luts
from saucer.studio.luts.models import Lut as LutRow
from saucer.studio.packing.members import Members
from saucer.studio.packing.page import MOST_BYTES, width_for
from saucer.studio.people.models import Activity
from saucer.studio.presets import rules as presets
from tests.make import a_lut
from tests.studio.conftest import api_for
from tests.studio.work import run_worker

pytestmark = pytest.mark.django_db(transaction=True)
WARM = {"kind": "white-balance", "warm": 30}
SCHEMA = Path(__file__).parents[2] / "docs" / "pack.schema.json"


@pytest.fixture
def studio(designer):
    """A look that uses a LUT, that LUT, a preset; and two that their rights hold back."""
    cube = formats()["cube"].write(a_lut(9, title="Print"), PLAIN)
    lut = luts.bring_in(designer, cube, "print.cube", category="House/Prints", may_pass_on="yes", expects="srgb", gives="srgb")
    step = {"kind": "lut", "sha256": hashlib.sha256(cube).hexdigest(), "expects": "srgb", "gives": "srgb", "strength": 0.5}
    look = looks.create(
        designer, look_from({"name": "Ferry / dusk", "steps": [WARM, step]}), category="The Salt Ferry/Night", licence="In-house", may_pass_on="yes",
        pass_on_until=timezone.localdate() + timedelta(days=9),
    )  # fmt: skip
    looks.save_version(designer, look.pk, "First")
    many.change_one(designer, Kind.LOOK, look.pk, {}, {}, ("night",), ())
    preset = presets.keep(designer, "Warm", look_from({"steps": [WARM]}).steps, may_pass_on="yes")
    late = luts.bring_in(
        designer, cube, "late.cube", "Late", may_pass_on="yes", pass_on_until=timezone.localdate() - timedelta(days=1)
    )
    unknown = luts.bring_in(designer, cube, "unknown.cube", "Unknown")
    return {"lut": lut.pk, "look": look.pk, "preset": preset.pk, "late": late.pk, "unknown": unknown.pk, "cube": cube}


def packed(api, **choice) -> tuple[dict, zipfile.ZipFile]:
    job = api.expect(202, "POST", "/packing", choice)
    run_worker()
    job = api.get(f"/jobs/{job['id']}")
    assert job["state"] == "done", job["problem"]
    return job, zipfile.ZipFile(io.BytesIO(api.client.get(f"/api/jobs/{job['id']}/file").getvalue()))


def test_files_lie_in_folders_of_their_categories_and_do_what_the_studio_has(api, studio):
    wanted = [studio["lut"], studio["look"], studio["preset"]]
    _, pack = packed(api, entries=wanted, formats=[{"format": "cube"}, {"format": "clf"}])
    names = set(pack.namelist())
    assert {
        "House/Prints/print.cube", "House/Prints/print.clf", "The Salt Ferry/Night/ferry-dusk.look.json", "The Salt Ferry/Night/ferry-dusk.cube",
        "warm.preset.json", "warm.cube", "manifest.json", "LICENCES.txt", "READ ME.txt", "SHA256SUMS",
    } <= names  # fmt: skip
    assert pack.read("House/Prints/print.cube") == studio["cube"], "its own file leaves as it came"
    look = looks.look_of_draft(looks.draft_of(studio["look"]))
    x = np.random.default_rng(1).random((500, 3), dtype=np.float32)
    baked = read_lut(pack.read("The Salt Ferry/Night/ferry-dusk.cube"), "x")[0]
    assert np.abs(apply_lut(baked, x) - evaluate(prepare(look, luts.at_hand), x)).max() < 0.01
    assert parse_look(pack.read("The Salt Ferry/Night/ferry-dusk.look.json"), "x").content_hash == look.content_hash
    manifest = json.loads(pack.read("manifest.json"))
    (used,) = manifest["luts"].values()
    assert pack.read(used) == studio["cube"], "the LUT that the look uses comes along"


def test_the_manifest_fits_its_schema_and_says_everything(api, studio):
    _, pack = packed(api, entries=[studio["look"]], title="Night looks")
    manifest = json.loads(pack.read("manifest.json"))
    jsonschema_rs.validate(json.loads(SCHEMA.read_text()), manifest)
    (entry,) = manifest["entries"]
    assert (entry["name"], entry["category"], entry["tags"], entry["licence"]) == (
        "Ferry / dusk",
        "The Salt Ferry/Night",
        ["night"],
        "In-house",
    )
    assert entry["versions"][0]["note"] == "First"
    assert entry["versions"][0]["content"]["steps"][0]["kind"] == "white-balance"
    for file in entry["files"]:
        data = pack.read(file["path"])
        assert (len(data), hashlib.sha256(data).hexdigest()) == (file["bytes"], file["sha256"])


def test_the_sums_are_read_by_the_command_that_checks_them(api, studio, tmp_path):
    _, pack = packed(api, entries=[studio["lut"], studio["look"]])
    pack.extractall(tmp_path)
    checked = subprocess.run(["sha256sum", "-c", "SHA256SUMS"], cwd=tmp_path, capture_output=True, text=True, check=False)
    assert checked.returncode == 0, checked.stderr
    assert checked.stdout.count(": OK") == len(pack.namelist()) - 1


def test_what_rights_hold_back_stays_and_is_listed_unless_a_curator_says_why(api, studio, curator):
    ids = [studio["lut"], studio["late"], studio["unknown"]]
    plan = api.expect(200, "POST", "/packing/plan", {"entries": ids})
    yesterday = timezone.localdate() - timedelta(days=1)
    assert plan == {"count": 1, "inside": [], "left_out": [
        {"name": "Late", "why": f"may be passed on until {yesterday} only"},
        {"name": "Unknown", "why": "nobody has said that it may be passed on"},
    ]}  # fmt: skip
    job, pack = packed(api, entries=ids)
    assert len(job["left_out"]) == 2
    assert "Unknown: nobody has said" in pack.read("READ ME.txt").decode()
    assert not any("late" in name or "unknown" in name for name in pack.namelist())
    assert api.call("POST", "/packing", {"entries": ids, "reason": "for the archive"}).status_code == 403
    _, whole = packed(api_for(curator), entries=ids, reason="for the archive")
    assert {"late.cube", "unknown.cube"} <= set(whole.namelist())
    assert Activity.objects.filter(action="pack").first().data["reason"] == "for the archive"
    job = api.expect(202, "POST", "/packing", {"entries": [studio["unknown"]]})
    run_worker()
    assert "nothing to pack" in api.get(f"/jobs/{job['id']}")["problem"]


def test_hostile_names_make_no_path_out_of_the_pack(api, designer, tmp_path):
    cube = formats()["cube"].write(a_lut(5), PLAIN)
    with pytest.raises(NotPossible, match="cannot be called"):
        luts.bring_in(designer, cube, "one.cube", "up", category="../up/..", expects="srgb", gives="srgb")
    for name, category in (("../../etc/passwd", "..up.."), ("=1+1", "-rf"), ("a\u202egnp.exe", "CON/ nul "), ("x" * 120, "/".join("y" * 60 for _ in range(3))),
                           ("<script>alert(1)</script>", "</script>"), ("print", "same"), ("Print", "Same")):  # fmt: skip
        luts.bring_in(designer, cube, "one.cube", name, category=category, may_pass_on="yes", expects="srgb", gives="srgb")
    ids = list(Entry.objects.values_list("pk", flat=True))
    _, pack = packed(api, entries=ids)
    names = pack.namelist()
    assert len({name.lower() for name in names}) == len(names), "no name hides another, on any disk"
    for name in names:
        assert not name.startswith("/")
        assert ".." not in name.split("/")
        assert not {part.upper() for part in name.split("/")} & {"CON", "NUL"}, "folders that some systems cannot have"
    pack.extractall(tmp_path / "out")
    assert len([path for path in (tmp_path / "out").rglob("*") if path.is_file()]) == len(names)


def test_the_page_is_one_file_without_a_network(api, studio, picture):
    _, pack = packed(api, entries=[studio["lut"], studio["look"]], pictures=[picture.pk], title="Night </script> looks")
    page = pack.read("page.html").decode()
    assert "http://" not in page
    assert "https://" not in page
    assert page.count("</script>") == 2, "nothing in a name ends a script"
    content = json.loads(page.split('id="data">')[1].split("</script>")[0])
    assert content["title"] == "Night </script> looks"
    assert [entry["name"] for entry in content["entries"]] == ["print", "Ferry / dusk"] or len(content["entries"]) == 2
    assert all(one.startswith("data:image/jpeg;base64,") for entry in content["entries"] for one in entry["pictures"])
    assert content["entries"][0]["pictures"] != content["entries"][1]["pictures"]


def test_the_page_of_a_hundred_looks_stays_below_twenty_megabytes():
    """An upper bound: a picture of noise, the least that JPEG can do for it, is not what a studio has; a photograph is measured."""
    from PIL import Image

    from saucer.demo.catalogue import FOLDER
    from saucer.studio.packing.page import BYTES_PER_PIXEL, _inline

    for name in ("quay-dusk.png", "six-busts.png", "table-window.png"):
        codes = np.asarray(Image.open(FOLDER / name).convert("RGB").resize((960, 540)))
        for pictures in (1, 2, 3, 4):
            width = width_for(100, pictures)
            size = len(_inline(codes, width))
            assert size < width * width * 9 / 16 * BYTES_PER_PIXEL, (name, width)
            assert 101 * pictures * size < MOST_BYTES


@pytest.mark.parametrize(
    ("entries", "pictures", "width"),
    [(81, 1, 960), (82, 1, 720), (40, 2, 960), (41, 2, 720), (0, 0, 960), (145, 1, 720), (147, 1, 560), (5000, 4, 320)],
)
def test_pictures_of_the_page_are_as_wide_as_nine_tenths_of_it_allow(entries, pictures, width):
    """By hand: at 960 one takes 960 x 540 x 0.42 = 217,728 bytes, so 82 of them fit into 18,000,000; at 720 it is 146."""
    assert width_for(entries, pictures) == width


def test_a_format_that_cannot_hold_an_entry_is_named_and_stops_nothing(api, studio):
    job, pack = packed(api, entries=[studio["lut"], studio["look"]], formats=[{"format": "cube"}, {"format": "spi1d"}])
    assert any("Ferry / dusk as" in words for words in job["left_out"])
    assert "The Salt Ferry/Night/ferry-dusk.cube" in pack.namelist()


def test_a_pack_that_is_done_again_is_the_same_and_one_that_was_cancelled_leaves_nothing(api, studio, designer):
    job, _ = packed(api, entries=[studio["lut"]])
    Job.objects.filter(pk=job["id"]).update(state=State.RUNNING, result=None, finished=None)
    jobs.perform(job["id"])
    assert api.get(f"/jobs/{job['id']}")["state"] == "done"
    other = api.expect(202, "POST", "/packing", {"entries": [studio["lut"]]})
    api.expect(200, "POST", f"/jobs/{other['id']}/cancel", {})
    run_worker()
    assert api.get(f"/jobs/{other['id']}")["state"] == "cancelled"


@pytest.mark.parametrize("path", ["/packing", "/packing/back"])
def test_a_full_disk_is_told_and_nothing_is_half_done(api, studio, monkeypatch, path):
    """On the way out when the zip is kept, on the way in when a LUT of it is; once there is room the same works."""
    _, pack = packed(api, entries=[studio["lut"], studio["look"]])
    Entry.objects.filter(pk__in=[studio["look"], studio["lut"]]).update(deleted=timezone.now() if path.endswith("back") else None)
    there, kept = Entry.objects.filter(deleted=None).count(), Blob.objects.count()

    def start() -> int:
        if path.endswith("back"):
            return int(api.upload(path, "looks.zip", pack.fp.getvalue()).json()["id"])
        return int(api.expect(202, "POST", path, {"entries": [studio["lut"], studio["preset"]]})["id"])

    def full(*given, **named):
        raise OSError(errno.ENOSPC, "No space left on device")

    job = start()
    kept = Blob.objects.count()
    with monkeypatch.context() as patch:
        patch.setattr("saucer.studio.packing.work.keep_file", full)
        patch.setattr("saucer.studio.luts.rules.keep_bytes", full)
        run_worker()
    told = api.get(f"/jobs/{job}")
    assert (told["state"], told["download"]) == ("failed", "")
    assert told["problem"] == "The server's disk is full, so nothing was kept. Tell who runs it, and try again once there is room."
    assert (Entry.objects.filter(deleted=None).count(), Blob.objects.count()) == (there, kept)
    job = start()
    run_worker()
    assert api.get(f"/jobs/{job}")["state"] == "done"


def test_a_worker_that_is_killed_in_the_middle_of_a_pack_leaves_nothing_and_the_next_does_it_whole(
    api, studio, designer, monkeypatch
):
    _, pack = packed(api, entries=[studio["lut"], studio["look"], studio["preset"]])
    Entry.objects.update(deleted=timezone.now())
    job = api.upload("/packing/back", "looks.zip", pack.fp.getvalue()).json()["id"]

    class Killed(BaseException):
        """As a signal ends a worker: nothing catches it."""

    def killed(*given, **named):
        raise Killed

    with monkeypatch.context() as patch:
        patch.setattr("saucer.studio.packing.returning.presets.keep", killed)
        with pytest.raises(Killed):
            jobs.perform(job)
    assert Entry.objects.filter(deleted=None).count() == 0
    assert Job.objects.get(pk=job).state == State.RUNNING
    jobs.perform(job)
    assert Job.objects.get(pk=job).state == State.DONE
    assert Entry.objects.filter(deleted=None).count() == 3
    jobs.perform(job)
    assert Entry.objects.filter(deleted=None).count() == 3


def comparable(entry: Entry) -> dict:
    """Everything that is known of an entry but its number, its owner and when it came."""
    fields = ("kind", "name", "author", "note", "category_path", "source", "licence", "may_pass_on", "pass_on_until", "state", "expects", "gives",
              "health", "formats", "document")  # fmt: skip
    found = {name: getattr(entry, name) for name in fields}
    found |= {
        "tags": sorted(tag.name for tag in entry.tags.all()),
        "words": entry.character.words,
        "seen": bytes(entry.character.seen),
    }
    found["versions"] = [
        (one.number, one.state, one.note, one.content, one.content_hash) for one in entry.versions.order_by("number")
    ]
    found["files"] = [
        (file.format, file.size, file.blob_id)
        for lut in LutRow.objects.filter(version__entry=entry)
        for file in lut.files.order_by("position")
    ]
    return found


def test_what_went_out_comes_back_into_an_empty_studio_as_it_was(api, studio, curator, designer):
    draft = looks.draft_of(studio["look"])
    second = look_from(looks.look_of_draft(draft).model_dump(mode="json") | {"strength": 0.8})
    looks.save_draft(designer, studio["look"], second, draft.revision)
    looks.save_version(designer, studio["look"], "Second")
    for number, to in ((1, VersionState.RETIRED), (2, VersionState.PUBLISHED)):
        version = looks.list_versions(studio["look"])[-number]
        review.restore_state(version.entry, version, to)
    presets.save_version(designer, studio["preset"], look_from({"steps": [WARM | {"warm": 12}]}).steps, "Less")
    ids = [studio["lut"], studio["look"], studio["preset"]]
    before = {entry.name: comparable(entry) for entry in Entry.objects.filter(pk__in=ids)}
    _, pack = packed(api_for(curator), entries=ids)
    Entry.objects.update(deleted=timezone.now())

    curators = api_for(curator)
    job = curators.upload("/packing/back", "looks.zip", pack.fp.getvalue()).json()
    run_worker()
    job = curators.get(f"/jobs/{job['id']}")
    assert (job["state"], job["left_out"]) == ("done", []), job["problem"]
    after = {entry.name: comparable(entry) for entry in Entry.objects.filter(deleted=None)}
    for one in (before, after):
        for entry in one.values():
            # The owner is searched for too, and is whoever brought it back.
            entry["document"] = entry["document"].replace("\ndesigner\n", "\n*\n").replace("\ncurator\n", "\n*\n")
    assert after.keys() == before.keys()
    for name, entry in before.items():
        assert after[name] == entry, name
    again = curators.upload("/packing/back", "looks.zip", pack.fp.getvalue()).json()
    run_worker()
    assert len(curators.get(f"/jobs/{again['id']}")["left_out"]) == 3, "what is there already is told, and not made twice"
    assert Entry.objects.filter(deleted=None).count() == 3


def test_a_designer_brings_a_pack_back_as_drafts(api, studio, designer):
    version = looks.list_versions(studio["look"])[0]
    review.restore_state(version.entry, version, VersionState.PUBLISHED)
    _, pack = packed(api, entries=[studio["look"]])
    Entry.objects.update(deleted=timezone.now())
    api.upload("/packing/back", "looks.zip", pack.fp.getvalue())
    run_worker()
    assert Entry.objects.get(kind=Kind.LOOK, deleted=None).state == "draft"


def changed(pack: zipfile.ZipFile, **members: bytes | None) -> bytes:
    """The pack with other content for some members; None leaves one out."""
    made = io.BytesIO()
    with zipfile.ZipFile(made, "w") as other:
        for name in pack.namelist():
            content = members.get(name, pack.read(name))
            if content is not None:
                other.writestr(name, content)
    return made.getvalue()


@pytest.mark.parametrize(
    ("member", "content", "words"),
    [
        ("manifest.json", None, "holds no manifest.json, so it is no pack that Saucer made"),
        ("manifest.json", b"{", "manifest.json"),
        (
            "manifest.json",
            b'{"format": "saucer-pack", "version": 2, "made": "2026-01-01T00:00:00Z", "made_by": "x", "entries": []}',
            "version",
        ),
        ("manifest.json", b"[" * 100_000, "manifest.json"),
    ],
)
def test_what_is_no_pack_is_refused_in_words(api, studio, member, content, words):
    _, pack = packed(api, entries=[studio["lut"]])
    sent = api.upload("/packing/back", "x.zip", changed(pack, **{member: content})).json()
    run_worker()
    job = api.get(f"/jobs/{sent['id']}")
    assert job["state"] == "failed"
    assert words in job["problem"]


def test_a_pack_that_is_larger_than_may_be_sent_is_refused_before_it_is_kept(api, designer, settings):
    settings.PACK_UPLOAD_LIMIT = 2**20
    response = api.upload("/packing/back", "large.zip", b"PK" + bytes(2**20))
    assert (response.status_code, response.json()["detail"]) == (422, "large.zip: larger than 1 MB")
    assert not Job.objects.exists()
    assert not Blob.objects.exists()


def test_a_file_that_was_changed_or_lost_is_named_and_stops_no_other(api, studio):
    _, pack = packed(api, entries=[studio["lut"], studio["preset"]])
    Entry.objects.update(deleted=timezone.now())
    for content, words in ((b"LUT_3D_SIZE 2", "was changed since it was packed"), (None, "is not in the pack")):
        sent = api.upload("/packing/back", "x.zip", changed(pack, **{"House/Prints/print.cube": content})).json()
        run_worker()
        told = api.get(f"/jobs/{sent['id']}")["left_out"]
        assert any(line.startswith("Print:") and words in line for line in told)
    assert list(Entry.objects.filter(deleted=None).values_list("name", flat=True)) == ["Warm"]


def test_a_look_does_not_take_a_lut_along_that_may_not_leave(api, studio, curator):
    Entry.objects.filter(kind=Kind.LUT).update(may_pass_on="no")
    job, pack = packed(api, entries=[studio["look"], studio["preset"]])
    assert len(job["left_out"]) == 1
    assert job["left_out"][0].startswith("Ferry / dusk: it holds the LUT")
    assert not any(name.endswith("dusk.cube") or name.startswith("luts/") for name in pack.namelist())
    _, whole = packed(api_for(curator), entries=[studio["look"]], reason="for the archive")
    assert any(name.startswith("luts/") for name in whole.namelist())


def test_the_catalogue_says_until_when_a_thing_may_be_passed_on(api, studio):
    listed = api.get("/packing/manifest.json?in_state=draft&kind=look")["entries"]
    assert {one["name"]: one["pass_on_until"] for one in listed} == {"Ferry / dusk": str(timezone.localdate() + timedelta(days=9))}
    Entry.objects.filter(pk=studio["look"]).update(pass_on_until=None)
    assert [one["pass_on_until"] for one in api.get("/packing/manifest.json?in_state=draft&kind=look")["entries"]] == [""]


def test_a_pack_may_hold_four_times_what_may_be_sent_and_no_more(tmp_path, settings):
    settings.PACK_UPLOAD_LIMIT = 1000
    with zipfile.ZipFile(tmp_path / "pack.zip", "w", zipfile.ZIP_DEFLATED) as pack:
        pack.writestr("one.txt", b"x" * 1900)
        pack.writestr("two.txt", b"y" * 1900)
    (tmp_path / "in").mkdir()
    found = Members(tmp_path / "pack.zip", "pack.zip", tmp_path / "in")
    assert {name: found.size(name) for name in found} == {"one.txt": 1900, "two.txt": 1900}
    settings.PACK_UPLOAD_LIMIT = 900
    with pytest.raises(LutError):
        Members(tmp_path / "pack.zip", "pack.zip", tmp_path / "in")
