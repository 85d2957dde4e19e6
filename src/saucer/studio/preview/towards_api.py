"""A look brought towards a picture whose colours are wanted."""

from __future__ import annotations

from typing import Annotated, Literal

from django.http import HttpRequest
from ninja import Router, Schema
from pydantic import Field

from saucer.core.look.model import Look
from saucer.studio.common.lanes import HEAVY
from saucer.studio.people.access import designer
from saucer.studio.people.signed_in import person_of
from saucer.studio.pictures import rules as pictures
from saucer.studio.preview import towards
from saucer.studio.preview.seen import ReadAs, find_many_seen

router = Router(tags=["preview"])


class TowardsIn(Schema):
    """pictures: that the look is brought towards the reference on; tolerance: degrees that skin may turn"""

    look: Look
    pictures: Annotated[list[int], Field(min_length=1, max_length=24)]
    reference: int
    tolerance: Annotated[float, Field(ge=0, le=180)] = 10.0
    read_as: ReadAs = {}


class TowardsOut(Schema):
    """look: with the group that does it; gone: share of the distance that it takes away; skin: by how many degrees it turns"""

    what: Literal["all", "tone", "colour"]
    title: str
    gone: float
    skin: float
    words: list[str]
    look: Look


@router.post("/towards", response=list[TowardsOut], auth=designer("bring a look towards a picture"))
@HEAVY
def bring_towards(request: HttpRequest, given: TowardsIn) -> list[TowardsOut]:
    """Up to three proposals that bring what the look makes of these pictures towards another picture; none where nothing does."""
    person = person_of(request)
    reference = pictures.find(given.reference, person)
    chosen = find_many_seen(given.pictures, given.read_as, person)
    return [
        TowardsOut(
            what=one.proposal.what, title=one.title, gone=round(one.proposal.gone, 3), skin=round(one.proposal.skin, 1), words=one.words,
            look=one.look,
        )
        for one in towards.bring_towards(given.look, chosen, reference, given.tolerance)
    ]  # fmt: skip
