"""./saucer test: linters, type checks, then every test."""

from __future__ import annotations

import os
import subprocess
import time
from concurrent.futures import Future, ThreadPoolExecutor
from pathlib import Path

from saucer.launch import install
from saucer.launch.console import complain, say
from saucer.launch.places import BESIDE_OTHERS, ROOT, VENV, WEB, child_environment

BIN = VENV / "bin"
TSC = ("node", "node_modules/typescript7/bin/tsc")
# The longest first, so that no core waits for the last of them.
CHECKS: tuple[tuple[str, list[str], bool], ...] = (
    ("vitest", ["npx", "--no-install", "vitest", "run"], True),
    # What needs types, and what React's compiler would not take; the other knows which folder takes from which.
    ("oxlint", ["npx", "--no-install", "oxlint", "--type-aware", "--deny-warnings", "src"], True),
    ("eslint", ["npx", "--no-install", "eslint", "src"], True),
    ("mypy", [str(BIN / "mypy")], False),
    # Compiled to machine code it takes a third; the linter needs the one before it, as a library.
    ("tsc", [*TSC, "--noEmit", "--incremental", "--tsBuildInfoFile", "node_modules/.cache/tsc.json"], True),
    ("prettier", ["npx", "--no-install", "prettier", "--check", "src"], True),
    # Every process of tests would wait for the first one to make them.
    ("tests' tables", [str(BIN / "python"), "-m", "tests.database"], False),
    ("import-linter", [str(BIN / "lint-imports")], False),
    ("ruff", [str(BIN / "ruff"), "check", "."], False),
    ("ruff format", [str(BIN / "ruff"), "format", "--check", "."], False),
)
CORES = os.cpu_count() or 1
# A process more than there are cores: what kills things waits for them to come up again. A browser and its server use more
# than one core: two pairs of them keep four busy, and no more of them are tried at once.
TESTS: tuple[tuple[str, list[str]], ...] = (
    ("pytest", ["--ignore", "tests/browser", "-n", str(min(8, CORES + 1)), "--dist", "loadgroup"]),
    ("pytest in the browser", ["tests/browser", "-n", "auto", "--maxprocesses", "2"]),
)
LONG, CHANGED = "--long", "--changed"


def _tests_reached() -> list[str]:
    """Raises: subprocess.CalledProcessError where git or the code cannot be read, which has said why."""
    command = [str(BIN / "python"), "-m", "tests.reached"]
    return subprocess.run(command, cwd=ROOT, env=child_environment(), capture_output=True, text=True, check=True).stdout.split()


class Checks:
    """With arguments: pytest with them. Without: everything; a failing check does not keep the others from running.

    `--long`: with more of what is drawn at random. `--changed`: only the tests that what has changed can reach.
    """

    def __init__(self, arguments: list[str]) -> None:
        self._more = {"SAUCER_LONG": "1"} if LONG in arguments else {}
        self._changed = CHANGED in arguments
        self._arguments = [one for one in arguments if one not in (LONG, CHANGED)]
        self._failed: list[str] = []
        self._side_by_side = ThreadPoolExecutor(CORES)
        self._begun: list[Future[None]] = []

    def begin_with_the_page(self) -> None:
        """What needs npm's packages alone goes on while Python's are still fetched."""
        if self._arguments:
            return
        say("linters, types, component tests, kernels ...")
        self._begin(in_web=True)

    def run(self) -> int:
        """Everything else, once all is installed. Returns: 1 where anything failed"""
        pytest = [str(BIN / "python"), "-m", "pytest"]
        if self._arguments:
            return subprocess.run([*pytest, *self._arguments], cwd=ROOT, env=self._environment(), check=False).returncode
        self._begin(in_web=False)
        # Without it every process of tests, and every installation that they start, would compile them beside the others.
        install.kernels()
        for one in self._begun:
            one.result()
        for name, chosen in self._tests():
            say(f"{name} ...")
            began = time.monotonic()
            done = subprocess.run([*pytest, *chosen], cwd=ROOT, env=self._environment(), check=False).returncode
            say(f"{name}: {'FAILED' if done else 'ok'}  {time.monotonic() - began:.0f} s")
            if done:
                self._failed.append(name)
        if self._failed:
            complain(f"failed: {', '.join(self._failed)}")
        return 1 if self._failed else 0

    def _environment(self) -> dict[str, str]:
        return child_environment(DJANGO_ALLOW_ASYNC_UNSAFE="true", SAUCER_TESTING="1", **BESIDE_OTHERS, **self._more)

    def _begin(self, in_web: bool) -> None:
        for name, command, of_page in CHECKS:
            if of_page == in_web:
                # The last commit's too, where nothing is changed since: without it vitest would find nothing, and say that all is well.
                more = ["--changed", "HEAD~1"] if self._changed and name == "vitest" else []
                self._begun.append(self._side_by_side.submit(self._check, name, [*command, *more], WEB if of_page else ROOT))

    def _check(self, name: str, command: list[str], where: Path) -> None:
        began = time.monotonic()
        done = subprocess.run(command, cwd=where, env=self._environment(), capture_output=True, text=True, check=False)
        say(f"{name:14} {'ok' if done.returncode == 0 else 'FAILED'}  {time.monotonic() - began:.0f} s")
        if done.returncode:
            self._failed.append(name)
            say((done.stdout + done.stderr).strip())

    def _tests(self) -> tuple[tuple[str, list[str]], ...]:
        if not self._changed:
            return TESTS
        reached = _tests_reached()
        say(
            f"{len(reached)} files of tests are reached by what has changed; the browser's are left out (./saucer test tests/browser)"
        )
        name, usual = TESTS[0]
        return ((name, [*reached, *usual]),) if reached else ()
