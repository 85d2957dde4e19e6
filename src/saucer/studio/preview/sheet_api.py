"""A look as a sheet to print."""

from __future__ import annotations

from urllib.parse import quote

from django.http import HttpRequest, HttpResponse
from ninja import Router

from saucer.core.look.family import named
from saucer.studio.catalogue.models import Kind
from saucer.studio.catalogue.rules import find, find_version
from saucer.studio.common.lanes import HEAVY
from saucer.studio.common.names import file_stem
from saucer.studio.common.refusals import NotPossible
from saucer.studio.people.signed_in import person_of
from saucer.studio.pictures import rules as pictures
from saucer.studio.pictures import sets
from saucer.studio.preview.sheet import draw_sheet

router = Router(tags=["preview"])


@router.get("/{pk}/sheet.pdf", response={200: None})
@HEAVY
def print_sheet(
    request: HttpRequest, pk: int, version: int | None = None, picture: int | None = None, member: str = ""
) -> HttpResponse:
    """A PDF of a version, the latest without a number: before and after, steps, character and files.

    picture: seen first; behind it those that are agreed for reviews; member: which of its family; without, the recipe
    """
    person = person_of(request)
    entry = find(person, Kind.LOOK, pk)
    number = version if version is not None else entry.latest.number if entry.latest else None
    if number is None:
        raise NotPossible("Versions are printed. Keep one first.")
    chosen = [pictures.find(picture, person)] if picture is not None else []
    chosen += [one for one in sets.agreed_for_reviews(person) if one.pk != picture]
    sheet = draw_sheet(entry, find_version(person, Kind.LOOK, pk, number), chosen, member)
    response = HttpResponse(sheet, content_type="application/pdf")
    name = quote(f"{file_stem(named(entry.name, member))}-v{number}.pdf")
    response["Content-Disposition"] = f"inline; filename*=UTF-8''{name}"
    return response
