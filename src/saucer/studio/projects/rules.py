"""What may happen to projects: made, told of, closed. Their shots: `shots`; what lies on them: `grading`."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from django.db import transaction
from django.db.models import Case, Count, Exists, JSONField, OuterRef, Prefetch, Q, QuerySet, Value, When
from django.db.models.fields.json import KeyTransform

from saucer.core.reports.misfits import Tolerances
from saucer.studio.common.refusals import NotAllowed, NotFound, NotPossible
from saucer.studio.encodings import rules as encodings
from saucer.studio.people.deleting import bring_back, put_away
from saucer.studio.people.models import Person, Role
from saucer.studio.people.rules import may, record, require
from saucer.studio.people.studio import the_studio
from saucer.studio.pictures.models import KEPT_FROM
from saucer.studio.projects.models import Layer, MemberRole, Membership, Project, Shot, ShotNote

GONE = "There is no such project, or it was deleted."
MOST_AT_ONCE = 500


def list_projects(person: Person) -> QuerySet[Project]:
    """Those that this person may see, the newest first."""
    found: QuerySet[Project] = Project.objects.visible_to(person).select_related("owner")
    return found


def kept_pictures(person: Person) -> Q:
    """Pictures that are shots of projects closed to the person, and of no other."""
    shots = Shot.objects.filter(picture=OuterRef("pk"))
    seen = shots.filter(scene__project__in=Project.objects.known_to(person).values("pk"))
    return Q(Exists(shots)) & ~Q(Exists(seen))


KEPT_FROM.append(kept_pictures)
# Deleted ones too: they can come back.
encodings.USES.append(("projects", lambda encoding_id: Project.objects.filter(delivery=encoding_id).count()))
encodings.USES.append(("shots", lambda encoding_id: Shot.objects.filter(encoding=encoding_id).count()))


def find(person: Person, pk: int) -> Project:
    """Raises: NotFound, for one that is closed to the person too"""
    project = list_projects(person).filter(pk=pk).first()
    if project is None:
        raise NotFound(GONE)
    return project


def role_in(person: Person, project: Project) -> MemberRole | None:
    """What the person does in a project: leads their own, and as a curator what is not closed; None for one who only sees it."""
    if not may(person, Role.DESIGNER):
        return None
    if project.owner_id == person.pk or may(person, Role.ADMIN):
        return MemberRole.LEADS
    own = Membership.objects.filter(project=project, person=person).first()
    if own is not None:
        return MemberRole(own.role)
    return MemberRole.LEADS if may(person, Role.CURATOR) and not project.closed else None


def may_work_in(person: Person, project: Project) -> bool:
    return role_in(person, project) in (MemberRole.LEADS, MemberRole.GRADES)


def may_lead(person: Person, project: Project) -> bool:
    return role_in(person, project) == MemberRole.LEADS


def work_in(person: Person, pk: int, what: str, leading: bool = False) -> Project:
    """The project, held until the end of the transaction. what: completes "You cannot ..."; leading: is that for those who lead it?

    Raises: NotFound, NotAllowed
    """
    require(person, Role.DESIGNER, what)
    find(person, pk)
    project = Project.objects.select_for_update().filter(pk=pk, deleted=None).first()
    if project is None:
        raise NotFound(GONE)
    _require_role(person, project, what, leading)
    return project


def require_work_in(person: Person, pk: int, what: str) -> None:
    """Told at once to whoever may not work there; nothing is held. Raises: NotFound, NotAllowed"""
    require(person, Role.DESIGNER, what)
    _require_role(person, find(person, pk), what, leading=False)


def _require_role(person: Person, project: Project, what: str, leading: bool) -> None:
    """Raises: NotAllowed"""
    role = role_in(person, project)
    if role is None:
        raise NotAllowed(f"You cannot {what}: you are no member of {project.name}.")
    if role == MemberRole.FOLLOWS or (leading and role != MemberRole.LEADS):
        raise NotAllowed(f"You cannot {what}: in {project.name} your role is one who {role}.")


def create(person: Person, name: str, **fields: Any) -> Project:
    """fields: as `change`. Raises: NotAllowed, NotPossible, EncodingError"""
    require(person, Role.DESIGNER, "make projects")
    with transaction.atomic():
        studio = the_studio()
        tolerances = {} if studio.skin == Tolerances.skin else {"skin": studio.skin}
        project = Project(owner=person, view=encodings.studio_view(), delivery=studio.delivery, tolerances=tolerances)
        _write(project, {"name": name} | fields)
        project.save()
        record(person, "make project", project)
    return project


def change(person: Person, pk: int, given: dict[str, Any]) -> Project:
    """Only what is given is written. given: name, code, note, delivery, view, closed, members (username to role)

    Raises: as `create`; NotFound
    """
    with transaction.atomic():
        project = work_in(person, pk, "change this project", leading=True)
        members = given.pop("members", None)
        _write(project, given)
        project.save(update_fields=list(given))
        if members is not None:
            _set_members(project, members)
        record(person, "change project", project, **given, **({} if members is None else {"members": members}))
    return project


def _set_members(project: Project, roles: Mapping[str, MemberRole]) -> None:
    people = {one.username: one for one in Person.objects.filter(username__in=roles, is_active=True)}
    for name in roles:
        if name not in people:
            raise NotPossible(f"There is nobody called {name}.")
    Membership.objects.filter(project=project).exclude(person__in=people.values()).delete()
    for name, role in roles.items():
        Membership.objects.update_or_create(project=project, person=people[name], defaults={"role": role})


def _write(project: Project, given: dict[str, Any]) -> None:
    if "name" in given:
        given["name"] = " ".join(given["name"].split())[:120]
        if not given["name"]:
            raise NotPossible("A project needs a name.")
        if Project.objects.filter(name__iexact=given["name"], deleted=None).exclude(pk=project.pk).exists():
            raise NotPossible(f"There is a project called {given['name']} already.")
    if "delivery" in given:
        encodings.find(given["delivery"])
        encodings.hold(given["delivery"])
    for field, value in given.items():
        setattr(project, field, value)


def delete(person: Person, pk: int) -> None:
    """By who leads it and owns it, or is a curator; it can be brought back for 30 days. Raises: NotFound, NotAllowed"""
    with transaction.atomic():
        work_in(person, pk, "delete this project", leading=True)
        put_away(person, Project.objects.known_to(person), pk, "project")


def restore(person: Person, pk: int) -> Project:
    """Raises: NotFound, for one that is closed to the person too; NotAllowed"""
    with transaction.atomic():
        project = Project.objects.known_to(person).filter(pk=pk).first()
        if project is None:
            raise NotFound(GONE)
        _require_role(person, project, "bring this project back", leading=True)
        return bring_back(person, Project.objects.known_to(person), pk, "project")


def list_shots(project: Project) -> list[Shot]:
    """In story order, with their scenes, pictures and what lies on them; three queries."""
    found = Shot.objects.filter(scene__project=project, deleted=None).select_related(
        "scene__project", "picture__footage", "figures"
    )
    return list(found.prefetch_related(own_layers()))


def own_layers() -> Prefetch[Any]:
    """Of shots, as they are told."""
    return Prefetch("layers", layers_at_hand())


def layers_at_hand() -> QuerySet[Layer]:
    """Layers with all that is told of them, without what they do; offered_family: where one of a family lies there, whom the version that
    is offered in its place has, as it writes them; none otherwise.
    """
    entry = "version__entry"
    of_offered = Case(
        When(member="", then=Value(None)),
        When(**{f"{entry}__published__isnull": False}, then=KeyTransform("family", f"{entry}__published__content")),
        default=KeyTransform("family", f"{entry}__latest__content"),
        output_field=JSONField(),
    )
    told = Layer.objects.select_related(f"{entry}__published", f"{entry}__latest", "placed_by").annotate(offered_family=of_offered)
    return told.defer("version__content", f"{entry}__published__content", f"{entry}__latest__content")


def find_shot(project: Project, pk: int) -> Shot:
    """Raises: NotFound"""
    found = (
        Shot.objects.filter(pk=pk, scene__project=project, deleted=None)
        .select_related("scene__project", "picture__footage")
        .first()
    )
    if found is None:
        raise NotFound("There is no such shot, or it was taken out.")
    return found


_SHOWN = (
    "code", "encoding", "roll", "first", "last", "poster", "scene__project__closed", "scene__project__view", "scene__project__owner",
    "scene__project__deleted",
    "picture__name", "picture__encoding", "picture__proxy", "picture__footage__proxy", "picture__footage__proxy_encoding",
)  # fmt: skip


def find_shots_to_show(person: Person, pk: int, ids: Sequence[int]) -> list[Shot]:
    """With nothing but what showing them needs, in one query: as a wall is filled and a clip plays, this is asked for all the time.

    In the order of the ids, without those that were taken out. Raises: NotFound where the project is not for the person to see
    """
    shown = Shot.objects.select_related("scene__project", "picture__footage").only(*_SHOWN).order_by()
    found = {shot.pk: shot for shot in shown.filter(pk__in=ids, scene__project=pk, deleted=None)}
    project = next((shot.scene.project for shot in found.values()), None)
    if project is None or project.deleted is not None or (project.closed and project.owner_id != person.pk):
        find(person, pk)
    return [found[one] for one in ids if one in found]


def find_shot_to_show(person: Person, pk: int, shot_pk: int) -> Shot:
    """Raises: NotFound"""
    found = find_shots_to_show(person, pk, [shot_pk])
    if not found:
        raise NotFound("There is no such shot, or it was taken out.")
    return found[0]


def lock_shots(project: Project, ids: Sequence[int]) -> list[Shot]:
    """In the order of their numbers, held. Raises: NotFound where one is none of the project's; NotPossible for none or too many"""
    if not 1 <= len(set(ids)) <= MOST_AT_ONCE:
        raise NotPossible(f"Choose 1 to {MOST_AT_ONCE} shots.")
    shots = list(Shot.objects.select_for_update().filter(pk__in=ids, scene__project=project, deleted=None).order_by("pk"))
    if len(shots) < len(set(ids)):
        raise NotFound("Some of these shots were taken out meanwhile. Choose again.")
    return shots


def count_notes(project: Project) -> dict[int, int]:
    """How many notes each shot has."""
    counted = ShotNote.objects.filter(shot__scene__project=project).values("shot").annotate(n=Count("pk")).order_by()
    return {one["shot"]: one["n"] for one in counted}
