"""Once a day, by mail: what notices somebody who asked for it has not looked at, each once."""

from __future__ import annotations

from django.conf import settings
from django.db import transaction

from saucer.studio.catalogue.models import Notice, there_for
from saucer.studio.people.models import Person
from saucer.studio.people.telling import send

MOST = 40
"""Lines of one mail; of more it is said how many there are."""


def mail_notices() -> int:
    """Returns: to how many people. Nothing where no mail is set up"""
    if not settings.MAIL:
        return 0
    asked = Person.objects.filter(is_active=True, is_mailed=True).exclude(email="")
    return sum(_mail_to(person) for person in asked)


def _mail_to(person: Person) -> bool:
    with transaction.atomic():
        held = Person.objects.select_for_update().get(pk=person.pk)
        found = Notice.objects.filter(there_for(held, "version__entry__"), person=held, seen=None, pk__gt=held.mailed_up_to)
        new = list(found.order_by("pk"))
        if not new:
            return False
        lines = [one.words for one in new[:MOST]]
        if len(new) > MOST:
            lines.append(f"... and {len(new) - MOST} more.")
        count = f"{len(new)} notice{'s' if len(new) > 1 else ''} that you have not looked at."
        send(held, count, "\n".join(["", *lines, "", "Whether this is mailed stands on your own page."]))
        held.mailed_up_to = new[-1].pk
        held.save(update_fields=["mailed_up_to"])
    return True
