"""Django's check that every app has put its part in where lower apps ask for it: what is registered by importing a module is forgotten with
the import, and nothing else would tell."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from typing import Any

from django.core.checks import CheckMessage, Error, register

from saucer.studio.catalogue.order.duplicates import FOLLOWS
from saucer.studio.catalogue.uses import FINDERS
from saucer.studio.people.access import SENT_BEFORE
from saucer.studio.people.quota import COUNTS
from saucer.studio.people.rules import LISTENERS
from saucer.studio.pictures.models import KEPT_FROM
from saucer.studio.projects.changes import FOLLOWS as AFTER_CHANGES
from saucer.studio.projects.changes import WAYS

PARTS: dict[str, tuple[Collection[Any], frozenset[str]]] = {
    "what uses an entry (catalogue.uses.FINDERS)": (FINDERS, frozenset({"luts", "boards", "projects", "guests"})),
    "what follows when duplicates become one (catalogue.duplicates.FOLLOWS)": (FOLLOWS, frozenset({"boards", "guests"})),
    "what follows when shots look different (projects.changes.FOLLOWS)": (AFTER_CHANGES, frozenset({"projects"})),
    "who is told of what was done (people.rules.LISTENERS)": (LISTENERS, frozenset({"hooks", "stress"})),
    "files that come before a form (people.access.SENT_BEFORE)": (SENT_BEFORE, frozenset({"uploads"})),
    "what room files take (people.quota.COUNTS)": (COUNTS.values(), frozenset({"site"})),
    "whose pictures are kept from a person (pictures.models.KEPT_FROM)": (KEPT_FROM, frozenset({"projects"})),
}
UNDONE = frozenset({"grade shots", "change shots", "approve shots", "rename shot", "move shots", "rename scene", "order scenes"})


@register
def check_parts(app_configs: Sequence[Any] | None = None, **_: Any) -> list[CheckMessage]:
    """An error for each part that is missing."""
    found: list[CheckMessage] = []
    for what, (there, wanted) in PARTS.items():
        for app in sorted(wanted - {one.__module__.split(".")[2] for one in there}):
            found.append(
                Error(
                    f"{app} says nothing of {what}",
                    hint=f"Its rules are to be imported in saucer.studio.site.apps; see {app}.",
                    id="saucer.E001",
                )
            )
    for action in sorted(UNDONE - set(WAYS)):
        found.append(Error(f'nothing takes "{action}" back (projects.changes.WAYS)', id="saucer.E002"))
    return found
