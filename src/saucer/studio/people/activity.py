"""What was done in the studio: found, told, and written as a table."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterator
from datetime import date, datetime, time, timedelta
from typing import Annotated

from django.db.models import Q, QuerySet
from django.utils import timezone
from pydantic import BaseModel, Field

from saucer.studio.people.models import Activity, Person, Role
from saucer.studio.people.rules import name_of, require

PAGE = 100
MOST_EXPORTED = 50_000
FORMULAS = ("=", "+", "-", "@", "\t", "\r")
"""What a spreadsheet takes for a formula (OWASP, "CSV Injection")."""
COLUMNS = ("when", "who", "did", "kind", "what", "from", "token", "more")


class Wanted(BaseModel):
    """Which of the activity. words: in what it is about, who did it, or what was done; until: the day included"""

    person: Annotated[str, Field(max_length=150)] = ""
    action: Annotated[str, Field(max_length=40)] = ""
    words: Annotated[str, Field(max_length=200)] = ""
    since: date | None = None
    until: date | None = None
    before: Annotated[int | None, Field(description="older than the line of this number: for the next page")] = None


def find(person: Person, wanted: Wanted) -> QuerySet[Activity]:
    """The newest first. Raises: NotAllowed"""
    require(person, Role.CURATOR, "see the activity of the studio")
    found = Activity.objects.select_related("person").order_by("-pk")
    if wanted.person:
        found = found.filter(Q(person__username=wanted.person) | Q(person=None, about=wanted.person))
    if wanted.action:
        found = found.filter(action=wanted.action)
    for word in wanted.words.split()[:8]:
        found = found.filter(
            Q(about__icontains=word) | Q(action__icontains=word) | Q(person__full_name__icontains=word)
            | Q(person__username__icontains=word) | Q(address__startswith=word) | Q(data__guest__icontains=word)
        )  # fmt: skip
    if wanted.since:
        found = found.filter(at__gte=_start_of(wanted.since))
    if wanted.until:
        found = found.filter(at__lt=_start_of(wanted.until) + timedelta(days=1))
    return found if wanted.before is None else found.filter(pk__lt=wanted.before)


def _start_of(day: date) -> datetime:
    return datetime.combine(day, time.min, tzinfo=timezone.get_current_timezone())


def who_of(line: Activity) -> str:
    """As it is told; empty for the server itself."""
    return name_of(line.person, str(line.data.get("guest", "")))


def list_actions(person: Person) -> list[str]:
    """What was ever done, by its words. Raises: NotAllowed"""
    require(person, Role.CURATOR, "see the activity of the studio")
    return list(Activity.objects.order_by("action").values_list("action", flat=True).distinct())


def write_table(found: QuerySet[Activity]) -> Iterator[bytes]:
    """As CSV in UTF-8, the newest first, 50,000 lines at most; no cell is one that a spreadsheet would reckon."""
    yield "\ufeff".encode() + _line(COLUMNS)
    for one in found[:MOST_EXPORTED].iterator(chunk_size=1000):
        more = "; ".join(f"{name}: {value}" for name, value in sorted(one.data.items()))
        yield _line(
            (
                one.at.isoformat(timespec="seconds"),
                who_of(one),
                one.action,
                one.about_kind,
                one.about,
                one.address or "",
                one.token,
                more,
            )
        )


def _line(cells: tuple[str, ...]) -> bytes:
    text = io.StringIO()
    csv.writer(text).writerow([f"'{cell}" if cell.startswith(FORMULAS) else cell for cell in cells])
    return text.getvalue().encode()
