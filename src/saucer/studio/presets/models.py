from __future__ import annotations

from typing import ClassVar

from django.conf import settings
from django.db import models


class Preset(models.Model):
    """A run of steps under a name, the whole team's."""

    name = models.CharField(max_length=120)
    category = models.CharField(max_length=60, blank=True)
    note = models.CharField(max_length=1000, blank=True)
    steps = models.JSONField()
    steps_hash = models.CharField(max_length=64)
    favourite_of = models.ManyToManyField(settings.AUTH_USER_MODEL, blank=True, related_name="favourite_presets")
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="presets")
    created = models.DateTimeField(auto_now_add=True)
    deleted = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering: ClassVar = ["category", "name", "pk"]

    def __str__(self) -> str:
        return f"preset {self.pk} {self.name}"


class RecentSetting(models.Model):
    """One of the last settings that a person gave a step of a kind."""

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
