"""From where, and by which token, what is being done was asked for: known for as long as a request is answered, and while
a job is done that one has asked for: for the activity."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar

address: ContextVar[str | None] = ContextVar("address", default=None)
"""Of the network; none where nobody asked over it."""
token: ContextVar[str] = ContextVar("token", default="")
"""Its name; empty for who signed in."""


@contextmanager
def asked_from(where: str | None, by: str = "") -> Iterator[None]:
    """What is done meanwhile was asked for from this address, by the token of this name."""
    before = address.set(where), token.set(by)
    try:
        yield
    finally:
        address.reset(before[0])
        token.reset(before[1])
