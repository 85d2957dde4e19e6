from __future__ import annotations

from typing import ClassVar

from django.contrib.auth.models import AbstractUser
from django.db import models


class Role(models.TextChoices):
    VIEWER = "viewer", "Viewer"
    DESIGNER = "designer", "Designer"
    CURATOR = "curator", "Curator"
    ADMIN = "admin", "Admin"


class Person(AbstractUser):
    """Somebody who signs in. Each role may do what the ones before it may."""

    role = models.CharField(max_length=12, choices=Role, default=Role.VIEWER)
    full_name = models.CharField(max_length=120, blank=True)

    @property
    def shown_name(self) -> str:
        return self.full_name or self.username


class AuditEntry(models.Model):
    """Who did what, when. Never changed, never deleted with what it is about."""

    at = models.DateTimeField(auto_now_add=True, db_index=True)
    person = models.ForeignKey(Person, null=True, on_delete=models.SET_NULL, related_name="+")
    action = models.CharField(max_length=40)
    subject = models.CharField(max_length=200)
    detail = models.JSONField(default=dict)

    class Meta:
        ordering: ClassVar = ["-at", "-pk"]
