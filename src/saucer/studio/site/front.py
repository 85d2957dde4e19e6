"""What every request passes first: is it asked whether the server is well, and where does it come from?"""

from __future__ import annotations

import ipaddress
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from typing import Any

import psycopg
from django.conf import settings
from django.core.files.storage import default_storage
from django.db import connection
from django.http import HttpRequest, HttpResponse, JsonResponse

Respond = Callable[[HttpRequest], HttpResponse]
SILENT_AFTER = 60
"""Seconds without a sign of life of any worker."""


ANSWERS_WITHIN = 3.0
"""Seconds that are waited for the database: who asks whether all is well has little patience."""
_asking = ThreadPoolExecutor(1, thread_name_prefix="readyz")


def _ask_database() -> tuple[str, str]:
    """What is wrong with the database, and with the workers; on a connection of its own, which a query of nobody else holds up."""
    try:
        with psycopg.connect(**connection.get_connection_params() | {"connect_timeout": 2}, autocommit=True) as own:
            row = own.execute("SELECT extract(epoch FROM now() - max(last_heartbeat)) FROM procrastinate_workers").fetchone()
    except psycopg.Error:
        return "cannot be reached", "not known: the database cannot be reached"
    silent = row[0] if row else None
    if silent is None:
        return "", "none has started"
    return "", "" if silent < SILENT_AFTER else f"no sign of life for {silent:.0f} s"


def ask_database(ask: Callable[[], tuple[str, str]] = _ask_database) -> tuple[str, str]:
    """The same, or that it does not answer: then nobody else waits for it behind the one who does."""
    try:
        return _asking.submit(ask).result(ANSWERS_WITHIN)
    except TimeoutError:
        return "does not answer", "not known: the database does not answer"


def _store() -> str:
    try:
        default_storage.listdir("")
    except FileNotFoundError:
        return ""  # nothing was ever kept
    except OSError as error:
        return (error.strerror or str(error)).lower()
    return ""


def ask_parts() -> dict[str, str]:
    """What has to be well for the server to be of use: what is wrong with each, empty for nothing."""
    database, worker = ask_database()
    return {"database": database, "worker": worker, "store": _store()}


class Probes:
    """/healthz: this process answers. /readyz: all that it needs is there; else 503, and what is not. For any host, signed in or not."""

    def __init__(self, get_response: Respond) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        if request.path == "/healthz":
            return HttpResponse("ok", content_type="text/plain")
        if request.path == "/readyz":
            found = ask_parts()
            told = {name: words or "ok" for name, words in found.items()}
            return JsonResponse(told, status=503 if any(found.values()) else 200)
        return self.get_response(request)


class Versioned:
    """Paths of the API that programs use carry its version, /api/v1/..., and are those that the page uses without it.

    The page and the server are of one release; what a program was written for has to stay. Another version is told apart by its path."""

    NEWEST = 1

    def __init__(self, get_response: Respond) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        start, _, rest = request.path_info.removeprefix("/api/v").partition("/")
        if request.path_info.startswith("/api/v") and start.isdecimal() and int(start) == self.NEWEST:
            request.path = request.path_info = f"/api/{rest}"
        return self.get_response(request)


def _networks(text: str) -> list[Any]:
    return [ipaddress.ip_network(part.strip(), strict=False) for part in text.split(",") if part.strip()]


class RealAddress:
    """Behind a proxy that is named (SAUCER_PROXY), the address that it says a request comes from; of nobody else is it believed."""

    def __init__(self, get_response: Respond) -> None:
        self.get_response = get_response
        self.proxies = _networks(settings.PROXY)

    def _is_proxy(self, address: str) -> bool:
        try:
            return any(ipaddress.ip_address(address) in network for network in self.proxies)
        except ValueError:
            return False

    def __call__(self, request: HttpRequest) -> HttpResponse:
        if self._is_proxy(request.META.get("REMOTE_ADDR", "")):
            # Each proxy adds where it was asked from, so the last that is no proxy of ours is the truth.
            way = [part.strip() for part in request.META.get("HTTP_X_FORWARDED_FOR", "").split(",")]
            outside = [part for part in way if part and not self._is_proxy(part)]
            if outside and _is_address(outside[-1]):
                request.META["REMOTE_ADDR"] = outside[-1]
        return self.get_response(request)


def _is_address(text: str) -> bool:
    try:
        ipaddress.ip_address(text)
    except ValueError:
        return False
    return True
