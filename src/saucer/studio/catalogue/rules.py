"""What may happen to entries of any kind: made, described, filed, marked, deleted. One function a change, one line of activity each."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any

import numpy as np
from django.db import transaction
from django.db.models import Max, Q, QuerySet
from django.utils import timezone

from saucer.core.colour.rendering import View
from saucer.core.reports.character import measure
from saucer.studio.catalogue.models import MEASURES, Category, Character, Entry, Kind, PassOn, Version, there_for
from saucer.studio.catalogue.spelling import keep_spellings
from saucer.studio.catalogue.words import LONGEST
from saucer.studio.common.refusals import Conflict, NotFound, NotPossible
from saucer.studio.people.deleting import bring_back, put_away
from saucer.studio.people.models import Activity, Person, Role
from saucer.studio.people.rules import record, require, require_own
from saucer.studio.people.studio import the_studio

NOUNS = {Kind.LOOK: "look", Kind.LUT: "LUT", Kind.PRESET: "preset"}
TEXTS = {name: LONGEST[name] for name in ("name", "author", "note", "source", "licence")}
"""What people write about an entry, and how long it may be."""


def noun_of(kind: str) -> str:
    return NOUNS[Kind(kind)]


def gone(kind: str, person: Person | None = None, pk: int | None = None) -> NotFound:
    """person, pk: of an entry that may have become one with another, which is then named to those who see that one"""
    if person is not None and pk is not None:
        known = Entry.objects.known_to(person).filter(there_for(person, "merged_into__"), pk=pk)
        if merged := known.values_list("merged_into__name", flat=True).first():
            return NotFound(f"This {noun_of(kind)} was made one with {merged}.")
    return NotFound(f"There is no such {noun_of(kind)}, or it was deleted.")


def find(person: Person, kind: str, pk: int) -> Entry:
    """Raises: NotFound, for deleted ones and others' drafts too."""
    entry = Entry.objects.visible_to(person).filter(pk=pk, kind=kind).select_related("owner", "category", "latest").first()
    if entry is None:
        raise gone(kind, person, pk)
    return entry


def find_any(person: Person, pk: int) -> Entry:
    """Of whatever kind. Raises: NotFound, as `find`"""
    entry = Entry.objects.visible_to(person).filter(pk=pk).select_related("owner", "category", "latest").first()
    if entry is None:
        raise NotFound("There is no such entry, or it was deleted.")
    return entry


def list_there(person: Person, ids: Sequence[int]) -> list[int]:
    """Those of these that are there for the person, in this order."""
    there = set(Entry.objects.visible_to(person).filter(pk__in=ids).values_list("pk", flat=True))
    return [pk for pk in ids if pk in there]


def lock(person: Person, kind: str, pk: int) -> Entry:
    """The entry, held until the end of the transaction. Raises: NotFound, as `find`"""
    held = Entry.objects.visible_to(person).select_for_update(of=("self",)).filter(pk=pk, kind=kind)
    entry = held.select_related("owner", "category").first()
    if entry is None:
        raise gone(kind, person, pk)
    return entry


def find_version(person: Person, kind: str, pk: int, number: int) -> Version:
    """Raises: NotFound"""
    there = Version.objects.filter(there_for(person, "entry__"), entry_id=pk, entry__kind=kind, number=number)
    found = there.select_related("entry").first()
    if found is None:
        raise NotFound(f"This {noun_of(kind)} has no version {number}.")
    return found


def version_of(entry: Entry, number: int) -> Version:
    """Of an entry that somebody was let see. Raises: NotFound"""
    found = Version.objects.filter(entry=entry, number=number).first()
    if found is None:
        raise NotFound(f"This {noun_of(entry.kind)} has no version {number}.")
    found.entry = entry
    return found


def add(person: Person, kind: Kind, name: str, **fields: Any) -> Entry:
    """The one way in which entries are made; in the transaction of whatever is made with it.

    fields: of TEXTS, `category` as a path, and the others of the model
    """
    require(person, Role.DESIGNER, f"make {noun_of(kind)}s")
    category = find_or_make_category(fields.pop("category", ""))
    texts = {field: str(fields.pop(field, "")).strip()[:length] for field, length in TEXTS.items() if field != "name"}
    fields.setdefault("seen_by", the_studio().drafts)
    entry = Entry(
        kind=kind, name=name.strip()[: TEXTS["name"]], owner=person, category=category, shown_at=timezone.now(), **texts, **fields
    )
    entry.save()
    describe_for_search(entry)
    return entry


def add_version(
    entry: Entry, person: Person, content_hash: str, content: Any = None, note: str = "", from_version: Version | None = None
) -> Version:
    """The next version of an entry that the caller has locked or just made."""
    last = Version.objects.filter(entry=entry).aggregate(Max("number"))["number__max"] or 0
    version = Version.objects.create(
        entry=entry,
        number=last + 1,
        content=content,
        content_hash=content_hash,
        note=note,
        made_by=person,
        from_version=from_version,
    )
    entry.latest, entry.state, entry.shown_at, entry.begun = version, version.state, timezone.now(), True
    entry.holds = ""  # nobody has tested this one yet
    entry.save(update_fields=["latest", "state", "shown_at", "begun", "holds"])
    return version


@dataclass(frozen=True, eq=False)
class Shown:
    """What an entry is from now on, as the wall and its filters have it.

    expects, gives: encodings; health: of a LUT; formats: of its files; uses: SHA-256 of the LUTs it names

    seen: what known colours become, None where that cannot be told; view: by which it was seen, where it states none itself
    begun: is there something in it? beyond: a hash of what it does besides colour, empty for nothing
    """

    hash: str
    expects: str = ""
    gives: str = ""
    health: str = ""
    formats: tuple[str, ...] = ()
    uses: tuple[str, ...] = ()
    seen: np.ndarray | None = None
    view: View = "plain"
    begun: bool = True
    beyond: str = ""


def show(entry: Entry, shown: Shown) -> None:
    """The wall shows this from now on, and finds it by what it does."""
    entry.shown_hash, entry.shown_at = shown.hash, timezone.now()
    entry.save(update_fields=["shown_hash", "shown_at"])
    keep_shown(entry, shown)


def keep_shown(entry: Entry, shown: Shown) -> None:
    """What the filters, the orders and the search have of an entry as it is shown."""
    entry.expects, entry.gives, entry.health = shown.expects, shown.gives, shown.health
    if entry.kind != Kind.LOOK:
        entry.formats = sorted(set(shown.formats))
    entry.uses = sorted(set(shown.uses))
    entry.begun = shown.begun or entry.latest_id is not None
    entry.save(update_fields=["expects", "gives", "health", "formats", "uses", "begun"])
    _keep_character(entry, shown)
    describe_for_search(entry)


def add_formats(entry: Entry, formats: Sequence[str]) -> None:
    """A look was baked into these too."""
    entry.formats = sorted({*entry.formats, *formats})
    entry.save(update_fields=["formats"])


def _keep_character(entry: Entry, shown: Shown) -> None:
    if shown.seen is None:
        Character.objects.filter(entry=entry).delete()
        return
    found = measure(shown.seen)
    numbers = {name: getattr(found, name) for name in MEASURES}
    Character.objects.update_or_create(
        entry=entry,
        defaults=numbers
        | {
            "measured_as": shown.hash,
            "view": shown.view,
            "words": list(found.words),
            "seen": shown.seen.astype(np.float32).tobytes(),
            "beyond": shown.beyond,
        },
    )


def describe_for_search(entry: Entry) -> None:
    """What a search looks through, written anew where anything of it has changed."""
    document = words_of(entry, [tag.name for tag in entry.tags.all()], _words_measured(entry))
    if document != entry.document:
        entry.document = document
        entry.save(update_fields=["document"])
        keep_spellings(document)


def describe_many(entries: QuerySet[Entry]) -> None:
    """What a search looks through, of thousands at once: after a category or a tag has another name."""
    found = entries.select_related("owner", "category", "character").prefetch_related("tags").defer("character__seen")
    changed = []
    for entry in found:
        character = getattr(entry, "character", None)
        document = words_of(entry, [tag.name for tag in entry.tags.all()], character.words if character else ())
        if document != entry.document:
            entry.document = document
            changed.append(entry)
    Entry.objects.bulk_update(changed, ["document"], batch_size=500)
    keep_spellings("\n".join({line for entry in changed for line in entry.document.split("\n")}))


def _words_measured(entry: Entry) -> list[str]:
    found = Character.objects.filter(entry=entry).values_list("words", flat=True).first()
    return list(found or ())


def words_of(entry: Entry, tags: Sequence[str] = (), character: Sequence[str] = ()) -> str:
    """In small letters: so the index over every three letters of it is used."""
    owner = entry.owner.shown_name if entry.owner else ""
    words = (entry.name, entry.author, owner, entry.category_path, noun_of(entry.kind), *tags, *character, entry.note, entry.source)
    return "\n".join(word for word in words if word).lower()


def as_category(text: str) -> str:
    """A category within others is written as a path; spaces around and empty parts of it mean nothing."""
    return "/".join(part.strip() for part in text.split("/") if part.strip())[:200].rstrip("/ ")


def check_category_name(name: str) -> None:
    """Raises: NotPossible for what is no name of a folder, as categories become in packs"""
    if not name.strip("."):
        raise NotPossible(f'A category cannot be called "{name}": give it a name with a letter in it.')


def find_or_make_category(path: str) -> Category | None:
    """The category of a path, made with those above it where it is not there yet; None for no path. Raises: NotPossible"""
    found: Category | None = None
    for depth, name in enumerate(as_category(path).split("/")):
        if not name:
            continue
        check_category_name(name)
        inside = f"{found.path}/" if found else ""
        same = Category.objects.filter(parent=found, name__iexact=name[:80]).first()
        found = same or Category.objects.create(parent=found, name=name[:80], path=f"{inside}{name[:80]}", depth=depth)
    return found


FIELDS = {
    "name": "the name", "author": "the author", "note": "the note", "source": "where it comes from", "licence": "the licence",
    "category": "the category", "may_pass_on": "whether it may be passed on", "pass_on_until": "until when",
}  # fmt: skip


def _told(entry: Entry, field: str) -> str:
    value = entry.category_path if field == "category" else getattr(entry, field)
    return "" if value is None else str(value)


def _check_seen(entry: Entry, given: Mapping[str, Any], seen: Mapping[str, str | None]) -> None:
    """Raises: Conflict when one of the fields holds neither what the person saw nor what they want"""
    for field in seen.keys() & given.keys() & FIELDS.keys():
        now = _told(entry, field)
        if now not in ((seen[field] or ""), str(given[field] or "").strip()):
            last = (
                Activity.objects.filter(about_kind="entry", about_id=entry.pk, data__has_key=field).select_related("person").first()
            )
            who = last.person.shown_name if last and last.person else "Somebody"
            raise Conflict(f"{who} has changed {FIELDS[field]} meanwhile.", field=field, now=now, by=who)


def change(person: Person, kind: str, pk: int, given: Mapping[str, Any], seen: Mapping[str, str | None] | None = None) -> Entry:
    """Write what was given and nothing else. given: of TEXTS, category (a path), may_pass_on, pass_on_until

    seen: what stood in these fields when the person began. Raises: NotPossible; Conflict where something else stands by now
    """
    noun = noun_of(kind)
    with transaction.atomic():
        entry = lock(person, kind, pk)
        require_own(person, entry.owner, f"change this {noun}")
        _check_seen(entry, given, seen or {})
        fields: dict[str, Any] = {
            name: str(given[name]).strip()[:length] for name, length in TEXTS.items() if given.get(name) is not None
        }
        if fields.get("name") == "":
            raise NotPossible(f"A {noun} needs a name.")
        if given.get("category") is not None:
            fields["category"] = find_or_make_category(given["category"])
        if given.get("may_pass_on") is not None:
            fields["may_pass_on"] = PassOn(given["may_pass_on"])
        if "pass_on_until" in given:
            until: date | None = given["pass_on_until"]
            fields["pass_on_until"] = until
        for field, value in fields.items():
            setattr(entry, field, value)
        entry.save(update_fields=list(fields))
        describe_for_search(entry)
        record(person, f"change {noun}", entry, **{name: str(value) for name, value in fields.items()})
    return entry


def mark_favourite(person: Person, kind: str, pk: int, favourite: bool) -> Entry:
    """One's own favourite, or no more."""
    entry = find(person, kind, pk)
    (entry.favourite_of.add if favourite else entry.favourite_of.remove)(person)
    return entry


def list_favourites(person: Person, kind: str) -> set[int]:
    return set(Entry.objects.filter(favourite_of=person, kind=kind).values_list("pk", flat=True))


def record_download(person: Person, entry: Entry, file_name: str, sha256: str = "") -> None:
    """Who took what, and under which rights it stood then."""
    record(
        person,
        "download",
        entry,
        file=file_name,
        sha256=sha256,
        may_pass_on=entry.may_pass_on,
        until=str(entry.pass_on_until or ""),
    )


STAMP_SECONDS = 10


def stamp() -> str:
    """Changes with everything that anybody does: what was fetched under the same stamp is current.

    Drafts are saved all the time and are no activity: with them it changes every STAMP_SECONDS at most: walls do not run after a drag.
    """
    done = Activity.objects.exclude(action="download").order_by("-pk").values_list("pk", flat=True).first() or 0
    shown = Entry.objects.filter(deleted=None).order_by("-shown_at", "-pk").values_list("shown_at", flat=True).first()
    return f"{done}-{int(shown.timestamp()) // STAMP_SECONDS if shown else 0}"


def list_activity(person: Person, kind: str, pk: int, most: int = 60) -> list[Activity]:
    """What was done to an entry and its versions, the latest first. Raises: NotFound"""
    entry = find(person, kind, pk)
    versions = Version.objects.filter(entry=entry).values("pk")
    told = Q(about_kind="entry", about_id=pk) | Q(about_kind="version", about_id__in=versions)
    return list(Activity.objects.filter(told).select_related("person")[:most])


def delete(person: Person, kind: str, pk: int) -> None:
    """It can be brought back for 30 days."""
    find(person, kind, pk)
    put_away(person, Entry.objects.known_to(person), pk, noun_of(kind))


def restore(person: Person, kind: str, pk: int) -> Entry:
    if not Entry.objects.known_to(person).filter(pk=pk, kind=kind).exists():
        raise gone(kind)
    with transaction.atomic():
        entry = bring_back(person, Entry.objects.known_to(person), pk, noun_of(kind))
        entry.merged_into = None
        entry.save(update_fields=["merged_into"])
    return entry
