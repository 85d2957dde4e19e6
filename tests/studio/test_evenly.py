"""Server processes see how much the others have to do."""

from __future__ import annotations

import os
import signal
import time
from collections.abc import Iterator
from contextlib import contextmanager

from saucer.studio.site.evenly import PLACES, Board


@contextmanager
def neighbour(board: Board) -> Iterator[bytes]:
    """Another process with nothing to do: whether it takes itself to have too much."""
    read, write = os.pipe()
    pid = os.fork()
    if pid == 0:
        board._count = 0
        board.sit_down()
        os.write(write, b"uneven" if board.is_uneven() else b"even")
        time.sleep(60)
        os._exit(0)
    try:
        yield os.read(read, 16)
    finally:
        os.kill(pid, signal.SIGKILL)
        os.waitpid(pid, 0)
        os.close(read)
        os.close(write)


def test_one_process_alone_is_never_uneven():
    board = Board()
    board.sit_down()
    with board.busy(), board.busy(), board.busy():
        assert not board.is_uneven()


def test_the_one_with_more_to_do_sees_it_and_the_other_does_not():
    board = Board()
    board.sit_down()
    with board.busy(), neighbour(board) as told:
        assert told == b"even"
        assert not board.is_uneven(), "one request more is no matter"
        with board.busy():
            assert board.is_uneven()
        assert not board.is_uneven()


def test_places_of_processes_that_ended_are_taken_again_and_count_for_nothing():
    board = Board()
    board.sit_down()
    with board.busy(), board.busy(), board.busy():
        for _ in range(PLACES + 3):
            with neighbour(board) as told:
                assert told == b"even"
                assert board.is_uneven()
            assert not board.is_uneven()
