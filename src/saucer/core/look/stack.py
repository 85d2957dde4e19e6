"""Several looks and trims on one picture as one look, with the conversions between them put in."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from saucer.core.colour.conversion import is_rendered
from saucer.core.colour.encodings import ENCODINGS, Encoding
from saucer.core.colour.own import OwnEncoding, encodings_of
from saucer.core.colour.rendering import View
from saucer.core.errors import LookError
from saucer.core.look.model import Group, Look
from saucer.core.steps.parameters import StepParameters
from saucer.core.steps.pixel.convert import Convert
from saucer.core.steps.pixel.lut import LutStep


@dataclass(frozen=True)
class Layer:
    """content: a look between its own encodings, or steps that work in whatever reaches them (trims, a preset)"""

    name: str
    content: Look | tuple[StepParameters, ...]
    strength: float = 1.0
    enabled: bool = True

    @property
    def acts(self) -> bool:
        return self.enabled and self.strength > 0


@dataclass(frozen=True)
class Junction:
    """What becomes of the picture at one place of the stack. what: "as it comes", "converted", "rendered" (between scene and display)"""

    encoding: str
    what: str


def look_of_lut(name: str, sha256: str, expects: str, gives: str, own: Sequence[OwnEncoding] = ()) -> Look:
    """A LUT file between the encodings that it is said to be for, as a look."""
    step = LutStep(sha256=sha256, title=name[:120], gives=gives, ends_in="gives")
    return Look(name=name[:120], input=expects, output=gives, encodings=tuple(own), steps=(step,))


def stack(
    source: str, layers: Iterable[Layer], target: str, own: Sequence[OwnEncoding] = (), name: str = "", view: View = "soft"
) -> Look:
    """One look from `source` through the layers, the first one first, to `target`.

    Each look gets what it expects, whatever reaches it; a layer that is off, or at strength 0, is left out with its conversions.
    own: the definitions of encodings that are not shipped, of the source and the target
    view: by which all of it is seen, whatever the looks in it say: their own is for when they are seen by themselves
    Raises: LookError where two own encodings of the same id are not the same; EncodingError
    """
    return stack_told(source, layers, target, own, name, view)[0]


def stack_told(
    source: str, layers: Iterable[Layer], target: str, own: Sequence[OwnEncoding] = (), name: str = "", view: View = "soft"
) -> tuple[Look, list[Layer | None]]:
    """The same, with the layer that each of its steps is of; None for a conversion between them. Raises: as `stack`"""
    parts = [layer for layer in layers if layer.acts]
    defined = _defined([own, *(part.content.encodings for part in parts if isinstance(part.content, Look))])
    known = {**ENCODINGS, **encodings_of(defined)}
    steps: list[StepParameters] = []
    owners: list[Layer | None] = []
    at = known.get(source) or _missing(source)

    def go_to(encoding_id: str) -> None:
        nonlocal at
        after = known.get(encoding_id) or _missing(encoding_id)
        if after != at:
            steps.append(Convert(to=encoding_id, rendering=view if is_rendered(at, after, view) else "plain"))
            owners.append(None)
        at = after

    def lay(part: Layer, content: tuple[StepParameters, ...], strength: float) -> None:
        held = _held(part, content, strength)
        steps.extend(held)
        owners.extend([part] * len(held))

    for part in parts:
        if not isinstance(part.content, Look):
            lay(part, part.content, part.strength)
            continue
        look = part.content
        go_to(look.input)
        lay(part, look.steps, part.strength * look.strength)
        at = known[look.output]
    go_to(target)
    used = tuple(one for one in defined if one.id in {source, target} | _named(steps))
    return Look(name=name[:120], input=source, output=target, view=view, encodings=used, steps=tuple(steps)), owners


def _held(layer: Layer, steps: tuple[StepParameters, ...], strength: float) -> list[StepParameters]:
    """The steps as they are where nothing else is needed: a group costs, and groups stand only so deep."""
    if strength == 1:
        return list(steps)
    return [Group(name=layer.name[:80], strength=strength, steps=steps)]


def _defined(groups: Iterable[Sequence[OwnEncoding]]) -> list[OwnEncoding]:
    found: dict[str, OwnEncoding] = {}
    for own in (one for group in groups for one in group):
        if found.setdefault(own.id, own) != own:
            raise LookError("encodings", f'"{own.id}" means two different encodings in what is stacked here; rename one of them')
    return list(found.values())


def _named(steps: Iterable[StepParameters]) -> set[str]:
    names = set()
    for step in steps:
        names |= {getattr(step, field) for field in ("to", "expects", "gives") if getattr(step, field, "")}
        names |= _named(getattr(step, "steps", ()))
    return names


def _missing(encoding_id: str) -> Encoding:
    raise LookError("encodings", f'unknown encoding "{encoding_id}"')


def line_of(
    source: str, layers: Iterable[Layer], target: str, own: Sequence[OwnEncoding] = (), view: View = "soft"
) -> list[Junction]:
    """The encodings a picture goes through, in order, each with how it got there."""
    parts = [layer for layer in layers if layer.acts]
    defined = _defined([own, *(part.content.encodings for part in parts if isinstance(part.content, Look))])
    known = {**ENCODINGS, **encodings_of(defined)}
    line = [Junction(source, "as it comes")]
    at = known.get(source) or _missing(source)

    def go_to(encoding_id: str, by: str = "") -> None:
        nonlocal at
        after = known.get(encoding_id) or _missing(encoding_id)
        if after != at or by:
            line.append(Junction(encoding_id, by or ("rendered" if is_rendered(at, after, view) else "converted")))
        at = after

    for part in parts:
        if isinstance(part.content, Look):
            go_to(part.content.input)
            go_to(part.content.output, f"by {part.name}")
    go_to(target)
    return line
