"""How much the files of a person and of a project may take: told before it is met, refused before anything is kept."""

from __future__ import annotations

import pytest

from saucer.core.files.format import PLAIN
from saucer.core.files.registry import formats
from saucer.studio.catalogue.models import Entry
from saucer.studio.common.models import Blob
from saucer.studio.people import quota
from saucer.studio.people.models import Activity, Person
from saucer.studio.people.studio import set_up
from saucer.studio.projects.models import Delivery
from tests.make import a_lut
from tests.studio.api import Api
from tests.studio.conftest import api_for, person
from tests.studio.delivery import deliver, project

pytestmark = pytest.mark.django_db(transaction=True)
__all__ = ["project"]


@pytest.fixture(autouse=True)
def _small(monkeypatch: pytest.MonkeyPatch) -> None:
    """A "GB" of a thousand bytes."""
    monkeypatch.setattr(quota, "GB", 1000)


@pytest.fixture
def root(db) -> Api:
    return api_for(person("admin", "root"))


def send(api: Api, seed: int, status: int) -> dict:
    cube = formats()["cube"].write(a_lut(5, seed=seed), PLAIN)
    response = api.upload("/luts", f"{seed}.cube", cube)
    assert response.status_code == status, response.content[:300]
    return response.json()


def test_an_admin_says_how_much_and_it_is_written_down(root: Api, designer: Person):
    assert [root.get("/studio")[name] for name in ("person_gb", "project_gb")] == [0, 0]
    root.expect(200, "PATCH", "/studio", {"person_gb": 9, "project_gb": 20})
    assert [root.get("/studio")[name] for name in ("person_gb", "project_gb")] == [9, 20]
    assert Activity.objects.get(action="set up studio").data == {"person_gb": 9, "project_gb": 20}
    root.expect(422, "PATCH", "/studio", {"person_gb": -1})
    api_for(designer).expect(403, "PATCH", "/studio", {"person_gb": 1})


def test_who_has_no_room_brings_nothing_in_and_everything_else_goes_on(designer: Person):
    api, other = api_for(designer), api_for(person("designer", "other"))
    assert (api.get("/own")["room"], api.get("/own")["most"]) == (0, None), "nothing is counted where nothing is set"
    send(api, 1, 200)
    taken = quota.COUNTS["person"](designer.pk)
    assert taken == Blob.objects.get().bytes
    set_up(None, person_gb=taken // 1000 + 1)
    assert (api.get("/own")["room"], api.get("/own")["most"]) == (taken, (taken // 1000 + 1) * 1000)
    told = send(api, 2, 422)["detail"]
    assert told.startswith(f"Your files take {taken / 1000:.1f} GB of the {taken // 1000 + 1} GB there are, and this takes ")
    assert "makes room after 30 days" in told
    assert (Blob.objects.count(), Entry.objects.count()) == (1, 1)
    send(other, 2, 200)
    entry = Entry.objects.get(owner=designer)
    api.expect(200, "PATCH", f"/catalogue/lut/{entry.pk}", {"name": "Renamed"})
    set_up(None, person_gb=0)
    send(api, 3, 200)


def test_a_project_that_has_no_room_delivers_nothing_and_says_so_beforehand(api: Api, project):
    choice = {"stills": "png"}
    estimated = api.expect(200, "POST", f"/projects/{project.pk}/deliveries/estimate", choice)
    assert estimated["room"] == ""
    taken = quota.COUNTS["project"](project.pk)
    assert taken > 0
    whole = taken + estimated["bytes"]
    set_up(None, project_gb=int(whole // 1000) + 1)
    told = api.expect(200, "POST", f"/projects/{project.pk}/deliveries/estimate", choice)["room"]
    assert told.endswith(f"there are, with this {whole / 1000:.1f} GB."), "soon it will be full"
    set_up(None, project_gb=int(whole // 1000))
    told = api.expect(200, "POST", f"/projects/{project.pk}/deliveries/estimate", choice)["room"]
    assert api.expect(422, "POST", f"/projects/{project.pk}/deliveries", choice)["detail"] == told
    assert not Delivery.objects.exists()
    set_up(None, project_gb=int(whole // 1000) + 1)
    deliver(api, project, **choice)
    assert quota.COUNTS["project"](project.pk) > taken, "what was delivered counts"


def test_it_is_told_from_nine_tenths_on():
    room = quota.Room(800, 1000)
    assert quota.words_of("person", room, 0) == ""
    assert quota.words_of("person", room, 99) == ""
    assert quota.words_of("person", room, 100) == "Your files take 0.8 GB of the 1 GB there are, with this 0.9 GB."
    assert quota.words_of("person", quota.Room(950, 1000), 0) == "Your files take 0.9 GB of the 1 GB there are."
    assert not room.lacks(200)
    assert room.lacks(201)
    assert not quota.Room(10**9, None).lacks(10**12)
