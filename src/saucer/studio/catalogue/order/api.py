"""Keeping order: views by name, the tree of categories, duplicates, the bin; and whether anything has changed."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from django.http import HttpRequest, HttpResponse, HttpResponseNotModified, JsonResponse
from ninja import Router, Schema, Status
from pydantic import Field

from saucer.studio.catalogue import rules
from saucer.studio.catalogue.models import Kind, SavedView
from saucer.studio.catalogue.order import duplicates, tree, views
from saucer.studio.common.reading import tell_each
from saucer.studio.people.access import curator, designer, personal
from saucer.studio.people.models import Person
from saucer.studio.people.signed_in import person_of

router = Router(tags=["order"])
Within = Annotated[float, Field(ge=0, le=duplicates.FARTHEST, allow_inf_nan=False)]
Path = Annotated[str, Field(max_length=400)]


class ViewOut(Schema):
    id: int
    name: str
    address: str
    shared: bool
    by: str
    may_change: bool


class ViewIn(Schema):
    """address: what stands behind the ? of the wall's address"""

    name: Annotated[str, Field(max_length=80)]
    address: Annotated[str, Field(max_length=2000)]
    shared: bool = False


class CategoryIn(Schema):
    path: Path


class CategoryMove(Schema):
    """above: path of the category it goes into, empty for the top"""

    path: Path
    above: Path = ""
    name: Annotated[str, Field(max_length=80)]


class AlikeOut(Schema):
    entries: list[int]
    apart: Annotated[float, Field(description="mean CIEDE2000 of the nearest two")]


class MergeIn(Schema):
    keep: int
    others: Annotated[list[int], Field(min_length=1, max_length=duplicates.MOST_IN_ONE)]


class ApartIn(Schema):
    entries: Annotated[list[int], Field(min_length=2, max_length=duplicates.MOST_IN_ONE)]


class BinnedOut(Schema):
    kind: Kind
    id: int
    name: str
    category: str
    owner: str
    by: str
    deleted: datetime
    until: datetime
    into: str


def _view(view: SavedView, person: Person) -> ViewOut:
    return ViewOut(
        id=view.pk, name=view.name, address=view.address, shared=view.shared, by=view.owner.shown_name,
        may_change=views.may_change_view(person, view),
    )  # fmt: skip


@router.get("/views", response=list[ViewOut])
def list_views(request: HttpRequest) -> list[ViewOut]:
    """One's own and the team's kept views of the Shelf."""
    person = person_of(request)
    return tell_each(views.list_views(person), lambda view: _view(view, person))


@router.post("/views", response=ViewOut, auth=personal())
def keep_view(request: HttpRequest, given: ViewIn) -> ViewOut:
    """The Shelf as it is filtered and ordered now, by a name."""
    person = person_of(request)
    return _view(views.keep(person, given.name, given.address, given.shared), person)


@router.delete("/views/{pk}", response={204: None}, auth=personal())
def delete_view(request: HttpRequest, pk: int) -> Status[None]:
    """The kept view goes."""
    views.delete(person_of(request), pk)
    return Status(204, None)


@router.post("/categories", response={204: None}, auth=curator("arrange categories"))
def make_category(request: HttpRequest, given: CategoryIn) -> Status[None]:
    """A new folder."""
    tree.make(person_of(request), given.path)
    return Status(204, None)


@router.post("/categories/move", response={204: None}, auth=curator("arrange categories"))
def move_category(request: HttpRequest, given: CategoryMove) -> Status[None]:
    """A folder, with all in it, into another one or to the top."""
    tree.move(person_of(request), given.path, given.above, given.name)
    return Status(204, None)


@router.post("/categories/remove", response={204: None}, auth=curator("arrange categories"))
def remove_category(request: HttpRequest, given: CategoryIn) -> Status[None]:
    """An empty folder goes; what lies in the bin comes back one higher."""
    tree.remove(person_of(request), given.path)
    return Status(204, None)


@router.get("/duplicates", response=list[AlikeOut], auth=curator("look for duplicates"))
def list_duplicates(request: HttpRequest, within: Within = 0.5) -> list[AlikeOut]:
    """Groups that do nearly the same. within: mean CIEDE2000"""
    return [AlikeOut(**vars(one)) for one in duplicates.find_duplicates(person_of(request), within)]


@router.post("/duplicates/merge", response={204: None}, auth=curator("make entries one"))
def merge(request: HttpRequest, given: MergeIn) -> Status[None]:
    """One of them stays, with the tags, stars and places of the others, which go to the bin."""
    duplicates.merge(person_of(request), given.keep, given.others)
    return Status(204, None)


@router.post("/duplicates/apart", response={204: None}, auth=curator("keep entries apart"))
def keep_apart(request: HttpRequest, given: ApartIn) -> Status[None]:
    """These are no duplicates, and are not shown as such any more."""
    duplicates.keep_apart(person_of(request), given.entries)
    return Status(204, None)


@router.get("/bin", response=list[BinnedOut], auth=designer("look into the bin"))
def list_bin(request: HttpRequest) -> list[BinnedOut]:
    """What was deleted and can still be brought back."""
    return tell_each(
        duplicates.list_bin(person_of(request)),
        lambda one: BinnedOut(
            kind=Kind(one.entry.kind), id=one.entry.pk, name=one.entry.name, category=one.entry.category_path,
            owner=one.entry.owner.shown_name if one.entry.owner else "", by=one.by, deleted=one.deleted, until=one.until,
            into=one.into,
        ),
    )  # fmt: skip


@router.get("/stamp", response={200: dict[str, str], 304: None})
def read_stamp(request: HttpRequest) -> HttpResponse:
    """Asked for often: whether anything was changed by anybody since the stamp that the browser has (If-None-Match)."""
    stamp = rules.stamp()
    tag = f'"{stamp}"'
    if request.headers.get("If-None-Match") == tag:
        return HttpResponseNotModified()
    response = JsonResponse({"stamp": stamp})
    response["ETag"], response["Cache-Control"] = tag, "private, no-cache"
    return response
