"""The database's clock, watched: what takes away what is old has to know whether time has passed, or a clock was moved."""

from __future__ import annotations

from datetime import datetime, timedelta

from django.db import transaction
from django.db.models.functions import Now

from saucer.studio.common.models import Clock

LARGEST_STEP = timedelta(days=1)
"""Between two looks; they are a minute apart while anything runs."""
SETTLES_IN = timedelta(days=1)
"""After which a clock that has gone on by itself is believed."""


def database_now() -> datetime:
    """As the database tells it, for every machine the same."""
    # A SELECT needs a table; this one always answers, whether or not it holds a row.
    Clock.objects.get_or_create(pk=1, defaults={"seen": Now()})
    found: datetime = Clock.objects.annotate(now=Now()).values_list("now", flat=True).get(pk=1)
    return found


def look_at_clock(now: datetime | None = None) -> None:
    """Keep what time it is; where it is more than a day away from the last look, that too."""
    with transaction.atomic():
        now = now or database_now()
        clock = Clock.objects.select_for_update().get_or_create(pk=1, defaults={"seen": now})[0]
        if abs(now - clock.seen) > LARGEST_STEP:
            clock.moved_from, clock.moved_at = clock.seen, now
        clock.seen = now
        clock.save(update_fields=["seen", "moved_from", "moved_at"])


def why_not_trusted(now: datetime) -> str:
    """What is the matter with the clock, in words; empty for nothing."""
    clock = Clock.objects.filter(pk=1).first()
    if clock is None or clock.moved_at is None or clock.moved_from is None:
        return ""
    if now - clock.moved_at >= SETTLES_IN:
        return ""
    return (
        f"The clock went from {clock.moved_from:%Y-%m-%d %H:%M} to {clock.moved_at:%Y-%m-%d %H:%M} at once: nothing was running, or it was "
        "moved. Nothing is taken away for a day; if the time is right, `./saucer sweep --clock-is-right` goes on at once."
    )


def believe_clock() -> None:
    """Whoever runs the server says that it is right, whatever it did since it was looked at last."""
    look_at_clock()
    Clock.objects.filter(pk=1).update(moved_at=None, moved_from=None)
