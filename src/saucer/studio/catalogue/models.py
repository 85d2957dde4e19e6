"""What is stored of the catalogue: entries, their versions, categories, tags, reviews, pins, views."""

from __future__ import annotations

from typing import Any, ClassVar, get_args

from django.conf import settings
from django.contrib.postgres.fields import ArrayField
from django.contrib.postgres.indexes import GinIndex
from django.db import models
from django.db.models import Q
from django.db.models.functions import Lower, Now

from saucer.core.colour.rendering import View
from saucer.studio.catalogue.words import FIRST_DAY, LAST_DAY, LONGEST
from saucer.studio.common.constraints import at_most, one_of, within
from saucer.studio.people.models import NoticeAbout, Person, Role
from saucer.studio.people.rules import may, name_of
from saucer.studio.pictures.models import Picture


class Category(models.Model):
    """A folder of the catalogue. path: the names from the top with / between, so that one index finds this and all below."""

    parent = models.ForeignKey("self", null=True, on_delete=models.PROTECT, related_name="children")
    name = models.CharField(max_length=80)
    path = models.CharField(max_length=400, unique=True)
    depth = models.PositiveSmallIntegerField(default=0)

    class Meta:
        ordering: ClassVar = ["path"]
        indexes: ClassVar = [models.Index(fields=["path"], name="category_below", opclasses=["varchar_pattern_ops"])]
        constraints: ClassVar = [
            models.UniqueConstraint("parent", Lower("name"), name="one_category_per_name", nulls_distinct=False),
            models.CheckConstraint(name="category_has_a_name", condition=~Q(name__in=["", ".", ".."])),
        ]

    def __str__(self) -> str:
        return self.path


class Tag(models.Model):
    name = models.CharField(max_length=40)

    class Meta:
        ordering: ClassVar = ["name"]
        constraints: ClassVar = [models.UniqueConstraint(Lower("name"), name="one_tag_per_name")]

    def __str__(self) -> str:
        return self.name


class Kind(models.TextChoices):
    LOOK = "look", "Look"
    LUT = "lut", "LUT"
    PRESET = "preset", "Preset"


class PassOn(models.TextChoices):
    YES = "yes", "Yes"
    NO = "no", "No"
    UNKNOWN = "unknown", "Not known"


class VersionState(models.TextChoices):
    DRAFT = "draft", "Draft"
    PROPOSED = "proposed", "Proposed"
    PUBLISHED = "published", "Published"
    SENT_BACK = "sent back", "Sent back"
    RETIRED = "retired", "Retired"


NOT_DELETED = Q(deleted=None)
LISTED = Q(deleted=None, begun=True)
"""What lists, counts and searches have: a look in which nothing is done yet is nobody's business."""


def standing(prefix: str = "") -> Q:
    """Entries that are there, and those made one with such an entry: what looks use of these is still the team's.

    prefix: way to the entry from what is asked for, as `version__entry__`
    """
    merged = {f"{prefix}merged_into__isnull": False, f"{prefix}merged_into__deleted": None}
    return Q(**{f"{prefix}deleted": None}) | Q(**merged)


MEASURES = ("warmth", "lightness", "contrast", "colour", "black", "white", "skin", "strength")
"""Of a character: what the wall can be sorted by, or shows."""


class SeenBy(models.TextChoices):
    """Who sees an entry of which no version was ever proposed; what was, everybody sees."""

    OWNER = "owner", "Only whose it is"
    CHOSEN = "chosen", "People and projects that it is shared with"
    STUDIO = "studio", "All who design"


def seen_by(person: Person, way: str = "") -> Q:
    """Entries that this person may know of, deleted ones too: asked here and nowhere else.

    way: to the entry from what is asked for, as `version__entry__`
    """
    shared = Share.objects.filter(Q(person=person) | Q(project__memberships__person=person) | Q(project__owner=person))
    chosen = Q(**{f"{way}seen_by": SeenBy.CHOSEN, f"{way}pk__in": shared.values("entry")})
    seen = Q(**{f"{way}proposed": True}) | Q(**{f"{way}owner": person}) | chosen
    return seen | Q(**{f"{way}seen_by": SeenBy.STUDIO}) if may(person, Role.DESIGNER) else seen


def there_for(person: Person, way: str = "") -> Q:
    """Of those, what was not deleted. way: as `seen_by`"""
    return Q(**{f"{way}deleted": None}) & seen_by(person, way)


class EntryQuery(models.QuerySet["Entry"]):
    def known_to(self, person: Person) -> EntryQuery:
        """Deleted ones too."""
        return self.filter(seen_by(person))

    def visible_to(self, person: Person) -> EntryQuery:
        """What is there for this person: everywhere where somebody asks for entries, this is what they are asked of."""
        return self.filter(there_for(person))


class Entry(models.Model):
    """One thing that people look for: a look, a LUT or a preset. What only some kinds have hangs off it in their own apps.

    document: what is searched, in small letters; shown_at: when it last came to look as it does, by which the wall is ordered
    """

    kind = models.CharField(max_length=8, choices=Kind)
    name = models.CharField(max_length=120)
    author = models.CharField(max_length=120, blank=True)
    note = models.TextField(max_length=2000, blank=True)
    category = models.ForeignKey(Category, null=True, blank=True, on_delete=models.PROTECT, related_name="entries")
    tags = models.ManyToManyField(Tag, blank=True, related_name="entries")
    favourite_of = models.ManyToManyField(settings.AUTH_USER_MODEL, blank=True, related_name="favourites")
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="entries")
    source = models.CharField(max_length=300, blank=True, help_text="where it comes from, in words")
    licence = models.CharField(max_length=200, blank=True, help_text="SPDX id, or own words")
    may_pass_on = models.CharField(max_length=8, choices=PassOn, default=PassOn.UNKNOWN)
    pass_on_until = models.DateField(null=True, blank=True)
    latest = models.ForeignKey("Version", null=True, on_delete=models.SET_NULL, related_name="+")
    published = models.ForeignKey("Version", null=True, on_delete=models.SET_NULL, related_name="+")
    document = models.TextField(blank=True)
    state = models.CharField(max_length=10, choices=VersionState, default=VersionState.DRAFT, help_text="of its latest version")
    expects = models.CharField(max_length=40, blank=True, help_text="encoding it is for; none for a preset")
    gives = models.CharField(max_length=40, blank=True)
    health = models.CharField(max_length=8, blank=True, help_text="of a LUT")
    holds = models.CharField(max_length=8, blank=True, help_text="of a look: did its latest version hold when it was tested?")
    formats = ArrayField(models.CharField(max_length=12), default=list, help_text="of the files of a LUT, or baked from a look")
    uses = ArrayField(
        models.CharField(max_length=64), null=True, help_text="SHA-256 of the LUTs that a look or preset names; none: not told yet"
    )
    created = models.DateTimeField(auto_now_add=True)
    seen_by = models.CharField(max_length=8, choices=SeenBy, default=SeenBy.STUDIO, help_text="while no version was ever proposed")
    proposed = models.BooleanField(default=False, help_text="was a version ever proposed or published? then everybody sees it")
    begun = models.BooleanField(default=True, help_text="is there something in it, or did it ever get a version?")
    shown_at = models.DateTimeField()
    shown_hash = models.CharField(max_length=64, blank=True, help_text="of what the wall shows")
    deleted = models.DateTimeField(null=True, blank=True)
    merged_into = models.ForeignKey("self", null=True, on_delete=models.SET_NULL, related_name="merged")

    objects: ClassVar[Any] = EntryQuery.as_manager()

    class Meta:
        ordering: ClassVar = ["-shown_at", "-pk"]
        indexes: ClassVar = [
            models.Index(fields=["-shown_at", "-id"], name="entry_newest", condition=NOT_DELETED),
            models.Index(fields=["kind", "-shown_at", "-id"], name="entry_kind_newest", condition=NOT_DELETED),
            models.Index(fields=["category", "-shown_at", "-id"], name="entry_category_newest", condition=NOT_DELETED),
            models.Index(fields=["name", "id"], name="entry_name", condition=NOT_DELETED),
            models.Index(fields=["state", "-shown_at", "-id"], name="entry_state_newest", condition=NOT_DELETED),
            GinIndex(fields=["uses"], name="entry_uses"),
            GinIndex(fields=["document"], opclasses=["gin_trgm_ops"], name="entry_letters"),
        ]
        constraints: ClassVar = [
            one_of("kind_of_an_entry", "kind", Kind), one_of("state_of_an_entry", "state", VersionState),
            one_of("who_sees_an_entry", "seen_by", SeenBy),
            one_of("whether_an_entry_may_be_passed_on", "may_pass_on", PassOn),
            one_of("health_of_an_entry", "health", ("", "fine", "notice", "bad")),
            one_of("whether_a_look_holds", "holds", ("", "holds", "breaks")),
            within("until_when_an_entry_may_be_passed_on", "pass_on_until", FIRST_DAY, LAST_DAY),
            at_most("note_of_an_entry", "note", LONGEST["note"]),
        ]  # fmt: skip

    def __str__(self) -> str:
        return f"{self.kind} {self.pk} {self.name}"

    @property
    def category_path(self) -> str:
        return self.category.path if self.category else ""

    @property
    def offered(self) -> Version | None:
        """The version that is put on shots and leaves in packs: the published one; without one the latest."""
        return self.published or self.latest


class EntryChange(models.Model):
    """An entry, its tags or its character were changed: noted by triggers of the database. What is kept in memory of entries is read again.

    xid: of the transaction that changed it; entry: its number, also of one that is gone
    """

    xid = models.BigIntegerField(db_index=True)
    entry = models.BigIntegerField()
    made = models.DateTimeField(db_default=Now())

    def __str__(self) -> str:
        return f"{self.entry} by {self.xid}"


class Share(models.Model):
    """Somebody, or the people of a project, with whom an entry is shared while it is a draft that nobody proposed."""

    entry = models.ForeignKey(Entry, on_delete=models.CASCADE, related_name="shares")
    person = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.CASCADE, related_name="+")
    project = models.ForeignKey("projects.Project", null=True, on_delete=models.CASCADE, related_name="+")

    class Meta:
        constraints: ClassVar = [
            models.CheckConstraint(
                name="shared_with_one", condition=Q(person=None, project__isnull=False) | Q(person__isnull=False, project=None)
            ),
            models.UniqueConstraint(fields=["entry", "person", "project"], name="shared_once", nulls_distinct=False),
        ]

    def __str__(self) -> str:
        return f"{self.entry_id} shared with {self.person or self.project}"


class Version(models.Model):
    """A state of an entry that stays. Only `state` may ever change; a trigger of the database sees to it too.

    content: a look, or the steps of a preset; none for a LUT, whose files hang off it
    from_version: what it was branched, made or baked from
    """

    entry = models.ForeignKey(Entry, on_delete=models.PROTECT, related_name="versions")
    number = models.PositiveIntegerField()
    content = models.JSONField(null=True)
    content_hash = models.CharField(max_length=64)
    note = models.CharField(max_length=1000, blank=True)
    state = models.CharField(max_length=10, choices=VersionState, default=VersionState.DRAFT)
    from_version = models.ForeignKey("self", null=True, on_delete=models.SET_NULL, related_name="offspring")
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    made = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering: ClassVar = ["-number"]
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["entry", "number"], name="one_version_per_number"),
            one_of("state_of_a_version", "state", VersionState),
        ]

    def __str__(self) -> str:
        return f"{self.entry} version {self.number}"

    def save(self, *args: Any, **kwargs: Any) -> None:
        if self.pk is not None and set(kwargs.get("update_fields") or ()) != {"state"}:
            raise RuntimeError("of a version that is made only the state may change")
        super().save(*args, **kwargs)


class Spelling(models.Model):
    """A word that stands, or stood, in some document."""

    word = models.CharField(max_length=40, primary_key=True)

    class Meta:
        indexes: ClassVar = [GinIndex(fields=["word"], opclasses=["gin_trgm_ops"], name="spelling_letters")]

    def __str__(self) -> str:
        return self.word


class Character(models.Model):
    """What an entry does, measured as it is shown: the numbers that the wall is sorted by, and its words.

    measured_as: the `shown_hash` it was measured at; view: by which, where the entry states none
    seen: (256, 3) float32 sRGB, what known colours become; beyond: a hash of what it does besides, where it does anything
    The rest is as `core.reports.character` has it.
    """

    entry = models.OneToOneField(Entry, primary_key=True, on_delete=models.CASCADE, related_name="character")
    measured_as = models.CharField(max_length=64)
    view = models.CharField(max_length=10, default="plain")
    warmth = models.FloatField()
    lightness = models.FloatField()
    contrast = models.FloatField()
    colour = models.FloatField()
    black = models.FloatField()
    white = models.FloatField()
    skin = models.FloatField()
    strength = models.FloatField()
    words = ArrayField(models.CharField(max_length=20), default=list)
    seen = models.BinaryField()
    beyond = models.CharField(max_length=64, blank=True)

    class Meta:
        indexes: ClassVar = [
            models.Index(fields=[measure, "entry"], name=f"character_{measure}")
            for measure in ("warmth", "lightness", "contrast", "colour", "strength")
        ]
        constraints: ClassVar = [
            *(within(f"{measure}_is_a_number", measure, -1e6, 1e6) for measure in MEASURES),
            one_of("view_of_a_character", "view", get_args(View)),
        ]

    def __str__(self) -> str:
        return f"character of {self.entry_id}"


class KeptApart(models.Model):
    """Two entries that do nearly the same and are meant to be two. first < second, by their numbers"""

    first = models.ForeignKey(Entry, on_delete=models.CASCADE, related_name="+")
    second = models.ForeignKey(Entry, on_delete=models.CASCADE, related_name="+")
    person = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")

    class Meta:
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["first", "second"], name="kept_apart_once"),
            models.CheckConstraint(name="kept_apart_in_order", condition=Q(first__lt=models.F("second"))),
        ]

    def __str__(self) -> str:
        return f"{self.first_id} and {self.second_id} are two"


class SavedView(models.Model):
    """A state of the wall under a name. address: what stands behind the ? of the wall's address; shared: the whole team's"""

    name = models.CharField(max_length=80)
    address = models.CharField(max_length=2000)
    shared = models.BooleanField(default=False)
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="views")
    made = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering: ClassVar = ["name", "pk"]
        constraints: ClassVar = [models.UniqueConstraint("owner", Lower("name"), name="one_view_per_name")]

    def __str__(self) -> str:
        return f"view {self.name}"


class Review(models.Model):
    """One step of a version on its way: who moved it from which state to which, and what they said."""

    version = models.ForeignKey(Version, on_delete=models.CASCADE, related_name="reviews")
    person = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    was = models.CharField(max_length=10, choices=VersionState)
    became = models.CharField(max_length=10, choices=VersionState)
    words = models.CharField(max_length=2000, blank=True)
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering: ClassVar = ["-at", "-pk"]
        constraints: ClassVar = [
            one_of("what_a_review_was", "was", VersionState), one_of("what_a_review_became", "became", VersionState),
        ]  # fmt: skip

    def __str__(self) -> str:
        return f"{self.version} {self.became}"


class Pin(models.Model):
    """A remark on a version, at a place of a picture seen through it or on the whole. x, y: 0..1 from the left and the top

    guest: the name of somebody without an account who said it
    """

    version = models.ForeignKey(Version, on_delete=models.CASCADE, related_name="pins")
    answers = models.ForeignKey("self", null=True, on_delete=models.CASCADE, related_name="answered")
    person = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    picture = models.ForeignKey(Picture, null=True, on_delete=models.SET_NULL, related_name="+")
    x = models.FloatField(null=True)
    y = models.FloatField(null=True)
    words = models.CharField(max_length=2000)
    guest = models.CharField(max_length=80, blank=True)
    at = models.DateTimeField(auto_now_add=True)
    settled = models.DateTimeField(null=True)
    settled_by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")

    class Meta:
        ordering: ClassVar = ["at", "pk"]
        constraints: ClassVar = [
            models.CheckConstraint(
                name="pin_within_its_picture",
                condition=Q(x=None, y=None) | Q(x__gte=0, x__lte=1, y__gte=0, y__lte=1),
            )
        ]

    def __str__(self) -> str:
        return f"pin {self.pk} on {self.version}"

    @property
    def by(self) -> str:
        return name_of(self.person, self.guest)


class Notice(models.Model):
    """What somebody is to know: that others moved, or said something of, a version that concerns them. about: by what it is cleared"""

    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="notices")
    by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    version = models.ForeignKey(Version, on_delete=models.CASCADE, related_name="+")
    about = models.CharField(max_length=8, choices=NoticeAbout, default=NoticeAbout.DECISION)
    words = models.CharField(max_length=300)
    at = models.DateTimeField(auto_now_add=True)
    seen = models.DateTimeField(null=True)

    class Meta:
        ordering: ClassVar = ["-at", "-pk"]
        indexes: ClassVar = [models.Index(fields=["person", "-at", "-id"], name="notice_of_person")]
        constraints: ClassVar = [one_of("about_of_a_notice", "about", NoticeAbout.values)]

    def __str__(self) -> str:
        return f"notice {self.pk} for {self.person_id}"
