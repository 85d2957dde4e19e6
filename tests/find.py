"""What a test looks up in the studio by name."""

from __future__ import annotations

from saucer.core.look.model import Look
from saucer.studio.looks.models import LookDraft
from saucer.studio.looks.rules import look_of_draft
from saucer.studio.luts.models import Lut


def look_named(name: str) -> LookDraft:
    return LookDraft.objects.select_related("entry").get(entry__name=name)


def draft_named(name: str) -> Look:
    return look_of_draft(look_named(name))


def the_lut(**which: object) -> Lut:
    """The one LUT there is, or the only one of its kind."""
    return Lut.objects.select_related("version__entry").get(**which)
