"""Keeping order: views, the tree of categories, duplicates made one, the bin, what ends soon, what was taken, frames only looked at."""

from __future__ import annotations

from datetime import timedelta

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.utils import timezone

from saucer.core.files.format import PLAIN
from saucer.core.files.registry import formats
from saucer.core.look.model import look_from
from saucer.studio.boards import rules as boards
from saucer.studio.catalogue import rules
from saucer.studio.catalogue.models import Category, Entry, Kind
from saucer.studio.catalogue.order import many, tree
from saucer.studio.looks import rules as looks
from saucer.studio.luts import rules as luts
from saucer.studio.packing.rules import PackChoice, choose
from saucer.studio.people.models import Activity
from saucer.studio.pictures.models import Picture
from saucer.studio.presets import rules as presets
from saucer.studio.site.sweeping import sweep
from tests.make import a_lut, a_picture
from tests.studio.conftest import api_for, person, propose_all

pytestmark = pytest.mark.django_db


def look(owner, name: str, warm: int = 20, **fields) -> int:
    return looks.create(owner, look_from({"name": name, "steps": [{"kind": "white-balance", "warm": warm}]}), **fields).pk


def paths() -> set[str]:
    return set(Category.objects.values_list("path", flat=True))


# Views


def test_a_view_is_ones_own_until_it_is_the_teams(api, viewer, curator):
    kept = api.expect(200, "POST", "/views", {"name": "Nights", "address": "?tag=night&order=warmer"})
    assert (kept["address"], kept["shared"]) == ("tag=night&order=warmer", False)
    viewers = api_for(viewer)
    assert viewers.get("/views") == []
    again = api.expect(200, "POST", "/views", {"name": "nights", "address": "tag=night", "shared": True})
    assert again["id"] == kept["id"]
    (seen,) = viewers.get("/views")
    assert (seen["name"], seen["by"], seen["may_change"]) == ("nights", "Designer", False)
    assert viewers.call("DELETE", f"/views/{kept['id']}").status_code == 404
    assert viewers.call("POST", "/views", {"name": "Mine", "address": "", "shared": True}).status_code == 403
    assert viewers.expect(200, "POST", "/views", {"name": "Mine", "address": "kind=look"})["may_change"]
    assert api_for(curator).call("DELETE", f"/views/{kept['id']}").status_code == 204
    assert [one["name"] for one in viewers.get("/views")] == ["Mine"]


# Categories


def test_a_category_moves_with_all_that_is_below_and_is_searched_under_its_new_name(designer, curator, api):
    pk = look(designer, "Salt", category="Film/Night/Rain")
    look(designer, "Sand", category="Film/Nightfall")
    curators = api_for(curator)
    curators.call("POST", "/categories", {"path": "Archive"})
    assert curators.call("POST", "/categories/move", {"path": "Film/Night", "above": "Archive", "name": "Dark"}).status_code == 204
    assert paths() == {"Film", "Film/Nightfall", "Archive", "Archive/Dark", "Archive/Dark/Rain"}
    assert list(Category.objects.filter(path="Archive/Dark/Rain").values_list("depth", "parent__path")) == [(2, "Archive/Dark")]
    assert [one["name"] for one in api.get("/shelf/entries?q=dark")["entries"]] == ["Salt"]
    assert [one["name"] for one in api.get("/shelf/entries?category=Archive")["entries"]] == ["Salt"]
    assert Entry.objects.get(pk=pk).category_path == "Archive/Dark/Rain"


@pytest.mark.parametrize(
    ("path", "above", "name", "words"),
    [
        ("Film", "Film/Night", "Film", "cannot go into itself"),
        ("Film/Night", "", "film", "already"),
        ("Film/Day", "", "Day", "no category Film/Day"),
        ("Film/Night", "", " ", "needs a name"),
        ("Film/Night", "Nowhere", "Night", "no category Nowhere"),
    ],
)
def test_a_move_that_makes_no_sense_says_why_and_moves_nothing(designer, curator, path, above, name, words):
    look(designer, "Salt", category="Film/Night")
    before = paths()
    answer = api_for(curator).call("POST", "/categories/move", {"path": path, "above": above, "name": name})
    assert answer.status_code in (404, 422)
    assert words in answer.json()["detail"]
    assert paths() == before


def test_only_an_empty_category_is_taken_away_and_what_is_in_the_bin_comes_back_one_higher(designer, curator):
    pk = look(designer, "Salt", category="Film/Night")
    curators = api_for(curator)
    assert "1 entry is in Night" in curators.expect(422, "POST", "/categories/remove", {"path": "Film/Night"})["detail"]
    assert "categories below" in curators.expect(422, "POST", "/categories/remove", {"path": "Film"})["detail"]
    rules.delete(designer, Kind.LOOK, pk)
    assert curators.call("POST", "/categories/remove", {"path": "Film/Night"}).status_code == 204
    assert rules.restore(designer, Kind.LOOK, pk).category_path == "Film"


def test_a_path_never_grows_longer_than_its_column(curator):
    tree.make(curator, "/".join(["x" * 80, "y" * 80]))
    tree.make(curator, "z" * 80)
    answer = api_for(curator).expect(422, "POST", "/categories/move", {"path": "x" * 80, "above": "z" * 80, "name": "x" * 80})
    assert "longer than 200" in answer["detail"]


# Duplicates


@pytest.fixture
def copies(designer) -> tuple[int, int, int]:
    """A LUT, one that does the same, one that does not."""
    ids = []
    for seed, name in ((1, "Salt"), (1, "Salt copy"), (7, "Tide")):
        lut = a_lut(9 if name != "Salt copy" else 17, seed)
        ids.append(luts.bring_in(designer, formats()["cube"].write(lut, PLAIN), f"{name}.cube").pk)
    return ids[0], ids[1], ids[2]


def test_what_does_the_same_is_found_by_what_it_does_and_not_by_name(designer, curator):
    first, second, _ = look(designer, "Hearth", 20), look(designer, "Something else", 20), look(designer, "Hearth", 60)
    (found,) = api_for(curator).get("/duplicates?within=0.3")
    assert found == {"entries": [first, second], "apart": 0}
    assert api_for(curator).call("POST", "/duplicates/apart", {"entries": [first, second]}).status_code == 204
    assert api_for(curator).get("/duplicates?within=0.3") == []
    assert Activity.objects.filter(action="keep apart").count() == 1


def test_only_things_of_one_kind_that_do_the_same_besides_colour_are_duplicates(designer, curator):
    grain, more = {"kind": "grain", "amount": 0.2}, {"kind": "grain", "amount": 0.4}
    soft = {"kind": "soft-focus", "amount": 0.3}
    presets.keep(designer, "Grain", look_from({"steps": [grain]}).steps)
    presets.keep(designer, "More grain", look_from({"steps": [more]}).steps)
    presets.keep(designer, "Soft", look_from({"steps": [soft]}).steps)
    same = [looks.create(designer, look_from({"name": name, "steps": [grain]})).pk for name in ("Grainy", "Grainy too")]
    looks.create(designer, look_from({"name": "Grainy at half", "strength": 0.5, "steps": [grain]}))
    # Off, at no strength, or in an empty group, a step does nothing.
    looks.create(designer, look_from({"name": "Nothing", "steps": [grain | {"enabled": False}]}))
    looks.create(designer, look_from({"name": "Nothing too", "steps": [{"kind": "group", "steps": [grain | {"strength": 0}]}]}))
    found = {tuple(one["entries"]) for one in api_for(curator).get("/duplicates?within=0.3")}
    nothing = tuple(Entry.objects.filter(name__startswith="Nothing").order_by("pk").values_list("pk", flat=True))
    assert found == {tuple(same), nothing}


@pytest.mark.parametrize("within", ["nan", "-1", "99", "inf"])
def test_a_distance_that_is_none_is_refused_in_words(curator, within):
    assert f'got "{within}"' in api_for(curator).expect(422, "GET", f"/duplicates?within={within}")["detail"]


def test_two_become_one_and_what_used_the_other_goes_on(designer, curator, viewer, picture, copies):
    kept, other, _ = copies
    propose_all()
    sha256 = luts.first_file(luts.lut_of(other)).blob_id
    many.change_one(designer, Kind.LUT, other, {"may_pass_on": "yes"}, {}, ["night"], [])
    rules.mark_favourite(viewer, Kind.LUT, other, True)
    board = boards.keep(designer, "Evenings", [other], [picture.pk])
    step = {"kind": "lut", "sha256": sha256}
    user = looks.create(designer, look_from({"name": "User", "steps": [step]}))
    looks.save_version(designer, user.pk)
    answer = api_for(curator).call("POST", "/duplicates/merge", {"keep": kept, "others": [other]})
    assert answer.status_code == 204, answer.content
    entry = Entry.objects.get(pk=kept)
    assert [tag.name for tag in entry.tags.all()] == ["night"]
    assert entry.favourite_of.filter(pk=viewer.pk).exists()
    assert boards.order_of(board, designer) == [kept]
    assert "made one with Salt" in api_for(designer).expect(404, "GET", f"/catalogue/lut/{other}")["detail"]
    # The look finds its LUT, knows its encodings, and may be packed as far as the kept one may.
    assert luts.is_on_shelf(designer, sha256)
    assert luts.declared(sha256) is not None
    looks.look_shown(user.pk)
    many.change_one(designer, Kind.LOOK, user.pk, {"may_pass_on": "yes"}, {}, [], [])
    leaving, (held,) = choose(designer, PackChoice(entries=[user.pk]))
    assert leaving == []
    assert held.why.startswith('it holds the LUT "Salt"')
    sweep(now=timezone.now() + timedelta(days=40))
    assert luts.at_hand(sha256).size == 17, "a look uses it, so it stays"


def test_what_was_made_one_comes_back_as_it_was(designer, curator, copies):
    kept, other, _ = copies
    curators = api_for(curator)
    curators.call("POST", "/duplicates/merge", {"keep": kept, "others": [other]})
    (binned,) = api_for(designer).get("/bin")
    assert (binned["id"], binned["by"], binned["into"]) == (other, "Curator", "Salt")
    assert curators.call("POST", f"/catalogue/lut/{other}/restore").status_code == 200
    assert Entry.objects.get(pk=other).merged_into is None
    assert api_for(designer).get("/bin") == []


@pytest.mark.parametrize("wrong", ["itself", "gone"])
def test_what_cannot_be_made_one_stays_two(designer, curator, copies, wrong):
    kept, other, _ = copies
    others = {"itself": [kept], "gone": [other, 98765]}[wrong]
    answer = api_for(curator).call("POST", "/duplicates/merge", {"keep": kept, "others": others})
    assert answer.status_code in (404, 422)
    assert Entry.objects.filter(deleted=None, kind=Kind.LUT).count() == 3


# The bin, rights, activity


def test_the_bin_shows_everybody_their_own_and_curators_all(api, designer, curator):
    mine, others = look(designer, "Mine"), look(person("designer", "other"), "Others")
    rules.delete(designer, Kind.LOOK, mine)
    rules.delete(curator, Kind.LOOK, others)
    assert [(one["name"], one["by"]) for one in api.get("/bin")] == [("Mine", "Designer")]
    assert [(one["name"], one["by"]) for one in api_for(curator).get("/bin")] == [("Others", "Curator"), ("Mine", "Designer")]


def test_what_may_not_be_passed_on_for_much_longer_is_found(api, designer):
    day = timezone.localdate()
    for name, days, may in (
        ("Soon", 12, "yes"),
        ("Past", -3, "yes"),
        ("Later", 200, "yes"),
        ("Never", 12, "no"),
        ("Always", None, "yes"),
    ):
        until = None if days is None else day + timedelta(days=days)
        many.change_one(designer, Kind.LOOK, look(designer, name), {"may_pass_on": may, "pass_on_until": until}, {}, [], [])
    found = api.get("/shelf/entries?ending=true&order=name")
    assert [one["name"] for one in found["entries"]] == ["Past", "Soon"]
    assert api.get("/shelf/counts")["facets"]["ending"] == {"soon": 2}
    assert api.get("/shelf/counts?ending=true")["total"] == 2


def test_who_took_what_is_told_with_the_rights_it_had(api, designer, copies):
    file = luts.first_file(luts.lut_of(copies[0]))
    answer = api.call("GET", f"/lut-files/{file.pk}")
    assert b"".join(answer.streaming_content).startswith(b"LUT_3D_SIZE 9")
    (told, *_) = api.get(f"/catalogue/lut/{copies[0]}/activity")
    assert (told["by"], told["action"], told["data"]["sha256"]) == ("Designer", "download", file.blob_id)
    assert told["data"]["may_pass_on"] == "unknown"


def test_the_stamp_changes_with_every_change_and_not_with_downloads(api, designer, copies):
    first = api.call("GET", "/stamp")
    again = api.client.get("/api/stamp", headers={"If-None-Match": first["ETag"]})
    assert again.status_code == 304
    luts.take_file(designer, luts.first_file(luts.lut_of(copies[0])).pk)
    assert api.client.get("/api/stamp", headers={"If-None-Match": first["ETag"]}).status_code == 304
    look(designer, "Salt")
    assert api.client.get("/api/stamp", headers={"If-None-Match": first["ETag"]}).status_code == 200


# Frames that are only looked at


def send(api, tmp_path, name: str = "frame.png") -> dict:
    data = a_picture(tmp_path / name).read_bytes()
    token = api.client.cookies["csrftoken"].value if "csrftoken" in api.client.cookies else ""
    if not token:
        api.client.get("/api/session")
        token = api.client.cookies["csrftoken"].value
    answer = api.client.post("/api/pictures/frames", {"file": SimpleUploadedFile(name, data)}, headers={"X-CSRFToken": token})
    assert answer.status_code == 200, answer.content
    return answer.json()


def test_a_viewer_looks_at_a_frame_of_their_own_and_it_goes_with_the_session(viewer, designer, api, tmp_path):
    viewers = api_for(viewer)
    sent = send(viewers, tmp_path)
    assert sent["passing"]
    assert [one["id"] for one in viewers.get("/pictures")] == [sent["id"]]
    assert api.get("/pictures") == [], "nobody else sees it"
    assert viewers.call("POST", f"/pictures/{sent['id']}/keep").status_code == 403
    pk = look(designer, "Salt")
    propose_all()
    assert viewers.call("GET", f"/shelf/entries/{pk}/preview.jpg?picture={sent['id']}").status_code == 200
    assert viewers.call("DELETE", "/session").status_code == 204
    assert Picture.objects.get(pk=sent["id"]).deleted is not None
    sweep()
    assert not Picture.objects.filter(pk=sent["id"]).exists()


def test_a_frame_that_is_kept_is_the_teams_and_only_the_last_few_wait(designer, viewer, api, tmp_path):
    sent = [send(api, tmp_path, f"frame{number}.png")["id"] for number in range(8)]
    assert [one["id"] for one in api.get("/pictures")] == sent[:1:-1]
    kept = api.expect(200, "POST", f"/pictures/{sent[7]}/keep")
    assert not kept["passing"]
    assert [one["id"] for one in api_for(viewer).get("/pictures")] == [sent[7]]
    api.call("DELETE", "/session")
    assert Picture.objects.filter(deleted=None).count() == 1


def test_a_frame_of_yesterday_is_not_there_any_more(designer, api, tmp_path):
    pk = send(api, tmp_path)["id"]
    Picture.objects.filter(pk=pk).update(created=timezone.now() - timedelta(days=1, minutes=1))
    assert api.get("/pictures") == []
    assert sweep().pictures == 1


def test_luts_that_looks_use_are_told_apart_from_those_that_none_does(api, designer, copies):
    used, other, _ = copies
    step = {"kind": "lut", "sha256": luts.first_file(luts.lut_of(used)).blob_id}
    user = looks.create(designer, look_from({"name": "User", "steps": [{"kind": "group", "steps": [step]}]}))
    assert [one["id"] for one in api.get("/shelf/entries?used=yes")["entries"]] == [used]
    assert {one["name"] for one in api.get("/shelf/entries?used=no")["entries"]} == {"Salt copy", "Tide"}
    assert api.get("/shelf/counts")["facets"]["used"] == {"yes": 1, "no": 2}
    assert [one["name"] for one in api.get(f"/catalogue/lut/{used}/uses")] == ["User"]
    rules.delete(designer, Kind.LOOK, user.pk)
    assert api.get("/shelf/counts")["facets"]["used"] == {"yes": 0, "no": 3}
    assert api.get(f"/catalogue/lut/{other}/uses") == []


def test_a_draft_that_is_saved_on_the_bench_moves_the_stamp_too(api, designer):
    pk = look(designer, "Salt")
    Entry.objects.filter(pk=pk).update(shown_at=timezone.now() - timedelta(minutes=1))
    before = rules.stamp()
    looks.save_draft(designer, pk, look_from({"name": "Salt", "steps": [{"kind": "white-balance", "warm": 44}]}), 1)
    assert rules.stamp() != before
