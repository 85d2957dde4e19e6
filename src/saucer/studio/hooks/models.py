"""What is stored of hooks: the addresses, what each is told of, and the calls."""

from __future__ import annotations

from typing import ClassVar

from django.conf import settings
from django.contrib.postgres.fields import ArrayField
from django.db import models
from django.db.models import Q
from django.db.models.functions import Lower

from saucer.studio.common.constraints import one_of


class Event(models.TextChoices):
    PROPOSED = "proposed", "A version was proposed"
    PUBLISHED = "published", "A version was published"
    RETIRED = "retired", "A version was retired"
    DELIVERED = "delivered", "A delivery is ready"


TRIED = "tried"
"""The event of a call that an admin asks for, to see whether somebody is there."""


class Hook(models.Model):
    """secret: by which calls are signed, as it was shown once"""

    name = models.CharField(max_length=80)
    url = models.CharField(max_length=500)
    events = ArrayField(models.CharField(max_length=10, choices=Event))
    secret = models.CharField(max_length=64)
    is_on = models.BooleanField(default=True)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    made = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering: ClassVar = ["name"]
        constraints: ClassVar = [
            models.UniqueConstraint(Lower("name"), name="one_hook_per_name"),
            models.CheckConstraint(
                name="events_of_a_hook", condition=Q(events__contained_by=list(Event.values)) & Q(events__len__gte=1)
            ),
        ]

    def __str__(self) -> str:
        return f"hook {self.name}"


class CallState(models.TextChoices):
    WAITING = "waiting"
    DONE = "done"
    GIVEN_UP = "given up"


class Call(models.Model):
    """One thing that a hook is told. due: when it is sent, or sent again; status: of the last answer, none for none; problem: in words"""

    hook = models.ForeignKey(Hook, on_delete=models.CASCADE, related_name="calls")
    event = models.CharField(max_length=10)
    body = models.JSONField()
    state = models.CharField(max_length=8, choices=CallState, default=CallState.WAITING)
    attempts = models.PositiveSmallIntegerField(default=0)
    status = models.PositiveSmallIntegerField(null=True)
    problem = models.CharField(max_length=300, blank=True)
    at = models.DateTimeField(auto_now_add=True)
    due = models.DateTimeField()

    class Meta:
        ordering: ClassVar = ["-pk"]
        indexes: ClassVar = [models.Index(fields=["due"], name="call_due", condition=Q(state=CallState.WAITING))]
        constraints: ClassVar = [
            one_of("state_of_a_call", "state", CallState),
            one_of("event_of_a_call", "event", (*Event.values, TRIED)),
        ]

    def __str__(self) -> str:
        return f"call {self.pk} of {self.hook_id}"
