"""What belongs to this installation alone: where its data lies, its secret, its database. Written by the launcher."""

from __future__ import annotations

import json
import os
from functools import lru_cache
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parents[4]


def var() -> Path:
    """The folder for everything that is made at run time: SAUCER_VAR, else var/ in the checkout."""
    return Path(os.environ.get("SAUCER_VAR", ROOT / "var"))


def beside() -> str:
    """The name of a studio beside the one that is there, with its own database and files: what is measured is done in such a one."""
    return os.environ.get("SAUCER_BESIDE", "")


def kept_in() -> Path:
    """The folder of this studio's own files and uploads."""
    return var() / beside() if beside() else var()


@lru_cache(maxsize=1)
def local() -> dict[str, Any]:
    """var/local.json. Raises: RuntimeError that says how to make it."""
    path = var() / "local.json"
    try:
        content: dict[str, Any] = json.loads(path.read_text())
    except FileNotFoundError:
        raise RuntimeError(f"{path} is missing: run ./saucer setup first") from None
    return content
