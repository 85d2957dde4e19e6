"""What the wall finds entries by, measured for those that were kept before it was."""

from __future__ import annotations

from django.db.models import Q

from saucer.core.errors import SaucerError
from saucer.studio.catalogue import rules as catalogue
from saucer.studio.catalogue.models import Entry, Kind
from saucer.studio.common.refusals import Refusal
from saucer.studio.encodings.rules import studio_view
from saucer.studio.looks import rules as looks
from saucer.studio.luts import rules as luts
from saucer.studio.luts.models import LutFile
from saucer.studio.presets import rules as presets


def measure_missing() -> int:
    """Every entry without a character, or untold what it uses, and LUTs that were seen by another view than the studio's is now.

    Returns: how many were measured. What cannot be measured stays as it is
    """
    count = 0
    otherwise = Q(kind=Kind.LUT, character__isnull=False) & ~Q(character__view=studio_view())
    missing = Entry.objects.filter(Q(character=None) | Q(uses=None) | otherwise).exclude(shown_hash="")
    for entry in missing.select_related("owner", "category", "latest"):
        try:
            catalogue.keep_shown(entry, _shown_as(entry))
            if entry.kind == Kind.LOOK:
                catalogue.add_formats(
                    entry, list(LutFile.objects.filter(lut__version__entry=entry).values_list("format", flat=True))
                )
            count += 1
        except (SaucerError, Refusal, OSError):
            continue  # its file or its LUT is gone: `check` tells of it
    return count


def _shown_as(entry: Entry) -> catalogue.Shown:
    if entry.kind == Kind.LUT:
        lut = luts.lut_of(entry)
        return luts.shown_as(lut, luts.table_of(lut))
    if entry.kind == Kind.LOOK:
        draft = looks.draft_of(entry)
        return looks.shown_as(looks.look_of_draft(draft), draft.hash)
    assert entry.latest is not None
    return presets.shown_as(presets.steps_of_version(entry.latest))
