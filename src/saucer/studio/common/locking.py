"""Two who lock the same things in different orders: the database ends one, and that one begins once more. Locks of the whole studio."""

from __future__ import annotations

import logging
from collections.abc import Callable, Iterator
from contextlib import contextmanager
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


MIGRATION, BACKUP, ONE_BACKUP = 0x5A0CE201, 0x5A0CE202, 0x5A0CE203
"""PostgreSQL's advisory locks, by number: of who changes the tables; of who copies everything (shared), and who takes files away;
of who writes where backups lie."""


class Busy(Exception):
    """Somebody else holds it."""


@contextmanager
def held(lock: int, shared: bool = False, wait: bool = True) -> Iterator[None]:
    """Until the end of the block, on every machine. shared: with others who share it. Raises: Busy where it is not waited for"""
    kind = "_shared" if shared else ""
    with connection.cursor() as cursor:
        cursor.execute(f"SELECT pg_{'' if wait else 'try_'}advisory_lock{kind}(%s)", [lock])
        if not wait and not cursor.fetchone()[0]:
            raise Busy
    try:
        yield
    finally:
        with connection.cursor() as cursor:
            cursor.execute(f"SELECT pg_advisory_unlock{kind}(%s)", [lock])
