from __future__ import annotations

import atexit
import gc
import os
import signal
from collections.abc import Iterator
from typing import Any

import pytest
from hypothesis import settings
from xdist.scheduler import LoadScopeScheduling

from tests.database import use_copies
from tests.long import at_length

# Times are measured in bench/, never here; the first call of a kernel compiles it. The same examples every time, so that a failure is of the
# change at hand; `--hypothesis-profile=search` looks for new ones. Two thirds of the core's tests' time went into drawing them: many are for the night.
settings.register_profile("saucer", deadline=None, max_examples=at_length(25, 250), database=None, derandomize=True)
settings.register_profile("search", deadline=None, max_examples=250, database=None)
settings.load_profile("saucer")
os.environ.setdefault("DJANGO_ALLOW_ASYNC_UNSAFE", "true")
os.environ.setdefault("SAUCER_TESTING", "1")

# What they begin with (an installation, a browser, all calls of the API) takes longer than their tests: one process does each of these files.
TOGETHER = (
    "tests/launch/test_killing.py", "tests/launch/test_staying_up.py", "tests/reference/test_blending.py", "tests/reference/test_ocio_config.py",
    "tests/studio/test_made_up_calls.py", "tests/studio/test_reference.py",
)  # fmt: skip


class _InTurn(LoadScopeScheduling):
    """Every test by itself to whichever process is free, but for the files that stay together."""

    def _split_scope(self, nodeid: str) -> str:
        path = nodeid.partition("::")[0]
        return path if path in TOGETHER else nodeid


@pytest.fixture(autouse=True)
def pipes() -> Iterator[None]:
    """Our commands end quietly where nobody reads on. Left so, a process of tests would end without a word by the next socket that is closed."""
    before = signal.getsignal(signal.SIGPIPE)
    yield
    signal.signal(signal.SIGPIPE, before)


@pytest.fixture(scope="session")
def django_db_modify_db_settings(django_db_modify_db_settings: None) -> None:
    use_copies()


def pytest_collection_finish() -> None:
    """What is loaded stays: the collector, which took a twelfth of the tests' time, need not go through it again and again."""
    gc.collect()
    gc.freeze()
    # At the end it is put back: libraries that count what is left of theirs would call all of it lost.
    atexit.register(gc.unfreeze)
    gc.set_threshold(50_000, 20, 50)


def pytest_xdist_make_scheduler(config: pytest.Config, log: Any) -> LoadScopeScheduling | None:
    """For --dist loadgroup, whose marks this version of pytest does not let through."""
    if config.getvalue("dist") != "loadgroup":
        return None
    # In the order of collection: what starts whole installations comes late, when the kernels are compiled.
    config.option.loadscopereorder = False
    return _InTurn(config, log)
