"""Links for people without an account: made, listed, revoked. What a link shows is what its maker may show, for as long as they may."""

from __future__ import annotations

import hashlib
import secrets
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta

from django.contrib.auth.hashers import make_password
from django.db import transaction
from django.db.models import Count, QuerySet
from django.utils import timezone

from saucer.studio.boards.models import Board
from saucer.studio.boards.rules import find as find_board
from saucer.studio.catalogue.models import Entry
from saucer.studio.catalogue.order.duplicates import FOLLOWS
from saucer.studio.catalogue.uses import FINDERS, Use
from saucer.studio.common.refusals import NotAllowed, NotFound, NotPossible
from saucer.studio.guests.models import GalleryEntry, GalleryPicture, GuestLink, Shows
from saucer.studio.people.models import Person, Role
from saucer.studio.people.rules import may, may_change, record, require
from saucer.studio.pictures.rules import find_to_share
from saucer.studio.projects import rules as projects
from saucer.studio.projects.models import Project

LONGEST = timedelta(days=92)
MOST_OPEN = 50
"""Links of one person that are open at the same time."""
MOST_ENTRIES, MOST_PICTURES = 60, 6
SHORTEST_PASSWORD = 6
GONE = "This link was revoked, has ended, or was never given. Ask whoever sent it for a new one."


@dataclass(frozen=True)
class Gallery:
    """Entries and the pictures that they are seen on, in their order."""

    name: str
    entries: tuple[int, ...]
    pictures: tuple[int, ...]


@dataclass(frozen=True)
class Terms:
    """How a link is given. until: the last day it is open; password: empty for none; words: said to whoever comes"""

    until: date
    password: str = ""
    stamp: bool = False
    words: str = ""


def hash_of(code: str) -> str:
    """A code is 256 random bits: one round says as little of it as many would."""
    return hashlib.sha256(code.encode()).hexdigest()


def make(person: Person, shown: Board | Project | Gallery, terms: Terms) -> tuple[GuestLink, str]:
    """The link and its code, which is told once. Raises: NotAllowed, NotFound, NotPossible"""
    require(person, Role.DESIGNER, "let people without an account see something")
    link = GuestLink(made_by=person, until=_end_of(terms.until), stamp=terms.stamp, words=terms.words.strip()[:500])
    if terms.password:
        if len(terms.password) < SHORTEST_PASSWORD:
            raise NotPossible(f"A password of a link has {SHORTEST_PASSWORD} letters at least.")
        link.password = make_password(terms.password)
    match shown:
        case Board():
            link.shows, link.board = Shows.BOARD, shown
        case Project():
            if not projects.may_lead(person, shown):
                raise NotAllowed(f"You cannot show {shown.name} to guests: whoever leads it can.")
            link.shows, link.project = Shows.WALL, shown
        case Gallery():
            link.shows, link.name = Shows.GALLERY, " ".join(shown.name.split())[:120]
    code = secrets.token_urlsafe(32)
    link.code_hash = hash_of(code)
    with transaction.atomic():
        Person.objects.select_for_update().get(pk=person.pk)
        if open_links().filter(made_by=person).count() >= MOST_OPEN:
            raise NotPossible(f"You have {MOST_OPEN} open links; revoke one first.")
        link.save()
        if isinstance(shown, Gallery):
            _fill(link, shown, person)
        record(
            person,
            "make guest link",
            link,
            shows=link.shows,
            until=str(terms.until),
            password=bool(terms.password),
            stamp=terms.stamp,
        )
    return link, code


def _end_of(day: date) -> datetime:
    """The moment after it. Raises: NotPossible"""
    today = timezone.localdate()
    if not today <= day <= today + LONGEST:
        raise NotPossible(f"A link ends today at the earliest and on {today + LONGEST} at the latest.")
    return datetime.combine(day + timedelta(days=1), time.min, tzinfo=timezone.get_current_timezone())


def _fill(link: GuestLink, gallery: Gallery, person: Person) -> None:
    if not link.name:
        raise NotPossible("What is shown needs a name.")
    for ids, most, noun in ((gallery.entries, MOST_ENTRIES, "entries"), (gallery.pictures, MOST_PICTURES, "pictures")):
        if not 1 <= len(ids) <= most or len(set(ids)) < len(ids):
            raise NotPossible(f"Show 1 to {most} {noun}, each of them once.")
    there = list(Entry.objects.visible_to(person).filter(pk__in=gallery.entries).only("name", "latest"))
    if len(there) < len(gallery.entries):
        raise NotFound("Some of these entries were deleted meanwhile. Choose again.")
    draft = next((one for one in there if one.latest_id is None), None)
    if draft is not None:
        raise NotPossible(f"{draft.name} is a draft without a version. Keep a version first: guests see versions.")
    find_to_share(gallery.pictures, person)
    GalleryEntry.objects.bulk_create(GalleryEntry(link=link, entry_id=one, position=at) for at, one in enumerate(gallery.entries))
    GalleryPicture.objects.bulk_create(
        GalleryPicture(link=link, picture_id=one, position=at) for at, one in enumerate(gallery.pictures)
    )


def open_links() -> QuerySet[GuestLink]:
    """Neither revoked nor ended."""
    return GuestLink.objects.filter(revoked=None, until__gt=timezone.now())


def is_open(link: GuestLink) -> bool:
    return link.revoked is None and link.until > timezone.now()


def last_day_of(link: GuestLink) -> date:
    return timezone.localdate(link.until - timedelta(seconds=1))


def may_still_show(link: GuestLink) -> bool:
    """May whoever made it show this to guests, as of now? Asked each time somebody comes."""
    maker = link.made_by
    if maker is None or not may(maker, Role.DESIGNER):
        return False
    if link.board is not None:
        return link.board.deleted is None
    if link.project is None:
        return True
    seen = Project.objects.visible_to(maker).filter(pk=link.project.pk).exists()
    return seen and projects.may_lead(maker, link.project)


def find_open(code: str) -> GuestLink:
    """Raises: NotFound for one that shows nothing, whatever the reason"""
    found = open_links().select_related("made_by", "board", "project").filter(code_hash=hash_of(code)).first()
    if found is None or not may_still_show(found):
        raise NotFound(GONE)
    return found


@dataclass(frozen=True)
class Listed:
    """came: how many have come by it"""

    link: GuestLink
    came: int
    may_revoke: bool


def list_links(person: Person, board: int | None = None, project: int | None = None) -> list[Listed]:
    """Those of a board or project that the person may see, or their own and, for curators, everybody's; the newest first.

    Raises: NotAllowed, NotFound
    """
    require(person, Role.DESIGNER, "see links for guests")
    shown = GuestLink.objects.select_related("made_by", "board", "project").annotate(came=Count("guests"))
    found, leads = shown.order_by("-made", "-pk"), False
    if board is not None:
        found = found.filter(board=find_board(board))
    elif project is not None:
        of = projects.find(person, project)
        found, leads = found.filter(project=of), projects.may_lead(person, of)
    elif not may(person, Role.CURATOR):
        found = found.filter(made_by=person)
    return [Listed(one, one.came, is_open(one) and (leads or may_change(person, one.made_by_id))) for one in found[:200]]


def revoke(person: Person, pk: int) -> None:
    """It shows nothing from now on; what guests have said stays. Raises: NotFound, NotAllowed"""
    require(person, Role.DESIGNER, "revoke links for guests")
    with transaction.atomic():
        link = open_links().select_for_update(of=("self",)).select_related("project", "board").filter(pk=pk).first()
        if link is None:
            raise NotFound("This link was revoked or has ended already.")
        if link.project is not None:
            projects.find(person, link.project.pk)
        leads = link.project is not None and projects.may_lead(person, link.project)
        if not leads and not may_change(person, link.made_by_id):
            raise NotAllowed("You cannot revoke this link: somebody else made it. A curator can.")
        link.revoked = timezone.now()
        link.save(update_fields=["revoked"])
        record(person, "revoke guest link", link, shows=link.shows)


def _find_uses(person: Person, entry: Entry) -> list[Use]:
    """Galleries that are open, of those whose links the person may see."""
    on = open_links().filter(entries__entry=entry)
    shown = on if may(person, Role.CURATOR) else on.filter(made_by=person)
    return [Use(name, "shown to guests", "/you/guests") for name in shown.values_list("name", flat=True)]


def _follow(kept: Entry, other: Entry) -> None:
    """Two entries become one: galleries that have only the other show the kept one in its place; verdicts stay where they were said."""
    both = GalleryEntry.objects.filter(entry=kept).values("link")
    GalleryEntry.objects.filter(entry=other).exclude(link__in=list(both.values_list("link", flat=True))).update(entry=kept)


FINDERS.append(_find_uses)
FOLLOWS.append(_follow)
