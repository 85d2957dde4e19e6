"""What counts against whoever sends slowly, by a clock that stands still unless it is told."""

from __future__ import annotations

import pytest
from gunicorn.http.errors import NoMoreData

from saucer.studio.site import patience
from saucer.studio.site.patience import BODY_GRACE, BODY_PACE, Pace


class Sender:
    """A socket to which each piece comes after some seconds. now: of the clock"""

    def __init__(self, pieces: list[tuple[float, int]]) -> None:
        self.now, self._pieces, self._timeout = 100.0, pieces, None

    def monotonic(self) -> float:
        return self.now

    def settimeout(self, seconds: float | None) -> None:
        self._timeout = seconds

    def recv(self, most: int) -> bytes:
        after, size = self._pieces.pop(0)
        if self._timeout is not None and after > self._timeout:
            self.now += self._timeout
            raise TimeoutError
        self.now += after
        return bytes(min(size, most))


@pytest.fixture
def paced(monkeypatch):
    def make(*pieces: tuple[float, int]) -> tuple[Sender, Pace]:
        sender = Sender(list(pieces))
        monkeypatch.setattr(patience, "time", sender)
        return sender, Pace(sender)

    return make


def test_what_the_server_takes_itself_does_not_count_against_the_sender(paced):
    sender, pace = paced((0.1, 800), (0.1, 800))
    assert len(pace.chunk()) == 800
    sender.now += 6 * BODY_GRACE
    assert len(pace.chunk()) == 800


def test_pauses_add_up_to_the_grace(paced):
    _sender, pace = paced(*[(BODY_GRACE / 4, 1)] * 5)
    for _ in range(4):
        assert pace.chunk() == b"\0"
    # Four bytes gained 0.1 ms, in which the fifth does not come.
    with pytest.raises(NoMoreData):
        pace.chunk()


def test_what_has_come_gains_time(paced):
    _sender, pace = paced((BODY_GRACE * 0.9, 1 << 20), (BODY_GRACE * 0.9, 1))
    assert len(pace.chunk(1 << 20)) == 1 << 20
    assert (1 << 20) / BODY_PACE > BODY_GRACE
    assert pace.chunk() == b"\0"


def test_the_next_request_begins_anew(paced):
    _sender, pace = paced((BODY_GRACE * 0.9, 1), (BODY_GRACE * 0.9, 1))
    pace.chunk()
    pace.begin()
    assert pace.chunk() == b"\0"
