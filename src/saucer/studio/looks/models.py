from __future__ import annotations

from typing import Any, ClassVar

from django.conf import settings
from django.db import models


class LookEntry(models.Model):
    """A look with its draft, which is saved all the time, and its versions, which never change."""

    name = models.CharField(max_length=120)
    note = models.CharField(max_length=1000, blank=True)
    draft = models.JSONField()
    draft_hash = models.CharField(max_length=64)
    revision = models.PositiveIntegerField(default=1, help_text="counts saves of the draft; a save names the one it began from")
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="looks")
    edited_by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    branched_from = models.ForeignKey("looks.Version", null=True, blank=True, on_delete=models.SET_NULL, related_name="branches")
    created = models.DateTimeField(auto_now_add=True)
    edited = models.DateTimeField(auto_now=True)
    deleted = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering: ClassVar = ["-edited"]

    def __str__(self) -> str:
        return f"look {self.pk} {self.name}"


class Version(models.Model):
    """A published state of a look. Written once."""

    look = models.ForeignKey(LookEntry, on_delete=models.CASCADE, related_name="versions")
    number = models.PositiveIntegerField()
    note = models.CharField(max_length=1000, blank=True)
    content = models.JSONField()
    content_hash = models.CharField(max_length=64)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    made = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering: ClassVar = ["-number"]
        constraints: ClassVar = [models.UniqueConstraint(fields=["look", "number"], name="one_version_per_number")]

    def __str__(self) -> str:
        return f"{self.look} version {self.number}"

    def save(self, *args: Any, **kwargs: Any) -> None:
        if self.pk is not None:
            raise RuntimeError("a version never changes once it is made")
        super().save(*args, **kwargs)


class Presence(models.Model):
    """Somebody has a look open. Told again and again; old ones count for nothing."""

    look = models.ForeignKey(LookEntry, on_delete=models.CASCADE, related_name="presences")
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    page = models.CharField(max_length=40, help_text="made up by the page, so that one person's two pages are told apart")
    edited = models.DateTimeField(null=True, blank=True, help_text="when something was last changed on that page")
    seen = models.DateTimeField(auto_now=True)

    class Meta:
        ordering: ClassVar = ["pk"]
        constraints: ClassVar = [models.UniqueConstraint(fields=["look", "page"], name="one_presence_per_page")]

    def __str__(self) -> str:
        return f"{self.person} at {self.look}"
