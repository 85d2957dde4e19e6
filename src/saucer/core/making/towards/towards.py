"""Proposals that bring pictures towards a reference: tone, tints, amount of colour and shifts of hues, as steps that can be edited."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from saucer.core.colour.conversion import to_linear_709
from saucer.core.colour.encodings import ENCODINGS, Encoding
from saucer.core.colour.oklab import linear_to_oklab
from saucer.core.colour.rendering import View
from saucer.core.colour.skin import skin_shift
from saucer.core.errors import LookError
from saucer.core.making.apart.fitting import Sample, fit
from saucer.core.making.apart.parts import BANDS_OF_COLOUR, MASTER, SATURATION, TINTS, Part, fewer_points
from saucer.core.making.apart.seen import lab_of
from saucer.core.making.towards.transport import Apart, distance, send
from saucer.core.reports.misfits import ENOUGH_SKIN
from saucer.core.steps.kinds import pixel_kinds
from saucer.core.steps.leaving_skin import leave_skin
from saucer.core.steps.parameters import SkinLeavingParameters, StepParameters
from saucer.core.steps.pixel.curves import Curves
from saucer.core.steps.registry import Junction
from saucer.core.steps.strength import at_strength

SAMPLED = 900
"""Colours of a set of pictures, evenly spread over them, that are sent to as many of the reference."""
AGAIN = 3
"""How often colours are sent anew from where the steps have brought them: at first many go a long way round."""
ROUNDS = 8
RIDGE = 0.5
"""How much each number is drawn to neutral: more than where a LUT is taken apart, as it is only guessed which colour became which."""
BENT = (3 / 255, 1.5 / 255, 0.7 / 255)
"""By how much a curve may be off, in code values, to lose a point; the next where that costs more than LOST of the way."""
LOST = 0.04
LEFT = (0.5, 1.0)
"""Amounts of skin that are left, the less first, where it turns too far."""
WORTH = 0.05
"""Share of the way from which a proposal is one."""
NOTHING = 1e-3
"""OKLab distance from the reference below which the pictures are there: a quarter of a code of 8 bits."""
WEAKER = ((0.6, False), (0.3, False), (0.6, True), (0.3, True))
"""Strengths of the steps that change colour, then of all of them, where leaving skin is not enough."""

What = Literal["all", "tone", "colour"]
PARTS: dict[What, tuple[Part, ...]] = {
    "all": (MASTER, SATURATION, BANDS_OF_COLOUR, TINTS), "tone": (MASTER,), "colour": (SATURATION, BANDS_OF_COLOUR, TINTS),
}  # fmt: skip


@dataclass(frozen=True)
class Proposal:
    """what: whether tone, colour or both are taken; steps: in order, in the encoding that they were asked for in

    before, after: from the reference; skin: median turn of skin in degrees, 0 where there is none to speak of
    """

    what: What
    steps: tuple[StepParameters, ...]
    before: Apart
    after: Apart
    skin: float

    @property
    def gone(self) -> float:
        """The share of the distance that the steps take away, of what they are about; below 0 where they bring it further."""
        before, after = ({"all": one.whole, "tone": one.tone, "colour": one.colour}[self.what] for one in (self.before, self.after))
        return 1 - after / before if before > 1e-9 else 0.0


def propose(
    pictures: Sequence[np.ndarray], encoding: Encoding, reference: np.ndarray, tolerance: float = 10.0, view: View = "soft",
    report: Callable[[float], None] = lambda share: None,
) -> list[Proposal]:  # fmt: skip
    """Both together, tone alone, colour alone; each only where it brings the pictures nearer and skin turns no further than it may.

    pictures: (h, w, 3) float32 code values of `encoding`, which is a display's; reference: (h, w, 3) sRGB code values, as it is seen
    tolerance: degrees that skin may turn; report: told the share done, what it raises ends the work
    Raises: LookError where the encoding is light of a scene
    """
    if encoding.referred == "scene":
        raise LookError(
            "encoding", f"is light of a scene ({encoding.name}); pictures are brought to others as a display shows them"
        )
    junction = Junction(encoding, view=view)
    start = np.ascontiguousarray(np.concatenate([_some(one, SAMPLED // len(pictures) + 1) for one in pictures]).T, np.float32)
    wanted = _lab(_some(reference, SAMPLED))
    found = []
    for index, what in enumerate(PARTS):

        def told(share: float, at: int = index) -> None:
            report((at + share) / len(PARTS))

        one = _propose(what, start, junction, wanted, tolerance, told)
        if one.gone > WORTH and one.before.whole > NOTHING and abs(one.skin) <= tolerance:
            found.append(one)
    return found


def _some(pixels: np.ndarray, most: int) -> np.ndarray:
    """(n, 3) an even choice: in a golden-ratio walk, so that no column of a picture is favoured."""
    flat = pixels.reshape(-1, 3)
    count = min(most, len(flat))
    return np.clip(flat[((np.arange(count) * 0.618033988749895) % 1 * len(flat)).astype(int)], 0, 1)


def _lab(srgb: np.ndarray) -> np.ndarray:
    return linear_to_oklab(to_linear_709(srgb.astype(np.float64), ENCODINGS["srgb"]))


def _propose(
    what: What, start: np.ndarray, junction: Junction, wanted: np.ndarray, tolerance: float, report: Callable[[float], None]
) -> Proposal:
    parts = PARTS[what]
    before = distance(lab_of(start, junction).astype(np.float64).T, wanted)

    def proposal(steps: Sequence[StepParameters], skin: float = 0.0) -> Proposal:
        return Proposal(what, tuple(steps), before, distance(_through(start, steps, junction), wanted), skin)

    def steps_of(numbers: Sequence[np.ndarray]) -> list[StepParameters]:
        made = [part.make(one) for part, one in zip(parts, numbers, strict=True)]
        return [step for step in made if not pixel_kinds()[step.kind].neutral(step)]

    numbers, tried = [part.neutral.copy() for part in parts], []
    for again in range(AGAIN):
        seen = _through(start, steps_of(numbers), junction)
        aim, worth = send(seen, wanted)
        if what == "tone":
            aim[:, 1:] = seen[:, 1:]
        elif what == "colour":
            aim[:, 0] = seen[:, 0]
        numbers, _ = fit(
            parts, numbers, Sample(start, np.ascontiguousarray(aim.T, np.float32), worth), junction, rounds=ROUNDS, ridge=RIDGE
        )
        tried.append(proposal(steps_of(numbers)))
        report((again + 1) / AGAIN)
    best = max(tried, key=lambda one: one.gone)
    steps = list(best.steps)
    for off in BENT:
        plainer = [fewer_points(step, off, ("master",)) if isinstance(step, Curves) else step for step in steps]
        if proposal(plainer).gone >= best.gone - LOST:
            steps = plainer
            break
    return proposal(*_leave_skin(steps, start, junction, tolerance))


def _through(start: np.ndarray, steps: Sequence[StepParameters], junction: Junction) -> np.ndarray:
    """(n, 3) OKLab behind the steps."""
    return lab_of(_planes_through(start, steps, junction), junction).astype(np.float64).T


def _planes_through(start: np.ndarray, steps: Sequence[StepParameters], junction: Junction) -> np.ndarray:
    planes = start.copy()
    for step in steps:
        operation = pixel_kinds()[step.kind].prepare(step, junction)
        if step.strength != 1:
            operation = at_strength(operation, junction.encoding, junction.encoding, step.strength, junction.view)
        if isinstance(step, SkinLeavingParameters):
            operation = leave_skin(operation, junction.encoding, junction.encoding, step.leave_skin, junction.view)
        operation(planes)
    return planes


def _leave_skin(
    steps: list[StepParameters], start: np.ndarray, junction: Junction, tolerance: float
) -> tuple[list[StepParameters], float]:
    """The steps that can leave skin do so, by the least amount with which it turns no further than the tolerance; else all are weaker."""
    encoding = junction.encoding

    def turned(by: Sequence[StepParameters]) -> float:
        found = skin_shift(start.T, encoding, np.clip(_planes_through(start, by, junction), 0, 1).T, encoding, tolerance)
        return found.shift if found.share >= ENOUGH_SKIN else 0.0

    skin = turned(steps)
    for amount in LEFT:
        if abs(skin) <= tolerance:
            break
        steps = [_leaving(step, amount) for step in steps]
        skin = turned(steps)
    whole = steps
    for strength, of_all in WEAKER:
        if abs(skin) <= tolerance:
            break
        steps = [step.model_copy(update={"strength": strength}) if of_all or step.kind != "curves" else step for step in whole]
        skin = turned(steps)
    return steps, skin


def _leaving(step: StepParameters, amount: float) -> StepParameters:
    if not isinstance(step, SkinLeavingParameters):
        return step
    return step.model_copy(update={"leave_skin": step.leave_skin.model_copy(update={"amount": amount})})
