from __future__ import annotations

from django.db import models


class Blob(models.Model):
    """A stored file, named by its content. Every column with a SHA-256 refers to it, so that what nothing refers to can be found."""

    sha256 = models.CharField(max_length=64, primary_key=True)
    bytes = models.BigIntegerField()
    made = models.DateTimeField(auto_now_add=True, db_index=True)

    def __str__(self) -> str:
        return f"file {self.sha256[:12]}"
