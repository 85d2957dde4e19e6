"""What may happen to presets, runs of steps kept by name; and the settings that are remembered by themselves."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from django.db import transaction

from saucer.core.errors import SaucerError
from saucer.core.look.bundle import lut_hashes
from saucer.core.look.model import Group, Look, look_from, spatial_hash, steps_hash
from saucer.core.reports.character import see_look
from saucer.core.steps.kinds import kinds
from saucer.core.steps.parameters import StepParameters
from saucer.studio.catalogue import rules as catalogue
from saucer.studio.catalogue.models import Entry, Kind, Version
from saucer.studio.common.refusals import NotPossible, Refusal
from saucer.studio.encodings.rules import studio_view
from saucer.studio.luts.rules import at_hand
from saucer.studio.people.models import Person, Role
from saucer.studio.people.rules import record, require, require_own
from saucer.studio.presets.models import RecentSetting

MOST_RECENT = 10


def content_of(steps: Sequence[StepParameters]) -> list[dict[str, Any]]:
    """Steps as they are stored."""
    return [step.model_dump(mode="json") for step in steps]


def steps_of(content: list[dict[str, Any]], place: str = "preset") -> tuple[StepParameters, ...]:
    return look_from({"steps": content}, place).steps


def steps_of_version(version: Version) -> tuple[StepParameters, ...]:
    content: dict[str, Any] = version.content or {}
    return steps_of(content["steps"], f"preset {version.entry_id} version {version.number}")


def look_of(entry: Entry, version: Version | None = None) -> Look:
    """The preset's latest version, or another, as a look for display pictures, to be seen by."""
    version = version or entry.latest
    assert version is not None
    return Look(name=entry.name, view=studio_view(), steps=steps_of_version(version))


def shown_as(steps: Sequence[StepParameters]) -> catalogue.Shown:
    """What the wall has of a preset: its steps on display pictures. It is for no encoding."""
    look = Look(view=studio_view(), steps=tuple(steps))
    try:
        seen = see_look(look, at_hand)
    except (SaucerError, Refusal):
        seen = None
    return catalogue.Shown(steps_hash(steps), uses=tuple(lut_hashes(look)), seen=seen, beyond=spatial_hash(look))


def list_presets(person: Person, limit: int = 500) -> list[Entry]:
    """By category and name, those that are not deleted, with their latest steps."""
    found = Entry.objects.visible_to(person).filter(kind=Kind.PRESET).select_related("owner", "category", "latest", "character")
    found = found.defer("character__seen").prefetch_related("tags")
    return list(found.order_by("category__path", "name", "pk")[:limit])


def keep(person: Person, name: str, steps: Sequence[StepParameters], category: str = "", note: str = "", **fields: Any) -> Entry:
    """Raises: NotPossible without a name or without steps."""
    require(person, Role.DESIGNER, "keep presets")
    if not name.strip():
        raise NotPossible("A preset needs a name.")
    if not steps:
        raise NotPossible("Choose the steps to keep first.")
    with transaction.atomic():
        entry = catalogue.add(person, Kind.PRESET, name, category=category, note=note, **fields)
        catalogue.add_version(entry, person, steps_hash(steps), {"steps": content_of(steps)})
        catalogue.show(entry, shown_as(steps))
        record(person, "keep preset", entry)
    return entry


def save_version(person: Person, pk: int, steps: Sequence[StepParameters], note: str = "") -> Version:
    """Other steps as the preset's next version. Raises: NotFound, NotAllowed; NotPossible without steps or where nothing changed"""
    if not steps:
        raise NotPossible("Choose the steps to keep first.")
    with transaction.atomic():
        entry = catalogue.lock(person, Kind.PRESET, pk)
        require_own(person, entry.owner, "change this preset")
        last = Version.objects.filter(entry=entry).order_by("-number").first()
        found = steps_hash(steps)
        if last is not None and last.content_hash == found:
            raise NotPossible(f"Nothing has changed since version {last.number}.")
        version = catalogue.add_version(entry, person, found, {"steps": content_of(steps)}, note.strip()[:1000])
        catalogue.show(entry, shown_as(steps))
        record(person, "save version", version, hash=found)
    return version


def list_recents(person: Person) -> list[RecentSetting]:
    """Latest first, at most ten of a kind."""
    return list(RecentSetting.objects.filter(person=person))


def remember(person: Person, steps: Sequence[StepParameters]) -> None:
    """Settings a person has left a step with. Neutral ones and groups are not worth it; only the last ten of a kind stay."""
    for step in steps:
        if isinstance(step, Group) or kinds()[step.kind].neutral(step):
            continue
        plain = step.model_copy(update={"id": "", "name": "", "note": "", "enabled": True})
        with transaction.atomic():
            RecentSetting.objects.update_or_create(
                person=person, kind=step.kind, steps_hash=steps_hash([plain]), defaults={"step": content_of([plain])[0]}
            )
            old = RecentSetting.objects.filter(person=person, kind=step.kind).values_list("pk", flat=True)[MOST_RECENT:]
            RecentSetting.objects.filter(pk__in=list(old)).delete()
