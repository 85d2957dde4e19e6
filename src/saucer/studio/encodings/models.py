"""What is stored of the team's own encodings."""

from __future__ import annotations

from typing import ClassVar

from django.conf import settings
from django.db import models


class TeamEncoding(models.Model):
    """An encoding the team defined. What it means never changes: pictures and LUTs name it."""

    encoding_id = models.CharField(max_length=40, unique=True)
    definition = models.JSONField()
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering: ClassVar = ["encoding_id"]

    def __str__(self) -> str:
        return f"encoding {self.encoding_id}"
