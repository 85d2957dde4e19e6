"""The first hour of a studio: what holds for it is set, and what it is offered is brought in by a worker, each of it once."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from functools import partial

from django.db import transaction
from pydantic import BaseModel, ConfigDict

from saucer.core.look.model import look_from
from saucer.core.steps.parameters import StepParameters
from saucer.studio.catalogue.models import Category, Entry, Kind, PassOn, VersionState
from saucer.studio.catalogue.order import tags
from saucer.studio.catalogue.review.rules import restore_state
from saucer.studio.catalogue.rules import describe_for_search, find_or_make_category
from saucer.studio.encodings import rules as encodings
from saucer.studio.jobs import rules as jobs
from saucer.studio.jobs.models import Job
from saucer.studio.looks import rules as looks
from saucer.studio.people.models import Person, Role
from saucer.studio.people.rules import record, require
from saucer.studio.people.studio import mark_begun, set_up, the_studio
from saucer.studio.pictures import rules as pictures
from saucer.studio.pictures.models import Picture
from saucer.studio.presets import rules as presets
from saucer.studio.start import starter

JOB = "begin"
Step = Callable[[], object]


class BeginWork(BaseModel):
    """What is taken of what is offered."""

    model_config = ConfigDict(extra="forbid")

    pictures: bool = False
    looks: bool = False
    categories: bool = False

    @property
    def takes_anything(self) -> bool:
        return self.pictures or self.looks or self.categories


def is_waiting(person: Person) -> bool:
    """Has nobody said yet what this studio begins with? Told to who may."""
    require(person, Role.ADMIN, "begin a studio")
    return not the_studio().begun


def begin(person: Person, wanted: BeginWork) -> Job | None:
    """Takes what is wanted, or refuses all of it; asked once, but what was refused can be taken later. Raises: NotAllowed"""
    require(person, Role.ADMIN, "begin a studio")
    with transaction.atomic():
        mark_begun(person)
        return jobs.start(person, JOB, wanted) if wanted.takes_anything else None


def set_delivery(person: Person, encoding: str) -> str:
    """The encoding that pictures of new projects leave in. Returns: its id. Raises: NotAllowed, EncodingError"""
    return set_up(person, delivery=encodings.find(encoding).id).delivery


def bring_in(person: Person, wanted: BeginWork, report: Callable[[float], None]) -> int:
    """What is there already, by its name, stays as it is: what a worker had begun goes on. Returns: how many things came in"""
    steps = list(_steps(person, wanted))
    for number, step in enumerate(steps):
        report(number / max(1, len(steps)))
        with transaction.atomic():
            step()
    return len(steps)


def _steps(person: Person, wanted: BeginWork) -> Iterator[Step]:
    if wanted.categories:
        yield partial(_make_categories, person)
    if wanted.pictures:
        there = set(Picture.objects.filter(test=True, deleted=None).values_list("file_name", flat=True))
        for place, one in enumerate(starter.PICTURES):
            if one.file not in there:
                yield partial(bring_in_picture, person, place, one)
    if wanted.looks:
        found = set(Entry.objects.filter(owner=person, deleted=None).values_list("kind", "name"))
        for look in starter.LOOKS:
            if (Kind.LOOK, look.name) not in found:
                yield partial(_make_look, person, look)
        for name, note, content in starter.PRESETS:
            if (Kind.PRESET, name) not in found:
                yield partial(_keep_preset, person, name, look_from({"steps": list(content)}).steps, starter.PRESETS_IN, note)


def bring_in_picture(person: Person, place: int, one: starter.TestPicture) -> Picture:
    picture = pictures.bring_in(person, starter.FOLDER / one.file, one.file, one.name, one.encoding)
    picture.test, picture.position, picture.note = True, place, one.note
    picture.save(update_fields=["test", "position", "note"])
    return picture


def _make_categories(person: Person) -> None:
    missing = set(starter.CATEGORIES) - set(Category.objects.filter(parent=None).values_list("name", flat=True))
    for name in starter.CATEGORIES:
        if name in missing:
            find_or_make_category(name)
    if missing:
        record(person, "make categories", f"{len(missing)} categories", names=sorted(missing))


def _make_look(person: Person, one: starter.StarterLook) -> None:
    """It comes published: whoever makes Saucer has looked at it."""
    look = look_from({"name": one.name, "view": "soft", "steps": list(one.steps)})
    draft = looks.create(person, look, category=one.category, note=one.note, source="Comes with Saucer", may_pass_on=PassOn.YES)
    version = looks.save_version(person, draft.pk, "As it comes with Saucer")
    entry = Entry.objects.get(pk=draft.pk)
    tags.put_on(entry, one.tags, ())
    restore_state(entry, version, VersionState.PUBLISHED)
    describe_for_search(entry)


def _keep_preset(person: Person, name: str, steps: Sequence[StepParameters], category: str, note: str) -> None:
    entry = presets.keep(person, name, steps, category, note, source="Comes with Saucer", may_pass_on=PassOn.YES)
    assert entry.latest is not None
    restore_state(entry, entry.latest, VersionState.PUBLISHED)
