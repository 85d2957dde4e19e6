"""The chain of a shot: its own layers among those that lie on its roll, its scene and its project, as the light goes through them."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from copy import copy

from django.db.models import Q, QuerySet

from saucer.studio.projects.models import Layer, LayerRole, Reach, Shot

RANKS = {
    (Reach.PROJECT, LayerRole.BEFORE): 0,
    (Reach.ROLL, LayerRole.BEFORE): 1,
    (Reach.SHOT, LayerRole.BEFORE): 2,
    (Reach.SCENE, LayerRole.BEFORE): 3,
    (Reach.SHOT, LayerRole.LOOK): 4,
    (Reach.SHOT, LayerRole.AFTER): 5,
    (Reach.PROJECT, LayerRole.AFTER): 6,
}
"""Where each stands: under everything what is for the project, then the roll's, the shot's own, the scene's, looks, what comes after."""


OWN_TRIMS, TRIMS_AFTER = RANKS[Reach.SHOT, LayerRole.BEFORE], RANKS[Reach.SHOT, LayerRole.AFTER]


def rank_of(layer: Layer) -> int:
    return RANKS[layer.reach, LayerRole(layer.role)]


def in_order(layers: Iterable[Layer]) -> list[Layer]:
    """As the light goes through them."""
    return sorted(layers, key=lambda layer: (rank_of(layer), layer.position))


def reaches(layer: Layer, shot: Shot) -> bool:
    """Does a layer for many reach this shot, whether or not it acts on it?"""
    if layer.scene_id is not None:
        return layer.scene_id == shot.scene_id
    return layer.project_id == shot.scene.project_id and layer.roll in ("", shot.roll)


def shared_on(shots: Sequence[Shot], layers: QuerySet[Layer] | None = None) -> list[Layer]:
    """Layers for many that lie on the scenes and projects of these; one query. layers: with what is to be read of each"""
    found = Layer.objects.all() if layers is None else layers
    return list(found.filter(_for_many(shots)))


def _for_many(shots: Sequence[Shot]) -> Q:
    return Q(scene__in={shot.scene_id for shot in shots}) | Q(project__in={shot.scene.project_id for shot in shots})


def joined(shot: Shot, own: Iterable[Layer], shared: Iterable[Layer]) -> list[Layer]:
    """In order. What does not act on this shot is there and switched off."""
    reaching = [one for one in shared if reaches(one, shot)]
    return in_order([*own, *(_switched_off(one) if shot.pk in one.off_on else one for one in reaching)])


def _switched_off(layer: Layer) -> Layer:
    off = copy(layer)
    off.enabled = False
    return off


def chains_of(shots: Sequence[Shot], layers: QuerySet[Layer] | None = None) -> dict[int, list[Layer]]:
    """Everything that the light of each of these goes through, by the shot's number; one query. layers: as `shared_on`"""
    found = Layer.objects.all() if layers is None else layers
    own: dict[int, list[Layer]] = {shot.pk: [] for shot in shots}
    shared = []
    for layer in found.filter(_for_many(shots) | Q(shot__in=[shot.pk for shot in shots])):
        if layer.shot_id is None:
            shared.append(layer)
        else:
            own[layer.shot_id].append(layer)
    return {shot.pk: joined(shot, own[shot.pk], shared) for shot in shots}


def chain_of(shot: Shot, layers: QuerySet[Layer] | None = None) -> list[Layer]:
    return chains_of([shot], layers)[shot.pk]


def with_content() -> QuerySet[Layer]:
    """With what the pinned versions do."""
    return Layer.objects.select_related("version__entry")


def own_of(layers: Iterable[Layer]) -> list[Layer]:
    """Those of the shot alone."""
    return [one for one in layers if one.reach == Reach.SHOT]
