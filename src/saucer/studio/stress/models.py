"""What is stored of where a look breaks: the last report of each version."""

from __future__ import annotations

from typing import ClassVar

from django.conf import settings
from django.db import models

from saucer.studio.catalogue.models import Version


class StressReport(models.Model):
    """content: as `rules.StressContent` has it; pictures: over how many it was made"""

    version = models.OneToOneField(Version, primary_key=True, on_delete=models.CASCADE, related_name="stress")
    holds = models.BooleanField()
    content = models.JSONField()
    pictures = models.PositiveIntegerField()
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    made = models.DateTimeField()

    class Meta:
        ordering: ClassVar = ["-made"]

    def __str__(self) -> str:
        return f"where {self.version_id} breaks"
