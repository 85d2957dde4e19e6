"""A catalogue as large as a team's, put into the database at once: for counting queries and for measuring."""

from __future__ import annotations

import random
from datetime import timedelta
from functools import cache

import numpy as np
from django.db import connection
from django.utils import timezone

from saucer.core.look.model import look_from
from saucer.core.lut.likeness import bucket_of, take_sample
from saucer.core.reports.character import Character as Measured
from saucer.core.reports.character import measure, probes
from saucer.studio.catalogue.models import MEASURES, Category, Character, Entry, Kind, Tag, Version
from saucer.studio.catalogue.rules import find_or_make_category, words_of
from saucer.studio.catalogue.spelling import keep_spellings
from saucer.studio.common.models import Blob
from saucer.studio.looks.models import LookDraft
from saucer.studio.looks.rules import content_of
from saucer.studio.luts.models import Lut, LutFile
from saucer.studio.people.models import Person
from tests.make import a_lut

PLACES = ("Harbour", "Quay", "Orchard", "Kitchen", "Ferry", "Attic", "Market", "Heath", "Mill", "Lantern")
TIMES = ("dawn", "noon", "dusk", "night", "rain", "snow", "spring", "autumn")
FILMS = tuple(f"Film {number:02}" for number in range(1, 25))
TAGS = tuple(f"{word} {number}" for word in ("scene", "for", "stock", "idea") for number in range(10))
STATES = ("draft", "draft", "proposed", "published", "published", "sent back", "retired")
Tagged = Entry.tags.through


@cache
def _seen() -> list[tuple[np.ndarray, Measured]]:
    """What a hundred LUTs of all sorts do."""
    found = []
    for seed in range(100):
        rng = np.random.default_rng(seed)
        seen = np.clip(probes() * rng.uniform(0.8, 1.1, 3) + rng.uniform(-0.05, 0.1), 0, 1).astype(np.float32)
        found.append((seen, measure(seen)))
    return found


SHARES = ((Kind.LOOK, 0.5), (Kind.LUT, 0.35), (Kind.PRESET, 0.15))


def _categories() -> list[Category | None]:
    made = [find_or_make_category(f"{film}/{place}") for film in FILMS for place in PLACES[:6]]
    return [None, *made]


def fill(person: Person, count: int, versions: int = 3, seed: int = 1) -> None:
    """That many looks, LUTs and presets, each with versions, in folders of two levels, made over a year."""
    rng, now = random.Random(seed), timezone.now()
    categories = _categories()
    kinds = [kind for kind, share in SHARES for _ in range(round(count * share))]
    rng.shuffle(kinds)
    entries, marks = [], []
    for number, kind in enumerate(kinds):
        name = f"{rng.choice(PLACES)} {rng.choice(TIMES)} {number}"
        entry = Entry(
            kind=kind, name=name, owner=person, author="Ilse Harrow", category=rng.choice(categories), note=f"For scene {rng.randint(1, 300)}",
            shown_at=now - timedelta(minutes=rng.randint(0, 500_000)), shown_hash=f"{number:064x}",
        )  # fmt: skip
        entry.state = rng.choice(STATES)
        if kind != Kind.PRESET:
            entry.expects, entry.gives = rng.choice((("film-log", "rec709"), ("srgb", "srgb"), ("acescct", "rec709")))
        if kind == Kind.LUT:
            entry.health, entry.formats = rng.choice(("fine", "fine", "notice", "bad")), rng.choice((["cube"], ["3dl", "cube"]))
        mark = (rng.choice(_seen()), rng.sample(TAGS, rng.randint(0, 3)))
        entry.document = words_of(entry, mark[1], mark[0][1].words)
        entries.append(entry)
        marks.append(mark)
    Entry.objects.bulk_create(entries, batch_size=1000)
    Character.objects.bulk_create(
        (
            Character(
                entry=entry, words=list(found.words), seen=seen.tobytes(), **{name: getattr(found, name) for name in MEASURES}
            )
            for entry, ((seen, found), _) in zip(entries, marks, strict=True)
        ),
        batch_size=1000,
    )
    keep_spellings("\n".join(entry.document for entry in entries))
    known = {name: Tag.objects.get_or_create(name=name)[0] for name in TAGS}
    Tagged.objects.bulk_create(
        (Tagged(entry=entry, tag=known[name]) for entry, (_, names) in zip(entries, marks, strict=True) for name in names),
        batch_size=1000,
    )
    look = look_from(
        {"name": "One", "steps": [{"kind": "curves", "blue": [[0, 0.05], [1, 0.95]]}, {"kind": "tone", "exposure": 0.2}]}
    )
    contents = {Kind.LOOK: content_of(look), Kind.PRESET: {"steps": content_of(look)["steps"]}, Kind.LUT: None}
    made = Version.objects.bulk_create(
        (
            Version(
                entry=entry,
                number=number,
                content=contents[entry.kind],
                content_hash=f"{entry.pk:060x}{number:04x}",
                made_by=person,
            )
            for entry in entries
            for number in range(1, versions + 1)
        ),
        batch_size=1000,
    )
    latest = {version.entry_id: version for version in made}
    for entry in entries:
        entry.latest = latest[entry.pk]
    Entry.objects.bulk_update(entries, ["latest"], batch_size=1000)
    LookDraft.objects.bulk_create(
        (
            LookDraft(entry=entry, content=contents[Kind.LOOK], hash="0" * 64, edited_by=person)
            for entry in entries
            if entry.kind == Kind.LOOK
        ),
        batch_size=1000,
    )
    sample = take_sample(a_lut())
    blob, _ = Blob.objects.get_or_create(sha256="f" * 64, defaults={"bytes": 1000})
    luts = Lut.objects.bulk_create(
        (
            Lut(
                version=version, kind="3D", size=33, expects="film-log", gives="rec709", known="said", health="fine",
                sample=sample.tobytes(), bucket=bucket_of(sample),
            )
            for version in made
            if version.entry.kind == Kind.LUT
        ),
        batch_size=1000,
    )  # fmt: skip
    LutFile.objects.bulk_create(
        (LutFile(lut=lut, position=0, format="cube", file_name="one.cube", size=33, blob=blob) for lut in luts), batch_size=1000
    )
    # What the database does by itself some time later. In between, after many tests that were rolled back, it may take these tables to be
    # empty, though large, and choose a way of joining them that takes for ever.
    with connection.cursor() as cursor:
        cursor.execute("ANALYZE")
