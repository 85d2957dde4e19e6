"""What previews keep: pictures that were made once, in the store, and what comes before the step that is edited, in memory."""

from __future__ import annotations

from collections.abc import Callable
from contextlib import AbstractContextManager

from django.core.files.base import ContentFile

from saucer.core.engine.cache import PrefixCache
from saucer.studio.common.store import look_up, put

CACHE = PrefixCache()
"""One a process: what the steps before the one that is being edited make of the lattices of previews."""
PREVIEWS = "previews"
Turn = Callable[[], AbstractContextManager[None]]


def kept_preview(state: str, make: Callable[[], bytes]) -> bytes:
    """A JPEG by what it shows: made once, kept, and made again where it was cut off."""
    name = f"{PREVIEWS}/{state}.jpg"
    if (kept := look_up(name, "preview", is_whole_preview)) is not None:
        return kept
    data = make()
    put(name, ContentFile(data))
    return data


def is_whole_preview(data: bytes) -> bool:
    """Does it end as a JPEG does (ITU T.81, the EOI marker)? One that was cut off is made anew."""
    return data.startswith(b"\xff\xd8") and data.endswith(b"\xff\xd9")
