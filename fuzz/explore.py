"""Coverage-guided fuzzing of one reader: `python -m fuzz.explore KIND SECONDS`, begun from what is kept of it in `fuzz/corpus/KIND`.

A file may be read or refused. Anything else is a finding, and is kept beside this module as `crash-...`: another exception, more than five
seconds, or, of what is text, more memory than ten times the file and 64 MB (what the largest lattice of the smallest file may take, and
the libraries' own tables). Of what reached new paths MOST_KEPT at most are kept, evenly from the smallest to the largest.
"""

from __future__ import annotations

import hashlib
import os
import subprocess
import sys
import tempfile
import time
import tracemalloc
from collections import Counter
from pathlib import Path

import atheris

import saucer.core.lut.numbers
import saucer.core.steps.kinds  # noqa: F401
from saucer.core.reading import reader

# Compiled loops cannot be instrumented: their modules are imported first.
with atheris.instrument_imports(
    include=[
        "saucer.core.files",
        "saucer.core.look",
        "saucer.core.pictures",
        "saucer.core.clips",
        "saucer.studio",
        "opentimelineio",
    ]
):
    from fuzz import CORPUS, readers

MOST_KEPT, LARGEST_KEPT = 60, 8 << 10
SLOWEST, ROOM = 5.0, 64 << 20
MEASURED = ("lut", "look", "timeline")
"""What is built from text: a picture's header may announce what it takes."""


def explore(kind: str, seconds: int, folder: Path) -> None:
    """Until the time is over; what is new is in the folder as soon as it is found."""
    counts: Counter[str] = Counter()
    slowest = most = 0.0
    read, until = readers.READERS[kind], time.monotonic() + seconds

    def one_file(data: bytes) -> None:
        nonlocal slowest, most
        began = time.monotonic()
        if kind in MEASURED:
            tracemalloc.start()
        try:
            counts[read(data)] += 1
        finally:
            if kind in MEASURED:
                most = max(most, peak := tracemalloc.get_traced_memory()[1])
                tracemalloc.stop()
        took = time.monotonic() - began
        slowest = max(slowest, took)
        assert took < SLOWEST, f"{took:.1f} s for {len(data)} bytes"
        assert kind not in MEASURED or peak < 10 * len(data) + ROOM, f"{peak} bytes of memory for {len(data)}"
        if began > until:
            told = f"{counts.total()} files: {dict(counts)}; slowest {slowest * 1e3:.0f} ms"
            print(
                f"{kind}: {told}, most memory {most / 2**20:.0f} MB; {len(list(folder.iterdir()))} reached something new",
                flush=True,
            )
            os._exit(0)  # libraries' threads do not bear being ended by libFuzzer

    atheris.Setup([sys.argv[0], str(folder), "-max_len=40000", "-timeout=30", "-rss_limit_mb=4096"], one_file)
    atheris.Fuzz()


def keep(kind: str, folder: Path) -> None:
    """In place of what was kept before, from which this run began."""
    target = CORPUS / kind
    target.mkdir(parents=True, exist_ok=True)
    found = sorted(folder.iterdir(), key=lambda path: (path.stat().st_size, path.name))
    step = max(1, len(found) // MOST_KEPT)
    for path in target.iterdir():
        path.unlink()
    for path in found[::step][:MOST_KEPT]:
        if path.stat().st_size <= LARGEST_KEPT:
            (target / path.name).write_bytes(path.read_bytes())


def main(kind: str, seconds: str = "300", inside: str = "") -> int:
    if inside:
        reader.inside = True  # read here, where the coverage is seen
        explore(kind, int(seconds), Path(inside))
    with tempfile.TemporaryDirectory(prefix=f"saucer-fuzz-{kind}-") as name:
        folder = Path(name)
        for data in [*readers.seeds(kind), *(path.read_bytes() for path in (CORPUS / kind).glob("*"))]:
            (folder / hashlib.sha256(data).hexdigest()[:16]).write_bytes(data)
        done = subprocess.run([sys.executable, "-m", "fuzz.explore", kind, seconds, name], check=False)
        keep(kind, folder)
    return done.returncode


if __name__ == "__main__":
    sys.exit(main(*sys.argv[1:]))
