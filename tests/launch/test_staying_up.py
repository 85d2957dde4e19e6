"""The whole installation as `./saucer serve` runs it, behind a proxy that ends TLS, while things are killed under it.

One start for all of it, in a folder of its own: what is killed and what is asked stands in the order of the tests.
"""

from __future__ import annotations

import gzip
import http.client
import json
import os
import re
import signal
import socket
import ssl
import subprocess
import time
from collections.abc import Iterator
from pathlib import Path

import pytest

from saucer.launch import system
from saucer.launch.places import ROOT
from saucer.launch.processes import PAUSES, STEADY_AFTER, Pauses
from tests import certificates
from tests.launch.installation import Installation, behind_nginx, eventually, installed, is_alive

# One start for all of them, in this order: on one of the processes that share the tests.
HOST = "studio.example"


@pytest.fixture(scope="module")
def studio() -> Iterator[Installation]:
    with installed(SAUCER_HOSTS=HOST, SAUCER_HTTPS="1", SAUCER_PROXY="127.0.0.1") as installation:
        yield installation


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
    eventually(studio.is_ready, 60)
    assert studio.ready() == {"database": "ok", "worker": "ok", "store": "ok"}
    # Nobody but the proxy says that it is HTTPS; without it, one is sent there.
    status, headers, _ = studio.get("/api/session", Host=HOST)
    assert (status, headers["Location"]) == (301, f"https://{HOST}/api/session")
    assert studio.get("/api/session", Host="elsewhere.example", **{"X-Forwarded-Proto": "https"})[0] == 400


def test_what_is_static_is_kept_and_packed_and_the_page_is_neither(studio: Installation):
    by_proxy = {"Host": HOST, "X-Forwarded-Proto": "https", "Accept-Encoding": "gzip"}
    status, headers, body = studio.get("/", **by_proxy)
    assert (status, headers["X-Frame-Options"]) == (200, "DENY")
    assert "no-store" in headers["Cache-Control"]
    script = re.search(rb"/assets/[^\"]+[.]js", gzip.decompress(body) if headers.get("Content-Encoding") else body)
    assert script is not None
    status, headers, body = studio.get(script.group().decode(), **by_proxy)
    assert (status, headers["Content-Encoding"], headers["X-Frame-Options"]) == (200, "gzip", "DENY")
    assert "immutable" in headers["Cache-Control"]
    assert headers["Content-Security-Policy"].startswith("default-src 'self'")
    assert len(gzip.decompress(body)) > 2 * len(body)


@pytest.fixture(scope="module")
def proxy(studio: Installation) -> Iterator[int]:
    certificates.write(studio.folder, HOST, days=2)
    with behind_nginx(HOST, studio) as port:
        yield port


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
    token = next(parts[0] for parts in cookies if parts[0].startswith("__Host-csrftoken="))
    headers = {
        "Cookie": token, "X-CSRFToken": token.split("=")[1], "Content-Type": "application/json", "Origin": f"https://{HOST}:{proxy}",
        "X-Forwarded-For": "203.0.113.9",
    }  # fmt: skip
    connection.request("POST", "/api/session", json.dumps({"username": "ilse", "password": password}), headers)
    answer = connection.getresponse()
    told = json.loads(answer.read())
    assert (answer.status, told.get("may")) == (200, ["design"]), told
    connection.close()


def test_a_certificate_that_ended_keeps_people_out_until_it_is_renewed_and_loses_nothing(studio: Installation, proxy: int):
    """What is open in a browser meanwhile is kept there, as whenever the server cannot be reached (tests/browser/test_bench.py)."""

    def show(days: float) -> None:
        certificates.write(studio.folder, HOST, days)
        os.kill(int((studio.folder / "nginx.pid").read_text()), signal.SIGHUP)

    def is_told() -> str:
        try:
            Secure(studio.folder, proxy).request("GET", "/api/session")
        except ssl.SSLCertVerificationError as error:
            return error.verify_message
        return ""

    show(days=-1)
    eventually(lambda: is_told() == "certificate has expired", 20)
    assert studio.get("/healthz")[0] == 200
    show(days=2)
    eventually(lambda: not is_told(), 20)


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


def test_database_connections_that_are_cut_are_made_anew(studio: Installation):
    local = json.loads((studio.folder / "local.json").read_text())["database"]
    programs = system.postgres_programs()
    assert programs is not None
    words = "SELECT count(pg_terminate_backend(pid)) FROM pg_stat_activity WHERE pid <> pg_backend_pid() AND datname = current_database()"
    asked = [
        str(programs / "psql"),
        "-h",
        local["host"],
        "-p",
        str(local["port"]),
        "-U",
        local["user"],
        "-d",
        local["name"],
        "-Atc",
        words,
    ]

    def cut() -> int:
        told = subprocess.run(asked, env=os.environ | {"PGPASSWORD": local["password"]}, capture_output=True, text=True, check=True)
        return int(told.stdout)

    eventually(cut, 60)  # the worker may only just be starting
    eventually(studio.is_ready, 90)
    master = studio.children("gunicorn")[0]
    for _ in range(20):
        status, _, _ = studio.get("/api/jobs", Host=HOST, Cookie=f"__Host-sessionid={'a' * 32}", **{"X-Forwarded-Proto": "https"})
        assert status in (401, 503)
    assert status == 401
    assert studio.children("gunicorn")[0] == master, "the server went on"


def test_a_database_that_ends_is_said_and_started_again(studio: Installation):
    first = studio.postmaster()
    os.kill(first, signal.SIGQUIT)
    eventually(lambda: studio.ready()["database"] == "cannot be reached", 30)
    _, _, body = studio.get("/api/jobs", Host=HOST, Cookie=f"__Host-sessionid={'a' * 32}", **{"X-Forwarded-Proto": "https"})
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
