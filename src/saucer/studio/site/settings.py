"""Django settings. Whatever differs between installations comes from local.py or the environment."""

from __future__ import annotations

import os
import re
from pathlib import Path

from django.core.exceptions import ImproperlyConfigured

from saucer.studio.common.local import ROOT, beside, kept_in, local

_LOCAL = local()
_TESTING = os.environ.get("SAUCER_TESTING") == "1"

SECRET_KEY = _LOCAL["secret_key"]
DEBUG = False
ALLOWED_HOSTS = os.environ.get("SAUCER_HOSTS", "127.0.0.1,localhost").split(",")
# Addresses or networks of the proxy in front, with commas: what it says of a request (HTTPS, from where) is believed.
PROXY = os.environ.get("SAUCER_PROXY", "")
MEDIA_FOLDERS = dict(one.split("=", 1) for one in os.environ.get("SAUCER_MEDIA", "").split(os.pathsep) if "=" in one)
VIEW = os.environ.get("SAUCER_VIEW", "soft")
if VIEW not in ("plain", "soft"):
    raise ImproperlyConfigured(f'SAUCER_VIEW is "{VIEW}"; it must be plain or soft')
PUBLISH_OWN = os.environ.get("SAUCER_PUBLISH_OWN", "") == "1"
HTTPS = os.environ.get("SAUCER_HTTPS", "") == "1"
CSRF_TRUSTED_ORIGINS = [f"https://{host}" for host in ALLOWED_HOSTS] if HTTPS else []

# From the bottom up: each knows only those before it.
APPS = (
    "common", "people", "jobs", "encodings", "pictures", "catalogue", "luts", "looks", "presets", "baking", "preview", "packing",
    "boards", "projects", "site",
)  # fmt: skip
INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "ninja",
    "procrastinate.contrib.django",
    "django.contrib.postgres",
    *(f"saucer.studio.{app}" for app in APPS),
]
MIDDLEWARE = [
    "saucer.studio.site.front.Probes",
    "saucer.studio.site.front.RealAddress",
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
]
ROOT_URLCONF = "saucer.studio.site.urls"
WSGI_APPLICATION = "saucer.studio.site.wsgi.application"
TEMPLATES: list[dict[str, object]] = []

DATABASES = {
    "default": {
        "ENGINE": "saucer.studio.common.postgres",
        "HOST": _LOCAL["database"]["host"],
        "PORT": _LOCAL["database"]["port"],
        "NAME": os.environ.get("SAUCER_DATABASE") or "_".join(filter(None, (_LOCAL["database"]["name"], beside()))),
        "USER": _LOCAL["database"]["user"],
        "PASSWORD": _LOCAL["database"]["password"],
        "CONN_MAX_AGE": 0 if _TESTING else 60,
        "CONN_HEALTH_CHECKS": True,
        # The server of browser tests makes a thread per connection: without a pool each would sign in to the database anew.
        # A test that waits for a row, or for an answer, for ever says so, and ends; and no test loses its power in between.
        "OPTIONS": {
            "pool": {"min_size": 1, "max_size": 24},
            "options": "-c lock_timeout=60s -c statement_timeout=180s -c synchronous_commit=off",
        }
        if _TESTING
        else {},
    }
}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"

AUTH_USER_MODEL = "people.Person"
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator", "OPTIONS": {"min_length": 10}},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
]

SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = "Lax"
SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = HTTPS
SECURE_SSL_REDIRECT = HTTPS
SECURE_HSTS_SECONDS = 31536000 if HTTPS else 0
SECURE_CONTENT_TYPE_NOSNIFF = True
X_FRAME_OPTIONS = "DENY"

USE_TZ = True
TIME_ZONE = "UTC"
LANGUAGE_CODE = "en-gb"
USE_I18N = False

STORAGES = {
    "default": {"BACKEND": "saucer.studio.common.store.WholeFileStorage", "OPTIONS": {"location": str(kept_in() / "files")}},
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

LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "formatters": {"line": {"format": "{asctime} {levelname} {name}: {message}", "style": "{"}},
    "handlers": {"console": {"class": "logging.StreamHandler", "formatter": "line"}},
    "root": {"handlers": ["console"], "level": "WARNING"},
}
