"""Reading the whole store against what the database says is in it: what is damaged, missing or left over, and what can be made again."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field

from django.core.files.storage import default_storage
from django.db import models

from saucer.studio.common.models import Blob
from saucer.studio.common.store import is_whole, name_of, names_below, open_stored
from saucer.studio.pictures import rules as pictures
from saucer.studio.pictures.models import Picture
from saucer.studio.preview.kept import PREVIEWS, is_whole_preview
from saucer.studio.site.mending import Broken, check_rows


@dataclass
class Checked:
    """files: how many were read; damaged, missing: SHA-256 with what uses it in words; left_over: names in the store without a row

    broken: rows that break a rule of the database; mended: what was made again, in words
    """

    files: int = 0
    damaged: dict[str, str] = field(default_factory=dict)
    missing: dict[str, str] = field(default_factory=dict)
    left_over: list[str] = field(default_factory=list)
    cut_previews: list[str] = field(default_factory=list)
    broken: list[Broken] = field(default_factory=list)
    mended: list[str] = field(default_factory=list)

    @property
    def is_sound(self) -> bool:
        return not (self.damaged or self.missing or self.cut_previews or any(not one.mended for one in self.broken))

    def lines(self) -> Iterator[str]:
        yield f"{self.files} files read."
        for sha256, users in self.damaged.items():
            yield f"damaged: {name_of(sha256)}, used by {users or 'nothing'}"
        for sha256, users in self.missing.items():
            yield f"missing: {name_of(sha256)}, used by {users or 'nothing'}"
        for name in self.cut_previews:
            yield f"cut preview: {name}"
        yield from (one.words for one in self.broken)
        yield from self.mended
        if self.left_over:
            yield f"{len(self.left_over)} files have no row: left of something that was cut off. They do no harm and may be deleted."
        if self.is_sound:
            yield "The store is sound."
        elif self.damaged or self.missing or self.cut_previews:
            yield "Bring the files named above back from a backup; with --mend, proxies and previews are made again."


def check_store(mend: bool = False) -> Checked:
    """Every file is read through, every row held against the rules of the database.

    mend: make again what can be, the proxies of pictures and the previews of cards; give rows that break a rule a careful value
    """
    checked = Checked()
    for blob in Blob.objects.order_by("pk").iterator():
        checked.files += 1
        if not default_storage.exists(name_of(blob.pk)):
            checked.missing[blob.pk] = _users_of(blob)
        elif not is_whole(blob.pk):
            checked.damaged[blob.pk] = _users_of(blob)
    checked.left_over = list(_left_over())
    checked.cut_previews = list(_cut_previews())
    checked.broken = check_rows(mend)
    if mend:
        _mend(checked)
    return checked


def _users_of(blob: Blob) -> str:
    """The rows that need it, in words."""
    found: list[str] = []
    for relation in Blob._meta.get_fields(include_hidden=True):
        if isinstance(relation, models.ManyToOneRel):
            column = relation.field
            found += [f"{row} ({column.name})" for row in column.model._default_manager.filter(**{column.name: blob.pk})[:5]]
    return ", ".join(found)


def _left_over() -> Iterator[str]:
    try:
        folders, _ = default_storage.listdir("")
    except FileNotFoundError:
        return  # nothing was ever kept
    for folder in sorted(folders):
        if folder == PREVIEWS:
            continue
        names = default_storage.listdir(folder)[1]
        known = set(Blob.objects.filter(pk__startswith=folder).values_list("pk", flat=True))
        yield from (f"{folder}/{name}" for name in sorted(names) if name not in known)


def _cut_previews() -> Iterator[str]:
    for name in sorted(names_below(PREVIEWS)):
        path = f"{PREVIEWS}/{name}"
        if not name.endswith(".jpg"):
            continue  # small copies of pictures: made again by whoever finds one cut off
        with open_stored(path) as file:
            if not is_whole_preview(file.read()):
                yield path


def _mend(checked: Checked) -> None:
    bad = checked.damaged.keys() | checked.missing.keys()
    for picture in Picture.objects.filter(proxy__in=bad).exclude(blob__in=bad):
        pictures.make_proxy_again(picture)
        checked.mended.append(f"made again: the proxy of {picture}")
    for sha256 in bad:
        if _is_whole_again(sha256):
            checked.damaged.pop(sha256, None)
            checked.missing.pop(sha256, None)
    for name in checked.cut_previews:
        default_storage.delete(name)  # it is made when it is next looked at
        checked.mended.append(f"taken away, to be made when it is next looked at: {name}")
    checked.cut_previews = []


def _is_whole_again(sha256: str) -> bool:
    return default_storage.exists(name_of(sha256)) and is_whole(sha256)
