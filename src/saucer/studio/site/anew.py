"""For `./saucer dev`: `python -m saucer.studio.site.anew server ADDRESS` or `worker`, which start anew whenever our code changes.

Most of a start is importing the packages of others. This process has them imported and watches our files; a fork of it
imports ours and does the work. When a file changes, that fork ends and another one begins; where ours cannot be imported,
the next change is waited for.
"""

from __future__ import annotations

import importlib
import os
import signal
import sys
import time
import traceback
from collections.abc import Callable
from contextlib import suppress
from pathlib import Path
from types import FrameType

OURS = Path(__file__).parents[2]
OTHERS = (
    "django.contrib.auth.models", "django.core.management.commands.runserver", "django.contrib.staticfiles",
    "django.contrib.postgres.search", "django.db.backends.postgresql.base", "django.test.client", "ninja", "pydantic",
    "procrastinate", "psycopg_pool", "numpy", "numba", "scipy.ndimage", "scipy.optimize", "scipy.interpolate",
    "scipy.spatial", "PIL.Image", "PIL.ImageFont", "av", "PyOpenColorIO", "opentimelineio", "simplejpeg", "tifffile",
    "OpenEXR", "whitenoise.middleware", "defusedxml.ElementTree", "OpenImageIO", "reportlab.pdfgen.canvas", "timecode",
)  # fmt: skip
LOOKED_AT_EVERY = 0.1
LET_GO_AFTER = 2.0
"""Seconds that a worker has to end what it does."""


def _import_others() -> None:
    """Those of them that are installed. Models of Django need its settings, and come with ours."""
    for name in OTHERS:
        with suppress(Exception):
            importlib.import_module(name)


def _files() -> dict[str, int]:
    """When each was last changed, ns."""
    return {str(path): path.stat().st_mtime_ns for path in OURS.rglob("*.py")}


def _begin(work: Callable[[], None]) -> int:
    """The number of a fork that does it."""
    sys.stdout.flush()
    child = os.fork()
    if child:
        return child
    signal.signal(signal.SIGTERM, signal.SIG_DFL)
    try:
        work()
    except BaseException:
        traceback.print_exc()
    finally:
        sys.stdout.flush()
        os._exit(1)


def _end(child: int) -> None:
    deadline = time.monotonic() + LET_GO_AFTER
    with suppress(ProcessLookupError, ChildProcessError):
        os.kill(child, signal.SIGTERM)
        while not os.waitpid(child, os.WNOHANG)[0]:
            if time.monotonic() > deadline:
                os.kill(child, signal.SIGKILL)
            time.sleep(0.02)


def run_anew(work: Callable[[], None]) -> None:
    """For ever, or until it is told to end."""
    seen = _files()  # before the fork: what changes while it begins is a change
    child = _begin(work)

    def leave(number: int, frame: FrameType | None) -> None:
        _end(child)
        sys.exit(0)

    signal.signal(signal.SIGTERM, leave)
    while True:
        time.sleep(LOOKED_AT_EVERY)
        now = _files()
        if now != seen:
            changed = next((path for path in now if now[path] != seen.get(path)), "a file that is gone")
            print(f"{changed}: starting anew", flush=True)
            _end(child)
            child, seen = _begin(work), now


def serve(address: str) -> None:
    import django
    from django.core.management import call_command

    django.setup()
    call_command("runserver", address, use_reloader=False)


def do_jobs() -> None:
    import django

    django.setup()
    from procrastinate.contrib.django import app

    with app.replace_connector(app.connector.get_worker_connector()) as own:  # type: ignore[attr-defined]
        own.run_worker(concurrency=2, delete_jobs="successful")


if __name__ == "__main__":
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "saucer.studio.site.settings")
    _import_others()
    run_anew(do_jobs if sys.argv[1] == "worker" else lambda: serve(sys.argv[2]))
