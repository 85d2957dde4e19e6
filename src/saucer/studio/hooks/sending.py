"""One call to an address: signed, within a time, to no address inside the server's own network unless that is wanted, and nowhere else."""

from __future__ import annotations

import hashlib
import hmac
import http.client
import ipaddress
import json
import socket
import ssl
from contextlib import suppress
from threading import Timer
from typing import Any
from urllib.parse import SplitResult, urlsplit

from saucer import __version__
from saucer.studio.common.refusals import NotPossible

PATIENCE = 10.0
"""Seconds that a connection, and then each piece of an answer, is waited for."""
DEADLINE = 15.0
"""Seconds after which a call is ended, however slowly an answer goes on coming."""
LONGEST_ANSWER = 4096
"""Bytes of an answer that are read; nothing in it matters but its status."""
PORTS = {"http": 80, "https": 443}


def check_url(url: str) -> SplitResult:
    """Raises: NotPossible"""
    try:
        parts = urlsplit(url)
        port = parts.port
    except ValueError:
        raise NotPossible("This is no address: write it as https://host/path.") from None
    if parts.scheme not in PORTS or not parts.hostname or port == 0:
        raise NotPossible("This is no address: write it as https://host/path.")
    if parts.username or parts.password:
        raise NotPossible("Leave the name and the password out of the address: a call is known by its signature.")
    if any(letter.isspace() or ord(letter) < 33 for letter in url) or not url.isascii():
        raise NotPossible("An address has letters of ASCII only, and no spaces.")
    return parts


def sign(secret: str, time: int, body: bytes) -> str:
    """HMAC (RFC 2104) with SHA-256 over the time, a full stop and the body, in hexadecimal."""
    return hmac.new(secret.encode(), f"{time}.".encode() + body, hashlib.sha256).hexdigest()


def find_address(host: str, port: int, inside: bool) -> str:
    """The address to connect to, found once so that nobody can change it in between. inside: may it lie within the server's network?

    Raises: OSError where there is none, or none that may be called
    """
    found = [str(one[4][0]) for one in socket.getaddrinfo(host, port, type=socket.SOCK_STREAM)]
    for address in found:
        if inside or ipaddress.ip_address(address.partition("%")[0]).is_global:
            return address
    raise OSError(f"{host} lies within the server's own network, and SAUCER_HOOKS_INSIDE does not let it be called")


def _connect(parts: SplitResult, inside: bool) -> http.client.HTTPConnection:
    host, port = str(parts.hostname), parts.port or PORTS[parts.scheme]
    plain = socket.create_connection((find_address(host, port, inside), port), timeout=PATIENCE)
    if parts.scheme == "http":
        made = http.client.HTTPConnection(host, port, timeout=PATIENCE)
        made.sock = plain
        return made
    context = ssl.create_default_context()
    secure = http.client.HTTPSConnection(host, port, timeout=PATIENCE, context=context)
    try:
        secure.sock = context.wrap_socket(plain, server_hostname=host)
    except OSError:
        plain.close()
        raise
    return secure


def send(url: str, secret: str, call: int, event: str, time: int, content: Any, inside: bool) -> int:
    """The status that was answered; redirects are not followed. time: Unix, in seconds. Raises: OSError, http.client.HTTPException"""
    parts = check_url(url)
    body = json.dumps(content, sort_keys=True).encode()
    headers = {
        "Content-Type": "application/json", "User-Agent": f"Saucer/{__version__}", "Saucer-Event": event, "Saucer-Call": str(call),
        "Saucer-Time": str(time), "Saucer-Signature": sign(secret, time, body), "Connection": "close",
    }  # fmt: skip
    connection = _connect(parts, inside)
    late = Timer(DEADLINE, _end, [connection.sock])
    late.daemon = True
    late.start()
    try:
        connection.request("POST", f"{parts.path or '/'}{f'?{parts.query}' if parts.query else ''}", body, headers)
        answer = connection.getresponse()
        answer.read(LONGEST_ANSWER)
        return answer.status
    finally:
        late.cancel()
        connection.close()


def _end(held: socket.socket) -> None:
    """Whoever waits for it is told that it ended."""
    with suppress(OSError):
        held.shutdown(socket.SHUT_RDWR)
