"""`./saucer test --long`, as it is run every night: more of what is drawn at random than in every run."""

from __future__ import annotations

import os
from typing import TypeVar

T = TypeVar("T")


def at_length(usually: T, in_the_long_form: T) -> T:
    return in_the_long_form if os.environ.get("SAUCER_LONG") else usually
