"""What is stored for everybody: files by their hash, and the clock."""

from __future__ import annotations

from typing import ClassVar

from django.db import models


class Blob(models.Model):
    """A stored file, named by its content. Every column with a SHA-256 refers to it, so that what nothing refers to can be found."""

    sha256 = models.CharField(max_length=64, primary_key=True)
    bytes = models.BigIntegerField()
    made = models.DateTimeField(auto_now_add=True, db_index=True)

    def __str__(self) -> str:
        return f"file {self.sha256[:12]}"


class Unreadable(models.Model):
    """A row that a list could not read and left out: what it is, by its kind and key, and why; when it was met last."""

    kind = models.CharField(max_length=40)
    key = models.CharField(max_length=64)
    name = models.CharField(max_length=200)
    problem = models.CharField(max_length=300)
    at = models.DateTimeField(auto_now=True, db_index=True)

    class Meta:
        ordering: ClassVar = ["-at", "-pk"]
        constraints: ClassVar = [models.UniqueConstraint(fields=["kind", "key"], name="unreadable_once")]

    def __str__(self) -> str:
        return f"{self.kind} {self.key}"


class Clock(models.Model):
    """One row: when the clock was looked at last, and its last step that no waiting explains."""

    seen = models.DateTimeField()
    moved_from = models.DateTimeField(null=True)
    moved_at = models.DateTimeField(null=True)

    def __str__(self) -> str:
        return f"seen {self.seen}"
