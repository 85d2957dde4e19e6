"""The process that readers are forked from: everything is loaded in it once, nothing was ever read in it, and it has one thread.

It is a process of our own and not multiprocessing's fork server, because that one imports the main module of whoever asks into every
child, and passes pickles. Run as: python -m saucer.core.reading.mother NUMBER_OF_A_SOCKET MODULE_THAT_LOADS
"""

from __future__ import annotations

import ctypes
import gc
import importlib
import os
import signal
import socket
import sys
from contextlib import suppress

from saucer.core.reading.reader import serve

PR_SET_PDEATHSIG = 1


def main(number: int, loading: str) -> None:
    ending = socket.socket(fileno=number)
    signal.signal(signal.SIGCHLD, signal.SIG_IGN)  # nobody waits for a child: it is gone when it has ended
    for one in (signal.SIGINT, signal.SIGHUP, signal.SIGTERM):
        signal.signal(one, signal.SIG_IGN)  # who asked decides, by closing the socket
    importlib.import_module(loading).load()
    gc.collect()
    gc.freeze()
    while True:
        try:
            message, handles, _, _ = socket.recv_fds(ending, 1, 1)
        except OSError:
            break
        if not message or not handles:
            break
        child = os.fork()
        if child == 0:
            _be_a_reader(ending, handles[0])
        os.close(handles[0])
        with suppress(OSError):
            ending.sendall(child.to_bytes(4, "little"))
    os._exit(0)  # its readers go with it (the death signal below)


def _be_a_reader(ending: socket.socket, handle: int) -> None:
    code = 1
    try:
        ctypes.CDLL(None).prctl(PR_SET_PDEATHSIG, signal.SIGKILL)
        ending.close()
        for one in (signal.SIGINT, signal.SIGHUP):
            signal.signal(one, signal.SIG_IGN)
        # Libraries print complaints of their own; what a person is told is the answer.
        nowhere = os.open(os.devnull, os.O_WRONLY)
        os.dup2(nowhere, 1)
        os.dup2(nowhere, 2)
        signal.signal(signal.SIGTERM, signal.SIG_DFL)
        signal.signal(signal.SIGCHLD, signal.SIG_DFL)
        serve(socket.socket(fileno=handle))
        code = 0
    finally:
        os._exit(code)


if __name__ == "__main__":
    main(int(sys.argv[1]), sys.argv[2])
