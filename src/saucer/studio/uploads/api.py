"""The core of the tus protocol 1.0 for uploads that go on where they were cut off, with its creation and termination extensions.

Source: "tus resumable upload protocol", version 1.0.0 of 2016-03-25, https://tus.io/protocols/resumable-upload
"""

from __future__ import annotations

import base64
import binascii
from collections.abc import Mapping
from typing import Annotated
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Router
from ninja.errors import HttpError
from pydantic import BaseModel, Field

from saucer.studio.people.access import SMALL, Access, designer
from saucer.studio.people.models import Scope
from saucer.studio.people.signed_in import person_of
from saucer.studio.uploads import rules
from saucer.studio.uploads.models import Upload

router = Router(tags=["files on their way"])
VERSION, PART_TYPE = "1.0.0", "application/offset+octet-stream"


def _may(most: int = SMALL) -> Access:
    """Room is asked for once, when a file begins (rules.begin): not with every part, nor of who only cancels."""
    return designer("bring in files", most, Scope.BRING_IN)


class Beginning(BaseModel):
    """Upload-Length and the name in Upload-Metadata, as the protocol has them."""

    length: Annotated[int, Field(ge=1)]
    name: Annotated[str, Field(max_length=1000, pattern=r"^[^\x00]*$")]


class Going(BaseModel):
    """Upload-Offset of what comes."""

    offset: Annotated[int, Field(ge=0)]


def _require_version(request: HttpRequest) -> None:
    said = request.headers.get("Tus-Resumable")
    if said != VERSION:
        raise HttpError(
            412, f'Uploads in parts are spoken in version {VERSION} of tus; the header Tus-Resumable says "{said or ""}".'
        )


def _metadata(text: str) -> Mapping[str, str]:
    """Pairs of a key and a value in Base64, between commas. Raises: HttpError 400"""
    found = {}
    for pair in filter(None, text.split(",")):
        key, _, value = pair.strip().partition(" ")
        try:
            found[key] = base64.b64decode(value, validate=True).decode()
        except (binascii.Error, UnicodeDecodeError):
            raise HttpError(400, f'The value of "{key[:40]}" in Upload-Metadata is no Base64 of UTF-8.') from None
    return found


def _told(upload: Upload, status: int) -> HttpResponse:
    headers = {"Tus-Resumable": VERSION, "Upload-Offset": str(upload.offset), "Cache-Control": "no-store"}
    return HttpResponse(status=status, headers=headers)


@router.post("", response={201: None}, auth=_may())
def begin(request: HttpRequest) -> HttpResponse:
    """A file of Upload-Length bytes; its address is in the header Location. It goes after a day in which nothing of it came."""
    _require_version(request)
    given = Beginning.model_validate(
        {
            "length": request.headers.get("Upload-Length"),
            "name": _metadata(request.headers.get("Upload-Metadata", "")).get("filename", ""),
        }
    )
    upload = rules.begin(person_of(request), given.name, given.length)
    answer = _told(upload, 201)
    answer["Location"] = f"/api/uploads/{upload.pk}"
    return answer


@router.api_operation(["HEAD"], "/{pk}", response={200: None}, auth=_may())
def ask(request: HttpRequest, pk: UUID) -> HttpResponse:
    """How much of it has come, in the header Upload-Offset."""
    _require_version(request)
    upload = rules.find(person_of(request), pk)
    answer = _told(upload, 200)
    answer["Upload-Length"] = str(upload.size)
    return answer


@router.patch("/{pk}", response={204: None}, auth=_may(rules.PART))
def receive(request: HttpRequest, pk: UUID) -> HttpResponse:
    """The bytes from Upload-Offset on, as application/offset+octet-stream."""
    _require_version(request)
    if request.content_type != PART_TYPE:
        raise HttpError(415, f"A part is sent as {PART_TYPE}.")
    given = Going.model_validate({"offset": request.headers.get("Upload-Offset")})
    return _told(rules.receive(person_of(request), pk, given.offset, request.read), 204)


@router.delete("/{pk}", response={204: None}, auth=_may())
def cancel(request: HttpRequest, pk: UUID) -> HttpResponse:
    """Nothing of it is kept."""
    _require_version(request)
    rules.end(rules.find(person_of(request), pk))
    return HttpResponse(status=204, headers={"Tus-Resumable": VERSION})
