from __future__ import annotations

from typing import ClassVar

from django.conf import settings
from django.db import models
from django.db.models.functions import Lower

from saucer.studio.catalogue.models import Version
from saucer.studio.pictures.models import Picture


class Project(models.Model):
    """delivery: the encoding that its pictures leave in; closed: seen by its owner, its members and admins only"""

    name = models.CharField(max_length=120)
    code = models.CharField(max_length=20, blank=True)
    note = models.TextField(max_length=2000, blank=True)
    delivery = models.CharField(max_length=40, default="rec709")
    closed = models.BooleanField(default=False)
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="own_projects")
    members = models.ManyToManyField(settings.AUTH_USER_MODEL, blank=True, related_name="projects")
    created = models.DateTimeField(auto_now_add=True)
    deleted = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering: ClassVar = ["-created", "-pk"]
        constraints: ClassVar = [
            models.UniqueConstraint(Lower("name"), name="one_project_per_name", condition=models.Q(deleted=None))
        ]

    def __str__(self) -> str:
        return f"project {self.pk} {self.name}"


class Scene(models.Model):
    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="scenes")
    name = models.CharField(max_length=80)
    position = models.PositiveIntegerField()

    class Meta:
        ordering: ClassVar = ["position", "pk"]
        constraints: ClassVar = [models.UniqueConstraint("project", Lower("name"), name="one_scene_per_name")]

    def __str__(self) -> str:
        return f"scene {self.name} of {self.project_id}"


class Shot(models.Model):
    """A picture in its place in the story. approved: somebody has said that it is done; by whom stands in the activity"""

    scene = models.ForeignKey(Scene, on_delete=models.CASCADE, related_name="shots")
    code = models.CharField(max_length=80)
    position = models.PositiveIntegerField()
    picture = models.ForeignKey(Picture, on_delete=models.PROTECT, related_name="shots")
    note = models.CharField(max_length=1000, blank=True)
    approved = models.BooleanField(default=False)
    deleted = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering: ClassVar = ["scene__position", "position", "pk"]
        constraints: ClassVar = [
            models.UniqueConstraint("scene", Lower("code"), name="one_shot_per_code", condition=models.Q(deleted=None))
        ]

    def __str__(self) -> str:
        return f"shot {self.code}"


class Layer(models.Model):
    """A version of an entry on a shot: one, unless it was asked to be stacked. It is pinned; a newer one is offered, never slipped in."""

    shot = models.ForeignKey(Shot, on_delete=models.CASCADE, related_name="layers")
    position = models.PositiveSmallIntegerField()
    version = models.ForeignKey(Version, on_delete=models.PROTECT, related_name="layers")
    strength = models.FloatField(default=1.0)
    placed_by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    placed = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering: ClassVar = ["position", "pk"]
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["shot", "position"], name="one_layer_per_place", deferrable=models.Deferrable.DEFERRED),
            models.CheckConstraint(name="strength_of_a_layer", condition=models.Q(strength__gte=0, strength__lte=1)),
        ]

    def __str__(self) -> str:
        return f"{self.version} on {self.shot}"
