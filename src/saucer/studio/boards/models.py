"""What is stored of boards: their entries, pictures and verdicts."""

from __future__ import annotations

from typing import ClassVar

from django.conf import settings
from django.db import models

from saucer.studio.catalogue.models import Entry
from saucer.studio.common.constraints import one_of
from saucer.studio.pictures.models import Picture


class Choice(models.TextChoices):
    NONE = "", "Nothing said"
    YES = "yes", "Yes"
    MAYBE = "maybe", "Maybe"
    NO = "no", "No"


class Board(models.Model):
    """Entries down, pictures across. revision: goes up with each change of what is on it

    shuffle: 0 where names are shown; else they are hidden, and the entries stand in an order that this number decides
    """

    name = models.CharField(max_length=120)
    shuffle = models.PositiveIntegerField(default=0)
    revision = models.PositiveIntegerField(default=1)
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="boards")
    created = models.DateTimeField(auto_now_add=True)
    changed = models.DateTimeField(auto_now=True)
    deleted = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering: ClassVar = ["-changed", "-pk"]
        indexes: ClassVar = [models.Index(fields=["-changed", "-id"], name="board_newest", condition=models.Q(deleted=None))]

    def __str__(self) -> str:
        return f"board {self.pk} {self.name}"


class BoardEntry(models.Model):
    board = models.ForeignKey(Board, on_delete=models.CASCADE, related_name="entries")
    entry = models.ForeignKey(Entry, on_delete=models.CASCADE, related_name="+")
    position = models.PositiveSmallIntegerField()

    class Meta:
        ordering: ClassVar = ["position", "pk"]
        constraints: ClassVar = [models.UniqueConstraint(fields=["board", "entry"], name="entry_once_on_a_board")]

    def __str__(self) -> str:
        return f"{self.entry_id} on {self.board_id}"


class BoardPicture(models.Model):
    board = models.ForeignKey(Board, on_delete=models.CASCADE, related_name="pictures")
    picture = models.ForeignKey(Picture, on_delete=models.CASCADE, related_name="+")
    position = models.PositiveSmallIntegerField()

    class Meta:
        ordering: ClassVar = ["position", "pk"]
        constraints: ClassVar = [models.UniqueConstraint(fields=["board", "picture"], name="picture_once_on_a_board")]

    def __str__(self) -> str:
        return f"{self.picture_id} on {self.board_id}"


class Verdict(models.Model):
    """What one person says of one entry on a board. said_of: what the entry looked like then (its `shown_hash`)"""

    board = models.ForeignKey(Board, on_delete=models.CASCADE, related_name="verdicts")
    entry = models.ForeignKey(Entry, on_delete=models.CASCADE, related_name="+")
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    choice = models.CharField(max_length=5, choices=Choice, default=Choice.NONE, blank=True)
    note = models.CharField(max_length=1000, blank=True)
    said_of = models.CharField(max_length=64, blank=True)
    at = models.DateTimeField(auto_now=True)

    class Meta:
        ordering: ClassVar = ["at", "pk"]
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["board", "entry", "person"], name="one_verdict_a_person"),
            one_of("choice_of_a_verdict", "choice", Choice),
        ]

    def __str__(self) -> str:
        return f"{self.choice} of {self.person_id} on {self.entry_id}"
