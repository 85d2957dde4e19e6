"""The way of a version: drafted, proposed, published or sent back, retired; remarks on it, and who is told."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from django.conf import settings
from django.db import transaction
from django.db.models import Q, QuerySet
from django.utils import timezone

from saucer.studio.catalogue.models import Entry, Notice, Pin, Review, Version, VersionState, there_for
from saucer.studio.catalogue.rules import find_version, noun_of
from saucer.studio.common.refusals import NotAllowed, NotFound, NotPossible
from saucer.studio.people.models import NoticeAbout, Person, Role
from saucer.studio.people.rules import line_of, may, may_change, name_of, record, record_many, require, require_own
from saucer.studio.pictures.models import Picture

DRAFT, PROPOSED, PUBLISHED = VersionState.DRAFT, VersionState.PROPOSED, VersionState.PUBLISHED
SENT_BACK, RETIRED = VersionState.SENT_BACK, VersionState.RETIRED
OWN = {(DRAFT, PROPOSED), (SENT_BACK, PROPOSED), (PROPOSED, DRAFT)}
"""What the owner does: propose, propose again, take back."""
CURATED = {(DRAFT, PUBLISHED), (PROPOSED, PUBLISHED), (PROPOSED, SENT_BACK), (PUBLISHED, RETIRED), (RETIRED, PUBLISHED)}
VERBS = {PROPOSED: "propose", DRAFT: "take back", PUBLISHED: "publish", SENT_BACK: "send back", RETIRED: "retire"}
DONE = {
    PROPOSED: "proposed {}", DRAFT: "took back {}", PUBLISHED: "published {}", SENT_BACK: "sent back {}", RETIRED: "retired {}",
}  # fmt: skip
KEPT_IN_LIST = 50
AT_ONCE = 500
"""Rows of one UPDATE, whose every row looks through the values of all."""


def next_states(person: Person, version: Version) -> list[VersionState]:
    """Where this person may move it."""
    was, entry = VersionState(version.state), version.entry
    found = [to for since, to in sorted(OWN) if since == was and may_change(person, entry.owner_id)]
    if may(person, Role.CURATOR):
        found += [to for since, to in sorted(CURATED) if since == was and (to != PUBLISHED or not _is_own(person, version))]
    return found


def _is_own(person: Person, version: Version) -> bool:
    """Does it take somebody else to publish it?"""
    return not settings.PUBLISH_OWN and version.made_by_id == person.pk


def move(person: Person, kind: str, pk: int, number: int, to: VersionState, words: str = "") -> Version:
    """Raises: NotAllowed; NotFound; NotPossible for a way there is not"""
    with transaction.atomic():
        version = find_version(person, kind, pk, number)
        return move_many(person, {version.pk: to}, words)[0]


def publish_many(person: Person, versions: Sequence[int], words: str = "") -> int:
    """All of them or none. Raises: as `move`"""
    require(person, Role.CURATOR, "publish")
    with transaction.atomic():
        move_many(person, dict.fromkeys(versions, PUBLISHED), words)
    return len(set(versions))


def move_many(person: Person, wanted: Mapping[int, VersionState], words: str = "") -> list[Version]:
    """Versions by their number in the database, each to a state, all of them or none; in the transaction of the caller.

    As many queries for a thousand as for one. Raises: as `move`
    """
    held = Entry.objects.visible_to(person).select_for_update(of=("self",)).filter(versions__in=wanted).order_by("pk")
    entries = {entry.pk: entry for entry in held.select_related("owner")}
    versions = list(Version.objects.select_related("made_by").defer("content").filter(pk__in=wanted).order_by("pk"))
    if len(versions) < len(wanted) or any(one.entry_id not in entries for one in versions):
        raise NotFound("There is no such version, or it was deleted.")
    reviews, lines, left = [], [], []
    for version in versions:
        version.entry, to = entries[version.entry_id], wanted[version.pk]
        _check(person, version, to, words)
        was, version.state = version.state, to
        reviews.append(Review(version=version, person=person, was=was, became=to, words=words.strip()[:2000]))
        lines.append(line_of(person, VERBS[to], version, was=was, words=words.strip()[:200]))
        if version.entry.latest_id == version.pk:
            version.entry.state = to
        version.entry.proposed = version.entry.proposed or to in (PROPOSED, PUBLISHED)
        if to == PUBLISHED:
            version.entry.published = version
        elif version.entry.published_id == version.pk:
            left.append(version.entry)
    for to in set(wanted.values()):
        Version.objects.filter(pk__in=[pk for pk, state in wanted.items() if state == to]).update(state=to)
    if left:  # the one that was published before is so again
        others = Version.objects.filter(entry__in=left, state=PUBLISHED).defer("content").order_by("number")
        before = {one.entry_id: one for one in others}
        for entry in left:
            entry.published = before.get(entry.pk)
    Entry.objects.bulk_update(entries.values(), ["state", "published", "proposed"], batch_size=AT_ONCE)
    Review.objects.bulk_create(reviews)
    record_many(lines)
    _tell_of_moves(person, versions)
    return versions


def _check(person: Person, version: Version, to: VersionState, words: str) -> None:
    entry, step = version.entry, (VersionState(version.state), to)
    noun, verb = noun_of(entry.kind), VERBS[to]
    if step in OWN:
        require_own(person, entry.owner, f"{verb} this {noun}")
    elif step in CURATED:
        require(person, Role.CURATOR, f"{verb} this {noun}")
        if to == PUBLISHED and _is_own(person, version):
            raise NotAllowed(f"You made version {version.number} of {entry.name} yourself: another curator has to publish it.")
    else:
        raise NotPossible(
            f"Version {version.number} of {entry.name} is {VersionState(version.state).label.lower()}: you cannot {verb} it."
        )
    if to == SENT_BACK and not words.strip():
        raise NotPossible("Say why it is sent back.")


def _tell_of_moves(by: Person, versions: Sequence[Version]) -> None:
    """Those concerned; of what is proposed, everybody who publishes."""
    proposed = any(version.state == PROPOSED for version in versions)
    curators = {one.pk for one in Person.objects.filter(is_active=True) if may(one, Role.CURATOR)} if proposed else set()
    notices = []
    for version in versions:
        words = DONE[VersionState(version.state)].format(f"{version.entry.name}, version {version.number}")
        about = NoticeAbout.PROPOSAL if version.state == PROPOSED else NoticeAbout.DECISION
        notices += _notices(by, version, about, words, curators if version.state == PROPOSED else _concerned(version))
    _tell(notices)


def _concerned(version: Version) -> set[int]:
    """Whose it is and who made it."""
    return {pk for pk in (version.made_by_id, version.entry.owner_id) if pk is not None}


def _notices(by: Person | None, version: Version, about: NoticeAbout, words: str, to: set[int], guest: str = "") -> list[Notice]:
    """Never to the one who did it."""
    said, others = f"{name_of(by, guest)} {words}."[:300], to - ({by.pk} if by is not None else set())
    return [Notice(person_id=pk, by=by, version=version, about=about, words=said) for pk in sorted(others)]


def _tell(notices: Sequence[Notice]) -> None:
    """Those who want to be told of it; two queries, however many they are."""
    found = Person.objects.filter(pk__in={one.person_id for one in notices}).values_list("pk", "told_of")
    wanted = {pk: set(told_of) for pk, told_of in found}
    Notice.objects.bulk_create([one for one in notices if one.about in wanted.get(one.person_id, ())])


def restore_state(entry: Entry, version: Version, state: VersionState) -> None:
    """The state that a version had where it came from; in the transaction in which it is brought back."""
    version.state = state
    version.save(update_fields=["state"])
    entry.state, entry.proposed = state, entry.proposed or state != DRAFT
    if state == PUBLISHED:
        entry.published = version
    entry.save(update_fields=["state", "published", "proposed"])


def list_queue(person: Person) -> list[Version]:
    """What is proposed, the oldest first: everything for a curator, one's own for others."""
    found = Version.objects.filter(state=PROPOSED, entry__deleted=None).select_related("entry__owner", "made_by").defer("content")
    if not may(person, Role.CURATOR):
        found = found.filter(Q(made_by=person) | Q(entry__owner=person))
    return list(found.prefetch_related("reviews__person").order_by("made", "pk"))


def list_reviews(pk: int) -> list[Review]:
    """Of all versions of an entry, the latest first."""
    return list(Review.objects.filter(version__entry=pk).select_related("person", "version"))


def list_pins(pk: int, person: Person) -> list[Pin]:
    """Without the pictures that are not there for the person."""
    pins = list(Pin.objects.filter(version__entry=pk).select_related("person", "settled_by", "version").defer("version__content"))
    shown = set(Picture.objects.visible_to(person).filter(pk__in={one.picture_id for one in pins}).values_list("pk", flat=True))
    for one in pins:
        if one.picture_id not in shown:
            one.picture_id = one.x = one.y = None
    return pins


def add_pin(
    person: Person, kind: str, pk: int, number: int, words: str, picture: Picture | None = None, place: tuple[float, float] | None = None,
    answers: int | None = None,
) -> Pin:  # fmt: skip
    """Raises: NotPossible, NotFound"""
    require(person, Role.DESIGNER, "remark on versions")
    if not words.strip():
        raise NotPossible("Say something.")
    version = find_version(person, kind, pk, number)
    to: Pin | None = None
    if answers is not None:
        to = Pin.objects.filter(pk=answers, version=version, answers=None).first()
        if to is None:
            raise NotFound("There is no such remark to answer.")
    with transaction.atomic():
        return _keep_pin(Pin(version=version, person=person, words=words, answers=to), picture, place)


def remark_as_guest(
    version: Version, guest: str, words: str, picture: Picture | None = None, place: tuple[float, float] | None = None
) -> Pin:
    """Of somebody without an account, whom a link lets see the version; in the transaction of the caller. Raises: NotPossible"""
    if not words.strip():
        raise NotPossible("Write something first.")
    return _keep_pin(Pin(version=version, guest=guest, words=words), picture, place)


def _keep_pin(pin: Pin, picture: Picture | None, place: tuple[float, float] | None) -> Pin:
    """With what tells of it."""
    pin.words, pin.picture = pin.words.strip()[:2000], picture
    if place is not None and picture is not None:
        pin.x, pin.y = place
    pin.save()
    told = {"guest": pin.guest} if pin.guest else {}
    record(pin.person, "remark", pin.version, words=pin.words[:200], **told)
    words = f"remarked on {pin.version.entry.name}, version {pin.version.number}: {pin.words[:120]}"
    _tell(_notices(pin.person, pin.version, NoticeAbout.REMARK, words, _concerned(pin.version), pin.guest))
    return pin


def settle_pin(person: Person, pk: int, settled: bool = True) -> Pin:
    """That a remark is dealt with, or is not. By who made it, whose entry it is, or a curator. Raises: NotFound, NotAllowed"""
    require(person, Role.DESIGNER, "settle remarks")
    with transaction.atomic():
        pin = (
            Pin.objects.select_for_update(of=("self",))
            .filter(there_for(person, "version__entry__"), pk=pk, answers=None)
            .select_related("version__entry")
            .first()
        )
        if pin is None:
            raise NotFound("There is no such remark.")
        if pin.person_id != person.pk and not may_change(person, pin.version.entry.owner_id):
            raise NotAllowed("You cannot settle this remark: it is another's, on an entry of somebody else.")
        pin.settled, pin.settled_by = (timezone.now(), person) if settled else (None, None)
        pin.save(update_fields=["settled", "settled_by"])
        record(person, "settle remark" if settled else "open remark again", pin.version, pin=pk)
    return pin


def list_notices(person: Person) -> QuerySet[Notice]:
    return (
        Notice.objects.filter(there_for(person, "version__entry__"), person=person)
        .select_related("version__entry")
        .defer("version__content")[:KEPT_IN_LIST]
    )


def clear_notices(person: Person, about: NoticeAbout | None, up_to: int) -> None:
    """The person is told of these no more. about: none for whatever they are about; up_to: the last one that they have been shown"""
    found = Notice.objects.filter(person=person, pk__lte=up_to)
    (found if about is None else found.filter(about=about)).delete()


def mark_seen(person: Person, up_to: int) -> None:
    """All notices up to this one."""
    Notice.objects.filter(person=person, seen=None, pk__lte=up_to).update(seen=timezone.now())
