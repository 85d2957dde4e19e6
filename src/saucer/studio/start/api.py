"""The page that one begins at, told in one answer."""

from __future__ import annotations

from dataclasses import asdict
from datetime import datetime

from django.http import HttpRequest
from ninja import Router, Schema

from saucer.studio.catalogue.find import listing
from saucer.studio.catalogue.models import Kind, VersionState
from saucer.studio.people.signed_in import person_of
from saucer.studio.preview.entries_api import EntryOut, cards_of
from saucer.studio.projects.api import ProjectLine, tell_lines
from saucer.studio.start import rules

router = Router(tags=["start"])


class OwnBoardOut(Schema):
    """said: verdicts of others since the person last said something on it; entry, picture: what stands first on it and may be shown"""

    id: int
    name: str
    changed: datetime
    said: int
    entry: EntryOut | None
    picture: int | None


class AwaitedOut(Schema):
    """A version that waits for the person, or that came back to them. remarks: that nobody has settled; card: as lists show it"""

    entry: int
    kind: Kind
    name: str
    number: int
    state: VersionState
    by: str
    words: str
    remarks: int
    at: datetime
    card: EntryOut | None


class StartOut(Schema):
    """looks, boards, projects: the person's own, the one touched last first; all_projects: that they may see; news: of others"""

    looks: list[EntryOut]
    boards: list[OwnBoardOut]
    projects: list[ProjectLine]
    all_projects: int
    waits: list[AwaitedOut]
    news: list[EntryOut]


@router.get("/start", response=StartOut)
def read_start(request: HttpRequest) -> StartOut:
    person = person_of(request)
    looks, news = rules.list_own_looks(person), rules.list_news(person)
    boards, waits = rules.list_own_boards(person), rules.list_waiting(person)
    on_boards = [one.entry for one in boards if one.entry is not None]
    wanted = [*dict.fromkeys([*looks, *news, *on_boards, *(one.entry for one in waits)])]
    cards = {card.id: card for card in cards_of(listing.load_entries(wanted), person)}
    own, everything = rules.list_projects(person)
    return StartOut(
        looks=[cards[pk] for pk in looks if pk in cards], news=[cards[pk] for pk in news if pk in cards],
        boards=[OwnBoardOut(**asdict(one) | {"entry": cards.get(one.entry or 0)}) for one in boards],
        waits=[AwaitedOut(**asdict(one), card=cards.get(one.entry)) for one in waits],
        projects=tell_lines(own, person)[: rules.PROJECTS], all_projects=everything,
    )  # fmt: skip
