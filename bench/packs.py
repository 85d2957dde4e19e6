"""Packs of LUTs read into their table by the worker's own function, in a database of its own: files a second."""

from __future__ import annotations

import contextlib
import time
import zipfile
from collections.abc import Iterator
from pathlib import Path
from tempfile import TemporaryDirectory

from django.test import override_settings
from django.test.utils import setup_databases, teardown_databases
from tests.make import a_lut

from bench.measure import Result
from saucer.core.files.formats.cube import write
from saucer.studio.common.store import keep_file
from saucer.studio.jobs.models import Job
from saucer.studio.luts.models import PackRow
from saucer.studio.luts.packs import Upload, read_pack
from saucer.studio.people.models import Person

WANTED = 40.0
"""Files a second, of the Shelf's budgets."""
PACKS = (("packs.read.2000", 2000, 17), ("packs.read.33", 200, 33))


@contextlib.contextmanager
def _own_studio() -> Iterator[Person]:
    """A database and a store that are taken away afterwards."""
    made = setup_databases(verbosity=0, interactive=False)
    with TemporaryDirectory() as folder:
        files = {"BACKEND": "saucer.studio.common.store.WholeFileStorage", "OPTIONS": {"location": folder}}
        try:
            with override_settings(
                STORAGES={"default": files, "staticfiles": {"BACKEND": "django.core.files.storage.InMemoryStorage"}}
            ):
                yield Person.objects.create_user("ilse", password=None, role="designer")
        finally:
            teardown_databases(made, verbosity=0)


def _pack(folder: Path, count: int, size: int) -> Path:
    """That many files of which no two are the same, in forty folders."""
    path = folder / f"{count}.zip"
    with zipfile.ZipFile(path, "w", zipfile.ZIP_DEFLATED, compresslevel=1) as pack:
        for number in range(count):
            data = write(a_lut(size, number % 50, title=f"Look {number}"))
            pack.writestr(f"Film {number % 40:02}/look-{number:04}.cube", data)
    return path


def run() -> Iterator[Result]:
    with _own_studio() as person, TemporaryDirectory() as folder:
        for name, count, size in PACKS:
            path = _pack(Path(folder), count, size)
            job = Job.objects.create(kind="intake", person=person)
            upload = Upload(sha256=keep_file(path).pk, path=path.name)
            began = time.perf_counter()
            read_pack(job, [upload], lambda done: None)
            took = time.perf_counter() - began
            rows = PackRow.objects.filter(pack__job=job)
            assert rows.count() == count
            assert not rows.exclude(found__problem="").exists()
            yield Result(name, took / count * 1e3, f"{count} files of {size} nodes, {WANTED:g} a second", 1e3 / WANTED, 1.0)
