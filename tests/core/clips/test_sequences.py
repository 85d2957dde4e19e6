from __future__ import annotations

import pytest

from saucer.core.clips.sequences import find_sequences, require_whole, runs_of
from saucer.core.errors import PictureError


def test_numbered_names_become_sequences_and_the_rest_stays():
    names = [*(f"quay_{n:04d}.exr" for n in (1001, 1002, 1005)), "still.png", "b.1.png", "b.2.png", "one_7.png", "QUAY_0001.txt"]
    found, others = find_sequences(names)
    assert [(one.title, one.first, one.last, one.gaps) for one in found] == [("b", 1, 2, ""), ("quay", 1001, 1005, "1003 to 1004")]
    assert others == ["QUAY_0001.txt", "one_7.png", "still.png"]
    assert found[1].name_of(1003) == "quay_1003.exr"


def test_numbers_that_outgrow_their_digits_stay_together():
    (one,), others = find_sequences([f"a{n:02d}.png" for n in range(98, 103)])
    assert (one.first, one.last, one.missing, others) == (98, 102, [], [])
    (two,), _ = find_sequences(["a8.png", "a9.png", "a10.png"])
    assert (two.first, two.last) == (8, 10)
    padded, _ = find_sequences(["a01.png", "a02.png", "a1.png", "a2.png"])
    assert [sorted(one.names.values()) for one in padded] == [["a1.png", "a2.png"], ["a01.png", "a02.png"]]


def test_gaps_are_told():
    assert runs_of([3, 7, 8, 9, 12]) == "3, 7 to 9, 12"
    assert runs_of(range(1, 60, 2)).endswith("and 18 more")
    (one,), _ = find_sequences(["a.1.png", "a.3.png"])
    with pytest.raises(PictureError, match=r"a: frame 2 of 1 to 3 is missing"):
        require_whole(one, "a")


def test_a_frame_that_is_missing_is_called_as_its_neighbours_are():
    [found], _ = find_sequences(["a_08.dpx", "a_09.dpx", "a_98.dpx", "a_99.dpx", "a_100.dpx", "a_102.dpx"])
    assert [found.name_of(number) for number in (7, 8, 97, 99, 100, 101, 1000)] == [
        "a_07.dpx", "a_08.dpx", "a_97.dpx", "a_99.dpx", "a_100.dpx", "a_101.dpx", "a_1000.dpx",
    ]  # fmt: skip
    assert found.gaps == "10 to 97, 101"
