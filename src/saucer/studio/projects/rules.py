"""What may happen to projects: made, told of, closed; shots brought in, noted, approved. What lies on shots: `grading`."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from django.db import transaction
from django.db.models import Max, Prefetch, Q, QuerySet

from saucer.studio.common.refusals import NotAllowed, NotFound, NotPossible
from saucer.studio.encodings import rules as encodings
from saucer.studio.people.deleting import bring_back, put_away
from saucer.studio.people.models import Person, Role
from saucer.studio.people.rules import may, record, require
from saucer.studio.pictures.models import Picture
from saucer.studio.projects.models import Layer, Project, Scene, Shot

GONE = "There is no such project, or it was deleted."
MOST_AT_ONCE = 500


def list_projects(person: Person) -> QuerySet[Project]:
    """Those that this person may see, the newest first."""
    found = Project.objects.filter(deleted=None).select_related("owner")
    if not may(person, Role.ADMIN):
        mine = Project.members.through.objects.filter(person=person).values("project")
        found = found.filter(Q(closed=False) | Q(owner=person) | Q(pk__in=mine))
    return found


def find(person: Person, pk: int) -> Project:
    """Raises: NotFound, for one that is closed to the person too"""
    project = list_projects(person).filter(pk=pk).first()
    if project is None:
        raise NotFound(GONE)
    return project


def may_work_in(person: Person, project: Project) -> bool:
    """As a designer: in one's own, as a member, or anywhere that is not closed as a curator."""
    if not may(person, Role.DESIGNER):
        return False
    inside = project.owner_id == person.pk or project.members.filter(pk=person.pk).exists()
    return inside or may(person, Role.ADMIN) or (may(person, Role.CURATOR) and not project.closed)


def work_in(person: Person, pk: int, what: str) -> Project:
    """The project, held until the end of the transaction. what: completes "You cannot ..." Raises: NotFound, NotAllowed"""
    require(person, Role.DESIGNER, what)
    find(person, pk)
    project = Project.objects.select_for_update().filter(pk=pk, deleted=None).first()
    if project is None:
        raise NotFound(GONE)
    if not may_work_in(person, project):
        raise NotAllowed(f"You cannot {what}: you are no member of {project.name}.")
    return project


def create(person: Person, name: str, **fields: Any) -> Project:
    """fields: as `change`. Raises: NotAllowed, NotPossible, EncodingError"""
    require(person, Role.DESIGNER, "make projects")
    with transaction.atomic():
        project = Project(owner=person)
        _write(project, {"name": name} | fields)
        project.save()
        record(person, "make project", project)
    return project


def change(person: Person, pk: int, given: dict[str, Any]) -> Project:
    """Only what is given is written. given: name, code, note, delivery, closed, members (usernames). Raises: as `create`; NotFound"""
    with transaction.atomic():
        project = work_in(person, pk, "change this project")
        members = given.pop("members", None)
        _write(project, given)
        project.save(update_fields=list(given))
        if members is not None:
            people = list(Person.objects.filter(username__in=members, is_active=True))
            missing = set(members) - {one.username for one in people}
            if missing:
                raise NotPossible(f"There is nobody called {sorted(missing)[0]}.")
            project.members.set(people)
        record(person, "change project", project, **given, **({} if members is None else {"members": members}))
    return project


def _write(project: Project, given: dict[str, Any]) -> None:
    if "name" in given:
        given["name"] = " ".join(given["name"].split())[:120]
        if not given["name"]:
            raise NotPossible("A project needs a name.")
        if Project.objects.filter(name__iexact=given["name"], deleted=None).exclude(pk=project.pk).exists():
            raise NotPossible(f"There is a project called {given['name']} already.")
    if "delivery" in given:
        encodings.find(given["delivery"])
    for field, value in given.items():
        setattr(project, field, value)


def delete(person: Person, pk: int) -> None:
    """It can be brought back for 30 days."""
    find(person, pk)
    put_away(person, Project, pk, "project")


def restore(person: Person, pk: int) -> Project:
    return bring_back(person, Project, pk, "project")


def list_shots(project: Project) -> list[Shot]:
    """In story order, with their scenes, pictures and what lies on them; three queries."""
    layers = Layer.objects.select_related("version__entry__published", "version__entry__latest", "placed_by").defer(
        "version__content", "version__entry__published__content", "version__entry__latest__content"
    )
    found = Shot.objects.filter(scene__project=project, deleted=None).select_related("scene", "picture")
    return list(found.prefetch_related(Prefetch("layers", layers)))


def lock_shots(project: Project, ids: Sequence[int]) -> list[Shot]:
    """In the order of their numbers, held. Raises: NotFound where one is none of the project's; NotPossible for none or too many"""
    if not 1 <= len(set(ids)) <= MOST_AT_ONCE:
        raise NotPossible(f"Choose 1 to {MOST_AT_ONCE} shots.")
    shots = list(Shot.objects.select_for_update().filter(pk__in=ids, scene__project=project, deleted=None).order_by("pk"))
    if len(shots) < len(set(ids)):
        raise NotFound("Some of these shots were taken out meanwhile. Choose again.")
    return shots


def add_shots(person: Person, pk: int, scene_name: str, pictures: Sequence[int]) -> list[Shot]:
    """Pictures as shots at the end of a scene, which is made where it is new. Raises: NotFound, NotAllowed, NotPossible"""
    with transaction.atomic():
        project = work_in(person, pk, "bring shots in")
        name = " ".join(scene_name.split())[:80]
        if not name:
            raise NotPossible("A scene needs a name.")
        if not 1 <= len(set(pictures)) <= MOST_AT_ONCE:
            raise NotPossible(f"Choose 1 to {MOST_AT_ONCE} pictures.")
        found = {one.pk: one for one in Picture.objects.filter(pk__in=pictures, deleted=None, passing=False)}
        if len(found) < len(set(pictures)):
            raise NotFound("Some of these pictures were deleted meanwhile. Choose again.")
        scene = Scene.objects.filter(project=project, name__iexact=name).first()
        if scene is None:
            last = Scene.objects.filter(project=project).aggregate(Max("position"))["position__max"]
            scene = Scene.objects.create(project=project, name=name, position=(last or 0) + 1)
        there = Shot.objects.filter(scene=scene, deleted=None)
        taken = {code.lower() for code in there.values_list("code", flat=True)}
        last = there.aggregate(Max("position"))["position__max"] or 0
        made = []
        for position, one in enumerate(dict.fromkeys(pictures), last + 1):
            code = _free(found[one].name, taken)
            made.append(Shot(scene=scene, code=code, position=position, picture=found[one]))
        Shot.objects.bulk_create(made)
        record(person, "bring in shots", project, scene=scene.name, shots=[shot.code for shot in made])
    return made


def _free(name: str, taken: set[str]) -> str:
    """A code that no shot of the scene has; taken, in small letters, gets it too."""
    code, number = name.strip()[:70] or "Shot", 2
    wanted = code
    while wanted.lower() in taken:
        wanted, number = f"{code} {number}", number + 1
    taken.add(wanted.lower())
    return wanted


def change_shots(person: Person, pk: int, ids: Sequence[int], note: str | None = None, approved: bool | None = None) -> None:
    """Note or approve all of these. Raises: NotFound, NotAllowed, NotPossible"""
    with transaction.atomic():
        project = work_in(person, pk, "change shots")
        shots = lock_shots(project, ids)
        given: dict[str, Any] = {}
        if note is not None:
            given["note"] = note.strip()[:1000]
        if approved is not None:
            given["approved"] = approved
        Shot.objects.filter(pk__in=[shot.pk for shot in shots]).update(**given)
        what = "approve shots" if approved else "change shots"
        record(person, what, project, shots=[shot.code for shot in shots], **given)
