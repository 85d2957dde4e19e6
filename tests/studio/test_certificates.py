"""A certificate that ends soon is told of before it does; one that has ended, by whoever meets it."""

from __future__ import annotations

import socket
import ssl
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from functools import partial
from pathlib import Path

import pytest

from saucer.core.errors import SaucerError
from saucer.remote.calls import ask
from saucer.remote.kept import Remote
from saucer.studio.site import certificates, doctor
from tests.certificates import write

HOST = "localhost"


@contextmanager
def shown(folder: Path, days: float) -> Iterator[int]:
    """A server that shows a certificate and says nothing more. Gives: its port"""
    write(folder, HOST, days)
    context = ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER)
    context.load_cert_chain(folder / "cert.pem", folder / "key.pem")
    with socket.create_server((HOST, 0)) as listening:

        def serve() -> None:
            while True:
                try:
                    one = listening.accept()[0]
                    with one, context.wrap_socket(one, server_side=True):
                        pass
                except ssl.SSLError:
                    continue
                except OSError:
                    return

        threading.Thread(target=serve, daemon=True).start()
        yield listening.getsockname()[1]
        listening.shutdown(socket.SHUT_RDWR)


@pytest.mark.django_db
@pytest.mark.parametrize(("days", "told"), [(-2.5, "ended"), (6.5, "ends"), (90.5, "")])
def test_one_that_ends_soon_is_told_of_by_the_doctor(days, told, settings, tmp_path: Path, monkeypatch: pytest.MonkeyPatch):
    settings.ALLOWED_HOSTS, settings.HTTPS, settings.PROXY = ["studio.example"], True, "127.0.0.1"
    with shown(tmp_path, days) as port:
        until = certificates.held_until(HOST, port)
        assert until is not None
        monkeypatch.setattr(doctor, "held_until", lambda host: certificates.held_until(HOST, port))
        found = [one.wrong for one in doctor.examine() if one.id == "S09"]
    assert found == ([f"The certificate of studio.example {told} on {until:%Y-%m-%d}."] if told else [])


def test_where_nobody_answers_nothing_is_said():
    with socket.create_server((HOST, 0)) as taken:
        port = taken.getsockname()[1]
    assert certificates.held_until(HOST, port) is None


@pytest.mark.parametrize(("days", "words"), [(-1, "certificate has expired; nothing was sent"), (9, "cannot be reached")])
def test_a_program_is_told_why_it_is_not_believed(days, words, tmp_path: Path, monkeypatch: pytest.MonkeyPatch):
    with shown(tmp_path, days) as port:
        monkeypatch.setenv("SSL_CERT_FILE", str(tmp_path / "cert.pem"))
        asking = partial(ask, Remote(f"https://{HOST}:{port}", "token"), "/session")
        with pytest.raises(SaucerError, match=words):
            asking()
