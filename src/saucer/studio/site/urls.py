from __future__ import annotations

from pathlib import Path

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.urls import path, re_path
from django.views.decorators.cache import never_cache

from saucer.studio.site.api import api, problem


@never_cache
def page(request: HttpRequest) -> HttpResponse:
    """The one page of the web application, for every address that is its own to route."""
    index = Path(settings.WHITENOISE_ROOT) / "index.html"
    if not index.is_file():
        return HttpResponse("The web application is not built: run ./saucer setup", status=503, content_type="text/plain")
    return HttpResponse(index.read_bytes(), content_type="text/html")


def no_such_address(request: HttpRequest) -> HttpResponse:
    return problem(404, "Not found", f"There is nothing at {request.path}.")


urlpatterns = [
    path("api/", api.urls),
    re_path(r"^api/", no_such_address),
    re_path(r"^assets/", no_such_address),
    re_path(r"^", page),
]
