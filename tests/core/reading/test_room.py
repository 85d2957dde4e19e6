from __future__ import annotations

import os
import threading
from dataclasses import replace
from fractions import Fraction
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from saucer.core.clips.coding import Coding
from saucer.core.errors import LutError, PictureError
from saucer.core.lut.table import Curve1D, Lut
from saucer.core.reading import processes, room
from saucer.core.reading.limits import LIMITS
from saucer.core.reading.room import Session, ask
from tests.core.reading import misbehaving as tasks


@pytest.fixture
def quick(monkeypatch) -> None:
    """Limits that are passed soon."""
    small = replace(LIMITS["lut"], seconds=2.0, processor=1, memory=200 * 2**20)
    monkeypatch.setitem(LIMITS, "lut", small)


def test_it_is_another_process_and_the_same_one_again():
    first = ask(tasks.who, place="a")
    assert first != os.getpid()
    assert ask(tasks.who, place="a") == first


_leaves = st.none() | st.booleans() | st.integers(-(2**60), 2**60) | st.floats(allow_nan=False) | st.text() | st.binary(max_size=40)
_values = st.recursive(
    _leaves, lambda one: st.lists(one, max_size=4) | st.tuples(one, one) | st.dictionaries(st.text(), one, max_size=4)
)


@given(_values)
def test_what_is_given_back_is_what_was_given(value):
    assert ask(tasks.give_back, value, place="a") == value


@pytest.mark.parametrize("kind", [np.uint8, np.uint16, np.float16, np.float32, np.int64])
@pytest.mark.parametrize("shape", [(3,), (0, 3), (40, 30, 3), (700, 500, 3)])
def test_arrays_of_every_kind_and_size_come_whole_and_may_be_written(kind, shape):
    given = np.random.default_rng(1).integers(0, 200, shape).astype(kind)
    found = ask(tasks.give_back, given, place="a")
    assert found.dtype == given.dtype
    np.testing.assert_array_equal(found, given)
    found += 1


def test_what_the_readers_give_goes_both_ways():
    samples = np.linspace(0, 1, 6, dtype=np.float32).reshape(2, 3)
    found = ask(tasks.give_back, (Lut(Curve1D(samples), title="x"), Coding("bt709", True), Fraction(24000, 1001)), place="a")
    assert found[1:] == (Coding("bt709", True), Fraction(24000, 1001))
    np.testing.assert_array_equal(found[0].shaper.samples, samples)


@pytest.mark.usefixtures("quick")
@pytest.mark.parametrize(
    ("task", "given_to_it", "words"),
    [
        (tasks.take, (2**31,), "a.cube: reading it takes more than the 0 GB of memory that it may"),
        (tasks.sleep, (60.0,), "a.cube: reading it takes more than the 2 seconds that it may"),
        (tasks.spin, (), "a.cube: reading it takes more than the"),
        (tasks.crash, (), "a.cube: it makes the library that reads it fail"),
        (tasks.fail, (), "a.cube: cannot be read: it is damaged, or of a form that is not read"),
        (tasks.send_what_cannot_be_sent, (), "a.cube: cannot be read"),
    ],
)
def test_whatever_a_file_does_is_one_refusal_and_the_next_is_read(task, given_to_it, words):
    with pytest.raises(LutError) as told:
        ask(task, *given_to_it, place="a.cube")
    assert str(told.value).startswith(words)
    assert ask(tasks.give_back, "the next", place="b.cube") == "the next"


def test_our_own_refusals_come_as_they_are():
    with pytest.raises(PictureError, match=r"^a\.png: is no picture$"):
        ask(tasks.refuse, place="other")


def test_a_file_that_is_too_large_a_folder_or_a_pipe_is_refused_before_it_is_opened(tmp_path: Path, monkeypatch):
    monkeypatch.setitem(LIMITS, "lut", replace(LIMITS["lut"], bytes=10))
    (tmp_path / "a.cube").write_bytes(bytes(11))
    os.mkfifo(tmp_path / "pipe")
    for path, words in (
        (tmp_path / "a.cube", "a: is 0 MB; 0 MB is the most for a LUT file"),
        (tmp_path, "a: is a folder"),
        (tmp_path / "pipe", "a: is no plain file"),
        (Path("/dev/zero"), "a: is no plain file"),
    ):
        with pytest.raises(LutError) as told:
            ask(tasks.cannot_be_marked, path, place="a")
        assert str(told.value) == words
    with pytest.raises(FileNotFoundError):
        ask(tasks.cannot_be_marked, tmp_path / "nothing", place="a")


def test_something_open_answers_until_it_is_closed_and_survives_refusals():
    session = Session(tasks.Counting, 4, place="c")
    assert session.open() == ("counts", 4)
    np.testing.assert_array_equal(session.call("one", 2), [2, 2, 2, 2])
    with pytest.raises(PictureError, match="3 is not there"):
        session.call("one", 3)
    assert list(session.each("upwards")) == [0, 1, 2, 3]
    walk = session.each("upwards")
    assert next(walk) == 0
    np.testing.assert_array_equal(session.call("one", 1), [1, 1, 1, 1])
    assert list(walk) == []
    session.close()
    session.close()


def test_a_reader_that_crashes_while_something_is_open_is_told_and_stays_closed():
    session = Session(tasks.Counting, 4, place="c")
    session.open()
    with pytest.raises(PictureError, match="makes the library that reads it fail"):
        session.call("one", 5)
    with pytest.raises(PictureError, match="no longer open"):
        session.call("one", 1)
    session.close()


def test_what_cannot_be_opened_leaves_its_reader_to_the_next():
    before = ask(tasks.who, place="a")
    with pytest.raises(PictureError, match="begins below nothing"):
        Session(tasks.Counting, -1, place="c").open()
    assert ask(tasks.who, place="a") == before


def test_a_session_that_nobody_closes_takes_its_reader_along():
    session = Session(tasks.Counting, 4, place="c")
    session.open()
    one = session._reader
    assert one is not None
    del session
    assert one.channel.fileno() == -1


def test_many_at_once_are_read_and_few_wait_afterwards():
    found: list[int] = []
    threads = [threading.Thread(target=lambda: found.append(ask(tasks.give_back, 1, place="a"))) for _ in range(12)]
    for one in threads:
        one.start()
    for one in threads:
        one.join()
    assert found == [1] * 12
    assert len(processes._idle) <= processes.MOST_IDLE


def test_the_process_that_forks_readers_is_replaced_when_it_ends():
    ask(tasks.who, place="a")
    mother = processes._mother.process
    assert mother is not None
    mother.kill()
    mother.wait()
    processes._idle.clear()
    assert ask(tasks.give_back, "again", place="a") == "again"
    assert processes._mother.process is not mother


def test_every_kind_has_limits_that_are_told():
    for kind, limit in LIMITS.items():
        assert limit.words, kind
        assert 0 < limit.processor <= limit.seconds, kind
    assert room.LIMITS is LIMITS
