"""What is kept in memory of entries: the same found as in the database, and brought up to date whoever changes what, in any order."""

from __future__ import annotations

import random
from dataclasses import fields, replace
from datetime import timedelta

import numpy as np
import psycopg
import pytest
from django.db import connection, transaction
from django.db.models import F, Q
from django.test.utils import CaptureQueriesContext
from django.utils import timezone

from saucer.core.files.formats import cube
from saucer.core.look.model import look_from
from saucer.studio.catalogue.find import columns as kept
from saucer.studio.catalogue.find.asking import find_rows
from saucer.studio.catalogue.find.columns import as_moment, forget_notes, read_columns, values_of
from saucer.studio.catalogue.find.counting import count
from saucer.studio.catalogue.find.found import find_entries
from saucer.studio.catalogue.find.listing import list_page
from saucer.studio.catalogue.find.wanted import SCALARS, Wanted, filter_entries
from saucer.studio.catalogue.models import LISTED, MEASURES, Entry, EntryChange, PassOn, SeenBy, Share, Tag
from saucer.studio.looks import rules as looks
from saucer.studio.luts import rules as luts
from saucer.studio.luts.models import LutFile
from tests.make import a_lut
from tests.studio.conftest import person
from tests.studio.many import fill

CHOICES = {
    "search": ("", "", "harbour", "quay dusk", "film", "Ilse har", "ö_%", "hrabour"),
    "kinds": ((), (), ("lut",), ("look", "preset")), "categories": ((), ("Film 03",), ("/", "Film 07/Mill"), ("Nowhere",)),
    "tags": ((), (), ("SCENE 1",), ("scene 1", "for 2"), ("none",)), "states": ((), ("published",), ("draft", "retired")),
    "expects": ((), (), ("srgb",)), "formats": ((), (), ("3dl",), ("cube", "clf")), "health": ((), (), ("bad", "notice")),
    "may_pass_on": ((), (), ("yes",)), "days": (None, None, 30, 7), "ending": (False, False, True), "used": ("", "", "no", "yes"),
}  # fmt: skip


@pytest.fixture
def team(db):
    """Three people, and entries of all sorts, some seen by few."""
    ilse, nadia, otis = person("designer", "ilse"), person("curator", "nadia"), person("viewer", "otis")
    fill(ilse, 400)
    Entry.objects.filter(pk__in=Entry.objects.order_by("pk").values("pk")[:150]).update(owner=nadia)
    some = list(Entry.objects.order_by("name"))
    for every, start, changed in (
        (3, 0, {"seen_by": SeenBy.OWNER}), (3, 1, {"seen_by": SeenBy.CHOSEN}), (3, 2, {"seen_by": SeenBy.STUDIO}), (4, 0, {"proposed": True}),
        (50, 0, {"begun": False}), (40, 0, {"deleted": timezone.now()}),
    ):  # fmt: skip
        Entry.objects.filter(pk__in=[one.pk for one in some[start::every]]).update(**changed)
    Entry.objects.update(may_pass_on=PassOn.NO, pass_on_until=None, uses=None)
    for number, entry in enumerate(some[::5]):
        entry.may_pass_on, entry.pass_on_until = PassOn.YES, timezone.localdate() + timedelta(days=5 * number)
    Entry.objects.bulk_update(some[::5], ["may_pass_on", "pass_on_until"])
    for number, entry in enumerate(some[::7]):
        entry.uses = [f"{7 * number:064}"]
    Entry.objects.bulk_update(some[::7], ["uses"])
    Share.objects.bulk_create(Share(entry=entry, person=otis) for entry in some[:200])
    nadia.favourites.set(some[::9])
    return [ilse, nadia, otis]


def some_wanted(rng: random.Random, who) -> Wanted:
    chosen = {facet: rng.choice(choices) for facet, choices in CHOICES.items() if rng.random() < 0.35}
    if rng.random() < 0.15:
        chosen |= {"favourite_of": who.pk} if rng.random() < 0.5 else {"owners": (who.pk,)}
    return Wanted(**chosen)


def but(wanted: Wanted, facet: str) -> Wanted:
    """Without what is chosen of the facet."""
    return replace(wanted, **{facet: getattr(Wanted(), facet)})


def test_the_same_is_found_as_in_the_database(team):
    rng, sizes = random.Random(3), []
    for _ in range(150):
        who = rng.choice(team)
        found = find_entries(who, some_wanted(rng, who))
        ids = set(found.columns.ids[found.rows].tolist())
        assert ids == set(filter_entries(who, found.wanted).values_list("pk", flat=True)), (who, found.wanted)
        sizes.append(len(ids))
    assert sum(size > 0 for size in sizes) > 50
    assert max(sizes) < 400, "nobody sees everything"


def test_counts_are_those_of_the_database(team):
    rng = random.Random(4)
    for _ in range(12):
        who = rng.choice(team)
        wanted = find_entries(who, some_wanted(rng, who)).wanted
        counts = count(who, wanted)
        assert counts.total == filter_entries(who, wanted).count()
        for facet, column in SCALARS.items():
            rows = filter_entries(who, but(wanted, facet)).values_list(column, flat=True)
            told = ["" if value is None else str(value) for value in rows]
            assert counts.facets[facet] == {value: told.count(value) for value in set(told)}, (facet, wanted)
        tags = list(filter_entries(who, wanted).filter(tags__isnull=False).values_list("tags__name", flat=True))
        assert counts.facets["tags"] == {name: tags.count(name) for name in set(tags)}
        made = [name for names in filter_entries(who, but(wanted, "formats")).values_list("formats", flat=True) for name in names]
        assert counts.facets["formats"] == {name: made.count(name) for name in set(made)}
        for choice in ("yes", "no"):
            beside = replace(wanted, used=choice)
            assert counts.facets["used"][choice] == filter_entries(who, beside).count()
        assert counts.facets["days"]["30"] == filter_entries(who, replace(wanted, days=30)).count()
        own = sum(one.count for one in counts.categories if one.depth == 0)
        assert own + counts.without == filter_entries(who, but(wanted, "categories")).count()


ORDERS = {"newest": "-shown_at", "warmer": "-character__warmth", "softer": "character__contrast", "name": "name"}


def test_pages_have_everything_once_in_the_order_of_the_database(team):
    for order, by in ORDERS.items():
        who, told, cursor = team[0], [], ""
        wanted = Wanted(kinds=("look",), order=order)
        while not told or cursor:
            page = list_page(who, wanted, cursor, 23)
            told += [entry.pk for entry in page.entries]
            cursor = page.cursor
        found = filter_entries(who, wanted).filter(character__isnull=False).order_by(by, "-pk" if by.startswith("-") else "pk")
        assert told == list(found.values_list("pk", flat=True)), order
        assert len(told) > 60


def test_ones_own_come_behind_the_starred_and_before_the_rest(team):
    nadia = team[1]
    page = list_page(nadia, Wanted(kinds=("look",), order="mine"), "", 200)
    starred = set(nadia.favourites.values_list("pk", flat=True))
    told = [2 if one.pk in starred else 1 if one.owner_id == nadia.pk else 0 for one in page.entries]
    assert told == sorted(told, reverse=True)
    assert set(told) == {0, 1, 2}


def test_words_that_nothing_has_any_of_stay_what_was_searched_for(team):
    assert find_entries(team[0], Wanted(search="harbour xqxqxq")).wanted.some == ("harbour", "xqxqxq")
    nothing = find_entries(team[0], Wanted(search="xqxqxq zvzvzv"))
    assert (bool(nothing), nothing.wanted.search, nothing.wanted.some) == (False, "xqxqxq zvzvzv", ())


def test_what_is_not_kept_in_columns_is_refused(db):
    for asked in (Q(note="x"), Q(document__icontains="x"), Q(deleted=timezone.now()), Q(shown_at__gte=F("created"))):
        with pytest.raises(LookupError):
            find_rows(read_columns(), asked, {})


def test_what_is_asked_for_is_not_kept(team):
    read_columns()
    before = values_of("expects")
    found = find_entries(team[0], Wanted(expects=("srgb", "made up by a stranger"), kinds=("look",)))
    assert found
    assert values_of("expects") == before
    assert not find_entries(team[0], Wanted(expects=("made up by a stranger",)))


def test_what_is_kept_is_what_the_database_has(team):
    columns = read_columns()
    for row, entry in enumerate(Entry.objects.filter(LISTED).select_related("character").order_by("pk")):
        assert (columns.ids[row], columns.shown_at[row]) == (entry.pk, as_moment(entry.shown_at))
        assert values_of("said")[columns.said[row]] == tuple(entry.character.words)
        assert values_of("formats")[columns.formats[row]] == tuple(entry.formats)
        assert columns.measures[row].tolist() == [getattr(entry.character, measure) for measure in MEASURES]
    assert row + 1 == columns.size > 300


def assert_current() -> None:
    """What is kept is what is read anew, inside a transaction that sees it all."""
    columns = read_columns()
    with transaction.atomic():
        fresh = read_columns()
    for one in fields(fresh):
        if one.name == "words":
            for name in fresh.words:
                assert (columns.words[name] == fresh.words[name]).all(), name
        elif one.name == "documents":
            for word in ("salt", "a", "lime", "ilse", "night"):
                assert set(columns.documents.find(word)) == set(fresh.documents.find(word)), word
        elif one.name in kept.PAIRS:
            assert sorted(getattr(columns, one.name).tolist()) == sorted(getattr(fresh, one.name).tolist()), one.name
        elif one.name == "measures":
            assert np.array_equal(columns.measures, fresh.measures, equal_nan=True)
        else:
            assert (getattr(columns, one.name) == getattr(fresh, one.name)).all(), one.name


def a_look(who, name: str):
    return Entry.objects.get(pk=looks.create(who, look_from({"name": name, "steps": [{"kind": "tone", "exposure": 0.1}]})).entry_id)


@pytest.mark.django_db(transaction=True)
def test_every_change_is_followed():
    ilse = person("designer", "ilse")
    first, second = a_look(ilse, "Salt"), a_look(ilse, "Quay")
    assert_current()
    first.tags.set([Tag.objects.create(name=name) for name in ("night", "rain")])
    assert_current()
    Tag.objects.filter(name="rain").delete()
    assert_current()
    Entry.tags.through.objects.filter(entry=first).update(entry=second)
    assert_current()
    Entry.objects.filter(pk=first.pk).update(name="Salt and lime", document="salt and lime", state="published")
    assert_current()
    Entry.objects.filter(pk=second.pk).update(deleted=timezone.now())
    assert read_columns().ids.tolist() == [first.pk]
    third = a_look(ilse, "Mill")
    Entry.objects.filter(pk=third.pk).update(uses=["a" * 64])
    assert_current()
    Entry.objects.filter(pk=second.pk).update(deleted=None)
    assert read_columns().ids.tolist() == [first.pk, second.pk, third.pk]
    lut = luts.bring_in(ilse, cube.write(a_lut(5)), "Sea.cube")
    assert_current()
    assert not read_columns().used.any()
    files = LutFile.objects.filter(lut__version__entry=lut)
    Entry.objects.filter(pk=third.pk).update(uses=list(files.values_list("blob", flat=True)))
    assert_current()
    assert read_columns().used.sum() == 1
    files.delete()
    assert_current()
    assert not read_columns().used.any()
    with connection.cursor() as cursor:
        cursor.execute("DELETE FROM catalogue_character WHERE entry_id = %s", [third.pk])
    assert_current()


@pytest.mark.django_db(transaction=True)
def test_where_nothing_was_changed_one_question_is_asked():
    a_look(person("designer", "ilse"), "Salt")
    before = read_columns()
    with CaptureQueriesContext(
        connection,
    ) as asked:
        assert read_columns() is before
    assert len(asked) == 1


@pytest.mark.django_db(transaction=True)
def test_what_ends_late_is_not_missed():
    """A transaction that began, and noted, before others that ended sooner."""
    ilse = person("designer", "ilse")
    first, second = a_look(ilse, "Salt"), a_look(ilse, "Quay")
    with psycopg.connect(**connection.get_connection_params()) as slow:
        slow.execute("UPDATE catalogue_entry SET name = 'Slow' WHERE id = %s", [first.pk])
        Entry.objects.filter(pk=second.pk).update(name="Quick")
        assert read_columns().name.tolist() == ["salt", "quick"]
        Entry.objects.filter(pk=second.pk).update(name="Quicker")
        assert read_columns().name.tolist() == ["salt", "quicker"]
        slow.commit()
    assert read_columns().name.tolist() == ["slow", "quicker"]
    assert_current()


@pytest.mark.django_db(transaction=True)
def test_what_is_taken_back_was_never_kept():
    salt = a_look(person("designer", "ilse"), "Salt")
    read_columns()
    with transaction.atomic():
        Entry.objects.filter(pk=salt.pk).update(name="Pepper")
        assert read_columns().name.tolist() == ["pepper"]
        transaction.set_rollback(True)
    assert read_columns().name.tolist() == ["salt"]


@pytest.mark.django_db(transaction=True)
def test_where_notes_were_taken_away_everything_is_read(monkeypatch):
    ilse = person("designer", "ilse")
    salt = a_look(ilse, "Salt")
    read_columns()
    Entry.objects.filter(pk=salt.pk).update(name="Pepper")
    a_look(ilse, "Quay")
    forget_notes(timezone.now() + timedelta(days=1))
    assert EntryChange.objects.count() == 1
    assert read_columns().name.tolist() == ["pepper", "quay"]
    # The last one stays: whoever has followed it reads nothing.
    monkeypatch.setattr(kept, "_read", None)
    assert read_columns().name.tolist() == ["pepper", "quay"]


@pytest.mark.django_db(transaction=True)
def test_where_many_were_changed_everything_is_read(monkeypatch):
    ilse = person("designer", "ilse")
    made = [a_look(ilse, name).pk for name in ("Salt", "Quay", "Mill")]
    read_columns()
    monkeypatch.setattr(kept, "MANY", 1)
    monkeypatch.setattr(kept, "_replace", None)
    Entry.objects.filter(pk__in=made[:2]).update(name="Harbour")
    assert read_columns().name.tolist() == ["harbour", "harbour", "mill"]


@pytest.mark.django_db(transaction=True)
def test_notes_of_another_postgresql_are_taken_away():
    a_look(person("designer", "ilse"), "Salt")
    EntryChange.objects.create(xid=1 << 60, entry=1)
    last = EntryChange.objects.create(xid=1, entry=2)
    forget_notes(timezone.now() - timedelta(days=1))
    assert not EntryChange.objects.filter(xid=1 << 60).exists()
    assert EntryChange.objects.filter(pk=last.pk).exists()
    assert EntryChange.objects.count() > 1
