"""PostgreSQL of our own: a data folder of this installation, on loopback, on a free port, with a random password."""

from __future__ import annotations

import contextlib
import fcntl
import hashlib
import os
import shutil
import socket
import subprocess
import tempfile
import time
import urllib.parse
from collections.abc import Callable, Iterator
from pathlib import Path

from saucer.launch import system
from saucer.launch.console import Stop, say
from saucer.launch.places import LOGS, VAR, read_local, setting, write_local
from saucer.launch.processes import Pauses

# PostgreSQL refuses to run as root; Debian's package brings this account.
ACCOUNT = "postgres"


def _as_server(command: list[str]) -> list[str]:
    return ["runuser", "-u", ACCOUNT, "--", *command] if os.geteuid() == 0 else command


def _data_folder() -> Path:
    """var/postgres, or a folder of its own under /var/lib when the server's account cannot reach var (as under root's home)."""
    wanted = VAR / "postgres"
    if os.geteuid() != 0 or wanted.is_dir():
        return wanted
    VAR.mkdir(parents=True, exist_ok=True)
    reachable = subprocess.run(["runuser", "-u", ACCOUNT, "--", "test", "-x", str(VAR)], cwd="/", check=False).returncode == 0
    if reachable:
        return wanted
    return Path("/var/lib/saucer") / hashlib.sha256(str(VAR).encode()).hexdigest()[:12]


def _free(port: int) -> bool:
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind(("127.0.0.1", port))
        except OSError:
            return False
        return True


def _any_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


def _programs(data: Path) -> Path:
    version = (data / "PG_VERSION").read_text().strip() if (data / "PG_VERSION").is_file() else None
    programs = system.postgres_programs(version)
    if programs is None:
        raise Stop(
            f"The data in {data} was made by PostgreSQL {version}, which is not installed any more. "
            f"Install postgresql-{version}, or restore a backup."
        )
    return programs


def _call(command: list[str], problem: str, **environment: str) -> None:
    done = subprocess.run(
        _as_server(command),
        cwd="/",
        capture_output=True,
        text=True,
        stdin=subprocess.DEVNULL,
        env=os.environ | environment,
        check=False,
    )
    if done.returncode:
        raise Stop(f"{problem}: {(done.stderr or done.stdout).strip().splitlines()[-1:] or ['no reason given']}")


def _create(data: Path, programs: Path, password: str) -> None:
    say("Making the database ...")
    data.mkdir(parents=True, mode=0o700)
    if os.geteuid() == 0:
        shutil.chown(data, ACCOUNT, ACCOUNT)
    with tempfile.NamedTemporaryFile("w", dir="/tmp", prefix="saucer-") as secret:
        secret.write(password)
        secret.flush()
        if os.geteuid() == 0:
            shutil.chown(secret.name, ACCOUNT, ACCOUNT)
        options = ["--username=saucer", f"--pwfile={secret.name}", "--auth=scram-sha-256", "--encoding=UTF8", "--locale=C.UTF-8"]
        try:
            _call([str(programs / "initdb"), "-D", str(data), *options], "The database could not be made")
        except Stop:
            shutil.rmtree(data, ignore_errors=True)
            raise


def running() -> bool:
    data = _data_folder()
    if not (data / "PG_VERSION").is_file():
        return False
    status = [str(_programs(data) / "pg_ctl"), "-D", str(data), "status"]
    return subprocess.run(_as_server(status), cwd="/", capture_output=True, check=False).returncode == 0


LONGEST_START = 900
"""Seconds; it is waited for as long as it lives, and after a crash on a busy machine it first goes through its log."""


def _start(data: Path, programs: Path) -> None:
    local = read_local()
    database = local["database"]
    if not database["port"] or not _free(database["port"]):
        database["port"] = _any_port()
        write_local(local)
    LOGS.mkdir(parents=True, exist_ok=True)
    log = data / "server.log"
    options = f"-c listen_addresses=127.0.0.1 -c port={database['port']} -c unix_socket_directories=''"
    command = [str(programs / "pg_ctl"), "-D", str(data), "-l", str(log), "-w", "-t", str(LONGEST_START), "-o", options, "start"]
    # Its output goes nowhere: a pipe would stay open as long as the server runs.
    done = subprocess.run(
        _as_server(command), cwd="/", stdin=subprocess.DEVNULL, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL, check=False
    )
    if done.returncode:
        last = log.read_text(errors="replace").strip().splitlines()[-1:] if log.is_file() else []
        raise Stop(f"PostgreSQL did not start ({' '.join(last)}). Its log is {log}.")


def _ensure_database(programs: Path) -> None:
    database = read_local()["database"]
    where = ["-h", database["host"], "-p", str(database["port"]), "-U", database["user"]]
    secret = {"PGPASSWORD": database["password"]}
    query = [
        str(programs / "psql"),
        *where,
        "-d",
        "postgres",
        "-Atc",
        "select 1 from pg_database where datname = 'saucer'",
    ]
    done = subprocess.run(query, capture_output=True, text=True, env=os.environ | secret, stdin=subprocess.DEVNULL, check=False)
    if done.returncode:
        raise Stop(f"The database refuses our password: {done.stderr.strip()}. Was {VAR / 'local.json'} replaced?")
    if not done.stdout.strip():
        _call([str(programs / "createdb"), *where, database["name"]], "The database could not be made", **secret)


@contextlib.contextmanager
def beside(name: str) -> Iterator[None]:
    """A studio of its own for as long as the block, in a running PostgreSQL: its database and its files are made, and gone afterwards.

    Everything that is started meanwhile uses it (SAUCER_BESIDE).
    """
    programs, database = _programs(_data_folder()), read_local()["database"]
    where = ["-h", database["host"], "-p", str(database["port"]), "-U", database["user"]]
    secret, called = {"PGPASSWORD": database["password"]}, f"{database['name']}_{name}"

    def drop() -> None:
        _call([str(programs / "dropdb"), *where, "--if-exists", "--force", called], "The database could not be dropped", **secret)
        shutil.rmtree(VAR / name, ignore_errors=True)

    drop()
    _call([str(programs / "createdb"), *where, called], "The database could not be made", **secret)
    os.environ["SAUCER_BESIDE"] = name
    try:
        yield
    finally:
        del os.environ["SAUCER_BESIDE"]
        drop()


def answers() -> bool:
    """Does something listen where our database is to be?"""
    database = read_local()["database"]
    with socket.socket() as probe:
        probe.settimeout(2)
        return probe.connect_ex((database["host"], database["port"])) == 0


OTHER_WAITED_FOR = 60.0
"""Seconds: database and program are often started together."""


def _wait_for_other() -> None:
    """Raises: Stop where nothing listens at the address in time"""
    address = urllib.parse.urlsplit(setting("DATABASE_URL"))
    host, port = address.hostname or "127.0.0.1", address.port or 5432
    end = time.monotonic() + OTHER_WAITED_FOR
    while True:
        with contextlib.suppress(OSError), socket.create_connection((host, port), timeout=5):
            return
        if time.monotonic() > end:
            raise Stop(f"No database answers at {host}:{port}, which SAUCER_DATABASE_URL names.")
        time.sleep(1)


class Tending:
    """Starts PostgreSQL again when it has ended, after a pause that grows. One that is not ours is for others to tend."""

    EVERY = 2.0

    def __init__(self) -> None:
        self._pauses, self._next = Pauses(), 0.0

    def __call__(self, now: float) -> None:
        if now < self._next or setting("DATABASE_URL"):
            return
        self._next = now + self.EVERY
        if self._pauses.due is None and not answers():
            pause = self._pauses.ended(now)
            say(f"PostgreSQL ended; it is started again in {pause:.0f} s. Its log is {_data_folder() / 'server.log'}.")
        elif self._pauses.is_due(now):
            self._pauses.began(now)
            try:
                if not running():
                    _start(_data_folder(), _programs(_data_folder()))
            except Stop as stop:
                say(str(stop))


@contextlib.contextmanager
def _user() -> Iterator[Callable[[], bool]]:
    """Counted as one who uses the database; asked at the end whether it was the last one. Who is killed is counted no more."""
    VAR.mkdir(parents=True, exist_ok=True)
    with (VAR / "postgres.users").open("a") as lock:
        fcntl.flock(lock, fcntl.LOCK_SH)

        def is_last() -> bool:
            try:
                fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
            except OSError:
                return False
            return True

        yield is_last


@contextlib.contextmanager
def started() -> Iterator[None]:
    """PostgreSQL running for as long as the block. The last one who uses it stops it, also where whoever started it was killed.

    Where another is named (SAUCER_DATABASE_URL) there is none of ours; it is waited for.
    """
    if setting("DATABASE_URL"):
        read_local()  # made where it is missing: it holds more than the database's address
        _wait_for_other()
        yield
        return
    with _user() as is_last, _started(is_last):
        yield


@contextlib.contextmanager
def _started(is_last: Callable[[], bool]) -> Iterator[None]:
    data = _data_folder()
    programs = _programs(data)
    if not (data / "PG_VERSION").is_file():
        if not read_local()["database"]["password"]:
            raise Stop(f"{VAR / 'local.json'} holds no database password.")
        _create(data, programs, read_local()["database"]["password"])
    if not running():
        _start(data, programs)
    try:
        _ensure_database(programs)
        yield
    finally:
        if is_last():
            stop = [str(programs / "pg_ctl"), "-D", str(data), "-m", "fast", "-w", "stop"]
            subprocess.run(_as_server(stop), cwd="/", capture_output=True, check=False)
