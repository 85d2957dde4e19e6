"""What is stored of pictures and of what moves; who sees them."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, ClassVar

from django.conf import settings
from django.db import models

from saucer.core.pictures.raw import COOLEST, WARMEST
from saucer.studio.common.constraints import one_of, within
from saucer.studio.common.models import Blob
from saucer.studio.people.models import Person

KEPT_FROM: list[Callable[[Person], models.Q]] = []
"""By which other parts keep pictures from a person, each as what these pictures answer to."""


class PictureQuery(models.QuerySet["Picture"]):
    """Who sees a picture is asked here and nowhere else."""

    def known_to(self, person: Person) -> PictureQuery:
        """Deleted ones too: the team's, and frames that only this person looks at; not what other parts keep from them."""
        found = self.filter(models.Q(passing=False) | models.Q(owner=person))
        for kept in KEPT_FROM:
            found = found.exclude(kept(person) & models.Q(test=False) & ~models.Q(owner=person))
        return found

    def visible_to(self, person: Person) -> PictureQuery:
        """Those that are there for this person."""
        return self.known_to(person).filter(deleted=None)

    def find_for(self, person: Person, pk: int) -> Picture | None:
        """One, if it is there for this person. It is asked for with every frame of a drag, and most are kept from nobody: a short query
        finds those, and only for others is the whole question put."""
        found: Picture | None = self.filter(pk=pk, deleted=None).order_by().first()
        if found is None or found.is_always_known_to(person) or Picture.objects.visible_to(person).filter(pk=pk).exists():
            return found
        return None

    def shared_with(self, person: Person) -> PictureQuery:
        """Of those, what others see too: only such can be put where others look, into sets, boards, projects, remarks."""
        return self.visible_to(person).filter(passing=False)


class Picture(models.Model):
    """A picture to look at looks on. The file is kept as it came; the proxy is what previews are computed from."""

    name = models.CharField(max_length=120)
    note = models.CharField(max_length=300, blank=True)
    encoding = models.CharField(max_length=40)
    white = models.PositiveIntegerField(default=0, help_text="kelvin that a raw photograph is balanced to; 0: as its camera said")
    stated = models.CharField(max_length=160, blank=True, help_text="what in the file says what it is in")
    stated_encoding = models.CharField(max_length=40, blank=True, help_text="what that means; empty for nothing that we know")
    file_name = models.CharField(max_length=255)
    kind = models.CharField(max_length=12)
    depth = models.CharField(max_length=4)
    width = models.PositiveIntegerField()
    height = models.PositiveIntegerField()
    blob = models.ForeignKey(Blob, on_delete=models.PROTECT, related_name="+")
    proxy = models.ForeignKey(Blob, on_delete=models.PROTECT, related_name="+")
    mended = models.PositiveIntegerField(default=0, help_text="pixels that were not finite and became 0")
    test = models.BooleanField(default=False, help_text="stands in everybody's tray")
    passing = models.BooleanField(default=False, help_text="its owner only looks at it; gone when they sign out, or after a day")
    position = models.PositiveIntegerField(default=1000)
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="pictures")
    created = models.DateTimeField(auto_now_add=True)
    deleted = models.DateTimeField(null=True, blank=True)

    objects: ClassVar[Any] = PictureQuery.as_manager()

    class Meta:
        ordering: ClassVar = ["position", "pk"]
        constraints: ClassVar = [
            within("width_of_a_picture", "width", 1, 1_000_000), within("height_of_a_picture", "height", 1, 1_000_000),
            models.CheckConstraint(
                name="white_of_a_picture", condition=models.Q(white=0) | models.Q(white__gte=WARMEST, white__lte=COOLEST)
            ),
        ]  # fmt: skip

    def __str__(self) -> str:
        return f"picture {self.pk} {self.name}"

    @property
    def chosen_white(self) -> int | None:
        """As those who read its file take it."""
        return self.white or None

    def is_always_known_to(self, person: Person) -> bool:
        """Their own, and those of everybody's tray: no other part keeps these from anybody."""
        return self.owner_id == person.pk or (self.test and not self.passing)


class FootageQuery(models.QuerySet["Footage"]):
    def visible_to(self, person: Person) -> FootageQuery:
        """That of the pictures that are there for this person."""
        return self.filter(picture__in=Picture.objects.visible_to(person))


class Footage(models.Model):
    """What moves of a picture that is a clip or a numbered sequence. The picture itself is its first frame, at full size.

    first: number of the first frame as it is told to people; count: how many there are
    folder, path: where it is read in place: the name of an allowed folder, and the way from there to the folder of its files
    proxy: small, every frame by itself, in `proxy_encoding`; none until its job is done
    matrix, full: how a clip codes colour, empty and none for RGB; facts: what else the file says of itself
    """

    picture = models.OneToOneField(Picture, on_delete=models.CASCADE, related_name="footage", primary_key=True)
    kind = models.CharField(max_length=8, choices=[("clip", "clip"), ("sequence", "sequence")])
    first = models.PositiveIntegerField(default=0)
    count = models.PositiveIntegerField()
    rate_top = models.PositiveIntegerField(default=24)
    rate_bottom = models.PositiveIntegerField(default=1)
    timecode = models.CharField(max_length=20, blank=True)
    matrix = models.CharField(max_length=8, blank=True)
    full = models.BooleanField(null=True)
    facts = models.JSONField(default=dict)
    folder = models.CharField(max_length=80, blank=True)
    path = models.CharField(max_length=1000, blank=True)
    proxy = models.ForeignKey(Blob, null=True, on_delete=models.PROTECT, related_name="+")
    proxy_encoding = models.CharField(max_length=40, blank=True)

    objects: ClassVar[Any] = FootageQuery.as_manager()

    class Meta:
        constraints: ClassVar = [
            models.CheckConstraint(
                name="footage_has_frames", condition=models.Q(count__gte=1, rate_top__gte=1, rate_bottom__gte=1)
            ),
            one_of("kind_of_footage", "kind", ("clip", "sequence")),
        ]

    def __str__(self) -> str:
        return f"{self.kind} of picture {self.pk}"


class FootageFile(models.Model):
    """The file of a clip, or one of a sequence's, in order. blob: none where it is read in place

    bytes, changed: its size, and when it was last changed (ns), as it was brought in: it is told when that is no longer so
    """

    footage = models.ForeignKey(Footage, on_delete=models.CASCADE, related_name="files")
    position = models.PositiveIntegerField()
    file_name = models.CharField(max_length=255)
    blob = models.ForeignKey(Blob, null=True, on_delete=models.PROTECT, related_name="+")
    bytes = models.BigIntegerField(default=0)
    changed = models.BigIntegerField(default=0)

    class Meta:
        ordering: ClassVar = ["position"]
        constraints: ClassVar = [models.UniqueConstraint(fields=["footage", "position"], name="one_file_per_frame")]

    def __str__(self) -> str:
        return f"file {self.position} of {self.footage_id}"


class PictureSet(models.Model):
    """Test pictures that are looked at together, by name: people, night, sky."""

    name = models.CharField(max_length=60, unique=True)
    pictures = models.ManyToManyField(Picture, related_name="sets")
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")

    class Meta:
        ordering: ClassVar = ["name"]

    def __str__(self) -> str:
        return f"set {self.name}"
