"""What lies on shots: looks put on many at once, replaced rather than piled, their strength, and every such change taken back."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence, Set
from typing import Any, cast

from django.db import transaction
from django.db.models import Q

from saucer.core.look.bundle import lut_hashes
from saucer.core.look.family import named
from saucer.core.look.model import look_from
from saucer.core.steps.parameters import StepParameters
from saucer.studio.catalogue.models import Entry, Kind, Version, seen_by
from saucer.studio.catalogue.uses import FINDERS, Use
from saucer.studio.common.refusals import NotFound, NotPossible
from saucer.studio.looks.rules import families_of, names_in_family
from saucer.studio.luts.rules import at_hand
from saucer.studio.people.models import Person
from saucer.studio.presets.rules import content_of, steps_of
from saucer.studio.projects import rules
from saucer.studio.projects.changes import WAYS, Done, done, look_different
from saucer.studio.projects.grade.chain import RANKS, joined, own_of
from saucer.studio.projects.models import Layer, LayerRole, Project, Reach, Shot

ACTION = "grade shots"
MOST_LAYERS = 4
MOST_TRIMS = 20

Stack = list[dict[str, Any]]


def put_look(
    person: Person,
    pk: int,
    ids: Sequence[int],
    entry_id: int,
    number: int | None,
    strength: float,
    stack: bool,
    member: str = "",
) -> Done:
    """One look on all of these shots, in place of the one that lies there unless it is to be stacked; trims stay.

    A preset is no look: it becomes a trim before it, in place of another preset. number: of the version that is pinned; without it the
    published one, else the latest; member: which of its family. Raises: NotFound, NotAllowed, NotPossible
    """
    with transaction.atomic():
        rules.work_in(person, pk, "change shots")
        version = version_of(person, entry_id, number)
        member = member_in(version, member)
        return _change(
            person,
            pk,
            ids,
            lambda shot, before: _put(shot, before, version, strength, stack, member),
            look=named(version.entry.name, member),
            version=version.number,
            strength=strength,
        )


def member_in(version: Version, name: str) -> str:
    """As the version writes it; empty for the recipe. Raises: NotPossible where it has no such one"""
    names = names_in_family(version)
    found = next((one for one in names if one.casefold() == name.strip().casefold()), "")
    if name.strip() and not found:
        known = f"it has {', '.join(names)}" if names else "it has no family"
        raise NotPossible(f'{version.entry.name}, version {version.number} has no "{name.strip()}": {known}.')
    return found


def _put(shot: Shot, before: Stack, version: Version, strength: float, stack: bool, member: str = "") -> Stack:
    role = LayerRole.BEFORE if version.entry.kind == Kind.PRESET else LayerRole.LOOK
    others = [one for one in before if stack or one["role"] != role or one["version"] is None]
    return _checked(shot, [*others, item(role, version=version.pk, strength=strength, member=member)])


def trims_from(given: list[dict[str, Any]]) -> tuple[StepParameters, ...]:
    """Steps as they are sent. Raises: LookError; LutError, for a LUT that is not here: such a shot could not be seen any more"""
    look = look_from({"steps": given}, "trims")
    for sha256 in lut_hashes(look):
        at_hand(sha256)
    return look.steps


def set_trims(person: Person, pk: int, ids: Sequence[int], steps: Sequence[StepParameters], add: bool = False) -> Done:
    """The steps that bring these shots into range, before their looks, in place of those that are there; none takes them off.

    add: after those that are there, in their place otherwise. Raises: NotFound, NotAllowed, NotPossible
    """
    content = content_of(steps)

    def put(shot: Shot, before: Stack) -> Stack:
        own = next((one for one in before if is_trim(one)), None)
        kept = list(own["steps"]) if own and add else []
        others = [one for one in before if not is_trim(one)]
        whole = [*kept, *content]
        if len(whole) > MOST_TRIMS:
            raise NotPossible(f"{shot.code} would have {len(whole)} trims; {MOST_TRIMS} is the most.")
        return _checked(shot, [*others, item(LayerRole.BEFORE, steps=whole)] if whole else others)

    return _change(person, pk, ids, put, trims=[step["kind"] for step in content])


def copy_trims(person: Person, pk: int, source: int, ids: Sequence[int], add: bool) -> Done:
    """The trims of one shot on others, in place of theirs, or on top of them. Raises: as `set_trims`"""
    with transaction.atomic():
        project = rules.work_in(person, pk, "change shots")
        shot = Shot.objects.filter(pk=source, scene__project=project, deleted=None).first()
        if shot is None:
            raise NotFound("The shot whose trims are to be copied was taken out.")
        own = Layer.objects.filter(shot=shot, role=LayerRole.BEFORE, version=None).first()
        steps = steps_of(own.steps or [], "trims") if own else ()
        return set_trims(person, pk, [one for one in ids if one != source], steps, add)


def set_stack(person: Person, pk: int, ids: Sequence[int], layers: Stack) -> Done:
    """Everything that lies on these shots, as `item` makes it. Raises: NotFound, NotAllowed, NotPossible"""
    return _change(person, pk, ids, lambda shot, before: _checked(shot, layers), layers=len(layers))


def take_off(person: Person, pk: int, ids: Sequence[int]) -> Done:
    """No look lies on these shots any more; their trims stay."""
    return _change(person, pk, ids, lambda shot, before: [one for one in before if one["role"] != LayerRole.LOOK], look="")


def set_strength(person: Person, pk: int, ids: Sequence[int], strength: float) -> Done:
    """Of the topmost look of each shot; shots without one stay so."""

    def change(shot: Shot, before: Stack) -> Stack:
        looks = [index for index, one in enumerate(before) if one["role"] == LayerRole.LOOK]
        return [one | {"strength": strength} if looks and index == looks[-1] else one for index, one in enumerate(before)]

    return _change(person, pk, ids, change, strength=strength)


def take_newest(person: Person, pk: int, ids: Sequence[int]) -> Done:
    """The published version, else the latest, of every look on these shots. One that has lost the member of its family that lies there
    leaves the shot as it is.
    """
    newest = newest_of_all(person, set(Layer.objects.filter(shot__in=ids, version__isnull=False).values_list("version", "member")))
    return _change(person, pk, ids, lambda shot, before: _renewed(before, newest), newest=True)


Pinned = tuple[int, str]
"""A version's number, and which of its family lies there."""


def newest_of_all(person: Person, pinned: Set[Pinned]) -> dict[Pinned, int]:
    """For each of these the version that is offered in its place, in two queries; the same one of what the person may not know of, and
    where the newer one has no such member.
    """
    kept = Version.objects.filter(seen_by(person, "entry__"), pk__in={version for version, _ in pinned})
    kept = kept.select_related("entry__published", "entry__latest")
    without = kept.defer("content", "entry__published__content", "entry__latest__content")
    offered = {one.pk: one.entry.offered for one in without}
    newest = {one: found.pk if (found := offered.get(one[0])) else one[0] for one in pinned}
    families = families_of({number for (_, member), number in newest.items() if member})
    return {one: number if not one[1] or one[1] in families.get(number, ()) else one[0] for one, number in newest.items()}


def _renewed(layers: Stack, newest: Mapping[Pinned, int]) -> Stack:
    def of(one: dict[str, Any]) -> int | None:
        version = one["version"]
        return None if version is None else newest.get((version, one.get("member", "")), version)

    return [one | {"version": of(one)} for one in layers]


def item(
    role: LayerRole,
    version: int | None = None,
    steps: list[dict[str, Any]] | None = None,
    strength: float = 1.0,
    enabled: bool = True,
    member: str = "",
) -> dict[str, Any]:
    """A layer as it is kept in the activity, where those from before there were families name no member."""
    own = {"member": member} if member else {}
    return {"role": str(role), "version": version, "steps": steps, "strength": strength, "enabled": enabled} | own


def is_trim(layer: dict[str, Any]) -> bool:
    """Steps of the shot's own before its look?"""
    return layer["role"] == LayerRole.BEFORE and layer["version"] is None


def in_places(layers: Stack) -> Stack:
    """In the order that light goes through them, whatever was put on first: own trims, presets, looks, trims after them.

    Among presets, and among looks, in the order that they were given.
    """
    return sorted(
        layers, key=lambda one: (RANKS[Reach.SHOT, LayerRole(one["role"])], one["role"] == LayerRole.BEFORE and not is_trim(one))
    )


def _checked(shot: Shot, layers: Stack) -> Stack:
    """In the order that light goes through them. Raises: NotPossible for more than there may be"""
    ordered = in_places(layers)
    count = sum(one["role"] == LayerRole.LOOK for one in ordered)
    if count > MOST_LAYERS:
        raise NotPossible(f"{shot.code} has {count - 1} looks on it; {MOST_LAYERS} is the most.")
    if len(ordered) > 3 * MOST_LAYERS:
        raise NotPossible(f"{shot.code} would have {len(ordered)} layers; {3 * MOST_LAYERS} is the most.")
    return ordered


def _take_back(person: Person, project: Project, data: dict[str, Any]) -> Done:
    before, after = data["before"], data["after"]
    held = Shot.objects.select_for_update().filter(pk__in=[int(one) for one in before], scene__project=project, deleted=None)
    shots = list(held.order_by("pk"))
    stacks = _stacks_of(shots)
    same = [shot for shot in shots if stacks[shot.pk] == after[str(shot.pk)]]
    _write(person, {shot: before[str(shot.pk)] for shot in same})
    return Done(len(same), None, tuple(shot.code for shot in shots if shot not in same))


WAYS[ACTION] = _take_back


def version_of(person: Person, entry_id: int, number: int | None, pinned_in: int | None = None) -> Version:
    """number: without it the published one, else the latest

    pinned_in: the number of a project: what is pinned there stays, where it was deleted or is somebody's draft too
    Raises: NotFound, NotPossible
    """
    entry = Entry.objects.visible_to(person).filter(pk=entry_id).select_related("published", "latest").first()
    if entry is None and pinned_in is not None and number is not None:
        lying = Layer.objects.filter(_within(pinned_in), version__entry=entry_id, version__number=number)
        entry = Entry.objects.filter(pk=entry_id, pk__in=lying.values("version__entry")).first()
    if entry is None:
        raise NotFound("There is no such entry, or it was deleted.")
    version = Version.objects.filter(entry=entry, number=number).first() if number is not None else entry.offered
    if version is None:
        raise NotPossible(f"{entry.name} has no {f'version {number}' if number else 'version yet: save one on the Bench'}.")
    version.entry = entry
    return version


def _within(project: int) -> Q:
    """Layers that lie on a project, its scenes or its shots."""
    return Q(shot__scene__project=project) | Q(scene__project=project) | Q(project=project)


def _change(person: Person, pk: int, ids: Sequence[int], change: Callable[[Shot, Stack], Stack], **told: Any) -> Done:
    with transaction.atomic():
        project = rules.work_in(person, pk, "change shots")
        shots = rules.lock_shots(project, ids)
        stacks = _stacks_of(shots)
        becomes = {shot: change(shot, stacks[shot.pk]) for shot in shots}
        changed = {shot: stack for shot, stack in becomes.items() if stack != stacks[shot.pk]}
        if not changed:
            return Done(0, None)
        _write(person, changed)
        before = {str(shot.pk): stacks[shot.pk] for shot in changed}
        after = {str(shot.pk): stack for shot, stack in changed.items()}
        found = done(person, project, ACTION, len(before), **told, before=before, after=after)
        look_different(person, project)
    return found


def _stacks_of(shots: Sequence[Shot]) -> dict[int, Stack]:
    """What lies on each of these, in one query."""
    found: dict[int, list[Layer]] = {shot.pk: [] for shot in shots}
    for layer in Layer.objects.filter(shot__in=shots):
        found[cast(int, layer.shot_id)].append(layer)
    return {pk: _items(layers) for pk, layers in found.items()}


def _items(layers: Iterable[Layer]) -> Stack:
    return [item(LayerRole(one.role), one.version_id, one.steps, one.strength, one.enabled, one.member) for one in layers]


def _write(person: Person, stacks: Mapping[Shot, Stack]) -> None:
    """In the place of what lies on these shots, in two queries."""
    Layer.objects.filter(shot__in=stacks).delete()
    Layer.objects.bulk_create([layer for shot, stack in stacks.items() for layer in layers_from(shot, stack, person)])


def tried(shot: Shot, layers: Sequence[Layer], version: Version, stack: bool, member: str = "") -> list[Layer]:
    """The chain of the shot as it would be with this version put on it. member: as `member_in`. Raises: NotPossible"""
    return joined(shot, layers_from(shot, _put(shot, _items(own_of(layers)), version, 1.0, stack, member)), _shared(layers))


def _shared(layers: Sequence[Layer]) -> list[Layer]:
    return [one for one in layers if one.reach != Reach.SHOT]


def renewed(shot: Shot, layers: Sequence[Layer], newest: Mapping[Pinned, int]) -> list[Layer]:
    """The same with the versions that are offered in place of those that are pinned on it. newest: as `newest_of_all`"""
    return joined(shot, layers_from(shot, _renewed(_items(own_of(layers)), newest)), _shared(layers))


def layers_from(shot: Shot, stack: Stack, person: Person | None = None) -> list[Layer]:
    """Layers as they would be stored, each in its place."""
    return [
        Layer(
            shot=shot, position=position, role=one["role"], version_id=one["version"], steps=one["steps"], strength=one["strength"],
            enabled=one["enabled"], member=one.get("member", ""), placed_by=person,
        )
        for position, one in enumerate(in_places(stack))
    ]  # fmt: skip


def _find_uses(person: Person, entry: Entry) -> list[Use]:
    """Projects with a shot that a version of it lies on, or that it lies on for many."""
    lying = Layer.objects.filter(version__entry=entry)
    on_shots = Q(pk__in=lying.filter(shot__isnull=False, shot__deleted=None).values("shot__scene__project"))
    on_many = Q(pk__in=lying.values("project")) | Q(pk__in=lying.values("scene__project"))
    on = Project.objects.visible_to(person).filter(on_shots | on_many)
    return [Use(name, "on shots of this project", f"/projects/{pk}") for name, pk in on.order_by("name").values_list("name", "pk")]


FINDERS.append(_find_uses)
