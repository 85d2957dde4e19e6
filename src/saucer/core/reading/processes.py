"""The readers' processes as this process holds them: forked from one that has everything loaded, some waiting, each with its socket."""

from __future__ import annotations

import atexit
import os
import signal
import socket
import subprocess
import sys
import threading
import time
from contextlib import suppress
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from saucer.core.reading import passing, reader
from saucer.core.reading.limits import GB, Limit

LOADING = "saucer.core.files.ready"
"""The module that loads what reads, by name: it stands above this one."""
ALONE = {"OPENBLAS_NUM_THREADS": "1", "OMP_NUM_THREADS": "1", "MALLOC_ARENA_MAX": "2"}
"""One thread, as a fork takes one along; and few arenas, which take addresses that they do not fill."""
MOST_IDLE = 2
"""Readers that wait for work; more of them end when they are done."""
START = 60.0
"""Seconds that the first start may take: everything that reads is loaded then."""


class ReaderEnded(Exception):
    """A reader's process ended, or was ended, before it answered. words: why, as the person is told"""

    def __init__(self, words: str) -> None:
        self.words = words
        super().__init__(words)


@dataclass
class _Mother:
    """The process that readers come from, of this process; after a fork of ours another one is started."""

    lock: threading.Lock = field(default_factory=threading.Lock)
    process: subprocess.Popen[bytes] | None = None
    channel: socket.socket | None = None
    owner: int = 0

    def start(self) -> None:
        """Without waiting until it is ready."""
        with self.lock:
            self._start()

    def _start(self) -> socket.socket:
        if self.owner == os.getpid() and self.process is not None and self.process.poll() is None and self.channel is not None:
            return self.channel
        if self.channel is not None:
            self.channel.close()
        ours, theirs = socket.socketpair(socket.AF_UNIX, socket.SOCK_SEQPACKET)
        with theirs:
            paths = os.pathsep.join(filter(None, (str(Path(__file__).parents[3]), os.environ.get("PYTHONPATH", ""))))
            self.process = subprocess.Popen(
                [sys.executable, "-m", "saucer.core.reading.mother", str(theirs.fileno()), LOADING],
                pass_fds=[theirs.fileno()], stdin=subprocess.DEVNULL, env=os.environ | ALONE | {"PYTHONPATH": paths},
            )  # fmt: skip
        ours.settimeout(START)
        self.channel, self.owner = ours, os.getpid()
        return ours

    def new_reader(self) -> Reader:
        ours, theirs = socket.socketpair(socket.AF_UNIX, socket.SOCK_SEQPACKET)
        with theirs, self.lock:
            for again in (True, False):
                channel = self._start()
                try:
                    socket.send_fds(channel, [b"R"], [theirs.fileno()])
                    answer = channel.recv(4)
                except OSError:
                    answer = b""
                if len(answer) == 4:
                    with suppress(ProcessLookupError):  # it ended before it did anything
                        return Reader(ours, int.from_bytes(answer, "little"))
                self._end()
                if not again:
                    break
        ours.close()
        raise ReaderEnded("the process that reads could not be started")

    def _end(self) -> None:
        if self.channel is not None:
            self.channel.close()
            self.channel = None
        if self.process is not None and self.owner == os.getpid():
            self.process.kill()
            self.process.wait()
        self.process = None

    def end(self) -> None:
        with self.lock:
            self._end()


class Reader:
    """One process that reads, and the socket to it."""

    def __init__(self, channel: socket.socket, pid: int) -> None:
        self.channel, self.pid = channel, pid
        self._handle = os.pidfd_open(pid)

    def ask(self, message: Any, limit: Limit) -> tuple[str, bool, Any]:
        """Raises: ReaderEnded"""
        self.tell(message)
        return self.answer(limit)

    def tell(self, message: Any) -> None:
        self.channel.settimeout(START)
        try:
            passing.send(self.channel, message)
        except OSError:
            raise ReaderEnded("its reader ended") from None

    def answer(self, limit: Limit) -> tuple[str, bool, Any]:
        self.channel.settimeout(limit.seconds)
        began = time.monotonic()
        try:
            what, worn, value = passing.receive(self.channel)
        except TimeoutError:
            raise ReaderEnded(f"reading it takes more than the {limit.seconds:.0f} seconds that it may") from None
        except (EOFError, OSError):
            took = time.monotonic() - began
            why = f"takes more than the {limit.processor} seconds or the {limit.memory / GB:.0f} GB that it may"
            raise ReaderEnded(f"reading it {why}" if took > 1 else "it makes the library that reads it fail") from None
        except (passing.BadMessage, ValueError) as error:
            raise ReaderEnded(f"what its reader gave cannot be used ({error})") from None
        return what, worn, value

    def end(self) -> None:
        with suppress(OSError):  # it may be gone already
            signal.pidfd_send_signal(self._handle, signal.SIGKILL)
        os.close(self._handle)
        self.channel.close()


_mother = _Mother()
_idle: list[Reader] = []
_idle_lock = threading.Lock()


def warm_up() -> None:
    """Begin to load what reads, without waiting for it: for who will soon have something to be read."""
    if not reader.inside:
        _mother.start()


def take_reader() -> Reader:
    with _idle_lock:
        while _idle:
            found = _idle.pop()
            if _still_there(found):
                return found
            found.end()
    return _mother.new_reader()


def _still_there(one: Reader) -> bool:
    """Nothing lies in its socket, and it is not closed."""
    one.channel.setblocking(False)
    try:
        one.channel.recv(1, socket.MSG_PEEK)
    except BlockingIOError:
        return True
    except OSError:
        pass
    return False


def give_back(one: Reader, worn: bool) -> None:
    with _idle_lock:
        if not worn and len(_idle) < MOST_IDLE:
            _idle.append(one)
            return
    one.end()


def _forget() -> None:
    """In a child after a fork: its parent's readers are not its own."""
    for one in _idle:
        one.channel.close()
    _idle.clear()
    _mother.lock, _mother.channel, _mother.process = threading.Lock(), None, None


def waiting() -> list[int]:
    """Numbers of the processes that wait for work."""
    with _idle_lock:
        return [one.pid for one in _idle]


def end_all() -> None:
    """Readers that wait, and the process they come from; the next reading starts them again."""
    with _idle_lock:
        while _idle:
            _idle.pop().end()
    _mother.end()


os.register_at_fork(after_in_child=_forget)
atexit.register(end_all)
