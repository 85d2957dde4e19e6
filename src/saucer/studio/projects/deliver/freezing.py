"""A project, and what lies on its shots, written down as it is now: what a delivery is made from, whatever changes meanwhile."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence

from django.utils import timezone

from saucer.core.errors import SaucerError
from saucer.core.look.family import named
from saucer.core.look.model import Look
from saucer.studio.catalogue.models import Entry
from saucer.studio.common.refusals import Refusal
from saucer.studio.encodings import rules as encodings
from saucer.studio.packing.rules import told_of
from saucer.studio.pictures.footage import rate_of
from saucer.studio.pictures.models import Picture
from saucer.studio.projects.deliver.choice import DeliveryChoice
from saucer.studio.projects.deliver.frozen import (
    Frozen,
    FrozenFootage,
    FrozenLayer,
    FrozenNote,
    FrozenPicture,
    FrozenShot,
    correction_in,
)
from saucer.studio.projects.deliver.naming import check_distinct, name_from
from saucer.studio.projects.grade import seeing
from saucer.studio.projects.grade.chain import chains_of, with_content
from saucer.studio.projects.grade.stacking import Contents, encoding_before, look_of
from saucer.studio.projects.models import Layer, LayerRole, Project, Reach, Shot, ShotNote


def freeze(project: Project, choice: DeliveryChoice, shots: Sequence[Shot], number: int, by: str) -> tuple[Frozen, dict[str, Look]]:
    """The document, and the looks in it by their keys. What of the shots cannot be delivered is left out and told.

    Raises: NotPossible for names that are no names or stand twice; EncodingError
    """
    target = encodings.find(choice.encoding or project.delivery).id
    lying = chains_of(shots, with_content())
    fields = {shot.pk: _fields_of(project, shot, lying[shot.pk], target, number) for shot in shots}
    names = {shot.pk: name_from(choice.template, fields[shot.pk]) for shot in shots}
    check_distinct({f"{shot.code} of {shot.scene.name}": names[shot.pk] for shot in shots})
    looks: dict[str, Look] = {}
    frozen: list[FrozenShot] = []
    left: list[str] = []
    notes, contents = _notes_of(shots), Contents()

    def keep(look: Look) -> str:
        looks.setdefault(look.content_hash, look)
        return look.content_hash

    for shot in shots:
        layers = lying[shot.pk]
        try:
            look = keep(look_of(shot, layers, target, contents))
            seen = keep(look_of(shot, layers, seeing.SEEN_ON, contents))
            place = correction_in(layers)
            corrected = encoding_before(shot, layers[: place.first], contents) if place else ""
        except (SaucerError, Refusal) as error:
            left.append(f"{shot.code}: {error}")
            continue
        frozen.append(
            FrozenShot(
                id=shot.pk, scene=shot.scene.name, code=shot.code, file_name=names[shot.pk], fields=fields[shot.pk],
                picture=_picture(shot.picture), encoding=shot.source_encoding, first=shot.first, last=shot.last, poster=shot.poster,
                reel=str(shot.facts.get("reel", "") or shot.roll), note=shot.note, approved=shot.approved, notes=notes.get(shot.pk, []),
                layers=[_layer(one, shot) for one in layers], corrected_in=corrected, look=look,
                seen=seen,
            )
        )  # fmt: skip
    document = Frozen(
        project=project.name, code=project.code, number=number, by=by, asked=timezone.now(), encoding=target, choice=choice,
        encodings=list(contents.own), looks={key: look.model_dump(mode="json", exclude={"name"}) for key, look in looks.items()},
        shots=frozen, entries={entry.pk: told_of(entry) for entry in _entries_on(lying)}, left_out=left,
    )  # fmt: skip
    return document, looks


def _fields_of(project: Project, shot: Shot, layers: Sequence[Layer], target: str, number: int) -> dict[str, str]:
    """What the fields of a template stand for."""
    looks = [(layer.version, layer.member) for layer in layers if layer.role == LayerRole.LOOK and layer.enabled and layer.version]
    top, member = looks[-1] if looks else (None, "")
    return {
        "project": project.name, "code": project.code or project.name, "scene": shot.scene.name, "shot": shot.code, "encoding": target,
        "look": f"{top.entry.name} {member}".strip() if top else "ungraded", "version": f"v{top.number}" if top else "v0",
        "delivery": f"{number:03d}",
    }  # fmt: skip


def _name_of(layer: Layer) -> str:
    """Of the entry, with which of its family it is."""
    assert layer.version is not None
    return named(layer.version.entry.name, layer.member)


def _layer(layer: Layer, shot: Shot) -> FrozenLayer:
    version = layer.version
    pinned = (
        {"name": "Trims", "steps": layer.steps}
        if version is None
        else {
            "name": _name_of(layer),
            "entry": version.entry_id,
            "version": version.number,
            "member": layer.member,
            "content": version.content_hash,
        }
    )
    reached = {Reach.SCENE: shot.scene.name, Reach.ROLL: shot.roll}.get(layer.reach, "")
    return FrozenLayer(
        reach=layer.reach, reached=reached, role=LayerRole(layer.role), strength=layer.strength, enabled=layer.enabled, **pinned
    )  # fmt: skip


def _picture(picture: Picture) -> FrozenPicture:
    moving = getattr(picture, "footage", None)
    footage = None
    if moving is not None:
        footage = FrozenFootage(
            kind=moving.kind, first=moving.first, count=moving.count, rate=str(rate_of(moving)), timecode=moving.timecode,
            matrix=moving.matrix, full=moving.full, folder=moving.folder, path=moving.path, variable=bool(moving.facts.get("variable")),
            alpha=bool(moving.facts.get("alpha")), held=str(moving.facts.get("held", "")),
            missing=moving.facts.get("missing", []), aspect=str(moving.facts.get("aspect", "1")),
            proxy=moving.proxy_id or "", proxy_encoding=moving.proxy_encoding,
        )  # fmt: skip
    return FrozenPicture(
        id=picture.pk, name=picture.name, file_name=picture.file_name, encoding=picture.encoding, width=picture.width,
        height=picture.height, sha256=picture.blob_id, proxy=picture.proxy_id, footage=footage, white=picture.white,
    )  # fmt: skip


def _notes_of(shots: Sequence[Shot]) -> dict[int, list[FrozenNote]]:
    found: dict[int, list[FrozenNote]] = {}
    for one in ShotNote.objects.filter(shot__in=shots).select_related("person"):
        found.setdefault(one.shot_id, []).append(FrozenNote(by=one.by, at=one.at, frame=one.frame, words=one.words))
    return found


def _entries_on(lying: Mapping[int, Iterable[Layer]]) -> list[Entry]:
    pinned = {layer.version.entry_id for layers in lying.values() for layer in layers if layer.version is not None}
    return list(Entry.objects.filter(pk__in=pinned).select_related("category").prefetch_related("tags"))
