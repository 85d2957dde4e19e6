"""What ships for putting it up: units that systemd takes, commands that there are, settings that are some. The site of nginx: test_staying_up."""

from __future__ import annotations

import re
import shutil
import subprocess
from pathlib import Path

import pytest

from saucer import options
from saucer.launch.main import _parser
from saucer.launch.places import ROOT

DEPLOY = ROOT / "deploy"
UNITS = sorted((DEPLOY / "systemd").glob("*.service"))
CONTAINER = DEPLOY / "container"
FILES = [*UNITS, CONTAINER / "Containerfile", *sorted(CONTAINER.glob("*.yml"))]


@pytest.mark.skipif(shutil.which("systemd-analyze") is None, reason="systemd is not on this machine")
def test_systemd_takes_the_units(tmp_path: Path):
    for unit in UNITS:
        # The program where it is here; accounts and folders of a studio are not looked at.
        (tmp_path / unit.name).write_text(unit.read_text().replace("/opt/saucer", str(ROOT)))
    paths = [str(path) for path in tmp_path.glob("*.service")]
    verify = ["systemd-analyze", "verify", "--man=no", *paths]
    told = subprocess.run(
        verify, capture_output=True, text=True, check=False, env={"PATH": "/usr/bin:/bin", "SYSTEMD_UNIT_PATH": f"{tmp_path}:"}
    )
    about = [line for line in (told.stdout + told.stderr).splitlines() if "saucer" in line]
    assert about == []


@pytest.mark.parametrize("path", FILES, ids=lambda path: path.name)
def test_it_calls_commands_that_there_are_and_says_settings_that_are_some(path: Path):
    text = path.read_text()
    commands = re.findall(r'saucer/saucer (\w+)|"\./saucer", "(\w+)"|\./saucer (\w+)', text)
    known = _parser()._subparsers._group_actions[0].choices  # type: ignore[union-attr]
    assert commands
    assert {next(filter(None, one)) for one in commands} <= set(known)
    assert options.list_unknown(re.findall(r"SAUCER_[A-Z0-9_]+", text)) == []
