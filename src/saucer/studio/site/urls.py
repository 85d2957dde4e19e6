from __future__ import annotations

import sys
from collections.abc import Callable
from pathlib import Path

from django.conf import settings
from django.db import InterfaceError, OperationalError
from django.http import HttpRequest, HttpResponse
from django.urls import include, path, re_path
from django.views.decorators.cache import never_cache

from saucer.studio.site.api import FULL, NO_DATABASE, api, broken_words, is_full, problem
from saucer.studio.site.metrics import show_metrics


@never_cache
def page(request: HttpRequest) -> HttpResponse:
    """The one page of the web application, for every address that is its own to route."""
    index = Path(settings.WHITENOISE_ROOT) / "index.html"
    if not index.is_file():
        return HttpResponse("The web application is not built: run ./saucer setup", status=503, content_type="text/plain")
    return HttpResponse(index.read_bytes(), content_type="text/html")


def no_such_address(request: HttpRequest) -> HttpResponse:
    return problem(404, "Not found", f"There is nothing at {request.path}.")


def _answer(status: int, title: str, detail: str) -> Callable[..., HttpResponse]:
    """What is answered when a request is refused, or breaks, before any of our own views: words for people, problem+json for the page."""

    def view(request: HttpRequest, exception: Exception | None = None) -> HttpResponse:
        return problem(status, title, detail)

    return view


handler400 = _answer(400, "Refused", "This request is not one that the server understands.")
handler403 = _answer(403, "Not allowed", "This is not allowed.")
handler404 = _answer(404, "Not found", "There is nothing at this address.")


def handler500(request: HttpRequest) -> HttpResponse:
    if isinstance(sys.exc_info()[1], OperationalError | InterfaceError):
        return problem(503, "Not ready", NO_DATABASE)
    if is_full(sys.exc_info()[1]):
        return problem(507, "No room", FULL)
    return problem(500, "Went wrong", broken_words())


urlpatterns = [
    path("api/auth/", include("saucer.studio.people.auth_urls")),
    path("api/", api.urls),
    re_path(r"^api/", no_such_address),
    path("metrics", show_metrics),
    re_path(r"^assets/", no_such_address),
    re_path(r"^", page),
]
