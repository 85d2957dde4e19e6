"""A catalogue of any size: no request's queries grow with it, pages follow one another without gaps, counts agree with what is listed."""

from __future__ import annotations

from collections.abc import Callable

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext

from saucer.core.look.model import look_from
from saucer.studio.catalogue import rules as catalogue
from saucer.studio.catalogue.models import Entry, Kind
from saucer.studio.looks import rules as looks
from tests.studio.many import fill


def queries(ask: Callable[[], object]) -> int:
    ask()
    with CaptureQueriesContext(connection) as seen:
        ask()
    return len(seen)


@pytest.fixture
def edited(designer):
    return looks.create(designer, look_from({"name": "Salt", "steps": [{"kind": "curves"}]}))


ADDRESSES = (
    "/shelf/entries?size=200", "/shelf/entries?size=200&kind=lut", "/shelf/entries?size=200&q=harbour", "/shelf/entries?size=200&category=Film%2001",
    "/shelf/entries?size=200&order=warmer&tag=scene%201", "/shelf/counts", "/shelf/counts?kind=look&q=dusk", "/catalogue/categories", "/catalogue/tags", "/presets", "/looks/{salt}", "/looks/{salt}/history",
    "/luts/{lut}", "/bake/looks/{salt}", "/jobs", "/session", "/shelf/entries/{salt}/alike", "/review/look/{salt}", "/notices",
)  # fmt: skip


def test_no_request_asks_more_of_a_larger_catalogue(api, designer, edited):
    fill(designer, 400, versions=2)
    lut = Entry.objects.filter(kind=Kind.LUT).latest("pk").pk

    def count() -> dict[str, int]:
        return {path: queries(lambda path=path: api.get(path.format(salt=edited.pk, lut=lut))) for path in ADDRESSES}

    few = count()
    fill(designer, 400, versions=4, seed=2)
    assert {path: (few[path], more) for path, more in count().items() if more > few[path]} == {}


def test_saving_a_draft_asks_the_same_however_many_versions_there_are(api, edited, designer):
    """Saving by itself happens all the time: it neither counts versions nor reads their content."""

    def save(strength: float) -> int:
        body = {
            "look": {"name": "Salt", "steps": [{"kind": "curves"}], "strength": strength},
            "revision": looks.draft_of(edited.pk).revision,
        }
        with CaptureQueriesContext(connection) as seen:
            api.expect(200, "PUT", f"/looks/{edited.pk}/draft", body)
        assert not any('"catalogue_version"."content"' in one["sql"].partition(" FROM ")[0] for one in seen)
        return len(seen)

    save(0.99)
    few = save(0.98)
    for number in range(12):
        save(0.5 + number / 100)
        looks.save_version(designer, edited.pk, f"{number}")
    save(0.9)
    assert save(0.91) <= few


def pages(api, asked: str, size: int) -> list[list[int]]:
    found, cursor = [], ""
    while True:
        page = api.get(f"/shelf/entries?size={size}&cursor={cursor}{asked}")
        found.append([one["id"] for one in page["entries"]])
        cursor = page["cursor"]
        if not cursor:
            return found


def test_pages_hold_every_entry_once_in_one_order(api, designer):
    fill(designer, 150, versions=1)
    for asked in ("", "&kind=preset", "&q=harbour", "&category=Film%2003", "&order=name", "&category=/"):
        [whole] = pages(api, asked, 200)
        parts = pages(api, asked, 17)
        assert [one for page in parts for one in page] == whole, asked
        assert len(set(whole)) == len(whole) == api.get(f"/shelf/entries?size=1{asked}")["total"] > 0, asked
        assert all(len(page) == 17 for page in parts[:-1]), asked


def test_what_comes_in_while_somebody_pages_is_neither_shown_twice_nor_lets_one_be_missed(api, designer):
    fill(designer, 60, versions=1)
    before = set(Entry.objects.values_list("pk", flat=True))
    first = api.get("/shelf/entries?size=20")
    fill(designer, 20, versions=1, seed=3)
    Entry.objects.exclude(pk__in=before).update(shown_at="2100-01-01T00:00:00Z")
    rest, cursor = [], first["cursor"]
    while cursor:
        page = api.get(f"/shelf/entries?size=20&cursor={cursor}")
        rest += [one["id"] for one in page["entries"]]
        cursor = page["cursor"]
    seen = [one["id"] for one in first["entries"]] + rest
    assert (len(seen), set(seen)) == (60, before)


def test_counts_are_of_what_would_be_listed(api, designer):
    fill(designer, 150, versions=1)
    for asked in ("", "&q=dusk", "&kind=look", "&category=Film%2004", "&category=Film%2004&kind=lut"):
        counts = api.get(f"/shelf/counts?{asked[1:]}")
        for kind in Kind:
            others = "&".join(part for part in asked.split("&") if not part.startswith("kind"))
            assert counts["facets"]["kinds"].get(kind, 0) == api.get(f"/shelf/entries?size=1&kind={kind}{others}")["total"], (
                asked,
                kind,
            )
        for category in counts["categories"][:12]:
            others = "&".join(part for part in asked.split("&") if not part.startswith("category"))
            total = api.get(f"/shelf/entries?size=1&category={category['path'].replace(' ', '%20')}{others}")["total"]
            assert category["count"] == total, (asked, category)
        assert all(category["path"].count("/") == category["depth"] for category in counts["categories"])


def test_a_category_holds_what_is_below_it_and_not_what_only_begins_alike(api, designer):
    for name, category in (("One", "Harbour/Night"), ("Two", "Harbour"), ("Three", "Harbour dawn"), ("Four", "")):
        catalogue.add(designer, Kind.LOOK, name, category=category)
    names = [one["name"] for one in api.get("/shelf/entries?category=Harbour")["entries"]]
    assert sorted(names) == ["One", "Two"]
    counts = api.get("/shelf/counts")
    assert {one["path"]: (one["depth"], one["count"]) for one in counts["categories"]} == {
        "Harbour": (0, 2), "Harbour/Night": (1, 1), "Harbour dawn": (0, 1),
    }  # fmt: skip
    assert counts["without"] == 1


def test_a_cursor_that_nobody_was_given_is_refused_in_words(api):
    words = api.expect(422, "GET", "/shelf/entries?cursor=nonsense")["detail"]
    assert words == "This page of the Shelf does not exist; begin at the first."
