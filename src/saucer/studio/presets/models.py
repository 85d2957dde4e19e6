"""What is stored of presets and recent settings."""

from __future__ import annotations

from typing import ClassVar

from django.conf import settings
from django.db import models


class RecentSetting(models.Model):
    """One of the last settings that a person gave a step of a kind. Presets themselves are entries of the catalogue."""

    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="recent_settings")
    kind = models.CharField(max_length=40)
    step = models.JSONField()
    steps_hash = models.CharField(max_length=64)
    used = models.DateTimeField(auto_now=True)

    class Meta:
        ordering: ClassVar = ["-used", "-pk"]
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["person", "kind", "steps_hash"], name="one_recent_per_setting"),
        ]

    def __str__(self) -> str:
        return f"recent {self.kind} of {self.person}"
