"""What a browser fetches before it shows anything, as it was built."""

from __future__ import annotations

import gzip
import re

from saucer.launch.places import WEB

MOST_SCRIPT = 150_000
"""Bytes of script, packed, before the first page."""
DIST = WEB / "dist"


def test_the_first_page_takes_little_script():
    page = (DIST / "index.html").read_text()
    scripts = re.findall(r'(?:src|href)="/(assets/[^"]+\.js)"', page)
    assert scripts
    assert sum(len(gzip.compress((DIST / one).read_bytes())) for one in scripts) < MOST_SCRIPT


def test_fonts_are_carried_in_one_form():
    kinds = {path.suffix for path in (DIST / "assets").iterdir() if "woff" in path.suffix}
    assert kinds == {".woff2"}
