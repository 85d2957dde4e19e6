"""Tools and repairs on LUTs of the Shelf: tried on a picture first, then kept as a new entry that names what it was made from."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated

import numpy as np
from pydantic import Field

from saucer.core.engine.cache import ByteCache
from saucer.core.engine.evaluate import show_on_srgb
from saucer.core.errors import LutError
from saucer.core.files.registry import formats
from saucer.core.lut.apply import apply_lut, to_codes
from saucer.core.making.tools import Tool, ToolInput, ToolResult, ToolSettings, find_tool
from saucer.studio.catalogue.models import Entry
from saucer.studio.common.refusals import NotPossible
from saucer.studio.encodings.rules import studio_view
from saucer.studio.luts.facts import LutFacts
from saucer.studio.luts.models import Lut
from saucer.studio.luts.rules import Ends, encodings_of, find, first_file, put_on_shelf, table_of
from saucer.studio.people.models import Person
from saucer.studio.pictures.models import Picture
from saucer.studio.pictures.rules import proxy_in

_RESULTS: ByteCache[ToolResult] = ByteCache(96 * 2**20)
MOST_IN_A_TRIAL = 65
"""Nodes a side that a slow tool is tried with."""


class ToolChoice(ToolSettings):
    """tool: its id; other: the entry that is the second LUT"""

    tool: str
    other: int | None = None
    size: Annotated[int | None, Field(ge=2, le=129)] = 33

    @property
    def settings(self) -> ToolSettings:
        return ToolSettings(amount=self.amount, size=self.size, low=self.low, high=self.high)


def _inputs(person: Person, lut: Lut, tool: Tool, choice: ToolChoice) -> list[Lut]:
    if tool.inputs == 1:
        return [lut]
    if choice.other is None:
        raise NotPossible("Choose a second LUT.")
    return [lut, find(person, choice.other)]


def _as_input(lut: Lut) -> ToolInput:
    expects, gives = encodings_of(lut)
    return ToolInput(table_of(lut), lut.version.entry.name, expects, gives)


def _result(tool: Tool, luts: Sequence[Lut], settings: ToolSettings) -> ToolResult:
    """Worked out once for the same LUTs between the same encodings, whatever they are called."""
    key = (tool.id, settings, *((first_file(lut).blob_id, lut.expects, lut.gives) for lut in luts))
    found = _RESULTS.get(key)
    if found is None:
        found = tool.use([_as_input(lut) for lut in luts], settings)
        _RESULTS.keep(key, found, found.lut.nbytes)
    return found


def check_choice(person: Person, pk: int, choice: ToolChoice) -> None:
    """Can this be begun at all? Raises: LutError, NotPossible, NotFound"""
    _inputs(person, find(person, pk), find_tool(choice.tool), choice)


def work_out(person: Person, pk: int, choice: ToolChoice) -> ToolResult:
    """What the tool makes of an entry's LUT. Raises: LutError, NotPossible, NotFound"""
    lut, tool = find(person, pk), find_tool(choice.tool)
    return _result(tool, _inputs(person, lut, tool, choice), choice.settings)


def keep(person: Person, pk: int, choice: ToolChoice, made: ToolResult, name: str = "") -> Entry:
    """The result as a new entry in the format of what it was made from, or .cube where that cannot hold it.

    Raises: LutError, NotPossible, NotFound
    """
    lut, tool = find(person, pk), find_tool(choice.tool)
    luts, entry = _inputs(person, lut, tool, choice), lut.version.entry
    called = name or tool.name_result([_as_input(one) for one in luts], choice.settings)
    assert made.expects is not None
    assert made.gives is not None
    words = [f"{tool.id} of {entry.name} ({first_file(lut).blob_id[:12]})", f"Expects {made.expects.id}, gives {made.gives.id}"]
    titled = made.lut.titled(called, (*words, *([f"Rights: {entry.licence}"] if entry.licence else [])))
    form = formats()[first_file(lut).format]
    if form.holds.depths or made.lut.kind not in form.holds.tables:
        form = formats()["cube"]
    for chosen in dict.fromkeys((form.id, "cube")):
        try:
            return put_on_shelf(
                person, titled, formats()[chosen], called, tool.id, Ends(made.expects.id, made.gives.id, lut.known), lut.version,
                LutFacts(words=made.words), licence=entry.licence, category=entry.category_path, author=entry.author, source=entry.source,
                may_pass_on=entry.may_pass_on, pass_on_until=entry.pass_on_until,
            )  # fmt: skip
        except LutError as error:
            problem = error
    raise problem


def frame(person: Person, lut: Lut, choice: ToolChoice, picture: Picture, width: int | None = None) -> np.ndarray:
    """(h, w, 3) uint8 sRGB: the picture through the result."""
    tool, settings = find_tool(choice.tool), choice.settings
    if tool.slow:
        settings = settings.model_copy(update={"size": min(settings.size or MOST_IN_A_TRIAL, MOST_IN_A_TRIAL)})
    made = _result(tool, _inputs(person, lut, tool, choice), settings)
    assert made.expects is not None
    assert made.gives is not None
    done = apply_lut(made.lut, np.ascontiguousarray(proxy_in(picture, made.expects, width, studio_view())))
    return to_codes(show_on_srgb(np.ascontiguousarray(done, np.float32), made.gives, studio_view()), np.uint8)
