"""Finding entries: by every facet with counts that follow the others, by words with a slip, by what they do, by likeness."""

from __future__ import annotations

from urllib.parse import quote

import pytest

from saucer.core.files.format import PLAIN
from saucer.core.files.registry import formats
from saucer.core.look.model import look_from
from saucer.studio.catalogue import rules as catalogue
from saucer.studio.catalogue.models import Character, Entry, Kind
from saucer.studio.catalogue.order import many, tags
from saucer.studio.looks import rules as looks
from saucer.studio.luts import rules as luts
from saucer.studio.site.measuring import measure_missing
from tests.make import a_lut
from tests.studio.conftest import api_for
from tests.studio.many import fill

pytestmark = pytest.mark.django_db
WARM = {"kind": "white-balance", "warm": 30}
NEUTRAL = {"kind": "curves"}
FADED = {"kind": "levels", "master": {"output_black": 0.12}}


def look(person, name: str, *steps: dict, **fields) -> int:
    return looks.create(person, look_from({"name": name, "steps": [*steps] or [NEUTRAL]}), **fields).pk


def names(api, query: str = "") -> list[str]:
    return [one["name"] for one in api.get(f"/shelf/entries?{query}")["entries"]]


@pytest.fixture
def studio(designer):
    look(designer, "Harbour lamp", WARM, category="Ferry/Night")
    look(designer, "Quay", WARM, FADED, category="Ferry")
    look(designer, "Orchard", FADED, category="Orchard", note="as the harbour was")
    look(designer, "Plain")
    return designer


def test_words_of_what_a_look_does_find_it(api, studio):
    assert set(names(api, "q=warm")) == {"Harbour lamp", "Quay"}
    assert names(api, "q=warm%20faded") == ["Quay"]
    assert set(names(api, "q=faded")) == {"Quay", "Orchard"}


def test_where_nothing_has_all_the_words_what_has_most_of_them_is_shown(api, studio):
    found = api.get("/shelf/entries?q=warm%20faded%20orchard")
    assert found["some"] == {"warm": 2, "faded": 2, "orchard": 1}
    assert [one["name"] for one in found["entries"]] == ["Orchard", "Quay", "Harbour lamp"], (
        "two of them, two, one; the newest first"
    )
    assert (found["total"], found["near"]) == (3, False)
    assert api.get("/shelf/counts?q=warm%20faded%20orchard")["total"] == 3
    first = api.get("/shelf/entries?q=warm%20faded%20orchard&size=2")
    rest = api.get(f"/shelf/entries?q=warm%20faded%20orchard&size=2&cursor={first['cursor']}")
    assert [one["name"] for one in rest["entries"]] == ["Harbour lamp"]
    assert api.get("/shelf/entries?q=warm%20faded")["some"] == {}, "where something has all of them, that is it"
    assert api.get("/shelf/entries?q=xqzvw%20yqzvw")["entries"] == []


def test_what_else_people_say_for_what_a_look_does_is_understood(api, studio):
    assert set(names(api, "q=golden")) == set(names(api, "q=warmer")) == {"Harbour lamp", "Quay"}
    assert names(api, "q=washed%20warmer") == ["Quay"]


def test_a_look_that_is_changed_is_found_by_what_it_does_now(api, studio):
    entry = Entry.objects.get(name="Plain")
    draft = looks.draft_of(entry.pk)
    looks.save_draft(studio, entry.pk, look_from({"name": "Plain", "steps": [WARM]}), draft.revision)
    assert "Plain" in names(api, "q=warm")
    assert Character.objects.get(entry=entry).measured_as == looks.draft_of(entry.pk).hash


def test_names_come_before_notes(api, studio):
    assert names(api, "q=harbour") == ["Harbour lamp", "Orchard"]
    assert names(api, "q=quay")[0] == "Quay"
    look(studio, "Plainer", note="warm in the evening")
    assert names(api, "q=warm")[-1] == "Plainer", "what is warm comes before what is said to be"


def test_a_slip_is_understood_and_said(api, studio):
    page = api.get("/shelf/entries?q=harbuor")
    assert page["near"] is True
    assert page["entries"][0]["name"] in ("Harbour lamp", "Orchard")
    assert api.get("/shelf/counts?q=harbuor")["total"] == page["total"] == 2, "counts follow what is understood"
    assert api.get("/shelf/entries?q=harbour")["near"] is False
    nothing = api.get("/shelf/entries?q=zzzzqqq")
    assert (nothing["entries"], nothing["near"]) == ([], False)
    assert api.get("/shelf/entries?q=harbour&category=Orchard%2FNone")["near"] is False, "the word is known, the category is not"


def test_a_hundred_spellings_with_one_letter_wrong_are_mostly_understood(api, studio):
    """Common practice, no source: of slips of one letter in words of six and more, nine in ten are to be understood."""
    import random

    rng, found, words = random.Random(3), 0, ("harbour", "orchard", "faded lamp", "greenish")
    for _ in range(100):
        word = list(rng.choice(words[:2]))
        at = rng.randrange(1, len(word))
        word[at] = rng.choice("abcdefghijklmnopqrstuvwxyz")
        found += api.get(f"/shelf/entries?q={''.join(word)}")["total"] > 0
    assert found >= 90


def test_sorted_along_what_they_do(api, studio):
    order = names(api, "order=warmer")
    assert set(order[:2]) == {"Harbour lamp", "Quay"}
    assert names(api, "order=cooler") == order[::-1]
    first = api.get("/shelf/entries?order=warmer&size=2")
    rest = api.get(f"/shelf/entries?order=warmer&size=2&cursor={first['cursor']}")
    assert [one["name"] for one in first["entries"] + rest["entries"]] == order


def test_more_like_this(api, studio):
    entry = Entry.objects.get(name="Harbour lamp")
    twin = look(studio, "Harbour lamp, again", WARM)
    found = api.get(f"/shelf/entries/{entry.pk}/alike")
    assert (found[0]["entry"]["id"], found[0]["apart"]) == (twin, 0)
    assert [one["apart"] for one in found] == sorted(one["apart"] for one in found)
    assert len(found) == 4
    refused = api.expect(404, "GET", "/shelf/entries/99999/alike")
    assert "no such entry" in refused["detail"]


FACETS = (
    ("kinds", "kind"), ("states", "in_state"), ("expects", "expects"), ("health", "health"), ("may_pass_on", "may_pass_on"), ("owners", "owner"),
    ("tags", "tag"), ("formats", "format"), ("days", "days"),
)  # fmt: skip


def test_counts_beside_every_choice_are_what_it_would_list(api, designer):
    fill(designer, 120, versions=1)
    api.call("PUT", f"/catalogue/look/{Entry.objects.filter(kind=Kind.LOOK).first().pk}/favourite", {"favourite": True})
    for chosen in (
        "",
        "in_state=published",
        "tag=scene%201",
        "kind=lut&health=fine",
        "q=dusk&favourite=true",
        "format=3dl&in_state=draft",
    ):
        counts = api.get(f"/shelf/counts?{chosen}")
        assert counts["total"] == api.get(f"/shelf/entries?size=1&{chosen}")["total"]
        for facet, parameter in FACETS:
            # Another tag narrows further; of all else another choice stands in the place of the one that is made.
            others = (
                chosen if facet == "tags" else "&".join(part for part in chosen.split("&") if not part.startswith(f"{parameter}="))
            )
            for choice, count in list(counts["facets"][facet].items())[:6]:
                if choice:
                    total = api.get(f"/shelf/entries?size=1&{others}&{parameter}={quote(choice)}")["total"]
                    assert total == count, (chosen, facet, choice)
    assert api.get("/shelf/counts")["facets"]["favourites"] == {"mine": 1}


def test_several_of_a_facet_widen_and_several_tags_narrow(api, studio):
    for name, words in (("Quay", ("night", "sea")), ("Orchard", ("night",))):
        entry = Entry.objects.get(name=name)
        many.change_one(studio, Kind.LOOK, entry.pk, {}, {}, words, ())
    assert set(names(api, "category=Ferry&category=Orchard")) == {"Harbour lamp", "Quay", "Orchard"}
    assert set(names(api, "category=Ferry/Night&category=/")) == {"Harbour lamp", "Plain"}
    assert set(names(api, "tag=Night")) == {"Quay", "Orchard"}
    assert names(api, "tag=night&tag=sea") == ["Quay"]
    assert names(api, "q=sea") == ["Quay"], "tags are searched too"
    assert api.get("/shelf/counts?tag=night")["facets"]["tags"] == {"night": 2, "sea": 1}


def test_tags_are_one_whatever_their_letters_and_curators_rename_and_merge_them(api, studio, curator):
    entry = Entry.objects.get(name="Quay")
    path = f"/catalogue/look/{entry.pk}"
    assert api.expect(200, "PATCH", path, {"add_tags": ["Night", " night ", "Sea  side"]})["tags"] == ["Night", "Sea side"]
    assert api.expect(200, "PATCH", path, {"add_tags": ["NIGHT"]})["tags"] == ["Night", "Sea side"]
    other = Entry.objects.get(name="Orchard")
    api.expect(200, "PATCH", f"/catalogue/look/{other.pk}", {"add_tags": ["evening"]})
    assert api.call("POST", "/catalogue/tags/rename", {"old": "evening", "new": "night"}).status_code == 403
    curators = api_for(curator)
    assert curators.call("POST", "/catalogue/tags/rename", {"old": "evening", "new": "night"}).status_code == 204
    assert api.get("/catalogue/tags") == [{"name": "Night", "count": 2}, {"name": "Sea side", "count": 1}]
    assert set(names(api, "tag=night")) == {"Quay", "Orchard"}
    assert names(api, "q=evening") == [], "what was searched by the old word is not found by it any more"
    assert (
        curators.expect(404, "POST", "/catalogue/tags/rename", {"old": "evening", "new": "x"})["detail"]
        == "There is no tag evening."
    )
    assert "1 to 40 letters" in api.expect(422, "PATCH", path, {"add_tags": ["  "]})["detail"]
    assert api.expect(200, "PATCH", path, {"remove_tags": ["night"]})["tags"] == ["Sea side"]
    assert tags.list_tags(curator, "sea") == [("Sea side", 1)]


def test_what_was_kept_before_is_measured(api, studio):
    Character.objects.all().delete()
    Entry.objects.update(document="", expects="")
    assert names(api, "q=warm") == []
    assert measure_missing() == 4
    assert set(names(api, "q=warm")) == {"Harbour lamp", "Quay"}
    assert names(api, "expects=srgb&q=quay") == ["Quay"]
    assert measure_missing() == 0


def test_luts_are_measured_again_when_the_studio_sees_by_another_view(api, studio):
    """One that was measured by the studio's view is left alone."""
    lut = luts.bring_in(studio, formats()["cube"].write(a_lut(5), PLAIN), "one.cube")
    assert measure_missing() == 0
    Character.objects.filter(entry=lut).update(view="plain", lightness=5.0)
    assert measure_missing() == 1
    kept = Character.objects.get(entry=lut)
    assert (kept.view, kept.lightness < 5) == ("soft", True)
    assert measure_missing() == 0


def test_a_look_whose_lut_is_gone_is_kept_without_a_character(api, studio):
    step = {"kind": "lut", "sha256": "0" * 64}
    made = api.expect(200, "POST", "/looks", {"name": "Lost", "steps": [step]})
    assert made["character"] is None
    assert "Lost" in names(api)
    refused = api.expect(422, "GET", f"/shelf/entries/{made['id']}/alike")
    assert "could not be measured" in refused["detail"]


def test_many_are_changed_together_and_back_again(api, studio):
    ids = list(Entry.objects.filter(name__in=["Quay", "Orchard"]).values_list("pk", flat=True))
    done = api.expect(200, "POST", "/catalogue/many", {
        "entries": ids, "category": "Archive/2024", "licence": "House", "may_pass_on": "no", "add_tags": ["old"]})  # fmt: skip
    assert done["count"] == 2
    assert set(names(api, "tag=old&category=Archive&may_pass_on=no")) == {"Quay", "Orchard"}
    other = Entry.objects.get(name="Orchard")
    catalogue.change(studio, Kind.LOOK, other.pk, {"category": "Elsewhere"})
    back = api.expect(200, "POST", f"/catalogue/many/{done['undo']}/undo", {})
    assert (back["count"], back["left"]) == (1, ["Orchard"]), "what somebody changed since is left and named"
    other.refresh_from_db()
    assert (other.category.path, other.may_pass_on, list(other.tags.all())) == ("Elsewhere", "unknown", [])
    assert Entry.objects.get(name="Quay").category.path == "Ferry"
    again = api.expect(422, "POST", f"/catalogue/many/{done['undo']}/undo", {})
    assert again["detail"] == "This change was taken back already."


def test_deleting_many_can_be_taken_back(api, studio):
    ids = list(Entry.objects.values_list("pk", flat=True))
    done = api.expect(200, "POST", "/catalogue/many", {"entries": ids, "delete": True})
    assert names(api) == []
    gone = api.expect(404, "POST", "/catalogue/many", {"entries": ids, "may_pass_on": "yes"})
    assert "deleted meanwhile" in gone["detail"]
    api.expect(200, "POST", f"/catalogue/many/{done['undo']}/undo", {})
    assert len(names(api)) == 4


def test_many_are_changed_all_or_none(api, studio, curator):
    foreign = look(curator, "Marek's own")
    ids = [*Entry.objects.filter(owner=studio).values_list("pk", flat=True), foreign]
    refused = api.expect(403, "POST", "/catalogue/many", {"entries": ids, "add_tags": ["old"]})
    assert refused["detail"] == "Marek's own belong to somebody else. A curator can change them."
    assert api.get("/catalogue/tags") == []
    assert api_for(curator).expect(200, "POST", "/catalogue/many", {"entries": ids, "add_tags": ["old"]})["count"] == 5


def test_no_more_are_asked_for_by_number_than_a_page_may_hold(api, studio):
    numbers = "&".join(f"entry={number}" for number in range(1, 502))
    assert api.expect(422, "GET", f"/shelf/entries/chosen?{numbers}")["detail"] == "Ask for 500 at most."
    assert api.client.get(f"/api/shelf/entries/chosen?{numbers.removesuffix('&entry=501')}").status_code == 200
