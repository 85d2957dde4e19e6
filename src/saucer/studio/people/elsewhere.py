"""Coming in by the studio's own accounts elsewhere (OpenID Connect): who that is here, and in which role by their groups."""

from __future__ import annotations

from collections.abc import Mapping
from contextlib import suppress
from typing import Any

from allauth.socialaccount.adapter import DefaultSocialAccountAdapter, get_adapter
from allauth.socialaccount.models import SocialLogin
from django.conf import settings
from django.core.exceptions import ValidationError
from django.db import transaction
from django.http import HttpRequest

from saucer.studio.common.refusals import NotPossible
from saucer.studio.people import accounts
from saucer.studio.people.models import Person, Role
from saucer.studio.people.rules import RANK

PROVIDER = "studio"
"""As the one provider is called in addresses."""
NOT_HERE, NO_GROUP, NO_NAME, OFF, TAKEN = "not_here", "no_group", "no_name", "off", "taken"
"""Why somebody is not let in, as the page is told."""


def role_of(claims: Mapping[str, Any]) -> Role | None:
    """The highest that their groups give (SAUCER_OIDC_ROLES); none where no group gives any. Without such a table a viewer's"""
    if not settings.OIDC_ROLES:
        return Role.VIEWER
    said = claims.get(settings.OIDC_GROUPS, [])
    groups = {said} if isinstance(said, str) else {str(one) for one in said} if isinstance(said, list) else set()
    found = [Role(role) for group, role in settings.OIDC_ROLES.items() if group in groups]
    return max(found, key=RANK.__getitem__, default=None)


def begin(request: HttpRequest) -> str:
    """The address elsewhere at which one goes on, and from which one comes back to /. Raises: NotPossible where there is none"""
    if not settings.OIDC_NAME:
        raise NotPossible("This studio has no accounts elsewhere.")
    try:
        provider = get_adapter().get_provider(request, PROVIDER)
        return str(provider.redirect(request, "login", next_url="/", headless=True)["Location"])
    except (OSError, ValueError, KeyError) as error:  # away, or what answers is no such place
        raise NotPossible(f"{settings.OIDC_NAME} cannot be reached just now. Try again, or sign in with a password.") from error


class Elsewhere(DefaultSocialAccountAdapter):
    """Whoever comes by the studio's provider is the account of that name here, or becomes one; their groups say what they may do."""

    def pre_social_login(self, request: HttpRequest, sociallogin: SocialLogin) -> None:
        """Raises: ValidationError, whose code the page is told"""
        data = sociallogin.account.extra_data
        claims = {**data.get("id_token", {}), **data.get("userinfo", {})}
        role = role_of(claims)
        if role is None:
            raise ValidationError("no group of theirs gives a role", code=NO_GROUP)
        person = sociallogin.user if sociallogin.is_existing else _named(claims)
        with transaction.atomic():
            if person is None:
                person = _make(claims, role)
            if not person.is_active or person.is_service:
                raise ValidationError("their account is off", code=OFF)
            _follow(person, claims, role)
            if not sociallogin.is_existing:
                sociallogin.connect(request, person)

    def is_open_for_signup(self, request: HttpRequest, sociallogin: SocialLogin) -> bool:
        return False  # who is new was made above


def _named(claims: Mapping[str, Any]) -> Person | None:
    """The account of that name, where it is surely theirs: people may choose their names elsewhere (OpenID Connect Core, 5.7).

    It is where the mail address that was verified there is the one that stands with the account here.
    """
    name = str(claims.get("preferred_username", ""))
    if not name:
        raise ValidationError("no name to sign in with was told", code=NO_NAME)
    found: Person | None = Person.objects.filter(username__iexact=name).first()
    email = str(claims.get("email", "")) if claims.get("email_verified") is True else ""
    if found is not None and (not email or found.email.lower() != email.lower()):
        raise ValidationError("the account of that name is not surely theirs", code=TAKEN)
    return found


def _make(claims: Mapping[str, Any], role: Role) -> Person:
    try:
        return accounts.add_from_elsewhere(str(claims["preferred_username"]), role, str(claims.get("name", "")))
    except NotPossible as error:
        raise ValidationError(str(error), code=NOT_HERE) from error


def _follow(person: Person, claims: Mapping[str, Any], role: Role) -> None:
    """What is said elsewhere holds here: the role, where groups say it; name and mail address, where they are told."""
    if settings.OIDC_ROLES and person.role != role:
        with suppress(NotPossible):  # the last admin stays one
            accounts.give_role(person.username, role)
    full_name, email = str(claims.get("name", ""))[:120], str(claims.get("email", ""))[:254]
    verified = claims.get("email_verified") is True
    with suppress(NotPossible):  # what is no mail address for us stays there
        accounts.describe(person.username, full_name or None, email if email and verified else None)
    person.refresh_from_db()
