"""Media folders as real disks have them: loops, pipes, devices, thousands of folders."""

from __future__ import annotations

import os
from pathlib import Path

import pytest

from saucer.studio.common.refusals import NotPossible
from saucer.studio.pictures import footage, media
from tests.make import a_picture

pytestmark = pytest.mark.django_db


@pytest.fixture
def root(tmp_path: Path, settings) -> Path:
    root = tmp_path / "media"
    root.mkdir()
    settings.MEDIA_FOLDERS = {"rushes": str(root)}
    return root


def test_a_loop_of_links_is_walked_once(root: Path):
    deep = root / "a" / "b"
    deep.mkdir(parents=True)
    (deep / "back").symlink_to(root)
    (root / "a" / "later").symlink_to(deep)
    a_picture(deep / "quay.png")
    assert media.find_by_stem({"quay", "nowhere"}) == {"quay": ("rushes", "a/b/quay.png")}


def test_links_that_lead_outside_are_followed_by_nobody(root: Path, tmp_path: Path):
    outside = tmp_path / "outside"
    outside.mkdir()
    a_picture(outside / "quay.png")
    (root / "way").symlink_to(outside)
    assert media.list_folder("rushes").folders == []
    assert media.find_by_stem({"quay"}) == {}
    with pytest.raises(NotPossible, match="lies outside"):
        media.place_in("rushes", "way/quay.png")


def test_pipes_and_devices_are_counted_and_never_opened(root: Path, designer):
    os.mkfifo(root / "shot_0002.png")
    for number in (1, 3):
        a_picture(root / f"shot_000{number}.png")
    (root / "zero.png").symlink_to("/dev/zero")
    listing = media.list_folder("rushes")
    assert (listing.others, [one.missing for one in listing.sequences]) == (1, [[2]])
    with pytest.raises(NotPossible, match="is no file"):
        footage.bring_in_from(designer, "rushes", "shot_0002.png")


def test_a_walk_ends_after_so_many_folders_and_so_much_time(root: Path, monkeypatch):
    for number in range(30):
        (root / f"f{number:02}").mkdir()
    a_picture(root / "f29" / "quay.png")
    assert media.find_by_stem({"quay"}) == {"quay": ("rushes", "f29/quay.png")}
    monkeypatch.setattr(media, "MOST_FOLDERS", 20)
    assert media.find_by_stem({"quay"}) == {}
    monkeypatch.setattr(media, "MOST_FOLDERS", 5000)
    monkeypatch.setattr(media, "LONGEST_WALK", 0.0)
    assert media.find_by_stem({"quay"}) == {}
