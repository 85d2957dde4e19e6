"""Django settings. Whatever differs between installations comes from local.py or the table in saucer.options."""

from __future__ import annotations

import os
import re
from pathlib import Path

import environ
from django.core.exceptions import ImproperlyConfigured

from saucer import options
from saucer.studio.common.local import ROOT, beside, kept_in, local, var
from saucer.studio.common.tracing import logging_settings

try:
    options.load(var())
    _told = {one.name: options.value(one.name) for one in options.TABLE}
except options.OptionError as error:
    raise ImproperlyConfigured(str(error)) from None
_LOCAL = local()
_TESTING = os.environ.get("SAUCER_TESTING") == "1"

SECRET_KEY = _told["SECRET_KEY"] or _LOCAL["secret_key"]
DEBUG = False
ALLOWED_HOSTS = _told["HOSTS"]
PROXY = _told["PROXY"]
MEDIA_FOLDERS = _told["MEDIA"]
VIEW = _told["VIEW"]
PUBLISH_OWN = _told["PUBLISH_OWN"]
HTTPS = _told["HTTPS"]
METRICS_TOKEN = _told["METRICS_TOKEN"]
BACKUP, BACKUP_KEEP = _told["BACKUP"], _told["BACKUP_KEEP"]
CSRF_TRUSTED_ORIGINS = [f"https://{host}" for host in ALLOWED_HOSTS] if HTTPS else []

# From the bottom up: each knows only those before it.
APPS = (
    "common", "people", "uploads", "jobs", "encodings", "pictures", "catalogue", "luts", "looks", "presets", "baking", "preview", "packing",
    "boards", "projects", "guests", "stress", "hooks", "start", "site",
)  # fmt: skip
INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "ninja",
    "procrastinate.contrib.django",
    "django.contrib.postgres",
    "allauth",
    "allauth.account",
    "allauth.headless",
    "allauth.mfa",
    "allauth.socialaccount",
    "allauth.socialaccount.providers.openid_connect",
    "allauth.usersessions",
    *(f"saucer.studio.{app}" for app in APPS),
]
MIDDLEWARE = [
    "saucer.studio.site.front.Probes",
    "saucer.studio.site.front.RealAddress",
    "saucer.studio.site.front.Versioned",
    "saucer.studio.site.watching.Watched",
    "django.middleware.security.SecurityMiddleware",
    "saucer.studio.site.headers.ContentSecurityPolicy",
    "saucer.studio.site.headers.KeepNothing",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "saucer.studio.site.headers.CompressText",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "allauth.account.middleware.AccountMiddleware",
    "saucer.studio.people.seen.Seen",
    "saucer.studio.uploads.in_place.Taken",
]
ROOT_URLCONF = "saucer.studio.site.urls"
WSGI_APPLICATION = "saucer.studio.site.wsgi.application"
TEMPLATES: list[dict[str, object]] = []

_DATABASE = (
    environ.Env.db_url_config(_told["DATABASE_URL"])
    if _told["DATABASE_URL"]
    else {name.upper(): _LOCAL["database"][name] for name in ("host", "port", "name", "user", "password")}
)
DATABASES = {
    "default": _DATABASE
    | {
        "ENGINE": "saucer.studio.common.postgres",
        "NAME": os.environ.get("SAUCER_DATABASE") or "_".join(filter(None, (_DATABASE["NAME"], beside()))),
        "CONN_MAX_AGE": 0 if _TESTING else 60,
        "CONN_HEALTH_CHECKS": True,
        # The server of browser tests makes a thread per connection: without a pool each would sign in to the database anew.
        # A test that waits for a row, or for an answer, for ever says so, and ends; and no test loses its power in between.
        "OPTIONS": {
            "pool": {"min_size": 1, "max_size": 24},
            "options": "-c lock_timeout=60s -c statement_timeout=180s -c synchronous_commit=off",
        }
        if _TESTING
        else _DATABASE.get("OPTIONS", {}),
    }
}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"

AUTH_USER_MODEL = "people.Person"
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator", "OPTIONS": {"min_length": 10}},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
]

HEADLESS_ONLY = True
HEADLESS_CLIENTS = ("browser",)
ACCOUNT_ADAPTER = "saucer.studio.people.adapters.Accounts"
ACCOUNT_LOGIN_METHODS = {"username"}
ACCOUNT_SIGNUP_FIELDS = ["username*", "password1*"]
ACCOUNT_EMAIL_VERIFICATION = "none"
ACCOUNT_REAUTHENTICATION_TIMEOUT = 600
OIDC_NAME = _told["OIDC_NAME"] if _told["OIDC_URL"] else ""
OIDC_GROUPS, OIDC_ROLES = _told["OIDC_GROUPS"], _told["OIDC_ROLES"]
HEADLESS_FRONTEND_URLS = {"socialaccount_login_error": "/"}
SOCIALACCOUNT_ADAPTER = "saucer.studio.people.elsewhere.Elsewhere"
SOCIALACCOUNT_EMAIL_VERIFICATION = "none"
SOCIALACCOUNT_STORE_TOKENS = False
SOCIALACCOUNT_PROVIDERS: dict[str, object] = {
    "openid_connect": {
        "OAUTH_PKCE_ENABLED": True,
        "APPS": [
            {
                "provider_id": "studio",
                "name": OIDC_NAME,
                "client_id": _told["OIDC_CLIENT"],
                "secret": _told["OIDC_SECRET"],
                "settings": {"server_url": _told["OIDC_URL"]},
            }
        ]
        if OIDC_NAME
        else [],
    }
}
MFA_ADAPTER = "saucer.studio.people.adapters.SecondFactors"
MFA_SUPPORTED_TYPES = ["totp", "recovery_codes", "webauthn"]
MFA_PASSKEY_LOGIN_ENABLED = True
MFA_TOTP_TOLERANCE = 1
MFA_RECOVERY_CODES_SHOW_ONCE = True
# A browser takes localhost for secure without HTTPS (W3C Secure Contexts); who serves others does it over HTTPS.
MFA_WEBAUTHN_ALLOW_INSECURE_ORIGIN = not HTTPS
# How often codes are tried is counted here, for all processes and machines alike.
CACHES = {
    "default": {"BACKEND": "django.core.cache.backends.db.DatabaseCache", "LOCATION": "cache", "OPTIONS": {"MAX_ENTRIES": 100_000}}
}

MAIL = bool(_told["MAIL"])
vars().update(environ.Env.email_url_config(_told["MAIL"] or "dummymail://"))
SESSION_DAYS = _told["SESSION_DAYS"]
HOOKS_INSIDE = _told["HOOKS_INSIDE"]
DEFAULT_FROM_EMAIL = _told["MAIL_FROM"]
EMAIL_TIMEOUT = 20

SESSION_COOKIE_AGE = int(_told["SESSION_HOURS"] * 3600)
SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = "Lax"
# A browser takes cookies of this name from this host alone, by HTTPS (RFC 6265bis, "The __Host- Prefix").
SESSION_COOKIE_NAME = "__Host-sessionid" if HTTPS else "sessionid"
CSRF_COOKIE_NAME = "__Host-csrftoken" if HTTPS else "csrftoken"
SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = HTTPS
SECURE_SSL_REDIRECT = HTTPS
SECURE_HSTS_SECONDS = 31536000 if HTTPS else 0
SECURE_CONTENT_TYPE_NOSNIFF = True
X_FRAME_OPTIONS = "DENY"

USE_TZ = True
TIME_ZONE = "UTC"
LANGUAGE_CODE = "en-gb"
USE_I18N = False

STORE = _told["STORE"]
_FOLDER = {"BACKEND": "saucer.studio.common.store.WholeFileStorage", "OPTIONS": {"location": str(kept_in() / "files")}}

_COPIES = {"cache": kept_in() / "cache", "room": int(_told["STORE_CACHE_GB"] * 1e9)}
_BUCKET = {"BACKEND": "saucer.studio.common.bucket.BucketStorage", "OPTIONS": options.reach_bucket(STORE) | _COPIES}
STORAGES = {
    "default": _BUCKET if STORE else _FOLDER,
    "staticfiles": {"BACKEND": "django.contrib.staticfiles.storage.StaticFilesStorage"},
}
STATIC_URL = "/static/"
WHITENOISE_ROOT = str(ROOT / "web" / "dist")
# The page itself comes from our own view, with what keeps it from being cached.
WHITENOISE_INDEX_FILE = False
WHITENOISE_ALLOW_ALL_ORIGINS = False
# A build while the tests import us must not be half read; the page itself is never cached, hashed names for ever.
WHITENOISE_AUTOREFRESH = False


def WHITENOISE_IMMUTABLE_FILE_TEST(path: str, url: str) -> bool:
    """Vite puts a hash of eight characters into the name of everything under assets/."""
    return re.match(r"^/assets/.+-[\w-]{8}\.\w+$", url) is not None


FILE_UPLOAD_HANDLERS = ["django.core.files.uploadhandler.TemporaryFileUploadHandler"]
# A folder of their own, in which what a process that was killed has left is found again (site/sweeping.py).
FILE_UPLOAD_TEMP_DIR = str(kept_in() / "uploads")
Path(FILE_UPLOAD_TEMP_DIR).mkdir(parents=True, exist_ok=True)
# What a path takes at most it says itself (people/access.py); this is the most of any that brings no file.
DATA_UPLOAD_MAX_MEMORY_SIZE = 6 * 1024 * 1024
PICTURE_UPLOAD_LIMIT = 1024 * 1024 * 1024
FOOTAGE_UPLOAD_LIMIT = 8 * 1024 * 1024 * 1024
LUT_UPLOAD_LIMIT = 128 * 1024 * 1024
PACK_UPLOAD_LIMIT = 1024 * 1024 * 1024
DATA_UPLOAD_MAX_NUMBER_FILES = 5000

LOGGING = logging_settings(_told["LOG_FORMAT"])
