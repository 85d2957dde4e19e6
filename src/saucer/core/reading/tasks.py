"""What readers do: functions and classes that say of which kind they read, each found by its name."""

from __future__ import annotations

import importlib
from collections.abc import Callable
from typing import Any, TypeVar

from saucer.core.errors import SaucerError
from saucer.core.reading.limits import LIMITS

Task = TypeVar("Task", bound=Callable[..., Any])


def reads(kind: str, error: type[SaucerError]) -> Callable[[Task], Task]:
    """A function that reads something of this kind, or a class that is open while it is read (a context manager).

    error: what the person is told with when the reader does not come back
    """
    assert kind in LIMITS, kind

    def mark(task: Task) -> Task:
        task.reads, task.error = kind, error  # type: ignore[attr-defined]
        return task

    return mark


def name_of(task: Callable[..., Any]) -> str:
    return f"{task.__module__}:{task.__qualname__}"


def find_task(name: str) -> Callable[..., Any]:
    """Raises: LookupError for what is no task"""
    module, _, qualified = name.partition(":")
    found: Any = importlib.import_module(module)
    for part in qualified.split("."):
        found = getattr(found, part)
    if getattr(found, "reads", None) not in LIMITS:
        raise LookupError(name)
    task: Callable[..., Any] = found
    return task
