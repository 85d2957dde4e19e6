"""The look: an input encoding, an output encoding, and an ordered list of steps and groups."""

from __future__ import annotations

import hashlib
import json
import re
from collections.abc import Mapping, Sequence
from typing import TYPE_CHECKING, Annotated, Any, Literal, TypeAlias, Union

from pydantic import BaseModel, ConfigDict, Field, ValidationError, model_validator
from pydantic_core import PydanticCustomError

from saucer.core.colour.encodings import ENCODINGS, Encoding, encoding
from saucer.core.colour.own import OwnEncoding, encodings_of
from saucer.core.colour.rendering import Rendering, View
from saucer.core.errors import LookError
from saucer.core.look.extent import decode_json
from saucer.core.look.member import MOST_MEMBERS, FamilyMember, check_family
from saucer.core.look.problems import describe
from saucer.core.look.tree import Place, path_of, walk
from saucer.core.numeric.blending import BlendMode
from saucer.core.steps.kinds import kinds, lets_beyond, spatial_kinds, title_of
from saucer.core.steps.parameters import LABELS, Beyond, StepParameters

DEEPEST_GROUP = 8
MOST_STEPS = 200


class Group(StepParameters):
    """Steps with one strength between them: out = in + strength * (blend(in, steps(in)) - in).

    Where the steps change the encoding, `in` is the input properly converted to the encoding at their end: by the look's view, or by a
    rendering of the group's own, where the one is a scene's and the other a display's.
    """

    kind: Literal["group"] = "group"
    blend: Annotated[
        BlendMode,
        Field(description="how the result is laid over the input; W3C Compositing Level 1, and add-less-one: the sum less 1"),
    ] = "normal"
    rendering: Annotated[Rendering, Field(description="how `in` is converted where the steps change the encoding")] = "plain"
    steps: tuple[AnyStep, ...] = ()


if TYPE_CHECKING:
    AnyStep: TypeAlias = StepParameters
else:
    AnyStep = Annotated[
        # The union of whatever kinds are registered, so that a new kind needs no line here.
        Union[(Group, *(kind.parameters for kind in kinds().values()))],
        Field(discriminator="kind"),
    ]
Group.model_rebuild()


class Look(BaseModel):
    """A whole look. `content_hash` names what its recipe does: what is said of steps for people, and its family, take no part."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    format: Literal["saucer-look"] = "saucer-look"
    version: Literal[1] = 1
    name: Annotated[str, Field(max_length=120)] = ""
    input: str = "srgb"
    output: str = "srgb"
    strength: Beyond = 1.0
    view: Annotated[View, Field(description="how light of a scene is seen on a display, wherever no step says it")] = "plain"
    encodings: Annotated[tuple[OwnEncoding, ...], Field(max_length=16, description="the team's own that this look uses")] = ()
    steps: tuple[AnyStep, ...] = ()
    family: Annotated[
        tuple[FamilyMember, ...], Field(max_length=MOST_MEMBERS, description="the recipe under other settings, each by its name")
    ] = ()

    @model_validator(mode="after")
    def _known_encodings(self) -> Look:
        known = [*ENCODINGS, *(own.id for own in self.encodings)]
        named = [("input", self.input), ("output", self.output)]
        for place, step in walk(self.steps):
            named += [
                (f"{path_of(place)}.{name}", getattr(step, name)) for name in ("to", "expects", "gives") if getattr(step, name, "")
            ]
        for where, name in named:
            if name not in known:
                raise PydanticCustomError(
                    "field", '{place}: unknown encoding "{got}"; use one of {known}',
                    {"place": where, "got": name, "known": ", ".join(known)},
                )  # fmt: skip
        return self

    @model_validator(mode="after")
    def _within_what_steps_allow(self) -> Look:
        """Itself and every one of its family."""
        _check_reach(self.strength, self.steps)
        check_family(self.family, self.steps, self.strength, _check_reach)
        return self

    @model_validator(mode="before")
    @classmethod
    def _within_limits(cls, content: Any) -> Any:
        """Before the steps are built: a million of them cost a minute."""
        depth, count = _measure(_steps_in(content))
        if depth > DEEPEST_GROUP:
            raise PydanticCustomError(
                "depth", "steps: groups stand {depth} deep; {most} is the most", {"depth": depth, "most": DEEPEST_GROUP}
            )
        if count > MOST_STEPS:
            raise PydanticCustomError("count", "steps: {count} steps; {most} is the most", {"count": count, "most": MOST_STEPS})
        return content

    @property
    def own(self) -> Mapping[str, Encoding]:
        """Its own encodings by id."""
        return encodings_of(self.encodings)

    def encoding(self, name: str) -> Encoding:
        """The shipped or own encoding of this id."""
        return encoding(name, own=self.own)

    @property
    def takes_scene_light(self) -> bool:
        """Does light of a scene take part in it, so that its view matters?"""
        steps = [step for _, step in walk(self.steps)]
        named = {getattr(step, field, "") for step in steps for field in ("to", "expects", "gives")}
        return any(self.encoding(one).referred == "scene" for one in {self.input, self.output, *named} - {""})

    @property
    def content_hash(self) -> str:
        """SHA-256 of everything that changes the picture. Neutral fields take no part: new ones do not change old hashes."""
        data = self.model_dump(mode="json", exclude={"name", "steps", "family"}, exclude_defaults=True)
        data["steps"] = [_step_fields(step, LABELS) for step in self.steps]
        return hashlib.sha256(json.dumps(data, sort_keys=True).encode()).hexdigest()


def _check_reach(strength: float, steps: Sequence[Any]) -> None:
    """Beyond full goes only what holds no step that must not. Raises: PydanticCustomError"""
    groups = [(place, step.strength, step.steps) for place, step in walk(steps) if isinstance(step, Group)]
    places: list[tuple[Place, float, Sequence[Any]]] = [((), strength, steps), *groups]
    for place, strength_of_it, held in places:
        if strength_of_it > 1 and (stopper := stopper_of(held)) is not None:
            raise PydanticCustomError(
                "field", "{place}: must be at most 1, for it holds a step that goes no further ({stopper}), got {got}",
                {"place": f"{path_of(place)}.strength".lstrip("."), "stopper": title_of(stopper), "got": f"{strength_of_it:g}"},
            )  # fmt: skip


def stopper_of(steps: Sequence[StepParameters]) -> StepParameters | None:
    """The first of these steps, or of what they hold, that lets no strength go beyond full."""
    return next((step for _, step in walk(steps) if not lets_beyond(step)), None)


def _steps_in(content: Any) -> Sequence[Any]:
    """The steps of a look or group that is built, or still as JSON."""
    steps = content.get("steps") if isinstance(content, Mapping) else getattr(content, "steps", None)
    return steps if isinstance(steps, list | tuple) else ()


def _measure(steps: Sequence[Any], depth: int = 0) -> tuple[int, int]:
    """How deep groups stand, and how many steps there are; it stops counting where there are too many."""
    deepest, count = depth, len(steps)
    for step in steps:
        if count > MOST_STEPS or deepest > DEEPEST_GROUP:
            break
        if inner := _steps_in(step):
            below, more = _measure(inner, depth + 1)
            deepest, count = max(deepest, below), count + more
    return deepest, count


def parse_look(data: bytes | str, place: str = "look") -> Look:
    """A look file's text to a Look. Raises: LookError with the line, or with the path of the field."""
    content = decode_json(data, place)
    if not isinstance(content, dict) or content.get("format") != "saucer-look":
        raise LookError(place, 'not a look file: it must be a JSON object with "format": "saucer-look"')
    return look_from(content, place)


def look_from(content: Any, place: str = "look") -> Look:
    """A decoded JSON value to a Look. Raises: LookError naming the first field that is wrong."""
    try:
        return Look.model_validate(content)
    except ValidationError as error:
        raise LookError(place, " ; ".join(describe(error)[:3])) from None


_PAIR = re.compile(r"\[\s+(-?[\d.e-]+),\s+(-?[\d.e-]+)\s+\]")


def look_text(look: Look) -> str:
    """The look as its file: neutral fields left out, stable order, two spaces."""
    content = {"format": look.format, "version": look.version} | look.model_dump(mode="json", exclude_defaults=True)
    content["steps"] = [_step_fields(step) for step in look.steps]
    text = json.dumps(content, indent=2, ensure_ascii=False)
    return _PAIR.sub(r"[\1, \2]", text) + "\n"


def _step_fields(step: StepParameters, without: frozenset[str] = frozenset()) -> dict[str, Any]:
    fields = {"kind": step.kind} | step.model_dump(mode="json", exclude_defaults=True, exclude=set(without))
    if isinstance(step, Group):
        fields["steps"] = [_step_fields(inner, without) for inner in step.steps]
    return fields


def steps_hash(steps: Sequence[StepParameters]) -> str:
    """SHA-256 of what these steps do."""
    return hashlib.sha256(json.dumps([_step_fields(step, LABELS) for step in steps], sort_keys=True).encode()).hexdigest()


def spatial_hash(look: Look) -> str:
    """SHA-256 of what a look does beyond the colour of each pixel: its spatial steps that are on, at its strength. Empty for nothing."""
    spatial = _only_spatial(look.steps) if look.strength > 0 else ()
    return hashlib.sha256(f"{look.strength} {steps_hash(spatial)}".encode()).hexdigest() if spatial else ""


def _only_spatial(steps: Sequence[Any]) -> tuple[Any, ...]:
    kept = []
    for step in steps:
        if not step.enabled or step.strength == 0:
            continue
        if isinstance(step, Group):
            if inner := _only_spatial(step.steps):
                kept.append(step.model_copy(update={"steps": inner}))
        elif step.kind in spatial_kinds():
            kept.append(step)
    return tuple(kept)
