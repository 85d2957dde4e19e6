"""Every request numbered, counted and timed: its number is in the logs, in the answer, and in what is said to a person when it breaks."""

from __future__ import annotations

import logging
import time
from collections.abc import Callable

from django.http import HttpRequest, HttpResponse
from prometheus_client import Histogram

from saucer.studio.common.tracing import new_number, numbered

HEADER = "Saucer-Request"
SLOW = 5.0
"""Seconds from which on a request is told in the log."""
log = logging.getLogger("saucer.requests")
REQUESTS = Histogram(
    "saucer_request_seconds", "Requests by route, method and status, with how long they took", ["route", "method", "status"],
    buckets=(0.005, 0.02, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 5, 10, 30, 60),
)  # fmt: skip


class Watched:
    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        number, begun = new_number(), time.perf_counter()
        with numbered(number):
            response = self.get_response(request)
            seconds = time.perf_counter() - begun
            REQUESTS.labels(route_of(request), request.method or "", str(response.status_code)).observe(seconds)
            if seconds >= SLOW:
                log.warning("slow", extra={"method": request.method, "path": request.path, "seconds": round(seconds, 1)})
        response[HEADER] = number
        return response


def route_of(request: HttpRequest) -> str:
    """As it is written where paths are named, so that there are as many as there are paths; "none" for what met none."""
    match = request.resolver_match
    if match is None:
        return "none"
    return match.route if match.route.startswith(("api/", "metrics")) else "page"
