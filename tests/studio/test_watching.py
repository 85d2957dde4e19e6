"""What whoever runs the server sees of it: numbers of requests that lead from an answer into the logs and on into jobs, and metrics."""

from __future__ import annotations

import json
import logging
from pathlib import Path

import numpy as np
import pytest
from django.test import Client
from prometheus_client.parser import text_string_to_metric_families

from saucer.core.files.formats import cube
from saucer.launch.places import ROOT
from saucer.studio.common.tracing import logging_settings, numbered, request_number
from saucer.studio.jobs import tasks
from saucer.studio.jobs.models import Job
from saucer.studio.people import rules as people
from saucer.studio.people.rules import line_of
from saucer.studio.preview.kept import kept_preview
from saucer.studio.site import watching
from tests.make import a_lut
from tests.studio.conftest import api_for, person
from tests.studio.work import run_worker

pytestmark = pytest.mark.django_db
ALERTS = ROOT / "deploy" / "metrics" / "alerts.yml"
BOARD = ROOT / "deploy" / "metrics" / "board.json"


def samples(text: str) -> dict[str, float]:
    """By name, with the labels as they are written."""
    found = {}
    for family in text_string_to_metric_families(text):
        for one in family.samples:
            labels = ",".join(f"{name}={value}" for name, value in sorted(one.labels.items()))
            found[f"{one.name}{{{labels}}}" if labels else one.name] = one.value
    return found


def scrape(settings, token: str = "let-me-see") -> dict[str, float]:
    settings.METRICS_TOKEN = "let-me-see"
    response = Client().get("/metrics", headers={"Authorization": f"Bearer {token}"})
    assert response.status_code == 200
    return samples(response.content.decode())


def test_metrics_are_shown_to_who_says_the_token_and_to_nobody_else(settings):
    assert Client().get("/metrics").status_code == 404
    settings.METRICS_TOKEN = "let-me-see"
    for said in ({}, {"Authorization": "Bearer other"}, {"Authorization": "let-me-seen"}):
        assert Client().get("/metrics", headers=said).status_code == 403
    assert "saucer_workers" in scrape(settings)


def test_what_was_there_already_is_counted(settings):
    counts = [scrape(settings)]
    for _ in range(2):
        kept_preview(f"counted-{id(counts)}", lambda: b"\xff\xd8\xff\xd9")
        counts.append(scrape(settings))
    told = [[count.get(f"saucer_found_total{{there={there},what=preview}}", 0) for count in counts] for there in ("no", "yes")]
    assert [np.diff(one).tolist() for one in told] == [[1, 0], [0, 1]]


def test_requests_are_counted_by_route_and_not_by_address(settings, designer):
    name = "saucer_request_seconds_count{method=GET,route=api/looks/<pk>,status=404}"
    before = scrape(settings).get(name, 0)
    for number in (901, 902, 903):
        api_for(designer).call("GET", f"/looks/{number}")
    found = scrape(settings)
    assert found[name] == before + 3
    assert not any("901" in one for one in found)


@pytest.mark.django_db(transaction=True)
def test_jobs_store_and_people_are_told_as_they_are(settings, designer):
    api = api_for(designer)
    api.get("/own")
    api.upload("/luts", "one.cube", cube.write(a_lut(5)))
    before = scrape(settings)
    assert before["saucer_store_files"] >= 1
    assert before["saucer_people_seen"] == 1
    assert before["saucer_backup_age_seconds"] == -1
    people.record(None, "back up", "20010101T000000Z")
    api.send_files("/packs", ["files"], paths='["files.cube"]')
    waiting = scrape(settings)
    assert waiting["saucer_jobs{kind=intake,state=waiting}"] == 1
    assert waiting["saucer_oldest_waiting_job_seconds{kind=intake}"] >= 0
    assert 0 <= waiting["saucer_backup_age_seconds"] < 60
    run_worker()
    assert "saucer_jobs{kind=intake,state=waiting}" not in scrape(settings)


def test_an_answer_and_its_refusal_carry_the_number_of_the_request(designer):
    response = api_for(designer).call("GET", "/looks/901")
    assert response.json()["request"] == response[watching.HEADER]
    assert len(response[watching.HEADER]) == 10
    again = api_for(designer).call("GET", "/looks/901")
    assert again[watching.HEADER] != response[watching.HEADER]


def test_what_breaks_is_found_in_the_log_by_the_number_that_the_person_is_told(designer, monkeypatch, caplog):
    def broken(*given):
        raise RuntimeError("so it is")

    monkeypatch.setattr("saucer.studio.people.accounts.password_rules", broken)
    with caplog.at_level(logging.ERROR):
        response = api_for(designer).call("GET", "/own")
    assert response.status_code == 500
    assert response[watching.HEADER] in response.json()["detail"]


@pytest.mark.parametrize("form", ["lines", "json"])
def test_a_line_of_the_log_has_the_number_and_what_went_wrong(form, capsys):
    import logging.config

    kept = logging.getLogger("saucer.test")
    told = logging_settings(form)
    handler = logging.StreamHandler()
    formatter = told["formatters"]["told"]
    handler.setFormatter(formatter["()"](foreign_pre_chain=formatter["foreign_pre_chain"], processors=formatter["processors"]))
    kept.addHandler(handler)
    kept.setLevel(logging.INFO)
    kept.propagate = False
    try:
        with numbered("abc123", job=7):
            kept.info("job begins", extra={"kind": "bake"})
            try:
                raise ValueError("so it is")
            except ValueError:
                kept.exception("it broke")
    finally:
        kept.removeHandler(handler)
        kept.propagate = True
    text = capsys.readouterr().err
    if form == "json":
        first, second = (json.loads(line) for line in text.splitlines())
        assert (first["event"], first["number"], first["job"], first["kind"]) == ("job begins", "abc123", 7, "bake")
        assert second["exception"][0]["exc_value"] == "so it is"
    else:
        assert "job begins" in text.splitlines()[0]
        assert "number=abc123" in text.splitlines()[0]
        assert "ValueError: so it is" in text


@pytest.mark.django_db(transaction=True)
def test_number_and_address_go_on_into_the_job_that_was_asked_for(designer, monkeypatch):
    found = []
    monkeypatch.setattr(
        tasks.rules, "perform", lambda pk: found.append((pk, request_number.get(), line_of(designer, "try", "it").address))
    )
    response = api_for(designer).send_files("/packs", ["files"], paths='["files.cube"]')
    run_worker()
    assert found == [(Job.objects.get().pk, response[watching.HEADER], "127.0.0.1")]


def test_what_is_slow_is_told(designer, monkeypatch, caplog):
    monkeypatch.setattr(watching, "SLOW", 0.0)
    with caplog.at_level(logging.WARNING, "saucer.requests"):
        api_for(designer).get("/session")
    assert any(one.getMessage() == "slow" and one.path == "/api/session" for one in caplog.records)


def test_alerts_and_board_name_only_what_there_is(settings):
    """A rule over a name that nobody exports never fires."""
    api_for(person("viewer")).get("/session")
    there = {name.partition("{")[0] for name in scrape(settings)} | {
        "saucer_turn_seconds_bucket",
        "saucer_oldest_waiting_job_seconds",
        "saucer_jobs",
    }
    for path in (ALERTS, BOARD):
        named = {word for word in _words(path) if word.startswith("saucer_")}
        assert named
        assert named <= there, path.name


def _words(path: Path) -> list[str]:
    text = path.read_text()
    for mark in "(){}[],\"'=":
        text = text.replace(mark, " ")
    return text.split()
