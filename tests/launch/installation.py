"""The whole installation in a folder of its own, as `./saucer serve` runs it, for tests that kill parts of it."""

from __future__ import annotations

import http.client
import io
import json
import os
import re
import shutil
import signal
import socket
import ssl
import subprocess
import time
from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager, suppress
from pathlib import Path
from typing import Any
from urllib.parse import quote

import psycopg
from django.conf import settings as django_settings

from saucer.launch.places import ROOT, VENV


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
    """settings: of the environment, as docs/operating.md names them"""

    def __init__(self, folder: Path, **settings: str) -> None:
        self.folder, self.port = folder, free_port()
        (folder / "venv").symlink_to(VENV)
        (folder / "numba").symlink_to(os.environ.get("NUMBA_CACHE_DIR", VENV.parent / "numba"))
        self.environment = os.environ | {"SAUCER_VAR": str(folder), "SAUCER_TESTING": ""} | settings
        for name in ("PYTHONPATH", "DJANGO_ALLOW_ASYNC_UNSAFE", "SAUCER_BESIDE", "SAUCER_DATABASE"):
            self.environment.pop(name, None)
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

    def run(self, *words: str, status: int = 0) -> subprocess.CompletedProcess[str]:
        """A command of ./saucer, beside what runs."""
        done = subprocess.run(
            [str(ROOT / "saucer"), *words], env=self.environment, capture_output=True, text=True, input="", check=False
        )
        assert done.returncode == status, done.stdout + done.stderr
        return done

    def end(self) -> int:
        assert self.launcher is not None
        self.launcher.send_signal(signal.SIGTERM)
        return self.launcher.wait(60)


class Caller:
    """Over HTTP, as the page does it, or over HTTPS through a proxy.

    token: in place of cookies; secure: the proxy's port on localhost; front: of one without HTTPS
    """

    def __init__(self, studio: Installation, token: str = "", secure: int = 0, front: int = 0) -> None:
        self.studio, self.token, self.secure, self.port = studio, token, secure, front or studio.port
        self.cookies: dict[str, str] = {}
        if not token:
            self.call("GET", "/session")

    def call(
        self,
        method: str,
        path: str,
        body: Any = None,
        files: dict[str, tuple[str, bytes]] | None = None,
        expect: int = 0,
        **fields: str,
    ) -> Any:
        """expect: a status beside good ones. Raises: AssertionError for a refusal; OSError while the server is away"""  # fmt: skip
        kind, data = "application/json", b"" if body is None else json.dumps(body).encode()
        if files:
            kind, data = _form(files, fields)
        headers = {
            "Cookie": "; ".join(f"{name}={value}" for name, value in self.cookies.items()),
            "X-CSRFToken": self.cookies.get("__Host-csrftoken" if self.secure else "csrftoken", ""), "Content-Type": kind,
        }  # fmt: skip
        if self.token:
            headers["Authorization"] = f"Bearer {self.token}"
        if self.secure:
            headers["Origin"] = f"https://localhost:{self.secure}"
        connection = self._connect()
        try:
            connection.request(method, f"/api{path}", data, headers)
            answer = connection.getresponse()
            found = answer.read()
        except http.client.HTTPException as error:
            raise OSError(str(error)) from None
        finally:
            connection.close()
        for name, line in answer.getheaders():
            if name == "Set-Cookie":
                key, _, value = line.partition(";")[0].partition("=")
                self.cookies[key] = value
        if answer.status >= 500:
            raise OSError(f"{answer.status} {found[:200]!r}")
        assert answer.status < 400 or answer.status == expect, (method, path, answer.status, found[:300])
        return json.loads(found) if found else None

    def _connect(self) -> http.client.HTTPConnection:
        if not self.secure:
            return http.client.HTTPConnection("127.0.0.1", self.port, timeout=60)
        believed = ssl.create_default_context(cafile=str(self.studio.folder / "cert.pem"))
        return http.client.HTTPSConnection("localhost", self.secure, timeout=60, context=believed)

    def surely(self, method: str, path: str, body: Any = None) -> Any:
        return eventually(lambda: [self.call(method, path, body)], 90)[0]


def _form(files: dict[str, tuple[str, bytes]], fields: dict[str, str]) -> tuple[str, bytes]:
    body = io.BytesIO()
    for name, value in fields.items():
        body.write(f'--frontier\r\nContent-Disposition: form-data; name="{name}"\r\n\r\n{value}\r\n'.encode())
    for name, (file_name, data) in files.items():
        body.write(
            f'--frontier\r\nContent-Disposition: form-data; name="{name}"; filename="{file_name}"\r\n\r\n'.encode() + data + b"\r\n"
        )
    body.write(b"--frontier--\r\n")
    return "multipart/form-data; boundary=frontier", body.getvalue()


def is_alive(pid: int) -> bool:
    with suppress(OSError):
        return "State:\tZ" not in Path(f"/proc/{pid}/status").read_text()
    return False


NGINX = """
daemon off; pid {folder}/nginx.pid; error_log {folder}/nginx-error.log; worker_processes 1;
events {{}}
http {{
  access_log off; client_body_temp_path {folder}/nb; proxy_temp_path {folder}/np; fastcgi_temp_path {folder}/nf;
  uwsgi_temp_path {folder}/nu; scgi_temp_path {folder}/ns;
  {site}
}}
"""


def _site_as_it_ships(folder: Path, port: int, answering: Sequence[int], host: str, tls: bool) -> str:
    """deploy/nginx/saucer.conf with addresses and certificate of this test in place of those of a studio."""
    text = (ROOT / "deploy" / "nginx" / "saucer.conf").read_text()
    if not tls:
        text = re.sub(r"  ssl_.*\n", "", text.replace("listen 443 ssl", f"listen 127.0.0.1:{port}"))
    wanted = [
        ("server 127.0.0.1:8400;", " ".join(f"server 127.0.0.1:{one};" for one in answering)),
        ("127.0.0.1:8400", f"127.0.0.1:{answering[0]}"), ("studio.example", host),
    ]  # fmt: skip
    if tls:
        wanted += [("listen 443 ssl", f"listen 127.0.0.1:{port} ssl"), ("/etc/ssl/saucer", str(folder))]
    for shipped, here in wanted:
        assert shipped in text
        text = text.replace(shipped, here)
    return text


@contextmanager
def behind_nginx(host: str, *installations: Installation, tls: bool = True) -> Iterator[int]:
    """Debian's nginx in front of them, with the site that ships and the cert.pem and key.pem in the first one's folder. Gives: its port"""
    nginx = shutil.which("nginx") or "/usr/sbin/nginx"
    port, folder = free_port(), installations[0].folder
    site = _site_as_it_ships(folder, port, [one.port for one in installations], host, tls)
    (folder / "nginx.conf").write_text(NGINX.format(folder=folder, site=site))
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


@contextmanager
def own_database(template: str = "template1") -> Iterator[str]:
    """The address of a database that somebody else runs: empty, or a copy of another"""
    told = django_settings.DATABASES["default"]
    where = {"host": told["HOST"], "port": told["PORT"], "user": told["USER"], "password": told["PASSWORD"]}
    name = f"walk_{os.getpid()}_{time.time_ns()}"
    with psycopg.connect(**where, dbname="postgres", autocommit=True) as own:
        own.execute(f'CREATE DATABASE {name} TEMPLATE "{template}"')
        yield f"postgres://{told['USER']}:{quote(told['PASSWORD'])}@{told['HOST']}:{told['PORT']}/{name}"
        own.execute(f"DROP DATABASE {name} WITH (FORCE)")


@contextmanager
def installed(start: bool = True, **settings: str) -> Iterator[Installation]:
    """Started, and gone afterwards with all it made."""
    # Not below pytest's own folders: the account of PostgreSQL has to get there.
    folder = Path("/tmp") / f"saucer-test-{os.getpid()}-{free_port()}"
    folder.mkdir()
    os.chmod(folder, 0o755)
    installation = Installation(folder, **settings)
    try:
        if start:
            installation.start()
        yield installation
    finally:
        if installation.launcher and installation.launcher.poll() is None:
            installation.end()
        shutil.rmtree(folder, ignore_errors=True)
