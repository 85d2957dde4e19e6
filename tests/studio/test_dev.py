"""`./saucer dev`: what is changed through the page's own server reaches ours, as if it had come from there."""

from __future__ import annotations

import os
import signal
import socket
import subprocess
import sys
import time
from http.client import HTTPConnection
from threading import Timer
from urllib.parse import urlparse

import pytest

from saucer.launch.places import WEB

pytestmark = pytest.mark.django_db(transaction=True)

ENDS_WITHIN = 30.0
"""Seconds; a busy machine lets what is told to end wait."""


def _is_open(port: int) -> bool:
    with socket.socket() as one:
        return one.connect_ex(("127.0.0.1", port)) == 0


@pytest.fixture
def page(live_server):
    """The port of vite, in front of the server of the tests."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    told = os.environ | {"SAUCER_API": f"http://127.0.0.1:{urlparse(live_server.url).port}"}
    arguments = ["npm", "run", "--silent", "dev", "--", "--port", str(port), "--strictPort", "--host", "127.0.0.1"]
    vite = subprocess.Popen(
        arguments, cwd=WEB, env=told, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL, start_new_session=True
    )
    try:
        for _ in range(600):
            if _is_open(port):
                break
            time.sleep(0.1)
        yield port
    finally:
        os.killpg(vite.pid, signal.SIGTERM)
        vite.wait()
    deadline = time.monotonic() + ENDS_WITHIN
    while _is_open(port):
        assert time.monotonic() < deadline, "nothing is left behind"
        time.sleep(0.1)


def test_somebody_signs_in_through_it(page, designer):
    connection = HTTPConnection("127.0.0.1", page, timeout=60)
    connection.request("GET", "/api/session")
    answer = connection.getresponse()
    answer.read()
    token = answer.headers["Set-Cookie"].split("csrftoken=")[1].split(";")[0]
    own = {
        "Cookie": f"csrftoken={token}", "X-CSRFToken": token, "Origin": f"http://127.0.0.1:{page}",
        "Content-Type": "application/json",
    }  # fmt: skip
    body = f'{{"username": "{designer.username}", "password": "a-long-password"}}'
    connection.request("POST", "/api/session", body, own)
    signed_in = connection.getresponse()
    assert (signed_in.status, designer.username in signed_in.read().decode()) == (200, True)
    connection.request("POST", "/api/session", body, own | {"Origin": "http://elsewhere.example"})
    assert connection.getresponse().status == 403


GIVES_UP_AFTER = 90.0
"""Seconds, after which lines that never come are no longer waited for."""
LOOP = """
import sys, time
from pathlib import Path
from saucer.studio.site import anew

anew.OURS = Path(sys.argv[1])

def work():
    told = (anew.OURS / "one.py").read_text()
    print("begun with", told, flush=True)
    if told == "broken":
        raise ValueError("it cannot be imported")
    time.sleep(60)

anew.run_anew(work)
"""


def test_work_begins_anew_for_each_change_also_after_code_that_was_broken(tmp_path):
    ours = tmp_path / "ours"
    ours.mkdir()
    (ours / "one.py").write_text("first")
    loop = subprocess.Popen(
        [sys.executable, "-u", "-c", LOOP, str(ours)], stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True
    )
    assert loop.stdout is not None
    watchdog = Timer(GIVES_UP_AFTER, loop.kill)
    watchdog.start()

    def until(words: str) -> None:
        for line in loop.stdout:
            if words in line:
                return
        raise AssertionError(f"{words} never came")

    try:
        until("begun with first")
        (ours / "one.py").write_text("broken")
        until("one.py: starting anew")
        until("it cannot be imported")
        (ours / "two.py").write_text("")
        until("two.py: starting anew")
        until("it cannot be imported")
        (ours / "one.py").write_text("second")
        until("begun with second")
        (ours / "two.py").unlink()
        until("a file that is gone: starting anew")
        until("begun with second")
        loop.terminate()
        assert loop.wait(20) == 0
    finally:
        watchdog.cancel()
        loop.kill()
        loop.stdout.close()
