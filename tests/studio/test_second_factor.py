"""Second factors: codes from an app, recovery codes, and a studio that asks for them. Passkeys need a browser (tests/browser/test_people.py)."""

from __future__ import annotations

import time
from io import StringIO
from typing import Any

import pytest
from allauth.mfa.models import Authenticator
from django.core.management import call_command

from saucer.studio.people import studio
from saucer.studio.people.models import Activity, Person, SecondFactor
from tests import totp
from tests.studio.api import Api
from tests.studio.conftest import api_for, person

pytestmark = pytest.mark.django_db
PASSWORD = "a-long-password"


# RFC 6238, Appendix B, the rows for SHA-1: seconds, and the code of eight digits.
@pytest.mark.parametrize(
    ("at", "told"),
    [(59, "94287082"), (1111111109, "07081804"), (1111111111, "14050471"), (1234567890, "89005924"), (2000000000, "69279037")],
)
def test_the_codes_of_these_tests_are_those_of_the_rfc(at, told):
    assert totp.code(b"12345678901234567890", at, 8) == told


def signed_in(name: str) -> Api:
    api = api_for(None)
    api.expect(200, "POST", "/session", {"username": name, "password": PASSWORD})
    return api


def set_up(api: Api) -> tuple[str, list[str]]:
    """The secret, and the recovery codes, by who has just said their password."""
    secret = api.expect(404, "GET", "/auth/factors/totp")["meta"]["secret"]
    api.expect(200, "POST", "/auth/factors/totp", {"code": totp.code(secret)})
    codes = api.expect(200, "GET", "/auth/factors/recovery-codes")["data"]["unused_codes"]
    return secret, codes


def kinds(name: str) -> set[str]:
    return set(Authenticator.objects.filter(user__username=name).values_list("type", flat=True))


def sign_in_twice(password: str = PASSWORD) -> tuple[Api, Any]:
    api = api_for(None)
    return api, api.expect(200, "POST", "/session", {"username": "designer", "password": password})


def test_a_code_is_asked_for_after_the_password_and_nothing_is_open_before(designer: Person):
    secret, _ = set_up(signed_in("designer"))
    api, told = sign_in_twice()
    assert told["person"] is None
    assert told["waits_for"] == ["recovery_codes", "totp"]
    api.expect(401, "GET", "/looks/1")
    assert api.get("/session")["waits_for"] == ["recovery_codes", "totp"], "after a reload too"
    wrong = str(int(totp.code(secret)) ^ 1).zfill(6)
    api.expect(400, "POST", "/auth/2fa/authenticate", {"code": wrong})
    assert api.get("/session")["person"] is None
    told = Activity.objects.get(action="wrong second factor")
    assert (told.about, told.person, told.data["address"]) == ("designer", None, "127.0.0.1")
    signs_in = Activity.objects.filter(action="sign in")
    before = signs_in.count()
    later = totp.code(secret, at=time.time() + 30)
    api.expect(200, "POST", "/auth/2fa/authenticate", {"code": later})
    assert api.get("/session")["person"]["username"] == "designer"
    assert signs_in.count() == before + 1, "told once it is done"
    again, _ = sign_in_twice()
    again.expect(400, "POST", "/auth/2fa/authenticate", {"code": later})
    again.expect(204, "DELETE", "/session")
    assert again.get("/session")["waits_for"] == [], "from the beginning"


def test_a_recovery_code_lets_in_once(designer: Person):
    _, codes = set_up(signed_in("designer"))
    assert len(codes) == len(set(codes)) == 10
    api, _ = sign_in_twice()
    api.expect(200, "POST", "/auth/2fa/authenticate", {"code": codes[0]})
    again, _ = sign_in_twice()
    again.expect(400, "POST", "/auth/2fa/authenticate", {"code": codes[0]})
    again.expect(200, "POST", "/auth/2fa/authenticate", {"code": codes[1]})


def test_secrets_do_not_lie_in_the_database_as_they_are(designer: Person):
    secret, codes = set_up(signed_in("designer"))
    kept = " ".join(str(data) for data in Authenticator.objects.values_list("data", flat=True))
    assert secret not in kept
    assert not any(code in kept for code in codes)


def test_who_was_signed_in_long_ago_says_the_password_again_before_a_factor_is_changed(designer: Person):
    api = api_for(designer)  # by a session that has no password said lately
    secret = api.expect(404, "GET", "/auth/factors/totp")["meta"]["secret"]
    told = api.expect(401, "POST", "/auth/factors/totp", {"code": totp.code(secret)})
    assert {flow["id"] for flow in told["data"]["flows"]} == {"reauthenticate"}
    api.expect(400, "POST", "/auth/reauthenticate", {"password": "wrong"})
    assert kinds("designer") == set()
    api.expect(200, "POST", "/auth/reauthenticate", {"password": PASSWORD})
    api.expect(200, "POST", "/auth/factors/totp", {"code": totp.code(secret)})
    assert kinds("designer") == {"totp", "recovery_codes"}


@pytest.mark.parametrize(
    ("asked", "role", "held"),
    [("nobody", "admin", False), ("leaders", "designer", False), ("leaders", "curator", True), ("everybody", "viewer", True)],
)
def test_a_studio_that_asks_for_it_opens_nothing_else_before_it_is_set_up(asked, role, held):
    studio.set_up(None, second_factor=SecondFactor(asked))
    person(role, "one")
    api = signed_in("one")
    assert api.get("/session")["lacks_second"] is held
    assert api.call("GET", "/pictures").status_code == (403 if held else 200)
    assert api.call("GET", "/own").status_code == 200


@pytest.mark.django_db(transaction=True)
def test_what_the_studio_asks_for_is_open_as_soon_as_it_is_set_up_and_closed_once_it_is_taken_away():
    studio.set_up(None, second_factor=SecondFactor.EVERYBODY)
    person("viewer", "one")
    api = signed_in("one")
    set_up(api)
    assert api.call("GET", "/pictures").status_code == 200
    api.expect(200, "DELETE", "/auth/factors/totp")
    assert api.call("GET", "/pictures").status_code == 403
    done = Activity.objects.filter(person__username="one").order_by("pk").values_list("action", "data__factor")
    assert ("set up second factor", "totp") in done
    assert ("remove second factor", "totp") in done


def test_an_admin_takes_away_a_factor_that_was_lost_and_nobody_else_does(designer: Person):
    set_up(signed_in("designer"))
    root = person("admin", "root")
    api_for(designer).expect(403, "DELETE", "/team/designer/second-factor")
    api_for(root).expect(204, "DELETE", "/team/designer/second-factor")
    assert kinds("designer") == set()
    api_for(root).expect(422, "DELETE", "/team/designer/second-factor")
    assert sign_in_twice()[1]["person"]["username"] == "designer"
    assert Activity.objects.filter(action="forget second factor", person=root, about="designer").count() == 1


def test_the_servers_own_command_takes_it_away_too(designer: Person):
    set_up(signed_in("designer"))
    told = StringIO()
    call_command("people", "factor-lost", "designer", stdout=told)
    assert kinds("designer") == set()
    call_command("people", "link", "designer", stdout=told)
    code = told.getvalue().strip().rsplit("/", 1)[1]
    assert api_for(None).get(f"/links/{code}")["username"] == "designer"
