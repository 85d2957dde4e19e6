"""The page that one begins at: one's own things, what waits for one, what is new; and looks in which nothing is done yet."""

from __future__ import annotations

from datetime import timedelta
from urllib.parse import urlencode

import pytest
from django.utils import timezone

from saucer.core.look.model import look_from
from saucer.studio.boards import rules as boards
from saucer.studio.catalogue import rules as catalogue
from saucer.studio.catalogue.models import Entry, Version
from saucer.studio.catalogue.review import rules as review
from saucer.studio.looks import presence
from saucer.studio.looks import rules as looks
from saucer.studio.looks.models import LookDraft
from saucer.studio.projects import rules as projects
from saucer.studio.projects.grade import grading
from saucer.studio.projects.models import MemberRole, Shot, ShotFigures
from saucer.studio.projects.story import shots
from saucer.studio.site.sweeping import sweep
from saucer.studio.start import beginning, starter
from tests.make import WARM
from tests.studio.conftest import api_for, person

pytestmark = pytest.mark.django_db
EMPTY = {"name": "Untitled look", "steps": []}


def a_look(owner, name="Salt"):
    return looks.create(owner, look_from({"name": name, "steps": [WARM]}))


def names(found):
    return [one["name"] for one in found]


def test_own_looks_are_those_one_made_or_edited_last_the_latest_first(designer, curator):
    first, second, _ = a_look(designer, "First"), a_look(designer, "Second"), a_look(curator, "Another's")
    assert names(api_for(designer).get("/start")["looks"]) == ["Second", "First"]
    looks.save_draft(designer, first.pk, look_from({"name": "First", "steps": [WARM, WARM]}), first.revision)
    assert names(api_for(designer).get("/start")["looks"]) == ["First", "Second"]
    # Who may edit everything has at hand what they worked at, whoever owns it.
    looks.save_draft(curator, second.pk, look_from({"name": "Second", "steps": []}), second.revision)
    assert names(api_for(designer).get("/start")["looks"]) == ["First"], "nothing is in it any more"
    looks.save_draft(curator, second.pk, look_from({"name": "Second", "steps": [WARM]}), second.revision + 1)
    assert names(api_for(curator).get("/start")["looks"]) == ["Second", "Another's"]


def test_what_waits_is_proposed_to_a_curator_and_comes_back_to_who_made_it(designer, curator, viewer):
    draft = a_look(designer)
    version = looks.save_version(designer, draft.pk)
    review.move(designer, "look", draft.pk, 1, "proposed", "For the ferry")
    (waits,) = api_for(curator).get("/start")["waits"]
    assert (waits["name"], waits["state"], waits["by"], waits["words"]) == (
        "Salt",
        "proposed",
        designer.shown_name,
        "For the ferry",
    )
    assert api_for(designer).get("/start")["waits"] == [], "nobody waits for what one proposed oneself"
    review.add_pin(curator, "look", draft.pk, 1, "Skin")
    review.move(curator, "look", draft.pk, 1, "sent back", "Too red")
    (waits,) = api_for(designer).get("/start")["waits"]
    assert (waits["state"], waits["by"], waits["words"], waits["remarks"]) == ("sent back", curator.shown_name, "Too red", 1)
    assert waits["card"]["id"] == draft.pk
    assert api_for(curator).get("/start")["waits"] == [] == api_for(viewer).get("/start")["waits"]
    assert Version.objects.get(pk=version.pk).state == "sent back"


def test_new_is_what_others_published_within_a_month(designer, curator, viewer):
    draft = a_look(designer)
    looks.save_version(designer, draft.pk)
    review.move(designer, "look", draft.pk, 1, "proposed", "")
    assert api_for(viewer).get("/start")["news"] == []
    review.move(curator, "look", draft.pk, 1, "published", "")
    assert names(api_for(viewer).get("/start")["news"]) == ["Salt"]
    assert api_for(designer).get("/start")["news"] == [], "one's own is no news"
    beginning.bring_in(curator, beginning.BeginWork(pictures=False, looks=True, categories=False), lambda share: None)
    assert starter.LOOKS[-1].name in names(api_for(viewer).get("/start")["news"]), "what comes with Saucer is"
    assert names(api_for(curator).get("/start")["news"]) == ["Salt"]
    entry = Entry.objects.get(pk=draft.pk)
    entry.published.reviews.update(at=timezone.now() - timedelta(days=31))
    assert "Salt" not in names(api_for(viewer).get("/start")["news"])


def test_a_board_says_what_others_said_since_one_last_did(designer, curator, picture):
    one = a_look(designer)
    board = boards.keep(designer, "Evenings", [one.pk], [picture.pk])
    boards.judge(curator, board.pk, one.pk, "yes", "")
    (shown,) = api_for(designer).get("/start")["boards"]
    assert (shown["said"], shown["entry"]["id"], shown["picture"]) == (1, one.pk, picture.pk)
    boards.judge(designer, board.pk, one.pk, "no", "")
    assert [row["said"] for row in api_for(designer).get("/start")["boards"]] == [0]
    assert [row["said"] for row in api_for(curator).get("/start")["boards"]] == [1], "who judged on it has it too"
    boards.change(designer, board.pk, 1, boards.Change(hide_names=True))
    assert [row["entry"] for row in api_for(designer).get("/start")["boards"]] == [None]


def test_a_list_of_projects_says_how_far_each_is(designer, curator, viewer, picture, django_assert_num_queries):
    project = projects.create(designer, "Ferry", code="TSF")
    made = shots.add_shots(designer, project.pk, [shots.NewShot(picture.pk, scene) for scene in ("Quay", "Quay", "Deck")])
    look = a_look(designer)
    looks.save_version(designer, look.pk)
    grading.put_look(designer, project.pk, [made[0].pk], look.pk, None, 1.0, False)
    looks.save_draft(designer, look.pk, look_from({"name": "Salt", "steps": [WARM, WARM]}), look.revision)
    looks.save_version(designer, look.pk)
    Shot.objects.filter(pk=made[1].pk).update(approved=True)
    ShotFigures.objects.create(shot=made[2], shows="", figures={"misfits": ["skin"]})
    ShotFigures.objects.create(shot=made[0], shows="", figures={"misfits": []})
    projects.change(designer, project.pk, {"members": {curator.username: MemberRole.FOLLOWS}})
    projects.create(designer, "Empty")
    empty, line = api_for(designer).get("/projects")
    assert {name: line[name] for name in ("shots", "scenes", "approved", "misfits", "newer", "mine", "last")} == {
        "shots": 3, "scenes": 2, "approved": 1, "misfits": 1, "newer": 1, "mine": "leads", "last": None,
    }  # fmt: skip
    assert [one["shot"] for one in line["strip"]] == [one.pk for one in made]
    assert line["people"] == [designer.shown_name, curator.shown_name]
    told = {one["id"]: one["shows"] for one in api_for(designer).get(f"/projects/{project.pk}")["shots"]}
    assert {one["shot"]: one["shows"] for one in line["strip"]} == told, "the same picture as on its wall, under the same name"
    assert (empty["shots"], empty["strip"], empty["worked"]) == (0, [], empty["created"])
    assert api_for(curator).get("/projects")[1]["mine"] == "follows"
    assert api_for(viewer).get("/projects")[1]["mine"] == ""
    shots.take_out(designer, project.pk, [made[2].pk])
    _, line = api_for(designer).get("/projects")
    assert (line["shots"], line["scenes"], line["misfits"]) == (2, 1, 0)


def test_a_list_of_projects_costs_the_same_however_many_there_are(designer, picture, django_assert_max_num_queries):
    for name in ("One", "Two", "Three", "Four"):
        project = projects.create(designer, name)
        shots.add_shots(designer, project.pk, [shots.NewShot(picture.pk, scene) for scene in ("A", "B")])
    api = api_for(designer)
    api.get("/session")  # a first call notes that one is there
    with django_assert_max_num_queries(15):
        assert len(api.get("/projects")) == 4


def test_projects_on_the_start_page_are_ones_own_and_there(designer, curator, viewer):
    mine, closed = projects.create(designer, "Mine"), projects.create(curator, "Closed", closed=True)
    assert (names(api_for(designer).get("/start")["projects"]), api_for(designer).get("/start")["all_projects"]) == (["Mine"], 1)
    projects.change(curator, closed.pk, {"members": {designer.username: MemberRole.GRADES}})
    assert set(names(api_for(designer).get("/start")["projects"])) == {"Mine", "Closed"}
    found = api_for(viewer).get("/start")
    assert (found["projects"], found["all_projects"]) == ([], 1)
    assert mine.owner == designer


def test_a_look_without_a_step_is_nobodys_business(designer, curator):
    draft = looks.create(designer, look_from(EMPTY))
    api = api_for(designer)
    shelf = "/shelf/entries"
    assert (api.get(shelf)["total"], api.get("/shelf/counts")["total"], api.get("/start")["looks"]) == (0, 0, [])
    assert api.get(f"/looks/{draft.pk}")["name"] == "Untitled look", "whoever has its address works on"
    looks.save_draft(designer, draft.pk, look_from({"name": "Begun", "steps": [WARM]}), draft.revision)
    assert (api.get(shelf)["total"], api.get("/shelf/counts")["total"]) == (1, 1)
    looks.save_draft(designer, draft.pk, look_from(EMPTY), draft.revision + 1)
    assert api.get(shelf)["total"] == 0
    looks.save_version(designer, draft.pk)
    assert api.get(shelf)["total"] == 1, "what has a version was meant"


def test_a_look_without_a_step_is_gone_after_a_day_where_nobody_has_it_open(designer):
    idle, held, begun, kept = (
        looks.create(designer, look_from(EMPTY | {"name": name})) for name in ("Idle", "Held", "Begun", "Kept")
    )
    looks.save_draft(designer, begun.pk, look_from({"name": "Begun", "steps": [WARM]}), begun.revision)
    looks.save_version(designer, kept.pk)
    presence.tell(designer, held.pk, "page", edited=False)
    assert sweep(now=timezone.now() + timedelta(hours=23)).entries == 0
    LookDraft.objects.update(edited=timezone.now() - timedelta(hours=25))
    assert sweep(now=timezone.now()).entries == 1
    assert set(Entry.objects.values_list("name", flat=True)) == {"Held", "Begun", "Kept"}
    assert not LookDraft.objects.filter(pk=idle.pk).exists()


def test_what_has_a_star_comes_first_where_something_is_chosen_then_ones_own(designer, curator):
    for name, owner in (("Old own", designer), ("Another's", curator), ("Starred", curator), ("New own", designer)):
        a_look(owner, name)
    starred = Entry.objects.get(name="Starred")
    catalogue.mark_favourite(designer, "look", starred.pk, True)
    mine = "/shelf/entries?order=mine"
    found = api_for(designer).get(mine)["entries"]
    assert names(found) == ["Starred", "New own", "Old own", "Another's"]
    assert [(one["favourite"], one["own"]) for one in found] == [(True, False), (False, True), (False, True), (False, False)]
    assert names(api_for(curator).get(mine)["entries"]) == ["Starred", "Another's", "New own", "Old own"], (
        "another's star is none of one's own"
    )
    assert names(api_for(designer).get(f"{mine}&q=own")["entries"]) == ["New own", "Old own"]
    catalogue.mark_favourite(designer, "look", Entry.objects.get(name="Old own").pk, True)
    assert names(api_for(designer).get(f"{mine}&q=new own")["entries"]) == ["New own"]
    first = api_for(designer).get(f"{mine}&size=3")
    rest = api_for(designer).get(f"{mine}&size=3&cursor={first['cursor']}")
    assert names(first["entries"] + rest["entries"]) == ["Starred", "Old own", "New own", "Another's"]


def test_what_was_searched_for_goes_before_what_has_a_star(designer):
    for name in ("Salt flats at noon", "Salt"):
        a_look(designer, name)
    catalogue.mark_favourite(designer, "look", Entry.objects.get(name="Salt flats at noon").pk, True)
    assert names(api_for(designer).get("/shelf/entries?order=mine&q=salt")["entries"]) == ["Salt", "Salt flats at noon"]


def test_somebody_new_finds_an_empty_start(db):
    found = api_for(person("viewer", "new")).get("/start")
    assert found == {"looks": [], "boards": [], "projects": [], "all_projects": 0, "waits": [], "news": []}


def found(who, words):
    answer = api_for(who).get(f"/search?{urlencode({'words': words})}")
    return {kind: [one["name" if "name" in one else "code"] for one in things] for kind, things in answer.items() if things}


def test_everything_is_found_by_words_of_its_name(designer, picture):
    look = a_look(designer, "Harbour evening")
    boards.keep(designer, "Evening candidates", [look.pk], [picture.pk])
    project = projects.create(designer, "Salt Harbour")
    shots.add_shots(
        designer, project.pk, [shots.NewShot(picture.pk, scene="Pier", code="HB_010"), shots.NewShot(picture.pk, scene="Pier")]
    )
    assert found(designer, "evening") == {"entries": ["Harbour evening"], "boards": ["Evening candidates"]}
    assert found(designer, "HARBOUR eve") == {"entries": ["Harbour evening"]}
    assert found(designer, "harbour") == {"entries": ["Harbour evening"], "projects": ["Salt Harbour"]}
    # Where a shot is narrows what is asked for; alone it would mean all that are there.
    assert found(designer, "salt pier hb")["shots"] == ["HB_010"]
    assert found(designer, "pier") == {}
    assert found(designer, picture.name.split()[0])["pictures"][0] == picture.name
    assert found(designer, "100%") == {}


def test_the_search_knows_nothing_of_what_is_kept_from_somebody(designer, viewer, picture):
    closed = projects.create(designer, "Closed harbour", closed=True)
    shots.add_shots(designer, closed.pk, [shots.NewShot(picture.pk, scene="Pier", code="HB_010")])
    assert set(found(designer, "hb_010")) == {"shots"}
    assert found(viewer, "hb_010") == found(viewer, "closed") == {}
    out = Shot.objects.get()
    shots.take_out(designer, closed.pk, [out.pk])
    assert found(designer, "hb_010") == {}


@pytest.mark.parametrize("words", ["", "  ", "x" * 201])
def test_a_search_without_words_or_with_too_many_is_refused(viewer, words):
    api_for(viewer).expect(422, "GET", f"/search?{urlencode({'words': words})}")


def test_what_is_found_costs_the_same_however_much_it_is(designer, picture, django_assert_max_num_queries):
    project = projects.create(designer, "Salt")
    shots.add_shots(designer, project.pk, [shots.NewShot(picture.pk, scene="Salt", code=f"salt_{n}") for n in range(20)])
    for n in range(8):
        a_look(designer, f"Salt {n}")
    asking = api_for(designer)
    asking.get("/session")  # a first call notes that one is there
    # Inside the test's transaction what entries are found by is read whole, four questions; outside it is one.
    with django_assert_max_num_queries(17):
        answer = asking.get("/search?words=salt")
    assert [len(answer[kind]) for kind in ("entries", "projects", "shots")] == [6, 1, 6]
