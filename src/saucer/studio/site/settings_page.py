"""The part of docs/operating.md that is made from the table of settings."""

from __future__ import annotations

from saucer import options
from saucer.studio.common.local import ROOT
from saucer.studio.site.layout import put_in

PAGE = ROOT / "docs" / "operating.md"


def settings_text() -> str:
    return put_in(PAGE.read_text(), options.as_table() + "\n")
