"""The core installs alone: what it imports is what it asks for, and the locked requirements of the launcher are of the same metadata."""

from __future__ import annotations

import importlib.metadata
import os
import re
import subprocess
import sys
import tomllib
from pathlib import Path

import pytest
from packaging.requirements import Requirement

from saucer.core.look.model import look_from, look_text

ROOT = Path(__file__).parents[2]
PROJECT = tomllib.loads((ROOT / "pyproject.toml").read_text())["project"]
CORE = [Requirement(one) for one in PROJECT["dependencies"]]
SERVER = [Requirement(one) for one in PROJECT["optional-dependencies"]["server"]]
# With the kernels that are compiled already: a process that has none would compile them for a minute.
BARE = {"PYTHONPATH": str(ROOT / "src"), "NUMBA_CACHE_DIR": os.environ["NUMBA_CACHE_DIR"]}
# Refuses every package outside the standard library that the core did not ask for, then runs the command that is installed.
ALONE = """
import importlib.abc, sys
allowed = set(sys.argv[1].split(",")) | set(sys.stdlib_module_names) | {"saucer"}
class Refuse(importlib.abc.MetaPathFinder):
    def find_spec(self, name, path=None, target=None):
        if path is None and name not in allowed and not name.startswith("_"):
            raise ModuleNotFoundError("not asked for: " + name, name=name)
sys.meta_path.insert(0, Refuse())
from saucer.core.commands.main import main
raise SystemExit(main(sys.argv[2:]))
"""


def closure(requirements: list[Requirement]) -> set[str]:
    """Names of the distributions that these bring along."""
    found: set[str] = set()
    waiting = [one.name for one in requirements]
    while waiting:
        name = waiting.pop()
        if name in found:
            continue
        found.add(name)
        for text in importlib.metadata.requires(name) or []:
            needed = Requirement(text)
            if needed.marker is None or needed.marker.evaluate({"extra": ""}):
                waiting.append(needed.name)
    return found


def modules_of(distributions: set[str]) -> set[str]:
    wanted = {re.sub(r"[-_.]+", "-", name).lower() for name in distributions}
    homes = importlib.metadata.packages_distributions()
    return {module for module, names in homes.items() if wanted & {re.sub(r"[-_.]+", "-", name).lower() for name in names}}


def test_the_command_runs_with_what_the_core_asks_for_and_nothing_else(tmp_path: Path):
    (tmp_path / "look.json").write_text(look_text(look_from({"name": "Dusk", "steps": [{"kind": "tone", "exposure": 0.5}]})))
    modules = ",".join(sorted(modules_of(closure(CORE))))
    for words in (
        ["bake", "look.json", "-o", "out.cube", "--size", "9"],
        ["inspect", "out.cube"],
        ["convert", "out.cube", "out.clf"],
    ):
        done = subprocess.run(
            [sys.executable, "-c", ALONE, modules, *words], cwd=tmp_path, env=BARE,
            capture_output=True, text=True, check=False,
        )  # fmt: skip
        assert done.returncode == 0, done.stderr
    assert (tmp_path / "out.clf").read_text().startswith("<?xml")
    refused = subprocess.run(
        [sys.executable, "-c", ALONE.replace("saucer.core.commands.main", "saucer.studio.site.urls"), modules], capture_output=True,
        text=True, env=BARE, check=False,
    )  # fmt: skip
    assert "not asked for: django" in refused.stderr, "the studio does need more"


@pytest.mark.parametrize("needed", [*CORE, *SERVER], ids=lambda one: one.name)
def test_what_is_locked_is_what_is_asked_for(needed):
    locked = dict(re.findall(r"^([\w.-]+)==([^ \\]+)", (ROOT / "requirements" / "run.txt").read_text(), re.MULTILINE))
    version = {name.lower(): version for name, version in locked.items()}[needed.name.lower()]
    assert needed.specifier.contains(version)
    assert importlib.metadata.version(needed.name) == version


def test_the_command_is_where_the_metadata_says():
    assert importlib.metadata.EntryPoint("saucer", PROJECT["scripts"]["saucer"], "console_scripts").load().__name__ == "main"
