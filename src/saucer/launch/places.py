"""Where things lie, and the settings of this installation."""

from __future__ import annotations

import contextlib
import fcntl
import hashlib
import json
import os
import secrets
from collections.abc import Iterable, Iterator
from logging.handlers import RotatingFileHandler
from pathlib import Path
from typing import Any

from saucer import options
from saucer.launch.console import Stop

ROOT = Path(__file__).resolve().parents[3]
VAR = Path(os.environ.get("SAUCER_VAR", ROOT / "var"))
VENV = VAR / "venv"
LOGS = VAR / "log"
WEB = ROOT / "web"
PYTHON = VENV / "bin" / "python"


def setting(name: str) -> Any:
    """A setting of the table (saucer.options). Raises: Stop for one that cannot be used"""
    try:
        return options.value(name)
    except options.OptionError as error:
        raise Stop(str(error)) from None


def load_options() -> None:
    """What the file of settings says, into the environment, which all that is started has. Raises: Stop for what cannot be used"""
    try:
        options.load(VAR)
        for option in options.TABLE:
            options.value(option.name)
    except options.OptionError as error:
        raise Stop(str(error)) from None


def rotating_log(name: str) -> RotatingFileHandler:
    """A log that goes on where it was, and keeps five older ones of 10 MB."""
    LOGS.mkdir(parents=True, exist_ok=True)
    return RotatingFileHandler(LOGS / f"{name}.log", maxBytes=10 * 2**20, backupCount=5)


BESIDE_OTHERS = {"OPENBLAS_NUM_THREADS": "1"}
"""For processes of which there are several: threads of OpenBLAS wait by turning round, which takes the cores from the others."""


def child_environment(**more: str) -> dict[str, str]:
    """The environment of everything we start."""
    # Arrays of a picture's size are kept by the allocator and used again: fetching fresh pages for each costs 2 ms (docs/decisions/0008).
    memory = {"MALLOC_MMAP_THRESHOLD_": str(32 * 2**20), "MALLOC_TRIM_THRESHOLD_": str(128 * 2**20)}
    own = {"PYTHONPATH": str(ROOT / "src"), "SAUCER_VAR": str(VAR), "NUMBA_CACHE_DIR": str(VAR / "numba"), "PYTHONUNBUFFERED": "1"}
    # Compiled modules are kept, also where the shell says otherwise: compiling ours anew costs every process a second or two.
    given = {name: value for name, value in os.environ.items() if name != "PYTHONDONTWRITEBYTECODE"}
    return given | memory | own | more


DATA_VERSION = 2
"""Of what lies in var/. 1, without a number: two tables for looks and LUTs, before there was one catalogue."""


def check_data() -> None:
    """Raises: Stop when var/ holds the data of another Saucer, before anything in it is touched."""
    path = VAR / "local.json"
    if path.is_file() and json.loads(path.read_text()).get("data", 1) != DATA_VERSION:
        raise Stop(
            f"{VAR} holds the data of an earlier Saucer, which this one cannot read; nothing in it was changed. "
            f"Move it out of the way (mv {VAR} {VAR}.before), or set SAUCER_VAR to another folder, and start again."
        )


def read_local() -> dict[str, Any]:
    """var/local.json, made with a new secret key and database password where it is missing."""
    path = VAR / "local.json"
    if path.is_file():
        content: dict[str, Any] = json.loads(path.read_text())
        return content
    VAR.mkdir(parents=True, exist_ok=True)
    database = {"host": "127.0.0.1", "port": 0, "name": "saucer", "user": "saucer", "password": secrets.token_urlsafe(24)}
    write_local(content := {"data": DATA_VERSION, "secret_key": secrets.token_urlsafe(50), "database": database})
    return content


def write_local(content: dict[str, Any]) -> None:
    path = VAR / "local.json"
    temporary = path.with_suffix(".new")
    temporary.touch(mode=0o600)
    temporary.write_text(json.dumps(content, indent=2))
    temporary.replace(path)


def fingerprint(paths: Iterable[Path]) -> str:
    """SHA-256 over the names and contents of files, folders taken whole."""
    digest = hashlib.sha256()
    for path in paths:
        for file in sorted(path.rglob("*")) if path.is_dir() else [path]:
            if file.is_file():
                digest.update(str(file.relative_to(ROOT)).encode() + b"\0" + file.read_bytes() + b"\0")
    return digest.hexdigest()


@contextlib.contextmanager
def alone() -> Iterator[None]:
    """Only one ./saucer at a time installs or builds; the others wait."""
    VAR.mkdir(parents=True, exist_ok=True)
    with (VAR / "lock").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        yield
