"""The whole installation as `./saucer serve` runs it, behind a proxy that ends TLS, while things are killed under it.

One start for all of it, in a folder of its own: what is killed and what is asked stands in the order of the tests.
"""

from __future__ import annotations

import http.client
import json
import os
import shutil
import signal
import socket
import ssl
import subprocess
import time
from collections.abc import Callable, Iterator
from contextlib import suppress
from pathlib import Path
from typing import Any

import pytest

from saucer.launch.places import ROOT, VENV
from saucer.launch.processes import PAUSES, STEADY_AFTER, Pauses

HOST = "studio.example"
NGINX = """
daemon off; pid {folder}/nginx.pid; error_log {folder}/nginx-error.log; worker_processes 1;
events {{}}
http {{
  access_log off; client_body_temp_path {folder}/nb; proxy_temp_path {folder}/np; fastcgi_temp_path {folder}/nf;
  uwsgi_temp_path {folder}/nu; scgi_temp_path {folder}/ns;
  server {{
    listen 127.0.0.1:{port} ssl; server_name {host};
    ssl_certificate {folder}/cert.pem; ssl_certificate_key {folder}/key.pem;
    client_max_body_size 2100m;
    location / {{
      proxy_pass http://127.0.0.1:{inner}; proxy_http_version 1.1;
      proxy_set_header Host $host:$server_port; proxy_set_header X-Forwarded-For $proxy_add_x_forwarded_for;
      proxy_set_header X-Forwarded-Proto $scheme;
    }}
  }}
}}
"""


def free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


def eventually(check: Callable[[], Any], seconds: float = 60) -> Any:
    """What it gives once that is something; it may fail meanwhile."""
    deadline, last = time.monotonic() + seconds, None
    while time.monotonic() < deadline:
        try:
            if found := check():
                return found
        except OSError as error:
            last = error
        time.sleep(0.2)
    raise AssertionError(f"it never came: {last}")


class Installation:
    def __init__(self, folder: Path) -> None:
        self.folder, self.port = folder, free_port()
        (folder / "venv").symlink_to(VENV)
        (folder / "numba").symlink_to(os.environ.get("NUMBA_CACHE_DIR", VENV.parent / "numba"))
        self.environment = os.environ | {
            "SAUCER_VAR": str(folder), "SAUCER_HOSTS": HOST, "SAUCER_HTTPS": "1", "SAUCER_PROXY": "127.0.0.1", "SAUCER_TESTING": "",
        }  # fmt: skip
        self.environment.pop("PYTHONPATH", None)
        self.launcher: subprocess.Popen[bytes] | None = None

    def start(self) -> None:
        command = [str(ROOT / "saucer"), "serve", "--port", str(self.port)]
        with (self.folder / "out.txt").open("ab") as log:
            self.launcher = subprocess.Popen(command, env=self.environment, stdout=log, stderr=subprocess.STDOUT)
        eventually(lambda: self.get("/healthz")[0] == 200, 120)

    def get(self, path: str, **headers: str) -> tuple[int, dict[str, str], bytes]:
        """From the server itself, as a program on this machine asks it."""
        connection = http.client.HTTPConnection("127.0.0.1", self.port, timeout=10)
        try:
            connection.request("GET", path, headers=headers)
            answer = connection.getresponse()
            return answer.status, dict(answer.getheaders()), answer.read()
        finally:
            connection.close()

    def ready(self) -> dict[str, str]:
        return json.loads(self.get("/readyz")[2])

    def is_ready(self) -> bool:
        return self.get("/readyz")[0] == 200

    def children(self, word: str) -> list[int]:
        """Processes of this installation whose command line holds the word."""
        found = []
        for entry in Path("/proc").glob("[0-9]*"):
            with suppress(OSError):
                line = (entry / "cmdline").read_bytes().replace(b"\0", b" ").decode(errors="replace")
                mine = (
                    str(self.port) in line
                    or str(self.folder) in line
                    or f"SAUCER_VAR={self.folder}".encode() in (entry / "environ").read_bytes()
                )
                if word in line and mine:
                    found.append(int(entry.name))
        return sorted(found)

    def postmaster(self) -> int:
        data = self.folder / "postgres"
        return int((data / "postmaster.pid").read_text().split()[0])

    def said(self) -> str:
        return (self.folder / "out.txt").read_text()

    def end(self) -> int:
        assert self.launcher is not None
        self.launcher.send_signal(signal.SIGTERM)
        return self.launcher.wait(60)


def is_alive(pid: int) -> bool:
    with suppress(OSError):
        return "State:\tZ" not in Path(f"/proc/{pid}/status").read_text()
    return False


@pytest.fixture(scope="module")
def studio(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Installation]:
    # Not below /tmp/pytest-*: the account of PostgreSQL has to get there.
    folder = Path("/tmp") / f"saucer-staying-up-{os.getpid()}"
    folder.mkdir()
    os.chmod(folder, 0o755)
    installation = Installation(folder)
    try:
        installation.start()
        yield installation
    finally:
        if installation.launcher and installation.launcher.poll() is None:
            installation.end()
        shutil.rmtree(folder, ignore_errors=True)


def test_pauses_grow_and_begin_anew_after_a_steady_time():
    pauses = Pauses(started=0.0)
    now, waits = 1.0, []
    for _ in range(9):
        waits.append(pauses.ended(now))
        assert not pauses.is_due(now)
        now += waits[-1]
        assert pauses.is_due(now)
        pauses.began(now)
        now += 1
    assert waits == [*PAUSES, PAUSES[-1], PAUSES[-1]]
    assert pauses.ended(now + STEADY_AFTER) == PAUSES[0]


def test_it_starts_with_an_own_host_name_and_https(studio: Installation):
    assert studio.get("/healthz")[2] == b"ok"
    eventually(studio.is_ready, 30)
    assert studio.ready() == {"database": "ok", "worker": "ok", "store": "ok"}
    # Nobody but the proxy says that it is HTTPS; without it, one is sent there.
    status, headers, _ = studio.get("/api/session", Host=HOST)
    assert (status, headers["Location"]) == (301, f"https://{HOST}/api/session")
    assert studio.get("/api/session", Host="elsewhere.example", **{"X-Forwarded-Proto": "https"})[0] == 400


@pytest.fixture(scope="module")
def proxy(studio: Installation) -> Iterator[int]:
    """Debian's nginx with a certificate of its own, in front."""
    nginx = shutil.which("nginx") or "/usr/sbin/nginx"
    port, folder = free_port(), studio.folder
    made = ["openssl", "req", "-x509", "-newkey", "rsa:2048", "-nodes", "-days", "2", "-subj", f"/CN={HOST}", "-addext", f"subjectAltName=DNS:{HOST}",
            "-keyout", str(folder / "key.pem"), "-out", str(folder / "cert.pem")]  # fmt: skip
    subprocess.run(made, check=True, capture_output=True)
    (folder / "nginx.conf").write_text(NGINX.format(folder=folder, port=port, inner=studio.port, host=HOST))
    process = subprocess.Popen([nginx, "-c", str(folder / "nginx.conf"), "-e", str(folder / "nginx-error.log")])

    def listens() -> bool:
        with socket.create_connection(("127.0.0.1", port), 1):
            return True

    try:
        eventually(listens, 20)
        yield port
    finally:
        process.terminate()
        process.wait(20)


class Secure(http.client.HTTPSConnection):
    """To the name, at the address of this machine, checking the certificate."""

    def __init__(self, folder: Path, port: int) -> None:
        context = ssl.create_default_context(cafile=str(folder / "cert.pem"))
        super().__init__(HOST, port, context=context, timeout=20)

    def connect(self) -> None:
        raw = socket.create_connection(("127.0.0.1", self.port), self.timeout)
        self.sock = self._context.wrap_socket(raw, server_hostname=HOST)


def test_behind_a_tls_proxy_one_signs_in_and_works(studio: Installation, proxy: int):
    people = [str(ROOT / "saucer"), "people", "add", "ilse", "--role", "designer"]
    added = subprocess.run(people, env=studio.environment, capture_output=True, text=True, input="", check=True)
    password = added.stdout.partition("Password: ")[2].split()[0]
    connection = Secure(studio.folder, proxy)
    connection.request("GET", "/api/session")
    answer = connection.getresponse()
    cookies = [line.split(";") for name, line in answer.getheaders() if name == "Set-Cookie"]
    assert answer.status == 200
    assert answer.headers["Strict-Transport-Security"]
    answer.read()
    assert all(" Secure" in parts for parts in cookies)
    token = next(parts[0] for parts in cookies if parts[0].startswith("csrftoken="))
    headers = {
        "Cookie": token, "X-CSRFToken": token.split("=")[1], "Content-Type": "application/json", "Origin": f"https://{HOST}:{proxy}",
        "X-Forwarded-For": "203.0.113.9",
    }  # fmt: skip
    connection.request("POST", "/api/session", json.dumps({"username": "ilse", "password": password}), headers)
    answer = connection.getresponse()
    told = json.loads(answer.read())
    assert (answer.status, told.get("may")) == (200, ["design"]), told
    connection.close()


def test_half_sent_requests_hold_up_nobody_and_are_cut_off(studio: Installation):
    half = []
    for index in range(60):
        one = socket.create_connection(("127.0.0.1", studio.port), 5)
        one.sendall(b"GET /api/session HTTP/1.1\r\nHost: x\r\n" if index % 2 else b"G")
        half.append(one)
    for _ in range(10):
        assert studio.get("/healthz")[0] == 200
    began = time.monotonic()
    for one in half:
        one.settimeout(60)
        assert one.recv(100) == b"", "cut off without an answer"
        one.close()
    assert time.monotonic() - began < 60
    assert studio.get("/healthz")[0] == 200


def test_what_ends_is_started_again(studio: Installation):
    [worker] = studio.children("procrastinate worker")
    os.kill(worker, signal.SIGKILL)
    eventually(lambda: [pid for pid in studio.children("procrastinate worker") if pid != worker], 30)
    before = studio.children("gunicorn")
    os.kill(before[0], signal.SIGKILL)
    eventually(lambda: not any(is_alive(pid) for pid in before), 30)
    eventually(studio.is_ready, 60)
    assert "The worker ended" in studio.said()
    assert "The server ended" in studio.said()


def test_a_database_that_ends_is_said_and_started_again(studio: Installation):
    first = studio.postmaster()
    os.kill(first, signal.SIGQUIT)
    eventually(lambda: studio.ready()["database"] == "cannot be reached", 30)
    _, _, body = studio.get("/api/jobs", Host=HOST, Cookie=f"sessionid={'a' * 32}", **{"X-Forwarded-Proto": "https"})
    told = json.loads(body)
    assert "cannot reach its database" in told["detail"]
    eventually(lambda: studio.postmaster() != first and studio.is_ready(), 90)
    assert "PostgreSQL ended; it is started again" in studio.said()


def test_a_launcher_that_is_killed_leaves_a_database_that_the_next_one_stops(studio: Installation):
    assert studio.launcher is not None
    children = studio.children("gunicorn") + studio.children("procrastinate worker")
    studio.launcher.kill()
    studio.launcher.wait()
    eventually(lambda: not any(is_alive(pid) for pid in children), 30)
    database = studio.postmaster()
    assert is_alive(database)
    log = studio.folder / "log" / "server.log"
    before = log.read_text()
    studio.start()
    assert studio.postmaster() == database
    assert log.read_text().startswith(before), "logs go on"
    assert studio.end() == 0
    assert not is_alive(database)
