"""A small receiver of hooks, as a team's program would be: it notes what comes, whether it is signed, and answers as it is told."""

from __future__ import annotations

import hashlib
import hmac
import json
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from threading import Thread
from typing import Any


@dataclass
class Receiver:
    """answers: statuses in turn, the last one for ever; came: what was called"""

    url: str = ""
    answers: list[int] = field(default_factory=lambda: [200])
    came: list[dict[str, Any]] = field(default_factory=list)

    def next_status(self) -> int:
        return self.answers.pop(0) if len(self.answers) > 1 else self.answers[0]


def is_signed(call: dict[str, Any], secret: str) -> bool:
    """As docs/operating.md tells a receiver to look: HMAC-SHA256 of the time, a full stop and the body as it came."""
    headers = call["headers"]
    wanted = hmac.new(secret.encode(), headers["saucer-time"].encode() + b"." + call["raw"], hashlib.sha256).hexdigest()
    return hmac.compare_digest(wanted, headers["saucer-signature"])


@contextmanager
def receiving() -> Iterator[Receiver]:
    found = Receiver()

    class Handler(BaseHTTPRequestHandler):
        def do_POST(self) -> None:
            raw = self.rfile.read(int(self.headers["Content-Length"]))
            headers = {name.lower(): value for name, value in self.headers.items()}
            found.came.append({"path": self.path, "headers": headers, "raw": raw, "body": json.loads(raw)})
            status = found.next_status()
            self.send_response(status)
            if 300 <= status < 400:
                self.send_header("Location", f"{found.url}/elsewhere")
            self.send_header("Content-Length", "0")
            self.end_headers()

        def log_message(self, *_: object) -> None:
            """Nothing is printed."""

    server = ThreadingHTTPServer(("127.0.0.1", 0), Handler)
    found.url = f"http://127.0.0.1:{server.server_address[1]}"
    thread = Thread(target=server.serve_forever, daemon=True)
    thread.start()
    try:
        yield found
    finally:
        server.shutdown()
        server.server_close()
        thread.join(10)
