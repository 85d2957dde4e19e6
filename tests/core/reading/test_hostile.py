"""Every hostile file through its reader, the largest of them smaller than `python -m fuzz.hostile` makes them."""

from __future__ import annotations

import resource
from pathlib import Path

import pytest
from fuzz.hostile import FILES, Hostile, read

SHARE = 0.02
READ = frozenset({"bomb.png", "circle.tif", "large.mp4", "wide.mp4", "comments.cube", "large.cube", "members.zip", "bomb.zip"})
"""What is unusual but can be read at this size."""
ROOM = 300
"""MB that this process may grow by: nothing of what is refused is built in it."""


@pytest.mark.parametrize("one", FILES, ids=lambda one: one.name)
def test_a_hostile_file_is_read_or_refused_in_words_and_harms_nobody(one: Hostile, tmp_path: Path):
    path = tmp_path / one.name
    path.write_bytes(one.make(SHARE))
    before = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
    words = read(one.kind, path)
    assert (words == "read") == (one.name in READ), words
    assert words == "read" or len(words) > len(one.name) + 10
    assert "Traceback" not in words
    assert resource.getrusage(resource.RUSAGE_SELF).ru_maxrss - before < ROOM * 1024
