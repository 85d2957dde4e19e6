from __future__ import annotations

from typing import ClassVar

from django.conf import settings
from django.db import models


class LutEntry(models.Model):
    """A LUT file on the Shelf, baked here or brought in. The file never changes."""

    name = models.CharField(max_length=120)
    author = models.CharField(max_length=120, blank=True)
    file_name = models.CharField(max_length=255)
    format = models.CharField(max_length=20)
    kind = models.CharField(max_length=12)
    size = models.PositiveIntegerField()
    sha256 = models.CharField(max_length=64)
    bytes = models.PositiveIntegerField()
    expects = models.CharField(max_length=40, help_text="encoding of its input")
    gives = models.CharField(max_length=40, help_text="encoding of its output")
    version = models.ForeignKey("looks.Version", null=True, blank=True, on_delete=models.SET_NULL, related_name="luts")
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="luts")
    created = models.DateTimeField(auto_now_add=True)
    deleted = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering: ClassVar = ["-created", "-pk"]

    def __str__(self) -> str:
        return f"LUT {self.pk} {self.name}"
