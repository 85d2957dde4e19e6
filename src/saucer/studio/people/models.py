"""What is stored of people: accounts, links and tokens that let them in, the studio they work in, activity."""

from __future__ import annotations

from typing import Any, ClassVar

from django.contrib.auth.models import AbstractUser, UserManager
from django.contrib.postgres.fields import ArrayField
from django.db import models

from saucer.studio.common.constraints import one_of, within


class Role(models.TextChoices):
    VIEWER = "viewer", "Viewer"
    DESIGNER = "designer", "Designer"
    CURATOR = "curator", "Curator"
    ADMIN = "admin", "Admin"


class People(UserManager["Person"]):
    def create_superuser(self, username: str, email: str | None = None, password: str | None = None, **fields: Any) -> Person:
        """Django's own command makes an admin too: who may do everything on the server may do everything here."""
        return super().create_superuser(username, email, password, **{"role": Role.ADMIN} | fields)


class NoticeAbout(models.TextChoices):
    """What somebody may be told of."""

    PROPOSAL = "proposal"
    DECISION = "decision"
    REMARK = "remark"


def every_notice() -> list[str]:
    return list(NoticeAbout.values)


class Person(AbstractUser):
    """Somebody who signs in. Each role may do what the ones before it may."""

    role = models.CharField(max_length=12, choices=Role, default=Role.VIEWER)
    full_name = models.CharField(max_length=120, blank=True)
    is_service = models.BooleanField(default=False, help_text="a program: it has tokens, no password, and never signs in")
    seen = models.DateTimeField(null=True, blank=True, help_text="when they last did something, to a minute")

    is_new = models.BooleanField(default=False, help_text="has yet to be shown around")
    told_of = ArrayField(models.CharField(max_length=8, choices=NoticeAbout), default=every_notice, help_text="by notices")
    is_mailed = models.BooleanField(default=False, help_text="once a day, what notices they have not looked at")
    mailed_up_to = models.BigIntegerField(default=0, help_text="the last notice that was mailed")

    objects: ClassVar[People] = People()

    class Meta(AbstractUser.Meta):
        constraints: ClassVar = [
            one_of("role_of_a_person", "role", Role),
            models.CheckConstraint(
                name="what_a_person_is_told_of", condition=models.Q(told_of__contained_by=list(NoticeAbout.values))
            ),
        ]

    @property
    def shown_name(self) -> str:
        return self.full_name or self.username


class SecondFactor(models.TextChoices):
    NOBODY = "nobody", "Nobody has to"
    LEADERS = "leaders", "Curators and admins"
    EVERYBODY = "everybody", "Everybody"


class DraftsOf(models.TextChoices):
    """Who sees what somebody makes, until they say otherwise or propose it."""

    OWNER = "owner", "Only who made it"
    STUDIO = "studio", "All who design"


class Studio(models.Model):
    """What holds for the whole studio; the one row is made when it is first asked for (`studio.the_studio`)."""

    name = models.CharField(max_length=80, blank=True)
    second_factor = models.CharField(
        max_length=10, choices=SecondFactor, default=SecondFactor.NOBODY, help_text="who signs in with a second factor"
    )
    drafts = models.CharField(max_length=6, choices=DraftsOf, default=DraftsOf.STUDIO, help_text="who sees what is new")
    delivery = models.CharField(max_length=40, default="rec709", help_text="the encoding that pictures of new projects leave in")
    skin = models.PositiveSmallIntegerField(
        default=10, help_text="degrees that skin may turn before a shot of a new project is a misfit"
    )
    person_gb = models.PositiveIntegerField(default=0, help_text="GB that the files of a person may take; 0: as many as there are")
    project_gb = models.PositiveIntegerField(default=0, help_text="and those of a project")
    stress_limits = models.JSONField(default=dict, blank=True, help_text="of where looks break: those that are not the usual ones")
    begun = models.BooleanField(default=False, help_text="has an admin said what it begins with?")

    class Meta:
        constraints: ClassVar = [
            within("one_studio", "id", 1, 1),
            one_of("who_has_a_second_factor", "second_factor", SecondFactor),
            one_of("who_sees_what_is_new", "drafts", DraftsOf),
            within("degrees_that_skin_may_turn", "skin", 1, 60),
        ]

    def __str__(self) -> str:
        return self.name or "the studio"


class Purpose(models.TextChoices):
    FIRST = "first", "the first account, an admin's"
    INVITE = "invite", "an account"
    PASSWORD = "password", "a new password"


class Link(models.Model):
    """An address that lets somebody in once, until it ends. Only the hash of its code is kept.

    person: whose password it is for; or, once it was used, who came by it
    """

    purpose = models.CharField(max_length=8, choices=Purpose)
    code_hash = models.CharField(max_length=64, unique=True)
    role = models.CharField(max_length=12, choices=Role, default=Role.VIEWER, help_text="of an account that is made by it")
    full_name = models.CharField(max_length=120, blank=True)
    email = models.EmailField(blank=True)
    person = models.ForeignKey(Person, null=True, on_delete=models.CASCADE, related_name="links")
    made_by = models.ForeignKey(Person, null=True, on_delete=models.SET_NULL, related_name="+")
    made = models.DateTimeField(auto_now_add=True)
    until = models.DateTimeField()
    used = models.DateTimeField(null=True)

    class Meta:
        ordering: ClassVar = ["-made", "-pk"]
        constraints: ClassVar = [
            one_of("purpose_of_a_link", "purpose", Purpose),
            one_of("role_of_a_link", "role", Role),
        ]

    def __str__(self) -> str:
        return self.full_name or self.email or Purpose(self.purpose).label


class Scope(models.TextChoices):
    READ = "read", "look and take"
    BRING_IN = "bring in", "bring in pictures, LUTs and packs"
    DESIGN = "design", "make and change"
    PUBLISH = "publish", "publish and put in order"


class Token(models.Model):
    """By which a program comes in somebody's place, or a service's. Only the hash of its secret is kept.

    in_minute: how many calls it made within `minute`, by which it is limited
    """

    person = models.ForeignKey(Person, on_delete=models.CASCADE, related_name="tokens")
    name = models.CharField(max_length=80)
    secret_hash = models.CharField(max_length=64, unique=True)
    scopes = ArrayField(models.CharField(max_length=8, choices=Scope))
    made = models.DateTimeField(auto_now_add=True)
    until = models.DateTimeField()
    used = models.DateTimeField(null=True)
    used_from = models.GenericIPAddressField(null=True)
    minute = models.DateTimeField(null=True)
    in_minute = models.PositiveIntegerField(default=0)

    class Meta:
        ordering: ClassVar = ["name", "pk"]
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["person", "name"], name="one_token_per_name"),
            within("calls_in_a_minute", "in_minute", 0, 1_000_000),
            models.CheckConstraint(
                name="scopes_of_a_token", condition=models.Q(scopes__contained_by=Scope.values, scopes__len__gte=1)
            ),
        ]

    def __str__(self) -> str:
        return self.name


class Activity(models.Model):
    """Who did what to what, when, from where. Never changed, never deleted with what it is about.

    about_kind, about_id, about: what it concerns, by its kind, its number there, and the name it had
    """

    at = models.DateTimeField(auto_now_add=True)
    person = models.ForeignKey(Person, null=True, on_delete=models.SET_NULL, related_name="+")
    action = models.CharField(max_length=40)
    about_kind = models.CharField(max_length=20, blank=True)
    about_id = models.BigIntegerField(null=True)
    about = models.CharField(max_length=200)
    data = models.JSONField(default=dict)
    address = models.GenericIPAddressField(null=True, help_text="where it was asked from; none: the server did it by itself")
    token = models.CharField(max_length=80, blank=True, help_text="name of the token by which it was done")

    class Meta:
        ordering: ClassVar = ["-at", "-pk"]
        indexes: ClassVar = [
            models.Index(fields=["-at", "-id"], name="activity_when"),
            models.Index(fields=["about_kind", "about_id", "-at"], name="activity_about"),
            models.Index(fields=["person", "-at"], name="activity_who"),
            models.Index(fields=["action", "-at"], name="activity_what"),
        ]

    def __str__(self) -> str:
        return f"{self.action} {self.about}"
