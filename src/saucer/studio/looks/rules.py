"""What may happen to looks: drafts, versions, branches. The rest is the same for all entries and stands in the catalogue."""

from __future__ import annotations

from collections.abc import Collection
from typing import Any

from django.db import transaction
from django.db.models import F

from saucer.core.errors import SaucerError
from saucer.core.look.bundle import lut_hashes
from saucer.core.look.differences import describe_differences
from saucer.core.look.family import as_member
from saucer.core.look.model import Look, look_from, spatial_hash
from saucer.core.reports.character import see_look
from saucer.studio.catalogue import rules as catalogue
from saucer.studio.catalogue.models import Entry, Kind, Version, seen_by, there_for
from saucer.studio.common.refusals import Conflict, NotPossible, Refusal
from saucer.studio.looks.models import LookDraft
from saucer.studio.luts.rules import at_hand
from saucer.studio.people.models import Person, Role
from saucer.studio.people.rules import record, require, require_own


def content_of(look: Look) -> dict[str, Any]:
    """The look as it is stored."""
    return look.model_dump(mode="json")


def shown_as(look: Look, content_hash: str) -> catalogue.Shown:
    """What the wall has of a look: it shows the draft."""
    try:
        seen = see_look(look, at_hand)
    except (SaucerError, Refusal):
        seen = None  # it uses a LUT or an encoding that is gone: the look can still be kept, and mended
    return catalogue.Shown(
        content_hash, look.input, look.output, uses=tuple(lut_hashes(look)), seen=seen, begun=bool(look.steps), beyond=spatial_hash(look)
    )  # fmt: skip


def create(person: Person, look: Look, from_version: Version | None = None, **fields: Any) -> LookDraft:
    """A new look with its draft. from_version: what it begins as; fields: as `catalogue.rules.add`"""
    name = look.name.strip() or "Untitled look"
    with transaction.atomic():
        entry = catalogue.add(person, Kind.LOOK, name, **fields)
        named = look.model_copy(update={"name": entry.name})
        draft = LookDraft.objects.create(entry=entry, content=content_of(named), hash=look.content_hash, edited_by=person)
        catalogue.show(entry, shown_as(named, draft.hash))
        if from_version is not None:
            branched = catalogue.add_version(
                entry,
                person,
                draft.hash,
                draft.content,
                f"From {from_version.entry.name}, version {from_version.number}",
                from_version,
            )
            record(person, "branch look", entry, version=branched.pk, of=from_version.pk)
        else:
            record(person, "make look", entry)
    return draft


def find(person: Person, pk: int) -> LookDraft:
    """Raises: NotFound, as `catalogue.rules.find`"""
    there = LookDraft.objects.filter(there_for(person, "entry__"), pk=pk)
    found = there.select_related("entry__owner", "entry__category", "edited_by").first()
    if found is None:
        raise catalogue.gone(Kind.LOOK, person, pk)
    return found


def draft_of(entry: Entry) -> LookDraft:
    """Of a look that somebody was let see."""
    return LookDraft.objects.select_related("entry__owner", "entry__category", "edited_by").get(entry=entry)


def look_shown(pk: int) -> Look:
    """What the wall shows of a look that somebody was let see, and nothing else of it: hundreds are asked for at once.

    Raises: NotFound
    """
    content = LookDraft.objects.filter(pk=pk, entry__deleted=None).order_by().values_list("content", flat=True).first()
    if content is None:
        raise catalogue.gone(Kind.LOOK)
    return look_from(content, f"look {pk}")


def look_of_draft(draft: LookDraft) -> Look:
    return look_from(draft.content, f"look {draft.pk}")


def _lock(person: Person, pk: int) -> LookDraft:
    draft = LookDraft.objects.select_for_update(of=("self", "entry")).filter(there_for(person, "entry__"), pk=pk)
    found = draft.select_related("entry__owner", "entry__category", "edited_by").first()
    if found is None:
        raise catalogue.gone(Kind.LOOK)
    return found


def _check_revision(draft: LookDraft, revision: int) -> None:
    """Raises: Conflict when somebody saved another draft than the person began from"""
    if draft.revision != revision:
        who = draft.edited_by.shown_name if draft.edited_by else "somebody"
        raise Conflict(f"{who} has changed this look since you opened it.", revision=draft.revision, by=who)


def save_draft(person: Person, pk: int, look: Look, revision: int) -> LookDraft:
    """Save over the draft that the person began from. Raises: NotAllowed; Conflict when somebody saved another one since"""
    require(person, Role.DESIGNER, "edit looks")
    shown = shown_as(look, look.content_hash)
    with transaction.atomic():
        draft = _lock(person, pk)
        require_own(person, draft.entry.owner, "edit this look")
        content = content_of(look)
        if draft.content == content:
            return draft
        _check_revision(draft, revision)
        draft.content, draft.hash, draft.revision, draft.edited_by = content, look.content_hash, draft.revision + 1, person
        draft.save()
        entry, name = draft.entry, look.name.strip()
        if name and name != entry.name:
            entry.name = name
            entry.save(update_fields=["name"])
        catalogue.show(entry, shown)
    return draft


def save_version(person: Person, pk: int, note: str = "", revision: int | None = None) -> Version:
    """The draft as the next version. revision: the draft that the person sees; without, whatever stands

    Raises: NotPossible when nothing changed since the last one; Conflict when somebody saved another draft since
    """
    require(person, Role.DESIGNER, "save versions")
    with transaction.atomic():
        draft = _lock(person, pk)
        require_own(person, draft.entry.owner, "save versions of this look")
        if revision is not None:
            _check_revision(draft, revision)
        last = Version.objects.filter(entry_id=pk).order_by("-number").first()
        if last is not None and last.content == draft.content:
            raise NotPossible(f"Nothing has changed since version {last.number}.")
        version = catalogue.add_version(draft.entry, person, draft.hash, draft.content, note)
        record(person, "save version", version, hash=version.content_hash)
    return version


def list_versions(pk: int) -> list[Version]:
    """The latest first, without what is in them."""
    return list(Version.objects.filter(entry_id=pk).select_related("made_by").defer("content"))


def has_changed(pk: int) -> bool:
    """Is the draft another than the latest version? Told by the database: neither is loaded."""
    return not Version.objects.filter(pk=F("entry__latest"), entry=pk, content=F("entry__look_draft__content")).exists()


def branch(person: Person, pk: int, number: int) -> LookDraft:
    """A new look that begins as this version."""
    require(person, Role.DESIGNER, "make looks")
    version = catalogue.find_version(person, Kind.LOOK, pk, number)
    name = f"{version.entry.name[:90]}, from version {number}"
    return create(person, look_of(version).model_copy(update={"name": name}), version)


def branched_from(person: Person, pk: int) -> Version | None:
    """None too where the person may not know of it."""
    known = Version.objects.filter(seen_by(person, "from_version__entry__"), entry_id=pk, number=1)
    first = known.select_related("from_version__entry").defer("content").first()
    return first.from_version if first else None


def history(person: Person, pk: int) -> list[tuple[Version, list[str]]]:
    """Every version, the latest first, with how it differs from the one before."""
    find(person, pk)
    versions = list(Version.objects.filter(entry_id=pk).select_related("made_by"))
    looks = [look_of(version) for version in versions]
    before = [*looks[1:], Look(name=looks[-1].name, input=looks[-1].input, output=looks[-1].output)] if looks else []
    pairs = zip(before, looks, strict=True)
    return [(version, describe_differences(*pair)) for version, pair in zip(versions, pairs, strict=True)]


def look_of(version: Version, member: str = "") -> Look:
    """member: which of its family, by name; without, the recipe. Raises: LookError where it has no such one"""
    look = look_from(version.content, f"look {version.entry_id} version {version.number}")
    return as_member(look, member) if member else look


def look_offered(person: Person, pk: int, number: int | None = None) -> Look | None:
    """The version that is put on shots: the one of this number, else the published one, else the latest; none where there is none yet.

    Raises: NotFound, NotPossible
    """
    if number is not None:
        return look_of(catalogue.find_version(person, Kind.LOOK, pk, number))
    offered = catalogue.find(person, Kind.LOOK, pk).offered
    return look_of(offered) if offered is not None else None


def families_of(versions: Collection[int]) -> dict[int, list[str]]:
    """What the members of the families in these versions are called, in one query; nothing else of them is loaded."""
    if not versions:
        return {}
    rows = Version.objects.filter(pk__in=versions).order_by().values_list("pk", "content__family")
    return {pk: [one["name"] for one in family] for pk, family in rows if family}


def names_in_family(version: Version) -> list[str]:
    """What the members of a look's family are called in a version; none of what is no look. Nothing is built for it."""
    content = version.content if isinstance(version.content, dict) else {}
    return [one["name"] for one in content.get("family", [])]
