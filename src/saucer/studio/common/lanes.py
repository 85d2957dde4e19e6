"""Lanes for work that takes a processor: so many at once, in turn, each person one at a time; whatever is light goes past it.

The limits are of one server process; its other threads stay free for requests that only ask the database.
"""

from __future__ import annotations

import inspect
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from functools import wraps
from threading import Event, Lock
from typing import Any, ParamSpec, TypeVar

from prometheus_client import Histogram

from saucer.studio.common.refusals import TooMany

Given = ParamSpec("Given")
Result = TypeVar("Result")
WAITS = Histogram(
    "saucer_turn_seconds",
    "How long somebody waited for their turn, by lane",
    ["lane"],
    buckets=(0.001, 0.01, 0.05, 0.1, 0.5, 1, 5, 20, 60),
)
BUSY = "The server is busy with what others asked for. Try again in a moment."


@dataclass(eq=False)
class _Ticket:
    who: object
    called: Event = field(default_factory=Event)


class Lane:
    """name: for who watches; width: how many work at once; patience: seconds that somebody waits for their turn"""

    def __init__(self, name: str, width: int, patience: float) -> None:
        self._name, self._width, self._patience = name, width, patience
        self._lock = Lock()
        self._working: list[object] = []
        self._waiting: list[_Ticket] = []

    @contextmanager
    def turn(self, who: object) -> Iterator[None]:
        """Raises: TooMany, when it takes too long to be one's turn"""
        ticket, begun = _Ticket(who), time.perf_counter()
        with self._lock:
            self._waiting.append(ticket)
            self._call_next()
        if not ticket.called.wait(self._patience):
            with self._lock:
                if not ticket.called.is_set():
                    self._waiting.remove(ticket)
                    raise TooMany(BUSY)
        WAITS.labels(self._name).observe(time.perf_counter() - begun)
        try:
            yield
        finally:
            with self._lock:
                self._working.remove(who)
                self._call_next()

    def _call_next(self) -> None:
        """Only those whose turn it is are woken: the first of those whose person has nothing under way; where all have, the first."""
        while self._waiting and len(self._working) < self._width:
            ticket = next((one for one in self._waiting if one.who not in self._working), self._waiting[0])
            self._waiting.remove(ticket)
            self._working.append(ticket.who)
            ticket.called.set()

    def __call__(self, view: Callable[Given, Result]) -> Callable[Given, Result]:
        """Around a function of the API: its request says whose turn it is."""

        @wraps(view)
        def in_turn(*args: Given.args, **kwargs: Given.kwargs) -> Result:
            request: Any = args[0]
            with self.turn(request.user.pk):
                return view(*args, **kwargs)

        # The framework reads the types of what a view takes; here they are names of another module.
        in_turn.__signature__ = inspect.signature(view, eval_str=True)  # type: ignore[attr-defined]
        return in_turn


FRAMES = Lane("frames", width=1, patience=20)
"""What is looked at while it is dragged: tens of milliseconds each. One at once in a process: its kernels take all cores as it is, and what
is light finds the interpreter free (measured with twenty people: answers about jobs in two thirds of the time, frames as fast)."""
MEDIA = Lane("media", width=2, patience=60)
"""What reads folders in place: a disk that does not answer holds up those who wait for it, and nobody else."""
HEAVY = Lane("heavy", width=2, patience=60)
"""What takes seconds: files brought in or packed, fidelity, health, charts. Drags go on beside it."""
