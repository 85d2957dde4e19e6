"""Notes on shots and on frames of them: anybody who sees the project may write one."""

from __future__ import annotations

from django.db import transaction

from saucer.studio.common.refusals import NotFound, NotPossible
from saucer.studio.people.models import Person
from saucer.studio.people.rules import record
from saucer.studio.projects.models import Shot, ShotNote
from saucer.studio.projects.rules import find, find_shot, may_lead


def add_note(person: Person, pk: int, shot_pk: int, words: str, frame: int | None) -> ShotNote:
    """Anybody who sees the project may say something. Raises: NotFound, NotPossible"""
    shot = find_shot(find(person, pk), shot_pk)
    words = _checked(shot, words, frame)
    with transaction.atomic():
        note = ShotNote.objects.create(shot=shot, frame=frame, words=words[:1000], person=person)
        record(person, "note on shot", shot.scene.project, shot=shot.code, ids=[shot.pk], frame=frame, words=note.words)
    return note


def note_as_guest(
    shot: Shot, guest: str, words: str, place: tuple[float, float] | None = None, frame: int | None = None
) -> ShotNote:
    """Of somebody without an account, whom a link lets see the shot; in the transaction of the caller. Raises: NotPossible"""
    words = _checked(shot, words, frame)
    x, y = place if place is not None else (None, None)
    note = ShotNote.objects.create(shot=shot, guest=guest, words=words[:1000], x=x, y=y, frame=frame)
    record(None, "note on shot", shot.scene.project, shot=shot.code, ids=[shot.pk], frame=frame, words=note.words, guest=guest)
    return note


def _checked(shot: Shot, words: str, frame: int | None) -> str:
    """Raises: NotPossible for no words, or a frame that the shot does not have"""
    if not words.strip():
        raise NotPossible("Write something first.")
    if frame is not None and (shot.first is None or shot.last is None or not shot.first <= frame <= shot.last):
        raise NotPossible(f"{shot.code} has no frame {frame}.")
    return words.strip()


def may_remove(person: Person, note: ShotNote, leads: bool) -> bool:
    """Is it the person's own, or a guest's in a project that they lead?"""
    return note.person_id == person.pk or (leads and note.guest != "")


def remove_note(person: Person, pk: int, note_pk: int) -> None:
    """One's own, or a guest's in a project that one leads. Raises: NotFound"""
    with transaction.atomic():
        project = find(person, pk)
        note = ShotNote.objects.filter(pk=note_pk, shot__scene__project=project).select_related("shot").first()
        if note is None or not may_remove(person, note, may_lead(person, project)):
            raise NotFound("There is no such note of yours.")
        record(person, "take back note", project, shot=note.shot.code, ids=[note.shot_id], words=note.words)
        note.delete()
