"""Links that let somebody in once: the first admin, who is invited, who has forgotten their password."""

from __future__ import annotations

import hashlib
import secrets
from datetime import timedelta

from django.db import transaction
from django.utils import timezone

from saucer.studio.common.refusals import NotFound, NotPossible
from saucer.studio.people import accounts
from saucer.studio.people.models import Link, Person, Purpose, Role
from saucer.studio.people.rules import record, require

LASTS = {Purpose.FIRST: timedelta(days=1), Purpose.INVITE: timedelta(days=7), Purpose.PASSWORD: timedelta(hours=24)}
GONE = "This link was used, has ended, or was never given. Ask for a new one."


def hash_of(code: str) -> str:
    return hashlib.sha256(code.encode()).hexdigest()


def _make(by: Person | None, purpose: Purpose, **fields: object) -> tuple[Link, str]:
    code = secrets.token_urlsafe(32)
    return Link.objects.create(
        purpose=purpose, code_hash=hash_of(code), made_by=by, until=timezone.now() + LASTS[purpose], **fields
    ), code  # fmt: skip


def address_of(code: str) -> str:
    """Within the studio."""
    return f"/link/{code}"


def invite(by: Person | None, role: Role, full_name: str = "", email: str = "") -> tuple[Link, str]:
    """The link and its code, which is told once. Raises: NotAllowed"""
    if by is not None:
        require(by, Role.ADMIN, "invite people")
    with transaction.atomic():
        link, code = _make(by, Purpose.INVITE, role=role, full_name=full_name, email=email)
        record(by, "invite", link, role=role)
    return link, code


def let_choose_password(by: Person | None, person: Person) -> tuple[Link, str]:
    """A link by which a person sets a password without knowing the old one; those of before end. Raises: NotAllowed; NotPossible"""
    if by is not None:
        require(by, Role.ADMIN, "give links for new passwords")
    if person.is_service or not person.is_active:
        raise NotPossible(f"{person.shown_name} does not sign in.")
    with transaction.atomic():
        Link.objects.filter(person=person, purpose=Purpose.PASSWORD, used=None).delete()
        link, code = _make(by, Purpose.PASSWORD, person=person, role=person.role)
        record(by, "give link for password", person)
    return link, code


def make_first() -> str | None:
    """The code by which the first admin comes; none where there is an admin. One that was made before ends."""
    with transaction.atomic():
        if has_admin():
            return None
        Link.objects.filter(purpose=Purpose.FIRST, used=None).delete()
        return _make(None, Purpose.FIRST, role=Role.ADMIN)[1]


def has_admin() -> bool:
    return Person.objects.filter(role=Role.ADMIN, is_active=True).exists()


def find(code: str, lock: bool = False) -> Link:
    """Raises: NotFound for one that lets nobody in, whatever the reason"""
    known = Link.objects.select_for_update(of=("self",)) if lock else Link.objects.all()
    link = known.select_related("person").filter(code_hash=hash_of(code), used=None, until__gt=timezone.now()).first()
    is_open = link is not None and (link.person is None or link.person.is_active)
    if link is None or not is_open or (link.purpose == Purpose.FIRST and has_admin()):
        raise NotFound(GONE)
    return link


def use(code: str, password: str, username: str = "", full_name: str = "") -> Person:
    """The account that it makes, or whose password it sets. It lets nobody in again.

    Raises: NotFound; NotPossible for a name that is taken, or a password that is too easy, which leaves the link as it is
    """
    with transaction.atomic():
        link = find(code, lock=True)
        if link.purpose == Purpose.PASSWORD:
            assert link.person is not None
            person = accounts.give_password(link.person.username, password, by=link.person)
        else:
            name = full_name or link.full_name
            person = accounts.add(username, Role(link.role), password, name, link.email, by=link.made_by)
        link.used, link.person = timezone.now(), person
        link.save(update_fields=["used", "person"])
    return person


def list_invites() -> list[Link]:
    """Those that still let somebody in."""
    found = Link.objects.filter(purpose=Purpose.INVITE, used=None, until__gt=timezone.now()).select_related("made_by")
    return list(found)


def take_back(by: Person, pk: int) -> None:
    """Raises: NotAllowed; NotFound"""
    require(by, Role.ADMIN, "take invitations back")
    with transaction.atomic():
        link = Link.objects.select_for_update(of=("self",)).filter(pk=pk, purpose=Purpose.INVITE, used=None).first()
        if link is None:
            raise NotFound("This invitation was used or taken back already.")
        record(by, "take invitation back", link)
        link.delete()
