"""Look files with their LUTs: beside them, in a bundle, and every way that can be wrong."""

from __future__ import annotations

import io
import json
import zipfile
from pathlib import Path

import numpy as np
import pytest

from saucer.core.errors import SaucerError
from saucer.core.files.formats import cube
from saucer.core.look.bundle import read_bundle, write_bundle
from saucer.core.lut.apply import apply_lut
from tests.make import a_lut, evaluate

CUBE = cube.write(a_lut(5))
X = np.random.default_rng(3).random((50, 3), dtype=np.float32)


def look_text(*steps: dict) -> bytes:
    return json.dumps({"format": "saucer-look", "version": 1, "steps": list(steps)}).encode()


def zipped(**members: bytes) -> bytes:
    packed = io.BytesIO()
    with zipfile.ZipFile(packed, "w") as archive:
        for name, data in members.items():
            archive.writestr(name.replace("__", "/").replace("_dot_", "."), data)
    return packed.getvalue()


USES = look_text({"kind": "group", "steps": [{"kind": "lut", "file": "luts/print.cube"}]})


def test_luts_beside_a_look_are_read_with_it(tmp_path: Path):
    (tmp_path / "luts").mkdir()
    (tmp_path / "luts" / "print.cube").write_bytes(CUBE)
    bundle = read_bundle(USES, "a.json", tmp_path)
    step = bundle.look.steps[0].steps[0]
    assert (step.file, step.title, len(step.sha256)) == ("", "print", 64)
    np.testing.assert_allclose(evaluate(bundle.look, X, luts=bundle.luts), apply_lut(cube.read(CUBE), X), atol=1e-6)


def test_a_bundle_there_and_back_gives_the_same_bytes_and_the_same_look():
    bundle = read_bundle(zipped(look_dot_json=USES, luts__print_dot_cube=CUBE), "a.zip")
    packed = write_bundle(bundle.look, lambda sha256: bundle.files[sha256])
    again = read_bundle(packed, "b.zip")
    assert again.look.content_hash == bundle.look.content_hash
    assert write_bundle(again.look, lambda sha256: bundle.files[sha256]) == packed
    assert np.array_equal(evaluate(again.look, X, luts=again.luts), evaluate(bundle.look, X, luts=bundle.luts))


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (look_text({"kind": "lut", "file": "../x.cube"}), 'a, steps[0], file: "../x.cube" lies outside the folder of the look'),
        (look_text({"kind": "lut", "file": "/etc/passwd"}), 'a, steps[0], file: "/etc/passwd" lies outside the folder'),
        (look_text({"kind": "lut", "file": "gone.cube"}), 'a, steps[0], file: "gone.cube": no such file'),
        (look_text({"kind": "lut", "file": "bad.cube"}), "a, steps[0], bad.cube, line 2: "),
        (zipped(other=b""), "a: a bundle holds one look.json, this one holds 0"),
        (zipped(look_dot_json=USES), 'a, steps[0].steps[0], file: "luts/print.cube" is not in the bundle'),
        (zipped(look_dot_json=USES.replace(b"print", b"../../print"), luts__print_dot_cube=CUBE), "a, steps[0].steps[0], file: "),
        (zipped(look_dot_json=look_text({"kind": "crv"})), "a, look.json: steps[0]: unknown kind of step"),
        (zipped(look_dot_json=USES, **{"../x": b""}), 'a: "../x": its name points outside the zip, so it was not read'),
        (zipped(look_dot_json=USES, luts__print_dot_cube=CUBE)[:200], "a: a damaged zip file"),
    ],
)
def test_what_is_wrong_says_where(tmp_path: Path, data: bytes, words: str):
    (tmp_path / "bad.cube").write_text("LUT_3D_SIZE 2\n0 0 zero\n")
    with pytest.raises(SaucerError) as refusal:
        read_bundle(data, "a", tmp_path)
    assert str(refusal.value).startswith(words)


def test_without_a_folder_files_are_not_read_from_anywhere():
    with pytest.raises(SaucerError, match="send the look and its LUTs as one bundle"):
        read_bundle(USES, "a.json")


def test_a_bundle_that_unpacks_to_too_much_is_refused(monkeypatch: pytest.MonkeyPatch):
    monkeypatch.setattr("saucer.core.look.bundle.MOST_BYTES", 10_000)
    packed = io.BytesIO()
    with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("look.json", USES)
        archive.writestr("zeros.cube", b"0" * 1_000_000)
    assert len(packed.getvalue()) < 3000
    with pytest.raises(SaucerError, match="unpacks to more than"):
        read_bundle(packed.getvalue(), "a.zip")
