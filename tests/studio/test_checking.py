"""Misfits of a project, planted and found, with remedies that hold; matches that are proposed and never taken unasked."""

from __future__ import annotations

import numpy as np
import pytest

from saucer.core.engine.evaluate import evaluate
from saucer.core.engine.plan import prepare
from saucer.core.look.model import look_from
from saucer.core.pictures.io import Picture as Pixels
from saucer.core.pictures.io import write_picture
from saucer.core.reports import match as matching
from saucer.studio.jobs import rules as jobs
from saucer.studio.jobs.models import Job, State
from saucer.studio.looks import rules as looks
from saucer.studio.pictures import rules as pictures
from saucer.studio.projects import rules as projects
from saucer.studio.projects.check import match, misfits
from saucer.studio.projects.grade import grading
from saucer.studio.projects.models import Layer, Shot, ShotFigures
from saucer.studio.projects.story import shots
from tests.core.test_misfits_match import scene
from tests.studio.work import run_worker

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.fixture
def project(designer, tmp_path):
    """Five alike, one too bright by a stop and a half, one too cool; all under one look."""
    faults = [{}] * 5 + [{"kind": "tone", "exposure": 1.5}, {"kind": "white-balance", "warm": -60}]
    made = projects.create(designer, "The Salt Ferry")
    wanted = []
    for number, fault in enumerate(faults):
        pixels = scene(number + 10)
        if fault:
            pixels = evaluate(prepare(look_from({"steps": [fault]})), pixels)
        name = ("bright" if number == 5 else "cool" if number == 6 else f"even{number}") + ".png"
        write_picture(Pixels(np.clip(pixels, 0, 1), "u16"), tmp_path / name)
        wanted.append(shots.NewShot(pictures.bring_in(designer, tmp_path / name, name).pk, "Quay"))
    added = shots.add_shots(designer, made.pk, wanted)
    draft = looks.create(designer, look_from({"name": "Hearth", "steps": [{"kind": "tone", "contrast": 1.25, "exposure": 0.3}]}))
    looks.save_version(designer, draft.pk)
    grading.put_look(designer, made.pk, [one.pk for one in added], draft.pk, None, 1.0, stack=False)
    return made


def flagged(api, project) -> dict[str, list[str]]:
    codes = dict(Shot.objects.values_list("pk", "code"))
    return {codes[one["shot"]]: one["what"] for one in api.get(f"/projects/{project.pk}/misfits")["shots"] if one["misfits"]}


def test_planted_misfits_are_found_and_nothing_else(api, project):
    api.expect(200, "POST", f"/projects/{project.pk}/misfits")
    run_worker()
    assert set(flagged(api, project)) == {"bright", "cool"}
    assert "cast" in flagged(api, project)["cool"]
    told = {one["code"]: one for one in api.get(f"/projects/{project.pk}")["shots"]}
    assert "cooler than the others" in " ".join(told["cool"]["misfits"])
    assert told["cool"]["measured"]


def test_a_remedy_takes_the_misfit_away_and_figures_stay_current(api, project):
    base = f"/projects/{project.pk}"
    api.expect(200, "POST", f"{base}/misfits")
    run_worker()
    bright = Shot.objects.get(code="bright").pk
    found = api.get(f"{base}/shots/{bright}/remedies")
    assert found["misfits"]
    exposure = next(one for one in found["remedies"] if one["kind"] == "exposure")
    assert exposure["value"] < 0
    assert Layer.objects.filter(shot=bright).count() == 1, "nothing is done by looking"
    api.expect(200, "POST", f"{base}/trims", {"shots": [bright], "steps": exposure["steps"], "add": True})
    run_worker()  # nobody asked: a project that was checked stays so
    left = flagged(api, project).get("bright", [])
    assert len(left) == len(exposure["left"])


def test_tolerances_are_the_projects_own(api, project):
    base = f"/projects/{project.pk}"
    api.expect(200, "POST", f"{base}/misfits")
    run_worker()
    changed = api.expect(200, "PUT", f"{base}/tolerances", {"cast": 0.5, "clipped": 1, "lightness": 1, "merged": 1})
    assert changed["tolerances"]["skin"] == 10
    assert flagged(api, project) == {}
    api.expect(200, "PUT", f"{base}/tolerances", {"merged": 0})
    assert len(flagged(api, project)) >= 5
    api.expect(422, "PUT", f"{base}/tolerances", {"cast": "wide"})


def test_only_what_changed_is_measured_again(api, project, designer):
    base = f"/projects/{project.pk}"
    api.expect(200, "POST", f"{base}/misfits")
    run_worker()
    before = dict(ShotFigures.objects.values_list("shot__code", "shows"))
    grading.set_strength(designer, project.pk, [Shot.objects.get(code="even0").pk], 0.5)
    run_worker()
    after = dict(ShotFigures.objects.values_list("shot__code", "shows"))
    assert {code for code in after if after[code] != before[code]} == {"even0"}


def test_a_match_is_proposed_with_its_confidence_and_taken_only_when_it_is_taken(api, project):
    base = f"/projects/{project.pk}"
    cool, even = Shot.objects.get(code="cool").pk, Shot.objects.get(code="even0")
    found = api.expect(200, "POST", f"{base}/shots/{cool}/match", {"shot": even.pk})
    assert found["warm"] > 35
    assert found["white_confidence"] > 0.8
    assert next(step["kind"] for step in found["steps"]) == "white-balance"
    assert not Layer.objects.filter(shot=cool, role="before").exists()
    api.expect(200, "POST", f"{base}/trims", {"shots": [cool], "steps": found["steps"]})
    api.expect(200, "POST", f"{base}/misfits")
    run_worker()
    assert "cool" not in flagged(api, project)
    picture = api.expect(200, "POST", f"{base}/shots/{cool}/match", {"picture": even.picture_id})
    assert picture["warm"] == pytest.approx(found["warm"], abs=3)
    assert api.expect(422, "POST", f"{base}/shots/{cool}/match", {"shot": cool})["detail"] == "A shot matches itself already."
    api.expect(404, "POST", f"{base}/shots/{cool}/match", {})


def test_what_a_match_proposes_stays_within_what_a_white_balance_can(project, designer, monkeypatch):
    far = matching.Proposal(0, 900.0, -3.0, 0, 1, "far off")
    monkeypatch.setattr(matching, "match", lambda *seen: far)
    cool, even = Shot.objects.get(code="cool").pk, Shot.objects.get(code="even0").pk
    _, [step] = match.propose_match(designer, project.pk, cool, even, None)
    assert (step["warm"], step["tint"]) == (150, -0.05)


def test_a_check_that_waits_is_not_queued_again_but_one_that_runs_may_have_missed_something(api, project):
    path = f"/projects/{project.pk}/misfits"
    first = api.expect(200, "POST", path)["id"]
    assert api.expect(200, "POST", path)["id"] == first
    Job.objects.filter(pk=first).update(state=State.RUNNING)
    second = api.expect(200, "POST", path)["id"]
    assert second != first
    assert api.expect(200, "POST", path)["id"] == second
    assert Job.objects.filter(kind="misfits").count() == 2


@pytest.mark.parametrize(("begun", "state"), [(0, "done"), (2, "done"), (3, "failed")])
def test_a_job_is_given_up_once_its_worker_has_ended_three_times_and_not_before(designer, begun, state):
    job = misfits.check(designer, projects.create(designer, "Ferry").pk)
    Job.objects.filter(pk=job.pk).update(state=State.RUNNING, attempts=begun)
    jobs.perform(job.pk)
    job.refresh_from_db()
    assert (job.state, job.attempts) == (state, begun + 1)
    assert ("ended 3 times" in job.problem) is (state == "failed")
