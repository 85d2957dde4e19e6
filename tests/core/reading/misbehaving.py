"""Tasks that do what a hostile file could make a library do."""

from __future__ import annotations

import os
import signal
import time
from collections.abc import Iterator
from typing import Any

import numpy as np

from saucer.core.errors import LutError, PictureError
from saucer.core.reading.tasks import reads


@reads("lut", LutError)
def give_back(value: Any) -> Any:
    return value


@reads("lut", LutError)
def who() -> int:
    return os.getpid()


@reads("lut", LutError)
def take(size: int) -> int:
    return len(bytes(size))


@reads("lut", LutError)
def sleep(seconds: float) -> None:
    time.sleep(seconds)


@reads("lut", LutError)
def spin() -> None:
    while True:
        pass


@reads("lut", LutError)
def crash() -> None:
    os.kill(os.getpid(), signal.SIGSEGV)


@reads("lut", LutError)
def fail() -> None:
    raise RuntimeError("nobody thought of this")


@reads("lut", LutError)
def refuse() -> None:
    raise PictureError("a.png", "is no picture")


@reads("lut", LutError)
def send_what_cannot_be_sent() -> object:
    return object()


@reads("lut", LutError)
def cannot_be_marked(path: Any) -> str:
    return str(path)


@reads("clip", PictureError)
class Counting:
    """Open, it counts; asked for 3 it refuses, asked for 5 it crashes."""

    def __init__(self, size: int) -> None:
        self._size = size
        self.facts = ("counts", size)

    def __enter__(self) -> Counting:
        if self._size < 0:
            raise PictureError("counting", "begins below nothing")
        return self

    def __exit__(self, *problem: object) -> None:
        pass

    def one(self, number: int) -> np.ndarray:
        if number == 3:
            raise PictureError("counting", "3 is not there")
        if number == 5:
            crash()
        return np.full(self._size, number, np.float32)

    def upwards(self) -> Iterator[int]:
        yield from range(self._size)
