"""What admins see of how the studio runs: what takes room, everybody's jobs, whether all is well."""

from __future__ import annotations

import pytest

from saucer.core.files.format import PLAIN
from saucer.core.files.registry import formats
from saucer.studio.common.models import Blob
from saucer.studio.jobs import rules as jobs
from saucer.studio.jobs.models import Job, State
from saucer.studio.luts import rules as luts
from saucer.studio.luts.packs import Uploads
from saucer.studio.people.models import Activity, Person
from saucer.studio.projects import rules as projects
from saucer.studio.projects.models import Shot
from tests.make import a_lut
from tests.studio.api import Api
from tests.studio.conftest import api_for, person

pytestmark = pytest.mark.django_db


@pytest.fixture
def root(db) -> Api:
    return api_for(person("admin", "root"))


def by_key(parts: list[dict]) -> dict[str, tuple[int, int]]:
    return {one["key"]: (one["bytes"], one["files"]) for one in parts}


def test_what_takes_room_is_told_by_kind_person_and_project(root: Api, designer: Person, picture):
    luts.bring_in(designer, formats()["cube"].write(a_lut(5), PLAIN), "one.cube")
    other = person("designer", "other")
    luts.bring_in(other, formats()["cube"].write(a_lut(9), PLAIN), "two.cube")
    found = root.get("/studio/room")
    assert (found["bytes"], found["files"]) == (sum(one.bytes for one in Blob.objects.all()), Blob.objects.count())
    kinds = by_key(found["kinds"])
    assert set(kinds) == {"pictures", "small copies", "LUTs"}
    assert kinds["pictures"] == (picture.blob.bytes, 1)
    people = by_key(found["people"])
    assert sum(size for size, _ in people.values()) == found["bytes"], "nobody has what another has"
    assert people["other"][1] == 1
    assert found["projects"] == []
    assert found["free"] > 0


def test_a_file_that_is_used_twice_is_counted_once_wherever_it_is_counted(root: Api, designer: Person, picture):
    project = projects.create(designer, "Ferry")
    given = {"shots": [{"picture": picture.pk, "scene": "One"}, {"picture": picture.pk, "scene": "Two"}]}
    api_for(designer).expect(200, "POST", f"/projects/{project.pk}/shots", given)
    assert Shot.objects.count() == 2
    found = root.get("/studio/room")
    assert by_key(found["projects"]) == {str(project.pk): (picture.blob.bytes, 1)}
    assert by_key(found["kinds"])["pictures"] == (picture.blob.bytes, 1)


def test_everybodys_jobs_are_listed_what_goes_on_first_and_ended_with_a_line_in_the_activity(root: Api, designer: Person):
    first, second, third = (jobs.start(designer, "intake", Uploads(uploads=[])).pk for _ in range(3))
    Job.objects.filter(pk=first).update(state=State.DONE)
    Job.objects.filter(pk=third).update(state=State.RUNNING)
    assert [one["id"] for one in root.get("/studio/jobs")] == [third, second, first]
    root.expect(204, "POST", f"/studio/jobs/{second}/cancel")
    assert Job.objects.get(pk=second).state == State.CANCELLED
    root.expect(422, "POST", f"/studio/jobs/{first}/cancel")
    root.expect(404, "POST", "/studio/jobs/999999/cancel")
    line = Activity.objects.get(action="cancel job")
    assert (line.person.username, line.about, line.data) == ("root", "designer", {"job": second, "kind": "intake"})
    assert "parameters" not in root.get("/studio/jobs")[0], "what it is about is its person's"


def test_whether_all_is_well_is_told_with_the_last_backup(root: Api):
    told = root.get("/studio/well")
    assert (told["database"], told["store"], told["backup"]) == ("", "", None)
    Activity.objects.create(action="back up", about="20010101T000000Z")
    assert root.get("/studio/well")["backup"] is not None


def test_it_costs_as_many_queries_for_many_files_as_for_few(root: Api, designer: Person, django_assert_max_num_queries):
    for seed in range(30):
        luts.bring_in(designer, formats()["cube"].write(a_lut(3, seed=seed), PLAIN), f"{seed}.cube")
    root.get("/session")  # a first call notes that one is there
    with django_assert_max_num_queries(10):
        root.get("/studio/room")
