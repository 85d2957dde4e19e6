"""Calls made up from the API's own description, as a viewer and as a designer: none of them breaks anything, every answer is as described.

The same calls every time, two of each kind; two hundred with `--long`.
"""

from __future__ import annotations

import json
from collections import Counter

import jsonschema_rs
import pytest
import schemathesis
from django.core.wsgi import get_wsgi_application
from hypothesis import HealthCheck, Phase, given, settings

from saucer.core.files.formats import cube
from saucer.core.look.model import look_from
from saucer.studio.looks import rules as looks
from saucer.studio.luts import rules as luts
from saucer.studio.presets import rules as presets
from saucer.studio.site.openapi import WRITTEN
from tests.long import at_length
from tests.make import WARM, a_lut
from tests.studio.conftest import api_for

CALLS = at_length(1, 200)
# Signing out would end the calls.
LEFT_OUT = {("delete", "/api/session")}

pytestmark = pytest.mark.django_db(transaction=True)


def answer_whole(app):
    """Around the application: each answer is read and closed, as a server does, with the files that came and went."""

    def answer(environ, start):
        response = app(environ, start)
        try:
            return [b"".join(response)]
        finally:
            response.close()

    return answer


def check_is_as_described(raw, operation, response) -> None:
    """What comes as JSON fits the model that the API names for it (JSON Schema 2020-12, as OpenAPI 3.1 has it)."""
    told = raw["paths"][operation.path][operation.method]["responses"]
    told = told.get(str(response.status_code), {}).get("content", {})
    kind = response.headers["content-type"][0] if "content-type" in response.headers else ""
    if "application/json" in told and kind.startswith("application/json"):
        model = told["application/json"]["schema"] | {"components": raw["components"]}
        jsonschema_rs.validator_for(model).validate(response.json())
        described_answers[operation.path] += 1


described_answers: Counter[str] = Counter()


def put_in_real_ones(case, things: dict[str, int]) -> None:
    """Of two made-up numbers one becomes that of a thing that is there: nothing is at random numbers."""
    folder = case.path.split("/")[2]
    for name, value in list((case.path_parameters or {}).items()):
        if isinstance(value, int) and value % 2 == 0:
            case.path_parameters[name] = things.get(name, things.get(folder, things["looks"])) if name != "number" else 1
    for held in (case.body, case.query):
        if isinstance(held, dict):
            for name in ("picture", "entry"):
                if isinstance(held.get(name), int) and held[name] % 2 == 0:
                    held[name] = things["pictures" if name == "picture" else "catalogue"]


@pytest.mark.parametrize("role", ["viewer", "designer"])
def test_no_made_up_call_breaks_anything(role, viewer, designer, picture, settings_of_calls):
    draft = looks.create(designer, look_from({"name": "Salt", "steps": [WARM]}))
    looks.save_version(designer, draft.pk)
    lut = luts.bring_in(designer, cube.write(a_lut(5)), "one.cube").pk
    found = luts.lut_of(lut)
    things = {
        "looks": draft.pk, "bake": draft.pk, "luts": lut, "catalogue": lut, "shelf": lut, "pictures": picture.pk,
        "presets": presets.keep(designer, "Dusk", look_from({"steps": [WARM]}).steps).pk, "lut": found.pk,
        "lut-files": luts.first_file(found).pk,
    }  # fmt: skip
    cookies = api_for({"viewer": viewer, "designer": designer}[role]).client.cookies
    carried = {name: morsel.value for name, morsel in cookies.items()}
    headers = {"X-CSRFToken": carried["csrftoken"], "Host": "localhost", "Accept-Encoding": "identity"}
    raw = json.loads(WRITTEN.read_bytes())  # a test of what is generated holds it against the API: to make it takes seconds
    described_answers.clear()
    app, schema, called = answer_whole(get_wsgi_application()), schemathesis.openapi.from_dict(json.loads(WRITTEN.read_bytes())), 0
    done: Counter[str] = Counter()
    for made in schema.get_all_operations():
        operation = made.ok()
        if (operation.method, operation.path) in LEFT_OUT:
            continue

        @settings_of_calls
        @given(operation.as_strategy())
        def call(case) -> None:
            nonlocal called
            called += 1
            put_in_real_ones(case, things)
            response = case.call(app=app, headers=headers, cookies=carried)
            assert response.status_code < 500, (case.as_curl_command(), response.text)
            if response.status_code >= 400:
                assert response.headers["content-type"] == ["application/problem+json"], (case.as_curl_command(), response.text)
            else:
                done[f"{case.operation.method} {case.operation.path}"] += 1
                check_is_as_described(raw, case.operation, response)

        call()
    assert called > 80 * CALLS / 2
    assert sum(done.values()) > called / 8, "most are refused in words, not all"
    assert len(described_answers) > 15, "and their answers were looked at"
    assert len(done) > (25 if role == "viewer" else 40), "of as many paths"


@pytest.fixture
def settings_of_calls():
    return settings(
        max_examples=CALLS, derandomize=True, deadline=None, database=None, suppress_health_check=list(HealthCheck),
        phases=[Phase.explicit, Phase.generate],
    )  # fmt: skip
