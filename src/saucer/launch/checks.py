"""./saucer test: linters, type checks, then every test."""

from __future__ import annotations

import os
import subprocess
import time
from concurrent.futures import ThreadPoolExecutor

from saucer.launch import install
from saucer.launch.console import complain, say
from saucer.launch.places import BESIDE_OTHERS, ROOT, VENV, WEB, child_environment

BIN = VENV / "bin"
# The longest first, so that no core waits for the last of them.
CHECKS: tuple[tuple[str, list[str], bool], ...] = (
    ("vitest", ["npx", "--no-install", "vitest", "run"], True),
    ("eslint", ["npx", "--no-install", "eslint", "src"], True),
    ("mypy", [str(BIN / "mypy")], False),
    ("tsc", ["npx", "--no-install", "tsc", "--noEmit", "--incremental", "--tsBuildInfoFile", "node_modules/.cache/tsc.json"], True),
    ("prettier", ["npx", "--no-install", "prettier", "--check", "src"], True),
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


def _chosen(changed: bool) -> tuple[tuple[tuple[str, list[str], bool], ...], tuple[tuple[str, list[str]], ...]]:
    """The checks and the tests that are to be run."""
    if not changed:
        return CHECKS, TESTS
    reached = _tests_reached()
    say(f"{len(reached)} files of tests are reached by what has changed; the browser's are left out (./saucer test tests/browser)")
    # The last commit's too, where nothing is changed since: without it vitest would find nothing, and say that all is well.
    checks = tuple(
        (name, [*command, "--changed", "HEAD~1"] if name == "vitest" else command, in_web) for name, command, in_web in CHECKS
    )
    name, usual = TESTS[0]
    return checks, ((name, [*reached, *usual]),) if reached else ()


def run_checks(arguments: list[str]) -> int:
    """With arguments: pytest with them. Without: everything; a failing check does not keep the others from running.

    `--long`: with more of what is drawn at random. `--changed`: only the tests that what has changed can reach.
    """
    more = {"SAUCER_LONG": "1"} if LONG in arguments else {}
    changed = CHANGED in arguments
    arguments = [one for one in arguments if one not in (LONG, CHANGED)]
    environment = child_environment(DJANGO_ALLOW_ASYNC_UNSAFE="true", SAUCER_TESTING="1", **BESIDE_OTHERS, **more)
    pytest = [str(BIN / "python"), "-m", "pytest"]
    if arguments:
        return subprocess.run([*pytest, *arguments], cwd=ROOT, env=environment, check=False).returncode
    checks, tests = _chosen(changed)
    failed = []

    def check(given: tuple[str, list[str], bool]) -> None:
        name, command, in_web = given
        began = time.monotonic()
        done = subprocess.run(command, cwd=WEB if in_web else ROOT, env=environment, capture_output=True, text=True, check=False)
        say(f"{name:14} {'ok' if done.returncode == 0 else 'FAILED'}  {time.monotonic() - began:.0f} s")
        if done.returncode:
            failed.append(name)
            say((done.stdout + done.stderr).strip())

    say("linters, types, component tests, kernels ...")
    with ThreadPoolExecutor(CORES) as side_by_side:
        # Without it every process of tests, and every installation that they start, would compile them beside the others.
        compiled = side_by_side.submit(install.kernels)
        list(side_by_side.map(check, checks))
        compiled.result()
    for name, chosen in tests:
        say(f"{name} ...")
        began = time.monotonic()
        done = subprocess.run([*pytest, *chosen], cwd=ROOT, env=environment, check=False).returncode
        say(f"{name}: {'FAILED' if done else 'ok'}  {time.monotonic() - began:.0f} s")
        if done:
            failed.append(name)
    if failed:
        complain(f"failed: {', '.join(failed)}")
    return 1 if failed else 0
