"""The API: the routers of the apps, and the one table that turns errors into responses (RFC 9457 problem+json)."""

from __future__ import annotations

import errno
import logging
from collections.abc import Callable
from functools import cache, wraps
from typing import Annotated, Any

from django.db import InterfaceError, OperationalError
from django.http import HttpRequest, HttpResponse, JsonResponse, UnreadablePostError
from ninja import NinjaAPI, Schema
from ninja.errors import AuthenticationError, HttpError, ValidationError
from pydantic import Field
from pydantic import ValidationError as ModelError

from saucer import __version__
from saucer.core.errors import SaucerError
from saucer.core.look.problems import describe_details
from saucer.studio.baking.api import router as baking_router
from saucer.studio.boards.api import router as boards_router
from saucer.studio.catalogue.api import router as catalogue_router
from saucer.studio.catalogue.order.api import router as order_router
from saucer.studio.catalogue.review.api import router as review_router
from saucer.studio.common.refusals import Conflict, NotAllowed, NotFound, Refusal, TooMany
from saucer.studio.common.store import StoreAway
from saucer.studio.common.tracing import request_number
from saucer.studio.encodings.api import router as encodings_router
from saucer.studio.guests.api import router as guests_router
from saucer.studio.guests.links_api import router as guest_links_router
from saucer.studio.hooks.api import router as hooks_router
from saucer.studio.jobs.api import router as jobs_router
from saucer.studio.looks.api import router as looks_router
from saucer.studio.looks.family_api import router as family_router
from saucer.studio.luts.api import files_router
from saucer.studio.luts.api import router as luts_router
from saucer.studio.luts.work_api import router as lut_work_router
from saucer.studio.packing.api import router as packing_router
from saucer.studio.people.access import Access
from saucer.studio.people.activity_api import router as activity_router
from saucer.studio.people.api import router as people_router
from saucer.studio.people.links_api import router as links_router
from saucer.studio.people.own_api import router as own_router
from saucer.studio.people.team_api import router as team_router
from saucer.studio.pictures.api import router as pictures_router
from saucer.studio.pictures.footage_api import router as footage_router
from saucer.studio.presets.api import router as presets_router
from saucer.studio.preview.api import router as preview_router
from saucer.studio.preview.entries_api import router as shelf_router
from saucer.studio.preview.graded_api import router as graded_router
from saucer.studio.preview.packs_api import router as pack_previews_router
from saucer.studio.preview.reading_api import router as reading_router
from saucer.studio.preview.sheet_api import router as sheet_router
from saucer.studio.preview.towards_api import router as towards_router
from saucer.studio.projects.api import router as projects_router
from saucer.studio.projects.check.api import router as checking_router
from saucer.studio.projects.conform.api import router as timeline_router
from saucer.studio.projects.deliver.api import router as delivery_router
from saucer.studio.projects.deliver.kept_api import router as kept_choices_router
from saucer.studio.projects.grade.api import router as grading_router
from saucer.studio.projects.grade.scopes_api import router as shot_scopes_router
from saucer.studio.projects.grade.seeing_api import router as shot_seeing_router
from saucer.studio.projects.grade.sharing_api import router as sharing_router
from saucer.studio.projects.story.api import router as shots_router
from saucer.studio.site.openapi import make_schema, written_schema
from saucer.studio.site.parsing import CountingParser
from saucer.studio.site.reference import describe
from saucer.studio.site.running.api import router as running_router
from saucer.studio.start.api import router as start_router
from saucer.studio.start.api import studio_router as beginning_router
from saucer.studio.stress.api import router as stress_router
from saucer.studio.uploads.api import router as uploads_router

log = logging.getLogger("saucer.api")
NO_DATABASE = "The server cannot reach its database at the moment. What you do is kept here and saved once it can."


def _signed_in_only(view: Callable[..., HttpResponse]) -> Callable[..., HttpResponse]:
    """Around the description of the API."""

    @wraps(view)
    def guarded(request: HttpRequest, *args: Any, **kwargs: Any) -> HttpResponse:
        return view(request, *args, **kwargs) if request.user.is_authenticated else _not_signed_in(request, None)

    return guarded


class Api(NinjaAPI):
    def validation_error_from_error_contexts(self, error_contexts: Any) -> ValidationError:
        """With the values that were sent, which the messages quote; ninja leaves them out."""
        details: list[dict[str, Any]] = []
        for context in error_contexts:
            for detail in context.pydantic_validation_error.errors(include_url=False):
                details.append(detail | {"loc": ("body", *detail["loc"])})
        return ValidationError(details)

    def get_openapi_schema(self, **_: Any) -> Any:
        """As it was written, or, where that is of other calls, made once for the process."""
        return _schema()


@cache
def _schema() -> dict[str, Any]:
    return written_schema(api) or make_schema(api)


api = Api(
    title="Saucer", version=__version__, auth=Access(), parser=CountingParser(), docs_url=None, docs_decorator=_signed_in_only,
    urls_namespace="api",
)  # fmt: skip
for _prefix, _router in (
    ("", people_router),
    ("", links_router),
    ("", own_router),
    ("", team_router),
    ("", activity_router),
    ("", running_router),
    ("", start_router),
    ("", beginning_router),
    ("/encodings", encodings_router),
    ("/pictures", pictures_router),
    ("/footage", footage_router),
    ("/looks", preview_router),
    ("/looks", reading_router),
    ("/looks", graded_router),
    ("/looks", towards_router),
    ("/looks", sheet_router),
    ("/looks", family_router),
    ("/looks", looks_router),
    ("/presets", presets_router),
    ("/luts", luts_router),
    ("", files_router),
    ("", lut_work_router),
    ("", pack_previews_router),
    ("/bake", baking_router),
    ("/catalogue", catalogue_router),
    ("", order_router),
    ("", review_router),
    ("/packing", packing_router),
    ("/shelf", shelf_router),
    ("/boards", boards_router),
    ("/projects", projects_router),
    ("/projects", shots_router),
    ("/projects", shot_seeing_router),
    ("/projects", shot_scopes_router),
    ("/projects", sharing_router),
    ("/projects", grading_router),
    ("/projects", checking_router),
    ("/projects", delivery_router),
    ("/projects", timeline_router),
    ("/delivery-choices", kept_choices_router),
    ("/stress", stress_router),
    ("/guests", guest_links_router),
    ("/guest", guests_router),
    ("/jobs", jobs_router),
    ("/hooks", hooks_router),
    ("/uploads", uploads_router),
):
    api.add_router(_prefix, _router)


class FieldOut(Schema):
    name: str
    where: str
    type: str
    is_required: bool
    words: str


class DescribedPath(Schema):
    """One call of the API, as `site.reference` tells it."""

    group: str
    method: str
    path: str
    words: str
    takes: Annotated[str, Field(description="what a token has to reach; empty where none does")]
    is_open: Annotated[bool, Field(description="for those who are not signed in too")]
    fields: list[FieldOut]
    files: list[str]
    body: str
    answer: str
    example: str


@cache
def _reference() -> list[DescribedPath]:
    return [DescribedPath(**vars(one) | {"fields": [FieldOut(**vars(field)) for field in one.fields]}) for one in describe(api)]


@api.get("/reference", response=list[DescribedPath], tags=["the studio"])
def read_reference(request: HttpRequest) -> list[DescribedPath]:
    """All calls of the API, with what a token has to reach for each and an example."""
    return _reference()


_STATUS: tuple[tuple[type[Exception], int, str], ...] = (
    (NotAllowed, 403, "Not allowed"),
    (NotFound, 404, "Not found"),
    (TooMany, 429, "Too many tries"),
    (Conflict, 409, "Changed meanwhile"),
    (Refusal, 422, "Not possible"),
    (SaucerError, 422, "Cannot be used"),
)


def problem(status: int, title: str, detail: str, **more: Any) -> HttpResponse:
    content = {"type": "about:blank", "status": status, "title": title, "detail": detail, "request": request_number.get()} | more
    return JsonResponse(content, status=status, content_type="application/problem+json")


def _refused(request: HttpRequest, error: Any) -> HttpResponse:
    status, title = next((status, title) for kind, status, title in _STATUS if isinstance(error, kind))
    return problem(status, title, str(error), **(error.detail if isinstance(error, Conflict) else {}))


def _invalid(request: HttpRequest, error: Any) -> HttpResponse:
    lines = describe_details(error.errors if isinstance(error, ValidationError) else error.errors())
    return problem(422, "Cannot be used", "; ".join(lines[:3]))


def _problem_of(request: HttpRequest, error: Any) -> HttpResponse:
    if isinstance(error.__cause__, SaucerError):  # of the parser, whose words the framework leaves out
        return problem(422, "Cannot be used", str(error.__cause__))
    return problem(error.status_code, "Refused", str(error))


def _without_database(request: HttpRequest, error: Any) -> HttpResponse:
    log.error("%s %s: %s", request.method, request.path, error)
    return problem(503, "Not ready", NO_DATABASE)


def _cut_off(request: HttpRequest, error: Any) -> HttpResponse:
    return problem(408, "Cut off", "What was sent did not arrive whole; try again.")


FULL = "The server's disk is full, so nothing was kept. Tell who runs it, and try again once there is room."


def is_full(error: BaseException | None) -> bool:
    """Is it, or what it came of, that there is no room on the disk?"""
    while error is not None:
        if isinstance(error, OSError) and error.errno in (errno.ENOSPC, errno.EDQUOT):
            return True
        error = error.__cause__ or error.__context__
    return False


def broken_words() -> str:
    """With the number by which it is found in the log."""
    return f"Something went wrong on the server. It was written to its log as {request_number.get() or 'an error'}; trying again may help."


STORE_AWAY = (
    "The server cannot reach where files are kept: pictures and LUTs do not come, and none is kept. Drafts are. Try again soon."
)


def _without_store(request: HttpRequest, error: Any) -> HttpResponse:
    log.error("%s %s: %s", request.method, request.path, error)
    return problem(503, "Not ready", STORE_AWAY)


def _broken(request: HttpRequest, error: Any) -> HttpResponse:
    log.error("%s %s broke", request.method, request.path, exc_info=error)
    if is_full(error):
        return problem(507, "No room", FULL)
    return problem(500, "Went wrong", broken_words())


def _not_signed_in(request: HttpRequest, error: Any) -> HttpResponse:
    return problem(401, "Not signed in", "Sign in first.")


for _kind, _handler in (
    (Refusal, _refused),
    (SaucerError, _refused),
    (ValidationError, _invalid),
    (ModelError, _invalid),
    (AuthenticationError, _not_signed_in),
    (HttpError, _problem_of),
    (StoreAway, _without_store),
    (OperationalError, _without_database),
    (InterfaceError, _without_database),
    (UnreadablePostError, _cut_off),
    (Exception, _broken),
):
    api.add_exception_handler(_kind, _handler)
