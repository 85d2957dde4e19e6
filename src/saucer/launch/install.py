"""The Python environment, the web application's packages and its build; each done again only when its input changed."""

from __future__ import annotations

import os
import platform
import subprocess
import sys
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from saucer.launch import system
from saucer.launch.console import Stop, say
from saucer.launch.places import PYTHON, ROOT, VAR, VENV, WEB, alone, check_data, child_environment, fingerprint

REQUIREMENTS = ROOT / "requirements"


def _current(stamp: Path, state: str) -> bool:
    return stamp.is_file() and stamp.read_text() == state


def python(development: bool) -> None:
    """The virtual environment with hashed requirements. Raises: Stop."""
    files = [REQUIREMENTS / "run.txt"] + ([REQUIREMENTS / "dev.txt"] if development else [])
    for file in files:
        stamp = VENV / f".{file.stem}"
        state = f"{sys.version}\n{fingerprint([file])}"
        if _current(stamp, state):
            continue
        system.require_space()
        if not PYTHON.exists():
            say("Making a Python environment ...")
            system.run_logged(
                [sys.executable, "-m", "venv", str(VENV)], "venv",
                "The Python environment could not be made; on Debian the package python3-venv may be missing",
            )  # fmt: skip
        say(f"Installing Python packages ({file.name}) ...")
        command = [str(PYTHON), "-m", "pip", "install", "--disable-pip-version-check", "--require-hashes", "-r", str(file)]
        if development:  # a third of the time of a first run of the tests; what is needed of it is compiled as it is needed
            command.append("--no-compile")
        system.run_logged(command, "pip", "The Python packages could not be installed")
        stamp.write_text(state)


LOCK = WEB / "package-lock.json"
SOURCES = [WEB / name for name in ("src", "public", "index.html", "vite.config.ts", "tsconfig.json")] + [LOCK]
PACKAGES_STAMP, BUILD_STAMP = WEB / "node_modules" / ".saucer", WEB / "node_modules" / ".saucer-build"


def _web_states() -> tuple[str | None, str | None]:
    """What npm's packages and the build have yet to be brought to; None where they are there already."""
    packages, build = fingerprint([LOCK]), fingerprint(SOURCES)
    built = _current(BUILD_STAMP, build) and (WEB / "dist" / "index.html").is_file()
    return None if _current(PACKAGES_STAMP, packages) else packages, None if built else build


def _web_packages() -> None:
    """Raises: Stop"""
    if state := _web_states()[0]:
        system.require_space()
        say("Installing the web application's packages ...")
        system.run_logged(
            ["npm", "ci", "--no-audit", "--no-fund"], "npm", "The web application's packages could not be installed", cwd=WEB
        )
        PACKAGES_STAMP.write_text(state)


def _web_build(wait_for_python: Callable[[], object]) -> None:
    """Raises: Stop"""
    if state := _web_states()[1]:
        say("Building the web application ...")
        system.run_logged(["npm", "run", "build"], "build", "The web application could not be built", cwd=WEB)
        # Packed beside each text, so that the server packs nothing while it is asked.
        wait_for_python()
        pack = [str(PYTHON), "-m", "whitenoise.compress", "--no-brotli", "-q", str(WEB / "dist")]
        system.run_logged(pack, "build", "The web application could not be packed")
        BUILD_STAMP.write_text(state)


def everything(development: bool, meanwhile: Callable[[], None] = lambda: None) -> None:
    """Whatever is missing. What cannot be had is found out before anything is installed. Raises: Stop.

    meanwhile: begins what needs npm's packages alone, while the others are fetched
    """
    system.require_python()
    check_data()
    with alone():
        if any(_web_states()):
            system.require_node()
        system.require_packages(development)
        with ThreadPoolExecutor(1) as beside:  # both wait for networks and disks most of the time
            installed = beside.submit(python, development)
            _web_packages()
            meanwhile()
            _web_build(installed.result)
            installed.result()


KERNELS_STAMP = VAR / "numba" / ".saucer"


def kernels() -> None:
    """Every kernel compiled once, by one process, before any other needs one: many compiling at once on a busy machine take minutes each.

    Raises: Stop
    """
    with alone():
        state = fingerprint([ROOT / "src" / "saucer" / "core", REQUIREMENTS / "run.txt"]) + platform.processor() + sys.version
        if _current(KERNELS_STAMP, state):
            return
        say("Compiling what pictures are computed with (once; a minute or two) ...")
        if run_python(["-m", "saucer.core.engine.warm"]):
            raise Stop("What pictures are computed with could not be compiled; what went wrong stands above.")
        KERNELS_STAMP.parent.mkdir(parents=True, exist_ok=True)
        KERNELS_STAMP.write_text(state)


def core_only() -> None:
    """What the commands without a server need."""
    system.require_python()
    check_data()
    with alone():
        python(development=False)


def run_python(arguments: list[str], *, replace: bool = False, **environment: str) -> int:
    """Run the environment's Python; with `replace` in the place of this process."""
    command = [str(PYTHON), *arguments]
    if replace:
        os.execve(command[0], command, child_environment(**environment))
    return subprocess.run(command, env=child_environment(**environment), cwd=ROOT, check=False).returncode


def manage(*arguments: str) -> None:
    """A Django management command. Raises: Stop."""
    if run_python(["-m", "saucer.studio", *arguments]):
        raise Stop(f"`{' '.join(arguments)}` failed; what went wrong stands above.")


def demo(what: str) -> None:
    """Load the demo's data, or print its sign-ins. Raises: Stop."""
    if run_python(["-m", "saucer.demo", what]):
        raise Stop(f"The demo's {what} failed; what went wrong stands above.")
