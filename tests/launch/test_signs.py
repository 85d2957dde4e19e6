"""A process that gives no sign of life is replaced."""

from __future__ import annotations

import os
import resource
import signal
import time
from pathlib import Path

import pytest

from saucer.launch import processes
from tests.launch.installation import eventually

GIVES_SIGNS = "import saucer.studio.site.alive as a, time; a.SIGN_EVERY = 0.1; a.give_signs(); time.sleep(600)"
HOLDS_ITS_INTERPRETER = "import os, time; os.write(int(os.environ['SAUCER_SIGN']), b'.'); time.sleep(600)"
GIVES_NONE = "import time; time.sleep(600)"


@pytest.fixture
def group(tmp_path: Path, monkeypatch):
    monkeypatch.setattr("saucer.launch.places.LOGS", tmp_path)
    monkeypatch.setattr(processes, "LOGS", tmp_path)
    monkeypatch.setattr(processes, "SILENT_AFTER", 1.0)
    monkeypatch.setattr(processes, "PAUSES", (0.1,))
    made = processes.Group()
    yield made
    made.end()


def tend_until(group: processes.Group, check, seconds: float) -> bool:
    until = time.monotonic() + seconds
    while time.monotonic() < until:
        group.tend(time.monotonic())
        if check():
            return True
        time.sleep(0.05)
    return False


def test_one_that_falls_silent_is_ended_and_started_again(group, capsys):
    group.start("worker", ["-c", HOLDS_ITS_INTERPRETER])
    (first,) = group.pids()
    assert tend_until(group, lambda: group.pids() != [first], 30)
    assert "gave no sign of life" in capsys.readouterr().out


def test_one_that_is_stopped_is_too(group):
    group.start("worker", ["-c", GIVES_SIGNS])
    (first,) = group.pids()
    eventually(lambda: not group._children["worker"].signs.are_missing(time.monotonic()) and group._children["worker"].signs._last)
    os.kill(first, signal.SIGSTOP)
    assert tend_until(group, lambda: group.pids() != [first], 30)


@pytest.mark.parametrize("words", [GIVES_SIGNS, GIVES_NONE])
def test_one_that_gives_signs_or_is_still_starting_is_left_alone(group, words, monkeypatch):
    monkeypatch.setattr(processes, "SILENT_AFTER", 4.0)  # a busy machine stands still for a second, and this is not about that
    group.start("worker", ["-c", words])
    (first,) = group.pids()
    assert not tend_until(group, lambda: group.pids() != [first], 6)


def test_a_worker_may_have_so_much_memory_and_its_readers_their_own(group, monkeypatch, tmp_path):
    monkeypatch.setenv("SAUCER_WORKER_GB", "5")
    words = f"import resource; open({str(tmp_path / 'told')!r}, 'w').write(str(resource.getrlimit(resource.RLIMIT_AS)))"
    group.start("worker", ["-c", words], gives_way=True)
    eventually(lambda: (tmp_path / "told").exists() and (tmp_path / "told").read_text().endswith(")"))
    assert (tmp_path / "told").read_text() == str((5 << 30, resource.RLIM_INFINITY))


@pytest.mark.skipif(not Path("/proc/self/autogroup").exists(), reason="this kernel weighs no sessions against each other")
def test_what_gives_way_does_so_to_other_sessions_too(group, tmp_path):
    """Every process of ours has a session of its own, so that its niceness alone would count for nothing."""
    for name, gives_way, weight in (("worker", True, 10), ("server", False, 0)):
        words = f"import os; open({str(tmp_path / name)!r}, 'w').write(open('/proc/self/autogroup').read() + f'{{os.nice(0)}}.')"
        group.start(name, ["-c", words], gives_way=gives_way)
        eventually(lambda name=name: (tmp_path / name).exists() and (tmp_path / name).read_text().endswith("."))
        assert f"nice {weight}\n{weight}." in (tmp_path / name).read_text()
