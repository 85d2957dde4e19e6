"""Who sees a draft: what its owner says of it, and what the studio says of what is new."""

from __future__ import annotations

import pytest
from django.db import IntegrityError, transaction

from saucer.core.files.format import PLAIN
from saucer.core.files.registry import formats
from saucer.core.look.model import look_from
from saucer.studio.catalogue import sharing
from saucer.studio.catalogue.models import Entry, Kind, SeenBy, Share, VersionState
from saucer.studio.catalogue.review import rules as review
from saucer.studio.looks import bringing
from saucer.studio.looks import rules as looks
from saucer.studio.luts import rules as luts
from saucer.studio.people.models import Activity, DraftsOf, Person
from saucer.studio.people.studio import set_up
from saucer.studio.projects import rules as projects
from saucer.studio.projects.models import MemberRole
from tests.make import WARM, a_lut
from tests.studio.conftest import api_for, person

pytestmark = pytest.mark.django_db


@pytest.fixture
def salt(designer) -> int:
    draft = looks.create(designer, look_from({"name": "Salt", "steps": [WARM]}))
    looks.save_version(designer, draft.pk)
    return draft.pk


def sees(somebody: Person, pk: int) -> bool:
    return Entry.objects.visible_to(somebody).filter(pk=pk).exists()


def test_a_private_draft_is_its_owners_until_it_is_shared_and_everybodys_once_it_is_proposed(api, salt, designer, curator, viewer):
    path = f"/catalogue/look/{salt}/sharing"
    assert api.get(path) == {"seen_by": "studio", "proposed": False, "people": [], "projects": []}
    api.expect(200, "PUT", path, {"seen_by": "owner"})
    assert [sees(one, salt) for one in (designer, curator, viewer)] == [True, False, False]
    found = api.expect(200, "PUT", path, {"seen_by": "chosen", "people": ["viewer"]})
    assert found["people"] == [{"name": "viewer", "shown": "Viewer"}]
    assert [sees(one, salt) for one in (designer, curator, viewer)] == [True, False, True]
    api.expect(200, "PUT", path, {"seen_by": "studio", "people": ["viewer"]})
    assert [sees(one, salt) for one in (designer, curator, viewer)] == [True, True, False]
    assert not Share.objects.exists(), "whom it was shared with is forgotten with the choice"
    api.expect(200, "PUT", path, {"seen_by": "owner"})
    review.move(designer, Kind.LOOK, salt, 1, VersionState.PROPOSED)
    assert [sees(one, salt) for one in (designer, curator, viewer)] == [True, True, True]
    review.move(designer, Kind.LOOK, salt, 1, VersionState.DRAFT)
    assert sees(viewer, salt), "what was proposed once has been seen"
    api.expect(422, "PUT", path, {"seen_by": "owner"})
    told = Activity.objects.filter(action="share", about_id=salt).order_by("pk")
    assert [one.data["seen_by"] for one in told] == ["owner", "chosen", "studio", "owner"]


def test_the_people_of_a_project_see_what_is_shared_with_it_and_only_as_long_as_they_are(salt, designer, curator, viewer):
    project = projects.create(designer, "The Salt Ferry")
    sharing.share(designer, Kind.LOOK, salt, SeenBy.CHOSEN, projects=[project.pk])
    assert not sees(viewer, salt)
    projects.change(designer, project.pk, {"members": {"viewer": MemberRole.FOLLOWS}})
    assert sees(viewer, salt)
    assert not sees(curator, salt)
    projects.change(designer, project.pk, {"members": {}})
    assert not sees(viewer, salt)


def test_projects_that_are_hidden_from_who_shares_stay(salt, designer):
    closed = projects.create(person("designer", "other"), "Closed")
    Share.objects.create(entry_id=salt, project=closed)
    projects.change(Person.objects.get(username="other"), closed.pk, {"closed": True})
    found = sharing.share(designer, Kind.LOOK, salt, SeenBy.CHOSEN)
    assert (found.projects, Share.objects.count()) == ([], 1)
    sharing.share(designer, Kind.LOOK, salt, SeenBy.OWNER)
    assert not Share.objects.exists()


@pytest.mark.parametrize(
    ("given", "status", "said"),
    [
        ({"seen_by": "chosen"}, 422, "Choose with whom it is shared."),
        ({"seen_by": "chosen", "people": ["nobody"]}, 404, "There is nobody called nobody who may sign in."),
        ({"seen_by": "chosen", "people": ["off"]}, 404, "There is nobody called off who may sign in."),
        ({"seen_by": "chosen", "projects": [98765]}, 404, "One of these projects is gone. Choose again."),
    ],
)
def test_what_cannot_be_said_changes_nothing(api, salt, viewer, given, status, said):
    Person.objects.filter(pk=person("designer", "off").pk).update(is_active=False)
    before = api.expect(200, "PUT", f"/catalogue/look/{salt}/sharing", {"seen_by": "chosen", "people": ["viewer"]})
    assert api.expect(status, "PUT", f"/catalogue/look/{salt}/sharing", given)["detail"] == said
    assert api.get(f"/catalogue/look/{salt}/sharing") == before


def test_whoever_may_not_change_it_may_not_say_who_sees_it(salt, curator):
    other = api_for(person("designer", "other"))
    other.expect(403, "PUT", f"/catalogue/look/{salt}/sharing", {"seen_by": "owner"})
    api_for(curator).expect(200, "PUT", f"/catalogue/look/{salt}/sharing", {"seen_by": "owner"})
    api_for(curator).expect(404, "PUT", f"/catalogue/look/{salt}/sharing", {"seen_by": "studio"})


def test_the_studio_says_whose_what_is_new_is(api, designer, viewer):
    set_up(None, drafts=DraftsOf.OWNER)
    made = looks.create(designer, look_from({"name": "Tide", "steps": [WARM]})).pk
    kept = api.expect(200, "POST", "/presets", {"name": "Dusk", "steps": [WARM]})["id"]
    found = Entry.objects.filter(pk__in=[made, kept]).values_list("seen_by", flat=True)
    assert list(found) == ["owner", "owner"]
    assert not sees(person("designer", "other"), made)
    set_up(None, drafts=DraftsOf.STUDIO)
    assert looks.create(designer, look_from({"name": "Quay"})).entry.seen_by == "studio"


def test_a_lut_is_brought_in_for_oneself_where_that_is_asked(api, designer):
    data = formats()["cube"].write(a_lut(5), PLAIN)
    mine = api.upload("/luts", "mine.cube", data, private="true").json()
    ours = api.upload("/luts", "ours.cube", data).json()
    assert (mine["seen_by"], ours["seen_by"]) == ("owner", "studio")
    other = api_for(person("designer", "other"))
    assert [one["id"] for one in other.get("/shelf/entries")["entries"]] == [ours["id"]]
    assert other.call("GET", f"/lut-files/{mine['files'][0]['id']}").status_code == 404


def test_a_bundle_brings_its_lut_where_only_anothers_draft_is_it(api, designer):
    other = person("designer", "other")
    lut = luts.bring_in(other, formats()["cube"].write(a_lut(5), PLAIN), "theirs.cube", seen_by=SeenBy.OWNER)
    sha256 = luts.first_file(luts.lut_of(lut)).blob_id
    theirs = looks.create(other, look_from({"name": "Tide", "steps": [{"kind": "lut", "sha256": sha256}]}))
    assert luts.is_on_shelf(other, sha256)
    assert not luts.is_on_shelf(designer, sha256)
    bringing.bring_in(designer, bringing.bundle_of(theirs), "tide.zip")
    assert Entry.objects.filter(kind="lut", owner=designer).count() == 1
    assert luts.is_on_shelf(designer, sha256)


def test_what_is_shared_is_shared_with_one_of_the_two(salt, designer):
    with pytest.raises(IntegrityError), transaction.atomic():
        Share.objects.create(entry_id=salt)
    with pytest.raises(IntegrityError), transaction.atomic():
        Share.objects.create(entry_id=salt, person=designer, project=projects.create(designer, "The Salt Ferry"))
