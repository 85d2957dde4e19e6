"""What is stored of LUTs: their files, what they take and give, their health."""

from __future__ import annotations

from typing import ClassVar

from django.conf import settings
from django.db import models

from saucer.studio.catalogue.models import Entry, Version
from saucer.studio.common.constraints import one_of, within
from saucer.studio.common.models import Blob
from saucer.studio.jobs.models import Job


class Lut(models.Model):
    """A LUT that a version is, or that was baked from one, with its files in one or more formats. It never changes.

    choice: how it was baked, none for one that was not; made_by: the tool, chart or pair that made it
    sample: what 256 colours become, float32; bucket: a coarse number of it, by which LUTs that do the same are found
    facts: as `luts.facts.LutFacts`
    """

    version = models.ForeignKey(Version, on_delete=models.PROTECT, related_name="luts")
    choice = models.JSONField(null=True)
    kind = models.CharField(max_length=60)
    size = models.PositiveIntegerField()
    expects = models.CharField(max_length=40, help_text="encoding of its input")
    gives = models.CharField(max_length=40, help_text="encoding of its output")
    known = models.CharField(max_length=10, help_text="how its encodings are known: baked, declared, guessed, asked, said")
    health = models.CharField(max_length=9, help_text="fine, notice or bad")
    health_words = models.CharField(max_length=300, blank=True)
    sample = models.BinaryField()
    bucket = models.IntegerField(db_index=True)
    made_by = models.CharField(max_length=40, blank=True)
    facts = models.JSONField(default=dict)
    made = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering: ClassVar = ["-pk"]
        constraints: ClassVar = [
            one_of("how_a_lut_is_known", "known", ("baked", "declared", "guessed", "asked", "said")),
            one_of("health_of_a_lut", "health", ("fine", "notice", "bad")),
            within("size_of_a_lut", "size", 0, 1_000_000),
        ]

    def __str__(self) -> str:
        return f"LUT {self.pk} of {self.version}"


class LutFile(models.Model):
    """A LUT in one format. facts: as `luts.facts.FileFacts`"""

    lut = models.ForeignKey(Lut, on_delete=models.CASCADE, related_name="files")
    position = models.PositiveSmallIntegerField()
    format = models.CharField(max_length=20)
    file_name = models.CharField(max_length=255)
    size = models.PositiveIntegerField()
    blob = models.ForeignKey(Blob, on_delete=models.PROTECT, related_name="lut_files")
    facts = models.JSONField(default=dict)

    class Meta:
        ordering: ClassVar = ["position"]
        constraints: ClassVar = [models.UniqueConstraint(fields=["lut", "position"], name="one_file_per_position")]

    def __str__(self) -> str:
        return f"LUT file {self.pk} {self.file_name}"


class Pack(models.Model):
    """Files or zips that came in together and are read into a table, row by row."""

    job = models.OneToOneField(Job, on_delete=models.CASCADE, related_name="pack")
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="packs")
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering: ClassVar = ["-pk"]

    def __str__(self) -> str:
        return f"pack {self.pk}"


class PackRow(models.Model):
    """One line of the table. found: as `luts.packs.Found`; corrected: as `luts.packs.Correction`, what a person changed of it"""

    pack = models.ForeignKey(Pack, on_delete=models.CASCADE, related_name="rows")
    index = models.PositiveIntegerField()
    blob = models.ForeignKey(Blob, null=True, on_delete=models.PROTECT, related_name="+")
    found = models.JSONField()
    corrected = models.JSONField(default=dict)
    sample = models.BinaryField(null=True)
    bucket = models.IntegerField(null=True)
    kept = models.ForeignKey(Entry, null=True, on_delete=models.SET_NULL, related_name="+")

    class Meta:
        ordering: ClassVar = ["index"]
        constraints: ClassVar = [models.UniqueConstraint(fields=["pack", "index"], name="one_row_per_index")]

    def __str__(self) -> str:
        return f"row {self.index + 1} of {self.pack}"
