"""Which picture an event of a timeline is, and which of its frames: by name and number, without a file being read."""

from __future__ import annotations

import pytest

from saucer.studio.pictures.models import Footage, Picture
from saucer.studio.projects.conform import conforming
from saucer.studio.projects.conform.timelines import Event


def event(**given) -> Event:
    return Event(**({"name": "001", "media": "quay", "start": 0, "count": 10, "record": 0, "rate": 24.0} | given))


def clip(name: str = "quay", **given) -> Picture:
    """Not in the database: nothing here asks it."""
    picture = Picture(name=name, file_name=f"{name}.mov")
    fields = {"kind": "clip", "count": 100, "rate_top": 24, "rate_bottom": 1, "first": 0, "timecode": ""} | given
    Footage(picture=picture, **fields)
    return picture


def conform(one: Event, *pictures: Picture) -> conforming.Conformed:
    return conforming._conform_one(one, {conforming._stem(picture.file_name): picture for picture in pictures})


@pytest.mark.parametrize(
    ("given", "wanted"),
    [
        ({"media": "quay"}, "quay"), ({"media": "QUAY.MXF"}, "quay"), ({"media": "/mnt/card/Quay.mov"}, "quay"),
        ({"media": "", "name": "Deck"}, "deck"), ({"media": "", "name": "002", "facts": {"reel": "deck"}}, "deck"),
        ({"media": "quay", "name": "deck"}, "quay"), ({"media": "gone", "name": "gone"}, None),
    ],
)  # fmt: skip
def test_media_goes_before_the_name_and_the_reel_comes_last(given, wanted):
    found = conform(event(**given), clip("quay"), clip("deck")).picture
    assert (found and found.name) == wanted


def test_what_is_not_here_is_said_by_the_name_that_was_looked_for():
    one = conform(event(media="gone.mov"))
    assert not one.usable
    assert 'no picture here is called "gone.mov"' in one.words
    assert 'called "001"' in conform(event(media="")).words


def test_a_still_has_no_frames_and_is_used_as_it_is():
    one = conform(event(start=5000), Picture(name="quay", file_name="quay.png"))
    assert (one.first, one.last, one.words, one.usable) == (None, None, "a still", True)


@pytest.mark.parametrize(
    ("start", "count", "first", "last", "words"),
    [
        (0, 100, 0, 99, ""), (40, 1, 40, 40, ""), (99, 1, 99, 99, ""),
        (90, 20, 90, 99, "reaches beyond the clip; frames 90 to 99 are taken"),
        (99, 2, 99, 99, "reaches beyond the clip"), (-4, 5, 0, 0, "reaches beyond the clip"), (-4, 4, 0, 99, "all of the clip is taken"), (100, 5, 0, 99, "outside the clip; all of the clip is taken"),
    ],
)  # fmt: skip
def test_frames_are_held_to_those_that_the_clip_has(start, count, first, last, words):
    one = conform(event(start=start, count=count), clip())
    assert (one.first, one.last, one.usable) == (first, last, True)
    assert one.words == words or (words and words in one.words)


@pytest.mark.parametrize(
    ("start", "count", "first", "last"),
    [(86400, 10, 0, 9), (86410, 90, 10, 99), (86395, 10, 0, 4), (86300, 10, 0, 99)],
)
def test_a_clip_with_a_timecode_counts_from_it(start, count, first, last):
    """01:00:00:00 at 24 frames a second is frame 86,400 since midnight (60 * 60 * 24)."""
    one = conform(event(start=start, count=count), clip(timecode="01:00:00:00"))
    assert (one.first, one.last) == (first, last)


def test_a_sequence_counts_by_the_number_of_its_first_frame():
    one = conform(event(start=1005, count=10), clip(kind="sequence", first=1001))
    assert (one.first, one.last) == (4, 13)


@pytest.mark.parametrize(
    ("rate", "words"), [(24.0, ""), (25.0, "the timeline runs at 25 frames a second"), (23.976, "the timeline runs at 23.976")]
)
def test_another_rate_than_the_clips_is_said(rate, words):
    found = conform(event(rate=rate), clip()).words
    assert found == words or (words and words in found)
