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
    kind = models.CharField(max_length=60)
    size = models.PositiveIntegerField()
    sha256 = models.CharField(max_length=64)
    bytes = models.PositiveIntegerField()
    expects = models.CharField(max_length=40, help_text="encoding of its input")
    gives = models.CharField(max_length=40, help_text="encoding of its output")
    rights = models.CharField(max_length=200, blank=True)
    note = models.TextField(max_length=2000, blank=True)
    category = models.CharField(max_length=200, blank=True, help_text="folders of the pack it came in, with / between")
    known = models.CharField(
        max_length=10, default="said", help_text="how its encodings are known: baked, declared, guessed, asked, said"
    )
    health = models.CharField(max_length=6, blank=True, help_text="fine, look or bad")
    health_words = models.CharField(max_length=300, blank=True)
    likeness = models.CharField(max_length=32, blank=True, db_index=True, help_text="the same for files that do the same")
    made_by = models.CharField(max_length=40, blank=True, help_text="the tool that made it from its parent, chart or pair")
    parent = models.ForeignKey("self", null=True, blank=True, on_delete=models.SET_NULL, related_name="children")
    made = models.JSONField(default=dict, help_text="how it was baked or read, and what was measured")
    version = models.ForeignKey("looks.Version", null=True, blank=True, on_delete=models.SET_NULL, related_name="luts")
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="luts")
    created = models.DateTimeField(auto_now_add=True)
    deleted = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering: ClassVar = ["-created", "-pk"]

    def __str__(self) -> str:
        return f"LUT {self.pk} {self.name}"


class LutFile(models.Model):
    """One more format of a baked LUT, beside the file that its entry has first."""

    entry = models.ForeignKey(LutEntry, on_delete=models.CASCADE, related_name="files")
    format = models.CharField(max_length=20)
    file_name = models.CharField(max_length=255)
    size = models.PositiveIntegerField()
    sha256 = models.CharField(max_length=64)
    bytes = models.PositiveIntegerField()
    made = models.JSONField(default=dict, help_text="what the format lost, and its fidelity")

    class Meta:
        ordering: ClassVar = ["pk"]

    def __str__(self) -> str:
        return f"LUT file {self.pk} {self.file_name}"
