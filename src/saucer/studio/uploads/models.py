"""What is stored of a file that is on its way."""

from __future__ import annotations

import uuid
from typing import ClassVar

from django.conf import settings
from django.db import models
from django.db.models import F, Q


class Upload(models.Model):
    """size: of the whole; offset: how much of it has come; touched: when the last of it came"""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    name = models.CharField(max_length=200)
    size = models.BigIntegerField()
    offset = models.BigIntegerField(default=0)
    made = models.DateTimeField(auto_now_add=True)
    touched = models.DateTimeField(auto_now_add=True, db_index=True)

    class Meta:
        ordering: ClassVar = ["made", "pk"]
        constraints: ClassVar = [
            models.CheckConstraint(
                name="upload_within_its_size", condition=Q(offset__gte=0) & Q(offset__lte=F("size")) & Q(size__gte=1)
            )
        ]

    def __str__(self) -> str:
        return f"{self.name}: {self.offset} of {self.size}"

    @property
    def is_whole(self) -> bool:
        return self.offset == self.size
