from __future__ import annotations

import io
import zipfile

import pytest

from saucer.core.errors import LutError
from saucer.core.files import zips


def packed(**files: bytes) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, data in files.items():
            archive.writestr(name, data)
    return out.getvalue()


def test_members_come_with_their_paths():
    found = dict(zips.read_members(packed(**{"a/b.cube": b"1", "c.cube": b"2", "__MACOSX/a/._b.cube": b"3"}), "p.zip"))
    assert found == {"a/b.cube": b"1", "c.cube": b"2"}


@pytest.mark.parametrize("name", ["../x.cube", "/x.cube", "a/../../x.cube", "C:x.cube"])
def test_paths_that_point_outside_are_refused_one_by_one(name):
    found = dict(zips.read_members(packed(**{name: b"1", "ok.cube": b"2"}), "p.zip"))
    assert found.pop("ok.cube") == b"2"
    assert [str(error) for error in found.values()] == ["its name points outside the zip, so it was not read"]


def test_bombs_are_refused(monkeypatch):
    bomb = packed(**{"a.cube": bytes(3_000_000)})
    assert len(bomb) < 10_000
    monkeypatch.setattr(zips, "LARGEST_MEMBER", 1_000_000)
    with zips.StoredZip(bomb, "p.zip", 10, 10_000_000) as opened:
        ((_, content, problem),) = opened.members()
    assert content is None
    assert "larger than" in problem
    with pytest.raises(LutError, match=r"p\.zip: unpacks to more than"):
        list(zips.read_members(packed(**{"a.cube": bytes(3_000_000)}), "p.zip", most_bytes=500_000))
    with pytest.raises(LutError, match=r"p\.zip: holds 3 files; 2 is the most"):
        list(zips.read_members(packed(a=b"", b=b"", c=b""), "p.zip", most=2))


def test_a_member_without_a_name_is_one_bad_row():
    data = packed(a=b"x", b=b"y")
    central = data.index(b"PK\1\2")
    nameless = bytearray(data[: central + 46] + data[central + 47 :])
    nameless[central + 28 : central + 30] = b"\0\0"
    end = nameless.index(b"PK\5\6")
    size = int.from_bytes(nameless[end + 12 : end + 16], "little") - 1
    nameless[end + 12 : end + 16] = size.to_bytes(4, "little")
    found = dict(zips.read_members(bytes(nameless), "p.zip"))
    assert "has no name" in str(found[""])
    assert found["b"] == b"y"


def test_a_member_that_wants_gigabytes_to_be_unpacked_is_one_bad_row():
    file = io.BytesIO()
    with zipfile.ZipFile(file, "w", zipfile.ZIP_LZMA) as archive:
        archive.writestr("a.cube", b"x" * 500)
        archive.writestr("b.cube", b"y" * 500)
    data = bytearray(file.getvalue())
    at = data.index(b"a.cube") + 6 + 5
    data[at : at + 4] = (0xFFFF0000).to_bytes(4, "little")
    found = dict(zips.read_members(bytes(data), "p.zip"))
    assert "wants more than 64 MB of memory" in str(found["a.cube"])
    assert found["b.cube"] == b"y" * 500


def test_a_damaged_zip_is_named_and_a_damaged_member_stops_nothing():
    with pytest.raises(LutError, match=r"p\.zip: a damaged zip file"):
        list(zips.read_members(b"PK\3\4nothing", "p.zip"))
    data = bytearray(packed(**{"a.cube": b"x" * 500, "b.cube": b"y"}))
    at = data.index(b"a.cube") + 8
    data[at : at + 3] = b"\xff\xff\xff"
    found = dict(zips.read_members(bytes(data), "p.zip"))
    assert "cannot be unpacked" in str(found["a.cube"])
    assert found["b.cube"] == b"y"
