"""The activity of the studio."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any

from django.http import HttpRequest, StreamingHttpResponse
from ninja import Query, Router, Schema
from pydantic import Field

from saucer.studio.people import activity
from saucer.studio.people.access import curator
from saucer.studio.people.signed_in import person_of

router = Router(tags=["the studio"])


class ActivityLine(Schema):
    """who: none for the server itself; address: of the network it was asked from; token: by whose name it was done"""

    id: int
    at: datetime
    who: str | None
    action: str
    kind: str
    about_id: int | None
    about: str
    address: str | None
    token: str
    data: dict[str, Any]


class ActivityPage(Schema):
    lines: list[ActivityLine]
    has_more: bool
    actions: Annotated[list[str], Field(description="what was ever done; with the first page")]


@router.get("/activity", response=ActivityPage, auth=curator("see the activity of the studio"))
def list_activity(request: HttpRequest, wanted: Query[activity.Wanted]) -> ActivityPage:
    """A hundred lines, the newest first."""
    person = person_of(request)
    found = list(activity.find(person, wanted)[: activity.PAGE + 1])
    lines = [
        ActivityLine(
            id=one.pk, at=one.at, who=activity.who_of(one) or None, action=one.action, kind=one.about_kind,
            about_id=one.about_id, about=one.about, address=one.address, token=one.token, data=one.data,
        )
        for one in found[: activity.PAGE]
    ]  # fmt: skip
    return ActivityPage(
        lines=lines, has_more=len(found) > activity.PAGE, actions=[] if wanted.before else activity.list_actions(person)
    )


@router.get("/activity.csv", auth=curator("see the activity of the studio"), response={200: None})
def export_activity(request: HttpRequest, wanted: Query[activity.Wanted]) -> StreamingHttpResponse:
    """The newest 50,000 lines, for a spreadsheet."""
    table = activity.write_table(activity.find(person_of(request), wanted))
    headers = {"Content-Disposition": 'attachment; filename="activity.csv"'}
    return StreamingHttpResponse(table, content_type="text/csv; charset=utf-8", headers=headers)
