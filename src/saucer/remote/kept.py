"""Which servers this person knows, and their tokens: one file that only they can read."""

from __future__ import annotations

import json
import os
import stat
from dataclasses import asdict, dataclass
from pathlib import Path
from urllib.parse import urlsplit

from saucer.core.errors import SaucerError


@dataclass(frozen=True)
class Remote:
    url: str
    token: str


def kept_in() -> Path:
    """As the XDG Base Directory Specification has it."""
    return Path(os.environ.get("XDG_CONFIG_HOME") or Path.home() / ".config") / "saucer" / "remotes.json"


def load() -> dict[str, Remote]:
    """By name. Raises: SaucerError for a file that others can read, or that is none of ours"""
    path = kept_in()
    if not path.is_file():
        return {}
    _require_own(path)
    try:
        return {name: Remote(**told) for name, told in json.loads(path.read_text()).items()}
    except (ValueError, TypeError, AttributeError):
        raise SaucerError(str(path), "is not what `remote add` writes; move it away and add the servers again") from None


def save(remotes: dict[str, Remote]) -> None:
    path = kept_in()
    path.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
    temporary = path.with_suffix(".new")
    temporary.unlink(missing_ok=True)
    temporary.touch(mode=0o600)
    temporary.write_text(json.dumps({name: asdict(one) for name, one in remotes.items()}, indent=1))
    temporary.replace(path)


def read_token(path: Path) -> str:
    """Of a file that nobody else can read. Raises: SaucerError"""
    try:
        _require_own(path)
        return path.read_text().strip()
    except OSError as error:
        raise SaucerError(str(path), f"cannot be read: {error.strerror}") from None


def _require_own(path: Path) -> None:
    """Raises: SaucerError where its group or others have any right to it"""
    if path.stat().st_mode & (stat.S_IRWXG | stat.S_IRWXO):
        raise SaucerError(str(path), f"holds a token and can be read by others: chmod 600 {path}")


def check_url(url: str) -> str:
    """Without what stands behind the host. Raises: SaucerError for what is no address of a server, or would send a token in the clear"""
    parts = urlsplit(url)
    if parts.scheme not in ("http", "https") or not parts.hostname:
        raise SaucerError(url, "has to be an address such as https://studio.example")
    if parts.scheme == "http" and parts.hostname not in ("127.0.0.1", "localhost", "::1"):
        raise SaucerError(url, "would send the token in the clear; use https://")
    return f"{parts.scheme}://{parts.netloc}"


def choose(name: str = "") -> Remote:
    """The one of that name, or the only one. Raises: SaucerError"""
    remotes = load()
    if not remotes:
        raise SaucerError("remote", "no server is known yet: saucer remote add NAME URL")
    if name:
        if name not in remotes:
            raise SaucerError(name, f"is no server that is known; there are {', '.join(sorted(remotes))}")
        return remotes[name]
    if len(remotes) > 1:
        raise SaucerError("remote", f"say which with --from: {', '.join(sorted(remotes))}")
    return next(iter(remotes.values()))
