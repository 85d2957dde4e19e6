"""What is stored of projects: scenes, shots, layers, figures, deliveries; who sees them."""

from __future__ import annotations

from typing import Any, ClassVar, get_args

from django.conf import settings
from django.contrib.postgres.fields import ArrayField
from django.db import models
from django.db.models.functions import Lower

from saucer.core.colour.rendering import View
from saucer.core.look.member import LONGEST_NAME
from saucer.studio.catalogue.models import Version
from saucer.studio.common.constraints import at_most, one_of, within
from saucer.studio.common.models import Blob
from saucer.studio.jobs.models import Job
from saucer.studio.people.models import Person, Role
from saucer.studio.people.rules import may, name_of
from saucer.studio.pictures.models import Picture


class ProjectQuery(models.QuerySet["Project"]):
    """Who sees a project, and with it its shots and deliveries, is asked here and nowhere else."""

    def known_to(self, person: Person) -> ProjectQuery:
        """Deleted ones too: those that are open, one's own, those one is a member of; for admins all."""
        if may(person, Role.ADMIN):
            return self
        mine = Membership.objects.filter(person=person).values("project")
        return self.filter(models.Q(closed=False) | models.Q(owner=person) | models.Q(pk__in=mine))

    def visible_to(self, person: Person) -> ProjectQuery:
        return self.known_to(person).filter(deleted=None)


class Project(models.Model):
    """delivery: the encoding that its pictures leave in; view: by which they are seen, and brought there

    closed: seen by its owner, its members and admins only

    tolerances: beyond which a shot is a misfit, what differs from those that everybody has
    """

    name = models.CharField(max_length=120)
    code = models.CharField(max_length=20, blank=True)
    note = models.TextField(max_length=2000, blank=True)
    delivery = models.CharField(max_length=40, default="rec709")
    view = models.CharField(max_length=10, default="soft", choices=[(one, one) for one in get_args(View)])
    closed = models.BooleanField(default=False)
    tolerances = models.JSONField(default=dict)
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="own_projects")
    members = models.ManyToManyField(settings.AUTH_USER_MODEL, through="Membership", related_name="projects")
    created = models.DateTimeField(auto_now_add=True)
    deleted = models.DateTimeField(null=True, blank=True)

    objects: ClassVar[Any] = ProjectQuery.as_manager()

    class Meta:
        ordering: ClassVar = ["-created", "-pk"]
        constraints: ClassVar = [
            models.UniqueConstraint(Lower("name"), name="one_project_per_name", condition=models.Q(deleted=None)),
            at_most("note_of_a_project", "note", 2000),
            one_of("view_of_a_project", "view", get_args(View)),
        ]

    def __str__(self) -> str:
        return f"project {self.pk} {self.name}"


class MemberRole(models.TextChoices):
    """What a member does in a project. Nobody may do more than their role in the studio allows."""

    LEADS = "leads", "leads: changes the project and its shots"
    GRADES = "grades", "grades: changes shots and delivers them"
    FOLLOWS = "follows", "follows: sees everything and writes notes"


class Membership(models.Model):
    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="memberships")
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="memberships")
    role = models.CharField(max_length=8, choices=MemberRole, default=MemberRole.GRADES)

    class Meta:
        ordering: ClassVar = ["person__username"]
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["project", "person"], name="one_role_per_member"),
            one_of("role_of_a_member", "role", MemberRole),
        ]

    def __str__(self) -> str:
        return f"{self.person} {self.role} {self.project}"


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
    """A picture, or some frames of a clip or sequence, in its place in the story.

    encoding: what the picture is in, where it is not what the picture says of itself
    roll: the camera, roll or folder it comes from, by whose name corrections are put on all of it
    first, last, poster: frames of what moves, from 0; poster is the one on the wall. None for a still
    reference: a picture it is held beside; facts: what a timeline said of it
    approved: somebody has said that it is done; by whom stands in the activity
    """

    scene = models.ForeignKey(Scene, on_delete=models.CASCADE, related_name="shots")
    code = models.CharField(max_length=80)
    position = models.PositiveIntegerField()
    picture = models.ForeignKey(Picture, on_delete=models.PROTECT, related_name="shots")
    encoding = models.CharField(max_length=40, blank=True)
    roll = models.CharField(max_length=80, blank=True)
    first = models.PositiveIntegerField(null=True, blank=True)
    last = models.PositiveIntegerField(null=True, blank=True)
    poster = models.PositiveIntegerField(null=True, blank=True)
    reference = models.ForeignKey(Picture, null=True, blank=True, on_delete=models.SET_NULL, related_name="+")
    facts = models.JSONField(default=dict)
    note = models.CharField(max_length=1000, blank=True)
    approved = models.BooleanField(default=False)
    deleted = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering: ClassVar = ["scene__position", "position", "pk"]
        constraints: ClassVar = [
            models.UniqueConstraint("scene", Lower("code"), name="one_shot_per_code", condition=models.Q(deleted=None)),
            models.CheckConstraint(
                name="frames_of_a_shot",
                condition=models.Q(first=None, last=None, poster=None)
                | models.Q(first__lte=models.F("last"), poster__gte=models.F("first"), poster__lte=models.F("last")),
            ),
        ]

    def __str__(self) -> str:
        return f"shot {self.code}"

    @property
    def source_encoding(self) -> str:
        return self.encoding or self.picture.encoding

    @property
    def moves(self) -> bool:
        return self.first is not None


class LayerRole(models.TextChoices):
    """What a layer is for: what brings a shot into range comes before its look."""

    BEFORE = "before", "before the look"
    LOOK = "look", "look"
    AFTER = "after", "after the look"


class Reach(models.TextChoices):
    """Whom a layer is for."""

    SHOT = "shot", "one shot"
    ROLL = "roll", "every shot of a camera, roll or folder"
    SCENE = "scene", "every shot of a scene"
    PROJECT = "project", "every shot of the project"


class Layer(models.Model):
    """A version of an entry, or steps, on a shot: one look, unless it was asked to be stacked, and trims before or after it.

    Or on many: in place of the shot it names a scene, or a project and in it, where it is for one only, a roll.
    A version is pinned; a newer one is offered, never slipped in. off_on: numbers of shots that it reaches and does not act on
    member: which of the look's family, by its name; empty for the recipe
    """

    shot = models.ForeignKey(Shot, null=True, on_delete=models.CASCADE, related_name="layers")
    scene = models.ForeignKey(Scene, null=True, on_delete=models.CASCADE, related_name="shared_layers")
    project = models.ForeignKey(Project, null=True, on_delete=models.CASCADE, related_name="shared_layers")
    roll = models.CharField(max_length=80, blank=True)
    off_on = ArrayField(models.BigIntegerField(), default=list, blank=True)
    position = models.PositiveSmallIntegerField()
    role = models.CharField(max_length=6, choices=LayerRole, default=LayerRole.LOOK)
    version = models.ForeignKey(Version, null=True, on_delete=models.PROTECT, related_name="layers")
    member = models.CharField(max_length=LONGEST_NAME, blank=True)
    steps = models.JSONField(null=True)
    strength = models.FloatField(default=1.0)
    enabled = models.BooleanField(default=True)
    placed_by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    placed = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering: ClassVar = ["position", "pk"]
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["shot", "position"], name="one_layer_per_place", deferrable=models.Deferrable.DEFERRED),
            models.UniqueConstraint(fields=["scene", "position"], name="one_layer_per_place_of_a_scene"),
            models.UniqueConstraint(fields=["project", "roll", "role", "position"], name="one_layer_per_place_of_a_project"),
            one_of("role_of_a_layer", "role", LayerRole),
            models.CheckConstraint(name="strength_of_a_layer", condition=models.Q(strength__gte=0, strength__lte=1)),
            models.CheckConstraint(
                name="version_or_steps",
                condition=models.Q(version__isnull=False, steps=None) | models.Q(version=None, steps__isnull=False),
            ),
            models.CheckConstraint(
                name="on_a_shot_or_on_many",
                condition=models.Q(shot__isnull=False, scene=None, project=None, roll="", off_on=[])
                | models.Q(shot=None, scene__isnull=False, project=None, roll="", role="before")
                | models.Q(shot=None, scene=None, project__isnull=False, role="before")
                | models.Q(shot=None, scene=None, project__isnull=False, roll="", role="after"),
            ),
        ]

    def __str__(self) -> str:
        return f"{self.version or 'steps'} on {self.shot or self.scene or self.project}"

    @property
    def reach(self) -> Reach:
        if self.scene_id is not None:
            return Reach.SCENE
        if self.project_id is not None:
            return Reach.ROLL if self.roll else Reach.PROJECT
        return Reach.SHOT


class ShotNote(models.Model):
    """What somebody says of a shot, of one of its frames (from 0), or of a place in its picture. x, y: 0..1 from the left and the top

    guest: the name of somebody without an account who said it
    """

    shot = models.ForeignKey(Shot, on_delete=models.CASCADE, related_name="notes")
    frame = models.PositiveIntegerField(null=True, blank=True)
    x = models.FloatField(null=True, blank=True)
    y = models.FloatField(null=True, blank=True)
    guest = models.CharField(max_length=80, blank=True)
    words = models.CharField(max_length=1000)
    person = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering: ClassVar = ["at", "pk"]
        constraints: ClassVar = [
            models.CheckConstraint(
                name="note_within_its_picture",
                condition=models.Q(x=None, y=None) | models.Q(x__gte=0, x__lte=1, y__gte=0, y__lte=1),
            )
        ]

    def __str__(self) -> str:
        return f"note on {self.shot_id}"

    @property
    def by(self) -> str:
        return name_of(self.person, self.guest)


class ShotFigures(models.Model):
    """What a look does to a shot, measured. shows: the state it was measured in; it is stale where the shot shows something else"""

    shot = models.OneToOneField(Shot, on_delete=models.CASCADE, related_name="figures", primary_key=True)
    shows = models.CharField(max_length=64)
    figures = models.JSONField()

    def __str__(self) -> str:
        return f"figures of {self.shot_id}"


class KeptChoice(models.Model):
    """What deliveries are asked to hold, kept by a name for the whole team: "for the client". choice: as `DeliveryChoice`, of no shots"""

    name = models.CharField(max_length=80)
    choice = models.JSONField()
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")

    class Meta:
        ordering: ClassVar = [Lower("name"), "pk"]
        constraints: ClassVar = [models.UniqueConstraint(Lower("name"), name="one_kept_choice_per_name")]

    def __str__(self) -> str:
        return self.name


class Delivery(models.Model):
    """What left a project, once. choice: what was asked for; job: that makes it, until it is swept away

    frozen: as `delivering.frozen.Frozen`, from which all of it is made; none for one of before there were such documents
    forecast: seconds of one worker that its files were expected to take, before anything measured was counted in
    """

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="deliveries")
    number = models.PositiveIntegerField()
    choice = models.JSONField()
    frozen = models.JSONField(null=True)
    job = models.ForeignKey(Job, null=True, on_delete=models.SET_NULL, related_name="+")
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    made = models.DateTimeField(auto_now_add=True)
    forecast = models.FloatField(null=True)

    class Meta:
        ordering: ClassVar = ["-number"]
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["project", "number"], name="one_delivery_per_number"),
            within("forecast_of_a_delivery", "forecast", 0, 1e9),
        ]

    def __str__(self) -> str:
        return f"delivery {self.number} of {self.project_id}"


class DeliveryItem(models.Model):
    """A file of a delivery. part: several files of one part are made together, by one worker

    place: of its shot in the frozen document, none for a list; told: what the shot was called
    blob: none until it is made; facts: what is told of it; seconds: that its making took
    """

    delivery = models.ForeignKey(Delivery, on_delete=models.CASCADE, related_name="items")
    part = models.PositiveIntegerField()
    kind = models.CharField(max_length=12)
    shot = models.ForeignKey(Shot, null=True, on_delete=models.SET_NULL, related_name="+")
    frame = models.PositiveIntegerField(null=True)
    file_name = models.CharField(max_length=255)
    place = models.PositiveIntegerField(null=True)
    told = models.CharField(max_length=80, blank=True)
    blob = models.ForeignKey(Blob, null=True, on_delete=models.PROTECT, related_name="+")
    facts = models.JSONField(default=dict)
    seconds = models.FloatField(null=True)

    class Meta:
        ordering: ClassVar = ["part", "pk"]
        constraints: ClassVar = [
            models.UniqueConstraint("delivery", Lower("file_name"), name="one_file_per_name"),
            within("seconds_of_a_delivered_file", "seconds", 0, 1e9),
            one_of("kind_of_a_delivered_file", "kind", ("still", "frame", "clip", "lut", "list", "look")),
        ]
        indexes: ClassVar = [models.Index(fields=["delivery", "part"], name="items_of_a_part")]

    def __str__(self) -> str:
        return self.file_name
