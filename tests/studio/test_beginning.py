"""The first hour of a studio: what it is offered comes once, as it is wanted, and all of it works."""

from __future__ import annotations

import pytest
from django.db import transaction

from saucer.core.look.model import look_from
from saucer.studio.catalogue.models import Category, Entry
from saucer.studio.encodings.rules import find as find_encoding
from saucer.studio.jobs.models import Job
from saucer.studio.people.models import Activity, Person
from saucer.studio.people.studio import the_studio
from saucer.studio.pictures.models import Picture
from saucer.studio.projects import rules as projects
from saucer.studio.projects.check import misfits
from saucer.studio.projects.check.misfits import TolerancesIn
from saucer.studio.projects.models import Project
from saucer.studio.start import beginning, starter
from tests.studio.conftest import api_for, person
from tests.studio.work import run_worker

EVERYTHING = {"pictures": True, "looks": True, "categories": True}


@pytest.fixture
def root(db) -> Person:
    return person("admin", "root")


@pytest.mark.django_db(transaction=True)
def test_all_that_is_offered_comes_published_and_measured_and_a_second_time_nothing(root, viewer):
    api = api_for(root)
    assert api.get("/studio/beginning") == {"waits": True, "pictures": 8, "looks": 6, "presets": 3, "categories": 6}
    job = api.expect(200, "POST", "/studio/beginning", EVERYTHING)
    run_worker()
    assert Job.objects.get(pk=job["id"]).state == "done"
    assert not api.get("/studio/beginning")["waits"]
    assert list(Picture.objects.order_by("position").values_list("name", "test")) == [(one.name, True) for one in starter.PICTURES]
    entries = Entry.objects.filter(kind="look")
    assert set(entries.values_list("name", flat=True)) == {one.name for one in starter.LOOKS}
    assert all(one.published_id and one.proposed and one.character.words is not None for one in Entry.objects.all())
    assert set(starter.CATEGORIES) <= set(Category.objects.filter(parent=None).values_list("name", flat=True))
    seen = api_for(viewer).get("/shelf/entries")
    assert seen["total"] == len(starter.LOOKS) + len(starter.PRESETS)
    before = Entry.objects.count(), Picture.objects.count(), Category.objects.count()
    api.expect(200, "POST", "/studio/beginning", EVERYTHING)
    run_worker()
    assert (Entry.objects.count(), Picture.objects.count(), Category.objects.count()) == before


@pytest.mark.django_db
def test_it_can_all_be_refused_and_is_not_asked_again(root):
    api = api_for(root)
    assert api.expect(200, "POST", "/studio/beginning", {}) is None
    assert not api.get("/studio/beginning")["waits"]
    assert not Job.objects.exists()
    api.expect(200, "POST", "/studio/beginning", {})
    assert Activity.objects.filter(action="begin studio").count() == 1


@pytest.mark.django_db
def test_a_worker_that_ended_half_way_goes_on_where_it_was(root, monkeypatch):
    made, whole = [], beginning.bring_in_picture

    def breaks(*given):
        if len(made) == 2:
            raise OSError("the worker ended")
        made.append(given)
        return whole(*given)

    monkeypatch.setattr(beginning, "bring_in_picture", breaks)
    wanted = beginning.BeginWork(pictures=True)
    with pytest.raises(OSError, match="ended"), transaction.atomic():
        beginning.bring_in(root, wanted, lambda done: None)
    monkeypatch.setattr(beginning, "bring_in_picture", whole)
    monkeypatch.setattr(starter, "PICTURES", starter.PICTURES[:1])
    beginning.bring_in(root, wanted, lambda done: None)
    assert Picture.objects.filter(test=True).count() == 1


def test_what_is_offered_can_be_read():
    """Every look and preset is one; every picture is there, in an encoding that there is."""
    for steps in (*(one.steps for one in starter.LOOKS), *(steps for _, _, steps in starter.PRESETS)):
        assert look_from({"steps": list(steps)}).steps
    for one in starter.PICTURES:
        assert (starter.FOLDER / one.file).is_file()
        assert find_encoding(one.encoding).id == one.encoding


@pytest.mark.django_db
def test_new_projects_leave_in_the_encoding_that_the_studio_says(root, designer):
    assert projects.create(designer, "Before").delivery == "rec709"
    api = api_for(root)
    assert api.expect(200, "PUT", "/studio/delivery", {"delivery": "srgb"}) == {"delivery": "srgb"}
    made = api_for(designer).expect(200, "POST", "/projects", {"name": "After"})
    assert (made["delivery"], api.get("/session")["delivery"]) == ("srgb", "srgb")
    assert api.get("/studio")["delivery"] == "srgb"
    assert "nonsense" in api.expect(422, "PUT", "/studio/delivery", {"delivery": "nonsense"})["detail"]
    assert the_studio().delivery == "srgb"
    api_for(designer).expect(403, "PUT", "/studio/delivery", {"delivery": "srgb"})


@pytest.mark.django_db
def test_in_new_projects_skin_may_turn_as_far_as_the_studio_says(root, designer):
    first, api = projects.create(designer, "First"), api_for(root)
    api.expect(200, "PATCH", "/studio", {"skin": 6})
    second = projects.create(designer, "Second")
    assert [misfits.tolerances_of(one).skin for one in (first, second)] == [10, 6]
    misfits.set_tolerances(designer, second.pk, TolerancesIn(skin=12))
    assert misfits.tolerances_of(Project.objects.get(pk=second.pk)).skin == 12
    assert "skin" in api.expect(422, "PATCH", "/studio", {"skin": 0})["detail"]
