"""Where looks break, as the studio keeps it: tested when they are proposed or asked for, told to who sees them, found on the Shelf."""

from __future__ import annotations

import pytest

from saucer.studio.catalogue.models import Entry
from saucer.studio.people.models import Activity
from saucer.studio.people.studio import the_studio
from saucer.studio.pictures.models import Picture, PictureSet
from saucer.studio.stress.models import StressReport
from tests.make import a_picture
from tests.studio.conftest import api_for, person
from tests.studio.work import run_worker

HARD = {"kind": "levels", "id": "hard", "master": {"input_black": 0.2, "input_white": 0.6}}
GENTLE = {"kind": "saturation", "factor": 0.97}


def a_kept_look(api, *steps: dict) -> int:
    pk = api.expect(200, "POST", "/looks", {"name": "Punch", "steps": list(steps)})["id"]
    api.save_version(pk)
    return pk


def keep_changed(api, pk: int, *steps: dict) -> None:
    found = api.get(f"/looks/{pk}")
    changed = {"look": found["draft"] | {"steps": list(steps)}, "revision": found["revision"]}
    api.expect(200, "PUT", f"/looks/{pk}/draft", changed)
    api.save_version(pk)


@pytest.mark.django_db(transaction=True)
def test_what_is_proposed_is_tested_and_told_on_the_shelf_and_in_review(api, curator, picture):
    Picture.objects.update(test=True)
    hard, gentle = a_kept_look(api, HARD), a_kept_look(api, GENTLE)
    assert api.get(f"/stress/looks/{hard}") is None
    for pk in (hard, gentle):
        api.expect(200, "POST", f"/review/look/{pk}/1", {"to": "proposed"})
    run_worker()
    told = api_for(curator).get(f"/stress/looks/{hard}")
    assert (told["version"], told["is_latest"], told["holds"], told["pictures"], told["by"]) == (1, True, False, 1, "Designer")
    clipped = next(one for one in told["breaks"] if one["what"] == "clipped")
    assert (clipped["on"], clipped["picture"], clipped["id"], clipped["title"]) == ("Quay", picture.pk, "hard", "Levels")
    assert all(0 <= side <= 1 for side in clipped["place"])
    assert clipped["times"] > 1
    assert {one["nodes"] for one in told["sizes"]} == {17, 33, 65}
    assert api.get(f"/stress/looks/{gentle}")["holds"]
    waiting = {one["entry"]: one["holds"] for one in api_for(curator).get("/review/queue")}
    assert waiting == {hard: "breaks", gentle: "holds"}
    assert api.get("/shelf/counts")["facets"]["holds"] == {"holds": 1, "breaks": 1}
    assert [(one["id"], one["holds"]) for one in api.get("/shelf/entries?holds=breaks")["entries"]] == [(hard, "breaks")]
    keep_changed(api, hard, GENTLE)
    assert Entry.objects.get(pk=hard).holds == "", "nobody has tested the version that is the latest now"
    assert api.get(f"/stress/looks/{hard}")["is_latest"] is False


@pytest.mark.django_db(transaction=True)
def test_the_set_for_reviews_or_pictures_that_are_named(api, designer, picture, tmp_path):
    from saucer.studio.pictures import rules as pictures

    other = pictures.bring_in(designer, a_picture(tmp_path / "b.png", seed=9), "b.png", "Other")
    PictureSet.objects.create(name="Review").pictures.add(other)
    pk = a_kept_look(api, HARD)
    for given, counted in (({}, 1), ({"pictures": [picture.pk, other.pk]}, 2)):
        job = api.expect(202, "POST", f"/stress/looks/{pk}", given)
        run_worker()
        assert api.get(f"/jobs/{job['id']}")["page"] == f"/shelf/look/{pk}?page=stress"
        assert api.get(f"/stress/looks/{pk}")["pictures"] == counted
    assert StressReport.objects.count() == 1, "the last one of a version is kept"


@pytest.mark.django_db(transaction=True)
def test_the_shots_of_a_project_and_pictures_that_others_do_not_see(api, designer, picture, tmp_path):
    project = api.expect(200, "POST", "/projects", {"name": "Ferry", "closed": True})
    api.expect(200, "POST", f"/projects/{project['id']}/shots", {"shots": [{"picture": picture.pk, "scene": "Quay"}]})
    pk = a_kept_look(api, HARD)
    api.expect(202, "POST", f"/stress/looks/{pk}", {"project": project["id"]})
    run_worker()
    assert next(one for one in api.get(f"/stress/looks/{pk}")["breaks"] if one["what"] == "clipped")["on"] == "Quay"
    other = api_for(person("designer", "ada"))
    kept = next(one for one in other.get(f"/stress/looks/{pk}")["breaks"] if one["what"] == "clipped")
    assert (kept["picture"], kept["place"], kept["on"]) == (None, None, "a picture that you do not see")
    other.expect(404, "POST", f"/stress/looks/{pk}", {"project": project["id"]})


@pytest.mark.django_db
def test_what_cannot_be_tested(api, viewer, picture):
    pk = a_kept_look(api, HARD)
    assert "no picture" in api.expect(422, "POST", f"/stress/looks/{pk}", {})["detail"]
    api.expect(404, "POST", f"/stress/looks/{pk}", {"pictures": [picture.pk + 7]})
    empty = api.expect(200, "POST", "/looks", {"name": "New", "steps": []})
    assert "Keep one first" in api.expect(422, "POST", f"/stress/looks/{empty['id']}", {"pictures": [picture.pk]})["detail"]
    Entry.objects.update(proposed=True)
    api_for(viewer).expect(403, "POST", f"/stress/looks/{pk}", {"pictures": [picture.pk]})
    assert api_for(viewer).get(f"/stress/looks/{pk}") is None


@pytest.mark.django_db
def test_one_job_for_all_that_is_proposed(api, designer, django_capture_on_commit_callbacks):
    from saucer.studio.catalogue.models import Version, VersionState
    from saucer.studio.catalogue.review.rules import move_many
    from saucer.studio.jobs.models import Job

    ids = [a_kept_look(api, HARD) for _ in range(6)]
    wanted = dict.fromkeys(Version.objects.filter(entry__in=ids).values_list("pk", flat=True), VersionState.PROPOSED)
    with django_capture_on_commit_callbacks(execute=True):
        move_many(designer, wanted)
    (job,) = Job.objects.filter(kind="proposed")
    assert set(job.parameters["versions"]) == set(wanted)


@pytest.mark.django_db(transaction=True)
def test_looks_are_tested_by_the_limits_of_the_studio(api, picture):
    Picture.objects.update(test=True)
    pk, admin = a_kept_look(api, HARD), api_for(person("admin", "root"))
    admin.expect(200, "PATCH", "/studio", {"skin": 14})
    set_ = admin.expect(200, "PUT", "/stress/limits", {"limits": {"clipped": 1.0, "leaps": 2.0, "noise": 3.0}})
    assert {one["what"]: (one["most"], one["usual"]) for one in set_ if one["most"] != one["usual"]} == {
        "clipped": (1.0, 0.02), "leaps": (2.0, 16.0), "skin": (14.0, 10.0),
    }  # fmt: skip
    assert the_studio().stress_limits == {"clipped": 1.0, "leaps": 2.0}, "the usual ones are not kept: they may become others"
    api.expect(202, "POST", f"/stress/looks/{pk}", {})
    run_worker()
    told = api.get(f"/stress/looks/{pk}")
    assert {one["what"]: one["limit"] for one in told["figures"]}["clipped"] == 1.0
    assert "clipped" not in [one["what"] for one in told["breaks"]]
    assert "leaps" in [one["what"] for one in told["breaks"]], "2 is passed where 16 was not"
    admin.expect(200, "PUT", "/stress/limits", {"limits": {"lut": 2}})
    assert the_studio().stress_limits == {"lut": 2}, "all at once: the others are the usual ones again"
    assert api.get(f"/stress/looks/{pk}")["figures"] == told["figures"], "a report keeps those that it was made by"
    assert Activity.objects.filter(action="set up studio").first().data == {"stress_limits": {"lut": 2.0}}


@pytest.mark.django_db
def test_limits_that_are_no_use_are_refused_and_only_admins_set_them(api):
    admin = api_for(person("admin", "root"))
    for limits, said in (
        ({"shine": 1}, "no limit"), ({"clipped": 0}, "above 0"), ({"clipped": 1.5}, "at most 1"), ({"skin": 5}, "setting of its own"),
    ):  # fmt: skip
        assert said in admin.expect(422, "PUT", "/stress/limits", {"limits": {"lut": 2} | limits})["detail"]
    assert the_studio().stress_limits == {}
    api.expect(403, "PUT", "/stress/limits", {"limits": {}})
    assert len(api.get("/stress/limits")) == 12
