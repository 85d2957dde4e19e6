"""How often somebody may try to sign in: limits by name and by address apart, counted from the activity, which tells of every failed try.

While a limit holds, tries are not looked at and do not count, so that nobody keeps a name locked by going on.
"""

from __future__ import annotations

import hashlib
import math
from collections import Counter
from datetime import datetime, timedelta

from django.db import connection
from django.utils import timezone

from saucer.studio.common.refusals import TooMany
from saucer.studio.people.models import Activity, Person
from saucer.studio.people.rules import record

WITHIN = timedelta(minutes=15)
MOST_FOR_NAME_HERE = 6
"""Failed tries for one name from one address."""
MOST_FROM_ADDRESS = 30
"""From one address for whatever names: an office behind one address mistypes less."""
MOST_FOR_NAME = 60
"""For one name from everywhere. It holds only where nobody of that name has signed in from lately: so nobody is locked out by others."""
KNOWN_FOR = timedelta(days=30)
FAILED, SIGNED_IN, UNLOCKED = "fail to sign in", "sign in", "unlock"


def hold_others(address: str) -> None:
    """Until the end of the transaction other tries from there wait, so that many at once do not slip through together."""
    key = int.from_bytes(hashlib.sha256(address.encode()).digest()[:8], signed=True)
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_advisory_xact_lock(%s)", [key])


def check(name: str, address: str) -> None:
    """Raises: TooMany, with how long it takes"""
    now = timezone.now()
    lately = Activity.objects.filter(at__gt=now - WITHIN).order_by("at")
    unlocked = dict(lately.filter(action=UNLOCKED, about__in=[name, address]).values_list("about", "at"))
    failed = lately.filter(action=FAILED)
    from_here = list(failed.filter(data__address=address).values_list("at", "about"))
    ends = [_end([at for at, _ in from_here if at > unlocked.get(address, at - WITHIN)], MOST_FROM_ADDRESS)]
    since = max([now - WITHIN, *([unlocked[name]] if name in unlocked else []), *_last_sign_in(name, address)])
    ends.append(_end([at for at, about in from_here if about == name and at > since], MOST_FOR_NAME_HERE))
    if not _is_known(name, address, now):
        ends.append(_end(list(failed.filter(about=name, at__gt=since).values_list("at", flat=True)), MOST_FOR_NAME))
    until = max((end for end in ends if end is not None), default=None)
    if until is not None:
        minutes = math.ceil((until - now).total_seconds() / 60)
        raise TooMany(
            f"Too many failed tries. Try again in {minutes} minute{'s' if minutes != 1 else ''}, "
            "or ask whoever runs the server: ./saucer people unlock lets you in at once."
        )


def _end(failures: list[datetime], most: int) -> datetime | None:
    """When the limit ends: once the oldest of the last `most` failures is over; None where it does not hold. failures: oldest first"""
    return failures[-most] + WITHIN if len(failures) >= most else None


def _last_sign_in(name: str, address: str) -> list[datetime]:
    found = Activity.objects.filter(action=SIGNED_IN, about=name, data__address=address, at__gt=timezone.now() - WITHIN)
    return list(found.order_by("-at").values_list("at", flat=True)[:1])


def _is_known(name: str, address: str, now: datetime) -> bool:
    return Activity.objects.filter(action=SIGNED_IN, about=name, data__address=address, at__gt=now - KNOWN_FOR).exists()


def note_failed(name: str, address: str) -> None:
    record(None, FAILED, name[:150], address=address)


def unlock(name: str, by: Person | None = None) -> None:
    """Forget failed tries of a name, or from an address."""
    record(by, UNLOCKED, name)


def list_held() -> set[str]:
    """Names that are held somewhere at the moment, by too many failed tries from one address."""
    since = timezone.now() - WITHIN
    unlocked = dict(Activity.objects.filter(at__gt=since, action=UNLOCKED).order_by("at").values_list("about", "at"))
    counts: Counter[tuple[str, str]] = Counter()
    for at, name, data in Activity.objects.filter(at__gt=since, action=FAILED).values_list("at", "about", "data"):
        if name not in unlocked or at > unlocked[name]:
            counts[name, str(data.get("address", ""))] += 1
    return {name for (name, _), count in counts.items() if count >= MOST_FOR_NAME_HERE}
