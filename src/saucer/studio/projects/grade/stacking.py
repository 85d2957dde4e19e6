"""What lies on a shot as one look, so that the engine, baking and delivering need nothing of their own for it."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any, cast

from saucer.core.colour.own import OwnEncoding
from saucer.core.colour.rendering import View
from saucer.core.look.family import named
from saucer.core.look.model import Look
from saucer.core.look.stack import Junction, line_of, look_of_lut, stack
from saucer.core.look.stack import Layer as Part
from saucer.studio.catalogue.models import Kind, Version
from saucer.studio.encodings import rules as encodings
from saucer.studio.looks import rules as looks
from saucer.studio.luts import rules as luts
from saucer.studio.presets import rules as presets
from saucer.studio.projects.grade.chain import in_order
from saucer.studio.projects.models import Layer, Shot

TRIMS = "Trims"


def with_versions(layers: Sequence[Layer]) -> Sequence[Layer]:
    """The same, with what they pin read in one query where it is not at hand yet."""
    missing = [one for one in layers if one.version_id is not None and not Layer.version.is_cached(one)]
    if missing:
        versions = Version.objects.select_related("entry").in_bulk({one.version_id for one in missing})
        for one in missing:
            one.version = versions[one.version_id]
    return layers


class Contents:
    """What versions hold, and the team's encodings, each read once: for many shots under a few looks."""

    def __init__(self) -> None:
        self.own = encodings.definitions()
        self._known: dict[tuple[int, str], Look | tuple[Any, ...]] = {}

    def of(self, version: Version, member: str = "") -> Look | tuple[Any, ...]:
        """member: which of a look's family. Raises: NotFound, SaucerError where it cannot be read"""
        if (version.pk, member) not in self._known:
            self._known[version.pk, member] = _content_of(version, member, self.own)
        return self._known[version.pk, member]


def part_of(layer: Layer, contents: Contents) -> Part:
    """Raises: NotFound, SaucerError where what it pins cannot be read"""
    if layer.version is None:
        return Part(TRIMS, presets.steps_of(layer.steps or [], "trims"), layer.strength, layer.enabled)
    name = named(layer.version.entry.name, layer.member)
    return Part(name, contents.of(layer.version, layer.member), layer.strength, layer.enabled)


def _content_of(version: Version, member: str, own: Sequence[OwnEncoding]) -> Look | tuple[Any, ...]:
    """A version of a look, LUT or preset as the content of a layer."""
    entry = version.entry
    if entry.kind == Kind.LOOK:
        return looks.look_of(version, member)
    if entry.kind == Kind.PRESET:
        return presets.steps_of_version(version)
    lut = luts.find_in_version(version)
    return look_of_lut(entry.name, luts.first_file(lut).blob_id, lut.expects, lut.gives, own)


def view_of(shot: Shot) -> View:
    """Its project's."""
    return cast(View, shot.scene.project.view)


def look_of(shot: Shot, layers: Sequence[Layer], target: str, contents: Contents | None = None) -> Look:
    """From what the shot is in, through its layers, to `target`. Raises: SaucerError, NotFound"""
    contents = contents or Contents()
    parts = [part_of(layer, contents) for layer in in_order(with_versions(layers))]
    return stack(shot.source_encoding, parts, target, contents.own, shot.code, view_of(shot))


def encoding_before(shot: Shot, layers: Sequence[Layer], contents: Contents | None = None) -> str:
    """What the shot is in once it has gone through these, before it is taken anywhere else."""
    contents = contents or Contents()
    found = shot.source_encoding
    for part in (part_of(layer, contents) for layer in in_order(with_versions(layers))):
        if part.acts and isinstance(part.content, Look):
            found = part.content.output
    return found


def junctions_of(shot: Shot, layers: Sequence[Layer], target: str, contents: Contents) -> list[Junction]:
    parts = [part_of(layer, contents) for layer in in_order(with_versions(layers))]
    return line_of(shot.source_encoding, parts, target, contents.own, view_of(shot))
