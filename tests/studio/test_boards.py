"""Boards: kept and changed by whom, seen by whom, hidden names, verdicts of several people."""

from __future__ import annotations

import pytest

from saucer.core.look.model import look_from
from saucer.studio.boards import rules as boards
from saucer.studio.catalogue import rules as catalogue
from saucer.studio.catalogue.models import Kind
from saucer.studio.looks import rules as looks
from saucer.studio.people.models import Activity
from saucer.studio.site.sweeping import sweep
from tests.studio.conftest import api_for, person, propose_all

pytestmark = pytest.mark.django_db


@pytest.fixture
def three(designer) -> list[int]:
    return [
        looks.create(designer, look_from({"name": name, "steps": [{"kind": "white-balance", "warm": warm}]})).pk
        for name, warm in (("Hearth", 20), ("Tide", -20), ("Chalk", 5))
    ]


@pytest.fixture
def board(api, three, picture) -> dict:
    return api.expect(200, "POST", "/boards", {"name": " Evenings ", "entries": three, "pictures": [picture.pk]})


def test_a_board_is_kept_listed_read_and_put_in_another_order(api, board, three, picture, viewer):
    assert (board["name"], board["revision"], [one["id"] for one in board["entries"]]) == ("Evenings", 1, three)
    path = f"/boards/{board['id']}"
    changed = api.expect(200, "PATCH", path, {"seen": 1, "entries": [three[2], three[0]]})
    assert ([one["name"] for one in changed["entries"]], changed["revision"]) == (["Chalk", "Hearth"], 2)
    (line,) = api_for(viewer).get("/boards")
    assert (line["entries"], line["pictures"]) == (0, 1), "drafts are those of who designs"
    propose_all()
    (line,) = api_for(viewer).get("/boards")
    assert (line["entries"], line["pictures"], line["may_change"]) == (2, 1, False)
    assert Activity.objects.filter(about_kind="board", about_id=board["id"]).count() == 2


def test_two_people_change_a_board_and_the_second_is_told_who_was_first(api, board, curator, three):
    path = f"/boards/{board['id']}"
    api_for(curator).expect(200, "PATCH", path, {"seen": 1, "name": "Nights"})
    refused = api.expect(409, "PATCH", path, {"seen": 1, "entries": three[:1]})
    assert (refused["detail"], refused["revision"]) == ("Curator has changed this board meanwhile.", 2)
    assert api.get(path)["name"] == "Nights"


@pytest.mark.parametrize(
    ("entries", "words"),
    [([], "at least 1"), ([1] * 7, "at most 6"), ("twice", "each of them once"), ([987654], "deleted meanwhile")],
)
def test_what_cannot_be_on_a_board_is_refused_and_nothing_is_changed(api, board, three, entries, words):
    given = [three[0], three[0]] if entries == "twice" else entries
    refused = api.call("PATCH", f"/boards/{board['id']}", {"seen": 1, "entries": given})
    assert refused.status_code in (404, 422)
    assert words in refused.json()["detail"]
    assert [one["id"] for one in api.get(f"/boards/{board['id']}")["entries"]] == three


def test_everybody_has_one_verdict_an_entry_and_all_are_seen(api, board, three, viewer, curator):
    path = f"/boards/{board['id']}"
    propose_all()
    for somebody, choice, note in ((viewer, "no", "Too warm"), (curator, "yes", ""), (viewer, "maybe", "On second sight")):
        answer = api_for(somebody).call("PUT", f"{path}/verdicts/{three[0]}", {"choice": choice, "note": note})
        assert answer.status_code == 204
    said = {one["by"]: (one["choice"], one["note"], one["mine"]) for one in api.get(path)["verdicts"]}
    assert said == {"Viewer": ("maybe", "On second sight", False), "Curator": ("yes", "", False)}
    assert api.call("PUT", f"{path}/verdicts/987", {"choice": "yes"}).status_code == 404
    assert api.call("PUT", f"{path}/verdicts/{three[0]}", {"choice": "perhaps"}).status_code == 422


def test_a_verdict_on_what_has_changed_since_says_so(api, board, three, designer):
    path = f"/boards/{board['id']}"
    api.call("PUT", f"{path}/verdicts/{three[1]}", {"choice": "yes"})
    assert [one["earlier"] for one in api.get(path)["verdicts"]] == [False]
    looks.save_draft(designer, three[1], look_from({"name": "Tide", "steps": [{"kind": "white-balance", "warm": 60}]}), 1)
    assert [one["earlier"] for one in api.get(path)["verdicts"]] == [True]


def test_hidden_names_shuffle_the_order_and_nobody_follows_the_others(api, board, three, curator):
    path = f"/boards/{board['id']}"
    orders = set()
    for number in range(12):
        changed = api.expect(200, "PATCH", path, {"seen": number + 1, "hide_names": True})
        assert changed["hides_names"]
        orders.add(tuple(one["id"] for one in changed["entries"]))
        assert [one["id"] for one in api.get(path)["entries"]] == list(list(orders)[-1]) or len(orders) > 1
    assert len(orders) > 1, "twelve shuffles of three that are all alike"
    api_for(curator).call("PUT", f"{path}/verdicts/{three[0]}", {"choice": "no"})
    assert api.get(path)["verdicts"] == []
    api.call("PUT", f"{path}/verdicts/{three[0]}", {"choice": "yes"})
    assert {one["choice"] for one in api.get(path)["verdicts"]} == {"yes", "no"}
    shown = api.expect(200, "PATCH", path, {"seen": 13, "hide_names": False})
    assert [one["id"] for one in shown["entries"]] == three


def test_deleted_entries_leave_a_board_and_come_back_with_their_verdicts(api, board, three, designer):
    path = f"/boards/{board['id']}"
    api.call("PUT", f"{path}/verdicts/{three[0]}", {"choice": "yes"})
    catalogue.delete(designer, Kind.LOOK, three[0])
    assert [one["id"] for one in api.get(path)["entries"]] == three[1:]
    assert api.call("PUT", f"{path}/verdicts/{three[0]}", {"choice": "no"}).status_code == 404
    catalogue.restore(designer, Kind.LOOK, three[0])
    assert [one["id"] for one in api.get(path)["entries"]] == three


def test_a_board_is_changed_and_deleted_by_its_owner_and_comes_back(api, board, designer):
    path, other = f"/boards/{board['id']}", api_for(person("designer", "other"))
    assert not other.get(path)["may_change"]
    assert other.call("DELETE", path).status_code == 403
    assert api.call("DELETE", path).status_code == 204
    assert api.call("GET", path).status_code == 404
    assert api.get("/boards") == []
    assert api.expect(200, "POST", f"{path}/restore")["name"] == "Evenings"
    boards.delete(designer, board["id"])
    sweep()
    assert api.expect(200, "POST", f"{path}/restore")["name"] == "Evenings", "kept for 30 days"
