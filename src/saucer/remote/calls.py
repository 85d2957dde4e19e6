"""Calls to a studio's API by a token."""

from __future__ import annotations

import hashlib
import json
import secrets
import ssl
import tempfile
import urllib.error
import urllib.parse
import urllib.request
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

from saucer.core.commands.files import read_bytes
from saucer.core.errors import SaucerError
from saucer.remote.kept import Remote

VERSION = "v1"
PATIENCE = 120
"""Seconds that an answer is waited for."""
PIECE = 2**20


class _NoWay(urllib.request.HTTPRedirectHandler):
    """Nothing is followed elsewhere: the token would go along."""

    def redirect_request(self, *given: Any) -> None:
        return None


_open = urllib.request.build_opener(_NoWay)


def call(
    remote: Remote, path: str, body: bytes | None = None, kind: str = "application/json", method: str = "GET", **query: Any
) -> bytes:
    """Raises: SaucerError with the server's own words, or that it cannot be reached"""
    with _answer(remote, path, body, kind, method, **query) as answer:
        return bytes(answer.read())


def fetch(remote: Remote, path: str, target: Path, sha256: str) -> None:
    """A file, however large; it stands under its name once it is whole and what the server says it is. Raises: SaucerError"""
    target.parent.mkdir(parents=True, exist_ok=True)
    found = hashlib.sha256()
    with tempfile.NamedTemporaryFile(dir=target.parent, prefix=".", delete=False) as part:
        unfinished = Path(part.name)
        try:
            with _answer(remote, path, None, "application/json", "GET") as answer:
                while piece := answer.read(PIECE):
                    found.update(piece)
                    part.write(piece)
            if found.hexdigest() != sha256:
                raise SaucerError(target.name, "did not arrive as it was sent; fetch it again")
            part.flush()
            unfinished.chmod(0o644)
            unfinished.replace(target)
        except OSError as error:
            raise SaucerError(target.name, error.strerror or str(error)) from None
        finally:
            unfinished.unlink(missing_ok=True)


@contextmanager
def _answer(remote: Remote, path: str, body: bytes | None, kind: str, method: str, **query: Any) -> Iterator[Any]:
    asked = urllib.parse.urlencode({name: value for name, value in query.items() if value not in ("", None)})
    url = f"{remote.url}/api/{VERSION}{path}{f'?{asked}' if asked else ''}"
    headers = {"Authorization": f"Bearer {remote.token}", "Content-Type": kind, "Accept": "application/json"}
    # Of http and https only: kept.check_url.
    request = urllib.request.Request(url, body, headers, method=method)  # noqa: S310
    try:
        with _open.open(request, timeout=PATIENCE) as answer:
            yield answer
    except urllib.error.HTTPError as error:
        raise SaucerError(remote.url, _words_of(error)) from None
    except (urllib.error.URLError, OSError) as error:
        raise SaucerError(remote.url, _why_not(getattr(error, "reason", error))) from None


def _why_not(reason: object) -> str:
    if isinstance(reason, ssl.SSLCertVerificationError):
        return f"shows a certificate that cannot be believed: {reason.verify_message}; nothing was sent. Who runs the server can renew it"
    return f"cannot be reached: {reason}"


def _words_of(error: urllib.error.HTTPError) -> str:
    with error:
        told = error.read(100_000)
    if error.code == 401:
        return "does not believe the token: it was revoked or has ended; make a new one on your own page"
    if error.code in (301, 302, 307, 308):
        return f"sends elsewhere: {error.headers.get('Location', '')}; add it by that address"
    try:
        return str(json.loads(told)["detail"])
    except (ValueError, KeyError, TypeError):
        return f"answered {error.code}"


def ask(remote: Remote, path: str, **query: Any) -> Any:
    """Raises: SaucerError"""
    return _parsed(remote, call(remote, path, **query))


def send_file(remote: Remote, path: str, file: Path, **fields: str) -> Any:
    """Raises: SaucerError"""
    data = read_bytes(file)
    between = secrets.token_hex(16)
    parts = [
        f'--{between}\r\nContent-Disposition: form-data; name="{name}"\r\n\r\n{value}\r\n'.encode()
        for name, value in fields.items()
    ]
    name = file.name.replace("\\", "_").replace('"', "_").replace("\r", "_").replace("\n", "_")
    parts += [f'--{between}\r\nContent-Disposition: form-data; name="file"; filename="{name}"\r\n\r\n'.encode(), data]
    body = b"".join(parts) + f"\r\n--{between}--\r\n".encode()
    return _parsed(remote, call(remote, path, body, f"multipart/form-data; boundary={between}", "POST"))


def send(remote: Remote, method: str, path: str, body: Any) -> Any:
    """Raises: SaucerError"""
    return _parsed(remote, call(remote, path, json.dumps(body).encode(), method=method))


def _parsed(remote: Remote, data: bytes) -> Any:
    try:
        return json.loads(data) if data else None
    except ValueError:
        raise SaucerError(remote.url, "is no Saucer: its answer is not JSON") from None
