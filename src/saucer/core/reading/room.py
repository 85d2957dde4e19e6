"""The readers as everybody else sees them: ask for something to be read, or open something and ask for its parts.

A reader that passes a limit is ended, which is one refusal in words; another takes its place.
"""

from __future__ import annotations

import logging
import os
import weakref
from collections.abc import Callable, Generator
from pathlib import Path
from types import TracebackType
from typing import Any, Protocol, TypeVar, cast

from saucer.core import errors
from saucer.core.errors import SaucerError
from saucer.core.reading import reader
from saucer.core.reading.limits import GB, LIMITS, MB, Limit
from saucer.core.reading.processes import Reader, ReaderEnded, give_back, take_reader
from saucer.core.reading.tasks import name_of

log = logging.getLogger("saucer.reading")
Result = TypeVar("Result")


def ask(task: Callable[..., Result], *given: Any, place: str) -> Result:
    """What a task that reads (`tasks.reads`) gives for these arguments. place: what a person calls the thing, for words

    Raises: whatever the task raises of our own errors and OSError; the task's error for what is too large or passes a limit
    """
    if reader.inside:
        return task(*given)
    manners = _Manners(task, given, place)
    one = manners.take()
    try:
        answer = one.ask(manners.message, manners.limit)
    except ReaderEnded as ended:
        one.end()
        raise manners.refuse(ended) from None
    except BaseException:
        one.end()
        raise
    give_back(one, answer[1])
    return cast(Result, manners.value(answer))


class _Manners:
    """What a task may take, and how what goes wrong with it is told. Raises: what is too large is refused at once"""

    def __init__(self, task: Any, given: tuple[Any, ...], place: str) -> None:
        self.limit: Limit = LIMITS[task.reads]
        self.error: type[SaucerError] = task.error
        self._name, self._place = name_of(task), place
        # A reader stands in another folder.
        absolute = tuple(one.absolute() if isinstance(one, Path) else one for one in given)
        self.message = (self._name, self.limit.memory, self.limit.processor, absolute)
        for one in given:
            size = len(one) if isinstance(one, bytes) else self._size_of(one) if isinstance(one, Path) else 0
            if size > self.limit.bytes:
                most = f"{self.limit.bytes / MB:.0f} MB is the most for a {self.limit.words}"
                raise self.error(place, f"is {size / MB:.0f} MB; {most}")

    def _size_of(self, path: Path) -> int:
        """Raises: OSError; for what is no plain file: a pipe or a device may never answer"""
        told = path.stat()
        if not os.path.isfile(path):
            raise self.error(self._place, "is a folder" if path.is_dir() else "is no plain file")
        return told.st_size

    def take(self) -> Reader:
        try:
            return take_reader()
        except ReaderEnded as ended:
            raise self.refuse(ended) from None

    def refuse(self, ended: ReaderEnded) -> SaucerError:
        log.warning("reader ended: %s: %s", self._name, ended.words)
        return self.error(self._place, ended.words)

    def value(self, answer: tuple[str, bool, Any]) -> Any:
        """Of an answer; raises what it tells of."""
        what, _, value = answer
        if what == "refused":
            name, where, problem = value
            known = self.error if name == self.error.__qualname__ else getattr(errors, name, None)
            raise (known if isinstance(known, type) and issubclass(known, SaucerError) else self.error)(where, problem)
        if what == "memory":
            raise self.error(self._place, f"reading it takes more than the {self.limit.memory / GB:.0f} GB of memory that it may")
        if what == "system":
            raise OSError(*value)
        if what == "failed":
            log.error("reader failed: %s: %s", self._name, value)
            raise self.error(self._place, "cannot be read: it is damaged, or of a form that is not read")
        return value


class Openable(Protocol):
    """What is open in a reader while it is read. facts: what is known of it once it is open"""

    facts: Any

    def __enter__(self) -> Any: ...
    def __exit__(self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None) -> Any: ...


class Session:
    """Something that is open in a reader of its own until it is closed. Not to be used by two threads at once.

    Raises: as `ask`, from whatever is asked of it
    """

    def __init__(self, task: Callable[..., Openable], *given: Any, place: str) -> None:
        self._task, self._given, self._place = task, given, place
        self._here: Openable | None = None
        self._reader: Reader | None = None
        self._ahead: object | None = None
        """The walk (`each`) whose next value is being read."""

    def open(self) -> Any:
        """Returns: its facts"""
        if reader.inside:
            self._here = self._task(*self._given)
            self._here.__enter__()
            return self._here.facts
        self._manners = _Manners(self._task, self._given, self._place)
        self._reader = self._manners.take()
        # One that nobody closes goes with whoever held it.
        self._end = weakref.finalize(self, self._reader.end)
        answer = self._asked(self._manners.message)
        if answer[0] != "open":
            self._leave(answer[1] or answer[0] != "refused")
        return self._manners.value(answer)

    def call(self, method: str, *arguments: Any) -> Any:
        """What a method of it returns."""
        if self._here is not None:
            return getattr(self._here, method)(*arguments)
        return self._heard(self._asked((method, arguments)))

    def each(self, method: str, *arguments: Any) -> Generator[Any]:
        """What a method of it yields: the next one is read while this one is being used. Ends when something else is asked."""
        if self._here is not None:
            yield from getattr(self._here, method)(*arguments)
            return
        walk = object()
        self._heard(self._asked((f"each {method}", arguments)))
        self._tell(("next", ()))
        self._ahead = walk
        while self._ahead is walk:
            self._ahead, answer = None, self._guarded(lambda one: one.answer(self._manners.limit))
            value = self._heard(answer)
            if answer[0] == "end":
                return
            self._tell(("next", ()))
            self._ahead = walk
            yield value

    def close(self) -> None:
        if self._here is not None:
            here, self._here = self._here, None
            here.__exit__(None, None, None)
        elif self._reader is not None:
            try:
                answer = self._asked(("close", ()))
            except SaucerError:
                return  # ended, and told in the log
            self._leave(answer[1])

    def _asked(self, message: Any) -> tuple[str, bool, Any]:
        if self._ahead is not None:
            self._ahead = None
            self._guarded(lambda one: one.answer(self._manners.limit))
        self._tell(message)
        return self._guarded(lambda one: one.answer(self._manners.limit))

    def _tell(self, message: Any) -> None:
        self._guarded(lambda one: one.tell(message))

    def _heard(self, answer: tuple[str, bool, Any]) -> Any:
        if answer[0] in ("system", "failed"):
            self._leave(True)
        return self._manners.value(answer)

    def _guarded(self, do: Callable[[Reader], Any]) -> Any:
        if self._reader is None:
            raise self._manners.error(self._place, "is no longer open: its reader has ended")
        try:
            return do(self._reader)
        except ReaderEnded as ended:
            self._leave(True)
            raise self._manners.refuse(ended) from None

    def _leave(self, worn: bool) -> None:
        one, self._reader = self._reader, None
        if one is not None:
            self._end.detach()
            one.end() if worn else give_back(one, False)
