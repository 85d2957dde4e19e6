"""Looks that come as files, alone or bundled with their LUTs, and go as bundles."""

from __future__ import annotations

from django.db import transaction

from saucer.core.colour.encodings import ENCODINGS
from saucer.core.look.bundle import read_bundle, write_bundle
from saucer.core.look.model import Look
from saucer.core.look.tree import walk
from saucer.core.steps.pixel.lut import LutStep
from saucer.studio.looks import rules
from saucer.studio.looks.models import LookDraft
from saucer.studio.luts import rules as luts
from saucer.studio.people.models import Person, Role
from saucer.studio.people.rules import require


def bring_in(person: Person, data: bytes, file_name: str) -> LookDraft:
    """A look file or bundle as a new look; LUTs that came with it and are not on the Shelf are put there. All of it or nothing.

    Raises: LookError, LutError with file, line or step; NotAllowed
    """
    require(person, Role.DESIGNER, "bring in looks")
    bundle = read_bundle(data, file_name)
    with transaction.atomic():
        for _, step in walk(bundle.look.steps):
            if isinstance(step, LutStep) and step.sha256 in bundle.files and not luts.is_on_shelf(person, step.sha256):
                _keep(person, *bundle.files[step.sha256], bundle.look, step)
        return rules.create(person, bundle.look)


def _keep(person: Person, name: str, content: bytes, look: Look, step: LutStep) -> None:
    # Encodings that only the look defines cannot stand on the Shelf; the step itself still names them.
    expects = step.expects or look.input
    known = expects if expects in ENCODINGS else "srgb"
    gives = step.gives or expects
    luts.bring_in(person, content, name, step.title, known, gives if gives in ENCODINGS else known)


def bundle_of(draft: LookDraft) -> bytes:
    """The draft and the LUTs it uses as one zip. Raises: LutError when one is gone"""
    return write_bundle(rules.look_of_draft(draft), luts.content_of)
