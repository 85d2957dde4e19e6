"""Telling the person at the terminal what goes on."""

from __future__ import annotations

import sys


class Stop(Exception):
    """The command cannot go on. The message says what is missing and what to do."""


def say(text: str) -> None:
    print(text, flush=True)


def complain(text: str) -> None:
    print(f"saucer: {text}", file=sys.stderr, flush=True)
