"""What of django-allauth's own API is open, under /api/auth: second factors, passkeys, and saying once more who one is.

Its form is django-allauth's ("headless"), not ours: {"status", "data", "meta", "errors"}. Its other paths (making accounts, mail
addresses, passwords) are ours or not offered.
"""

from __future__ import annotations

from allauth.headless.account import views as account
from allauth.headless.constants import Client
from allauth.headless.mfa import views as mfa
from django.urls import path

urlpatterns = [
    path(address, view.as_api_view(client=Client.BROWSER))
    for address, view in (
        ("reauthenticate", account.ReauthenticateView),
        ("2fa/authenticate", mfa.AuthenticateView),
        ("2fa/reauthenticate", mfa.ReauthenticateView),
        ("webauthn/authenticate", mfa.AuthenticateWebAuthnView),
        ("webauthn/reauthenticate", mfa.ReauthenticateWebAuthnView),
        ("webauthn/login", mfa.LoginWebAuthnView),
        ("factors", mfa.AuthenticatorsView),
        ("factors/totp", mfa.ManageTOTPView),
        ("factors/recovery-codes", mfa.ManageRecoveryCodesView),
        ("factors/webauthn", mfa.ManageWebAuthnView),
    )
]
