"""Files of a pack on a picture, before they are kept."""

from __future__ import annotations

from functools import partial
from typing import Annotated

from django.http import HttpRequest, HttpResponse
from ninja import Query, Router

from saucer.core.engine.grade import Grade
from saucer.studio.common.images import encoded, respond
from saucer.studio.common.lanes import FRAMES
from saucer.studio.encodings import rules as encodings
from saucer.studio.luts import packs
from saucer.studio.people.access import intake
from saucer.studio.people.signed_in import person_of
from saucer.studio.pictures import rules as pictures
from saucer.studio.preview import entries
from saucer.studio.preview.kept import kept_preview

router = Router(tags=["luts"])
Id = Annotated[str, Query(max_length=60)]


@router.get("/packs/{job}/rows/{index}/preview.jpg", auth=intake("bring in LUTs"))
def preview(request: HttpRequest, job: int, index: int, picture: int, expects: Id = "srgb", gives: Id = "srgb") -> HttpResponse:
    """A picture through one file of a pack. expects, gives: what it is taken to be for, as the table has it at the moment"""
    person = person_of(request)
    sha256, read = packs.find_row(packs.find_pack(person, job), index)
    source, target = encodings.find(expects), encodings.find(gives)
    shown = pictures.find_proxy(picture, person)
    view, turn = encodings.studio_view(), partial(FRAMES.turn, person.pk)
    state = f"pack-{sha256[:24]}-{source.id}-{target.id}-{shown.proxy_id[:16]}-{shown.encoding}-{view}"

    def make() -> bytes:
        with turn():
            grade = Grade.of_lut(read(), source, target, 1.0, view)
            return encoded(entries.small_frame(grade, shown), "jpeg")

    return respond(request, state, lambda: kept_preview(state, make), "image/jpeg")
