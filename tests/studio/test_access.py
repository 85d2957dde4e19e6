"""Every path by every role, as the table says; and nothing of a body is read before it is settled who sends it and how long it is."""

from __future__ import annotations

import json
from io import BytesIO

import pytest
from django.test import Client
from django.utils import timezone

from saucer.core.colour.own import OwnEncoding
from saucer.core.files.format import PLAIN
from saucer.core.files.registry import formats
from saucer.core.look.model import look_from
from saucer.launch.places import ROOT
from saucer.studio.boards import rules as boards
from saucer.studio.encodings import rules as encodings
from saucer.studio.guests import links
from saucer.studio.jobs import rules as jobs
from saucer.studio.looks import rules as looks
from saucer.studio.luts import rules as luts
from saucer.studio.luts.packs import Uploads
from saucer.studio.people.models import Person
from saucer.studio.pictures import footage, sets
from saucer.studio.presets import rules as presets
from saucer.studio.projects import rules as projects
from saucer.studio.projects.deliver import kept
from saucer.studio.projects.deliver.choice import DeliveryChoice
from tests.clips import write
from tests.core.test_schema_and_own import LOGC3
from tests.make import WARM, a_lut
from tests.studio.access import TABLE
from tests.studio.conftest import api_for, person

pytestmark = pytest.mark.django_db
RUNG = {"anonymous": 0, "viewer": 1, "designer": 2, "owner": 3, "curator": 4, "admin": 5}
# What a body must hold to be looked at by the rule that knows the owner; elsewhere an empty one does.
BODIES = {"/api/packs/{job}/keep": {"rows": [0]}, "/api/results/{job}/keep": {"which": "fit", "name": "One"},
          "/api/projects/{pk}/shots": {"shots": [1]}, "/api/projects/{pk}/shots/move": {"shots": [1], "scene": "One"},
          "/api/projects/{pk}/shots/out": {"shots": [1]}, "/api/projects/{pk}/shots/back": {"shots": [1]},
          "/api/projects/{pk}/shots/{shot}": {"code": "One"}, "/api/projects/{pk}/scenes/{scene}": {"name": "One"},
          "/api/projects/{pk}/scenes": {"scenes": [1]}, "/api/projects/{pk}/trims": {"shots": [1], "steps": []},
          "/api/projects/{pk}/trims/copy": {"shots": [1], "source": 1}, "/api/projects/{pk}/layers": {"shots": [1], "layers": []}, "/api/projects/{pk}/looks": {"shots": [1], "entry": 1},
          "/api/projects/{pk}/shared": {"reach": "project", "layers": []}, "/api/projects/{pk}/shared/switch": {"shots": [1], "layer": 1, "enabled": True},
          "/api/projects/{pk}/looks/off": {"shots": [1]}, "/api/projects/{pk}/looks/newest": {"shots": [1]},
          "/api/projects/{pk}/looks/strength": {"shots": [1], "strength": 1}, "/api/looks/{pk}/draft": {"look": {"steps": []}, "revision": 1}, "/api/looks/{pk}/versions": {"revision": 1}, "/api/own/tokens": {"name": "farm", "scopes": ["read"], "until": "2999-01-01"},
          "/api/boards/{pk}": {"seen": 1}, "/api/catalogue/{kind}/{pk}/sharing": {"seen_by": "owner"}, "/api/presets/{pk}/versions": {"steps": [{"kind": "curves"}]}}  # fmt: skip

ADDING, NEW_SHOTS = ("POST", "/api/projects/{pk}/shots"), {"shots": [{"picture": 1, "scene": "One"}]}


def test_the_table_and_the_api_name_the_same_paths():
    schema = json.loads((ROOT / "web/openapi.json").read_bytes())  # a test of what is generated holds it against the API
    paths = {(method.upper(), path) for path, operations in schema["paths"].items() for method in operations}
    assert paths == set(TABLE)


@pytest.fixture
def things(designer: Person, picture, tmp_path) -> dict[str, object]:
    """One of everything, all the owner's."""
    owner = person("designer", "owner")
    draft = looks.create(owner, look_from({"name": "Salt", "steps": [WARM]}))
    looks.save_version(owner, draft.pk)
    lut = luts.bring_in(owner, formats()["cube"].write(a_lut(5), PLAIN), "one.cube")
    found = luts.lut_of(lut.pk)
    board = boards.keep(owner, "Evenings", [draft.pk], [picture.pk])
    picture.owner = owner
    picture.save()
    encodings.add(owner, OwnEncoding.model_validate(LOGC3))
    return {
        "owner": owner, "look": draft.pk, "lut": lut.pk, "found": found.pk, "file": luts.first_file(found).pk, "picture": picture.pk,
        "preset": presets.keep(owner, "Dusk", look_from({"steps": [WARM]}).steps).pk, "job": jobs.start(owner, "intake", Uploads(uploads=[])).pk,
        "set": sets.save(owner, "Night", [picture.pk]).pk, "encoding": LOGC3["id"],
        "board": board.pk, "guest link": links.make(owner, board, links.Terms(timezone.localdate()))[0].pk,
        "project": projects.create(owner, "Ferry").pk,
        "choice": kept.keep(owner, "For the client", DeliveryChoice(stills="png")).pk,
        "clip": footage.bring_in_clip(owner, footage.Source(write(tmp_path / "one.mp4", count=3), "one.mp4")).pk,
    }  # fmt: skip


def address(path: str, things: dict[str, object]) -> str:
    part = path.split("/")[2]
    by_folder = {"looks": "look", "luts": "lut", "presets": "preset", "pictures": "picture", "jobs": "job", "shelf": "look", "bake": "look",
                 "lut-files": "file", "catalogue": "lut", "review": "lut", "boards": "board", "projects": "project", "footage": "clip",
                 "delivery-choices": "choice", "guests": "guest link"}  # fmt: skip
    if part in ("own", "team"):
        return path.format(pk=1, username="curator")
    pk = things["set"] if "/sets/" in path else things[by_folder.get(part, "look")]
    return path.format(
        pk=pk,
        kind="entry" if part == "guest" else "lut",
        number=1,
        index=0,
        shot=1,
        scene=1,
        note=1,
        item=1,
        place=0,
        name="rushes",
        entry=things["look"],
        job=things["job"],
        lut=things["found"],
        encoding_id=things["encoding"],
        code="none",
        username="curator",
    ) + (f"?picture={things['picture']}" if path.endswith("preview.jpg") else "")


def wanted(who: str, role: str) -> set[int] | None:
    """The statuses it has to be; None: anything but a refusal for who they are."""
    if who == "guest":
        return {404}
    least = {"everybody": 0, "viewer": 1, "designer": 2, "owner": 3, "maker": 3, "curator": 4, "admin": 5}[who]
    if who == "maker" and role != "owner":
        return {401} if role == "anonymous" else {403, 404}
    if RUNG[role] >= least:
        return None
    return {401} if role == "anonymous" else {403}


@pytest.mark.parametrize("role", RUNG)
def test_every_path_answers_each_role_as_the_table_says(role, things, curator, viewer, designer):
    somebody = {"anonymous": None, "viewer": viewer, "designer": designer, "owner": things["owner"], "curator": curator}.get(role)
    if role == "admin":
        somebody = person("admin", "root")
    wrong = {}
    api = api_for(somebody)
    # What deletes comes last, so that what is deleted is there for the others.
    for (method, path), who in sorted(TABLE.items(), key=lambda row: (row[0][0] == "DELETE", row[0])):
        body = None if method in ("GET", "DELETE") else NEW_SHOTS if (method, path) == ADDING else BODIES.get(path, {})
        response = api.call(method, address(path, things).removeprefix("/api"), body)
        if response.streaming:
            assert b"".join(response.streaming_content)
        if path == "/api/session":
            api = api_for(somebody)  # it may have signed in or out
        status = response.status_code
        allowed = wanted(who, role)
        if (status in (401, 403) or status >= 500) if allowed is None else status not in allowed:
            wrong[f"{method} {path}"] = (status, allowed)
    assert wrong == {}


class Unread(BytesIO):
    """A body that fails when anybody reads it."""

    def read(self, *args: int) -> bytes:
        raise AssertionError("the body was read")

    readline = readlines = read


UPLOADS = [
    path
    for (method, path) in TABLE
    if method == "POST" and path.split("/")[-1] in ("file", "packs", "pictures", "footage", "luts", "read", "pairs")
]


@pytest.mark.parametrize("path", UPLOADS)
@pytest.mark.parametrize(("role", "status"), [("", 401), ("viewer", 403), ("designer", 413)])
def test_nobody_makes_the_server_read_what_it_will_refuse(path, role, status):
    """Anonymous and viewers with any body, designers with one that is too long."""
    client = Client(enforce_csrf_checks=True)
    if role:
        client.force_login(person(role))
    client.get("/api/session")
    response = client.generic(
        "POST", path, content_type="multipart/form-data; boundary=x", CONTENT_LENGTH=str(9 * 2**30), **{"wsgi.input": Unread()},
        headers={"X-CSRFToken": client.cookies["csrftoken"].value},
    )  # fmt: skip
    assert response.status_code == status, response.content[:300]
    assert response["Content-Type"] == "application/problem+json"


def test_a_long_body_without_files_is_refused_unread(designer):
    client = Client()
    client.force_login(designer)
    for path in ("/api/looks", "/api/looks/frame", "/api/presets", "/api/session"):
        response = client.generic(
            "POST", path, content_type="application/json", CONTENT_LENGTH="2000000", **{"wsgi.input": Unread()}
        )
        assert response.status_code == 413, path
        assert "is the most here" in response.json()["detail"]
