"""The way of a version: proposed, sent back, published, retired; who may, who is told, what is remarked."""

from __future__ import annotations

import pytest
from django.db import transaction

from saucer.core.look.model import look_from
from saucer.studio.catalogue.models import Entry, Kind, Notice, Version, VersionState
from saucer.studio.catalogue.review import rules as review
from saucer.studio.looks import rules as looks
from saucer.studio.people.models import Activity
from tests.studio.conftest import api_for, person

pytestmark = pytest.mark.django_db


@pytest.fixture
def proposed(api, designer, curator):
    """A look whose version 1 is proposed."""
    draft = looks.create(designer, look_from({"name": "Salt", "steps": [{"kind": "white-balance", "warm": 20}]}))
    looks.save_version(designer, draft.pk)
    api.expect(200, "POST", f"/review/look/{draft.pk}/1", {"to": "proposed", "words": "For the ferry"})
    return draft.pk


def test_a_version_is_proposed_sent_back_proposed_again_and_published(api, proposed, curator, designer):
    curators, path = api_for(curator), f"/review/look/{proposed}/1"
    (waiting,) = curators.get("/review/queue")
    assert (waiting["name"], waiting["number"], waiting["words"], waiting["made_by"]) == ("Salt", 1, "For the ferry", "Designer")
    assert set(waiting["next"]) == {"draft", "published", "sent back"}
    assert "Say why" in curators.expect(422, "POST", path, {"to": "sent back", "words": " "})["detail"]
    curators.expect(200, "POST", path, {"to": "sent back", "words": "Skin"})
    assert api.get("/review/queue") == []
    api.expect(200, "POST", path, {"to": "proposed"})
    curators.expect(200, "POST", path, {"to": "published"})
    entry = Entry.objects.get(pk=proposed)
    assert (entry.state, entry.published.number) == ("published", 1)
    seen = api.get(f"/review/look/{proposed}")
    assert [(one["was"], one["became"], one["words"]) for one in seen["reviews"]] == [
        ("proposed", "published", ""), ("sent back", "proposed", ""), ("proposed", "sent back", "Skin"), ("draft", "proposed", "For the ferry"),
    ]  # fmt: skip
    assert seen["versions"][0]["next"] == []
    assert Activity.objects.filter(action__in=["propose", "publish", "send back"]).count() == 4
    assert api.get("/shelf/entries?in_state=published")["total"] == 1


def test_those_concerned_are_told_and_nobody_of_their_own_doing(api, proposed, curator, designer):
    curators = api_for(curator)
    (told,) = curators.get("/notices")
    assert told["words"] == "Designer proposed Salt, version 1."
    assert told["is_new"]
    curators.expect(200, "POST", f"/review/look/{proposed}/1", {"to": "sent back", "words": "Skin"})
    (told,) = api.get("/notices")
    assert told["words"] == "Curator sent back Salt, version 1."
    assert len(curators.get("/notices")) == 1
    assert api.call("POST", "/notices/seen", {"up_to": told["id"]}).status_code == 204
    assert [one["is_new"] for one in api.get("/notices")] == [False]
    assert curators.get("/notices")[0]["is_new"], "each has their own"


def test_what_one_is_told_is_cleared_by_what_it_is_about(api, proposed, curator):
    curators = api_for(curator)
    curators.expect(200, "POST", f"/review/look/{proposed}/1/pins", {"words": "Too red"})
    curators.expect(200, "POST", f"/review/look/{proposed}/1", {"to": "sent back", "words": "Skin"})
    decision, remark = api.get("/notices")
    assert (decision["about"], remark["about"], curators.get("/notices")[0]["about"]) == ("decision", "remark", "proposal")
    # What came after the list was shown is not cleared with it.
    assert api.call("POST", "/notices/clear", {"about": "decision", "up_to": remark["id"]}).status_code == 204
    assert len(api.get("/notices")) == 2
    assert api.call("POST", "/notices/clear", {"about": "decision", "up_to": decision["id"]}).status_code == 204
    assert [one["id"] for one in api.get("/notices")] == [remark["id"]]
    assert api.call("POST", "/notices/clear", {"about": "weather", "up_to": 1}).status_code == 422
    assert api.call("POST", "/notices/clear", {"up_to": decision["id"]}).status_code == 204
    assert api.get("/notices") == []
    assert len(curators.get("/notices")) == 1


def test_nobody_publishes_their_own_unless_the_studio_says_so(curator, settings):
    draft = looks.create(curator, look_from({"name": "Mine"}))
    looks.save_version(curator, draft.pk)
    curators = api_for(curator)
    refused = curators.expect(403, "POST", f"/review/look/{draft.pk}/1", {"to": "published"})
    assert refused["detail"] == "You made version 1 of Mine yourself: another curator has to publish it."
    assert "published" not in curators.get(f"/review/look/{draft.pk}")["versions"][0]["next"], "and it is not offered"
    settings.PUBLISH_OWN = True
    assert curators.expect(200, "POST", f"/review/look/{draft.pk}/1", {"to": "published"})["state"] == "published"


def test_designers_publish_nothing_and_propose_only_what_is_theirs(api, proposed):
    assert api.call("POST", f"/review/look/{proposed}/1", {"to": "published"}).status_code == 403
    other = api_for(person("designer", "other"))
    assert other.call("POST", f"/review/look/{proposed}/1", {"to": "draft"}).status_code == 403
    assert api.expect(200, "POST", f"/review/look/{proposed}/1", {"to": "draft"})["next"] == ["proposed"]
    odd = api.expect(422, "POST", f"/review/look/{proposed}/1", {"to": "retired"})
    assert odd["detail"] == "Version 1 of Salt is draft: you cannot retire it."


def test_a_newer_version_does_not_take_the_published_one_away(proposed, curator, designer):
    review.move(curator, Kind.LOOK, proposed, 1, VersionState.PUBLISHED)
    draft = looks.draft_of(proposed)
    looks.save_draft(designer, proposed, look_from({"name": "Salt", "steps": []}), draft.revision)
    looks.save_version(designer, proposed)
    entry = Entry.objects.get(pk=proposed)
    assert (entry.state, entry.latest.number, entry.published.number) == ("draft", 2, 1)
    review.move(curator, Kind.LOOK, proposed, 1, VersionState.RETIRED)
    entry.refresh_from_db()
    assert (entry.state, entry.published) == ("draft", None)


def test_several_are_published_together_or_none(proposed, curator, designer):
    own = looks.create(curator, look_from({"name": "Mine"}))
    mine, theirs = looks.save_version(curator, own.pk), Version.objects.get(entry=proposed)
    curators = api_for(curator)
    assert curators.call("POST", "/review/publish", {"versions": [theirs.pk, mine.pk]}).status_code == 403
    theirs.refresh_from_db()
    assert theirs.state == "proposed"
    assert curators.call("POST", "/review/publish", {"versions": [theirs.pk]}).status_code == 204
    theirs.refresh_from_db()
    assert theirs.state == "published"


def test_remarks_on_places_are_answered_and_settled(api, proposed, curator, picture):
    curators, path = api_for(curator), f"/review/look/{proposed}/1/pins"
    pin = curators.expect(200, "POST", path, {"words": "Too red here", "picture": picture.pk, "x": 0.25, "y": 0.5})
    assert (pin["x"], pin["y"], pin["by"]) == (0.25, 0.5, "Curator")
    answer = api.expect(200, "POST", path, {"words": "Is it?", "answers": pin["id"]})
    assert answer["answers"] == pin["id"]
    assert "no such remark" in api.expect(404, "POST", path, {"words": "x", "answers": answer["id"]})["detail"], (
        "answers are not answered"
    )
    other = api_for(person("designer", "other"))
    assert other.call("POST", f"/review/pins/{pin['id']}/settle", {}).status_code == 403
    assert api.call("POST", f"/review/pins/{pin['id']}/settle", {}).status_code == 204
    seen = api.get(f"/review/look/{proposed}")["pins"]
    assert [(one["words"], one["settled_by"]) for one in seen] == [("Too red here", "Designer"), ("Is it?", "")]
    assert api.call("POST", f"/review/pins/{pin['id']}/settle", {"settled": False}).status_code == 204
    assert api.get(f"/review/look/{proposed}")["pins"][0]["settled_by"] == ""
    assert "remarked on Salt" in api.get("/notices")[0]["words"]


def test_a_viewer_sees_the_way_of_a_version_and_changes_nothing(proposed, viewer):
    viewers = api_for(viewer)
    seen = viewers.get(f"/review/look/{proposed}")
    assert (seen["versions"][0]["next"], seen["may_remark"]) == ([], False)
    assert viewers.call("POST", f"/review/look/{proposed}/1/pins", {"words": "x"}).status_code == 403
    assert viewers.get("/review/queue") == []


@pytest.mark.django_db(transaction=True)
def test_two_curators_at_once_make_one_step(proposed, curator):
    from threading import Thread

    from django.db import connections

    other, outcomes = person("curator", "second"), []

    def publish(who):
        try:
            review.move(who, Kind.LOOK, proposed, 1, VersionState.PUBLISHED)
            outcomes.append("published")
        except Exception as error:
            outcomes.append(str(error))
        finally:
            connections.close_all()

    threads = [Thread(target=publish, args=(who,)) for who in (curator, other)]
    with transaction.atomic():
        Entry.objects.select_for_update().get(pk=proposed)
        for thread in threads:
            thread.start()
    for thread in threads:
        thread.join()
    assert sorted(outcomes) == ["Version 1 of Salt is published: you cannot publish it.", "published"]
    assert Notice.objects.filter(words__contains="published").count() == 1
