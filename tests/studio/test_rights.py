"""What a thing contains and whether it may leave: on made-up nests, against a walk written down plainly; and told wherever it is taken."""

from __future__ import annotations

import hashlib
import io
import json
import zipfile
from dataclasses import dataclass, field
from datetime import timedelta

import pytest
from django.db import connection, transaction
from django.test.utils import CaptureQueriesContext
from django.utils import timezone
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from saucer.core.files.format import PLAIN
from saucer.core.files.registry import formats
from saucer.core.look.model import look_from
from saucer.studio.catalogue.models import Entry, Kind, Version
from saucer.studio.common.models import Blob
from saucer.studio.looks import rules as looks
from saucer.studio.luts import rules as luts
from saucer.studio.luts.models import Lut, LutFile
from saucer.studio.luts.rights import Thing, contents_of, luts_in, words_of
from tests.make import a_lut
from tests.studio.conftest import api_for
from tests.studio.work import run_worker

pytestmark = pytest.mark.django_db(transaction=True)


@dataclass
class Made:
    """A made-up entry. holds: LUTs in its steps, how deep and whether switched on; origin: what it was made from"""

    kind: str
    rights: str
    holds: list[tuple[int, int, bool]] = field(default_factory=list)
    origin: int | None = None


@st.composite
def nests(draw: st.DrawFn) -> list[Made]:
    """Each holds, or comes from, some that stand before it: LUTs inside looks inside LUTs that were baked of them, and so on."""
    made: list[Made] = []
    for number in range(draw(st.integers(2, 7))):
        kind = draw(st.sampled_from(["look", "lut", "preset"]))
        earlier = [at for at, one in enumerate(made) if one.kind == "lut"]
        held = draw(st.lists(st.sampled_from(earlier), max_size=2, unique=True)) if earlier and kind != "lut" else []
        holds = [(at, draw(st.integers(0, 3)), draw(st.booleans())) for at in held]
        origin = draw(st.none() | st.integers(0, number - 1)) if number else None
        made.append(Made(kind, draw(st.sampled_from(["yes", "no", "unknown"])), holds, origin))
    return made


def sha_of(number: int) -> str:
    return hashlib.sha256(f"lut {number}".encode()).hexdigest()


def step_of(number: int, depth: int, enabled: bool) -> dict[str, object]:
    step: dict[str, object] = {"kind": "lut", "sha256": sha_of(number), "enabled": enabled}
    for _ in range(depth):
        step = {"kind": "group", "steps": [{"kind": "saturation"}, step]}
    return step


def store(made: list[Made]) -> list[Version]:
    versions: list[Version] = []
    for number, one in enumerate(made):
        entry = Entry.objects.create(kind=one.kind, name=f"{one.kind} {number}", may_pass_on=one.rights, shown_at=timezone.now())
        content = None if one.kind == "lut" else {"steps": [step_of(*held) for held in one.holds]}
        origin = versions[one.origin] if one.origin is not None else None
        version = Version.objects.create(entry=entry, number=1, content=content, content_hash=str(number), from_version=origin)
        if one.kind == "lut":
            blob, _ = Blob.objects.get_or_create(sha256=sha_of(number), defaults={"bytes": 1})
            lut = Lut.objects.create(
                version=version,
                kind="3D LUT",
                size=2,
                expects="srgb",
                gives="srgb",
                known="said",
                health="fine",
                sample=b"",
                bucket=0,
            )
            LutFile.objects.create(lut=lut, position=0, format="cube", file_name="a.cube", size=2, blob=blob)
        versions.append(version)
    return versions


def inside(made: list[Made], number: int) -> set[int]:
    """Everything that one of them holds or came from, however far."""
    one = made[number]
    direct = {at for at, _, _ in one.holds} | ({one.origin} if one.origin is not None else set())
    return direct | {far for near in direct for far in inside(made, near)}


@settings(max_examples=40, suppress_health_check=[HealthCheck.function_scoped_fixture, HealthCheck.too_slow])
@given(made=nests())
def test_all_that_is_inside_is_found_and_its_rights_count(db, made):
    with transaction.atomic():
        versions = store(made)
        found = contents_of([Thing.of(version) for version in versions])
        for number, contents in enumerate(found):
            wanted = inside(made, number)
            assert {one.entry.pk for one in contents.inside} == {versions[at].entry_id for at in wanted}
            is_free = made[number].rights == "yes" and all(made[at].rights == "yes" for at in wanted)
            assert (contents.reasons == []) == is_free
            for at in wanted:
                assert (f'"{made[at].kind} {at}"' in " ".join(contents.reasons)) == (made[at].rights != "yes")
        transaction.set_rollback(True)


def test_it_costs_the_same_however_many_there_are(db):
    made = [Made("lut", "yes"), *(Made("look", "yes", [(0, 1, True)]) for _ in range(40))]
    versions = store(made)
    counts = []
    for few in (2, 40):
        things = [
            Thing.of(version)
            for version in Version.objects.select_related("entry").filter(pk__in=[one.pk for one in versions[:few]])
        ]
        with CaptureQueriesContext(
            connection,
        ) as caught:
            contents_of(things)
        counts.append(len(caught))
    assert counts[0] == counts[1]


def test_a_circle_ends(db):
    first, second = store([Made("lut", "yes"), Made("look", "yes", [(0, 0, True)])])
    Version.objects.filter(pk=first.pk).update(from_version=second)
    (found,) = contents_of([Thing.of(Version.objects.select_related("entry").get(pk=first.pk))])
    assert [one.entry.pk for one in found.inside][:1] == [second.entry_id]


def test_a_lut_of_no_entry_is_not_free(db):
    (_, look) = store([Made("lut", "yes"), Made("look", "yes", [(0, 0, True)])])
    LutFile.objects.all().delete()
    (found,) = contents_of([Thing.of(look)])
    assert found.unknown == {sha_of(0)}
    assert "not on the Shelf" in found.reasons[0]
    assert luts_in({"steps": "nonsense"}) == luts_in([None, 3, {"steps": [7]}]) == set()


@pytest.fixture
def nested(designer) -> dict[str, int]:
    """A look that may leave and holds a LUT of which nobody has said so; and a LUT baked of it as an entry of its own."""
    lut = luts.bring_in(designer, formats()["cube"].write(a_lut(9), PLAIN), "print.cube", "Print", "srgb", "srgb")
    sha256 = luts.first_file(luts.lut_of(lut.pk)).blob_id
    draft = looks.create(
        designer, look_from({"name": "Ferry", "steps": [{"kind": "group", "steps": [{"kind": "lut", "sha256": sha256}]}]})
    )
    looks.save_version(designer, draft.pk)
    Entry.objects.filter(pk=draft.pk).update(may_pass_on="yes")
    return {"lut": lut.pk, "look": draft.pk}


def test_sheet_and_job_say_the_same_and_a_curators_pack_names_all_that_leaves(api, curator, nested):
    ids = {"entries": [nested["look"]]}
    plan = api.expect(200, "POST", "/packing/plan", ids)
    assert plan["count"] == 0
    assert plan["left_out"] == [{"name": "Ferry", "why": 'it holds the LUT "Print": nobody has said that it may be passed on'}]
    job = api.expect(202, "POST", "/packing", ids)
    run_worker()
    assert 'it holds the LUT "Print"' in api.get(f"/jobs/{job['id']}")["problem"]
    theirs = api_for(curator)
    let_out = theirs.expect(200, "POST", "/packing/plan", ids | {"reason": "For the archive"})
    assert let_out["inside"] == [{"name": "Print", "used_by": "Ferry", "rights": "nobody has said that it may be passed on"}]
    job = theirs.expect(202, "POST", "/packing", ids | {"reason": "For the archive"})
    run_worker()
    data = b"".join(theirs.client.get(f"/api/jobs/{job['id']}/file").streaming_content)
    with zipfile.ZipFile(io.BytesIO(data)) as pack:
        manifest = json.loads(pack.read("manifest.json"))
        (told,) = manifest["inside"]
        assert (told["name"], told["used_by"], told["may_pass_on"]) == ("Print", ["Ferry"], "unknown")
        assert told["path"] in pack.namelist()
        assert "Print: no licence is named; nobody has said" in pack.read("LICENCES.txt").decode()
        assert "Print, in Ferry" in pack.read("READ ME.txt").decode()


def test_rights_are_told_where_single_files_bundles_and_bakes_are_taken(api, nested):
    words = 'it holds the LUT "Print": nobody has said that it may be passed on'
    assert api.get(f"/packing/rights/look/{nested['look']}") == {"held": [words], "inside": ["Print"]}
    assert api.get(f"/packing/rights/look/{nested['look']}?version=1")["held"] == [words]
    job = api.expect(202, "POST", "/packing/file", {"entry": nested["look"], "format": {"format": "cube"}})
    baked = api.expect(202, "POST", f"/bake/looks/{nested['look']}", {"version": 1, "choice": {"size": 9, "own_entry": True}})
    run_worker()
    assert any(words in one for one in api.get(f"/jobs/{job['id']}")["left_out"])
    own = api.get(f"/jobs/{baked['id']}")["entry"]
    Entry.objects.filter(pk=own).update(may_pass_on="yes")
    told = api.get(f"/packing/rights/lut/{own}")
    assert told["held"] == [words], "what it was baked from holds it"
    assert told["inside"] == ["Ferry", "Print"]
    response = api.call("GET", f"/looks/{nested['look']}/bundle.zip")
    assert "Print" in response.headers["Saucer-Rights"]
    (listed,) = [one for one in api.get("/packing/manifest.json?in_state=draft")["entries"] if one["id"] == nested["look"]]
    assert listed["held"] == [words]
    Entry.objects.filter(pk=nested["lut"], kind=Kind.LUT).update(may_pass_on="yes")
    assert api.get(f"/packing/rights/lut/{own}")["held"] == []


@pytest.mark.parametrize(("days", "words"), [(-1, "may be passed on until {day} only"), (0, ""), (1, "")])
def test_the_last_day_is_a_day_on_which_it_may_be_passed_on(days, words):
    day = timezone.localdate() + timedelta(days=days)
    assert words_of("yes", day) == words.format(day=day)
    assert words_of("no", day) == (words.format(day=day) or "may not be passed on")
    assert words_of("unknown", day) == (words.format(day=day) or "nobody has said that it may be passed on")
