"""What is stored of guests: links that show them something, who came by them, and their verdicts."""

from __future__ import annotations

from typing import ClassVar

from django.conf import settings
from django.db import models
from django.db.models import Q

from saucer.studio.boards.models import Board, Choice
from saucer.studio.catalogue.models import Entry, Pin
from saucer.studio.common.constraints import one_of, within
from saucer.studio.pictures.models import Picture
from saucer.studio.projects.models import Project, Shot, ShotNote


class Shows(models.TextChoices):
    BOARD = "board", "a board"
    GALLERY = "gallery", "chosen entries"
    WALL = "wall", "a project's wall"


class GuestLink(models.Model):
    """An address by which people without an account see something, until it ends or is revoked. Only the hash of its code is kept.

    name: of a gallery, which has no other; words: said to whoever comes; password: as Django keeps one, empty where none is asked for
    stamp: who looks is written into every picture
    """

    shows = models.CharField(max_length=8, choices=Shows)
    board = models.ForeignKey(Board, null=True, on_delete=models.CASCADE, related_name="guest_links")
    project = models.ForeignKey(Project, null=True, on_delete=models.CASCADE, related_name="guest_links")
    name = models.CharField(max_length=120, blank=True)
    words = models.CharField(max_length=500, blank=True)
    code_hash = models.CharField(max_length=64, unique=True)
    password = models.CharField(max_length=128, blank=True)
    stamp = models.BooleanField(default=False)
    until = models.DateTimeField()
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    made = models.DateTimeField(auto_now_add=True)
    revoked = models.DateTimeField(null=True)

    class Meta:
        ordering: ClassVar = ["-made", "-pk"]
        constraints: ClassVar = [
            one_of("what_a_guest_link_shows", "shows", Shows),
            models.CheckConstraint(
                name="a_guest_link_shows_one_thing",
                condition=Q(shows=Shows.BOARD, board__isnull=False, project=None)
                | Q(shows=Shows.WALL, board=None, project__isnull=False)
                | Q(shows=Shows.GALLERY, board=None, project=None),
            ),
        ]

    def __str__(self) -> str:
        return self.title

    @property
    def title(self) -> str:
        shown = self.board or self.project
        return shown.name if shown is not None else self.name


class GalleryEntry(models.Model):
    link = models.ForeignKey(GuestLink, on_delete=models.CASCADE, related_name="entries")
    entry = models.ForeignKey(Entry, on_delete=models.CASCADE, related_name="+")
    position = models.PositiveSmallIntegerField()

    class Meta:
        ordering: ClassVar = ["position", "pk"]
        constraints: ClassVar = [models.UniqueConstraint(fields=["link", "entry"], name="entry_once_in_a_gallery")]

    def __str__(self) -> str:
        return f"{self.entry_id} in {self.link_id}"


class GalleryPicture(models.Model):
    link = models.ForeignKey(GuestLink, on_delete=models.CASCADE, related_name="pictures")
    picture = models.ForeignKey(Picture, on_delete=models.CASCADE, related_name="+")
    position = models.PositiveSmallIntegerField()

    class Meta:
        ordering: ClassVar = ["position", "pk"]
        constraints: ClassVar = [models.UniqueConstraint(fields=["link", "picture"], name="picture_once_in_a_gallery")]

    def __str__(self) -> str:
        return f"{self.picture_id} in {self.link_id}"


class Guest(models.Model):
    """Somebody who came by a link. key_hash: of the secret that their browser keeps; in_minute: calls within `minute`"""

    link = models.ForeignKey(GuestLink, on_delete=models.CASCADE, related_name="guests")
    name = models.CharField(max_length=80)
    key_hash = models.CharField(max_length=64, unique=True)
    address = models.GenericIPAddressField(null=True)
    came = models.DateTimeField(auto_now_add=True)
    minute = models.DateTimeField(null=True)
    in_minute = models.PositiveIntegerField(default=0)

    class Meta:
        ordering: ClassVar = ["came", "pk"]
        constraints: ClassVar = [within("calls_of_a_guest_in_a_minute", "in_minute", 0, 1_000_000)]

    def __str__(self) -> str:
        return self.name


class GuestVerdict(models.Model):
    """What a guest says of an entry or a shot. said_of: what it looked like then"""

    guest = models.ForeignKey(Guest, on_delete=models.CASCADE, related_name="verdicts")
    entry = models.ForeignKey(Entry, null=True, on_delete=models.CASCADE, related_name="+")
    shot = models.ForeignKey(Shot, null=True, on_delete=models.CASCADE, related_name="+")
    choice = models.CharField(max_length=5, choices=Choice, default=Choice.NONE, blank=True)
    said_of = models.CharField(max_length=64, blank=True)
    at = models.DateTimeField(auto_now=True)

    class Meta:
        ordering: ClassVar = ["at", "pk"]
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["guest", "entry", "shot"], name="one_verdict_a_guest", nulls_distinct=False),
            models.CheckConstraint(
                name="verdict_of_a_guest_on_one", condition=Q(entry=None, shot__isnull=False) | Q(entry__isnull=False, shot=None)
            ),
            one_of("choice_of_a_guest", "choice", Choice),
        ]

    def __str__(self) -> str:
        return f"{self.choice} of guest {self.guest_id}"


class GuestRemark(models.Model):
    """That a remark on an entry's version, or a note on a shot, is a guest's: they may take it back."""

    guest = models.ForeignKey(Guest, on_delete=models.CASCADE, related_name="remarks")
    pin = models.OneToOneField(Pin, null=True, on_delete=models.CASCADE, related_name="+")
    note = models.OneToOneField(ShotNote, null=True, on_delete=models.CASCADE, related_name="+")

    class Meta:
        constraints: ClassVar = [
            models.CheckConstraint(
                name="remark_of_a_guest_is_one", condition=Q(pin=None, note__isnull=False) | Q(pin__isnull=False, note=None)
            )
        ]

    def __str__(self) -> str:
        return f"remark {self.pk} of guest {self.guest_id}"
