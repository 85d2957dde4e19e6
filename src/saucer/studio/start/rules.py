"""What somebody finds when they come back: their own looks, boards and projects, what waits for them, what is new."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

from django.db.models import Count, Max, OuterRef, Prefetch, Q, Subquery
from django.db.models.functions import Coalesce
from django.utils import timezone

from saucer.studio.boards.models import Board, BoardEntry, BoardPicture, Verdict
from saucer.studio.catalogue.models import Entry, Kind, Pin, Review, Version, VersionState
from saucer.studio.catalogue.review import rules as review
from saucer.studio.people.models import Person, Role
from saucer.studio.people.rules import may
from saucer.studio.pictures.models import Picture
from saucer.studio.projects.models import Membership, Project
from saucer.studio.projects.story.overview import last_worked

LOOKS, BOARDS, PROJECTS, NEWS, WAITING = 5, 3, 4, 6, 8
"""So many of each at most."""
NEW_FOR = timedelta(days=30)


@dataclass(frozen=True)
class OwnBoard:
    """said: verdicts of others since the person last said something on it; entry, picture: what stands first on it"""

    id: int
    name: str
    changed: datetime
    said: int
    entry: int | None
    picture: int | None


@dataclass(frozen=True)
class Awaited:
    """A version that somebody else is waiting for the person to look at, or that came back to them.

    state: proposed or sent back; by: who moved it there; remarks: that nobody has settled
    """

    entry: int
    kind: Kind
    name: str
    number: int
    state: VersionState
    by: str
    words: str
    remarks: int
    at: datetime


def list_own_looks(person: Person) -> list[int]:
    """Looks that the person owns or was the last to edit, the one touched last first."""
    there = Entry.objects.visible_to(person).filter(begun=True, kind=Kind.LOOK)
    own = there.filter(Q(owner=person) | Q(look_draft__edited_by=person))
    return list(own.order_by("-look_draft__edited", "-pk").values_list("pk", flat=True)[:LOOKS])


def list_own_boards(person: Person) -> list[OwnBoard]:
    """Boards that the person made or judged on, the one changed last first."""
    mine = Q(owner=person) | Q(pk__in=Verdict.objects.filter(person=person).values("board"))
    entries = Prefetch("entries", BoardEntry.objects.filter(entry__in=Entry.objects.visible_to(person)), to_attr="shown_entries")
    pictures = Prefetch(
        "pictures", BoardPicture.objects.filter(picture__in=Picture.objects.visible_to(person)), to_attr="shown_pictures"
    )
    found = Board.objects.filter(mine, deleted=None).prefetch_related(entries, pictures)
    boards = list(found[:BOARDS])
    said = _count_said(boards, person)
    return [
        OwnBoard(
            one.pk, one.name, one.changed, said.get(one.pk, 0),
            # Where names are hidden the first of them would say which it is.
            None if one.shuffle or not one.shown_entries else one.shown_entries[0].entry_id,
            one.shown_pictures[0].picture_id if one.shown_pictures else None,
        )
        for one in boards
    ]  # fmt: skip


def _count_said(boards: Sequence[Board], person: Person) -> dict[int, int]:
    """Verdicts of others that came after the person's own last one on each board."""
    own = Verdict.objects.filter(board__in=boards, person=person).order_by().values_list("board").annotate(at=Max("at"))
    later = Q(board__in=boards)
    for board, at in own:
        later &= ~Q(board=board, at__lte=at)
    others = Verdict.objects.filter(later).exclude(person=person).order_by()
    return dict(others.values_list("board").annotate(n=Count("pk")))


def list_projects(person: Person) -> tuple[list[Project], int]:
    """Those that the person leads or is a member of and that were worked at last, and how many there are for them in all."""
    there = Project.objects.visible_to(person)
    mine = Q(owner=person) | Q(pk__in=Membership.objects.filter(person=person).values("project"))
    own = list(there.filter(mine).select_related("owner"))
    worked = last_worked(own)
    return sorted(own, key=lambda one: worked[one.pk], reverse=True)[:PROJECTS], there.count()


def list_waiting(person: Person) -> list[Awaited]:
    """For curators what others have proposed; for everybody who makes something, what came back or has open remarks. The oldest first."""
    wanted: list[Version] = []
    if may(person, Role.CURATOR):
        wanted += [one for one in review.list_queue(person) if one.entry.owner_id != person.pk][:WAITING]
    if may(person, Role.DESIGNER):
        wanted += _came_back(person)
    moved = _last_moves(wanted)
    remarks = dict(
        Pin.objects.filter(version__in=wanted, settled=None, answers=None)
        .exclude(person=person)
        .order_by()
        .values_list("version")
        .annotate(n=Count("pk"))
    )
    found = [
        Awaited(
            one.entry_id, Kind(one.entry.kind), one.entry.name, one.number, VersionState(one.state),
            _who(moved.get(one.pk), one), moved[one.pk].words if one.pk in moved else "", remarks.get(one.pk, 0),
            moved[one.pk].at if one.pk in moved else one.made,
        )
        for one in wanted
    ]  # fmt: skip
    return sorted(found, key=lambda one: one.at)[:WAITING]


def _came_back(person: Person) -> list[Version]:
    """The person's own latest versions that were sent back, or remarked on by others and not settled."""
    open_remarks = Pin.objects.filter(settled=None, answers=None).exclude(person=person).values("version")
    own = Version.objects.filter(
        entry__owner=person, entry__deleted=None, pk__in=Entry.objects.filter(owner=person).values("latest")
    )
    found = own.filter(Q(state=VersionState.SENT_BACK) | Q(pk__in=open_remarks)).select_related("entry", "made_by").defer("content")
    return list(found.order_by("-made")[:WAITING])


def _last_moves(versions: Sequence[Version]) -> dict[int, Review]:
    last = Review.objects.filter(version__in=versions).order_by("version_id", "-at", "-pk").distinct("version_id")
    return {one.version_id: one for one in last.select_related("person")}


def _who(move: Review | None, version: Version) -> str:
    person = move.person if move is not None else version.made_by
    return person.shown_name if person is not None else ""


def list_news(person: Person) -> list[int]:
    """Entries of others that were published within a month, the newest first."""
    since = timezone.now() - NEW_FOR
    published = Review.objects.filter(version=OuterRef("published"), became=VersionState.PUBLISHED).order_by("-at").values("at")[:1]
    there = Entry.objects.visible_to(person).filter(begun=True, published__isnull=False)
    # What comes with Saucer, or out of a backup, was published without anybody's review.
    found = there.exclude(owner=person).annotate(since=Coalesce(Subquery(published), "published__made"))
    return list(found.filter(since__gt=since).order_by("-since", "-pk").values_list("pk", flat=True)[:NEWS])
