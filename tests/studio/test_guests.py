"""Links for people without an account: what they show and to whom, what comes back, and that nothing else is reached by one."""

from __future__ import annotations

import io
from datetime import timedelta

import numpy as np
import pytest
from django.test import Client
from django.utils import timezone
from PIL import Image

from saucer.core.look.model import look_from
from saucer.studio.boards import rules as boards
from saucer.studio.catalogue import sharing
from saucer.studio.catalogue.models import Entry, Notice, Pin
from saucer.studio.catalogue.order import duplicates
from saucer.studio.common.store import names_below
from saucer.studio.guests import coming, links
from saucer.studio.guests.models import Guest, GuestLink, GuestVerdict
from saucer.studio.looks import rules as looks
from saucer.studio.people.models import Activity
from saucer.studio.pictures import footage
from saucer.studio.pictures import rules as pictures
from saucer.studio.projects import rules as projects
from saucer.studio.projects.models import Shot, ShotNote
from saucer.studio.projects.story import shots
from tests.clips import write
from tests.make import a_picture
from tests.studio.access import TABLE
from tests.studio.api import Api
from tests.studio.conftest import api_for, person

pytestmark = pytest.mark.django_db


def today(days: int = 0) -> str:
    return str(timezone.localdate() + timedelta(days=days))


def a_look(designer, name: str, warm: float) -> int:
    made = looks.create(designer, look_from({"name": name, "steps": [{"kind": "white-balance", "warm": warm}]}))
    looks.save_version(designer, made.pk)
    return made.pk


@pytest.fixture
def three(designer) -> list[int]:
    return [a_look(designer, name, warm) for name, warm in (("Hearth", 20), ("Tide", -20), ("Chalk", 5))]


@pytest.fixture
def board(designer, three, picture):
    return boards.keep(designer, "Evenings", three, [picture.pk])


@pytest.fixture
def project(designer, picture):
    made = projects.create(designer, "Ferry")
    shots.add_shots(designer, made.pk, [shots.NewShot(picture.pk, "Quay", code="q1"), shots.NewShot(picture.pk, "Quay", code="q2")])
    return made


def given(api: Api, **fields) -> str:
    """The way of the API to what a new link shows."""
    made = api.expect(200, "POST", "/guests/links", {"until": today(), **fields})
    return made["address"]


def come(code: str, name: str = "Wren", password: str = "") -> Api:
    guest = api_for(None)
    guest.expect(200, "POST", code, {"name": name, "password": password})
    return guest


def pixels(api: Api, path: str) -> np.ndarray:
    response = api.call("GET", path)
    assert response.status_code == 200, response.content[:300]
    return np.asarray(Image.open(io.BytesIO(response.content)), np.float32)


def test_a_guest_sees_a_board_says_what_they_think_and_it_comes_back(api, board, three, picture, designer, curator):
    code = given(api, board=board.pk, words="Before Friday, please")
    door = api_for(None).get(code)
    assert door == {
        "studio": "", "by": "Designer", "shows": "board", "asks_password": False, "name": None, "until": today(),
    }  # fmt: skip
    guest = come(code, "  Wren   Ash ")
    page = guest.get(f"{code}/shown")
    assert (page["title"], page["words"]) == ("Evenings", "Before Friday, please")
    assert [(one["kind"], one["name"], one["shows"], one["choice"]) for one in page["things"]] == [
        ("entry", "Hearth", "1", ""), ("entry", "Tide", "1", ""), ("entry", "Chalk", "1", ""),
    ]  # fmt: skip
    assert [one["name"] for one in page["pictures"]] == ["Quay"]
    warm, cool = (pixels(guest, f"{code}/entry/{pk}/preview.jpg?picture={picture.pk}") for pk in three[:2])
    assert warm[..., 0].mean() > cool[..., 0].mean() + 5
    team = pixels(api, f"/shelf/entries/{three[0]}/preview.jpg?picture={picture.pk}")
    assert np.array_equal(team, warm), "the same picture as the team sees"

    guest.expect(204, "PUT", f"{code}/entry/{three[1]}/verdict", {"choice": "maybe"})
    guest.expect(204, "PUT", f"{code}/entry/{three[1]}/verdict", {"choice": "yes"})
    words = {"words": "Too blue here", "picture": picture.pk, "x": 0.25, "y": 0.5}
    guest.expect(200, "POST", f"{code}/entry/{three[1]}/remarks", words)
    told = api.get(f"/guests/verdicts?entry={three[1]}")
    assert [(one["by"], one["choice"], one["of"], one["page"], one["link"], one["earlier"]) for one in told] == [
        ("Wren Ash", "yes", "Tide", f"/shelf/look/{three[1]}", "Evenings", False)
    ]
    assert api.get(f"/guests/verdicts?board={board.pk}") == told
    (pin,) = api.get(f"/review/look/{three[1]}")["pins"]
    assert (pin["by"], pin["words"], pin["x"], pin["number"], pin["may_settle"]) == (
        "Wren Ash (guest)",
        "Too blue here",
        0.25,
        1,
        True,
    )
    (notice,) = Notice.objects.filter(person=designer)
    assert notice.words == "Wren Ash (guest) remarked on Tide, version 1: Too blue here."
    again = guest.get(f"{code}/shown")
    assert [one["choice"] for one in again["things"]] == ["", "yes", ""]
    assert [(one["of"], one["words"]) for one in again["remarks"]] == [(three[1], "Too blue here")]
    done = [(one["who"], one["action"]) for one in api_for(curator).get("/activity")["lines"]]
    assert done[:5] == [
        ("Wren Ash (guest)", "remark"), ("Wren Ash (guest)", "judge as guest"), ("Wren Ash (guest)", "judge as guest"),
        ("Wren Ash (guest)", "come by guest link"), ("Designer", "make guest link"),
    ]  # fmt: skip
    assert len(api_for(curator).get("/activity?words=wren%20ash")["lines"]) == 4


def test_a_verdict_tells_when_the_look_was_another(api, board, three, designer):
    code = given(api, board=board.pk)
    come(code).expect(204, "PUT", f"{code}/entry/{three[0]}/verdict", {"choice": "no"})
    draft = looks.find(designer, three[0])
    looks.save_draft(
        designer, three[0], look_from({"name": "Hearth", "steps": [{"kind": "white-balance", "warm": 9}]}), draft.revision
    )
    looks.save_version(designer, three[0])
    assert [one["earlier"] for one in api.get(f"/guests/verdicts?entry={three[0]}")] == [True]


def test_names_that_are_hidden_on_a_board_are_hidden_from_guests(api, board, designer, three, picture):
    boards.change(designer, board.pk, 1, boards.Change(hide_names=True))
    code = given(api, board=board.pk)
    page = come(code).get(f"{code}/shown")
    assert [one["name"] for one in page["things"]] == ["A", "B", "C"]
    assert {one["id"] for one in page["things"]} == set(three)


def test_where_names_are_hidden_guests_are_followed_by_nobody(api, board, designer, three, picture):
    code = given(api, board=board.pk)
    come(code).expect(204, "PUT", f"{code}/entry/{three[0]}/verdict", {"choice": "yes"})
    assert len(api.get(f"/guests/verdicts?board={board.pk}")) == 1
    boards.change(designer, board.pk, 1, boards.Change(hide_names=True))
    for path in (f"board={board.pk}", f"entry={three[0]}", ""):
        assert api.get(f"/guests/verdicts?{path}") == [], "before one's own word"
    boards.judge(designer, board.pk, three[1], "no", "")
    assert api.get(f"/guests/verdicts?board={board.pk}") == [], "that was of another entry"
    boards.judge(designer, board.pk, three[0], "no", "")
    assert [one["choice"] for one in api.get(f"/guests/verdicts?board={board.pk}")] == ["yes"]


def test_a_wall_is_seen_shot_by_shot_and_notes_come_back_to_the_shot(api, project, picture, designer):
    code = given(api, project=project.pk)
    guest = come(code)
    page = guest.get(f"{code}/shown")
    assert [(one["kind"], one["name"], one["group"]) for one in page["things"]] == [("shot", "q1", "Quay"), ("shot", "q2", "Quay")]
    shot = page["things"][0]["id"]
    team = pixels(api, f"/projects/{project.pk}/shots/{shot}/preview.jpg")
    assert np.array_equal(pixels(guest, f"{code}/shot/{shot}/preview.jpg"), team)
    guest.expect(204, "PUT", f"{code}/shot/{shot}/verdict", {"choice": "no"})
    said = guest.expect(200, "POST", f"{code}/shot/{shot}/remarks", {"words": "Darker", "x": 0.5, "y": 0.25})
    detail = api.get(f"/projects/{project.pk}/shots/{shot}")
    (note,) = detail["notes"]
    assert (note["by"], note["words"], note["x"], note["y"], note["may_remove"]) == ("Wren (guest)", "Darker", 0.5, 0.25, True)
    assert [(one["by"], one["choice"]) for one in api.get(f"/guests/verdicts?shot={shot}")] == [("Wren", "no")]
    (told,) = api.get(f"/guests/verdicts?project={project.pk}")
    assert (told["shot"], told["page"]) == (shot, f"/projects/{project.pk}/shots/{shot}")
    done = api.get(f"/projects/{project.pk}/shots/{shot}/activity")
    assert [(one["by"], one["action"]) for one in done[:2]] == [
        ("Wren (guest)", "note on shot"),
        ("Wren (guest)", "judge as guest"),
    ]
    guest.expect(204, "DELETE", f"{code}/remarks/{said['id']}")
    assert api.get(f"/projects/{project.pk}/shots/{shot}")["notes"] == []
    guest.expect(200, "POST", f"{code}/shot/{shot}/remarks", {"words": "Brighter"})
    follower = api_for(person("designer", "other"))
    (kept,) = ShotNote.objects.all()
    follower.expect(404, "DELETE", f"/projects/{project.pk}/notes/{kept.pk}")
    api.expect(204, "DELETE", f"/projects/{project.pk}/notes/{kept.pk}")


def test_a_gallery_is_what_was_chosen_at_the_versions_there_are(api, three, designer, picture, tmp_path):
    second = pictures.bring_in(designer, a_picture(tmp_path / "b.png", seed=4), "b.png", "Room")
    chosen = {"name": " For  the client ", "entries": [three[2], three[0]], "pictures": [second.pk, picture.pk]}
    code = given(api, gallery=chosen)
    page = come(code).get(f"{code}/shown")
    assert (page["title"], [one["name"] for one in page["things"]]) == ("For the client", ["Chalk", "Hearth"])
    assert [one["name"] for one in page["pictures"]] == ["Room", "Quay"]
    draft = looks.create(designer, look_from({"name": "Rough", "steps": [{"kind": "white-balance", "warm": 3}]}))
    refused = api.expect(422, "POST", "/guests/links", {"until": today(), "gallery": chosen | {"entries": [draft.pk]}})
    assert refused["detail"] == "Rough is a draft without a version. Keep a version first: guests see versions."
    assert GuestLink.objects.count() == 1, "nothing is left of a link that was refused"


def test_a_draft_without_a_version_on_a_board_is_not_shown(api, board, three, designer):
    draft = looks.create(designer, look_from({"name": "Rough", "steps": [{"kind": "white-balance", "warm": 3}]}))
    boards.change(designer, board.pk, 1, boards.Change(entries=(draft.pk, three[0])))
    code = given(api, board=board.pk)
    guest = come(code)
    assert [one["name"] for one in guest.get(f"{code}/shown")["things"]] == ["Hearth"]
    guest.expect(404, "PUT", f"{code}/entry/{draft.pk}/verdict", {"choice": "yes"})


def test_nothing_is_told_before_the_password_and_wrong_ones_are_counted(api, board, curator):
    code = given(api, board=board.pk, password="salt-and-ink")
    guest = api_for(None)
    assert guest.get(code)["asks_password"] is True
    assert guest.call("GET", f"{code}/shown").status_code == 403
    for _ in range(coming.MOST_FAILED_HERE):
        refused = guest.expect(403, "POST", code, {"name": "Wren", "password": "wrong"})
        assert refused["detail"] == "This is not the password of this link."
    assert guest.call("POST", code, {"name": "Wren", "password": "salt-and-ink"}).status_code == 429
    assert not Guest.objects.exists()
    assert Activity.objects.filter(action="fail to open guest link").count() == coming.MOST_FAILED_HERE
    Activity.objects.all().update(at=timezone.now() - coming.WITHIN)
    guest.expect(200, "POST", code, {"name": "Wren", "password": "salt-and-ink"})
    assert len(guest.get(f"{code}/shown")["things"]) == 3


def test_a_link_ends_with_its_day_its_maker_and_when_it_is_revoked(api, board, designer, curator):
    code = given(api, board=board.pk)
    guest = come(code)

    def shown() -> int:
        return guest.call("GET", f"{code}/shown").status_code

    assert shown() == 200
    GuestLink.objects.update(until=timezone.now() - timedelta(seconds=1))
    assert (shown(), api_for(None).call("GET", code).status_code) == (404, 404)
    GuestLink.objects.update(until=timezone.now() + timedelta(days=1))
    designer.is_active = False
    designer.save()
    assert shown() == 404
    designer.is_active, designer.role = True, "viewer"
    designer.save()
    assert shown() == 404, "who may not show it any more does not show it"
    designer.role = "designer"
    designer.save()
    boards.delete(designer, board.pk)
    assert shown() == 404
    boards.restore(designer, board.pk)
    assert shown() == 200
    (link,) = api_for(curator).get("/guests/links")
    assert (link["title"], link["came"], link["is_open"], link["may_revoke"]) == ("Evenings", 1, True, True)
    api_for(curator).expect(204, "DELETE", f"/guests/links/{link['id']}")
    assert shown() == 404
    (link,) = api.get(f"/guests/links?board={board.pk}")
    assert (link["is_open"], link["may_revoke"]) == (False, False)
    refused = api.expect(404, "DELETE", f"/guests/links/{link['id']}")
    assert refused["detail"] == "This link was revoked or has ended already."


def test_a_wall_is_shown_only_by_who_leads_the_project(api, project, designer):
    other = person("designer", "other")
    refused = api_for(other).expect(403, "POST", "/guests/links", {"until": today(), "project": project.pk})
    assert refused["detail"] == "You cannot show Ferry to guests: whoever leads it can."
    projects.change(designer, project.pk, {"members": {"other": "leads"}})
    code = given(api_for(other), project=project.pk)
    guest = come(code)
    assert guest.call("GET", f"{code}/shown").status_code == 200
    projects.change(designer, project.pk, {"members": {"other": "grades"}})
    assert guest.call("GET", f"{code}/shown").status_code == 404


def test_what_its_maker_does_not_see_a_link_does_not_show(api, board, three, designer, picture):
    other = person("designer", "other")
    code = given(api_for(other), board=board.pk)
    guest = come(code)
    assert len(guest.get(f"{code}/shown")["things"]) == 3
    sharing.share(designer, "look", three[0], "owner")
    assert [one["name"] for one in guest.get(f"{code}/shown")["things"]] == ["Tide", "Chalk"]
    path = f"{code}/entry/{three[0]}/preview.jpg?picture={picture.pk}"
    assert guest.call("GET", path).status_code == 404


def test_a_guest_reaches_nothing_else(api, board, project, three, designer, picture, tmp_path):
    """Every path of the API, by somebody whose browser holds nothing but what a link gave it; and the link's own, for what it does not show."""
    code = given(api, board=board.pk)
    guest = come(code)
    cookie = guest.client.cookies["saucer_guest"]
    assert (cookie["path"], cookie["httponly"], cookie["samesite"]) == (f"/api{code}", True, "Strict")
    # A test's client sends it everywhere, as no browser would.
    opened = {}
    for (method, path), who in TABLE.items():
        if who in ("everybody", "guest"):
            continue
        filled = path.removeprefix("/api").format(
            pk=three[0], kind="look", number=1, index=0, shot=1, scene=1, note=1, item=1, place=0, name="a", entry=three[0], job=1, lut=1,
            encoding_id="a", code="none", username="designer",
        )  # fmt: skip
        status = guest.call(method, filled, None if method in ("GET", "DELETE") else {}).status_code
        if status != 401:
            opened[f"{method} {path}"] = status
    assert opened == {}
    apart = a_look(designer, "Apart", 40)
    second = pictures.bring_in(designer, a_picture(tmp_path / "c.png", seed=6), "c.png")
    shot = Shot.objects.filter(scene__project=project).first().pk
    for path in (
        f"entry/{apart}/preview.jpg?picture={picture.pk}", f"entry/{three[0]}/preview.jpg?picture={second.pk}", f"shot/{shot}/preview.jpg",
    ):  # fmt: skip
        assert guest.call("GET", f"{code}/{path}").status_code == 404, path
    guest.expect(404, "POST", f"{code}/entry/{three[0]}/remarks", {"words": "Here", "picture": second.pk, "x": 0, "y": 0})
    guest.expect(404, "PUT", f"{code}/shot/{shot}/verdict", {"choice": "yes"})
    another = given(api, project=project.pk)
    assert guest.call("GET", f"{another}/shown").status_code == 403, "who came by one link has not come by another"
    assert guest.get(another)["name"] is None
    assert not Pin.objects.exists()
    assert not GuestVerdict.objects.exists()


def test_a_page_of_others_sends_nothing_in_a_guests_name(api, board, three):
    code = given(api, board=board.pk)
    guest = come(code)
    response = guest.call("PUT", f"{code}/entry/{three[0]}/verdict", {"choice": "yes"}, token=False)
    assert response.status_code == 403
    assert not GuestVerdict.objects.exists()
    assert Api(Client(enforce_csrf_checks=True)).call("POST", code, {"name": "Wren"}, token=False).status_code == 403


def test_one_guest_takes_nothing_of_another_back(api, board, three, designer):
    code = given(api, board=board.pk)
    first, second = come(code, "Wren"), come(code, "Ash")
    said = first.expect(200, "POST", f"{code}/entry/{three[0]}/remarks", {"words": "Warmer"})
    second.expect(404, "DELETE", f"{code}/remarks/{said['id']}")
    assert second.get(f"{code}/shown")["remarks"] == [], "what others say is the team's to read"
    (pin,) = Pin.objects.all()
    answer = {"words": "It will be", "answers": pin.pk}
    api.expect(200, "POST", f"/review/look/{three[0]}/1/pins", answer)
    refused = first.expect(404, "DELETE", f"{code}/remarks/{said['id']}")
    assert refused["detail"] == "This was taken back, settled or answered meanwhile."


def test_calls_guests_and_remarks_are_held_to_a_number(api, board, three, monkeypatch):
    code = given(api, board=board.pk)
    guest = come(code)
    monkeypatch.setattr("saucer.studio.guests.saying.MOST_REMARKS", 1)
    guest.expect(200, "POST", f"{code}/entry/{three[0]}/remarks", {"words": "One"})
    assert guest.call("POST", f"{code}/entry/{three[0]}/remarks", {"words": "Two"}).status_code == 429
    guest.expect(204, "PUT", f"{code}/entry/{three[0]}/verdict", {"choice": "no"})
    monkeypatch.setattr(coming, "MOST_IN_A_MINUTE", 3)
    Guest.objects.update(minute=None)
    answers = [guest.call("GET", f"{code}/shown").status_code for _ in range(8)]
    assert answers[:3] == [200] * 3
    assert 429 in answers, "of eight, four fall within one minute, wherever it begins"
    monkeypatch.setattr(coming, "MOST_FROM_ADDRESS", 1)
    assert api_for(None).call("POST", code, {"name": "Ash"}).status_code == 429


def test_a_stamp_says_who_looks_and_nothing_is_kept_of_it(api, board, three, picture):
    plain, stamped = given(api, board=board.pk), given(api, board=board.pk, stamp=True)
    path = f"entry/{three[0]}/preview.jpg?picture={picture.pk}&large=true"
    clean = pixels(come(plain), f"{plain}/{path}")
    wren, ash = come(stamped, "Wren"), come(stamped, "Ash")
    first, second = pixels(wren, f"{stamped}/{path}"), pixels(ash, f"{stamped}/{path}")
    for seen in (first, second):
        changed = (np.abs(seen - clean).max(axis=2) > 12).mean()
        assert 0.005 < changed < 0.35, "letters, and the picture between them"
    assert np.abs(first - second).max() > 12, "each their own name"
    assert np.array_equal(pixels(come(plain), f"{plain}/{path}"), clean)


def test_who_says_no_name_does_not_come_in(api, board):
    code = given(api, board=board.pk)
    refused = api_for(None).expect(422, "POST", code, {"name": "   "})
    assert refused["detail"] == "Say your name, so that they know who says what."
    assert not Guest.objects.exists()


def test_wrong_passwords_from_everywhere_and_guests_are_held_to_a_number(api, board, monkeypatch):
    code = given(api, board=board.pk, password="sixsix")
    link = GuestLink.objects.get()
    monkeypatch.setattr(coming, "MOST_FAILED", 3)
    Activity.objects.bulk_create(
        Activity(action="fail to open guest link", about_kind="guestlink", about_id=link.pk, about="", address=f"10.0.0.{last}")
        for last in range(2)
    )
    come(code, password="sixsix")
    Activity.objects.create(
        action="fail to open guest link", about_kind="guestlink", about_id=link.pk, about="", address="10.0.0.9"
    )
    assert api_for(None).call("POST", code, {"name": "Ash", "password": "sixsix"}).status_code == 429
    Activity.objects.all().delete()
    monkeypatch.setattr(coming, "MOST_GUESTS", 2)
    come(code, "Ash", "sixsix")
    refused = api_for(None).expect(429, "POST", code, {"name": "Fern", "password": "sixsix"})
    assert refused["detail"].startswith("2 people came by this link")


def test_links_tell_their_terms_and_the_last_day_counts(api, board, three):
    made = api.expect(200, "POST", "/guests/links", {"until": today(92), "board": board.pk, "password": "sixsix", "stamp": True})[
        "link"
    ]
    told = {name: made[name] for name in ("until", "has_password", "stamp", "came", "is_open", "may_revoke", "by", "shows")}
    assert told == {
        "until": today(92), "has_password": True, "stamp": True, "came": 0, "is_open": True, "may_revoke": True, "by": "Designer",
        "shows": "board",
    }  # fmt: skip
    assert api.call("POST", "/guests/links", {"until": today(93), "board": board.pk}).status_code == 422
    given(api, board=board.pk)
    newest, first = api.get(f"/guests/links?board={board.pk}")
    assert (newest["has_password"], newest["stamp"], newest["until"]) == (False, False, today())
    assert first == made
    assert api_for(person("designer", "other")).get("/guests/links") == [], "one's own, where nothing is said"


@pytest.mark.parametrize(
    ("entries", "pictures", "status", "words"),
    [
        ("twice", "one", 422, "each of them once"),
        ("gone", "one", 404, "Some of these entries were deleted meanwhile"),
        ("one", "gone", 404, "Some of these pictures were deleted meanwhile"),
        ("one", "twice", 422, "each of them once"),
    ],
)
def test_a_gallery_of_what_is_not_there_is_refused(api, three, picture, entries, pictures, status, words):
    ways = {"one": lambda pk: [pk], "twice": lambda pk: [pk, pk], "gone": lambda pk: [987654]}
    chosen = {"name": "Two", "entries": ways[entries](three[0]), "pictures": ways[pictures](picture.pk)}
    refused = api.expect(status, "POST", "/guests/links", {"until": today(), "gallery": chosen})
    assert words in refused["detail"]
    assert not GuestLink.objects.exists()


def test_as_many_entries_and_pictures_as_are_allowed_are_shown_and_no_more(api, three, picture, designer, monkeypatch, tmp_path):
    second = pictures.bring_in(designer, a_picture(tmp_path / "b.png", seed=4), "b.png", "Room")
    chosen = {"name": "Two", "entries": three[:2], "pictures": [picture.pk, second.pk]}
    monkeypatch.setattr(links, "MOST_ENTRIES", 2)
    monkeypatch.setattr(links, "MOST_PICTURES", 2)
    given(api, gallery=chosen)
    refused = api.expect(422, "POST", "/guests/links", {"until": today(), "gallery": chosen | {"entries": three}})
    assert refused["detail"] == "Show 1 to 2 entries, each of them once."
    assert api.call("POST", "/guests/links", {"until": today(), "gallery": chosen | {"name": " "}}).status_code == 422


def test_a_link_is_revoked_by_whose_it_is_who_leads_and_curators(api, project, designer):
    """A second member of the project, who grades and then leads it, and somebody who is none."""
    other = api_for(person("designer", "other"))
    given(api, project=project.pk)
    (link,) = other.get(f"/guests/links?project={project.pk}")
    assert link["may_revoke"] is False
    refused = other.expect(403, "DELETE", f"/guests/links/{link['id']}")
    assert refused["detail"] == "You cannot revoke this link: somebody else made it. A curator can."
    projects.change(designer, project.pk, {"members": {"other": "leads"}})
    (link,) = other.get(f"/guests/links?project={project.pk}")
    assert link["may_revoke"] is True
    other.expect(204, "DELETE", f"/guests/links/{link['id']}")


def test_half_a_place_is_refused_and_words_without_one_are_of_the_whole(api, board, three, picture):
    code = given(api, board=board.pk)
    guest = come(code)
    path = f"{code}/entry/{three[0]}/remarks"
    assert guest.call("POST", path, {"words": "Here", "picture": picture.pk, "x": 0.5}).status_code == 422
    assert guest.call("POST", path, {"words": "  "}).status_code == 422
    guest.expect(200, "POST", path, {"words": "Warm"})
    (pin,) = Pin.objects.all()
    assert (pin.words, pin.x, pin.picture) == ("Warm", None, None)


@pytest.mark.parametrize(
    ("fields", "words"),
    [
        ({"until": today(-1)}, "A link ends today at the earliest"),
        ({"until": today(94)}, "at the latest"),
        ({"until": today(), "password": "short"}, "6 letters at least"),
    ],
)
def test_a_link_on_terms_that_are_none_is_refused(api, board, fields, words):
    refused = api.expect(422, "POST", "/guests/links", {"board": board.pk, **fields})
    assert words in refused["detail"]
    assert not GuestLink.objects.exists()


def test_a_link_shows_one_thing_and_no_program_makes_one(api, board, project, designer):
    assert api.call("POST", "/guests/links", {"until": today(), "board": board.pk, "project": project.pk}).status_code == 422
    made = api.expect(200, "POST", "/own/tokens", {"name": "farm", "scopes": ["read", "design"], "until": today(3)})
    response = Client().post(
        "/api/guests/links",
        {"until": today(), "board": board.pk},
        "application/json",
        headers={"Authorization": f"Bearer {made['secret']}"},
    )
    assert response.status_code == 403
    assert not GuestLink.objects.exists()


def test_when_two_entries_become_one_a_gallery_shows_the_one_that_is_kept(api, three, designer, curator, picture):
    code = given(api, gallery={"name": "Two", "entries": three[:2], "pictures": [picture.pk]})
    guest = come(code)
    Entry.objects.update(proposed=True)
    duplicates.merge(curator, three[2], [three[0]])
    assert [one["name"] for one in guest.get(f"{code}/shown")["things"]] == ["Chalk", "Tide"]
    uses = api.get(f"/catalogue/look/{three[2]}/uses")
    assert ("Two", "shown to guests") in {(one["name"], one["how"]) for one in uses}


def test_showing_asks_the_database_as_often_for_many_shots_as_for_few(
    api, project, picture, designer, django_assert_max_num_queries
):
    wanted = [shots.NewShot(picture.pk, "Night", code=f"n{number}") for number in range(30)]
    shots.add_shots(designer, project.pk, wanted)
    code = given(api, project=project.pk)
    guest = come(code)
    with django_assert_max_num_queries(16):
        assert len(guest.get(f"{code}/shown")["things"]) == 32
    for one in guest.get(f"{code}/shown")["things"][:5]:
        guest.expect(204, "PUT", f"{code}/shot/{one['id']}/verdict", {"choice": "yes"})
    with django_assert_max_num_queries(12):
        assert len(api.get("/guests/verdicts")) == 5


def test_the_most_links_of_one_person(designer, board, monkeypatch):
    monkeypatch.setattr(links, "MOST_OPEN", 1)
    links.make(designer, board, links.Terms(timezone.localdate()))
    with pytest.raises(links.NotPossible, match="You have 1 open links"):
        links.make(designer, board, links.Terms(timezone.localdate()))


def test_a_clip_is_looked_through_and_spoken_of_frame_by_frame(api, designer, tmp_path):
    clip = footage.bring_in_clip(designer, footage.Source(write(tmp_path / "one.mp4", count=6), "one.mp4"))
    found = footage.of_picture(clip)
    found.proxy, found.proxy_encoding = footage.make_proxy(found, lambda share: None)  # what frames are shown from
    found.save()
    made = projects.create(designer, "Ferry")
    (shot,) = shots.add_shots(designer, made.pk, [shots.NewShot(clip.pk, "Quay", code="c1", first=1, last=4)])
    code = given(api, project=made.pk)
    guest = come(code)
    (thing,) = guest.get(f"{code}/shown")["things"]
    assert (thing["first"], thing["last"], thing["poster"]) == (1, 4, shot.poster)
    path = f"{code}/shot/{shot.pk}/preview.jpg"
    kept = set(names_below("previews"))
    frames = [pixels(guest, f"{path}?frame={number}") for number in (1, 4)]
    assert np.abs(frames[0] - frames[1]).max() > 10, "it moves"
    assert np.array_equal(pixels(guest, f"{path}?frame=99"), frames[1]), "held to the frames of the shot"
    assert set(names_below("previews")) == kept, "a frame that is scrubbed over is not kept"
    said = guest.expect(200, "POST", f"{code}/shot/{shot.pk}/remarks", {"words": "Here", "frame": 3})
    assert said["frame"] == 3
    assert [(one["frame"], one["words"]) for one in api.get(f"/projects/{made.pk}/shots/{shot.pk}")["notes"]] == [(3, "Here")]
    refused = guest.expect(422, "POST", f"{code}/shot/{shot.pk}/remarks", {"words": "Here", "frame": 5})
    assert refused["detail"] == "c1 has no frame 5."
