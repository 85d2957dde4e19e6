"""What is said of shots: their encoding, names, frames, references, whether they are approved; and every such change taken back."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from django.db import transaction

from saucer.studio.common.refusals import NotPossible
from saucer.studio.encodings import rules as encodings
from saucer.studio.people.models import Person
from saucer.studio.pictures.models import Footage, Picture
from saucer.studio.pictures.rules import find_to_share
from saucer.studio.projects.changes import WAYS, Done, done, look_different
from saucer.studio.projects.models import Project, Shot
from saucer.studio.projects.rules import lock_shots, work_in
from saucer.studio.projects.story.places import frames_in

FEW = 4
"""Different changes that are a query each; more are one for all."""
CHANGED, APPROVED, RENAMED = "change shots", "approve shots", "rename shot"


def change_shots(person: Person, pk: int, ids: Sequence[int], given: dict[str, Any]) -> Done:
    """Only what is given is written to all of these. given: note, approved, encoding (empty: as its picture), roll, reference

    Raises: NotFound, NotAllowed, NotPossible, EncodingError
    """
    with transaction.atomic():
        project = work_in(person, pk, "change shots")
        shots = lock_shots(project, ids)
        fields = dict(given)
        if fields.get("note") is not None:
            fields["note"] = fields["note"].strip()[:1000]
        if fields.get("roll") is not None:
            fields["roll"] = " ".join(fields["roll"].split())
        if fields.get("encoding"):
            encodings.find(fields["encoding"])
            encodings.hold(fields["encoding"])
        if "reference" in fields:
            wanted = fields.pop("reference")
            if wanted is not None:
                find_to_share([wanted], person)
            fields["reference_id"] = wanted
        found = _write(person, project, APPROVED if given.get("approved") else CHANGED, dict.fromkeys(shots, fields))
        look_different(person, project)
    return found


def set_frames(person: Person, pk: int, shot_pk: int, given: dict[str, int]) -> Done:
    """given: first, last, poster, from 0; a poster outside is brought inside. Raises: NotFound, NotAllowed, NotPossible"""
    with transaction.atomic():
        project = work_in(person, pk, "change shots")
        (shot,) = lock_shots(project, [shot_pk])
        moving: Footage | None = getattr(Picture.objects.select_related("footage").get(pk=shot.picture_id), "footage", None)
        if moving is None or shot.first is None or shot.last is None or shot.poster is None:
            raise NotPossible(f"{shot.code} is a still: it has no frames.")
        first, last = frames_in(moving, given.get("first", shot.first), given.get("last", shot.last))
        poster = min(max(given.get("poster", shot.poster), first), last)
        found = _write(person, project, CHANGED, {shot: {"first": first, "last": last, "poster": poster}})
        look_different(person, project)
    return found


def rename_shot(person: Person, pk: int, shot_pk: int, code: str) -> Done:
    """Raises: NotFound, NotAllowed, NotPossible"""
    with transaction.atomic():
        project = work_in(person, pk, "change shots")
        (shot,) = lock_shots(project, [shot_pk])
        code = " ".join(code.split())[:80]
        if not code:
            raise NotPossible("A shot needs a name.")
        _require_free(shot, code)
        return _write(person, project, RENAMED, {shot: {"code": code}})


def _require_free(shot: Shot, code: str) -> None:
    if Shot.objects.filter(scene=shot.scene_id, code__iexact=code, deleted=None).exclude(pk=shot.pk).exists():
        raise NotPossible(f"There is a shot called {code} in this scene already.")


def _write(person: Person, project: Project, action: str, wanted: dict[Shot, dict[str, Any]]) -> Done:
    """Fields of shots, and what they were into the activity."""
    before: dict[str, dict[str, Any]] = {}
    after: dict[str, dict[str, Any]] = {}
    for shot, fields in wanted.items():
        was = {name: getattr(shot, name) for name in fields}
        if was != fields:
            before[str(shot.pk)], after[str(shot.pk)] = was, fields
    _update({int(pk): fields for pk, fields in after.items()})
    if not before:
        return Done(0, None)
    changed = [shot for shot in wanted if str(shot.pk) in before]
    told = {name.removesuffix("_id"): value for name, value in next(iter(after.values())).items()}
    codes = [shot.code for shot in changed]
    return done(person, project, action, len(before), shots=codes, **told, before=before, after=after)


def _update(wanted: Mapping[int, dict[str, Any]]) -> None:
    """Fields of shots, by their numbers: a query for all that get the same, one for all where many differ."""
    alike: dict[str, tuple[dict[str, Any], list[int]]] = {}
    for pk, fields in wanted.items():
        alike.setdefault(repr(sorted(fields.items())), (fields, []))[1].append(pk)
    if len(alike) <= FEW:
        for fields, pks in alike.values():
            Shot.objects.filter(pk__in=pks).update(**fields)
        return
    shots = Shot.objects.in_bulk(wanted)
    for pk, shot in shots.items():
        for name, value in wanted[pk].items():
            setattr(shot, name, value)
    Shot.objects.bulk_update(shots.values(), sorted({name for fields in wanted.values() for name in fields}))


def _take_back(person: Person, project: Project, data: dict[str, Any]) -> Done:
    before, after = data["before"], data["after"]
    held = Shot.objects.select_for_update().filter(pk__in=[int(one) for one in before], scene__project=project, deleted=None)
    shots = list(held.order_by("pk"))
    same = [shot for shot in shots if all(getattr(shot, name) == value for name, value in after[str(shot.pk)].items())]
    wanted = {shot.pk: dict(before[str(shot.pk)]) for shot in same}
    references = {fields["reference_id"] for fields in wanted.values() if fields.get("reference_id") is not None}
    there = set(Picture.objects.filter(pk__in=references).values_list("pk", flat=True))
    for shot in same:
        fields = wanted[shot.pk]
        if "code" in fields:  # of one shot only: that is how names are given
            _require_free(shot, fields["code"])
        if fields.get("reference_id") is not None and fields["reference_id"] not in there:
            fields["reference_id"] = None
    for encoding in sorted({fields.get("encoding", "") for fields in wanted.values()}):
        encodings.hold(encoding)
    _update(wanted)
    return Done(len(same), None, tuple(shot.code for shot in shots if shot not in same))


WAYS.update(dict.fromkeys((CHANGED, APPROVED, RENAMED), _take_back))
