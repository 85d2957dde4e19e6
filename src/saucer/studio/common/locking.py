"""Two who lock the same things in different orders: the database ends one of them, and that one begins once more."""

from __future__ import annotations

import logging
from collections.abc import Callable
from functools import wraps
from typing import ParamSpec, TypeVar

from django.db import OperationalError, connection
from psycopg.errors import DeadlockDetected

Given = ParamSpec("Given")
Result = TypeVar("Result")
log = logging.getLogger("saucer.locking")


def once_more(rule: Callable[Given, Result]) -> Callable[Given, Result]:
    """Around a rule that is one transaction: where it was ended for a deadlock it is done again, once. Within another one it is not."""

    @wraps(rule)
    def done(*args: Given.args, **kwargs: Given.kwargs) -> Result:
        try:
            return rule(*args, **kwargs)
        except OperationalError as error:
            if connection.in_atomic_block or not isinstance(error.__cause__, DeadlockDetected):
                raise
            log.warning("%s met a deadlock and is done once more", rule.__qualname__)
            return rule(*args, **kwargs)

    return done
