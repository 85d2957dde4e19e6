"""What is stored of jobs: what is asked for, how far it is, what came of it."""

from __future__ import annotations

from typing import Any, ClassVar

from django.conf import settings
from django.db import models

from saucer.studio.common.constraints import one_of, within
from saucer.studio.common.models import Blob
from saucer.studio.people.models import Person


class State(models.TextChoices):
    WAITING = "waiting", "Waiting"
    RUNNING = "running", "Running"
    DONE = "done", "Done"
    FAILED = "failed", "Failed"
    CANCELLED = "cancelled", "Cancelled"


class JobQuery(models.QuerySet["Job"]):
    def visible_to(self, person: Person) -> JobQuery:
        """One's own: nobody else is told of them, whatever their role is."""
        return self.filter(person=person)


class Job(models.Model):
    """Work that a worker does. It may be done twice (a worker may die and another take over) and gives the same result.

    parameters, result: as the models that its kind is registered with; blobs: the files that these name, kept as long as the job
    parent: the job that this one is a part of, which is done once all its parts are
    """

    kind = models.CharField(max_length=20)
    parameters = models.JSONField(default=dict)
    state = models.CharField(max_length=12, choices=State, default=State.WAITING)
    progress = models.FloatField(default=0, help_text="0..1")
    attempts = models.PositiveSmallIntegerField(default=0, help_text="how often a worker has begun it")
    result = models.JSONField(null=True, blank=True)
    problem = models.CharField(max_length=1000, blank=True)
    blobs = models.ManyToManyField(Blob, related_name="+")
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="jobs")
    parent = models.ForeignKey("self", null=True, on_delete=models.CASCADE, related_name="parts")
    created = models.DateTimeField(auto_now_add=True)
    finished = models.DateTimeField(null=True, blank=True)

    objects: ClassVar[Any] = JobQuery.as_manager()

    class Meta:
        ordering: ClassVar = ["-created", "-pk"]
        indexes: ClassVar = [models.Index(fields=["person", "-created", "-id"], name="jobs_of_person")]
        constraints: ClassVar = [one_of("state_of_a_job", "state", State), within("progress_of_a_job", "progress", 0, 1)]

    def __str__(self) -> str:
        return f"job {self.pk} {self.kind}"
