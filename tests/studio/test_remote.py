"""`saucer remote` against a server that runs: added, searched, fetched from, brought something; and the two examples of docs/examples."""

from __future__ import annotations

import hashlib
import io
import os
import subprocess
import sys
from datetime import date, timedelta
from pathlib import Path

import numpy as np
import pytest
from pytest_django.live_server_helper import LiveServer

from saucer.command import main as saucer
from saucer.core.commands import main as core
from saucer.core.errors import SaucerError
from saucer.core.files.format import PLAIN
from saucer.core.files.registry import formats, read_lut
from saucer.core.look.model import look_from, look_text
from saucer.launch.places import ROOT
from saucer.remote import commands, delivering, kept
from saucer.remote.calls import fetch
from saucer.studio.catalogue.models import Entry, Version
from saucer.studio.catalogue.order import tree
from saucer.studio.looks import rules as looks
from saucer.studio.luts import rules as luts
from saucer.studio.people import tokens
from saucer.studio.people.models import Activity, Person, Scope, Token
from saucer.studio.pictures import rules as pictures
from saucer.studio.projects import rules as projects
from saucer.studio.projects.deliver import kept as kept_choices
from saucer.studio.projects.deliver.choice import DeliveryChoice
from saucer.studio.projects.models import Delivery, Project
from saucer.studio.projects.story import shots
from tests.make import WARM, a_lut, a_picture, sample_look
from tests.studio.conftest import person
from tests.studio.work import run_worker

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.fixture
def token(designer: Person) -> str:
    scopes = [Scope.READ, Scope.BRING_IN, Scope.DESIGN]
    return tokens.make(designer, designer, "sync", scopes, date.today() + timedelta(days=9))[1]


@pytest.fixture
def home(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    monkeypatch.setenv("XDG_CONFIG_HOME", str(tmp_path / "config"))
    monkeypatch.chdir(tmp_path)
    return tmp_path


@pytest.fixture
def known(live_server: LiveServer, token: str, home: Path) -> str:
    kept.save({"studio": kept.Remote(live_server.url, token)})
    return live_server.url


def test_a_server_is_added_by_a_token_that_opens_it_and_kept_for_this_person_alone(live_server, token, home, monkeypatch, capsys):
    monkeypatch.setattr(sys, "stdin", io.StringIO("saucer_wrong\n"))
    assert commands.main(["add", "studio", live_server.url]) == 1
    assert "does not believe the token" in capsys.readouterr().err
    assert kept.load() == {}
    monkeypatch.setattr(sys, "stdin", io.StringIO(f"{token}\n"))
    assert commands.main(["add", "studio", f"{live_server.url}/shelf"]) == 0
    assert oct(kept.kept_in().stat().st_mode & 0o777) == "0o600"
    assert commands.main(["list"]) == 0
    assert capsys.readouterr().out.splitlines()[-1] == f"studio\t{live_server.url}"
    file = home / "token"
    file.write_text(token)
    file.chmod(0o644)
    assert commands.main(["add", "other", live_server.url, "--token-file", str(file)]) == 1
    assert "can be read by others" in capsys.readouterr().err
    file.chmod(0o600)
    assert commands.main(["add", "other", live_server.url, "--token-file", str(file)]) == 0
    assert commands.main(["find"]) == 1
    assert "say which with --from: other, studio" in capsys.readouterr().err
    assert commands.main(["remove", "other"]) == 0
    assert set(kept.load()) == {"studio"}
    kept.kept_in().chmod(0o640)
    assert commands.main(["find"]) == 1


@pytest.mark.parametrize("url", ["http://studio.example", "ftp://studio.example", "studio.example", "https://"])
def test_no_token_is_sent_in_the_clear_or_nowhere(home, url):
    with pytest.raises(SaucerError):
        kept.check_url(url)


def test_a_look_is_baked_here_as_the_server_would(known, designer, home, capsys):
    look = look_from({"name": "Warm: night", "steps": [WARM]})
    made = looks.create(designer, look)
    assert commands.main(["find", "warm", "night"]) == 0
    assert capsys.readouterr().out == f"look\t{made.pk}\tdraft\tWarm: night\n"
    assert commands.main(["pull", "Warm: night", "--format", "cube", "--size", "17"]) == 0
    assert capsys.readouterr().out.splitlines()[-1] == "Warm_ night.cube"
    lut, _ = read_lut((home / "Warm_ night.cube").read_bytes(), "Warm_ night.cube")
    assert np.abs(lut.lattice.table - sample_look(look, 17).lattice.table).max() < 1e-5
    assert commands.main(["pull", str(made.pk), "-o", "one.zip"]) == 0
    assert (home / "one.zip").read_bytes().startswith(b"PK")


def test_a_lut_comes_as_it_is_or_in_another_format(known, designer, home, capsys):
    data = formats()["cube"].write(a_lut(9), PLAIN)
    luts.bring_in(designer, data, "Print.cube")
    assert commands.main(["pull", "Print", "-o", "as-it-is.cube"]) == 0
    assert (home / "as-it-is.cube").read_bytes() == data
    assert commands.main(["pull", "Print", "--format", "clf"]) == 0
    lut, _ = read_lut((home / "Print.clf").read_bytes(), "Print.clf")
    assert np.abs(lut.lattice.table - a_lut(9).lattice.table).max() < 1e-5
    assert commands.main(["pull", "nothing of the kind"]) == 1
    assert "is no look or LUT there" in capsys.readouterr().err


def test_files_are_brought_in_and_what_cannot_be_is_named(known, designer, home, capsys):
    tree.make(person("curator"), "Prints")
    (home / "a.cube").write_bytes(formats()["cube"].write(a_lut(5), PLAIN))
    (home / "b.cube").write_text("no LUT")
    assert commands.main(["push", "a.cube", "b.cube", "none.cube", "--category", "Prints"]) == 1
    told = capsys.readouterr()
    assert told.out.endswith("\ta\n")
    assert "b.cube: " in told.err
    assert "; none.cube: no such file" in told.err
    pk = int(told.out.split("\t")[0])
    entry = Entry.objects.get(pk=pk)
    assert (entry.category_path, entry.owner) == ("Prints", designer)


def test_what_the_token_does_not_reach_is_said_in_the_servers_words(known, home, capsys):
    Token.objects.update(scopes=["bring in"])
    assert commands.main(["find"]) == 1
    assert 'it takes "read"' in capsys.readouterr().err
    Token.objects.all().delete()
    assert commands.main(["find"]) == 1
    assert "make a new one" in capsys.readouterr().err
    kept.save({"studio": kept.Remote("http://127.0.0.1:9", "x")})
    assert commands.main(["find"]) == 1
    assert "cannot be reached" in capsys.readouterr().err


def run_example(name: str, home: Path, *words: str) -> None:
    """As cron would, with `saucer` on the PATH."""
    programs = home / "bin"
    programs.mkdir(exist_ok=True)
    saucer = programs / "saucer"
    saucer.write_text(f'#!/bin/sh\nexec "{sys.executable}" -m saucer.command "$@"\n')
    saucer.chmod(0o755)
    path = {"PATH": f"{programs}:{os.environ['PATH']}", "PYTHONPATH": str(ROOT / "src")}
    done = subprocess.run(
        [str(ROOT / "docs" / "examples" / name), *words], env=os.environ | path, capture_output=True, text=True, check=False
    )
    assert done.returncode == 0, done.stdout + done.stderr


def test_a_watched_folder_is_brought_in(known, designer, home):
    folder = home / "luts"
    folder.mkdir()
    (folder / "good one.cube").write_bytes(formats()["cube"].write(a_lut(5), PLAIN))
    (folder / "bad.cube").write_text("no LUT")
    tree.make(person("curator"), "Film")
    run_example("watch-folder.sh", home, str(folder), "Film")
    assert [path.name for path in (folder / "in").iterdir()] == ["good one.cube"]
    assert sorted(path.name for path in (folder / "not in").iterdir()) == ["bad.cube", "bad.cube.txt"]
    assert list(Entry.objects.values_list("name", "category__path")) == [("good one", "Film")]


def test_a_folder_is_kept_as_what_is_published(known, designer, home):
    for name in ("Salt", "Tide"):
        draft = looks.create(designer, look_from({"name": name, "steps": [WARM]}))
        looks.save_version(designer, draft.pk)
    kept_one = Entry.objects.get(name="Salt")
    Version.objects.filter(entry=kept_one).update(state="published")
    Entry.objects.filter(pk=kept_one.pk).update(state="published", published=kept_one.latest)
    folder = home / "program"
    folder.mkdir()
    (folder / "Gone.cube").write_text("published before")
    run_example("nightly-sync.sh", home, str(folder), "cube", "5")
    assert [path.name for path in folder.iterdir()] == ["Salt.cube"]
    assert sorted(path.name for path in home.iterdir() if path.name.startswith("program")) == ["program"]


def test_a_look_is_applied_here_as_the_core_does(known, designer, home, capsys):
    look = look_from({"name": "Warm night", "steps": [WARM]})
    looks.create(designer, look)
    luts.bring_in(designer, formats()["cube"].write(a_lut(9), PLAIN), "Print.cube")
    a_picture(home / "in.png", seed=3)
    (home / "look.json").write_text(look_text(look))
    assert core.main(["apply", "look.json", "in.png", "-o", "here.png"]) == 0
    assert saucer(["apply", "--remote", "Warm night", "in.png", "-o", "there.png"]) == 0
    assert (home / "there.png").read_bytes() == (home / "here.png").read_bytes()
    assert commands.main(["apply", "Print", "in.png", "-o", "print.png", "--strength", "0.5"]) == 0
    assert (home / "print.png").exists()
    assert commands.main(["apply", "Warm night", "none.png", "-o", "out.png"]) == 1
    assert "none.png" in capsys.readouterr().err
    with pytest.raises(SystemExit) as ended:
        commands.main(["find", "--nonsense"])
    assert ended.value.code == 2


@pytest.fixture
def ferry(designer, home) -> Project:
    project = projects.create(designer, "The Salt Ferry")
    still = pictures.bring_in(designer, a_picture(home / "pier.png", seed=4), "pier.png")
    shots.add_shots(designer, project.pk, [shots.NewShot(still.pk, "Quay")])
    return project


def test_a_project_is_delivered_there_and_fetched_here(known, ferry, designer, home, capsys, monkeypatch):
    kept_choices.keep(designer, "For the client", DeliveryChoice(stills="tiff", luts="cube"))
    # The worker of a server that runs: here it works whenever the command looks how far it is.
    monkeypatch.setattr(delivering.time, "sleep", lambda seconds: run_worker())
    assert commands.main(["deliver", "the salt ferry", "--choice", "for the client", "--cdl", "-o", "out"]) == 0
    assert capsys.readouterr().out == "out\n"
    found = sorted(str(path.relative_to(home / "out")) for path in (home / "out").rglob("*") if path.is_file())
    delivery = Delivery.objects.get()
    assert found == sorted(delivery.items.values_list("file_name", flat=True))
    for item in delivery.items.all():
        assert hashlib.sha256((home / "out" / item.file_name).read_bytes()).hexdigest() == item.blob_id
    assert [one.suffix for one in (home / "out" / "stills").iterdir()] == [".tif"]
    assert Activity.objects.filter(action="delivered", about_id=ferry.pk).count() == 1
    assert commands.main(["deliver", str(ferry.pk), "--stills", "png", "--no-wait"]) == 0
    assert capsys.readouterr().out == "2\n"


@pytest.mark.parametrize(
    ("words", "said"),
    [
        (["deliver", "Nothing", "--stills", "png"], "is no project there; there are The Salt Ferry"),
        (["deliver", "The Salt Ferry"], "say what it is to hold"),
        (["deliver", "The Salt Ferry", "--choice", "None"], "is not kept there"),
        (["deliver", "The Salt Ferry", "--luts", "nonsense"], "nonsense"),
    ],
)
def test_what_cannot_be_delivered_is_said(known, ferry, home, capsys, words, said):
    assert commands.main(words) == 1
    assert said in capsys.readouterr().err


@pytest.mark.parametrize("name", ["/etc/passwd", "../one.png", "stills/../../one.png", "c:/one.png", "a\\b.png", ""])
def test_no_file_is_put_outside_the_folder(name):
    with pytest.raises(SaucerError):
        delivering._within(name)


def test_a_file_that_did_not_arrive_whole_is_not_kept(known, ferry, home):
    remote = kept.choose("")
    with pytest.raises(SaucerError, match="did not arrive"):
        fetch(remote, "/projects", home / "got" / "one.json", "0" * 64)
    assert list((home / "got").iterdir()) == []
