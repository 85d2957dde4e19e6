"""How well a bake will do before it is done: every size of one format, and the picture through it."""

from __future__ import annotations

from collections import OrderedDict
from dataclasses import dataclass, replace
from threading import Lock

import numpy as np

from saucer.core.bake.bake import Words, bake_file, round_as_written, sample_for
from saucer.core.bake.fidelity import SURVEYED_SIZES, Report, Truth, survey
from saucer.core.bake.part import name_left_out
from saucer.core.colour.encodings import log_of
from saucer.core.engine.evaluate import evaluate, show_on_srgb
from saucer.core.engine.plan import prepare
from saucer.core.look.model import Look
from saucer.core.lut.apply import apply_lut, to_codes
from saucer.core.lut.domain import check_size
from saucer.studio.baking.choices import BakeChoice, FormatChoice, look_to_bake
from saucer.studio.common.refusals import NotPossible
from saucer.studio.luts.rules import at_hand
from saucer.studio.pictures.models import Picture
from saucer.studio.pictures.rules import proxy_in

MEASURED_WIDTH = 480
_TRUTHS: OrderedDict[tuple[str, str, str, str], Truth] = OrderedDict()
_LOCK = Lock()
TRUTHS_KEPT = 4


def _truth(look: Look, picture: Picture | None) -> Truth:
    """What the look makes of the measured colours: worked out once for all formats of a Bake sheet."""
    key = (look.content_hash, look.input, look.output, f"{picture.proxy_id} {picture.encoding}" if picture else "")
    with _LOCK:
        found = _TRUTHS.get(key)
    if found is None:
        pixels = None if picture is None else proxy_in(picture, look.encoding(look.input), MEASURED_WIDTH, look.view)
        found = Truth(prepare(look, at_hand), pixels)
    with _LOCK:
        _TRUTHS[key] = found
        _TRUTHS.move_to_end(key)
        while len(_TRUTHS) > TRUTHS_KEPT:
            _TRUTHS.popitem(last=False)
    return found


@dataclass(frozen=True)
class Instead:
    """What a LUT may better be made for than linear light, and how well it does at the same sizes."""

    expects: str
    name: str
    p99: list[float]


@dataclass(frozen=True)
class Survey:
    """How one format will do. about: bytes of its file at each size; expects, gives: encodings of the LUT"""

    report: Report
    about: list[int]
    expects: str
    gives: str
    left_out: list[str]
    instead: Instead | None


def survey_format(
    look: Look, choice: BakeChoice, one: FormatChoice, picture: Picture | None, sizes: tuple[int, ...], tolerance: float
) -> Survey:
    """How well one format does in every size, on the picture too. Raises: LutError where it cannot hold the look"""
    for size in sizes:
        check_size(size)
    if sum(size > SURVEYED_SIZES[-1] for size in sizes) > 1:
        raise NotPossible(f"Measure one size above {SURVEYED_SIZES[-1]} at a time.")
    made, form = look_to_bake(look, choice), one.form()
    found = survey(_truth(made, picture), form, one.options, sizes or SURVEYED_SIZES, tolerance, shaper=choice.shaper)
    small = form.holds.size_for(17)
    sample = bake_file(made, form, small, Words(), one.options, at_hand, shaper=choice.shaper)
    per_node = len(sample.data) / small**3 if "3D" in sample.lut.kind else 0.0
    about = [round(per_node * size_.size**3) or len(sample.data) for size_ in found.sizes]
    known = {words.split(" (")[0] for words in found.lost}
    lost = (*found.lost, *(words for words in sample.lost if words not in known))
    left_out = name_left_out(prepare(look, at_hand), choice.part.part)
    instead = _in_log(look, choice, one, picture, found)
    return Survey(replace(found, lost=lost), about, made.input, made.output, left_out, instead)


def _in_log(look: Look, choice: BakeChoice, one: FormatChoice, picture: Picture | None, found: Report) -> Instead | None:
    """The same for a log encoding of the same primaries, which needs nothing before the lattice; None where there is none to offer."""
    made = look_to_bake(look, choice)
    log = log_of(made.encoding(made.input))
    if log is None or "3D" not in one.form().holds.tables or not found.sizes[0].size:
        return None
    there = look_to_bake(look, choice.model_copy(update={"expects": log.id}))
    other = survey(_truth(there, picture), one.form(), one.options, [size.size for size in found.sizes])
    return Instead(log.id, log.name, [size.p99 for size in other.sizes])


def draw_baked(look: Look, choice: BakeChoice, one: FormatChoice | None, picture: Picture, width: int | None = None) -> np.ndarray:
    """(h, w, 3) uint8 sRGB: the picture through the exact look, or through the LUT of one format with its rounding."""
    made = look_to_bake(look, choice)
    pixels = proxy_in(picture, made.encoding(made.input), width, made.view)
    if one is None:
        done = evaluate(prepare(made, at_hand), pixels)
    else:
        form = one.form()
        lut, _ = sample_for(prepare(made, at_hand), form, choice.size, choice.shaper)
        done = apply_lut(round_as_written(lut, form, one.options), pixels)
    return to_codes(show_on_srgb(np.ascontiguousarray(done, np.float32), made.encoding(made.output), made.view), np.uint8)
