"""A look as a sheet to print: what stands on it, read back out of the PDF."""

from __future__ import annotations

import re
import zlib

import pytest

from saucer.studio.pictures.models import Picture
from tests.make import WARM
from tests.studio.conftest import api_for

pytestmark = pytest.mark.django_db
STEPS = [WARM | {"name": "Print warmth", "note": "As the first reel has it"}, {"kind": "grain", "amount": 0.2, "strength": 0.5}]


def words_of(pdf: bytes) -> str:
    """Text of a PDF that has its streams deflated, as ours are (ISO 32000-1, 7.4.4)."""
    found = []
    for stream in re.findall(rb"/FlateDecode \].*?stream\r?\n(.*?)endstream", pdf, re.DOTALL):
        text = zlib.decompressobj().decompress(stream)  # what stands behind its end is left aside
        found += re.findall(rb"\((.*?)(?<!\\)\) Tj", text)
    return b" ".join(found).decode("latin-1")


def test_before_after_steps_and_what_it_does(api, designer, viewer, picture):
    pk = api.expect(200, "POST", "/looks", {"name": "Salt (day)", "steps": STEPS})["id"]
    assert "Keep one first" in api.expect(422, "GET", f"/looks/{pk}/sheet.pdf")["detail"]
    api.save_version(pk, "After the test")
    response = api.call("GET", f"/looks/{pk}/sheet.pdf?picture={picture.pk}")
    assert (response.status_code, response["Content-Type"]) == (200, "application/pdf")
    assert response["Content-Disposition"].endswith("-v1.pdf")
    pdf = response.content
    assert pdf.count(b"/Subtype /Image") >= 3, "the disc, before and after"
    said = words_of(pdf)
    for words in ("Look, version 1", "draft", "by Designer", "After the test", "Before and after", "Quay", "Print warmth",
                  "As the first reel has it", "Grain, at 50 %", "What it does on the whole"):  # fmt: skip
        assert words in said, words
    assert "Files baked" not in said
    api_for(viewer).expect(404, "GET", f"/looks/{pk}/sheet.pdf")


def test_one_of_a_family_is_printed_as_itself_and_the_recipe_names_them(api, picture):
    family = [
        {"name": "Night", "settings": {"tone": {"exposure": -1.0}}, "strength": 0.5},
        {"name": "Same", "settings": {}},
    ]
    steps = [{"kind": "tone", "id": "tone", "exposure": 0.25}]
    pk = api.expect(200, "POST", "/looks", {"name": "Salt", "steps": steps, "family": family})["id"]
    api.save_version(pk)
    recipe = api.call("GET", f"/looks/{pk}/sheet.pdf?picture={picture.pk}").content
    night = api.call("GET", f"/looks/{pk}/sheet.pdf?picture={picture.pk}&member=Night")
    assert night["Content-Disposition"].endswith("salt-night-v1.pdf")
    told, told_night = words_of(recipe), words_of(night.content)
    for words in ("Its family", "Night", "As the recipe", "exposure 0.25 -> -1", "What it does on the whole"):
        assert words in told, words
    for words in ("Salt, Night", "Beside the recipe", "exposure 0.25 -> -1"):
        assert words in told_night, words
    assert "Same" not in told_night
    assert "What it does on the whole" not in told_night, "that is measured of the recipe"
    assert recipe.count(b"/Subtype /Image") == night.content.count(b"/Subtype /Image")
    api.expect(422, "GET", f"/looks/{pk}/sheet.pdf?member=Day")


def test_what_does_not_fit_goes_on_overleaf(api, picture):
    Picture.objects.update(test=True)
    steps = [{"kind": "tone", "exposure": 0.01, "name": f"Step {index}", "note": "why " * 60} for index in range(40)]
    pk = api.expect(200, "POST", "/looks", {"name": "Long", "steps": steps})["id"]
    api.save_version(pk)
    pdf = api.call("GET", f"/looks/{pk}/sheet.pdf").content
    assert len(re.findall(rb"/Type /Page\b", pdf)) > 2
    assert "Step 39" in words_of(pdf)
