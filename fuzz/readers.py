"""Coverage-guided fuzzing of every LUT reader: `python -m fuzz.readers SECONDS`.

A file may be read or refused with a LutError. Anything else is a finding: another exception, more than five seconds, or more memory than
ten times the file and 64 MB (what the largest lattice of the smallest file may take, and the libraries' own tables).
"""

from __future__ import annotations

import sys
import time
import tracemalloc
from collections import Counter

import atheris
import numpy as np

from saucer.core.errors import LutError
from saucer.core.lut.domain import grid
from saucer.core.lut.formulas import Cdl
from saucer.core.lut.table import Curve1D, Lattice, Lut

with atheris.instrument_imports(include=["saucer.core.files"]):
    from saucer.core.files.fitting import fit_lut
    from saucer.core.files.format import Options
    from saucer.core.files.registry import formats, read_lut

    formats()  # imports the modules of the formats

SLOWEST = 5.0
ROOM = 64 * 2**20
counts: Counter[str] = Counter()
slowest = 0.0
largest = 0.0


def seeds() -> list[bytes]:
    """A small good file of every format."""
    lattice = Lut(lattice=Lattice((grid(4) ** np.float32(1.2)).reshape(4, 4, 4, 3)), title="seed", comments=("Rights: seed",))
    curve = Lut(Curve1D(np.repeat(np.linspace(0, 1, 8, dtype=np.float32)[:, None], 3, 1)))
    found = []
    for form in formats().values():
        lut = Lut(nodes=(Cdl((1.1, 1, 1)),)) if "cdl" in form.holds.tables else curve if form.id == "spi1d" else lattice
        found.append(form.write(fit_lut(lut, form).lut, Options()))
    return found


def refused(words: str) -> None:
    assert words.startswith("fuzz"), "a refusal begins with the file's name"
    counts["refused"] += 1


def one_file(data: bytes) -> None:
    global slowest, largest
    started = time.monotonic()
    tracemalloc.start()
    try:
        lut, form = read_lut(data, "fuzz")
        assert all(np.isfinite(table).all() for table in lut.tables)
        counts[form.id] += 1
    except LutError as error:
        refused(str(error))
    finally:
        most = tracemalloc.get_traced_memory()[1]
        tracemalloc.stop()
    took = time.monotonic() - started
    slowest, largest = max(slowest, took), max(largest, most)
    assert took < SLOWEST, f"{took:.1f} s for {len(data)} bytes"
    assert most < 10 * len(data) + ROOM, f"{most} bytes of memory for {len(data)}"
    total = sum(counts.values())
    if total % 20_000 == 0:
        print(f"{total} files: {dict(counts)}; slowest {slowest * 1000:.0f} ms, most memory {largest / 2**20:.1f} MB", flush=True)


def main() -> None:
    import os
    import tempfile

    seconds = int(sys.argv[1]) if len(sys.argv) > 1 else 300
    folder = tempfile.mkdtemp(prefix="saucer-fuzz-")
    for index, data in enumerate(seeds()):
        with open(os.path.join(folder, f"seed{index}"), "wb") as file:
            file.write(data)
    arguments = [
        sys.argv[0],
        folder,
        f"-max_total_time={seconds}",
        "-max_len=40000",
        "-timeout=20",
        "-rss_limit_mb=4096",
        "-print_final_stats=1",
    ]
    atheris.Setup(arguments, one_file)
    atheris.Fuzz()


if __name__ == "__main__":
    main()
