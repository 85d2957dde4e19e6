"""What is stored of looks: drafts, the contents of versions, who is present."""

from __future__ import annotations

from typing import ClassVar

from django.conf import settings
from django.db import models

from saucer.studio.catalogue.models import Entry


class LookDraft(models.Model):
    """How a look stands on the Bench, saved all the time.

    revision: counts saves; a save names the one it began from
    """

    entry = models.OneToOneField(Entry, primary_key=True, on_delete=models.CASCADE, related_name="look_draft")
    content = models.JSONField()
    hash = models.CharField(max_length=64)
    revision = models.PositiveIntegerField(default=1)
    edited_by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    edited = models.DateTimeField(auto_now=True)

    def __str__(self) -> str:
        return f"draft of {self.entry}"


class Presence(models.Model):
    """Somebody has a look open. Told again and again; old ones count for nothing."""

    look = models.ForeignKey(Entry, on_delete=models.CASCADE, related_name="presences")
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    page = models.CharField(max_length=40, help_text="made up by the page, so that one person's two pages are told apart")
    edited = models.DateTimeField(null=True, blank=True, help_text="when something was last changed on that page")
    seen = models.DateTimeField(auto_now=True)

    class Meta:
        ordering: ClassVar = ["pk"]
        constraints: ClassVar = [models.UniqueConstraint(fields=["look", "person", "page"], name="one_presence_per_page")]

    def __str__(self) -> str:
        return f"{self.person} at {self.look}"
