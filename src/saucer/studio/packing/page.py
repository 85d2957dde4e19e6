"""The page of a pack: one HTML file that shows every entry beside the original on several pictures, from disk, without a network."""

from __future__ import annotations

import base64
import json
from collections.abc import Callable, Sequence
from pathlib import Path

import numpy as np
from PIL import Image

from saucer.studio.catalogue.models import Entry
from saucer.studio.common.images import encoded
from saucer.studio.packing.manifest import PackedEntry
from saucer.studio.pictures.models import Picture
from saucer.studio.pictures.shown import plain_frame
from saucer.studio.preview import entries as previews

NAME = "page.html"
MOST_BYTES = 20_000_000
WIDTHS = (960, 720, 560, 480, 400, 320)
BYTES_PER_PIXEL = 0.42
"""Of a photograph as JPEG of quality 90 in full colour, as text in base64: an upper bound, measured on the demo's pictures."""
TEMPLATE = Path(__file__).with_name("page.html")


def width_for(entries: int, pictures: int) -> int:
    """The widest pictures with which the page stays below MOST_BYTES."""
    count = max(1, (entries + 1) * pictures)
    fitting = (width for width in WIDTHS if count * width * width * 9 / 16 * BYTES_PER_PIXEL < MOST_BYTES * 0.9)
    return next(fitting, WIDTHS[-1])


def make_page(
    title: str, shown: Sequence[tuple[Entry, PackedEntry]], pictures: Sequence[Picture], report: Callable[[float], None],
    with_tags: bool = False,
) -> bytes:  # fmt: skip
    """report: called with the fraction done. Raises: SaucerError where an entry cannot be shown"""
    width = width_for(len(shown), len(pictures))
    cards = []
    for number, (entry, packed) in enumerate(shown):
        report(number / len(shown))
        grade = previews.grade_of(entry, 1.0, packed.versions[-1].number)
        cards.append(
            {
                "name": packed.name, "kind": packed.kind, "category": packed.category, "author": packed.author, "note": packed.note,
                "tags": packed.tags if with_tags else [], "words": packed.character, "files": [file.path for file in packed.files],
                "pictures": [_inline(previews.frame(grade, picture), width) for picture in pictures],
            }
        )  # fmt: skip
    content = {
        "title": title,
        "pictures": [{"name": picture.name, "plain": _inline(plain_frame(picture), width)} for picture in pictures],
        "entries": cards,
    }
    # In a script of a page nothing may look like the end of it.
    data = json.dumps(content, ensure_ascii=False).replace("<", "\\u003c")
    escaped = title.replace("&", "&amp;").replace("<", "&lt;")
    return TEMPLATE.read_text().replace("{{title}}", escaped).replace("{{data}}", data).encode()


def _inline(codes: np.ndarray, width: int) -> str:
    """(h, w, 3) uint8 as an address that holds the picture itself."""
    height = max(1, round(codes.shape[0] * width / codes.shape[1]))
    small = codes if codes.shape[1] <= width else np.asarray(Image.fromarray(codes).resize((width, height), Image.Resampling.BOX))
    return f"data:image/jpeg;base64,{base64.b64encode(encoded(small, 'jpeg')).decode()}"
