"""LUT: a LUT of the Shelf, between the encodings it was made for."""

from __future__ import annotations

from typing import Annotated, Literal

import numpy as np
from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from saucer.core.colour.conversion import conversion, is_rendered
from saucer.core.colour.encodings import Encoding, encoding
from saucer.core.errors import LutError
from saucer.core.lut.apply import apply_lut
from saucer.core.lut.table import Link
from saucer.core.numeric.planes import Operation, from_planes, put_planes
from saucer.core.steps.parameters import SkinLeavingParameters
from saucer.core.steps.pixel.convert import conversion_links
from saucer.core.steps.registry import Junction, PixelKind, register
from saucer.core.steps.strength import at_strength


class LutStep(SkinLeavingParameters):
    """The samples are converted to what the LUT expects, held to its domain, and put through it.

    expects, gives: ids of encodings; empty: that of the junction, and what it expects
    ends_in: `back`, converted back to the junction's encoding, from a display's to a scene's by the inverse of the look's view, so that
        it is seen as the LUT gives it; `gives`, the look goes on in the encoding the LUT gives
    file: in a look file, a path relative to it; replaced by the SHA-256 of its content when the look is read
    """

    kind: Literal["lut"] = "lut"
    sha256: Annotated[str, Field(pattern="^([0-9a-f]{64})?$")] = ""
    file: Annotated[str, Field(max_length=300)] = ""
    title: Annotated[str, Field(max_length=120, description="What the LUT is called; no effect on the picture")] = ""
    expects: str = ""
    gives: str = ""
    ends_in: Literal["back", "gives"] = "back"
    interpolation: Literal["tetrahedral", "trilinear"] = "tetrahedral"

    @model_validator(mode="after")
    def _one_name(self) -> LutStep:
        if self.sha256 and self.file:
            raise PydanticCustomError("field", "{place}: name the LUT by sha256 or by file, not both", {"place": "file"})
        return self


def ends(step: LutStep, junction: Junction) -> tuple[Encoding, Encoding]:
    """The encodings it expects and gives."""
    expects = encoding(step.expects, "expects", junction.own) if step.expects else junction.encoding
    return expects, encoding(step.gives, "gives", junction.own) if step.gives else expects


def prepare(step: LutStep, junction: Junction) -> Operation:
    if not step.sha256:
        raise LutError("LUT", f'"{step.file}" was not read with the look; give the look file or a bundle that holds it')
    lut = junction.luts(step.sha256)
    expects, gives = ends(step, junction)
    before = conversion(junction.encoding, expects, junction.view)
    end = after(step, junction)
    behind = conversion(gives, end, junction.view)

    def look_up(planes: np.ndarray) -> None:
        if before is not None:
            before(planes)
        put_planes(planes, apply_lut(lut, from_planes(planes), step.interpolation, threads=1))

    # Between a scene and a display what is seen is faded, or a LUT at half strength would be seen as more, or less, than half of it.
    fades_as_seen = is_rendered(gives, end, junction.view)
    given = at_strength(look_up, junction.encoding, gives, step.strength if fades_as_seen else 1, junction.view)

    def run(planes: np.ndarray) -> None:
        given(planes)
        if behind is not None:
            behind(planes)

    return at_strength(run, junction.encoding, end, 1 if fades_as_seen else step.strength, junction.view)


def after(step: LutStep, junction: Junction) -> Encoding:
    return ends(step, junction)[1] if step.ends_in == "gives" else junction.encoding


def neutral(step: LutStep) -> bool:
    return not step.sha256 and not step.file


def summary(step: LutStep) -> str:
    if neutral(step):
        return "no change"
    name = step.title or step.file or step.sha256[:12]
    way = f", {step.expects or 'as it comes'} to {step.gives or step.expects}" if step.expects or step.gives else ""
    return f"{name}{way}"


def links(step: LutStep, junction: Junction) -> tuple[Link, ...] | None:
    if step.interpolation != "tetrahedral" or step.leave_skin.amount:
        return None
    expects, gives = ends(step, junction)
    end = after(step, junction)
    if is_rendered(junction.encoding, expects, junction.view) or is_rendered(gives, end, junction.view):
        return None
    before, behind = conversion_links(junction.encoding, expects), conversion_links(gives, end)
    return None if before is None or behind is None else (*before, *junction.luts(step.sha256).chain, *behind)


register(PixelKind(LutStep, "LUT", prepare, neutral, summary, after=after, links=links, fades=True))
