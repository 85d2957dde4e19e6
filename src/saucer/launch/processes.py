"""Running the server and the worker: watched, started again when they end, and ended with us."""

from __future__ import annotations

import contextlib
import ctypes
import ipaddress
import logging
import os
import resource
import shutil
import signal
import socket
import subprocess
import threading
import time
import urllib.error
import urllib.request
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from pathlib import Path
from types import FrameType

from saucer.launch.console import Stop, say
from saucer.launch.places import BESIDE_OTHERS, LOGS, PYTHON, ROOT, VAR, child_environment, rotating_log, setting

STILL_AFTER, LONGEST_START = 60.0, 900.0
"""Seconds without any work done by what is started, after which it counts as stuck; and the longest that a start may take."""
TOLD_EVERY = 15.0
NICE, AUTOGROUP = 10, Path("/proc/self/autogroup")
LOADED = 3 << 30
"""Addresses, in bytes, that a worker has before it does anything: libraries, and what is kept for threads."""
PAUSES = (1.0, 2.0, 4.0, 8.0, 15.0, 30.0, 60.0)
"""Seconds before something that ended is started again, the longer the more often it has ended in a row."""
SILENT_AFTER = 30.0
"""Seconds without a sign of life, after the first one, after which a process is ended and started again: it holds its own interpreter."""
SIGN = "SAUCER_SIGN"
"""The number of the pipe on which a process gives signs of life (studio/site/alive.py)."""
STEADY_AFTER = 120.0
"""Seconds after which something that runs counts as well, and the next pause is the shortest again."""
COUNTED = VAR / "metrics"


def _die_with_parent() -> None:
    """Linux: end when the launcher is killed outright, so that nothing is left behind."""
    ctypes.CDLL(None).prctl(1, signal.SIGTERM)


def _give_way() -> None:
    """What a worker does in minutes takes what the answers leave, which somebody waits for."""
    _die_with_parent()
    os.nice(NICE)
    # Linux weighs sessions against each other (sched(7), "The autogroup feature"): there the number above counts only within this one.
    with contextlib.suppress(OSError):
        AUTOGROUP.write_text(str(NICE))
    _, most = resource.getrlimit(resource.RLIMIT_AS)
    resource.setrlimit(resource.RLIMIT_AS, (worker_memory(), most))


def worker_memory() -> int:
    """Bytes of addresses that a worker may have; a job that wants more fails, in words. SAUCER_WORKER_GB says it otherwise."""
    said = setting("WORKER_GB")
    if said.isdigit() and int(said):
        return int(said) << 30
    whole = os.sysconf("SC_PHYS_PAGES") * os.sysconf("SC_PAGE_SIZE")
    return LOADED + max(2 << 30, whole // 2)


@dataclass
class Pauses:
    """When something that has ended may be started again."""

    ended_in_a_row: int = 0
    started: float = field(default_factory=time.monotonic)
    due: float | None = None

    def ended(self, now: float) -> float:
        """Seconds until it is started again."""
        if now - self.started > STEADY_AFTER:
            self.ended_in_a_row = 0
        pause = PAUSES[min(self.ended_in_a_row, len(PAUSES) - 1)]
        self.ended_in_a_row += 1
        self.due = now + pause
        return pause

    def is_due(self, now: float) -> bool:
        return self.due is not None and now >= self.due

    def began(self, now: float) -> None:
        self.started, self.due = now, None


class Signs:
    """Of life, that a process gives on a pipe every few seconds, by this process's own clock."""

    def __init__(self) -> None:
        self._ours, self.theirs = os.pipe()
        self._last: float | None = None

    def listen(self) -> None:
        """From when on the process has its end."""
        os.close(self.theirs)
        threading.Thread(target=self._hear, daemon=True).start()

    def _hear(self) -> None:
        with os.fdopen(self._ours, "rb", buffering=0) as pipe:
            while pipe.read(64):
                self._last = time.monotonic()

    def are_missing(self, now: float) -> bool:
        """One that has given none yet is still starting."""
        return self._last is not None and now - self._last > SILENT_AFTER


class Child:
    """A process whose output goes to a log, line by line."""

    def __init__(self, name: str, arguments: list[str], gives_way: bool) -> None:
        self.name, self.arguments, self.pauses = name, arguments, Pauses()
        self._gives_way = gives_way
        self._log = rotating_log(name)
        self.process = self._start()

    def _start(self) -> subprocess.Popen[bytes]:
        self.signs = Signs()
        process = subprocess.Popen(
            [str(PYTHON), *self.arguments], cwd=ROOT, env=child_environment(**BESIDE_OTHERS | {SIGN: str(self.signs.theirs)}),
            stdin=subprocess.DEVNULL, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, pass_fds=[self.signs.theirs],
            start_new_session=True, preexec_fn=_give_way if self._gives_way else _die_with_parent,
        )  # fmt: skip
        self.signs.listen()
        threading.Thread(target=self._write_log, args=[process], daemon=True).start()
        return process

    def _write_log(self, process: subprocess.Popen[bytes]) -> None:
        assert process.stdout is not None
        with process.stdout as output:
            for line in output:
                self._log.emit(logging.makeLogRecord({"msg": line.decode(errors="replace").rstrip("\n")}))

    def end_if_silent(self, now: float) -> bool:
        """Has it given no sign of life for too long? Then it is killed, with what it started: it would not hear anything else."""
        if not self.signs.are_missing(now) or self.process.poll() is not None:
            return False
        with contextlib.suppress(ProcessLookupError):
            os.killpg(self.process.pid, signal.SIGKILL)
        self.process.wait()
        return True

    def start_again(self) -> None:
        self.process = self._start()
        self.pauses.began(time.monotonic())

    def last_words(self) -> str:
        self._log.flush()
        path = LOGS / f"{self.name}.log"
        return " ".join(path.read_text(errors="replace").strip().splitlines()[-1:]) if path.is_file() else ""

    def close_log(self) -> None:
        self._log.close()


class Group:
    """Child processes that are watched together and end together."""

    def __init__(self) -> None:
        self._children: dict[str, Child] = {}

    def start(self, name: str, arguments: list[str], gives_way: bool = False) -> None:
        """gives_way: to those that somebody waits for"""
        self._children[name] = Child(name, arguments, gives_way)

    def pids(self) -> list[int]:
        return [child.process.pid for child in self._children.values()]

    def work_done(self) -> float:
        """Seconds of processor time that they have taken, with what they started."""
        return sum(work_of(pid) for pid in self.pids())

    def check(self) -> None:
        """Raises: Stop when one of them has ended, as while everything starts."""
        for name, child in self._children.items():
            if child.process.poll() is not None:
                raise Stop(f"The {name} ended ({child.last_words()}). Its log is {LOGS / f'{name}.log'}.")

    def tend(self, now: float) -> None:
        """Start again what has ended, after a pause that grows."""
        for name, child in self._children.items():
            if child.end_if_silent(now):
                say(f"The {name} gave no sign of life for {SILENT_AFTER:.0f} s, so it was ended.")
            if child.pauses.due is None and child.process.poll() is not None:
                pause = child.pauses.ended(now)
                say(f"The {name} ended ({child.last_words()[:200]}); it is started again in {pause:.0f} s.")
            elif child.pauses.is_due(now):
                child.start_again()

    def end(self) -> None:
        processes = [child.process for child in self._children.values()]
        for process in processes:
            if process.poll() is None:
                process.terminate()
        deadline = time.monotonic() + 10
        for process in processes:
            try:
                process.wait(max(0.1, deadline - time.monotonic()))
            except subprocess.TimeoutExpired:
                process.kill()
                process.wait()
        for child in self._children.values():
            child.close_log()


@dataclass
class Watch:
    """Waiting for a start, as long as something moves. work_done: seconds of processor time that it has taken so far"""

    begun: float
    work_done: Callable[[], float]
    words: str = ""
    _moved: float = 0.0
    _told: float = 0.0
    _done: float = -1.0

    def is_over(self, now: float) -> bool:
        """Is there nothing to wait for any more? Says now and then that it still goes on."""
        done = self.work_done()
        # Less than before means that one of them has ended: that is a move too.
        if abs(done - self._done) > 0.05 or not self._moved:
            self._done, self._moved = done, now
        if not self._told:
            self._told = now
        if now - self._moved > STILL_AFTER:
            self.words = f"nothing has moved for {now - self._moved:.0f} s"
        elif now - self.begun > LONGEST_START:
            self.words = f"it is not there after {now - self.begun:.0f} s"
        elif now - self._told > TOLD_EVERY:
            self._told = now
            say(f"  still starting ({now - self.begun:.0f} s, of which it has worked {done:.0f}) ...")
        return bool(self.words)


def work_of(session: int) -> float:
    """Seconds of processor time of a session's processes and their ended children (Linux: proc(5), fields 6, 14 to 17, /proc/PID/stat)."""
    ticks = 0
    for path in Path("/proc").glob("[0-9]*/stat"):
        with contextlib.suppress(OSError, ValueError, IndexError):
            fields = path.read_text().rpartition(")")[2].split()
            if int(fields[3]) == session:
                ticks += sum(map(int, fields[11:15]))
    return ticks / os.sysconf("SC_CLK_TCK")


def require_port(address: str, port: int) -> None:
    """Raises: Stop when something listens there already, or the address is none of this machine."""
    with socket.socket(socket.AF_INET6 if ":" in address else socket.AF_INET) as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind((address, port))
        except OSError as error:
            if error.errno == 99:
                raise Stop(f"{address} is no address of this machine; 0.0.0.0 stands for all of them.") from None
            raise Stop(f"Port {port} is taken by another program. End it, or choose another: --port {port + 1}") from None


def begin_counting() -> None:
    """What server processes count lies in files of their own, which all of them answer from (/metrics); those of before count no more."""
    shutil.rmtree(COUNTED, ignore_errors=True)
    COUNTED.mkdir(parents=True)
    os.environ["PROMETHEUS_MULTIPROC_DIR"] = str(COUNTED)


def server_arguments(port: int, address: str = "127.0.0.1") -> list[str]:
    host = f"[{address}]" if ":" in address else address
    return [
        "-m", "gunicorn", "--no-control-socket", "--config", "python:saucer.studio.site.gunicorn", "--bind", f"{host}:{port}",
        "--workers", str(setting("WEB_PROCESSES")), "--threads", str(setting("WEB_THREADS")), "saucer.studio.site.wsgi",
    ]  # fmt: skip


def worker_arguments() -> list[str]:
    return [
        "-m",
        "saucer.studio",
        "procrastinate",
        "worker",
        "--concurrency",
        str(setting("WORKER_JOBS")),
        "--delete-jobs",
        "successful",
    ]


def wait_until_up(group: Group, port: int, address: str = "127.0.0.1") -> None:
    """Raises: Stop when the server does not answer in time."""
    # All addresses of a machine (0.0.0.0, ::) are no place to ask at.
    if ipaddress.ip_address(address).is_unspecified:
        address = "::1" if ":" in address else "127.0.0.1"
    host = f"[{address}]" if ":" in address else address
    watch = Watch(time.monotonic(), group.work_done)
    while not watch.is_over(time.monotonic()):
        group.check()
        with (
            contextlib.suppress(urllib.error.URLError, OSError),
            urllib.request.urlopen(f"http://{host}:{port}/healthz", timeout=5) as answer,
        ):
            if answer.status == 200:
                return
        time.sleep(0.1)
    raise Stop(f"The server did not come up: {watch.words}. Its log is {LOGS / 'server.log'}.")


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


def run(group: Group, told: list[int], tend_database: Callable[[float], None]) -> None:
    """Watch everything until a signal comes."""
    while not told:
        now = time.monotonic()
        tend_database(now)
        group.tend(now)
        time.sleep(0.2)
    say("\nStopping ...")
