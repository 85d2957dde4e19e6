"""What somebody is told of: the notices they want, and once a day by mail those that they have not looked at, each once."""

from __future__ import annotations

import pytest
from django.core import mail
from django.test import override_settings

from saucer.core.look.model import look_from
from saucer.studio.catalogue.models import Kind, Notice, SeenBy, VersionState
from saucer.studio.catalogue.review import mailing
from saucer.studio.catalogue.review import rules as review
from saucer.studio.looks import rules as looks
from saucer.studio.people.models import Person
from tests.make import WARM
from tests.studio.conftest import api_for
from tests.studio.work import run_worker

pytestmark = pytest.mark.django_db


def proposed(designer: Person, name: str) -> int:
    look = looks.create(designer, look_from({"name": name, "steps": [WARM]}), seen_by=SeenBy.OWNER)
    looks.save_version(designer, look.pk)
    review.move(designer, Kind.LOOK, look.pk, 1, VersionState.PROPOSED)
    return look.pk


def test_one_is_told_of_what_one_wants_and_of_nothing_else(designer, curator):
    api = api_for(curator)
    assert api.get("/own")["told_of"] == ["proposal", "decision", "remark"]
    assert api.expect(200, "PATCH", "/own", {"told_of": ["remark"]})["told_of"] == ["remark"]
    look = proposed(designer, "Salt")
    assert not Notice.objects.exists()
    review.add_pin(curator, Kind.LOOK, look, 1, "Warm")
    assert [one.person for one in Notice.objects.all()] == [designer]
    api.expect(200, "PATCH", "/own", {"told_of": ["proposal", "decision"]})
    proposed(designer, "Tide")
    assert [one.about for one in Notice.objects.filter(person=curator)] == ["proposal"]
    api.expect(422, "PATCH", "/own", {"told_of": ["weather"]})


@override_settings(MAIL=True)
@pytest.mark.django_db(transaction=True)
def test_what_was_not_looked_at_is_mailed_once(designer, curator):
    Person.objects.filter(pk=curator.pk).update(email="marek@studio.example", is_mailed=True)
    first = proposed(designer, "Salt")
    proposed(designer, "Tide")
    seen = Notice.objects.filter(person=curator).earliest("pk")
    review.mark_seen(curator, seen.pk)
    assert mailing.mail_notices() == 1
    run_worker()
    (sent,) = mail.outbox
    assert (sent.to, sent.subject) == (["marek@studio.example"], "Saucer: 1 notice that you have not looked at")
    assert "Tide" in sent.body
    assert "Salt" not in sent.body
    assert mailing.mail_notices() == 0, "each once"
    review.move(designer, Kind.LOOK, first, 1, VersionState.DRAFT)
    review.move(designer, Kind.LOOK, first, 1, VersionState.PROPOSED)
    assert mailing.mail_notices() == 1
    run_worker()
    assert len(mail.outbox) == 2


@override_settings(MAIL=True)
@pytest.mark.parametrize("change", [{"is_mailed": False}, {"email": ""}, {"is_active": False}])
def test_nobody_is_mailed_who_did_not_ask_has_no_address_or_is_off(designer, curator, change):
    Person.objects.filter(pk=curator.pk).update(email="marek@studio.example", is_mailed=True)
    proposed(designer, "Salt")
    Person.objects.filter(pk=curator.pk).update(**change)
    assert mailing.mail_notices() == 0


@override_settings(MAIL=True)
def test_of_very_many_some_stand_there_and_how_many_more(designer, curator, monkeypatch):
    sent = []
    monkeypatch.setattr(mailing, "send", lambda person, what, more: sent.append((what, more)))
    monkeypatch.setattr(mailing, "MOST", 2)
    Person.objects.filter(pk=curator.pk).update(email="marek@studio.example", is_mailed=True)
    for name in ("Salt", "Tide", "Quay"):
        proposed(designer, name)
    mailing.mail_notices()
    ((what, more),) = sent
    assert what.startswith("3 notices")
    assert "... and 1 more." in more


def test_where_no_mail_is_set_up_nothing_is_mailed(designer, curator):
    Person.objects.filter(pk=curator.pk).update(email="marek@studio.example", is_mailed=True)
    proposed(designer, "Salt")
    assert mailing.mail_notices() == 0
