"""Running the server and the worker, and ending them again."""

from __future__ import annotations

import contextlib
import ctypes
import signal
import socket
import subprocess
import time
import urllib.error
import urllib.request
from collections.abc import Iterator
from types import FrameType
from typing import IO

from saucer.launch.console import Stop, say
from saucer.launch.places import LOGS, PYTHON, ROOT, child_environment

PATIENCE = 60.0
SERVER_WORKERS, SERVER_THREADS = 2, 6


def _die_with_parent() -> None:
    """Linux: end when the launcher is killed outright, so that nothing is left behind."""
    ctypes.CDLL(None).prctl(1, signal.SIGTERM)


class Group:
    """Child processes that end together."""

    def __init__(self) -> None:
        self._children: dict[str, subprocess.Popen[bytes]] = {}
        self._logs: list[IO[bytes]] = []

    def start(self, name: str, arguments: list[str]) -> None:
        LOGS.mkdir(parents=True, exist_ok=True)
        log = (LOGS / f"{name}.log").open("wb")
        self._logs.append(log)
        self._children[name] = subprocess.Popen(
            [str(PYTHON), *arguments], cwd=ROOT, env=child_environment(),
            stdin=subprocess.DEVNULL, stdout=log, stderr=subprocess.STDOUT,
            start_new_session=True, preexec_fn=_die_with_parent,
        )  # fmt: skip

    def pids(self) -> list[int]:
        return [child.pid for child in self._children.values()]

    def check(self) -> None:
        """Raises: Stop when one of them has ended."""
        for name, child in self._children.items():
            if child.poll() is not None:
                last = (LOGS / f"{name}.log").read_text(errors="replace").strip().splitlines()[-1:]
                raise Stop(f"The {name} ended ({' '.join(last)}). Its log is {LOGS / f'{name}.log'}.")

    def end(self) -> None:
        for child in self._children.values():
            if child.poll() is None:
                child.terminate()
        deadline = time.monotonic() + 10
        for child in self._children.values():
            try:
                child.wait(max(0.1, deadline - time.monotonic()))
            except subprocess.TimeoutExpired:
                child.kill()
                child.wait()
        for log in self._logs:
            log.close()


def require_port(port: int) -> None:
    """Raises: Stop when something listens there already."""
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind(("127.0.0.1", port))
        except OSError:
            raise Stop(f"Port {port} is taken by another program. End it, or choose another: --port {port + 1}") from None


def server_arguments(port: int) -> list[str]:
    return [
        "-m", "gunicorn", "--no-control-socket", "--config", "python:saucer.studio.site.gunicorn", "--bind", f"127.0.0.1:{port}",
        "--workers", str(SERVER_WORKERS), "--threads", str(SERVER_THREADS), "saucer.studio.site.wsgi",
    ]  # fmt: skip


def worker_arguments() -> list[str]:
    return ["-m", "saucer.studio", "procrastinate", "worker", "--concurrency", "2", "--delete-jobs", "successful"]


def wait_until_up(group: Group, port: int) -> None:
    """Raises: Stop when the server does not answer in time."""
    deadline = time.monotonic() + PATIENCE
    while time.monotonic() < deadline:
        group.check()
        with (
            contextlib.suppress(urllib.error.URLError, OSError),
            urllib.request.urlopen(f"http://127.0.0.1:{port}/api/session", timeout=5) as answer,
        ):
            if answer.status == 200:
                return
        time.sleep(0.1)
    raise Stop(f"The server did not answer within {PATIENCE:.0f} s. Its log is {LOGS / 'server.log'}.")


@contextlib.contextmanager
def until_told_to_stop() -> Iterator[list[int]]:
    """Collects SIGINT, SIGTERM and SIGHUP instead of dying of them."""
    told: list[int] = []

    def remember(number: int, frame: FrameType | None) -> None:
        told.append(number)

    before = {number: signal.signal(number, remember) for number in (signal.SIGINT, signal.SIGTERM, signal.SIGHUP)}
    try:
        yield told
    finally:
        for number, handler in before.items():
            signal.signal(number, handler)


def run(group: Group, told: list[int]) -> None:
    """Wait for a signal. Raises: Stop when a child ends by itself."""
    while not told:
        group.check()
        time.sleep(0.2)
    say("\nStopping ...")
