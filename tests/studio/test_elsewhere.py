"""Coming in by the studio's accounts elsewhere, against a provider that stands in for them: over HTTP, as a browser would."""

from __future__ import annotations

import urllib.error
import urllib.request
from collections.abc import Iterator
from urllib.parse import parse_qs, urlsplit

import pytest
from allauth.socialaccount.models import SocialAccount, SocialToken
from django.test import Client, override_settings

from saucer import options
from saucer.demo.provider import Provider, providing
from saucer.studio.people import accounts
from saucer.studio.people.models import Activity, Person, Role
from tests import totp
from tests.studio.api import Api
from tests.studio.conftest import api_for, person
from tests.studio.test_second_factor import set_up, signed_in

pytestmark = pytest.mark.django_db
ROLES = {"colour": "designer", "heads": "curator", "guests": "viewer", "ops": "admin"}


class _Stay(urllib.request.HTTPRedirectHandler):
    def redirect_request(self, *_: object) -> None:
        return None


@pytest.fixture
def provider() -> Iterator[Provider]:
    with providing(Provider()) as found:
        app = {
            "provider_id": "studio",
            "name": "Salt House",
            "client_id": found.client,
            "secret": found.secret,
            "settings": {"server_url": found.url},
        }
        known = {"openid_connect": {"OAUTH_PKCE_ENABLED": True, "APPS": [app]}}
        with override_settings(SOCIALACCOUNT_PROVIDERS=known, OIDC_NAME="Salt House", OIDC_GROUPS="groups", OIDC_ROLES=ROLES):
            yield found


def back_from(url: str, name: str) -> str:
    """Where the provider sends the browser once somebody is chosen."""
    try:
        urllib.request.build_opener(_Stay).open(f"{url}&as={name}", timeout=10)
    except urllib.error.HTTPError as answer:
        return str(answer.headers["Location"])
    raise AssertionError("the provider does not send back")


def come_as(name: str, api: Api | None = None) -> tuple[Api, str]:
    """Returns: who came, and the address that they come back to in the end"""
    api = api or api_for(None)
    url = api.expect(200, "POST", "/session/elsewhere")["url"]
    parts = urlsplit(back_from(url, name))
    answer = api.client.get(f"{parts.path}?{parts.query}")
    assert answer.status_code == 302, answer.content
    return api, str(answer["Location"])


def known_as(role: str, name: str) -> Person:
    """An account here with the mail address that the provider tells."""
    found = person(role, name)
    Person.objects.filter(pk=found.pk).update(email=f"{name}@studio.example")
    return found


def refusal(address: str) -> str:
    return parse_qs(urlsplit(address).query).get("error", [""])[0]


def test_somebody_new_comes_in_with_the_role_of_their_groups_and_has_no_password(provider):
    assert api_for(None).get("/session")["elsewhere"] == "Salt House"
    api, address = come_as("marek")
    assert (refusal(address), urlsplit(address).path) == ("", "/")
    told = api.get("/session")["person"]
    assert (told["username"], told["name"], told["role"]) == ("marek", "Marek Sorel", "curator"), "the highest of two groups"
    marek = Person.objects.get(username="marek")
    assert (marek.email, marek.has_usable_password()) == ("marek@studio.example", False)
    assert Activity.objects.filter(action="sign in", person=marek).count() == 1
    assert not SocialToken.objects.exists()
    again, _ = come_as("marek")
    assert Person.objects.count() == SocialAccount.objects.count() == 1
    again.expect(200, "GET", "/own")


def test_an_account_that_is_there_is_taken_by_its_name_and_follows_what_is_said_elsewhere(provider, root_account):
    ilse = person("viewer", "Ilse")
    assert refusal(come_as("ilse")[1]) == "taken", "a name can be chosen elsewhere by anybody"
    Person.objects.filter(pk=ilse.pk).update(email="Ilse@studio.example")
    provider.people["ilse"]["email_verified"] = False
    assert refusal(come_as("ilse")[1]) == "taken"
    provider.people["ilse"]["email_verified"] = True
    come_as("ilse")
    ilse.refresh_from_db()
    assert (ilse.role, ilse.full_name, ilse.email) == ("designer", "Ilse Harrow", "ilse@studio.example")
    provider.people["ilse"] |= {"groups": ["guests"], "name": "Ilse Harrow-Vale"}
    come_as("ilse")
    ilse.refresh_from_db()
    assert (ilse.role, ilse.full_name) == ("viewer", "Ilse Harrow-Vale")
    assert Person.objects.filter(username__iexact="ilse").count() == 1


@pytest.fixture
def root_account(db) -> Person:
    return person("admin", "root")


def test_the_last_admin_stays_one_whatever_the_groups_say(provider):
    root = known_as("admin", "ilse")
    come_as("ilse")
    root.refresh_from_db()
    assert root.role == Role.ADMIN


@pytest.mark.parametrize(
    ("change", "why"),
    [({"groups": []}, "no_group"), ({"groups": ["nobody's"]}, "no_group"), ({"groups": 7}, "no_group"), ({"preferred_username": ""}, "no_name"),
     ({"preferred_username": "no such/name"}, "not_here")],
)  # fmt: skip
def test_who_is_not_let_in_is_told_why_and_nothing_is_made(provider, change, why):
    provider.people["ilse"] |= change
    api, address = come_as("ilse")
    assert refusal(address) == why
    assert api.get("/session")["person"] is None
    assert not Person.objects.exists()
    assert not SocialAccount.objects.exists()


def test_who_is_off_or_a_program_stays_out(provider, root_account):
    ilse = known_as("designer", "ilse")
    Person.objects.filter(pk=ilse.pk).update(is_active=False)
    assert refusal(come_as("ilse")[1]) == "off"
    accounts.add_service(root_account, "nadia", Role.VIEWER)
    Person.objects.filter(username="nadia").update(email="nadia@studio.example")
    assert refusal(come_as("nadia")[1]) == "off"


def test_a_second_factor_that_is_set_up_here_is_asked_for(provider):
    known_as("designer", "ilse")
    secret, _ = set_up(signed_in("ilse"))
    api, address = come_as("ilse")
    assert refusal(address) == ""
    told = api.get("/session")
    assert (told["person"], told["waits_for"]) == (None, ["recovery_codes", "totp"])
    api.expect(200, "POST", "/auth/2fa/authenticate", {"code": totp.code(secret, at=totp.time.time() + 30)})
    assert api.get("/session")["person"]["username"] == "ilse"


def test_without_a_table_of_roles_new_ones_are_viewers_and_roles_are_given_here(provider, root_account):
    with override_settings(OIDC_ROLES={}):
        come_as("marek")
        marek = Person.objects.get(username="marek")
        assert marek.role == Role.VIEWER
        accounts.give_role("marek", Role.DESIGNER)
        come_as("marek")
        marek.refresh_from_db()
        assert marek.role == Role.DESIGNER


def test_a_code_of_somebody_elses_browser_a_used_one_and_one_of_nobody_let_nobody_in(provider):
    api = api_for(None)
    url = api.expect(200, "POST", "/session/elsewhere")["url"]
    parts = urlsplit(back_from(url, "ilse"))
    other = api_for(None)
    other.get("/session")
    assert refusal(str(other.client.get(f"{parts.path}?{parts.query}")["Location"])), "it was begun in another browser"
    assert other.get("/session")["person"] is None
    assert refusal(str(api.client.get(f"{parts.path}?code=made-up&state={parse_qs(parts.query)['state'][0]}")["Location"]))
    assert api.get("/session")["person"] is None
    assert not Person.objects.exists()


def test_a_studio_without_one_offers_none_and_one_that_is_away_says_so(provider):
    with override_settings(OIDC_NAME=""):
        api_for(None).expect(422, "POST", "/session/elsewhere")
        assert api_for(None).get("/session")["elsewhere"] == ""
    gone = {
        "openid_connect": {
            "APPS": [
                {
                    "provider_id": "studio",
                    "name": "x",
                    "client_id": "x",
                    "secret": "x",
                    "settings": {"server_url": "http://127.0.0.1:9"},
                }
            ]
        }
    }
    with override_settings(SOCIALACCOUNT_PROVIDERS=gone):
        assert "cannot be reached" in api_for(None).expect(422, "POST", "/session/elsewhere")["detail"]


def test_it_is_not_begun_by_another_site(provider):
    client = Client(enforce_csrf_checks=True)
    assert client.post("/api/session/elsewhere").status_code == 403


@pytest.mark.parametrize("said", ["colour", "colour=painter", "=viewer", "colour=designer,heads"])
def test_a_table_of_roles_that_is_none_is_said_at_the_start(said):
    with pytest.raises(ValueError, match="group=role"):
        options._roles(said)
    assert options._roles("colour=designer, heads=curator") == {"colour": "designer", "heads": "curator"}
