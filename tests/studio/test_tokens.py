"""Tokens: what they reach, what they never do, when they end, and how often they may be used."""

from __future__ import annotations

import io
from datetime import date, timedelta
from typing import Any

import pytest
from django.http import HttpResponse
from django.test import Client
from django.utils import timezone

from saucer.core.files.format import PLAIN
from saucer.core.files.registry import formats
from saucer.studio.people import tokens
from saucer.studio.people.models import Activity, Person, Scope, Token
from tests.make import a_lut
from tests.studio.access import TABLE
from tests.studio.conftest import api_for, person

pytestmark = pytest.mark.django_db
SOON = str(date.today() + timedelta(days=30))


def token_of(somebody: Person, *scopes: str, name: str = "sync") -> str:
    made = api_for(somebody).expect(200, "POST", "/own/tokens", {"name": name, "scopes": scopes or ["read"], "until": SOON})
    return made["secret"]


def call(secret: str, method: str, path: str, body: bytes = b"{}", **more: Any) -> HttpResponse:
    """No cookie, no CSRF token."""
    headers = {"Authorization": f"Bearer {secret}"}
    return Client(enforce_csrf_checks=True).generic(method, f"/api{path}", body, "application/json", headers=headers, **more)


def test_a_token_comes_in_its_persons_place_and_is_told_once(designer):
    secret = token_of(designer)
    assert call(secret, "GET", "/pictures").status_code == 200
    (shown,) = api_for(designer).get("/own/tokens")
    assert (shown["name"], shown["scopes"], shown["used_from"]) == ("sync", ["read"], "127.0.0.1")
    assert shown["used"] is not None
    assert "secret" not in shown
    assert secret not in str(list(Token.objects.values())), "only its hash is kept"
    assert call(secret[:-1] + "x", "GET", "/pictures").status_code == 401


def test_it_reaches_what_it_says_and_no_more(designer):
    read, bring, design = (token_of(designer, scope, name=scope) for scope in ("read", "bring in", "design"))
    look = b'{"name": "Salt", "steps": []}'
    told = call(read, "POST", "/looks", look)
    assert told.status_code == 403
    assert told.json()["detail"] == 'The token "read" does not reach this: it takes "design".'
    assert call(bring, "POST", "/looks", look).status_code == 403
    assert call(design, "POST", "/looks", look).status_code == 200
    assert call(design, "GET", "/pictures").status_code == 403, "to look is a scope of its own"
    cube = formats()["cube"].write(a_lut(5), PLAIN)
    data = {"file": io.BytesIO(cube)}
    data["file"].name = "one.cube"
    client = Client(enforce_csrf_checks=True)
    for secret, status in ((read, 403), (design, 403), (bring, 200)):
        data["file"].seek(0)
        response = client.post("/api/luts", data, headers={"Authorization": f"Bearer {secret}"})
        assert response.status_code == status, response.content
    line = Activity.objects.filter(token="bring in").latest("pk")
    assert (line.person, line.address) == (designer, "127.0.0.1")


def test_no_token_reaches_beyond_its_persons_role(designer, viewer):
    api_for(designer).expect(422, "POST", "/own/tokens", {"name": "x", "scopes": ["publish"], "until": SOON})
    api_for(viewer).expect(422, "POST", "/own/tokens", {"name": "x", "scopes": ["design"], "until": SOON})
    secret = token_of(designer, "read", "design")
    Person.objects.filter(pk=designer.pk).update(role="viewer")
    assert call(secret, "POST", "/looks").status_code == 403, "who is a viewer by now"


def test_no_token_does_what_is_for_people_alone(curator):
    """Accounts, sessions, tokens, the studio; and what is one's own: stars, views, notes."""
    root = person("admin", "root")
    secret = token_of(root, *[scope.value for scope in Scope])
    alone = [
        row
        for row in TABLE
        if row[1].split("/")[2] in ("own", "team", "studio", "unreadable", "notices") and row != ("GET", "/api/notices")
    ]
    assert len(alone) > 25
    for method, path in [*alone, ("PUT", "/api/catalogue/look/1/favourite"), ("POST", "/api/views"), ("DELETE", "/api/session")]:
        address = path.removeprefix("/api").format(pk=1, username="curator", job=1)
        assert call(secret, method, address).status_code == 403, (method, path)


def test_what_is_revoked_or_over_or_whose_person_is_off_is_out_at_once(designer):
    revoked, over, off = (token_of(designer, name=name) for name in ("revoked", "over", "off"))
    listed = {one["name"]: one["id"] for one in api_for(designer).get("/own/tokens")}
    api_for(person("designer", "other")).expect(404, "DELETE", f"/own/tokens/{listed['revoked']}")
    api_for(designer).expect(204, "DELETE", f"/own/tokens/{listed['revoked']}")
    Token.objects.filter(name="over").update(until=timezone.now() - timedelta(minutes=1))
    assert [call(secret, "GET", "/pictures").status_code for secret in (revoked, over, off)] == [401, 401, 200]
    Person.objects.filter(pk=designer.pk).update(is_active=False)
    assert call(off, "GET", "/pictures").status_code == 401


@pytest.mark.parametrize("days", [0, -1, 400])
def test_it_ends_on_a_day_within_a_year(designer, days):
    until = str(timezone.now().date() + timedelta(days=days))
    api_for(designer).expect(422, "POST", "/own/tokens", {"name": "x", "scopes": ["read"], "until": until})
    assert not Token.objects.exists()


def test_a_name_is_taken_once_and_there_are_twenty_at_most(designer):
    token_of(designer)
    api_for(designer).expect(422, "POST", "/own/tokens", {"name": "sync", "scopes": ["read"], "until": SOON})
    for number in range(19):
        token_of(designer, name=f"n{number}")
    told = api_for(designer).expect(422, "POST", "/own/tokens", {"name": "one more", "scopes": ["read"], "until": SOON})
    assert "20 tokens" in told["detail"]


def test_it_makes_six_hundred_calls_a_minute_and_goes_on_in_the_next(designer):
    secret = token_of(designer)
    assert call(secret, "GET", "/pictures").status_code == 200
    Token.objects.update(in_minute=tokens.MOST_IN_A_MINUTE - 1)
    statuses = [call(secret, "GET", "/pictures").status_code for _ in range(2)]
    # At the turn of a minute the count begins anew.
    assert statuses in ([200, 429], [200, 200])
    Token.objects.update(minute=timezone.now() - timedelta(minutes=1))
    assert call(secret, "GET", "/pictures").status_code == 200


def test_a_services_tokens_are_made_by_admins_and_a_persons_by_nobody_else(designer):
    root = person("admin", "root")
    api = api_for(root)
    api.expect(204, "POST", "/team/services", {"name": "farm", "role": "viewer"})
    given = {"name": "nightly", "scopes": ["read"], "until": SOON}
    secret = api.expect(200, "POST", "/team/farm/tokens", given)["secret"]
    assert call(secret, "GET", "/pictures").status_code == 200
    assert next(one for one in api.get("/team")["members"] if one["username"] == "farm")["seen"] is not None
    api.expect(422, "POST", "/team/designer/tokens", given)
    token = api.get("/team/farm")["tokens"][0]
    api.expect(204, "DELETE", f"/team/farm/tokens/{token['id']}")
    assert call(secret, "GET", "/pictures").status_code == 401
