"""Debian's packages, Node, disk space: what the machine has to have."""

from __future__ import annotations

import os
import re
import shutil
import subprocess
import sys
from pathlib import Path

from saucer.launch.console import Stop, say
from saucer.launch.places import LOGS, VAR

NEEDED_BYTES = 3 * 1024**3
PYTHON_AT_LEAST, NODE_AT_LEAST = (3, 11), 20


def postgres_programs(version: str | None = None) -> Path | None:
    """The folder with Debian's initdb and pg_ctl, of the version asked for or the newest there is."""
    found = [path for path in Path("/usr/lib/postgresql").glob("*/bin") if (path / "initdb").is_file()]
    if version:
        found = [path for path in found if path.parent.name == version]
    return max(found, key=lambda path: float(path.parent.name), default=None)


def chromium() -> str | None:
    return shutil.which("chromium")


def require_python() -> None:
    if sys.version_info < PYTHON_AT_LEAST:
        raise Stop(f"Python {'.'.join(map(str, PYTHON_AT_LEAST))} or newer is needed, this is {sys.version.split()[0]}.")


def require_node() -> None:
    node, npm = shutil.which("node"), shutil.which("npm")
    if not node or not npm:
        raise Stop(
            f"{'npm' if node else 'Node.js'} is missing. "
            f"Install Node.js {NODE_AT_LEAST} or newer with npm, so that `node` and `npm` are on the PATH."
        )
    told = subprocess.run([node, "--version"], capture_output=True, text=True, check=False).stdout
    version = re.match(r"v(\d+)", told)
    if not version or int(version[1]) < NODE_AT_LEAST:
        raise Stop(f"Node.js {NODE_AT_LEAST} or newer is needed, this is {told.strip() or 'unknown'}.")


def require_space() -> None:
    VAR.mkdir(parents=True, exist_ok=True)
    free = shutil.disk_usage(VAR).free
    if free < NEEDED_BYTES:
        raise Stop(
            f"{VAR} has {free / 1e9:.1f} GB free; installing takes {NEEDED_BYTES / 1e9:.0f} GB. "
            f"Free some, or set SAUCER_VAR to a folder on another disk."
        )


def nginx() -> str | None:
    return shutil.which("nginx") or shutil.which("/usr/sbin/nginx")


def require_packages(development: bool) -> None:
    """Debian's packages: installed when we are root, named otherwise. development: what tests need too. Raises: Stop."""
    missing = [] if postgres_programs() else ["postgresql"]
    if development:
        wanted = (("chromium", chromium()), ("nginx-light", nginx()), ("libimage-exiftool-perl", shutil.which("exiftool")))
        missing += [name for name, found in wanted if not found]
    if not missing:
        return
    command = f"apt-get install -y --no-install-recommends {' '.join(missing)}"
    if os.geteuid() != 0:
        raise Stop(f"Missing on this machine: {', '.join(missing)}. Ask an administrator to run:  {command}")
    if not shutil.which("apt-get"):
        raise Stop(f"Missing on this machine: {', '.join(missing)}, and there is no apt-get to install them with.")
    say(f"Installing {', '.join(missing)} from Debian's packages ...")
    run_logged(["apt-get", "update"], "apt", "Debian's package lists could not be fetched; is there a network?")
    # Debian starts a cluster of its own on installation; we bring our own and want no other.
    environment = os.environ | {"DEBIAN_FRONTEND": "noninteractive"}
    run_logged(command.split(), "apt", f"`{command}` failed", environment=environment)


def run_logged(
    command: list[str], log: str, problem: str, *, cwd: Path | None = None, environment: dict[str, str] | None = None
) -> None:
    """Run a command with its output in a log. Raises: Stop with `problem`, the end of the output and where the rest is."""
    LOGS.mkdir(parents=True, exist_ok=True)
    path = LOGS / f"{log}.log"
    with path.open("w") as output:
        done = subprocess.run(
            command, stdout=output, stderr=subprocess.STDOUT, stdin=subprocess.DEVNULL, cwd=cwd, env=environment, check=False
        )
    if done.returncode:
        last = " / ".join(path.read_text(errors="replace").strip().splitlines()[-3:])
        raise Stop(f"{problem} ({last}). All of it is in {path}.")
