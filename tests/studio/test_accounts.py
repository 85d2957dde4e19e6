"""Accounts from the terminal: the first account may do what it is for; roles, passwords and switching off take hold at once."""

from __future__ import annotations

import io
import re

import pytest
from django.core.management import CommandError, call_command

from saucer.studio.people.models import Activity, Person
from tests.studio.api import Api
from tests.studio.conftest import api_for


def people(*words: str) -> str:
    out = io.StringIO()
    call_command("people", *words, stdout=out)
    return out.getvalue()


@pytest.fixture
def no_terminal(monkeypatch):
    monkeypatch.setattr("sys.stdin", io.StringIO(""))


def sign_in(name: str, password: str) -> Api:
    api = api_for(None)
    api.get("/session")
    api.expect(200, "POST", "/session", {"username": name, "password": password})
    return api


def test_djangos_own_way_to_the_first_account_makes_an_administrator(db):
    call_command("createsuperuser", username="ada", email="", interactive=False)
    ada = Person.objects.get()
    assert ada.role == "admin"
    assert set(api_for(ada).get("/session")["may"]) == {"design", "curate", "administer"}
    api_for(ada).expect(200, "POST", "/looks", {"name": "First", "steps": []})


@pytest.mark.parametrize(
    ("role", "may"),
    [("viewer", set()), ("designer", {"design"}), ("curator", {"design", "curate"}), ("admin", {"design", "curate", "administer"})],
)
def test_an_account_is_made_with_a_password_of_its_own_and_the_session_says_what_it_may(db, no_terminal, role, may):
    told = people("add", "wim", "--role", role, "--full-name", "Wim Quay")
    password = re.search(r"Password: (\S{12,})", told)
    assert password
    assert f"wim may sign in as {role}." in told
    api = sign_in("wim", password[1])
    assert set(api.get("/session")["may"]) == may
    assert ("wim", role, "Wim Quay") == tuple(Person.objects.values_list("username", "role", "full_name").get())
    assert Activity.objects.earliest("pk").action == "add person"
    assert password[1] not in str(list(Activity.objects.values()))


def test_a_role_is_given_and_taken_while_somebody_is_signed_in(db, no_terminal):
    api = sign_in("wim", re.search(r"Password: (\S+)", people("add", "wim"))[1])
    assert api.call("POST", "/looks", {"steps": []}).status_code == 403
    people("role", "wim", "designer")
    api.expect(200, "POST", "/looks", {"name": "Mine", "steps": []})
    people("role", "wim", "viewer")
    assert api.call("POST", "/looks", {"steps": []}).status_code == 403


def test_somebody_switched_off_is_out_at_once_and_can_come_back(db, no_terminal):
    password = re.search(r"Password: (\S+)", people("add", "wim"))[1]
    api = sign_in("wim", password)
    api.get("/pictures")
    people("off", "wim")
    assert api.call("GET", "/pictures").status_code == 401
    assert re.search(r"^wim +viewer +off", people("list"), re.MULTILINE)
    people("on", "wim")
    sign_in("wim", password)


def test_a_new_password_takes_the_place_of_the_old_one(db, no_terminal):
    old = re.search(r"Password: (\S+)", people("add", "wim"))[1]
    new = re.search(r"Password: (\S+)", people("password", "wim"))[1]
    assert old != new
    sign_in("wim", new)
    assert not Person.objects.get().check_password(old)


@pytest.mark.parametrize(
    ("words", "said"),
    [(("role", "nobody", "admin"), 'nobody called "nobody"'), (("add", "ILSE"), 'a "ILSE" already'), (("add", "a b"), "valid username"),
     (("add", "x", "--role", "king"), "king")],
)  # fmt: skip
def test_refusals_say_why_and_make_nothing(db, no_terminal, words, said):
    Person.objects.create_user("ilse", password="a-long-password", role="designer")
    with pytest.raises(CommandError, match=said):
        people(*words)
    assert Person.objects.count() == 1
