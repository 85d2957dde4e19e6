from __future__ import annotations

import pytest

from saucer.studio.people.models import Activity
from tests.studio.conftest import api_for, person

pytestmark = pytest.mark.django_db


def test_sign_in_and_out():
    person("designer", "ilse")
    api = api_for(None)
    assert api.get("/session") == {"person": None, "may": []}
    signed = api.expect(200, "POST", "/session", {"username": "ilse", "password": "a-long-password"})
    assert signed["person"] == {"username": "ilse", "name": "Ilse", "role": "designer"}
    assert signed["may"] == ["design"]
    assert Activity.objects.filter(action="sign in", about="ilse").count() == 1
    api.expect(204, "DELETE", "/session")
    assert api.get("/session") == {"person": None, "may": []}


def test_wrong_password_then_locked_out():
    person("designer", "ilse")
    api = api_for(None)
    for _ in range(5):
        told = api.expect(422, "POST", "/session", {"username": "ilse", "password": "wrong"})
        assert told["detail"] == "The name or the password is wrong."
    assert "Too many failed tries" in api.expect(429, "POST", "/session", {"username": "ilse", "password": "wrong"})["detail"]
    assert (
        "Too many failed tries"
        in api.expect(429, "POST", "/session", {"username": "ilse", "password": "a-long-password"})["detail"]
    )


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


def test_the_page_and_what_it_may_load(client):
    response = client.get("/bench/3")
    assert response.status_code in (200, 503)
    assert "default-src 'self'" in response.headers["Content-Security-Policy"]
    assert client.get("/api/nothing").status_code == 404
    assert client.get("/assets/nothing.js").status_code == 404
