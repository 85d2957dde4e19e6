"""Coverage-guided fuzzing of every LUT reader, of look files, bundles and packs: `python -m fuzz.readers SECONDS`.

A file may be read or refused with a LutError or LookError. Anything else is a finding: another exception, more than five seconds, or
more memory than ten times the file and 64 MB (what the largest lattice of the smallest file may take, and the libraries' own tables).
"""

from __future__ import annotations

import hashlib
import io
import sys
import time
import tracemalloc
import zipfile
from collections import Counter

import atheris
import numpy as np

import saucer.core.lut.numbers
import saucer.core.steps.kinds  # noqa: F401
from saucer.core.errors import LookError, LutError, SaucerError
from saucer.core.lut.domain import grid
from saucer.core.lut.formulas import Cdl
from saucer.core.lut.table import Curve1D, Lattice, Lut
from saucer.core.reading import reader

# Compiled loops cannot be instrumented: their modules are imported first.
with atheris.instrument_imports(include=["saucer.core.files", "saucer.core.look"]):
    from saucer.core.files.fitting import fit_lut
    from saucer.core.files.format import Options
    from saucer.core.files.registry import formats, read_lut
    from saucer.core.files.zips import ZIP, read_members
    from saucer.core.look.bundle import read_bundle

    formats()  # imports the modules of the formats

reader.inside = True  # read here, where the coverage is seen
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
        lut = Lut(links=(Cdl((1.1, 1, 1)),)) if "cdl" in form.holds.tables else curve if form.id == "spi1d" else lattice
        found.append(form.write(fit_lut(lut, form).lut, Options()))
    steps = [
        b'{"kind": "lut", "sha256": "%s"}' % hashlib.sha256(found[0]).hexdigest().encode(),
        b'{"kind": "curves", "red": [[0, 0.1], [1, 1]]}',
    ]
    look = b'{"format": "saucer-look", "version": 1, "name": "seed", "steps": [%s]}'
    found.append(look % steps[1])
    for method in (zipfile.ZIP_STORED, zipfile.ZIP_DEFLATED, zipfile.ZIP_LZMA):
        found.append(_packed(method, {"look.json": look % b", ".join(steps), "luts/one.cube": found[0]}))
        found.append(_packed(method, {f"Film/{index}.lut": one for index, one in enumerate(found[:4])}))
    return found


def _packed(method: int, members: dict[str, bytes]) -> bytes:
    file = io.BytesIO()
    with zipfile.ZipFile(file, "w", method) as archive:
        for name, data in members.items():
            archive.writestr(name, data)
    return file.getvalue()


def refused(words: str) -> None:
    assert words.startswith("fuzz"), "a refusal begins with the file's name"
    counts["refused"] += 1


def read_as_look(data: bytes) -> None:
    try:
        bundle = read_bundle(data, "fuzz")
    except (LookError, LutError):
        counts["refused look"] += 1
    else:
        counts["bundle" if bundle.files else "look"] += 1


def read_as_pack(data: bytes) -> None:
    """As a pack is read: a bad member is a bad row, a pack that holds too much is refused."""
    try:
        for _, content in read_members(data, "fuzz", 50, 8 * 2**20):
            if isinstance(content, LutError):
                counts["bad member"] += 1
                continue
            try:
                read_lut(content, "")
                counts["member"] += 1
            except SaucerError:
                counts["refused member"] += 1
    except LutError:
        counts["refused pack"] += 1


def one_file(data: bytes) -> None:
    global slowest, largest
    started = time.monotonic()
    tracemalloc.start()
    try:
        if data[:1] == b"{" or data.startswith(ZIP):
            read_as_look(data)
        if data.startswith(ZIP):
            read_as_pack(data)
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
