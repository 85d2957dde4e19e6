"""Baking parts in several formats, packs, charts, pairs, health and tools through the API, with a real worker."""

from __future__ import annotations

import io
import json
import zipfile
from pathlib import Path

import numpy as np
import pytest
from PIL import Image

from saucer.core.colour.own import OwnEncoding
from saucer.core.files.format import Options
from saucer.core.files.registry import formats, read_lut
from saucer.core.lut.apply import apply_lut
from saucer.core.lut.domain import grid
from saucer.core.lut.health import BLACK, WHITE
from saucer.core.lut.table import Lattice, Lut
from saucer.core.making.roundtrip.chart import new_chart
from saucer.core.making.roundtrip.standin import Editor, edit
from saucer.studio.baking.choices import BakeChoice, look_to_bake
from saucer.studio.catalogue.models import Entry, Kind
from saucer.studio.encodings import rules as encodings
from saucer.studio.jobs.models import Job
from saucer.studio.luts.models import Lut as LutRow
from saucer.studio.people.models import Person
from saucer.studio.pictures import rules as pictures
from tests.core.test_schema_and_own import LOGC3
from tests.make import CHANGED, WARM, a_look, a_lut, a_picture, evaluate, random_pixels
from tests.studio.conftest import api_for, propose_all
from tests.studio.work import run_worker

CDL = CHANGED["cdl"]
LOOK = {"name": "Salt", "steps": [CDL, {"kind": "group", "name": "Film", "steps": [WARM]}, {"kind": "grain", "amount": 0.4}]}


def a_person(role: str) -> Person:
    return Person.objects.create(username=f"another {role}", role=role)


def versioned(api, look=LOOK) -> int:
    made = api.expect(200, "POST", "/looks", look)
    api.save_version(made["id"])
    return made["id"]


def done(api, job: dict) -> dict:
    run_worker()
    job = api.get(f"/jobs/{job['id']}")
    assert job["state"] == "done", job["problem"]
    return job


def used(api, lut: int, choice: dict) -> dict:
    """The LUT that a tool made."""
    job = done(api, api.expect(202, "POST", f"/luts/{lut}/tool", {"choice": choice}))
    return api.get(f"/luts/{job['entry']}")


def bytes_of(api, path: str) -> bytes:
    response = api.client.get(f"/api{path}")
    assert response.status_code == 200
    return b"".join(response.streaming_content) if response.streaming else response.content


def send(api, path: str, **files):
    """Several files in one form."""
    headers = {"X-CSRFToken": api.client.cookies["csrftoken"].value}
    return api.client.post(f"/api{path}", files, headers=headers)


def named(data: bytes, name: str) -> io.BytesIO:
    file = io.BytesIO(data)
    file.name = name
    return file


@pytest.mark.django_db(transaction=True)
def test_several_formats_at_once_with_words_rights_and_what_was_left_out(api, picture):
    look = versioned(api)
    choice = {
        "formats": [{"format": "cube"}, {"format": "clf"}, {"format": "3dl", "depth": 10}, {"format": "tiles", "suffix": ".tif"}],
        "size": 17, "title": "Ferry", "author": "Ilse", "rights": "Team only", "note": "First light", "expects": "acescct", "gives": "rec709",
    }  # fmt: skip
    job = done(api, api.expect(202, "POST", f"/bake/looks/{look}", {"version": 1, "choice": choice}))
    (lut,) = api.get(f"/bake/looks/{look}")
    assert job["left_out"] == ["Grain (step 3)"], "counted in the look, not with the conversions round it"
    assert (lut["expects"], lut["gives"], lut["known"]) == ("acescct", "rec709", "baked")
    names = ["ferry-17.cube", "ferry-17.clf", "ferry-17.3dl", "ferry-tiles-25.tif"]
    assert [one["file_name"] for one in lut["files"]] == names
    assert "rounded to 10 bits" in lut["files"][2]["lost"]
    assert "no file of this kind has 17 nodes a side: it has 25" in lut["files"][3]["lost"]
    assert lut["files"][0]["fidelity"]["mean"] > 0
    for one, form in zip(lut["files"], ("cube", "clf", "3dl", "tiles"), strict=True):
        found, read_as = read_lut(bytes_of(api, f"/lut-files/{one['id']}"), "x")
        assert read_as.id == form
        assert form != "cube" or {"Rights: Team only", "Note: First light"} <= set(found.comments)
    packed = zipfile.ZipFile(io.BytesIO(bytes_of(api, f"/jobs/{job['id']}/file")))
    assert packed.namelist() == names, "several files come as one"
    again = done(api, api.expect(202, "POST", f"/lut-files/of/{lut['lut']}/zip"))
    assert again["file_name"] == "salt.zip"
    assert bytes_of(api, f"/jobs/{again['id']}/file") == bytes_of(api, f"/jobs/{job['id']}/file")
    done(api, api.expect(202, "POST", f"/bake/looks/{look}", {"version": 1, "choice": choice}))
    assert [one["lut"] for one in api.get(f"/bake/looks/{look}")] == [lut["lut"]], "the same bake is the one that is there"
    assert LutRow.objects.count() == 1
    viewer = api_for(a_person("viewer"))
    assert viewer.call("POST", f"/lut-files/of/{lut['lut']}/zip").status_code == 403


@pytest.mark.django_db(transaction=True)
def test_baked_as_an_entry_of_its_own_twice_it_is_one_entry(api):
    look = versioned(api)
    for _ in range(2):
        done(api, api.expect(202, "POST", f"/bake/looks/{look}", {"version": 1, "choice": {"size": 17, "own_entry": True}}))
    assert Entry.objects.filter(kind="lut").count() == 1


@pytest.mark.django_db
def test_a_bake_knows_the_encodings_of_the_team_that_it_names_and_no_others(designer):
    other = LOGC3 | {"id": "other-log", "name": "Other"}
    for one in (LOGC3, other):
        encodings.add(designer, OwnEncoding.model_validate(one))
    between = BakeChoice(expects=LOGC3["id"], gives="rec709")
    made = look_to_bake(a_look(WARM), between)
    assert (made.input, made.output, [one.id for one in made.encodings]) == (LOGC3["id"], "rec709", [LOGC3["id"]])
    assert look_to_bake(made, between).encodings == made.encodings, "what the look defines itself is not defined twice"
    assert look_to_bake(a_look(WARM), BakeChoice()).encodings == ()


@pytest.mark.django_db(transaction=True)
@pytest.mark.parametrize(
    ("part", "steps"), [({"first": 1, "last": 1}, [CDL]), ({"path": "steps[1]"}, [WARM]), ({"path": "steps[1].steps[0]"}, [WARM])]
)
def test_a_part_stands_alone(api, part, steps):
    look = versioned(api)
    job = done(api, api.expect(202, "POST", f"/bake/looks/{look}", {"version": 1, "choice": {"size": 33, "part": part}}))
    baked = read_lut(bytes_of(api, f"/jobs/{job['id']}/file"), "x")[0]
    x = random_pixels()
    assert np.abs(apply_lut(baked, x) - evaluate(a_look(*steps), x)).max() < 0.01
    assert any(words.startswith("Only ") for words in baked.comments)


@pytest.mark.django_db(transaction=True)
def test_what_cannot_be_baked_says_why_and_leaves_nothing(api):
    look = versioned(api)
    for choice, words in (
        ({"formats": [{"format": "cube"}, {"format": "spi1d"}]}, "SPI 1D: holds curves only, and this look mixes channels"),
        ({"formats": [{"format": "hologram"}]}, 'formats: there is no format "hologram"'),
        ({"formats": [{"format": "cube", "suffix": ".png"}]}, "formats: Cube LUT is written as .cube, not .png"),
        ({"part": {"first": 2, "last": 9}}, "part: the look has steps 1 to 3, got 2 to 9"),
    ):
        job = api.expect(202, "POST", f"/bake/looks/{look}", {"version": 1, "choice": choice})
        run_worker()
        told = api.get(f"/jobs/{job['id']}")
        assert (told["state"], told["problem"][: len(words)]) == ("failed", words)
    assert LutRow.objects.count() == 0
    refusal = api.expect(422, "POST", f"/bake/looks/{look}", {"version": 1, "choice": {"size": 130}})
    assert "must be at most 129, got 130" in refusal["detail"]


@pytest.mark.django_db(transaction=True)
def test_a_bake_of_129_with_progress_and_cancel(api, monkeypatch):
    from saucer.studio.jobs import rules

    look = versioned(api)
    choice = {"size": 129, "formats": [{"format": "cube"}, {"format": "icc"}]}
    seen: list[float] = []
    job = api.expect(202, "POST", f"/bake/looks/{look}", {"version": 1, "choice": choice})
    kept = Job.objects.get(pk=job["id"])
    kind = rules._KINDS["bake"]
    kind.work(kept, kind.parameters.model_validate(kept.parameters), seen.append)
    assert seen == sorted(seen)
    assert len(seen) >= 5
    assert LutRow.objects.get().size == 129
    LutRow.objects.all().delete()
    api.expect(200, "POST", f"/jobs/{job['id']}/cancel")
    rules.perform(job["id"])
    assert LutRow.objects.count() == 0


@pytest.mark.django_db
def test_formats_and_fidelity_before_baking(api, picture):
    known = {one["id"]: one for one in api.get("/bake/formats")}
    assert len(known) == len(formats())
    assert known["3dl"]["depths"] == [12, 16, 10, 8]
    assert known["hald"]["sizes"][0] == 4
    asked = {"look": LOOK, "format": {"format": "cube"}, "picture": picture.pk, "sizes": [9, 17], "tolerance": 20}
    told = api.expect(200, "POST", "/bake/fidelity", asked)
    assert [one["size"] for one in told["sizes"]] == [9, 17]
    assert told["proposed"] == 9
    assert told["left_out"] == ["Grain (step 3)"]
    assert told["sizes"][0]["colours"]["uniform"]["mean"] > told["sizes"][1]["colours"]["uniform"]["mean"]
    assert told["sizes"][0]["worst"][0]["difference"] > 0
    real = len(formats()["cube"].write(a_lut(17), Options()))
    assert 0.8 * real < told["sizes"][1]["about"] < 1.25 * real
    assert told["sizes"][0]["colours"]["picture"]["mean"] > told["sizes"][1]["colours"]["picture"]["mean"] > 0
    alone = api.expect(200, "POST", "/bake/fidelity", asked | {"picture": None})
    assert [one["colours"]["picture"] for one in alone["sizes"]] == [None, None]
    assert alone["sizes"][0]["colours"]["uniform"] == told["sizes"][0]["colours"]["uniform"]
    assert api.expect(200, "POST", "/bake/fidelity", asked | {"tolerance": 0.0001})["proposed"] is None
    wrong = api.expect(422, "POST", "/bake/fidelity", asked | {"sizes": [1]})
    assert "must be from 2 to 129" in wrong["detail"]


@pytest.mark.django_db
def test_the_baked_frame_beside_the_exact_one(api, picture):
    asked = {"look": {"name": "Salt", "steps": [CHANGED["hue-bands"]]}, "picture": picture.pk, "choice": {"size": 5}}
    exact = api.image("/bake/frame", asked).astype(int)
    baked = api.image("/bake/frame", asked | {"format": {"format": "cube"}}).astype(int)
    finer = api.image("/bake/frame", asked | {"format": {"format": "cube"}, "choice": {"size": 65}}).astype(int)
    assert np.abs(baked - exact).mean() > 3 * np.abs(finer - exact).mean()


def pack() -> bytes:
    cube, broken = formats()["cube"].write(a_lut(5, title="Harbour"), Options()), b"LUT_3D_SIZE 2\n0 0 0\n0 0,5 0\n"
    legal = Lut(
        lattice=Lattice((grid(17).reshape(17, 17, 17, 3) * (WHITE - BLACK) + BLACK).astype(np.float32)), title="S-Log3 to Rec709"
    )
    ccc = "".join(
        f'<ColorCorrection id="{name}"><SatNode><Saturation>{s}</Saturation></SatNode></ColorCorrection>'
        for name, s in (("a", 1.1), ("b", 0.9))
    )
    packed = io.BytesIO()
    with zipfile.ZipFile(packed, "w") as archive:
        archive.writestr("Films/Night/harbour.cube", cube)
        archive.writestr("Films/broken.cube", broken)
        archive.writestr("Films/legal.3dl", formats()["3dl"].write(legal, Options()))
        archive.writestr("again.cube", cube)
        archive.writestr("other.clf", formats()["clf"].write(a_lut(5, title="Harbour"), Options()))
        archive.writestr("two.ccc", f"<ColorCorrectionCollection>{ccc}</ColorCorrectionCollection>")
        archive.writestr("notes.txt", "call the lab\n")
        archive.writestr("__MACOSX/._harbour.cube", b"\0\5")
        archive.writestr("../outside.cube", cube)
    return packed.getvalue()


@pytest.mark.django_db(transaction=True)
def test_a_zip_pack_becomes_a_table_and_what_is_kept_goes_onto_the_shelf(api, tmp_path):
    first = api.upload("/luts", "old.cube", formats()["cube"].write(a_lut(9, title="Old"), Options())).json()
    response = send(
        api,
        "/packs",
        files=[named(pack(), "pack.zip"), named(formats()["cube"].write(a_lut(9, title="Old"), Options()), "copy.cube")],
    )
    job = done(api, response.json())
    rows = {row["path"]: row for row in api.get(f"/packs/{job['id']}")}
    assert rows["Films/Night/harbour.cube"]["category"] == "Films/Night"
    assert (rows["Films/Night/harbour.cube"]["name"], rows["Films/Night/harbour.cube"]["size"]) == ("Harbour", 5)
    assert rows["Films/broken.cube"]["problem"] == 'line 3: expected three numbers with a point as the decimal sign, got "0 0,5 0"'
    legal = rows["Films/legal.3dl"]
    assert (legal["expects"], legal["gives"], legal["how"]) == ("s-log3", "rec709", "asked")
    assert legal["health"] == "notice"
    assert "looks legal-range" in legal["health_words"]
    assert rows["again.cube"]["same_as"] == "the same as Films/Night/harbour.cube"
    assert rows["other.clf"]["same_as"] == "does the same as Films/Night/harbour.cube"
    assert rows["copy.cube"]["same_as"] == "on the Shelf as Old"
    assert {"two.ccc#a", "two.ccc#b"} <= set(rows)
    assert rows["notes.txt"]["problem"].startswith("not a LUT file that Saucer reads")
    assert "outside the zip" in rows["../outside.cube"]["problem"]
    assert not any("MACOSX" in path for path in rows)
    assert Entry.objects.filter(kind=Kind.LUT).count() == 1, "nothing is on the Shelf before it is kept"
    shown_on = pictures.bring_in(Person.objects.get(username="designer"), a_picture(tmp_path / "quay.png"), "quay.png", "Quay")
    seen = [
        api.call(
            "GET", f"/packs/{job['id']}/rows/{rows[name]['index']}/preview.jpg?picture={shown_on.pk}&expects={ends}&gives={ends}"
        )
        for name, ends in (("Films/Night/harbour.cube", "srgb"), ("copy.cube", "srgb"), ("copy.cube", "acescct"))
    ]
    assert [one.status_code for one in seen] == [200] * 3, seen[0].content
    assert len({one.content for one in seen}) == 3, "by the file, and by what it is taken to be for"
    broken = rows["Films/broken.cube"]["index"]
    assert api.call("GET", f"/packs/{job['id']}/rows/{broken}/preview.jpg?picture={shown_on.pk}").status_code == 404
    assert api.call("GET", f"/packs/{job['id']}/rows/0/preview.jpg?picture={shown_on.pk}&gives=zap").status_code == 422
    night, second = rows["Films/Night/harbour.cube"]["index"], rows["two.ccc#b"]["index"]
    given = {"expects": "acescct", "gives": "rec709", "category": " Night / /Late/"}
    api.expect(200, "PATCH", f"/packs/{job['id']}/rows/{night}", given)
    corrected = api.expect(200, "PATCH", f"/packs/{job['id']}/rows/{second}", {"name": "B look"})
    assert (corrected["name"], corrected["corrected"], corrected["expects"]) == ("B look", True, "srgb")
    wrong = api.expect(422, "PATCH", f"/packs/{job['id']}/rows/{second}", {"expects": "zap"})
    assert wrong["detail"].startswith(f'row {second + 1}, expects: unknown encoding "zap"')
    assert {row["name"] for row in api.get(f"/packs/{job['id']}")} >= {"B look"}, "kept while the person is away"
    wrong = api.expect(422, "POST", f"/packs/{job['id']}/keep", {"rows": [night, rows["Films/broken.cube"]["index"]]})
    assert "could not be read, so it cannot be kept" in wrong["detail"]
    assert Entry.objects.filter(kind=Kind.LUT).count() == 1, "all of them or none"
    kept = api.expect(200, "POST", f"/packs/{job['id']}/keep", {"rows": [night, second]})
    assert api.expect(200, "POST", f"/packs/{job['id']}/keep", {"rows": [night, second, night]}) == kept, "a double click"
    assert Entry.objects.filter(kind=Kind.LUT).count() == 3
    luts = [api.get(f"/luts/{one}") for one in kept]
    assert [(one["name"], one["category"], one["expects"], one["known"]) for one in luts] == [
        ("Harbour", "Night/Late", "acescct", "said"),
        ("B look", "", "srgb", "asked"),
    ]
    assert [(one["name"], one["category"]) for one in api.get("/shelf/entries?q=late")["entries"]] == [("Harbour", "Night/Late")]
    assert api.expect(200, "PATCH", f"/catalogue/lut/{kept[1]}", {"category": "Dusk/ "})["category"] == "Dusk"
    assert luts[1]["files"][0]["file_name"] == "b.cc"
    assert first["id"] not in kept


@pytest.mark.django_db(transaction=True)
def test_a_pack_of_five_hundred(api):
    """One bad file in ten; progress is told; nothing stops."""
    packed = io.BytesIO()
    with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED) as archive:
        for number in range(500):
            data = formats()["cube"].write(a_lut(5, seed=number), Options())
            archive.writestr(f"set {number // 50}/look {number:03}.cube", data if number % 10 else data[: len(data) // 2])
    job = Job.objects.get(pk=send(api, "/packs", files=[named(packed.getvalue(), "many.zip")]).json()["id"])
    from saucer.studio.jobs import rules

    told: list[float] = []
    kind = rules._KINDS["intake"]
    kind.work(job, kind.parameters.model_validate(job.parameters), told.append)
    rows = [row.found for row in job.pack.rows.all()]
    assert len(rows) == 500
    assert sum(bool(row["problem"]) for row in rows) == 50
    assert all("the file ends after" in row["problem"] or "expected three" in row["problem"] for row in rows if row["problem"])
    assert len(told) > 100
    assert told[0] < 0.05
    assert told[-1] > 0.95


@pytest.mark.django_db(transaction=True)
def test_files_of_a_folder_keep_their_paths(api):
    cube = formats()["cube"].write(a_lut(5), Options())
    response = send(api, "/packs", files=[named(cube, "a.cube")], paths=json.dumps(["Winter/Dusk/a.cube"]))
    job = done(api, response.json())
    assert api.get(f"/packs/{job['id']}")[0]["category"] == "Winter/Dusk"
    other = api_for(a_person("designer"))
    assert other.call("GET", f"/packs/{job['id']}").status_code == 404


@pytest.mark.django_db(transaction=True)
def test_health_and_a_mend_that_names_its_parent(api, picture):
    rng = np.random.default_rng(3)
    table = grid(17).reshape(17, 17, 17, 3) ** np.float32(1.2) * 0.9 + rng.normal(scale=0.006, size=(17, 17, 17, 3)) + 0.04
    lut = api.upload(
        "/luts", "rough.cube", formats()["cube"].write(Lut(lattice=Lattice(table.astype(np.float32)), title="Rough"), Options())
    ).json()
    assert lut["health"] in ("notice", "bad")
    health = api.get(f"/luts/{lut['id']}/health")
    rough = next(one for one in health["findings"] if one["id"] == "rough")
    assert (rough["repair"], rough["level"]) == ("smooth", "bad")
    assert len(health["graphs"]["ramp"]) >= 128
    assert len(health["graphs"]["edge"]) == health["graphs"]["edge_size"] ** 3
    choice = {"choice": {"tool": "smooth"}, "picture": picture.pk}
    before, after = (
        picture_of(api, f"/luts/{lut['id']}/tool/frame", choice),
        picture_of(api, f"/luts/{lut['id']}/tool/frame", {"choice": {"tool": "strength", "amount": 1}, "picture": picture.pk}),
    )
    assert before.shape == after.shape
    assert (before != after).any()
    made = used(api, lut["id"], {"tool": "smooth"})
    assert (made["made_from"]["id"], made["made_from"]["name"], made["made_by"]) == (lut["id"], "Rough", "smooth")
    assert made["name"] == "Rough, smoothed"
    assert next(one for one in api.get(f"/luts/{made['id']}/health")["findings"] if one["id"] == "rough")["level"] == "fine"
    assert api.get(f"/luts/{lut['id']}")["offspring"] == [
        {"kind": "lut", "id": made["id"], "name": "Rough, smoothed", "version": 1}
    ]


def picture_of(api, path: str, body: dict) -> np.ndarray:
    return api.image(path, body)


@pytest.mark.django_db(transaction=True)
@pytest.mark.parametrize(
    ("choice", "kind", "name"),
    [({"tool": "strength", "amount": 0.4}, "3D", "One, at 40%"), ({"tool": "resize", "size": 17}, "3D", "One, at 17"), ({"tool": "grey"}, "1D", "One, grey axis"),
     ({"tool": "domain", "low": 0, "high": 2}, "3D", "One, over 0 to 2"), ({"tool": "invert", "size": 9}, "3D", "One, inverted")],
)  # fmt: skip
def test_tools_on_one_lut(api, choice, kind, name):
    lut = api.upload(
        "/luts", "one.cube", formats()["cube"].write(a_lut(9, title="One"), Options()), expects="acescct", gives="rec709"
    ).json()
    made = used(api, lut["id"], choice)
    assert (made["holds"], made["name"]) == (kind, name)
    assert (made["expects"], made["gives"]) == (("rec709", "acescct") if choice["tool"] == "invert" else ("acescct", "rec709"))


@pytest.mark.django_db(transaction=True)
def test_two_luts_composed_and_blended(api):
    one = api.upload(
        "/luts", "one.cube", formats()["cube"].write(a_lut(9, title="One"), Options()), expects="acescct", gives="rec709"
    ).json()
    two = api.upload(
        "/luts", "two.cube", formats()["cube"].write(a_lut(9, 2, title="Two"), Options()), expects="srgb", gives="srgb"
    ).json()
    made = used(api, one["id"], {"tool": "compose", "other": two["id"]})
    assert (made["name"], made["expects"], made["gives"]) == ("One, then Two", "acescct", "srgb")
    job = api.expect(202, "POST", f"/luts/{one['id']}/tool", {"choice": {"tool": "blend", "other": two["id"]}})
    run_worker()
    assert (
        api.get(f"/jobs/{job['id']}")["problem"]
        == "Two: expects or gives another encoding; only LUTs for the same encodings can be blended"
    )
    assert api.expect(422, "POST", f"/luts/{one['id']}/tool", {"choice": {"tool": "compose"}})["detail"] == "Choose a second LUT."


@pytest.mark.django_db(transaction=True)
def test_a_chart_goes_out_comes_back_and_becomes_a_lut(api, tmp_path: Path):
    query = "kind=twin&size=9&depth=16&encoding=acescct"
    response = api.client.get(f"/api/charts/new?{query}")
    assert response["Content-Disposition"] == 'attachment; filename="twin-chart-9-16bit-acescct.png"'
    assert response.content == new_chart("twin", 9)
    (tmp_path / "c.png").write_bytes(response.content)
    edit(Editor(vignette=0.3), tmp_path / "c.png", tmp_path / "o.png")
    chart = json.dumps({"kind": "twin", "size": 9, "encoding": "acescct"})
    job = done(api, api.upload("/charts/read", "o.png", (tmp_path / "o.png").read_bytes(), chart=chart, known="true").json())
    told = api.get(f"/charts/{job['id']}")
    assert [one["id"] for one in told["found"]] == ["vignette"]
    assert not told["clean"]
    kept = api.expect(200, "POST", f"/results/{job['id']}/keep", {"which": "smooth", "name": "Read back", "licence": "Team"})
    assert (kept["expects"], kept["gives"], kept["made_by"], kept["size"]) == ("acescct", "acescct", "round trip", 9)
    assert "Vignette" in kept["note"]
    (tmp_path / "s.png").write_bytes(response.content)
    Image.open(tmp_path / "o.png").resize((300, 200)).save(tmp_path / "small.png")
    job = api.upload("/charts/read", "small.png", (tmp_path / "small.png").read_bytes(), chart=chart, known="true").json()
    run_worker()
    assert "small.png: the chart was" in api.get(f"/jobs/{job['id']}")["problem"]


@pytest.mark.django_db(transaction=True)
def test_the_trip_with_the_stand_in_editor(api):
    job = done(api, api.expect(202, "POST", "/charts/standin", {"chart": {"size": 9}, "editor": {"grain": 0.1, "jpeg": 85}}))
    told = api.get(f"/charts/{job['id']}")
    assert {one["id"] for one in told["found"]} == {"grain", "compression"}
    clean = done(api, api.expect(202, "POST", "/charts/standin", {"chart": {"size": 9}}))
    assert api.get(f"/charts/{clean['id']}")["clean"]


@pytest.mark.django_db(transaction=True)
def test_a_pair_becomes_a_lut(api, tmp_path: Path):
    pixels = (random_pixels(80, 100) * 255).astype(np.uint8)
    changed = (np.clip(evaluate(a_look(WARM), (pixels / np.float32(255)).astype(np.float32)), 0, 1) * 255 + 0.5).astype(np.uint8)
    files = []
    for name, codes in (("original.png", pixels), ("warm.png", changed)):
        Image.fromarray(codes).save(tmp_path / name)
        files.append(named((tmp_path / name).read_bytes(), name))
    job = done(api, send(api, "/pairs", original=files[0], recoloured=files[1], encoding="srgb", size=9).json())
    told = api.get(f"/pairs/{job['id']}")
    assert told["p95"] < 1
    assert told["coverage"] > 0.9
    kept = api.expect(200, "POST", f"/results/{job['id']}/keep", {"which": "fit", "name": "Warm from a pair"})
    assert (kept["made_by"], kept["size"]) == ("pair", 9)
    wrong = send(
        api,
        "/pairs",
        original=named(files[0].getvalue(), "a.png"),
        recoloured=named(new_chart("plain", 4), "b.png"),
        encoding="srgb",
        size=9,
    ).json()
    run_worker()
    assert "they must be the same picture at the same size" in api.get(f"/jobs/{wrong['id']}")["problem"]


@pytest.mark.django_db
def test_viewers_may_look_but_not_make(api):
    viewer = api_for(a_person("viewer"))
    lut = api.upload("/luts", "one.cube", formats()["cube"].write(a_lut(5), Options())).json()
    assert viewer.call("GET", f"/luts/{lut['id']}/health").status_code == 404, "nobody has proposed it"
    propose_all()
    assert viewer.call("GET", f"/luts/{lut['id']}/health").status_code == 200
    assert viewer.call("POST", f"/luts/{lut['id']}/tool", {"choice": {"tool": "grey"}}).status_code == 403
    assert viewer.call("POST", "/charts/standin", {}).status_code == 403
    assert send(viewer, "/packs", files=[named(b"x", "a.cube")]).status_code == 403
