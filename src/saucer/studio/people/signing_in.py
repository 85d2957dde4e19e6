"""Signing in and out: a password, and a second factor where there is one. The steps between are django-allauth's."""

from __future__ import annotations

import logging
import time
from typing import Literal, cast

from allauth.account.internal.flows.login import perform_password_login, record_authentication
from allauth.account.internal.stagekit import get_pending_stage
from allauth.account.models import Login
from allauth.account.signals import user_logged_in
from allauth.account.utils import perform_login
from allauth.headless.constants import Client
from allauth.headless.internal.decorators import mark_request_as_headless
from allauth.mfa.models import Authenticator
from allauth.mfa.signals import authenticator_added, authenticator_removed
from django.contrib.auth import logout
from django.http import HttpRequest

from saucer.studio.common.refusals import NotPossible
from saucer.studio.people import telling, tries
from saucer.studio.people.adapters import Accounts
from saucer.studio.people.models import Person
from saucer.studio.people.rules import record
from saucer.studio.people.studio import asks_for_second_factor

log = logging.getLogger("saucer.people")
Factor = Literal["totp", "recovery_codes", "webauthn"]
"""As django-allauth calls them: codes from an app, codes kept for when that is lost, keys."""
BEGAN = "began"
"""In a session: when it did, in seconds since 1970."""
LACKS_SECOND = "lacks second factor"
"""In a session: the studio asks for a second factor and there is none yet, so it is good for setting one up and nothing else."""


def sign_in(request: HttpRequest, username: str, password: str) -> None:
    """Afterwards `request.user` is the person, or their second factor is waited for (`pending_factors`).

    Raises: NotPossible for a wrong name or password; TooMany after too many of these
    """
    person = Accounts(request).authenticate(request, username=username, password=password)
    if not isinstance(person, Person):
        raise NotPossible("The name or the password is wrong.")
    mark_request_as_headless(request, Client.BROWSER)
    _note_password(request, person)
    perform_password_login(request, {"username": person.username}, Login(user=person, email_verification="none"))


def let_in(request: HttpRequest, person: Person) -> None:
    """Who came by a link and has just said their password."""
    mark_request_as_headless(request, Client.BROWSER)
    _note_password(request, person)
    perform_login(request, person, email_verification="none")


def _note_password(request: HttpRequest, person: Person) -> None:
    """It was just said: for ten minutes it is not asked for again before a second factor is changed."""
    record_authentication(request, person, method="password", username=person.username, reauthenticated=True)


def pending_factors(request: HttpRequest) -> list[Factor]:
    """What the one who is signing in may go on with: totp, recovery_codes, webauthn; empty where nothing is waited for."""
    if request.user.is_authenticated:
        return []
    stage = get_pending_stage(request)
    if stage is None or stage.key != "mfa_authenticate" or stage.login.user is None:
        return []
    return sorted(Authenticator.objects.filter(user=stage.login.user).values_list("type", flat=True))


def lacks_second_factor(person: Person) -> bool:
    return asks_for_second_factor(person) and not Authenticator.objects.filter(user=person).exists()


def sign_out(request: HttpRequest) -> None:
    logout(request)


def _on_signed_in(request: HttpRequest, user: object, **_: object) -> None:
    person = cast(Person, user)
    record(person, tries.SIGNED_IN, person.username, address=request.META.get("REMOTE_ADDR", ""))
    log.info("signed in", extra={"person": person.username, "address": request.META.get("REMOTE_ADDR", "")})
    request.session[LACKS_SECOND] = lacks_second_factor(person)
    request.session[BEGAN] = time.time()


def note_wrong_factor(request: HttpRequest) -> None:
    """A code or a key that was not right, of somebody whose password was."""
    stage = get_pending_stage(request)
    if stage is not None and stage.login.user is not None:
        person = cast(Person, stage.login.user)
        record(None, "wrong second factor", person.username, address=request.META.get("REMOTE_ADDR", ""))


def _on_factor(request: HttpRequest, user: object, authenticator: Authenticator, action: str) -> None:
    person = cast(Person, user)
    record(person, action, person.username, factor=authenticator.type)
    telling.tell(person, f"A second factor of your account was {'set up' if action.startswith('set') else 'removed'}.")
    request.session[LACKS_SECOND] = lacks_second_factor(person)


def _on_factor_added(request: HttpRequest, user: object, authenticator: Authenticator, **_: object) -> None:
    _on_factor(request, user, authenticator, "set up second factor")


def _on_factor_removed(request: HttpRequest, user: object, authenticator: Authenticator, **_: object) -> None:
    _on_factor(request, user, authenticator, "remove second factor")


authenticator_added.connect(_on_factor_added, dispatch_uid="saucer.people.factor_added")
authenticator_removed.connect(_on_factor_removed, dispatch_uid="saucer.people.factor_removed")
user_logged_in.connect(_on_signed_in, dispatch_uid="saucer.people.signed_in")
