"""What is told of an installation that is not well, each with what to do; and databases of an older and a newer program."""

from __future__ import annotations

from datetime import timedelta
from io import StringIO
from pathlib import Path

import pytest
from django.core.files.storage import FileSystemStorage
from django.core.management import CommandError, call_command
from django.db import connection, models
from django.db.migrations import AddConstraint, AddField, AddIndex, RunPython
from django.db.migrations.recorder import MigrationRecorder
from django.utils import timezone

from saucer.studio.people.models import Person
from saucer.studio.site import doctor, migrating
from saucer.studio.site.backup import place
from saucer.studio.site.forecasting import Forecast, tables_of
from tests.studio.conftest import person

pytestmark = pytest.mark.django_db


@pytest.fixture(autouse=True)
def well(settings, monkeypatch: pytest.MonkeyPatch) -> None:
    """Nothing of the machine that the tests run on."""
    monkeypatch.delenv("DJANGO_ALLOW_ASYNC_UNSAFE", raising=False)
    monkeypatch.setattr(doctor, "held_until", lambda host: None)
    settings.ALLOWED_HOSTS, settings.BACKUP = ["localhost"], ""
    person("admin", "root")


def ids() -> list[str]:
    return sorted({one.id for one in doctor.examine()})


def test_all_is_well():
    out = StringIO()
    call_command("doctor", stdout=out)
    assert out.getvalue() == "All is well.\n"


def test_each_thing_that_is_wrong_is_told_with_what_to_do(settings, monkeypatch: pytest.MonkeyPatch, tmp_path: Path):
    monkeypatch.setenv("SAUCER_HOST", "typed.wrong")
    settings.ALLOWED_HOSTS = ["studio.example"]
    assert ids() == ["S01", "S05", "S07"]
    settings.HTTPS, settings.BACKUP = True, str(tmp_path)
    assert ids() == ["S01", "S05", "S07"], "no proxy; no backup there yet"
    settings.PROXY = "127.0.0.1"
    made = tmp_path / "20010101T000000Z"
    made.mkdir()
    manifest = place.Manifest(saucer="1", made=timezone.now() - timedelta(days=3), migrations={}, rows={}, files={})
    (made / "manifest.json").write_text(manifest.model_dump_json())
    monkeypatch.delenv("SAUCER_HOST")
    (found,) = doctor.examine()
    assert found.id == "S07"
    assert found.wrong == "The newest backup is 3 days old."
    out = StringIO()
    with pytest.raises(CommandError, match="1 things"):
        call_command("doctor", stdout=out)
    assert found.do in out.getvalue()


def test_a_store_that_cannot_be_written_is_told(monkeypatch: pytest.MonkeyPatch):
    def refuse(*given, **more):
        raise OSError(30, "Read-only file system")

    monkeypatch.setattr(FileSystemStorage, "save", refuse)
    (found,) = doctor.examine()
    assert (found.id, found.wrong) == ("S08", "Nothing can be kept: Read-only file system.")


def test_a_studio_without_an_admin_is_told_how_to_get_one():
    from saucer.studio.people.models import Person

    Person.objects.update(is_active=False)
    assert ids() == ["S06"]


def test_a_database_of_a_newer_program_is_left_alone():
    MigrationRecorder.Migration.objects.create(app="people", name="9999_of_tomorrow", applied=timezone.now())
    for words in (["prepare"], ["prepare", "--plan"], ["prepare", "--check"]):
        with pytest.raises(CommandError, match=r"changed by a newer Saucer \(people 9999_of_tomorrow\)"):
            call_command(*words)
    assert ids() == ["S04"]
    # Of a part that is not ours nothing is known, and nothing said.
    MigrationRecorder.Migration.objects.update(app="elsewhere")
    migrating.refuse_newer()


def test_what_would_be_done_to_a_database_of_before_is_told_and_not_done():
    MigrationRecorder.Migration.objects.filter(app="people", name__gte="0003").delete()
    out = StringIO()
    call_command("prepare", "--plan", stdout=out)
    lines = out.getvalue().splitlines()
    assert lines[0] == "people 0003_a_team"
    assert "    Create model Token" in lines
    assert lines[-1].startswith("In all about a second, by samples of this database's own rows, beside the backup")
    assert migrating.pending()
    assert ids() == ["S04"]
    with pytest.raises(CommandError, match=r"run ./saucer migrate"):
        call_command("prepare", "--check")


def test_what_is_up_to_date_says_so():
    out = StringIO()
    call_command("prepare", "--plan", stdout=out)
    assert out.getvalue() == "The database is up to date.\n"


@pytest.mark.django_db(transaction=True)  # what is called so closes its connections
def test_a_command_is_run_in_the_process_that_has_prepared_for_it(capsys):
    call_command("prepare", then=["people", "list"])
    assert [line.split()[0] for line in capsys.readouterr().out.splitlines()] == list(
        Person.objects.order_by("username").values_list("username", flat=True)
    )
    with pytest.raises(SystemExit):
        call_command("prepare", then=["people", "off", "nobody"])
    assert "nobody" in capsys.readouterr().err


def test_how_long_changes_would_take_is_reckoned_from_samples_of_the_rows_there_are():
    Person.objects.bulk_create(Person(username=f"p{number}") for number in range(500))
    table = Person._meta.db_table
    forecast = Forecast({table: 2_000_000, "people_token": 10})
    app, named = "people", table.removeprefix("people_")
    assert forecast.add(app, AddField(named, "note", models.CharField(max_length=9, default=""))) == 0, "only noted"
    looked = forecast.add(app, AddConstraint(named, models.CheckConstraint(name="c", condition=models.Q(pk__gt=0))))
    indexed = forecast.add(app, AddIndex(named, models.Index(fields=["username"], name="i")))
    written = forecast.add(app, RunPython(RunPython.noop))
    assert looked > 0
    assert written > 0
    assert indexed > 0
    assert forecast.seconds == looked + indexed + written
    assert forecast.is_least
    assert tables_of(app, RunPython(RunPython.noop), forecast.rows) == [table, "people_token"]
    assert Person.objects.filter(username__startswith="p").count() >= 500
    with connection.cursor() as cursor:
        cursor.execute("SELECT to_regclass('pg_temp.sample')")
        assert cursor.fetchone() == (None,)
