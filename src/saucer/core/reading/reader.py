"""A reader's own side: does one task after the other, within the limits of its kind, until nobody is there any more."""

from __future__ import annotations

import resource
import socket
import traceback
from collections.abc import Iterator
from contextlib import suppress
from typing import Any

from saucer.core.errors import SaucerError
from saucer.core.reading import passing
from saucer.core.reading.limits import MB
from saucer.core.reading.tasks import find_task

inside = False
"""Is this process a reader? What it reads on its way it reads itself."""
WORN_OUT = 512 * MB
"""Resident bytes that a reader has held, after which another takes its place: a library seldom gives all of it back."""


def serve(channel: socket.socket) -> None:
    """Answers are (what, is it worn out, value); what went wrong is one too."""
    global inside
    inside = True
    base = _address_space()
    with suppress(EOFError, OSError):
        while True:
            name, memory, processor, given = passing.receive(channel)
            task = find_task(name)
            _, most = resource.getrlimit(resource.RLIMIT_AS)
            resource.setrlimit(resource.RLIMIT_AS, (base + memory, most))
            _give_time(processor)
            try:
                answer = (
                    _stay_open(channel, task, given, processor) if isinstance(task, type) else ("done", _is_worn(), task(*given))
                )
            except BaseException as error:
                answer = _told(error)
            _send(channel, answer)


def _stay_open(channel: socket.socket, task: type, given: Any, processor: int) -> tuple[str, bool, Any]:
    """Answer what is asked of something that is open, until it is told to be closed, or fails with more than a refusal."""
    with task(*given) as opened:
        answer: tuple[str, bool, Any] | None = ("open", False, opened.facts)
        walk: Iterator[Any] = iter(())
        while True:
            _send(channel, answer)
            found = answer = None  # it may be large, and so may be the next one
            what, arguments = passing.receive(channel)
            if what == "close":
                break
            _give_time(processor)
            try:
                if what == "next":
                    found = next(walk, None)
                    answer = ("end" if found is None else "more", False, found)
                elif what.startswith("each "):
                    walk = iter(getattr(opened, what[5:])(*arguments))
                    answer = ("begun", False, None)
                else:
                    answer = ("done", False, getattr(opened, what)(*arguments))
            except (SaucerError, MemoryError) as error:
                answer = _told(error)
    return "closed", _is_worn(), None


def _send(channel: socket.socket, answer: tuple[str, bool, Any] | None) -> None:
    try:
        passing.send(channel, answer)
    except (MemoryError, TypeError) as error:
        passing.send(channel, _told(error))


def _told(error: BaseException) -> tuple[str, bool, Any]:
    """What went wrong, as an answer."""
    if isinstance(error, SaucerError):
        return "refused", _is_worn(), (type(error).__qualname__, error.place, error.problem)
    if isinstance(error, MemoryError):
        return "memory", True, None
    if isinstance(error, OSError) and error.errno:
        return "system", False, (error.errno, error.strerror or "", str(error.filename or ""))
    return "failed", True, "".join(traceback.format_exception(error))[-4000:]


def _is_worn() -> bool:
    return resource.getrusage(resource.RUSAGE_SELF).ru_maxrss * 1024 > WORN_OUT


def _give_time(seconds: int) -> None:
    """Of processors, from now on; past it the system ends this process."""
    used = resource.getrusage(resource.RUSAGE_SELF)
    _, most = resource.getrlimit(resource.RLIMIT_CPU)
    resource.setrlimit(resource.RLIMIT_CPU, (int(used.ru_utime + used.ru_stime) + seconds + 1, most))


def _address_space() -> int:
    with open("/proc/self/statm") as file:
        return int(file.read().split()[0]) * resource.getpagesize()
