"""Signs of life for the launcher, from a thread of this process: they stop when something holds the interpreter, or stops the process."""

from __future__ import annotations

import os
import time
from contextlib import suppress
from threading import Thread

SIGN_EVERY = 3.0
"""Seconds between two signs."""


def give_signs() -> None:
    """On the pipe that the launcher named, where one has."""
    told = os.environ.pop("SAUCER_SIGN", "")
    if not told:
        return
    pipe = int(told)
    os.set_inheritable(pipe, False)

    def give() -> None:
        with suppress(OSError):  # the launcher is gone
            while True:
                os.write(pipe, b".")
                time.sleep(SIGN_EVERY)

    Thread(target=give, name="signs", daemon=True).start()
