from __future__ import annotations

import json
from datetime import timedelta
from io import StringIO

import pytest
from django.core.management import CommandError, call_command
from django.db.models import F
from django.http import HttpResponse
from django.test import Client, RequestFactory, override_settings

from saucer.studio.people.models import Activity
from saucer.studio.site.front import RealAddress
from tests.studio.conftest import api_for, person

pytestmark = pytest.mark.django_db


def test_sign_in_and_out():
    person("designer", "ilse")
    api = api_for(None)
    nobody = {
        "person": None,
        "may": [],
        "is_new": False,
        "unreadable": 0,
        "view": "soft",
        "delivery": "rec709",
        "waits_for": [],
        "lacks_second": False,
        "mail": False,
        "elsewhere": "",
    }
    assert api.get("/session") == nobody
    signed = api.expect(200, "POST", "/session", {"username": "ilse", "password": "a-long-password"})
    assert signed["person"] == {"username": "ilse", "name": "Ilse", "role": "designer"}
    assert signed["may"] == ["design"]
    assert Activity.objects.filter(action="sign in", about="ilse").count() == 1
    api.expect(204, "DELETE", "/session")
    assert api.get("/session") == nobody


def test_wrong_password_then_locked_out():
    person("designer", "ilse")
    api = api_for(None)
    for _ in range(6):
        told = api.expect(422, "POST", "/session", {"username": "ilse", "password": "wrong"})
        assert told["detail"] == "The name or the password is wrong."
    for password in ("wrong", "a-long-password"):
        told = api.expect(429, "POST", "/session", {"username": "ilse", "password": password})
        assert told["detail"].startswith("Too many failed tries. Try again in 15 minutes, or ask")
    failed = Activity.objects.filter(action="fail to sign in")
    assert [(one.about, one.data) for one in failed] == [("ilse", {"address": "127.0.0.1"})] * 6, "tries while locked do not count"
    later(15)
    assert api.expect(200, "POST", "/session", {"username": "ilse", "password": "a-long-password"})["may"] == ["design"]


def later(minutes: float) -> None:
    """As if everything that was done had been done so much earlier."""
    Activity.objects.update(at=F("at") - timedelta(minutes=minutes, seconds=1))


def attempt(name: str, password: str, address: str) -> int:
    """The status, from somewhere."""
    client = Client(REMOTE_ADDR=address)
    client.get("/api/session")
    body = json.dumps({"username": name, "password": password})
    return client.post(
        "/api/session", body, "application/json", headers={"X-CSRFToken": client.cookies["csrftoken"].value}
    ).status_code


def test_a_name_that_somebody_keeps_trying_is_free_for_its_owner_and_again_for_all():
    person("designer", "ilse")
    assert attempt("ilse", "a-long-password", "192.0.2.1") == 200, "an address that is known from now on"
    for number in range(70):
        assert attempt("ilse", "wrong", f"198.51.100.{number}") == (422 if number < 60 else 429)
    assert attempt("ilse", "a-long-password", "198.51.100.200") == 429
    assert attempt("ilse", "a-long-password", "192.0.2.1") == 200
    later(14)
    assert attempt("ilse", "wrong", "198.51.100.201") == 429
    later(1)
    assert attempt("ilse", "a-long-password", "198.51.100.202") == 200, "going on trying has not made it longer"


def test_many_names_tried_from_one_address_are_limited_and_others_are_not():
    person("designer", "ilse")
    statuses = [attempt(f"name-{number}", "wrong", "198.51.100.7") for number in range(35)]
    assert statuses == [422] * 30 + [429] * 5
    assert attempt("ilse", "a-long-password", "198.51.100.7") == 429
    assert attempt("ilse", "a-long-password", "198.51.100.8") == 200


def test_a_right_password_forgives_the_slips_before_it():
    person("designer", "ilse")
    for _ in range(3):
        assert [attempt("ilse", "wrong", "192.0.2.1") for _ in range(5)] == [422] * 5
        assert attempt("ilse", "a-long-password", "192.0.2.1") == 200


@pytest.mark.parametrize("what", ["ilse", "192.0.2.1"])
def test_whoever_runs_the_server_unlocks_a_name_or_an_address(what):
    person("designer", "ilse")
    names = ["ilse"] * 6 if what == "ilse" else [f"name-{number}" for number in range(30)]
    for name in names:
        assert attempt(name, "wrong", "192.0.2.1") == 422
    assert attempt("ilse", "a-long-password", "192.0.2.1") == 429
    call_command("people", "unlock", what, stdout=StringIO())
    assert attempt("ilse", "a-long-password", "192.0.2.1") == 200
    with pytest.raises(CommandError, match="nobody called"):
        call_command("people", "unlock", "otto")


@override_settings(PROXY="127.0.0.1, 10.0.0.0/8")
def test_behind_a_named_proxy_addresses_are_told_apart_and_from_nobody_else_believed():
    def address_behind(way: str, remote: str) -> str:
        seen: list[str] = []

        def note(request):
            seen.append(request.META["REMOTE_ADDR"])
            return HttpResponse()

        RealAddress(note)(RequestFactory().get("/", REMOTE_ADDR=remote, headers={"X-Forwarded-For": way}))
        return seen[0]

    assert address_behind("203.0.113.9", "127.0.0.1") == "203.0.113.9"
    assert address_behind("203.0.113.9, 10.1.2.3", "127.0.0.1") == "203.0.113.9", "one proxy behind another"
    assert address_behind("1.1.1.1, 203.0.113.9", "127.0.0.1") == "203.0.113.9", "what the sender wrote itself does not count"
    assert address_behind("203.0.113.9", "198.51.100.1") == "198.51.100.1", "no proxy of ours"
    assert address_behind("nonsense", "127.0.0.1") == "127.0.0.1"
    assert address_behind("", "127.0.0.1") == "127.0.0.1"


@pytest.mark.parametrize(
    ("method", "path"),
    [
        ("GET", "/looks/1"),
        ("GET", "/pictures"),
        ("POST", "/looks/frame"),
        ("GET", "/shelf/entries"),
        ("GET", "/jobs"),
        ("GET", "/lut-files/1"),
    ],
)
def test_nothing_without_signing_in(method, path):
    assert api_for(None).expect(401, method, path, {})["detail"] == "Sign in first."


def test_no_change_without_the_csrf_token(designer):
    api = api_for(designer)
    assert api.call("POST", "/looks", {"steps": []}, token=False).status_code == 403
    assert api_for(None).call("POST", "/session", {"username": "a", "password": "b"}, token=False).status_code == 403


def test_viewers_only_look(viewer, picture):
    api = api_for(viewer)
    assert api.get("/pictures")[0]["name"] == "Quay"
    refused = api.expect(403, "POST", "/looks", {"steps": []})
    assert refused["detail"] == "You cannot make looks: it takes the role designer, yours is viewer."
    assert api.call("DELETE", f"/pictures/{picture.pk}").status_code == 403
    assert api.call("GET", f"/pictures/{picture.pk}/file").status_code == 403


def test_designers_keep_to_their_own_and_curators_do_not(designer, curator, picture):
    other = api_for(person("designer", "otis"))
    assert "belongs to Designer" in other.expect(403, "DELETE", f"/pictures/{picture.pk}")["detail"]
    api_for(curator).expect(204, "DELETE", f"/pictures/{picture.pk}")


def test_the_page_and_what_it_may_load(page_there, client):
    response = client.get("/bench/3")
    assert response.status_code in (200, 503)
    assert "default-src 'self'" in response.headers["Content-Security-Policy"]
    assert client.get("/api/nothing").status_code == 404
    assert client.get("/assets/nothing.js").status_code == 404
