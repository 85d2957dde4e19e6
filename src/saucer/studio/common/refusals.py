"""Why a rule said no. `api.py` turns each into a response."""

from __future__ import annotations


class Refusal(Exception):
    """`str(refusal)` is fit to be shown."""


class NotAllowed(Refusal):
    """The person's role does not allow it."""


class NotFound(Refusal):
    """There is no such thing, or not any more."""


class Conflict(Refusal):
    """Somebody or something else changed it first; `detail` says how it stands now."""

    def __init__(self, message: str, **detail: object) -> None:
        self.detail = detail
        super().__init__(message)


class TooMany(Refusal):
    """It was tried too often; it says when it may be tried again."""


class NotPossible(Refusal):
    """What was asked makes no sense in this state."""
