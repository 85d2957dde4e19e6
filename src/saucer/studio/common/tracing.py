"""Logs as lines or as JSON, each with the number of the request, or of the job, that it belongs to."""

from __future__ import annotations

import secrets
from collections.abc import Iterator, MutableMapping
from contextlib import contextmanager
from contextvars import ContextVar
from typing import Any

import structlog

request_number: ContextVar[str] = ContextVar("request_number", default="")
"""Of the request that is being answered, or that asked for the job that is being done; empty for what nobody asked for."""


def _without_objects(logger: Any, method: str, told: MutableMapping[str, Any]) -> MutableMapping[str, Any]:
    """Frameworks hang whole objects on a line; what can be read stays."""
    for name in [name for name, value in told.items() if not name.startswith("_") and not isinstance(value, PLAIN)]:
        del told[name]
    return told


PLAIN = (str, int, float, bool, type(None), tuple)
_SHARED: list[Any] = [
    structlog.contextvars.merge_contextvars,
    structlog.stdlib.add_logger_name,
    structlog.stdlib.add_log_level,
    structlog.stdlib.ExtraAdder(),
    _without_objects,
    structlog.processors.TimeStamper(fmt="iso", utc=True),
]


def logging_settings(form: str) -> dict[str, Any]:
    """For Django's LOGGING. form: lines or json"""
    as_json = [structlog.processors.dict_tracebacks, structlog.processors.JSONRenderer(default=str)]
    as_lines = [structlog.dev.ConsoleRenderer(colors=False, pad_event_to=0, exception_formatter=structlog.dev.plain_traceback)]
    last = as_json if form == "json" else as_lines
    return {
        "version": 1,
        "disable_existing_loggers": False,
        "formatters": {
            "told": {
                "()": structlog.stdlib.ProcessorFormatter,
                "foreign_pre_chain": _SHARED,
                "processors": [structlog.stdlib.ProcessorFormatter.remove_processors_meta, *last],
            }
        },
        "handlers": {"console": {"class": "logging.StreamHandler", "formatter": "told"}},
        "root": {"handlers": ["console"], "level": "WARNING"},
        "loggers": {"saucer": {"level": "INFO"}},
    }


def new_number() -> str:
    """Short enough to be read out over a telephone."""
    return secrets.token_hex(5)


@contextmanager
def numbered(number: str, **more: Any) -> Iterator[None]:
    """Every line that is logged in the block carries the number, and what else is said."""
    before = request_number.set(number)
    told = {"number": number} if number else {}
    with structlog.contextvars.bound_contextvars(**told, **more):
        try:
            yield
        finally:
            request_number.reset(before)
