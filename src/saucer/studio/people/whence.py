"""From where, and by which token, what is being done was asked for: known for as long as a request is answered, for the activity."""

from __future__ import annotations

from contextvars import ContextVar

address: ContextVar[str | None] = ContextVar("address", default=None)
"""Of the network; none where nobody asked over it."""
token: ContextVar[str] = ContextVar("token", default="")
"""Its name; empty for who signed in."""
