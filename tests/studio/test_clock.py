"""A clock that jumps takes nothing away."""

from __future__ import annotations

from datetime import timedelta

import pytest
from django.core.management import CommandError, call_command
from django.utils import timezone

from saucer.studio.common import clock
from saucer.studio.common.models import Blob, Clock
from saucer.studio.common.store import keep_bytes
from saucer.studio.site import sweeping
from saucer.studio.site.work import sweep_nightly, watch_clock

pytestmark = pytest.mark.django_db


@pytest.fixture
def jumps(monkeypatch):
    """The database's clock goes on by so much."""

    def jump(by: timedelta) -> None:
        real = timezone.now()
        monkeypatch.setattr(clock, "database_now", lambda: real + by)
        monkeypatch.setattr(sweeping, "database_now", lambda: real + by)

    return jump


def test_the_clock_is_the_databases():
    assert abs(clock.database_now() - timezone.now()) < timedelta(seconds=5)


@pytest.mark.parametrize("by", [timedelta(days=40), timedelta(days=-40)])
def test_after_a_jump_nothing_goes_until_a_day_has_passed(by, jumps):
    keep_bytes(b"of a row that is not committed yet")
    watch_clock(timestamp=0)
    jumps(by)
    with pytest.raises(sweeping.ClockMoved, match="Nothing is taken away for a day"):
        sweeping.sweep()
    sweep_nightly(timestamp=0)
    assert Blob.objects.count() == 1
    assert sweeping.sweep(dry_run=True).files == (1 if by > timedelta() else 0)
    jumps(by + timedelta(hours=23))
    watch_clock(timestamp=0)
    with pytest.raises(sweeping.ClockMoved):
        sweeping.sweep()
    jumps(by + timedelta(hours=25))
    watch_clock(timestamp=0)
    assert sweeping.sweep().files == (1 if by > timedelta() else 0)


def test_an_ordinary_night_is_no_jump(jumps):
    for hours in (0, 12, 24, 47):
        jumps(timedelta(hours=hours))
        watch_clock(timestamp=0)
        sweeping.sweep()
    assert Clock.objects.get().moved_at is None


def test_whoever_runs_the_server_says_that_the_clock_is_right(jumps, capsys):
    watch_clock(timestamp=0)
    jumps(timedelta(days=9))
    with pytest.raises(CommandError, match="--clock-is-right"):
        call_command("sweep")
    call_command("sweep", "--clock-is-right")
    assert "Freed: nothing" in capsys.readouterr().out
    jumps(timedelta(days=20))
    call_command("sweep", "--clock-is-right")
    assert "Freed: nothing" in capsys.readouterr().out, "also when nobody has looked at it since"
