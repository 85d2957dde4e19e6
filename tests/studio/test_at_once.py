"""Two people at the same moment: what one of them uses the other does not take away, and who crosses another's way waits."""

from __future__ import annotations

from collections.abc import Callable
from threading import Barrier, Event

import pytest
from django.db import OperationalError, transaction
from psycopg.errors import DeadlockDetected

from saucer.core.colour.own import OwnEncoding
from saucer.core.errors import EncodingError
from saucer.core.files.format import PLAIN
from saucer.core.files.registry import formats
from saucer.studio.catalogue.models import Entry, Tag
from saucer.studio.catalogue.order import many, tags
from saucer.studio.common.locking import once_more
from saucer.studio.common.refusals import NotPossible
from saucer.studio.encodings import rules as encodings
from saucer.studio.luts import rules as luts
from saucer.studio.pictures import rules as pictures
from saucer.studio.projects import rules as projects
from saucer.studio.projects.story import details, shots
from tests.core.test_schema_and_own import LOGC3
from tests.make import a_lut, a_picture
from tests.studio.work import at_once

pytestmark = pytest.mark.django_db(transaction=True)
OWN = LOGC3["id"]


@pytest.fixture
def own(designer) -> str:
    encodings.add(designer, OwnEncoding.model_validate(LOGC3))
    return OWN


def test_an_encoding_is_not_removed_while_anything_is_in_it(designer, own, picture, tmp_path):
    project = projects.create(designer, "Ferry", delivery=own)
    with pytest.raises(NotPossible, match="used by 1 projects"):
        encodings.remove(designer, own)
    projects.change(designer, project.pk, {"delivery": "rec709"})
    (shot,) = shots.add_shots(designer, project.pk, [shots.NewShot(picture.pk, "Quay")])
    done = details.change_shots(designer, project.pk, [shot.pk], {"encoding": own})
    with pytest.raises(NotPossible, match="used by 1 shots"):
        encodings.remove(designer, own)
    assert done.count == 1
    details.change_shots(designer, project.pk, [shot.pk], {"encoding": ""})
    still = pictures.bring_in(designer, a_picture(tmp_path / "own.png"), "own.png", encoding_id=own)
    pictures.delete(designer, still.pk)
    with pytest.raises(NotPossible, match="used by 1 pictures"):
        encodings.remove(designer, own)
    pictures.change(designer, picture.pk, "Quay", pictures.Reading())
    with pytest.raises(EncodingError), transaction.atomic():
        encodings.hold("no-such")


def test_an_encoding_is_not_removed_in_the_moment_in_which_a_picture_takes_it(designer, own, picture):
    taken, asked = Event(), Event()

    def take() -> None:
        with transaction.atomic():
            encodings.hold(own)
            taken.set()
            asked.wait(30)
            picture.encoding = own
            picture.save(update_fields=["encoding"])

    def remove() -> None:
        taken.wait(30)
        asked.set()
        encodings.remove(designer, own)

    _, refused = at_once(take, remove)
    assert isinstance(refused, NotPossible), refused
    assert encodings.find(own).id == own


def test_renames_of_tags_that_cross_wait_for_each_other(designer, curator):
    first, second = (
        luts.bring_in(designer, formats()["cube"].write(a_lut(5, seed=seed), PLAIN), f"{seed}.cube").pk for seed in (1, 2)
    )
    many.change_one(designer, "lut", first, {}, {}, ["night", "day"], [])
    many.change_one(designer, "lut", second, {}, {}, ["day", "night"], [])
    for _ in range(6):
        start = Barrier(2)

        def rename(old: str, new: str, begin: Barrier = start) -> int:
            begin.wait(30)
            return tags.rename(curator, old, new)

        found = at_once(lambda: rename("night", "day"), lambda: rename("day", "night"))
        assert not any(isinstance(one, OperationalError) for one in found), found
        assert Tag.objects.count() == 1, "whoever came second found one tag, and named it so"
        name = Tag.objects.get().name
        assert {tag.name for entry in Entry.objects.all() for tag in entry.tags.all()} == {name}
        many.change_one(designer, "lut", first, {}, {}, ["night", "day"], [])


def test_what_was_ended_for_a_deadlock_is_done_once_more_and_no_more(db):
    tried: list[int] = []

    def meets(times: int) -> Callable[[], str]:
        @once_more
        def rule() -> str:
            tried.append(1)
            if len(tried) <= times:
                raise OperationalError from DeadlockDetected()
            return "done"

        return rule

    assert meets(1)() == "done"
    tried.clear()
    with pytest.raises(OperationalError):
        meets(2)()
    tried.clear()
    with pytest.raises(OperationalError), transaction.atomic():
        meets(1)()
    assert len(tried) == 1, "the transaction around it is lost already"
