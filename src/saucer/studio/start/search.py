"""Anything there is, by a few words of its name: entries, boards, projects, shots and pictures that the person may see."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import reduce
from operator import or_
from typing import TypeVar

from django.db.models import Model, Q, QuerySet

from saucer.studio.boards.models import Board
from saucer.studio.catalogue.find import listing
from saucer.studio.catalogue.find.wanted import MOST_WORDS, Wanted
from saucer.studio.people.models import Person
from saucer.studio.pictures.models import Picture
from saucer.studio.projects.models import Project, Shot

MOST = 6
"""Of each kind: who sees none of what they meant goes on typing."""
SHOT_PLACES = ("scene__name", "scene__project__name", "scene__project__code")
Thing = TypeVar("Thing", bound=Model)


@dataclass(frozen=True)
class Found:
    """entries: numbers, in the order they are shown in"""

    entries: list[int]
    boards: list[Board]
    projects: list[Project]
    shots: list[Shot]
    pictures: list[Picture]


def search(words: str, person: Person) -> Found:
    """A few queries, however much there is. words: each has to stand in the name or the place; of entries, anywhere"""
    wanted = words.split()[:MOST_WORDS]
    projects = Project.objects.visible_to(person)
    shots = Shot.objects.filter(deleted=None, scene__project__in=projects).select_related("scene__project", "picture")
    entries = listing.list_page(person, Wanted(" ".join(wanted), order="mine"), size=MOST).entries
    return Found(
        [one.pk for one in entries],
        _named(Board.objects.filter(deleted=None), wanted, "name"),
        _named(projects, wanted, "name", "code"),
        _named(shots.order_by("-scene__project__created", "scene__position", "position", "pk"), wanted, "code", *SHOT_PLACES),
        _named(Picture.objects.shared_with(person), wanted, "name", "file_name"),
    )


def _named(things: QuerySet[Thing], words: Sequence[str], *columns: str) -> list[Thing]:
    """Those of which each word stands in one of these columns, and one of the words in the first of them."""
    each = (_or(Q(**{f"{column}__icontains": word}) for column in columns) for word in words)
    return list(things.filter(_or(Q(**{f"{columns[0]}__icontains": word}) for word in words), *each)[:MOST])


def _or(conditions: Iterable[Q]) -> Q:
    return reduce(or_, conditions)
