from __future__ import annotations

from typing import ClassVar

from django.conf import settings
from django.db import models

from saucer.studio.common.models import Blob


class Picture(models.Model):
    """A picture to look at looks on. The file is kept as it came; the proxy is what previews are computed from."""

    name = models.CharField(max_length=120)
    note = models.CharField(max_length=300, blank=True)
    encoding = models.CharField(max_length=40)
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

    class Meta:
        ordering: ClassVar = ["position", "pk"]

    def __str__(self) -> str:
        return f"picture {self.pk} {self.name}"


class PictureSet(models.Model):
    """Test pictures that are looked at together, by name: people, night, sky."""

    name = models.CharField(max_length=60, unique=True)
    pictures = models.ManyToManyField(Picture, related_name="sets")
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")

    class Meta:
        ordering: ClassVar = ["name"]

    def __str__(self) -> str:
        return f"set {self.name}"
