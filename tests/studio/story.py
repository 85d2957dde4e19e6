"""A project to begin with: two scenes of two shots, and what lies on them."""

from __future__ import annotations

import pytest

from saucer.core.look.model import look_from
from saucer.studio.looks import rules as looks
from saucer.studio.pictures import rules as pictures
from tests.make import a_picture

WARM = {"kind": "white-balance", "warm": 40}
FADED = {"kind": "levels", "master": {"output_black": 0.12}}


def look(owner, name: str, *steps: dict) -> int:
    draft = looks.create(owner, look_from({"name": name, "steps": list(steps)}))
    looks.save_version(owner, draft.pk)
    return draft.pk


@pytest.fixture
def project(api, designer, tmp_path) -> dict:
    """Two scenes of two shots each."""
    made = api.expect(200, "POST", "/projects", {"name": "The Salt Ferry", "code": "TSF"})
    for scene in ("Quay", "Inside"):
        ids = [pictures.bring_in(designer, a_picture(tmp_path / f"{scene}{n}.png", seed=n), f"{scene}{n}.png").pk for n in (1, 2)]
        made = api.expect(200, "POST", f"/projects/{made['id']}/shots", {"shots": [{"scene": scene, "picture": pk} for pk in ids]})
    return made


def on(api, project: dict) -> dict[str, list[tuple[str, int, float]]]:
    """Shot to what lies on it: name, version, strength."""
    shots = api.get(f"/projects/{project['id']}")["shots"]
    return {one["code"]: [(layer["name"], layer["version"], layer["strength"]) for layer in one["layers"]] for one in shots}


def ids(project: dict, *codes: str) -> list[int]:
    return [one["id"] for one in project["shots"] if one["code"] in codes]
