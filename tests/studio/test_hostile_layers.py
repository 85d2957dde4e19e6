"""Steps that are made to harm, sent as trims of shots, shown on them and looked at on the Bench: refused in words, and soon."""

from __future__ import annotations

import json
from typing import Any

import pytest

from saucer.studio.projects import rules as projects
from saucer.studio.projects.models import Layer
from saucer.studio.projects.story import shots

pytestmark = pytest.mark.django_db


def nested(depth: int) -> dict[str, Any]:
    step: dict[str, Any] = {"kind": "saturation", "factor": 1.1}
    for _ in range(depth):
        step = {"kind": "group", "steps": [step]}
    return step


POINTS = [[at / 20_000, at / 20_000] for at in range(20_001)]
HOSTILE: dict[str, list[Any]] = {
    "deep": [nested(400)],
    "many": [{"kind": "saturation", "factor": 1.1}] * 5000,
    "points": [{"kind": "curves", "master": POINTS}],
    "endless": [{"kind": "tone", "exposure": 1e308}],
    "a LUT that is nowhere": [{"kind": "lut", "sha256": "0" * 64}],
    "no step": [{"kind": "nothing"}, 5, None],
    "words": [{"kind": "x" * 100_000}],
    "no number": [{"kind": "tone", "exposure": "NaN"}],
}


@pytest.fixture
def shot(designer, picture) -> tuple[int, int]:
    project = projects.create(designer, "Ferry")
    return project.pk, shots.add_shots(designer, project.pk, [shots.NewShot(picture.pk, "One")])[0].pk


@pytest.mark.parametrize("name", HOSTILE)
def test_they_are_refused_wherever_they_are_sent(name, api, shot, picture):
    project, one = shot
    steps = HOSTILE[name]
    layer = {"role": "before", "steps": steps}
    for method, path, body in (
        ("POST", f"/projects/{project}/trims", {"shots": [one], "steps": steps}),
        ("PUT", f"/projects/{project}/layers", {"shots": [one], "layers": [layer]}),
        ("POST", f"/projects/{project}/shots/{one}/frame", {"layers": [layer]}),
        ("POST", "/looks/frame", {"look": {"steps": steps}, "picture": picture.pk, "quality": "drag"}),
    ):
        answer = api.call(method, path, body)
        told = json.loads(answer.content)
        assert answer.status_code in (404, 413, 422), (path, answer.content[:200])
        assert 5 < len(told["detail"]) < 2000, path
    assert not Layer.objects.exists()
