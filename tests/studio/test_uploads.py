"""What is too large is refused by its size alone: nothing of it is read."""

from __future__ import annotations

import pytest
from django.core.files.uploadedfile import InMemoryUploadedFile, TemporaryUploadedFile, UploadedFile

from saucer.core.errors import LutError, PictureError
from saucer.studio.common.uploads import read_upload
from saucer.studio.pictures import rules as pictures
from tests.make import png


class Unreadable(UploadedFile):
    def read(self, *args: int) -> bytes:
        raise AssertionError("it was read before its size was looked at")

    chunks = read


@pytest.mark.parametrize("error", [LutError, PictureError])
def test_the_size_is_looked_at_first(error):
    with pytest.raises(error, match=r"huge\.cube: larger than 64 MB"):
        read_upload(Unreadable(name="../up/huge.cube", size=64 * 2**20 + 1), 64 * 2**20, "LUT", error)


@pytest.mark.parametrize("path", ["/luts", "/looks/file", "/packs", "/charts/read", "/pairs"])
def test_no_upload_is_read_that_is_larger_than_it_may_be(api, monkeypatch, path):
    """Every place that takes files into memory, with a file that says it is 9 GB; pictures come by way of the disk."""
    for kind in (InMemoryUploadedFile, TemporaryUploadedFile):
        monkeypatch.setattr(kind, "size", property(lambda self: 9 * 2**30, lambda self, value: None), raising=False)
        monkeypatch.setattr(kind, "read", Unreadable.read)
        monkeypatch.setattr(kind, "chunks", Unreadable.read)
    names = {"/packs": ["files"], "/pairs": ["original", "recoloured"]}.get(path, ["file"])
    refused = api.send_files(path, names, paths='["a.cube"]', encoding="srgb", size="17")
    assert refused.status_code == 422, refused.content[:300]
    assert "larger than" in refused.json()["detail"]


def test_what_a_picture_says_of_its_encoding_is_believed_and_told(db, designer, api, tmp_path):
    """Unless a person says otherwise, and then it is told that the file does not agree."""
    path = png(tmp_path / "night.png", (b"cICP", bytes([9, 16, 0, 1])))
    said = pictures.bring_in(designer, path, "night.png", "Night")
    other = pictures.bring_in(designer, path, "night.png", "Night otherwise", "srgb")
    silent = pictures.bring_in(designer, png(tmp_path / "day.png"), "day.png", "Day")
    told = {one["id"]: (one["encoding"], one["stated_encoding"], one["stated"]) for one in api.get("/pictures")}
    words = "cICP chunk: primaries 9, transfer 16 of ITU-T H.273"
    assert told == {said.pk: ("pq", "pq", words), other.pk: ("srgb", "pq", words), silent.pk: ("srgb", "", "")}
