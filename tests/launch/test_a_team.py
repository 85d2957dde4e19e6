"""As a new administrator runs it, from docs/operating.md: an existing PostgreSQL, settings in one file, nginx with TLS in front, two workers,
the first admin, an invited designer with a second factor, a token that the command line uses, a backup while work goes on, and a restore
elsewhere.
"""

from __future__ import annotations

import json
import re
import subprocess
from collections.abc import Iterator
from datetime import date, timedelta
from pathlib import Path

import pytest

from saucer.core.files.formats import cube
from saucer.launch.places import ROOT
from tests import certificates, totp
from tests.launch.installation import Caller, Installation, behind_nginx, eventually, installed, own_database
from tests.make import a_lut, a_pack

PASSWORD = "porcelain-and-rain"
LUTS = 60


@pytest.fixture(scope="module")
def database() -> Iterator[str]:
    with own_database() as address:
        yield address


@pytest.fixture(scope="module")
def place(tmp_path_factory: pytest.TempPathFactory) -> Path:
    return tmp_path_factory.mktemp("backups")


@pytest.fixture(scope="module")
def studio(database: str, place: Path) -> Iterator[Installation]:
    with installed(start=False) as installation:
        lines = [
            "# the studio's", f"SAUCER_DATABASE_URL={database}", f"SAUCER_BACKUP={place}", "SAUCER_WEB_PROCESSES=1",
            "SAUCER_HOSTS=localhost", "SAUCER_HTTPS=1", "SAUCER_PROXY=127.0.0.1",
        ]  # fmt: skip
        (installation.folder / "saucer.env").write_text("\n".join(lines))
        installation.start()
        yield installation


@pytest.fixture(scope="module")
def proxy(studio: Installation) -> Iterator[int]:
    certificates.write(studio.folder, "localhost", days=90)
    with behind_nginx("localhost", studio) as port:
        yield port


@pytest.fixture(scope="module")
def second_worker(studio: Installation) -> Iterator[None]:
    """As a supervisor starts it."""
    worker = subprocess.Popen([str(ROOT / "saucer"), "worker"], env=studio.environment, stdout=subprocess.DEVNULL)
    yield
    worker.terminate()
    worker.wait(60)


def remote(studio: Installation, *words: str, said: str = "") -> str:
    """./saucer remote, on another machine of the studio's, which believes its certificate."""
    own = studio.environment | {"SSL_CERT_FILE": str(studio.folder / "cert.pem"), "XDG_CONFIG_HOME": str(studio.folder / "config")}
    done = subprocess.run(
        [str(ROOT / "saucer"), "remote", *words],
        env=own,
        input=said,
        capture_output=True,
        text=True,
        check=False,
        cwd=studio.folder,
    )
    assert done.returncode == 0, done.stdout + done.stderr
    return done.stdout


def come_by(at: Installation, path: str, secure: int, **given: str) -> Caller:
    caller = Caller(at, secure=secure)
    caller.call("POST", f"/links/{path.rsplit('/', 1)[1]}", {"password": PASSWORD} | given)
    return caller


def sign_in(studio: Installation, name: str, code: str = "", secure: int = 0) -> Caller:
    caller = Caller(studio, secure=secure)
    caller.call("POST", "/session", {"username": name, "password": PASSWORD})
    if code:
        caller.call("POST", "/auth/2fa/authenticate", {"code": code})
    assert caller.call("GET", "/session")["person"]["username"] == name
    return caller


def test_a_team_begins_works_is_backed_up_and_goes_on_elsewhere(studio: Installation, proxy: int, second_worker: None, place: Path):
    eventually(lambda: "/link/" in studio.said(), 30)
    assert not (studio.folder / "postgres").exists(), "none of our own is started beside the one that is named"
    found = re.search(r"https?://\S+?(/link/\S+)", studio.said())
    assert found
    admin = come_by(studio, found[1], proxy, username="otis", full_name="Otis Fenn", studio="North Light")
    assert admin.call("GET", "/studio")["name"] == "North Light"

    designer = come_by(studio, admin.call("POST", "/team/invites", {"role": "designer"})["path"], proxy, username="jana")
    secret = designer.call("GET", "/auth/factors/totp", expect=404)["meta"]["secret"]
    designer.call("POST", "/auth/factors/totp", {"code": totp.code(secret)})
    codes = designer.call("GET", "/auth/factors/recovery-codes")["data"]["unused_codes"]
    designer = sign_in(studio, "jana", codes[0], proxy)
    until = str(date.today() + timedelta(days=9))
    made = designer.call("POST", "/own/tokens", {"name": "sync", "scopes": ["read", "bring in"], "until": until})
    program = Caller(studio, made["secret"], proxy)
    lut = program.call("POST", "/luts", files={"file": ("one.cube", cube.write(a_lut(17)))})
    assert program.call("GET", "/activity.csv", expect=403)["status"] == 403

    eventually(lambda: len(studio.children("procrastinate worker")) == 2, 60)
    assert "studio" in remote(studio, "add", "studio", f"https://localhost:{proxy}", said=made["secret"] + "\n")
    assert "one" in remote(studio, "find", "one")
    assert "one" in remote(studio, "pull", "one", "--format", "cube")

    # Work goes on: a pack is read while the backup is made.
    intake = program.call("POST", "/packs", files={"files": ("pack.zip", a_pack(LUTS))}, paths='["pack.zip"]')["id"]
    told = studio.run("backup", str(place)).stdout
    name = told.splitlines()[-1].split(":")[0]
    eventually(lambda: designer.call("GET", f"/jobs/{intake}")["state"] == "done", 120)
    manifest = json.loads((place / name / "manifest.json").read_text())
    assert studio.run("doctor").stdout.strip() == "All is well."

    with installed(start=False) as other:
        told = other.run("restore", str(place), name).stdout
        assert f"Restored: {sum(manifest['rows'].values())} rows" in told, (
            "restore itself holds every table's count against the manifest"
        )
        other.start()
        eventually(other.is_ready, 60)
        assert "/link/" not in other.said(), "there is an admin"
        assert "The store is sound." in other.run("check").stdout
        there = sign_in(other, "jana", codes[1])
        assert there.call("GET", f"/luts/{lut['id']}")["id"] == lut["id"]
        # What was going on when it was copied is done here too, and once.
        eventually(lambda: there.call("GET", f"/jobs/{intake}")["state"] == "done", 120)
        assert len(there.call("GET", f"/packs/{intake}")) == LUTS
        assert Caller(other, made["secret"]).call("GET", f"/luts/{lut['id']}")["id"] == lut["id"]


def test_what_cannot_be_used_is_said_with_its_name_before_anything_starts():
    with installed(start=False) as empty:
        (empty.folder / "saucer.env").write_text("SAUCER_WEB_THREADS=many\n")
        assert 'SAUCER_WEB_THREADS is "many"; it has to be a whole number from 4 to 256' in empty.run("doctor", status=1).stderr
        (empty.folder / "saucer.env").write_text("\nSAUCER_HOST=studio.example\n")
        assert "saucer.env, line 2: SAUCER_HOST is no setting" in empty.run("doctor", status=1).stderr
