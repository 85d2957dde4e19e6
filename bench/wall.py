"""The wall on a picture that nobody has looked at yet: two hundred looks previewed by the real server, asked for as a browser does.

The budgets are DESIGN 7's and the Shelf's: all of them in 3 s, the first screen in 0.7 s.
"""

from __future__ import annotations

import threading
import time
from collections import defaultdict
from collections.abc import Iterator

from django.utils import timezone

from bench.load import Talker
from bench.measure import Result
from bench.page import served
from saucer.core.look.model import look_from
from saucer.demo.catalogue import FOLDER
from saucer.demo.shelf import FAMILIES
from saucer.studio.catalogue.models import Entry
from saucer.studio.looks import rules as looks
from saucer.studio.people.models import Person
from saucer.studio.pictures import rules as pictures
from saucer.studio.pictures.models import Picture

COUNT, FIRST = 200, 16
CONNECTIONS = 6
"""That a browser opens to one server."""


def _looks(person: Person) -> list[int]:
    made = []
    for number in range(COUNT):
        _, _, _, steps = FAMILIES[number % len(FAMILIES)]
        content = {"name": f"Wall {number}", "steps": steps(number // len(FAMILIES) / (COUNT / len(FAMILIES)))}
        made.append(looks.create(person, look_from(content)).pk)
    return made


def run() -> Iterator[Result]:
    person = Person.objects.get_or_create(username="wall", defaults={"role": "designer"})[0]
    made = _looks(person)
    # Told apart from the demo's own picture by its encoding, so that nothing of it is kept yet.
    picture = pictures.bring_in(person, FOLDER / "table-window.png", "wall.png", encoding_id="rec709")
    times: dict[str, list[float]] = defaultdict(list)
    seen: list[float] = []
    try:
        with served() as (url, _):
            talkers = [Talker(url, person, times) for _ in range(CONNECTIONS)]
            talkers[0].ask("warm", "GET", f"/shelf/entries/{made[0]}/preview.jpg?picture={Picture.objects.filter(test=True)[0].pk}")
            waiting = iter(made)
            lock = threading.Lock()
            began = time.perf_counter()

            def work(talker: Talker) -> None:
                while True:
                    with lock:
                        entry = next(waiting, None)
                    if entry is None:
                        return
                    talker.ask("preview", "GET", f"/shelf/entries/{entry}/preview.jpg?picture={picture.pk}")
                    seen.append((time.perf_counter() - began) * 1e3)

            threads = [threading.Thread(target=work, args=[talker]) for talker in talkers]
            for thread in threads:
                thread.start()
            for thread in threads:
                thread.join()
    finally:
        Entry.objects.filter(pk__in=made).update(deleted=timezone.now())
        Picture.objects.filter(pk=picture.pk).update(deleted=timezone.now())
    assert len(times["preview"]) == COUNT, sorted(times)
    yield Result("shelf.previews.200", sorted(seen)[-1], "3 s", 3000.0, 1.0)
    yield Result("shelf.previews.first", sorted(seen)[FIRST - 1], "0.7 s", 700.0, 1.0)
