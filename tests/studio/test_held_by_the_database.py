"""Choices, lengths and ranges are the database's own; rows that are against them all the same take no list down, are told and mended."""

from __future__ import annotations

import io
import json
import zipfile
from typing import Any

import pytest
from django.apps import apps
from django.core.management import CommandError, call_command
from django.db import IntegrityError, connection, models, transaction
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from saucer.core.files.format import PLAIN
from saucer.core.files.registry import formats
from saucer.core.look.model import look_from
from saucer.studio.catalogue.models import Category, Entry
from saucer.studio.common import reading
from saucer.studio.common.constraints import list_loose
from saucer.studio.common.models import Unreadable
from saucer.studio.encodings.models import TeamEncoding
from saucer.studio.jobs.models import Job
from saucer.studio.luts import rules as luts
from saucer.studio.packing.returning import bring_back
from saucer.studio.people.models import Activity
from saucer.studio.presets import rules as presets
from saucer.studio.site.mending import REMEDIES, check_rows
from tests.make import WARM, a_lut
from tests.studio.conftest import api_for, person, propose_all

pytestmark = pytest.mark.django_db
LISTS = ("/shelf/entries", "/shelf/counts", "/pictures", "/pictures/sets", "/footage", "/presets", "/boards", "/projects", "/jobs", "/views",
         "/encodings", "/catalogue/tags", "/catalogue/categories", "/review/queue", "/notices", "/bin", "/packing/manifest.json",
         "/duplicates")  # fmt: skip


def ours() -> list[type[models.Model]]:
    return [model for model in apps.get_models() if model.__module__.startswith("saucer.")]


def checks_of(model: type[models.Model]) -> str:
    """What the database checks of a table, as it tells it itself."""
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT pg_get_constraintdef(oid) FROM pg_constraint WHERE contype = 'c' AND conrelid = %s::regclass",
            [model._meta.db_table],
        )
        return "\n".join(row[0] for row in cursor.fetchall())


def test_every_choice_every_length_and_every_number_is_held_by_the_database():
    missing = []
    for model in ours():
        checks = checks_of(model)
        for field in model._meta.concrete_fields:
            choices = [value for value, _ in field.choices or () if value]
            if choices and not all(f"'{value}'" in checks for value in choices):
                missing.append(f"{field}: its choices")
            if isinstance(field, models.TextField) and field.max_length and f"length({field.column})" not in checks:
                missing.append(f"{field}: its length")
            if isinstance(field, models.FloatField) and f"({field.column} " not in checks:
                missing.append(f"{field}: its range")
    assert not missing, "\n".join(missing)


def test_what_is_against_a_rule_is_refused(designer):
    entry = luts.bring_in(designer, formats()["cube"].write(a_lut(5), PLAIN), "one.cube")
    for wrong in (
        {"may_pass_on": "whatever"},
        {"state": "lost"},
        {"kind": "thing"},
        {"note": "x" * 2001},
        {"pass_on_until": "0001-01-01"},
    ):
        with pytest.raises(IntegrityError), transaction.atomic():
            Entry.objects.filter(pk=entry.pk).update(**wrong)


@pytest.fixture
def without_rules(db):
    """As a database was before it held these rules: each is there again, for new rows only, once the rows are written."""

    def write(table: str, name: str, sql: str) -> None:
        with connection.cursor() as cursor:
            cursor.execute("SET CONSTRAINTS ALL IMMEDIATE")
            cursor.execute("SELECT pg_get_constraintdef(oid) FROM pg_constraint WHERE conname = %s", [name])
            rule = cursor.fetchone()[0].removesuffix(" NOT VALID")
            cursor.execute(f'ALTER TABLE {table} DROP CONSTRAINT "{name}"')
            cursor.execute(sql)
            cursor.execute(f'ALTER TABLE {table} ADD CONSTRAINT "{name}" {rule} NOT VALID')

    return write


def test_a_row_that_cannot_be_read_is_left_out_counted_and_told_to_admins(designer, viewer, without_rules):
    good, bad = (presets.keep(designer, name, look_from({"steps": [WARM]}).steps) for name in ("Dusk", "Dawn"))
    propose_all()
    without_rules(
        "catalogue_entry",
        "whether_an_entry_may_be_passed_on",
        f"UPDATE catalogue_entry SET may_pass_on = 'whatever' WHERE id = {bad.pk}",
    )
    TeamEncoding.objects.create(encoding_id="own-broken", definition={"id": "own-broken", "curve": "none"})
    job = Job.objects.create(kind="no such kind", state="done", result={}, person=viewer)
    reading._noted.clear()
    api, root = api_for(viewer), api_for(person("admin", "root"))
    assert [one["name"] for one in api.get("/shelf/entries")["entries"]] == ["Dusk"]
    assert [one["name"] for one in api.get("/presets")] == ["Dusk"]
    assert "own-broken" not in [one["id"] for one in api.get("/encodings")]
    assert job.pk not in [one["id"] for one in api.get("/jobs")]
    assert root.get("/session")["unreadable"] == 3
    assert api.get("/session")["unreadable"] == 0
    api.expect(403, "GET", "/unreadable")
    told = {(one["kind"], one["key"]): one["problem"] for one in root.get("/unreadable")}
    assert "whatever" in told["entry", str(bad.pk)]
    assert ("team encoding", str(TeamEncoding.objects.get().pk)) in told
    assert good.pk not in [int(one.key) for one in Unreadable.objects.filter(kind="entry")]


def test_check_finds_such_rows_and_mend_says_what_it_did(designer, without_rules, capsys):
    entry = presets.keep(designer, "Dusk", look_from({"steps": [WARM]}).steps)
    category = Category.objects.create(name="Own", path="Own")
    without_rules(
        "catalogue_entry",
        "whether_an_entry_may_be_passed_on",
        f"UPDATE catalogue_entry SET may_pass_on = 'whatever' WHERE id = {entry.pk}",
    )
    without_rules(
        "catalogue_category", "category_has_a_name", f"UPDATE catalogue_category SET name = '..' WHERE id = {category.pk}"
    )
    without_rules("jobs_job", "state_of_a_job", "SELECT 1")
    with pytest.raises(CommandError):
        call_command("check_store")
    told = capsys.readouterr().out
    assert f"whether an entry may be passed on): preset {entry.pk} Dusk; --mend puts it right" in told
    assert {one.name for one in list_loose()} == {"whether_an_entry_may_be_passed_on", "category_has_a_name"}, (
        "the third holds for all"
    )
    call_command("check_store", "--mend")
    assert "put right: whether an entry may be passed on" in capsys.readouterr().out
    entry.refresh_from_db()
    category.refresh_from_db()
    assert (entry.may_pass_on, category.name) == ("unknown", f"_{category.pk}")
    assert list_loose() == []
    assert check_rows() == []
    assert Activity.objects.filter(action="mend rows").count() == 2


def test_what_cannot_be_guessed_is_left_to_people(designer, without_rules):
    entry = presets.keep(designer, "Dusk", look_from({"steps": [WARM]}).steps)
    without_rules("catalogue_entry", "kind_of_an_entry", f"UPDATE catalogue_entry SET kind = 'thing' WHERE id = {entry.pk}")
    (found,) = check_rows(mend=True)
    assert not found.mended
    assert "by hand" in found.words
    assert "kind_of_an_entry" not in REMEDIES


TEXT = st.one_of(st.text(max_size=30), st.sampled_from(["x" * 5000, "\u202egnp", "..", "yes", "look", "published"]))
ANY = st.one_of(
    st.none(),
    st.booleans(),
    st.integers(-(10**12), 10**12),
    TEXT,
    st.lists(TEXT, max_size=2),
    st.dictionaries(TEXT, TEXT, max_size=2),
)
GOOD: dict[str, Any] = {
    "kind": "preset", "name": "Dusk", "author": "", "note": "", "category": "", "tags": [], "source": "", "licence": "",
    "may_pass_on": "yes", "pass_on_until": None, "character": [], "files": [],
    "versions": [{"number": 1, "state": "draft", "note": "", "made": "2026-01-01T00:00:00Z", "made_by": "", "content": {"steps": [WARM]}}],
}  # fmt: skip


@st.composite
def entries(draw: st.DrawFn) -> dict[str, Any]:
    """A good one in which some fields, or those of its version, are anything."""
    made = json.loads(json.dumps(GOOD)) | {"name": draw(st.text(min_size=1, max_size=9, alphabet="abcdef"))}
    for field in draw(st.lists(st.sampled_from(sorted(GOOD)), max_size=2)):
        made[field] = draw(ANY)
    if draw(st.booleans()) and isinstance(made["versions"], list) and made["versions"]:
        made["versions"][0][draw(st.sampled_from(sorted(GOOD["versions"][0])))] = draw(ANY)
    return made


@settings(max_examples=20, suppress_health_check=[HealthCheck.function_scoped_fixture, HealthCheck.too_slow])
@given(made=st.lists(entries(), min_size=1, max_size=3))
def test_whatever_a_manifest_says_every_list_still_answers(designer, curator, tmp_path, made):
    """One that cannot be read is told with its reason; the others are there; nothing that is kept ends a list for anybody."""
    manifest = {"format": "saucer-pack", "version": 1, "made": "2026-01-01T00:00:00Z", "made_by": "", "entries": made}
    packed = io.BytesIO()
    with zipfile.ZipFile(packed, "w") as file:
        file.writestr("manifest.json", json.dumps(manifest))
    (tmp_path / "pack.zip").write_bytes(packed.getvalue())
    with transaction.atomic():
        found = bring_back(curator, tmp_path / "pack.zip", "pack.zip", lambda done: None)
        assert len(found.entries) + len(found.there) + len(found.failed) == len(made)
        assert all(words for words in found.failed)
        for somebody in (designer, curator):
            api = api_for(somebody)
            for path in LISTS:
                response = api.call("GET", path)
                assert response.status_code in (200, 403), (path, response.content[:300])
        assert {one["name"] for one in api.get("/presets")} == {entry.name for entry in found.entries}
        assert Unreadable.objects.count() == 0
        transaction.set_rollback(True)


def test_one_bad_entry_is_left_out_with_its_reason_and_the_rest_is_kept(designer, tmp_path):
    made = [
        GOOD,
        GOOD | {"name": "Dawn", "may_pass_on": "whatever"},
        GOOD | {"name": "Noon", "versions": [{}]},
        {"name": 5},
        "no entry",
    ]
    manifest = {"format": "saucer-pack", "version": 1, "made": "2026-01-01T00:00:00Z", "made_by": "", "entries": made}
    with zipfile.ZipFile(tmp_path / "pack.zip", "w") as file:
        file.writestr("manifest.json", json.dumps(manifest))
    found = bring_back(designer, tmp_path / "pack.zip", "pack.zip", lambda done: None)
    assert [one.name for one in found.entries] == ["Dusk"]
    assert [one.partition(":")[0] for one in found.failed] == ["Dawn", "Noon", "5", "Entry 5"]
    assert "may_pass_on" in found.failed[0]
