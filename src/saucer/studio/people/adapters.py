"""What django-allauth asks of us: who may come in how, and how secrets of second factors are kept."""

from __future__ import annotations

import base64
import hashlib
from typing import Any

from allauth.account.adapter import DefaultAccountAdapter
from allauth.mfa.adapter import DefaultMFAAdapter
from cryptography.fernet import Fernet
from django.conf import settings
from django.contrib.auth import authenticate
from django.contrib.auth.base_user import AbstractBaseUser
from django.db import transaction
from django.http import HttpRequest

from saucer.studio.people import tries
from saucer.studio.people.models import Person
from saucer.studio.people.studio import the_studio


class Accounts(DefaultAccountAdapter):
    """Nobody makes an account by themselves, and failed tries are counted by us (`tries`), whichever way they come."""

    def is_open_for_signup(self, request: HttpRequest) -> bool:
        return False

    def get_client_ip(self, request: HttpRequest) -> str:
        """As the proxies in front say it, where they are ours (site.front.RealAddress)."""
        return str(request.META.get("REMOTE_ADDR", "")) or "0.0.0.0"  # noqa: S104

    def authenticate(self, request: HttpRequest, **credentials: Any) -> AbstractBaseUser | None:
        """Raises: TooMany after too many failed tries"""
        name, address = str(credentials.get("username", "")), self.get_client_ip(request)
        with transaction.atomic():
            tries.hold_others(address)
            tries.check(name, address)
            found = authenticate(request, username=name, password=credentials.get("password"))
            person = found if isinstance(found, Person) and not found.is_service else None
            if person is None:
                tries.note_failed(name, address)
        return person

    def reauthenticate(self, user: AbstractBaseUser, password: str) -> bool:
        return user.check_password(password)


class SecondFactors(DefaultMFAAdapter):
    """Secrets lie in the database encrypted by a key that does not: whoever gets a copy of the one has no codes of anybody."""

    def get_totp_issuer(self) -> str:
        return f"Saucer, {the_studio().name}" if the_studio().name else "Saucer"

    def get_public_key_credential_rp_entity(self) -> dict[str, str]:
        return super().get_public_key_credential_rp_entity() | {"name": self.get_totp_issuer()}

    def encrypt(self, text: str) -> str:
        return _fernet().encrypt(text.encode()).decode()

    def decrypt(self, encrypted_text: str) -> str:
        return _fernet().decrypt(encrypted_text.encode()).decode()

    def send_notification_mail(self, *args: Any, **kwargs: Any) -> None:
        """Nothing is mailed: the activity tells it, to whoever looks and to admins."""


def _fernet() -> Fernet:
    return Fernet(base64.urlsafe_b64encode(hashlib.sha256(b"second factors" + settings.SECRET_KEY.encode()).digest()))
