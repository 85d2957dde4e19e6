"""What of django-allauth's own API is open, under /api/auth: second factors, passkeys, and saying once more who one is.

Its form is django-allauth's ("headless"), not ours: {"status", "data", "meta", "errors"}. Its other paths (making accounts, mail
addresses, passwords) are ours or not offered.
"""

from __future__ import annotations

from http import HTTPStatus
from typing import Any

from allauth.headless.account import views as account
from allauth.headless.constants import Client
from allauth.headless.mfa import views as mfa
from allauth.socialaccount.providers.openid_connect import views as openid_connect
from django.http import HttpRequest
from django.urls import path

from saucer.studio.people.signing_in import note_wrong_factor


class _Noting:
    """Around the views by which one comes in with a second factor: what is wrong stands in the activity."""

    def dispatch(self, request: HttpRequest, *args: Any, **kwargs: Any) -> Any:
        response = super().dispatch(request, *args, **kwargs)  # type: ignore[misc]
        if response.status_code == HTTPStatus.BAD_REQUEST:
            note_wrong_factor(request)
        return response


class _ByCode(_Noting, mfa.AuthenticateView):  # type: ignore[misc]
    pass


class _ByKey(_Noting, mfa.AuthenticateWebAuthnView):  # type: ignore[misc]
    pass


urlpatterns = [
    path(address, view.as_api_view(client=Client.BROWSER))
    for address, view in (
        ("reauthenticate", account.ReauthenticateView),
        ("2fa/authenticate", _ByCode),
        ("2fa/reauthenticate", mfa.ReauthenticateView),
        ("webauthn/authenticate", _ByKey),
        ("webauthn/reauthenticate", mfa.ReauthenticateWebAuthnView),
        ("webauthn/login", mfa.LoginWebAuthnView),
        ("factors", mfa.AuthenticatorsView),
        ("factors/totp", mfa.ManageTOTPView),
        ("factors/recovery-codes", mfa.ManageRecoveryCodesView),
        ("factors/webauthn", mfa.ManageWebAuthnView),
    )
] + [path("oidc/<str:provider_id>/back", openid_connect.callback, name="openid_connect_callback")]
