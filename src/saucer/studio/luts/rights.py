"""What a thing contains, and whether it may leave: its own rights, those of the LUTs in it at any depth, and those of what it came from.

Asked by everything that leaves: packs and their manifests, configurations, deliveries, single files, bundles, bakes.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date
from typing import Any

from django.db.models import F
from django.utils import timezone

from saucer.studio.catalogue.models import Entry, Kind, PassOn, Version, standing
from saucer.studio.catalogue.rules import noun_of
from saucer.studio.luts.models import LutFile

DEEPEST = 32
"""Steps from a thing to what is in it: more than anybody nests, so that a circle ends."""


def held_back(entry: Entry) -> str:
    """Why what is said of it does not let it leave, in words; empty where it does."""
    return words_of(entry.may_pass_on, entry.pass_on_until)


def words_of(may_pass_on: str, until: date | None) -> str:
    if until is not None and until < timezone.localdate():
        return f"may be passed on until {until} only"
    if may_pass_on == PassOn.NO:
        return "may not be passed on"
    return "" if may_pass_on == PassOn.YES else "nobody has said that it may be passed on"


@dataclass(frozen=True)
class Thing:
    """What may leave. content: a look, the steps of a preset, or none of a LUT; number: of its version, none for a draft"""

    entry: Entry
    content: Any = None
    number: int | None = None

    @staticmethod
    def of(version: Version) -> Thing:
        return Thing(version.entry, version.content, version.number)


@dataclass(frozen=True)
class Held:
    """An entry that something contains. sha256: of the LUT, where it is held as one; none where the thing came from it"""

    entry: Entry
    sha256: str = ""

    @property
    def words(self) -> str:
        return f'{"it holds" if self.sha256 else "it comes from"} the {noun_of(self.entry.kind)} "{self.entry.name}"'


@dataclass
class Contents:
    """inside: all that a thing contains, each once, the nearest first; unknown: LUTs that no entry here is, by SHA-256"""

    thing: Thing
    inside: list[Held] = field(default_factory=list)
    unknown: set[str] = field(default_factory=set)

    @property
    def luts(self) -> dict[str, Entry]:
        """By SHA-256."""
        return {one.sha256: one.entry for one in self.inside if one.sha256}

    @property
    def reasons(self) -> list[str]:
        """Why it may not leave, its own first; none where it may."""
        own = held_back(self.thing.entry)
        through = [f"{one.words}: {why}" for one in self.inside if (why := held_back(one.entry))]
        lost = ["it holds a LUT that is not on the Shelf, so nothing is known of its rights"] if self.unknown else []
        return [*([own] if own else []), *through, *lost]


def luts_in(content: Any) -> set[str]:
    """SHA-256 of the LUTs that a look or the steps of a preset, as they are stored, name at any depth: switched off ones leave too."""
    found, waiting = set(), [content]
    while waiting:
        one = waiting.pop()
        if isinstance(one, list):
            waiting += one
        elif isinstance(one, dict):
            waiting.append(one.get("steps"))
            if one.get("kind") == "lut" and one.get("sha256"):
                found.add(str(one["sha256"]))
    return found


def contents_of(things: Sequence[Thing]) -> list[Contents]:
    """In the order of the things. So many queries a level of nesting, however many things there are."""
    found = [Contents(thing) for thing in things]
    seen: list[set[tuple[int, str]]] = [{(thing.entry.pk, "")} for thing in things]
    waiting = [(index, thing) for index, thing in enumerate(things)]
    for _ in range(DEEPEST):
        if not waiting:
            break
        named = [luts_in(thing.content) for _, thing in waiting]
        holders = _holders_of(set().union(*named))
        origins = _origins_of({thing.entry.pk for _, thing in waiting})
        next_ones: list[tuple[int, Thing]] = []
        for (index, thing), hashes in zip(waiting, named, strict=True):
            reached = [
                (Held(one.version.entry), one.version)
                for one in origins.get(thing.entry.pk, ())
                if thing.number is None or one.since <= thing.number
            ]
            for sha256 in sorted(hashes):
                holder = holders.get(sha256)
                if holder is None:
                    found[index].unknown.add(sha256)
                else:
                    reached.append((Held(holder.entry, sha256), holder))
            for held, version in reached:
                key = (held.entry.pk, held.sha256)
                if key not in seen[index]:
                    seen[index].add(key)
                    found[index].inside.append(held)
                    next_ones.append((index, Thing.of(version)))
        waiting = next_ones
    return found


@dataclass(frozen=True)
class _Origin:
    """A version that something came from, and the number of the version that did."""

    version: Version
    since: int


def _holders_of(hashes: Iterable[str]) -> dict[str, Version]:
    """The version that a LUT is, by the content of one of its files; where several entries are it, one that may leave."""
    rows = LutFile.objects.filter(standing("lut__version__entry__"), blob__in=set(hashes), lut__version__entry__kind=Kind.LUT)
    found: dict[str, Version] = {}
    for row in rows.select_related("lut__version__entry__merged_into").order_by("-lut__version__entry", "-lut__version__number"):
        version = row.lut.version
        if version.entry.deleted is not None and version.entry.merged_into is not None:
            version.entry = version.entry.merged_into
        before = found.get(row.blob_id)
        if before is None or held_back(before.entry):
            found[row.blob_id] = version
    return found


def _origins_of(entries: Iterable[int]) -> Mapping[int, list[_Origin]]:
    """What versions of these entries were branched, baked or made from."""
    made = Version.objects.filter(entry__in=set(entries), from_version__isnull=False).exclude(from_version__entry=F("entry"))
    found: dict[int, list[_Origin]] = {}
    for one in made.select_related("from_version__entry").defer("content").order_by("entry", "number"):
        assert one.from_version is not None
        found.setdefault(one.entry_id, []).append(_Origin(one.from_version, one.number))
    return found
