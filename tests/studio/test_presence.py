"""Who else has a look open, by a clock that is moved: how long a page is here without a word, and until when somebody is editing."""

from __future__ import annotations

from datetime import timedelta

import pytest
from django.utils import timezone

from saucer.core.look.model import look_from
from saucer.studio.common.refusals import NotFound
from saucer.studio.looks import presence
from saucer.studio.looks import rules as looks
from saucer.studio.looks.models import Presence
from tests.studio.conftest import propose_all


@pytest.fixture
def look(designer) -> int:
    return looks.create(designer, look_from({"name": "Salt", "steps": []})).pk


def move(page: str, seconds: float) -> None:
    """As if all that it has told was so long ago."""
    for one in Presence.objects.filter(page=page):
        back = timedelta(seconds=seconds)
        Presence.objects.filter(pk=one.pk).update(seen=one.seen - back, edited=one.edited and one.edited - back)


def test_one_is_not_told_of_oneself_but_of_ones_other_page(look, designer):
    assert presence.tell(designer, look, "one", edited=False) == []
    assert presence.tell(designer, look, "one", edited=True) == []
    assert presence.tell(designer, look, "two", edited=False) == [presence.Other(designer.shown_name, True, True)]


def test_the_same_page_number_of_somebody_else_is_another_page(look, designer, curator):
    presence.tell(designer, look, "one", edited=False)
    assert presence.tell(curator, look, "one", edited=False) == [presence.Other(designer.shown_name, False, False)]


@pytest.mark.parametrize(("ago", "here"), [(19, True), (21, False)])
def test_a_page_is_here_for_twenty_seconds_after_its_last_word(look, designer, curator, ago, here):
    presence.tell(designer, look, "one", edited=False)
    move("one", ago)
    assert bool(presence.tell(curator, look, "two", edited=False)) is here


@pytest.mark.parametrize(("ago", "editing"), [(59, True), (61, False)])
def test_somebody_is_editing_for_a_minute_after_their_last_change(look, designer, curator, ago, editing):
    presence.tell(designer, look, "one", edited=True)
    move("one", ago)
    presence.tell(designer, look, "one", edited=False)
    [other] = presence.tell(curator, look, "two", edited=False)
    assert other.editing is editing


def test_a_viewer_who_tries_strengths_edits_nothing(look, designer, viewer):
    propose_all()
    presence.tell(viewer, look, "one", edited=True)
    assert presence.tell(designer, look, "two", edited=False) == [presence.Other(viewer.shown_name, False, False)]


def test_who_leaves_is_gone_at_once_and_learns_nothing(look, designer, curator):
    presence.tell(designer, look, "one", edited=True)
    presence.tell(designer, look, "two", edited=False)
    assert presence.tell(designer, look, "one", edited=False, leaving=True) == []
    assert len(presence.tell(curator, look, "three", edited=False)) == 1
    assert presence.tell(curator, look, "one", edited=False, leaving=True) == [], "a page of somebody else's is not sent away"
    assert Presence.objects.filter(person=designer).count() == 1


@pytest.mark.parametrize(("ago", "kept"), [(199, True), (201, False)])
def test_pages_that_say_nothing_are_forgotten_in_the_end(look, designer, curator, ago, kept):
    presence.tell(designer, look, "one", edited=False)
    move("one", ago)
    presence.tell(curator, look, "two", edited=False)
    assert Presence.objects.filter(page="one").exists() is kept


def test_those_at_another_look_are_not_told_of(look, designer, curator):
    other = looks.create(designer, look_from({"name": "Tide", "steps": []})).pk
    presence.tell(designer, other, "one", edited=False)
    assert presence.tell(curator, look, "two", edited=False) == []
    with pytest.raises(NotFound):
        presence.tell(curator, 10**9, "two", edited=False)
    assert timezone.now() - Presence.objects.get(page="one").seen < timedelta(minutes=1)
