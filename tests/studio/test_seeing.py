"""Every path with something's number, for each kind of thing, in each state, by nine people: exactly who it is there for, and who may do it.

What somebody may not know of is 404, as what is not there at all; 403 is said only of what they know of.
"""

from __future__ import annotations

import json
from dataclasses import dataclass
from itertools import product
from pathlib import Path
from typing import Any

import pytest
from django.db import transaction
from django.utils import timezone

from saucer.core.colour.own import OwnEncoding
from saucer.core.files.format import PLAIN
from saucer.core.files.registry import formats
from saucer.core.look.model import look_from
from saucer.launch.places import ROOT
from saucer.studio.boards import rules as boards
from saucer.studio.boards.models import Board
from saucer.studio.catalogue import sharing
from saucer.studio.catalogue.models import Entry, SeenBy
from saucer.studio.catalogue.order import tags, views
from saucer.studio.catalogue.review import rules as review
from saucer.studio.common.store import keep_bytes
from saucer.studio.encodings import rules as encodings
from saucer.studio.guests import links
from saucer.studio.jobs import rules as jobs
from saucer.studio.looks import rules as looks
from saucer.studio.luts import rules as luts
from saucer.studio.luts.packs import Uploads
from saucer.studio.people.models import Person
from saucer.studio.pictures import footage, sets
from saucer.studio.pictures import rules as pictures
from saucer.studio.pictures.models import Picture
from saucer.studio.presets import rules as presets
from saucer.studio.projects import rules as projects
from saucer.studio.projects.deliver import kept
from saucer.studio.projects.deliver import rules as delivering
from saucer.studio.projects.deliver.choice import DeliveryChoice
from saucer.studio.projects.models import DeliveryItem, Layer, MemberRole, Project, Shot
from saucer.studio.projects.story import notes, shots
from tests.clips import write
from tests.core.test_schema_and_own import LOGC3
from tests.make import WARM, a_lut, a_picture
from tests.studio.access import TABLE
from tests.studio.api import Api
from tests.studio.conftest import person, seen_api_for
from tests.studio.seeing import ENTRIES, PICTURES, ROWS

pytestmark = pytest.mark.django_db
PEOPLE = ("anonymous", "viewer", "designer", "follows", "grades", "leads", "owner", "curator", "admin")
DRAFTS = ("drafted", "shared", "mine")
STATES = ("open", "closed", "private", "deleted", *DRAFTS)
"""The last three are of drafts that nobody proposed: all designers', of a project's people, only the owner's."""
ROLES = {"viewer": 0, "curator": 2, "admin": 3}
GATES = {"PATCH /api/pictures/{pk}": 0, "PATCH /api/packs/{job}/rows/{index}": 1, "POST /api/packs/{job}/keep": 1,
         "POST /api/results/{job}/keep": 1, "GET /api/packs/{job}/rows/{index}/preview.jpg": 1}  # fmt: skip
"""Where the role that the path takes is another than the row of `access` says: viewers say what their own frames are in."""
RANKS = {"everybody": -1, "viewer": 0, "maker": 0, "designer": 1, "owner": 1, "curator": 2}
TIMELINE = b"TITLE: One\nFCM: NON-DROP FRAME\n\n001  AX       V     C        00:00:00:00 00:00:01:00 01:00:00:00 01:00:01:00\n* FROM CLIP NAME: nothing.mov\n"


@dataclass
class World:
    """numbers: of each thing in each state; people: by what they are called here"""

    numbers: dict[tuple[str, str], dict[str, Any]]
    people: dict[str, Person | None]


@pytest.fixture
def world(db, tmp_path) -> World:
    """All of it is the owner's. Members belong to all projects."""
    people: dict[str, Person | None] = dict.fromkeys(("anonymous",))
    for name in PEOPLE[1:]:
        people[name] = person(name if name in ROLES else "designer", f"the-{name}")
    owner = people["owner"]
    assert owner is not None
    numbers: dict[tuple[str, str], dict[str, Any]] = {}
    look = looks.create(owner, look_from({"name": "Salt", "steps": [WARM]}))
    looks.save_version(owner, look.pk)
    lut = luts.bring_in(owner, formats()["cube"].write(a_lut(5), PLAIN), "one.cube")
    Entry.objects.update(may_pass_on="yes")
    members = {f"the-{role}": MemberRole(role) for role in ("follows", "grades", "leads")}
    made: dict[str, tuple[Picture, Picture]] = {}
    for state in STATES[:4]:
        still = pictures.bring_in(
            owner, a_picture(tmp_path / f"{state}.png", seed=len(state)), f"{state}.png", passing=state == "private"
        )
        clip = footage.bring_in_clip(owner, footage.Source(write(tmp_path / f"{state}.mp4", count=3), f"{state}.mp4"))
        made[state] = still, clip
        numbers["picture", state], numbers["clip", state] = {"pk": still.pk}, {"pk": clip.pk}
        if state == "private":
            Picture.objects.filter(pk=clip.pk).update(passing=True)
            continue
        project = projects.create(owner, f"Ferry {state}")
        projects.change(owner, project.pk, {"members": members, "closed": state == "closed"})
        second = pictures.bring_in(owner, a_picture(tmp_path / f"{state}2.png", seed=9), f"{state}2.png")
        third = pictures.bring_in(owner, a_picture(tmp_path / f"{state}3.png", seed=8), f"{state}3.png")
        wanted = [shots.NewShot(one.pk, "Quay") for one in (still, clip, second, third)]
        one, _, two, out = shots.add_shots(owner, project.pk, wanted)
        note = notes.add_note(owner, project.pk, one.pk, "Warm", None)
        shots.take_out(owner, project.pk, [out.pk])
        shared = Layer.objects.create(scene=one.scene, position=0, role="before", steps=[WARM])
        delivery = delivering.deliver(owner, project.pk, DeliveryChoice(stills="png", shots=[one.pk]))
        DeliveryItem.objects.filter(delivery=delivery).update(blob=keep_bytes(b"a still"))
        numbers["project", state] = {
            "pk": project.pk, "shot": one.pk, "second": two.pk, "out": out.pk, "note": note.pk, "number": delivery.number, "look": look.pk, "job": 987654,
            "scene": one.scene_id, "shared": shared.pk, "place": 0, "item": DeliveryItem.objects.get(delivery=delivery).pk, "picture": still.pk,
        }  # fmt: skip
    shown = made["open"][0].pk
    numbers |= _catalogue(owner, look.pk, lut, shown)
    Entry.objects.update(proposed=True)
    numbers |= _drafts(owner, shown, numbers["project", "open"]["pk"])
    gone = {"deleted": timezone.now()}
    Picture.objects.filter(pk__in=[one.pk for one in made["deleted"]]).update(**gone)
    Project.objects.filter(pk=numbers["project", "deleted"]["pk"]).update(**gone)
    return World(numbers, people)


def _catalogue(owner: Person, look: int, lut: Entry, picture: int) -> dict[tuple[str, str], dict[str, Any]]:
    """One of everything else, open; and another of each that can be deleted, deleted."""
    found = luts.lut_of(lut.pk)
    review_pin = review.add_pin(owner, "lut", lut.pk, 1, "Warm")
    told = {"kind": "lut", "number": 1, "picture": picture, "entry": look, "lut": found.pk, "look": look}
    board = boards.keep(owner, "Evenings", [look], [picture])
    job = jobs.start(owner, "intake", Uploads(uploads=[]))
    encodings.add(owner, OwnEncoding.model_validate(LOGC3))
    numbers: dict[tuple[str, str], dict[str, Any]] = {
        ("lut", "open"): told | {"pk": lut.pk}, ("look", "open"): told | {"pk": look},
        ("preset", "open"): {"pk": presets.keep(owner, "Dusk", look_from({"steps": [WARM]}).steps).pk},
        ("board", "open"): told | {"pk": board.pk}, ("guest link", "open"): {"pk": links.make(owner, board, links.Terms(timezone.localdate()))[0].pk}, ("pin", "open"): {"pk": review_pin.pk}, ("lut id", "open"): told,
        ("lut file", "open"): {"pk": luts.first_file(found).pk}, ("set", "open"): {"pk": sets.save(owner, "Night", [picture]).pk},
        ("job", "open"): {"pk": job.pk, "job": job.pk, "index": 0, "picture": picture}, ("view", "open"): {"pk": views.keep(owner, "Mine", "q=a", False).pk},
        ("kept choice", "open"): {"pk": kept.keep(owner, "For the client", DeliveryChoice(stills="png")).pk},
        ("encoding", "open"): {"encoding_id": LOGC3["id"]}, ("", "open"): {"name": "rushes", "number": 987654},
    }  # fmt: skip
    draft = looks.create(owner, look_from({"name": "Gone", "steps": [WARM]}))
    looks.save_version(owner, draft.pk)
    away = luts.bring_in(owner, formats()["cube"].write(a_lut(5, seed=3), PLAIN), "two.cube")
    lost = luts.lut_of(away.pk)
    preset = presets.keep(owner, "Gone", look_from({"steps": [WARM]}).steps)
    bygone = boards.keep(owner, "Gone", [look], [picture])
    numbers |= {
        ("look", "deleted"): told | {"pk": draft.pk}, ("lut", "deleted"): told | {"pk": away.pk}, ("preset", "deleted"): {"pk": preset.pk},
        ("lut file", "deleted"): {"pk": luts.first_file(lost).pk}, ("lut id", "deleted"): told | {"lut": lost.pk},
        ("board", "deleted"): told | {"pk": bygone.pk},
    }  # fmt: skip
    Entry.objects.filter(pk__in=[draft.pk, away.pk, preset.pk]).update(deleted=timezone.now())
    Board.objects.filter(pk=bygone.pk).update(deleted=timezone.now())
    return numbers


def _drafts(owner: Person, picture: int, project: int) -> dict[tuple[str, str], dict[str, Any]]:
    """A look, a LUT and a preset in each of the states of drafts."""
    numbers: dict[tuple[str, str], dict[str, Any]] = {}
    for seed, (state, seen_by) in enumerate((("drafted", "studio"), ("shared", "chosen"), ("mine", "owner"))):
        look = looks.create(
            owner, look_from({"name": f"Salt {state}", "steps": [WARM, {"kind": "saturation", "factor": 1 + seed / 10}]})
        ).pk
        looks.save_version(owner, look)
        lut = luts.bring_in(owner, formats()["cube"].write(a_lut(5, seed=10 + seed), PLAIN), f"{state}.cube").pk
        preset = presets.keep(
            owner, f"Dusk {state}", look_from({"steps": [WARM, {"kind": "saturation", "factor": 1 + seed / 10}]}).steps
        ).pk
        found = luts.lut_of(lut)
        told = {"kind": "lut", "number": 1, "picture": picture, "entry": look, "lut": found.pk, "look": look}
        numbers |= {
            ("lut", state): told | {"pk": lut}, ("look", state): told | {"pk": look}, ("preset", state): {"pk": preset},
            ("lut file", state): {"pk": luts.first_file(found).pk}, ("lut id", state): told,
            ("pin", state): {"pk": review.add_pin(owner, "lut", lut, 1, "Warm").pk},
        }  # fmt: skip
        for kind, pk in (("look", look), ("lut", lut), ("preset", preset)):
            sharing.share(owner, kind, pk, SeenBy(seen_by), projects=[project] if seen_by == "chosen" else [])
    return numbers


def knows(who: str, thing: str, state: str) -> bool:
    """Is it there for them?"""
    _, _, known = thing.partition(" ")
    if state == "deleted" and known != "known":
        return False
    if state == "drafted":
        return who != "viewer"
    if state == "mine":
        return who == "owner"
    if state == "shared":
        return who in ("follows", "grades", "leads", "owner")
    if state == "closed":
        return who in ("follows", "grades", "leads", "owner", "admin")
    return state != "private" or who == "owner"


def may(who: str, needs: str, state: str) -> bool:
    leads = who in ("leads", "owner", "admin") or (who == "curator" and state != "closed")
    return {
        "see": True, "own": who in ("owner", "curator", "admin"), "lead": leads, "work": leads or who == "grades", "undo": leads or who == "grades",
        "remove": who in ("owner", "admin") or (who == "curator" and state != "closed"),
    }[needs]  # fmt: skip


def lacks_role(who: str, row: str) -> bool:
    method, path = row.split(" ")
    return ROLES.get(who, 1) < GATES.get(row, RANKS[TABLE[method, path]])


def is_told_by_another(who: str, thing: str, state: str, row: str) -> bool:
    """Does another call answer for this one? Who lacks the role is refused whatever state a thing is in (test_access); what is deleted is there for
    nobody, its owner and an admin included; before a draft people of a project stand where one who follows it does."""
    if state in DRAFTS and who in ("grades", "leads", "admin"):
        return True
    if state == "deleted" and not thing.endswith(" known") and who not in ("owner", "admin"):
        return True
    return state != "open" and (who == "anonymous" or lacks_role(who, row))


def wanted(who: str, thing: str, needs: str, state: str, row: str) -> int:
    """200 for let in, whatever becomes of it then."""
    if who == "anonymous":
        return 401
    if lacks_role(who, row):
        return 403
    if needs == "gone" or not knows(who, thing, state):
        return 404
    if needs == "alone":
        return 200 if who == "owner" else 404
    if not may(who, needs, state):
        return 403
    return 404 if needs == "undo" else 200


def filled(given: Any, numbers: dict[str, Any]) -> Any:
    """With numbers in the place of names in braces."""
    if isinstance(given, dict):
        return {name: filled(value, numbers) for name, value in given.items()}
    if isinstance(given, list):
        return [filled(value, numbers) for value in given]
    if isinstance(given, str) and given.startswith("{") and given.endswith("}") and given[1:-1] in numbers:
        return numbers[given[1:-1]]
    return given.replace("{{", "{").replace("}}", "}") if isinstance(given, str) else given


def status_of(api: Api, row: str, body: Any, numbers: dict[str, Any]) -> int:
    """Whatever is changed is taken back: every call finds the same."""
    method, path = row.split(" ")
    address = path.format(**numbers).removeprefix("/api") + (
        f"?picture={numbers['picture']}" if path.endswith(("entries/{pk}/preview.jpg", "rows/{index}/preview.jpg")) else ""
    )
    with transaction.atomic():
        if body == "timeline":
            response = api.upload(address, "one.edl", TIMELINE, scene="One")
        else:
            response = api.call(method, address, filled(body, numbers))
        if response.streaming:
            b"".join(response.streaming_content)
        transaction.set_rollback(True)
    status = response.status_code
    return 200 if status < 300 or status in (409, 422) else status


# Of people themselves, by role alone or one's own: test_access, test_team, test_tokens; by links for guests: test_guests.
ACCOUNTS = ("own", "team", "links", "guest", "studio", "hooks", "uploads")


def test_the_table_names_every_path_that_names_a_thing():
    schema = json.loads((ROOT / "web/openapi.json").read_bytes())  # a test of what is generated holds it against the API
    named = {path: one for path, one in schema["paths"].items() if "{" in path and path.split("/")[2] not in ACCOUNTS}
    paths = {f"{method.upper()} {path}" for path, operations in named.items() for method in operations}
    assert {row for _, _, row, _ in ROWS} == paths


@pytest.mark.parametrize("some", [PEOPLE[:3], PEOPLE[3:6], PEOPLE[6:]], ids=lambda some: " ".join(some))
def test_each_path_answers_each_person_for_each_thing_in_each_state(some, world):
    wrong = {}
    apis = {who: seen_api_for(world.people[who]) for who in some}
    for (who, api), (thing, needs, row, body) in product(apis.items(), ROWS):
        for state in STATES:
            numbers = world.numbers.get((thing.removesuffix(" known"), state))
            if numbers is None or is_told_by_another(who, thing, state, row):
                continue
            found, right = status_of(api, row, body, numbers), wanted(who, thing, needs, state, row)
            if found != right:
                wrong[f"{who}: {row} ({state})"] = (found, right)
    assert wrong == {}


def test_a_number_that_is_given_in_a_body_opens_nothing(world, tmp_path):
    """A private frame can be looked at by whose it is, and put nowhere where others look."""
    wrong: dict[str, int] = {}
    for who in ("viewer", "designer", "follows", "owner", "curator", "admin"):  # before a picture those of a project stand alike
        somebody = world.people[who]
        assert somebody is not None
        wrong |= opened(world, who, somebody, tmp_path)
    assert wrong == {}


def project_of(who: str, somebody: Person, tmp_path: Path) -> dict[str, int]:
    """own, mine: a project of theirs, and a shot in it"""
    project = projects.create(somebody, f"Mine, {who}")
    still = pictures.bring_in(somebody, a_picture(tmp_path / "mine.png", seed=5), "mine.png")
    (shot,) = shots.add_shots(somebody, project.pk, [shots.NewShot(still.pk, "One")])
    return {"own": project.pk, "mine": shot.pk}


def test_an_entrys_number_in_a_body_opens_no_draft(world, tmp_path):
    wrong: dict[str, int] = {}
    for who in ("designer", "follows", "owner", "curator"):  # the others stand where one of these does
        somebody = world.people[who]
        assert somebody is not None
        own, api = project_of(who, somebody, tmp_path), seen_api_for(somebody)
        for (row, body), state in product(ENTRIES, ("open", "deleted", "drafted", "shared", "mine")):
            method, path = row.split(" ", 1)
            numbers = {name: world.numbers[name, state]["pk"] for name in ("look", "lut", "preset")} | own
            numbers |= {"picture": world.numbers["picture", "open"]["pk"], "open": world.numbers["preset", "open"]["pk"],
                        "open lut": world.numbers["lut", "open"]["pk"]}  # fmt: skip
            with transaction.atomic():
                status = api.call(method, path.format(**numbers), filled(body, numbers)).status_code
                transaction.set_rollback(True)
            changes = "many" in path and who not in ("owner", "curator", "admin")
            right = {404} if not knows(who, "look", state) else {403} if changes else {200, 202}
            if status not in right:
                wrong[f"{who}: {row} ({state})"] = status
    assert wrong == {}


def test_no_list_count_or_search_tells_of_a_draft(world):
    """What is there for a person is the same in every list; a count is that of the list."""
    owner = world.people["owner"]
    assert owner is not None
    states = ("open", "drafted", "shared", "mine")
    everything = {(kind, state): world.numbers[kind, state]["pk"] for kind in ("look", "lut", "preset") for state in states}
    board = boards.keep(
        owner, "Everything", [everything["look", state] for state in states], [world.numbers["picture", "open"]["pk"]]
    )
    tags.put_on_many(list(Entry.objects.filter(pk__in=everything.values())), {pk: (["Sea"], []) for pk in everything.values()})
    for who in PEOPLE[1:]:
        api = seen_api_for(world.people[who])
        there = {pk for (_, state), pk in everything.items() if knows(who, "look", state)}
        seen = {
            "shelf": [one["id"] for one in api.get("/shelf/entries?tag=Sea&size=100")["entries"]],
            "chosen": [one["id"] for one in api.get("/shelf/entries/chosen?" + "&".join(f"entry={pk}" for pk in everything.values()))],
            "search": [one["id"] for word in ("Salt", "Dusk", "drafted", "mine", "shared", "one") for one in api.get(f"/search?words={word}")["entries"]],
            "manifest": [one["id"] for one in api.get("/packing/manifest.json?tag=Sea&in_state=draft")["entries"]],
        }  # fmt: skip
        for name, found in seen.items():
            assert set(found) & set(everything.values()) == there, f"{who}: {name}"
        of_kind = {kind: {pk for (one, _), pk in everything.items() if one == kind} & there for kind in ("look", "preset")}
        assert {one["id"] for one in api.get("/presets")} & set(everything.values()) == of_kind["preset"]
        assert {one["id"] for one in api.get(f"/boards/{board.pk}")["entries"]} == of_kind["look"]
        assert api.get("/shelf/counts?tag=Sea")["total"] == len(there)
        assert api.get("/catalogue/tags?q=Sea") == [{"name": "Sea", "count": len(there)}]
        alike = {one["entry"]["id"] for one in api.get(f"/shelf/entries/{everything['look', 'open']}/alike?most=100")}
        assert alike & set(everything.values()) == there - {everything["look", "open"]}
        if who in ("curator", "admin"):
            groups = api.get("/duplicates?within=2")
            assert {pk for one in groups for pk in one["entries"]} & set(everything.values()) <= there


def opened(world: World, who: str, somebody: Person, tmp_path: Path) -> dict[str, int]:
    wrong = {}
    own = project_of(who, somebody, tmp_path) if who != "viewer" else {"own": 1, "mine": 1}
    api = seen_api_for(somebody)
    for row, body in PICTURES:
        method, path = row.split(" ")
        for state in STATES[:4]:
            numbers = {"picture": world.numbers["picture", state]["pk"], "look": world.numbers["look", "open"]["pk"],
                       "lut": world.numbers["lut", "open"]["pk"], **own}  # fmt: skip
            with transaction.atomic():
                response = api.call(method, path.format(**numbers), filled(body, numbers))
                transaction.set_rollback(True)
            status = response.status_code
            if who == "viewer" and (status == 403 or "{own}" in path):
                continue  # their role does not let them, whatever the picture is; they have no project
            there = knows(who, "picture", state)
            if (status not in (200, 202, 422)) if there else status != 404:
                wrong[f"{who}: {row} ({state})"] = status
    return wrong


def test_no_list_tells_of_what_is_not_there_for_a_person(world):
    owner = world.people["owner"]
    assert owner is not None
    closed = world.numbers["picture", "closed"]["pk"]
    board = boards.keep(owner, "Closed", [world.numbers["look", "open"]["pk"]], [closed, world.numbers["picture", "open"]["pk"]])
    sets.save(owner, "Closed", [closed])
    review.add_pin(owner, "lut", world.numbers["lut", "open"]["pk"], 1, "Warm", Picture.objects.get(pk=closed), (0.5, 0.5))
    for who in PEOPLE[1:]:
        check_lists(world, who, board.pk)


def check_lists(world: World, who: str, board: int) -> None:
    api = seen_api_for(world.people[who])
    closed, private = (world.numbers["picture", state]["pk"] for state in ("closed", "private"))
    sees = knows(who, "picture", "closed")
    lists = {
        "pictures": [one["id"] for one in api.get("/pictures")],
        "sets": [pk for one in api.get("/pictures/sets") for pk in one["pictures"]],
        "board": api.get(f"/boards/{board}")["pictures"],
        "pins": [one["picture"] for one in api.get(f"/review/lut/{world.numbers['lut', 'open']['pk']}")["pins"]],
    }
    for name, found in lists.items():
        assert (closed in found) == sees, name
        assert private not in found or who == "owner", name
    assert (world.numbers["clip", "closed"]["pk"] in [one["id"] for one in api.get("/footage")]) == sees
    assert (world.numbers["project", "closed"]["pk"] in [one["id"] for one in api.get("/projects")]) == sees
    if who != "viewer":
        path = f"/projects/{world.numbers['project', 'open']['pk']}/pattern"
        named = api.expect(200, "POST", path, {"pictures": [closed, private], "pattern": "{scene}"})
        assert [one["picture"] for one in named] == [*([closed] if sees else []), *([private] if who == "owner" else [])]


def test_a_shot_is_not_reached_through_another_project(world):
    api = seen_api_for(world.people["curator"])
    shot = world.numbers["project", "closed"]["shot"]
    base = f"/projects/{world.numbers['project', 'open']['pk']}"
    for method, path, body in (
        ("GET", f"/shots/{shot}", None), ("GET", f"/shots/{shot}/preview.jpg", None), ("POST", f"/shots/{shot}/frame", {}),
        ("PATCH", "/shots", {"shots": [shot], "note": "Changed"}), ("POST", "/trims", {"shots": [shot], "steps": []}),
        ("POST", f"/shots/{world.numbers['project', 'open']['shot']}/match", {"shot": shot}),
    ):  # fmt: skip
        assert api.call(method, f"{base}{path}", body).status_code == 404, path
    assert Shot.objects.get(pk=shot).note == ""
    assert json.loads(api.call("POST", f"{base}/previews", {"shots": [shot]}).headers["Saucer-Sizes"]) == 0


@pytest.mark.parametrize("tray", [False, True])
def test_one_picture_is_found_for_those_whose_lists_hold_it(tray, world, django_assert_num_queries):
    """It is asked for in a shorter way than lists are; in the tray it stays, whatever project it is a shot of."""
    Picture.objects.filter(passing=False).update(test=tray)
    somebody = [one for one in world.people.values() if one is not None]
    found = {
        (one.pk, pk) for one in somebody for pk in Picture.objects.values_list("pk", flat=True) if Picture.objects.find_for(one, pk)
    }
    listed = {(one.pk, pk) for one in somebody for pk in Picture.objects.visible_to(one).values_list("pk", flat=True)}
    assert found == listed
    if tray:
        viewer, closed = world.people["viewer"], world.numbers["picture", "closed"]["pk"]
        with django_assert_num_queries(1):
            assert Picture.objects.find_for(viewer, closed)
