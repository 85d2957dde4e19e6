"""Calls made up from the API's own description, as a viewer and as a designer: none of them breaks anything, every answer is as described.

The same calls every time; `SAUCER_CALLS=200` makes so many of each kind.
"""

from __future__ import annotations

import os

import pytest
import schemathesis
from django.core.wsgi import get_wsgi_application
from hypothesis import HealthCheck, Phase, given, settings
from schemathesis.checks import not_a_server_error
from schemathesis.specs.openapi.checks import content_type_conformance, response_schema_conformance

from saucer.core.files.formats import cube
from saucer.core.look.model import look_from
from saucer.studio.looks import rules as looks
from saucer.studio.luts import rules as luts
from saucer.studio.presets import rules as presets
from saucer.studio.site.api import api as described
from tests.make import WARM, a_lut
from tests.studio.conftest import api_for

CALLS = int(os.environ.get("SAUCER_CALLS", "8"))
# Signing out would end the calls.
LEFT_OUT = {("delete", "/api/session")}

pytestmark = [pytest.mark.django_db(transaction=True), pytest.mark.xdist_group("made up calls")]


@pytest.mark.parametrize("role", ["viewer", "designer"])
def test_no_made_up_call_breaks_anything(role, viewer, designer, picture, settings_of_calls):
    draft = looks.create(designer, look_from({"name": "Salt", "steps": [WARM]}))
    looks.save_version(designer, draft.pk)
    luts.bring_in(designer, cube.write(a_lut(5)), "one.cube")
    presets.keep(designer, "Dusk", look_from({"steps": [WARM]}).steps)
    cookies = api_for({"viewer": viewer, "designer": designer}[role]).client.cookies
    headers = {
        "Cookie": "; ".join(f"{name}={morsel.value}" for name, morsel in cookies.items()), "X-CSRFToken": cookies["csrftoken"].value,
        "Host": "localhost",
    }  # fmt: skip
    app, schema, called = get_wsgi_application(), schemathesis.openapi.from_dict(described.get_openapi_schema()), 0
    checks = [not_a_server_error, response_schema_conformance, content_type_conformance]
    for found in schema.get_all_operations():
        operation = found.ok()
        if (operation.method, operation.path) in LEFT_OUT:
            continue

        @settings_of_calls
        @given(operation.as_strategy())
        def call(case) -> None:
            nonlocal called
            called += 1
            response = case.call(app=app, headers=headers)
            assert response.status_code < 500, (case.as_curl_command(), response.text)
            if response.status_code >= 400:
                assert response.headers["content-type"] == ["application/problem+json"], (case.as_curl_command(), response.text)
            else:
                case.validate_response(response, checks=checks)

        call()
    assert called > 80 * CALLS / 2


@pytest.fixture
def settings_of_calls():
    return settings(
        max_examples=CALLS, derandomize=True, deadline=None, database=None, suppress_health_check=list(HealthCheck),
        phases=[Phase.explicit, Phase.generate],
    )  # fmt: skip
