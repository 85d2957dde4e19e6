from __future__ import annotations

from pathlib import Path

import pytest
from django.test import Client

from saucer.launch.places import WEB
from saucer.studio.people.models import Person
from saucer.studio.pictures import rules as pictures
from saucer.studio.pictures.models import Picture
from tests.make import a_picture
from tests.studio.api import Api


@pytest.fixture(autouse=True)
def own_files(tmp_path: Path, settings) -> None:
    """Every test has its own storage, and its own uploads: a sweep takes those that nobody sends any more."""
    settings.STORAGES = settings.STORAGES | {
        "default": {"BACKEND": "saucer.studio.common.store.WholeFileStorage", "OPTIONS": {"location": str(tmp_path / "files")}}
    }
    uploads = tmp_path / "uploads"
    uploads.mkdir()
    settings.FILE_UPLOAD_TEMP_DIR = str(uploads)
    settings.PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
    settings.WHITENOISE_ROOT = None  # every client would look at each file of the page anew


@pytest.fixture
def page_there(settings) -> None:
    """With the files of the page, as they were built."""
    settings.WHITENOISE_ROOT = str(WEB / "dist")


def person(role: str, name: str = "") -> Person:
    return Person.objects.create_user(
        username=name or role, password="a-long-password", role=role, full_name=(name or role).title()
    )


def propose_all() -> None:
    """Everything that is there, so that viewers see it too."""
    from saucer.studio.catalogue.models import Entry

    Entry.objects.update(proposed=True)


@pytest.fixture
def designer(db) -> Person:
    return person("designer")


@pytest.fixture
def viewer(db) -> Person:
    return person("viewer")


@pytest.fixture
def curator(db) -> Person:
    return person("curator")


@pytest.fixture
def picture(designer: Person, tmp_path: Path) -> Picture:
    return pictures.bring_in(designer, a_picture(tmp_path / "quay.png"), "quay.png", "Quay")


def api_for(somebody: Person | None) -> Api:
    client = Client(enforce_csrf_checks=True)
    if somebody is not None:
        client.force_login(somebody)
    return Api(client)


def seen_api_for(somebody: Person | None) -> Api:
    """The same of somebody who has been seen: calls that are taken back do not note it each time anew."""
    api = api_for(somebody)
    if somebody is not None:
        api.get("/session")
    return api


@pytest.fixture
def api(designer: Person) -> Api:
    return api_for(designer)
