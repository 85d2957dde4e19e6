"""What is stored of people: accounts, activity, tries to sign in."""

from __future__ import annotations

from typing import Any, ClassVar

from django.contrib.auth.models import AbstractUser, UserManager
from django.db import models

from saucer.studio.common.constraints import one_of


class Role(models.TextChoices):
    VIEWER = "viewer", "Viewer"
    DESIGNER = "designer", "Designer"
    CURATOR = "curator", "Curator"
    ADMIN = "admin", "Admin"


class People(UserManager["Person"]):
    def create_superuser(self, username: str, email: str | None = None, password: str | None = None, **fields: Any) -> Person:
        """Django's own command makes an admin too: who may do everything on the server may do everything here."""
        return super().create_superuser(username, email, password, **{"role": Role.ADMIN} | fields)


class Person(AbstractUser):
    """Somebody who signs in. Each role may do what the ones before it may."""

    role = models.CharField(max_length=12, choices=Role, default=Role.VIEWER)
    full_name = models.CharField(max_length=120, blank=True)

    objects: ClassVar[People] = People()

    class Meta(AbstractUser.Meta):
        constraints: ClassVar = [one_of("role_of_a_person", "role", Role)]

    @property
    def shown_name(self) -> str:
        return self.full_name or self.username


class Activity(models.Model):
    """Who did what to what, when. Never changed, never deleted with what it is about.

    about_kind, about_id, about: what it concerns, by its kind, its number there, and the name it had
    """

    at = models.DateTimeField(auto_now_add=True)
    person = models.ForeignKey(Person, null=True, on_delete=models.SET_NULL, related_name="+")
    action = models.CharField(max_length=40)
    about_kind = models.CharField(max_length=20, blank=True)
    about_id = models.BigIntegerField(null=True)
    about = models.CharField(max_length=200)
    data = models.JSONField(default=dict)

    class Meta:
        ordering: ClassVar = ["-at", "-pk"]
        indexes: ClassVar = [
            models.Index(fields=["-at", "-id"], name="activity_when"),
            models.Index(fields=["about_kind", "about_id", "-at"], name="activity_about"),
            models.Index(fields=["person", "-at"], name="activity_who"),
        ]

    def __str__(self) -> str:
        return f"{self.action} {self.about}"
