"""How often somebody may try to sign in, by a clock that is moved: limits by name and by address, when they end, and whom they never hold."""

from __future__ import annotations

from datetime import timedelta

import pytest
from django.utils import timezone

from saucer.studio.common.refusals import TooMany
from saucer.studio.people import tries
from saucer.studio.people.models import Activity
from saucer.studio.people.rules import record

HERE, ELSEWHERE = "203.0.113.1", "203.0.113.2"

pytestmark = pytest.mark.django_db


def failed(name: str, address: str, times: int, ago: float = 0) -> None:
    """ago: minutes"""
    for _ in range(times):
        tries.note_failed(name, address)
        _move(Activity.objects.latest("pk"), ago)


def signed_in(name: str, address: str, ago: float) -> None:
    record(None, tries.SIGNED_IN, name, address=address)
    _move(Activity.objects.latest("pk"), ago)


def _move(one: Activity, minutes: float) -> None:
    Activity.objects.filter(pk=one.pk).update(at=timezone.now() - timedelta(minutes=minutes))


def is_held(name: str, address: str) -> bool:
    try:
        tries.check(name, address)
    except TooMany:
        return True
    return False


@pytest.mark.parametrize(("count", "held"), [(5, False), (6, True)])
def test_six_failures_for_a_name_from_an_address_hold_that_name_there_and_nowhere_else(count, held):
    failed("ilse", HERE, count)
    assert is_held("ilse", HERE) is held
    assert not is_held("ilse", ELSEWHERE)
    assert not is_held("marek", HERE)


@pytest.mark.parametrize(("count", "held"), [(29, False), (30, True)])
def test_thirty_from_an_address_hold_it_for_every_name(count, held):
    for number in range(count):
        failed(f"name{number}", HERE, 1)
    assert is_held("somebody else", HERE) is held
    assert not is_held("name1", ELSEWHERE)


@pytest.mark.parametrize(("count", "held"), [(59, False), (60, True)])
def test_sixty_for_a_name_from_everywhere_hold_it_but_never_where_it_is_known(count, held):
    signed_in("ilse", "198.51.100.7", ago=29 * 24 * 60)
    signed_in("ilse", "198.51.100.8", ago=31 * 24 * 60)
    for number in range(count):
        failed("ilse", f"192.0.2.{number}", 1)
    assert is_held("ilse", ELSEWHERE) is held
    assert not is_held("ilse", "198.51.100.7"), "signed in from there within thirty days"
    assert is_held("ilse", "198.51.100.8") is held, "longer ago"
    assert not is_held("marek", ELSEWHERE)


def test_the_limit_ends_when_the_oldest_of_those_that_make_it_is_a_quarter_of_an_hour_old():
    failed("ilse", HERE, 1, ago=14.5)
    failed("ilse", HERE, 5, ago=2)
    with pytest.raises(TooMany, match=r"Try again in 1 minute, or ask"):
        tries.check("ilse", HERE)
    Activity.objects.all().delete()
    failed("ilse", HERE, 1, ago=15.1)
    failed("ilse", HERE, 5, ago=2)
    assert not is_held("ilse", HERE), "the first counts no more"
    failed("ilse", HERE, 1, ago=0)
    with pytest.raises(TooMany, match=r"Try again in 13 minutes, or ask"):
        tries.check("ilse", HERE)


def test_more_failures_than_make_the_limit_end_with_the_last_six():
    failed("ilse", HERE, 4, ago=10)
    failed("ilse", HERE, 6, ago=3)
    with pytest.raises(TooMany, match=r"Try again in 12 minutes"):
        tries.check("ilse", HERE)


def test_whoever_got_in_begins_anew_but_the_address_does_not():
    failed("ilse", HERE, 5, ago=5)
    signed_in("ilse", HERE, ago=4)
    failed("ilse", HERE, 5, ago=1)
    assert not is_held("ilse", HERE)
    failed("ilse", HERE, 1)
    assert is_held("ilse", HERE)
    Activity.objects.all().delete()
    for number in range(30):
        failed(f"name{number}", HERE, 1, ago=5)
    signed_in("ilse", HERE, ago=1)
    assert is_held("ilse", HERE), "thirty from there are thirty"


def test_signing_in_elsewhere_forgives_nothing_here():
    failed("ilse", HERE, 6, ago=5)
    signed_in("ilse", ELSEWHERE, ago=1)
    assert is_held("ilse", HERE)


@pytest.mark.parametrize("which", ["ilse", HERE])
def test_what_is_unlocked_is_let_in_and_counts_from_there(which):
    failed("ilse", HERE, 6, ago=5)
    for number in range(24):
        failed(f"name{number}", HERE, 1, ago=5)
    tries.unlock("ilse")
    tries.unlock(which)
    assert is_held("ilse", HERE) is (which == "ilse"), "the address holds unless it was unlocked too"
    assert Activity.objects.filter(action=tries.UNLOCKED).count() == 2, "who was let in again is told in the activity"
    tries.unlock(HERE)
    assert not is_held("ilse", HERE)
    failed("ilse", HERE, 6)
    assert is_held("ilse", HERE)


def test_a_name_too_long_for_an_account_is_noted_cut_and_stops_nothing():
    failed("x" * 400, HERE, 6)
    assert not is_held("ilse", HERE)
    assert {len(one) for one in Activity.objects.values_list("about", flat=True)} == {150}
