"""gunicorn's worker with threads, made so that whoever sends slowly holds up nobody else.

The head of a request is collected by the loop that watches all sockets; a thread is given to it once it is complete. A body is read
by a thread, and has to come at a least pace. Whoever is slower is cut off.
"""

from __future__ import annotations

import socket
import struct
import time
from functools import partial
from selectors import EVENT_READ
from typing import Any

from gunicorn.http.errors import NoMoreData
from gunicorn.workers.gthread import TConn, ThreadWorker

from saucer.studio.site.evenly import Board

BOARD = Board()
"""Made when the arbiter loads this module, before it forks."""

HEAD_SECONDS = 10.0
"""For the head of a request, from its first connection or byte."""
LONGEST_HEAD = 64 * 1024
BODY_GRACE, BODY_PACE = 10.0, 32 * 1024
"""A body may pause for seconds in all, beyond a pace of bytes a second."""
SEND_SECONDS = 120
"""For a reader to take something of an answer."""
END_OF_HEAD = b"\r\n\r\n"


class Pace:
    """Reads from the socket of a request, as long as enough comes. What counts is the time spent waiting for the sender: what the server
    itself takes between two readings (loading its pages at the first request, a busy machine) is not theirs."""

    def __init__(self, sock: Any) -> None:
        self._sock = sock
        self.begin()

    def begin(self) -> None:
        self._waited, self._received = 0.0, 0

    def chunk(self, size_hint: int | None = None) -> bytes:
        """Raises: NoMoreData, where the sender is too slow or gone"""
        left = BODY_GRACE + self._received / BODY_PACE - self._waited
        if left <= 0:
            raise NoMoreData()
        began = time.monotonic()
        self._sock.settimeout(left)
        try:
            data: bytes = self._sock.recv(max(8192, min(size_hint or 0, 1 << 20)))
        except TimeoutError:
            raise NoMoreData() from None
        finally:
            self._sock.settimeout(None)
            self._waited += time.monotonic() - began
        self._received += len(data)
        return data


class PatientWorker(ThreadWorker):  # type: ignore[misc]
    def accept(self, listener: Any) -> None:
        try:
            client, address = listener.accept()
        except (BlockingIOError, ConnectionAbortedError):
            return
        self.nr_conns += 1
        client.setsockopt(socket.SOL_SOCKET, socket.SO_SNDTIMEO, struct.pack("ll", SEND_SECONDS, 0))
        conn = TConn(self.cfg, client, address, listener.getsockname())
        conn.head = b""
        self._await_head(conn)

    def on_client_socket_readable(self, conn: Any, client: Any) -> None:
        """The next request on a connection that was kept."""
        self.poller.unregister(client)
        self.keepalived_conns.remove(conn)
        self._await_head(conn)

    def _await_head(self, conn: Any) -> None:
        conn.sock.setblocking(False)
        conn.timeout = time.monotonic() + HEAD_SECONDS
        self.pending_conns.append(conn)
        self.poller.register(conn.sock, EVENT_READ, partial(self._collect_head, conn))

    def _collect_head(self, conn: Any, client: Any) -> None:
        try:
            data = client.recv(LONGEST_HEAD)
        except BlockingIOError:
            return
        except OSError:
            data = b""
        conn.head += data
        if data and END_OF_HEAD not in conn.head and len(conn.head) < LONGEST_HEAD:
            return
        self.poller.unregister(client)
        self.pending_conns.remove(conn)
        if data:
            conn.data_ready = True
            self.enqueue_req(conn)
        else:
            self.nr_conns -= 1
            conn.close()

    def init_process(self) -> None:
        BOARD.sit_down()
        super().init_process()

    def handle_request(self, req: Any, conn: Any) -> Any:
        if BOARD.is_uneven():
            req.force_close()
        return super().handle_request(req, conn)

    def handle(self, conn: Any) -> Any:
        conn.init()
        unreader = conn.parser.unreader
        if not hasattr(conn, "pace"):
            conn.pace = Pace(conn.sock)
            unreader.chunk = conn.pace.chunk
        conn.pace.begin()
        if conn.head:
            unreader.unread(conn.head)
            conn.head = b""
        with BOARD.busy():
            return super().handle(conn)
