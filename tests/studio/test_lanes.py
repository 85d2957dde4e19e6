"""Lanes: no more at once than they are wide, in turn, and each person one at a time where others wait."""

from __future__ import annotations

from threading import Barrier, Event, Thread

import pytest

from saucer.studio.common.lanes import Lane
from saucer.studio.common.refusals import TooMany


class Crowd:
    """Each does one thing in the lane, begun in the order given and ended when it is let go."""

    def __init__(self, lane: Lane) -> None:
        self.lane, self.begun, self.most = lane, [], 0
        self._ends: dict[str, Event] = {}
        self._threads: list[Thread] = []
        self._now = 0

    def come(self, who: str, what: str) -> None:
        self._ends[what] = Event()
        arrived = Barrier(2)

        def work() -> None:
            arrived.wait()
            with self.lane.turn(who):
                self._now += 1
                self.most = max(self.most, self._now)
                self.begun.append(what)
                self._ends[what].wait(10)
                self._now -= 1

        self._threads.append(Thread(target=work))
        self._threads[-1].start()
        arrived.wait()
        self.settle(lambda: what in self.begun or any(True for _ in self.lane._waiting))

    def settle(self, check) -> None:
        for _ in range(500):
            if check():
                return
            Event().wait(0.01)
        raise AssertionError("it never came to that")

    def let_go(self, what: str) -> None:
        self._ends[what].set()

    def end(self) -> None:
        for event in self._ends.values():
            event.set()
        for thread in self._threads:
            thread.join()


def test_no_more_at_once_than_it_is_wide_and_all_get_their_turn():
    crowd = Crowd(Lane("test", 2, 10))
    for number in range(12):
        crowd.come(f"person {number}", f"{number}")
    crowd.settle(lambda: len(crowd.begun) == 2)
    crowd.end()
    assert crowd.most == 2
    assert sorted(crowd.begun, key=int) == [str(number) for number in range(12)]


def test_who_has_something_under_way_waits_for_those_who_have_not():
    crowd = Crowd(Lane("test", 2, 10))
    crowd.come("ilse", "ilse 1")
    crowd.come("ada", "ada 1")
    crowd.settle(lambda: len(crowd.begun) == 2)
    for what in ("ilse 2", "ilse 3"):
        crowd.come("ilse", what)
    crowd.come("otis", "otis 1")
    crowd.settle(lambda: len(crowd.lane._waiting) == 3)
    crowd.let_go("ada 1")
    crowd.settle(lambda: len(crowd.begun) == 3)
    assert crowd.begun[2] == "otis 1", "though Ilse asked before"
    crowd.let_go("otis 1")
    crowd.settle(lambda: len(crowd.begun) == 4)
    assert crowd.begun[3] in ("ilse 2", "ilse 3"), "with nobody else waiting she may have both"
    crowd.end()


def test_whoever_waits_too_long_is_told_so_and_takes_no_place():
    crowd = Crowd(Lane("test", 1, 10))
    crowd.come("ilse", "long")
    crowd.lane._patience = 0.05
    with pytest.raises(TooMany, match="The server is busy"), crowd.lane.turn("ada"):
        raise AssertionError("it was nobody's turn")
    assert crowd.lane._waiting == []
    crowd.end()
    with crowd.lane.turn("ada"):
        assert crowd.lane._working == ["ada"]


def test_what_fails_in_its_turn_gives_its_place_back():
    lane = Lane("test", 1, 1)
    with pytest.raises(ZeroDivisionError), lane.turn("ilse"):
        raise ZeroDivisionError
    with lane.turn("ada"):
        pass
    assert lane._working == []
