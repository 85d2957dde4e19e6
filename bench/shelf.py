"""The Shelf of a large team: 10,000 looks, LUTs and presets with three versions each, listed, filtered, searched and counted by the API.

In a database of its own, which is taken away afterwards. The budget is DESIGN 7's: 120 ms at the 95th percentile.
"""

from __future__ import annotations

import contextlib
import os
from collections.abc import Iterator
from itertools import cycle

from django.db import connection
from django.test import Client
from django.test.utils import setup_databases, teardown_databases
from tests.studio.many import fill

from bench.measure import Result, against_budget
from saucer.studio.catalogue.models import Entry
from saucer.studio.people.models import Person

# How it grows: SAUCER_SHELF=100000 ./saucer bench --only shelf
COUNT = int(os.environ.get("SAUCER_SHELF", "10000"))
BUDGET_MS = 120.0
# Several of each, taken in turn, so that no answer is one that was just given.
ASKED = {
    "shelf.list": ("entries?size=60", "entries?size=60&order=name"),
    "shelf.filter": (
        "entries?size=60&kind=lut",
        "entries?size=60&category=Film%2003",
        "entries?size=60&kind=look&category=Film%2007/Mill",
        "entries?size=60&tag=scene%201&in_state=published",
        "entries?size=60&health=notice&order=warmer",
        "entries?size=60&order=softer&days=90",
    ),
    "shelf.search": (
        "entries?size=60&q=harbour",
        "entries?size=60&q=quay%20dusk",
        "entries?size=60&q=lant",
        "entries?size=60&q=warm%20faded",
        "entries?size=60&q=harbuor",
        "entries?size=60&q=nothing%20is%20so",
    ),
    "shelf.counts": (
        "counts?",
        "counts?q=harbour",
        "counts?kind=lut&category=Film%2003",
        "counts?tag=scene%201&in_state=published",
    ),
    "shelf.stamp": ("../stamp",),
    "shelf.like": tuple(f"entries/{{{number}}}/alike" for number in range(8)),
}


@contextlib.contextmanager
def own_database() -> Iterator[Client]:
    made = setup_databases(verbosity=0, interactive=False)
    try:
        person = Person.objects.create_user("ilse", password=None, role="designer", full_name="Ilse Harrow")
        fill(person, COUNT)
        with connection.cursor() as cursor:
            cursor.execute("VACUUM ANALYZE")
        client = Client(headers={"host": "localhost"})
        client.force_login(person, "django.contrib.auth.backends.ModelBackend")
        yield client
    finally:
        teardown_databases(made, verbosity=0)


def _asking(client: Client, paths: Iterator[str]) -> None:
    response = client.get(f"/api/shelf/{next(paths)}".replace("/shelf/..", ""))
    assert response.status_code == 200, response.content[:200]


def _last_page(client: Client, kind: str) -> str:
    """The cursor of the page at the very end."""
    cursor = ""
    while True:
        found = client.get(f"/api/shelf/entries?size=200&kind={kind}&cursor={cursor}").json()
        if not found["cursor"]:
            return cursor
        cursor = found["cursor"]


def run() -> Iterator[Result]:
    with own_database() as client:
        some = list(Entry.objects.order_by("?").values_list("pk", flat=True)[:8])
        for name, paths in ASKED.items():
            turns = cycle(path.format(*some) for path in paths)
            yield against_budget(name, lambda turns=turns: _asking(client, turns), f"{COUNT:,} entries, 120 ms", BUDGET_MS, 1.0)
        late = cycle([f"entries?size=60&kind=look&cursor={_last_page(client, 'look')}"])
        yield against_budget("shelf.last-page", lambda: _asking(client, late), f"{COUNT:,} entries, 120 ms", BUDGET_MS, 1.0)
