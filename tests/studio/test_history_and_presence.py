"""Versions in words, branches, and who else is here."""

from __future__ import annotations

from datetime import timedelta

import pytest
from django.utils import timezone

from saucer.studio.looks.models import Presence
from tests.make import WARM
from tests.studio.conftest import api_for, person

pytestmark = pytest.mark.django_db
LOOK = {"name": "Salt", "steps": [{"kind": "curves", "id": "c"}]}


@pytest.fixture
def look(api):
    made = api.expect(200, "POST", "/looks", LOOK)
    api.save_version(made["id"], "First")
    blue = {"kind": "curves", "id": "c", "blue": [[0, 25 / 255], [1, 1]]}
    api.expect(200, "PUT", f"/looks/{made['id']}/draft", {"look": made["draft"] | {"steps": [blue]}, "revision": 1})
    api.save_version(made["id"], "Blacks lifted")
    return made["id"]


def test_versions_are_told_in_words(api, look):
    second, first = api.get(f"/looks/{look}/history")
    assert (second["number"], second["note"], second["changes"]) == (2, "Blacks lifted", ["Curves: blue black point 0 -> 25"])
    assert (first["note"], first["changes"]) == ("First", ["Curves: added"])


def test_a_branch_begins_as_the_version_did_and_says_where_it_comes_from(api, look):
    branch = api.expect(200, "POST", f"/looks/{look}/versions/1/branch")
    assert branch["name"] == "Salt, from version 1"
    assert branch["branched_from"] == "Salt, version 1"
    assert branch["draft"]["steps"] == api.get(f"/looks/{look}/versions/1")["steps"]
    assert [(one["number"], one["note"]) for one in branch["versions"]] == [(1, "From Salt, version 1")]
    assert api.get(f"/looks/{look}")["branched_from"] == ""
    api.expect(404, "POST", f"/looks/{look}/versions/9/branch")
    assert api_for(person("viewer", "vera")).call("POST", f"/looks/{look}/versions/1/branch").status_code == 403


def test_two_looks_in_words(api):
    body = {"before": LOOK, "after": LOOK | {"steps": [{"kind": "curves", "id": "c"}, WARM | {"id": "w"}]}}
    assert api.expect(200, "POST", "/looks/differences", body) == ["Curves: added"]


def tell(api, look, page, **fields):
    return api.expect(200, "POST", f"/looks/{look}/presence", {"page": page} | fields)


def test_who_else_has_the_look_open_and_who_edits(api, look):
    other = api_for(person("designer", "ada"))
    assert tell(api, look, "one")["others"] == []
    (seen,) = tell(other, look, "two")["others"]
    assert seen == {"name": "Designer", "editing": False, "same_person": False}
    tell(api, look, "one", edited=True)
    assert tell(other, look, "two")["others"][0]["editing"]
    # Another page of one's own, a page that left, one not heard of for a while.
    assert tell(api, look, "three")["others"][0]["same_person"]
    tell(other, look, "two", leaving=True)
    tell(api, look, "three", leaving=True)
    assert tell(api, look, "one")["others"] == []
    tell(other, look, "two")
    Presence.objects.filter(page="two").update(seen=timezone.now() - timedelta(seconds=30))
    assert tell(api, look, "one")["others"] == []


def test_presence_tells_of_a_newer_draft(api, look):
    revision = tell(api, look, "one")["revision"]
    draft = api.get(f"/looks/{look}")["draft"]
    api.expect(200, "PUT", f"/looks/{look}/draft", {"look": draft | {"strength": 0.5}, "revision": revision})
    assert tell(api, look, "one")["revision"] == revision + 1
    api.expect(404, "POST", "/looks/999/presence", {"page": "one"})
