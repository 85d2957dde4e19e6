"""A connection to the database that was kept is looked at, not asked, before it is used again."""

from __future__ import annotations

import pytest
from django.db import connection

from saucer.studio.people.models import Person

pytestmark = pytest.mark.django_db(transaction=True)


def end_from_elsewhere() -> None:
    """As a server that is started again ends it."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_backend_pid()")
        (number,) = cursor.fetchone()
    other = connection.copy()
    try:
        with other.cursor() as cursor:
            cursor.execute("SELECT pg_terminate_backend(%s, 5000)", [number])
            assert cursor.fetchone() == (True,)
    finally:
        other.close()


def test_one_that_stands_is_used_without_a_question(django_assert_num_queries):
    Person.objects.count()
    with django_assert_num_queries(0):
        assert connection.is_usable()


def test_one_whose_server_has_gone_is_seen_and_another_is_made():
    Person.objects.count()
    end_from_elsewhere()
    assert not connection.is_usable()
    connection.close()  # what the framework does then
    assert Person.objects.count() == 0


def test_a_closed_one_is_of_no_use():
    connection.close()
    assert not connection.is_usable()
