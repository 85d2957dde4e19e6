"""`./saucer dev`: what is changed through the page's own server reaches ours, as if it had come from there."""

from __future__ import annotations

import os
import socket
import subprocess
import time
from http.client import HTTPConnection
from urllib.parse import urlparse

import pytest

from saucer.launch.places import WEB

pytestmark = pytest.mark.django_db(transaction=True)


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
            with socket.socket() as one:
                if one.connect_ex(("127.0.0.1", port)) == 0:
                    break
            time.sleep(0.1)
        yield port
    finally:
        vite.terminate()
        vite.wait()


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
