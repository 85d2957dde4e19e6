"""The health of a LUT: what is odd about it, with a number, a plain sentence and what to do. `repairs` puts right what can be.

Thresholds are common practice, no source, except where one is named.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from saucer.core.lut.apply import apply_lut
from saucer.core.lut.domain import grid
from saucer.core.lut.health_kernels import count_turned, uneven_planes
from saucer.core.lut.table import Lut
from saucer.core.lut.tables import as_tables
from saucer.core.numeric.parallel import over_runs

Level = Literal["fine", "notice", "bad"]
Repair = Literal["smooth", "unswap", "full-range", "extend", "resize"]
RAMP = 1024
BLACK, WHITE = 64 / 1023, 940 / 1023
"""Legal range of 10-bit video. Source: ITU-R BT.709-6, table 4."""
USUAL_SIZES = (16, 17, 25, 32, 33, 36, 49, 64, 65, 129)
CHI_MEDIAN = 0.888
"""Median of the root of the mean of three squared standard normal numbers."""
LEAST_VOLUME = 0.02
"""Of a neutral cell: flatter ones lie neither way."""
CODE = 1 / 1023
"""One code of a 10-bit signal, against which unevenness is judged."""


@dataclass(frozen=True)
class Finding:
    """One thing looked at. number: its measure, in the unit that `sentence` names; repair: what would put it right, where that is safe."""

    id: str
    title: str
    level: Level
    number: float
    sentence: str
    advice: str = ""
    repair: Repair | None = None


@dataclass(frozen=True, eq=False)
class Graphs:
    """What people look at.

    ramp: (n, 3) what grey becomes, input 0..1 of the domain; tint: (n, 3) distance of each channel from their mean
    rough: (n, n) mean unevenness over blue by red (down) and green (across), in 10-bit codes, empty for a 1D LUT
    edge: (m, 3) a coarse lattice to be turned
    """

    ramp: np.ndarray
    rough: np.ndarray
    edge: np.ndarray


@dataclass(frozen=True, eq=False)
class Health:
    kind: str
    size: int
    findings: tuple[Finding, ...]
    graphs: Graphs

    @property
    def level(self) -> Level:
        levels = {finding.level for finding in self.findings}
        return "bad" if "bad" in levels else "notice" if "notice" in levels else "fine"

    @property
    def summary(self) -> str:
        """The findings that are not fine, in few words."""
        odd = [finding.title.lower() for finding in self.findings if finding.level != "fine"]
        return ", ".join(odd) or "healthy"


def _grey(lut: Lut, count: int = RAMP) -> np.ndarray:
    return np.stack([np.linspace(low, high, count) for low, high in zip(*lut.domain, strict=True)], axis=1).astype(np.float32)


def examine(lut: Lut, is_told: bool = False) -> Health:
    """Everything that can be seen without knowing what the LUT is for. is_told: is it known what encoding it expects?"""
    tables = as_tables(lut)
    lattice = tables.lattice.table if tables.lattice else None
    ramp = apply_lut(lut, _grey(lut))
    outputs = np.concatenate(tables.tables[-1:] or [ramp])
    findings = [
        _size(lut),
        _domain(lut),
        _identity(lut),
        _monotone(ramp),
        _tint(ramp),
        _range(outputs),
        _clipped(lut, ramp, lattice),
        _legal(ramp),
        _log(lut, is_told),
        _banding(ramp),
    ]
    if lattice is not None:
        uneven = unevenness(lattice)
        findings += [_folds(lattice), _roughness(lattice, uneven), _swapped(tables)]
    rough = np.zeros((0, 0)) if lattice is None else uneven.max(axis=-1).mean(axis=2) / CODE
    return Health(lut.kind, lut.size, tuple(findings), Graphs(ramp, rough, coarse(lut)))


def _size(lut: Lut) -> Finding:
    usual = lut.lattice is None or lut.size in USUAL_SIZES
    what = f"{lut.kind}, {lut.size} {'nodes a side' if lut.lattice or lut.links else 'samples'}"
    if usual:
        return Finding("size", "Size", "fine", lut.size, f"{what}.")
    sentence = f"{what}: some programs only read 17, 33 or 65."
    return Finding(
        id="size",
        title="Unusual size",
        level="notice",
        number=lut.size,
        sentence=sentence,
        advice="Resize it to 33.",
        repair="resize",
    )


def _domain(lut: Lut) -> Finding:
    low, high = min(lut.domain[0]), max(lut.domain[1])
    sentence = f"It takes {low:g} to {high:g}; what lies outside is held at its faces."
    wide = low <= -0.1 and high >= 1.1
    return Finding("domain", "Input range", "fine", high - low, sentence, repair=None if wide else "extend")


def _identity(lut: Lut) -> Finding:
    inputs = grid(17, lut.domain)
    moved = float(np.abs(apply_lut(lut, inputs) - inputs).max())
    if moved < 1e-4:
        return Finding(
            "identity",
            "Changes nothing",
            "notice",
            moved,
            "It gives back what goes in.",
            "It may have been exported before the look was on.",
        )
    return Finding("identity", "Effect", "fine", moved, f"The largest change is {moved * 100:.3g} % of the range.")


def _monotone(ramp: np.ndarray) -> Finding:
    steps = np.diff(ramp.astype(np.float64).mean(axis=1))
    rising = ramp[-1].mean() >= ramp[0].mean()
    back = np.minimum(steps if rising else -steps, 0)
    drop = float(-back.sum())
    if drop > CODE:
        at = float(np.argmin(back) / (len(steps)))
        return Finding(
            "grey", "Grey turns back", "bad" if drop > 8 * CODE else "notice", drop / CODE,
            f"A grey ramp goes back by {drop / CODE:.1f} of 1023 codes, most at {at * 100:.0f} % in: brighter becomes darker there.",
            "Smooth it, or make it again from its look.", "smooth" if drop < 40 * CODE else None,
        )  # fmt: skip
    if not rising:
        return Finding(
            "grey",
            "Negative",
            "notice",
            drop / CODE,
            "Black becomes white: the LUT makes a negative.",
            "Right for film negatives only.",
        )
    return Finding("grey", "Grey ramp", "fine", drop / CODE, "A grey ramp rises all the way.")


def _tint(ramp: np.ndarray) -> Finding:
    tint = np.abs(ramp - ramp.mean(axis=1, keepdims=True)).max(axis=1)
    most, at = float(tint.max()), float(tint.argmax() / (len(tint) - 1))
    if most < 2 * CODE:
        return Finding("tint", "Neutral grey", "fine", most / CODE, "Grey stays grey.")
    off = ramp[int(tint.argmax())] - ramp[int(tint.argmax())].mean()
    channel = int(np.abs(off).argmax())
    lean = (("red", "green", "blue") if off[channel] > 0 else ("cyan", "magenta", "yellow"))[channel]
    return Finding(
        "tint",
        "Tint on grey",
        "fine",
        most / CODE,
        f"Grey leans to {lean} by up to {most / CODE:.0f} of 1023 codes, at {at * 100:.0f} % in.",
    )


def _range(outputs: np.ndarray) -> Finding:
    low, high = float(outputs.min()), float(outputs.max())
    if low < -1e-6 or high > 1 + 1e-6:
        return Finding(
            "range", "Codes outside 0 to 1", "notice" if high < 2 and low > -1 else "bad", max(-low, high - 1),
            f"Its entries go from {low:.3g} to {high:.3g}. Formats of whole numbers hold them at 0 and 1.",
            "Right for linear light; else clip it where it is made.",
        )  # fmt: skip
    return Finding("range", "Range", "fine", high - low, f"Its entries go from {low:.3g} to {high:.3g}.")


def _clipped(lut: Lut, ramp: np.ndarray, lattice: np.ndarray | None) -> Finding:
    """Share of the entries at the very bottom and top, where neighbours have run together."""
    entries = (lattice if lattice is not None else ramp).reshape(-1, 3)
    low, high = (
        float((entries <= entries.min() + 1e-6).any(axis=1).mean()),
        float((entries >= entries.max() - 1e-6).any(axis=1).mean()),
    )
    flat_low = float((np.ptp(ramp[: RAMP // 50], axis=0) < CODE / 8).all())
    side = 0.0 if lattice is None else 1 - (1 - 1 / len(lattice)) ** 3
    over = max(low, high) - side
    if over > 0.12 or (lattice is None and max(low, high) > 0.05):
        end = "bottom" if low > high else "top"
        words = "Blacks are crushed: " if end == "bottom" and flat_low else ""
        return Finding(
            "clipped", "Clips", "notice", max(low, high),
            f"{words}{low * 100:.0f} % of the entries lie at the bottom and {high * 100:.0f} % at the top: detail there is gone.",
            "If it should not clip, it may expect another encoding, or have been made with clipping on.",
        )  # fmt: skip
    return Finding(
        "clipped",
        "Clipping",
        "fine",
        max(low, high),
        f"{low * 100:.1f} % of the entries lie at the bottom, {high * 100:.1f} % at the top.",
    )


def _legal(ramp: np.ndarray) -> Finding:
    """Black at 64 and white at 940 of 1023, on all channels: made for legal range."""
    black, white = float(ramp[0].mean()), float(ramp[-1].mean())
    near = max(abs(black - BLACK), abs(white - WHITE), float(np.ptp(ramp[0])), float(np.ptp(ramp[-1])))
    if near < 4 * CODE:
        return Finding(
            "legal", "Looks legal-range", "notice", near / CODE,
            f"Black becomes {black * 1023:.0f} and white {white * 1023:.0f} of 1023, as legal-range video has them.",
            "In a full-range program pictures look flat through it: make it full range.", "full-range",
        )  # fmt: skip
    return Finding(
        "legal", "Full range", "fine", near / CODE, f"Black becomes {black * 1023:.0f} and white {white * 1023:.0f} of 1023."
    )


def expects_log(lut: Lut) -> float:
    """How much the LUT acts as one that expects log, 0..1: black long after 0, white long before 1, steep in between.

    Common practice, no source: the limits were set between what the shipped log encodings need to become Rec.709 (black still at 5 % in,
    94 % and more at 80 %, a slope of 1.25 and more from 30 to 50 %) and looks of strong contrast made for display pictures.
    """
    ramp = np.clip(apply_lut(lut, _grey(lut)).astype(np.float64).mean(axis=1), 0, 1)

    def at(x: float) -> float:
        return float(np.interp(x, np.linspace(0, 1, len(ramp)), ramp))

    black, white, slope = (0.02 - at(0.05)) / 0.015, (at(0.8) - 0.88) / 0.06, ((at(0.5) - at(0.3)) / 0.2 - 1.1) / 0.15
    score = float(np.prod(np.clip([black, white, slope], 0, 1)))
    return score ** (1 / 3)


def _log(lut: Lut, is_told: bool) -> Finding:
    score = expects_log(lut)
    if score > 0.5 and is_told:
        return Finding("log", "Made for log", "fine", score, "Its grey curve is as steep as one made for log pictures.")
    if score > 0.5:
        return Finding(
            "log", "Expects log", "notice", score,
            "Its grey curve is as steep as one made for log pictures: on display pictures it looks harsh.",
            "Say which log encoding it expects.",
        )  # fmt: skip
    return Finding("log", "Not a log curve", "fine", score, "Its grey curve is not as steep as one made for log pictures.")


def _banding(ramp: np.ndarray) -> Finding:
    """The largest jump of a 10-bit ramp beyond what the slope around it explains."""
    steps = np.abs(np.diff(ramp.astype(np.float64), axis=0))
    smooth = np.median(np.stack([np.roll(steps, shift, axis=0) for shift in range(-8, 9)]), axis=0)
    jump = float((steps - 4 * smooth).max())
    if jump > 2 / 255:
        at = float((steps - 4 * smooth).max(axis=1).argmax() / (RAMP - 1))
        return Finding(
            "banding", "Bands", "notice", jump * 255,
            f"A 10-bit ramp jumps by {jump * 255:.1f} of 255 codes at {at * 100:.0f} % in: bands in skies and shadows.",
            "Smooth it, or bake it larger.", "smooth",
        )  # fmt: skip
    return Finding("banding", "Smooth ramp", "fine", max(jump, 0) * 255, "A 10-bit ramp comes out without jumps.")


def _folds(table: np.ndarray) -> Finding:
    """Cells whose volume is turned inside out: neighbours whose order is reversed. What lies outside 0..1 is not seen and not counted."""
    counts = np.zeros(3, np.int64)
    count_turned(table, 0, len(table), LEAST_VOLUME, counts)
    seen, inside_out, upright = (int(count) for count in counts)
    turned = inside_out / max(1, seen)
    flipped = upright < inside_out
    if flipped:
        return Finding(
            "folds",
            "Mirrored",
            "notice",
            turned,
            "Most cells are mirrored: two channels are swapped, or one is turned round.",
            "See swapped channels.",
        )
    if turned > 0.002:
        return Finding(
            "folds", "Folds", "notice" if turned < 0.03 else "bad", turned,
            f"{turned * 100:.2g} % of the cells fold back on themselves: neighbouring colours change places.",
            "Smooth it, or make the look gentler where hues are pushed.", "smooth" if turned < 0.03 else None,
        )  # fmt: skip
    return Finding("folds", "No folds", "fine", turned, "Neighbouring colours keep their order.")


FEWEST_FOR_ROUGHNESS = 11
BEND_GROWS = 1.8
"""A little less than the twofold of a kink."""


def unevenness(table: np.ndarray) -> np.ndarray:
    """(n, n, n, 3) float32: how far every entry is off a smooth fit through its neighbours (fourth differences: smooth looks have few).

    A lattice of independent errors of standard deviation s gives s back in the root mean square.
    """
    if len(table) < 5:
        return np.zeros_like(table)
    out = np.empty_like(table)
    over_runs(lambda a, b: uneven_planes(table, a, b, out), len(table), chunk=4)
    return out


def roughness(table: np.ndarray, uneven: np.ndarray | None = None) -> float:
    """How far the entries of a lattice scatter by chance, in codes of 1023; 0 where there are too few to tell scatter from bends.

    The median unevenness, which single kinks and clipped faces do not raise, less what bends of the look explain: looked at through every
    second entry, the unevenness of a bend grows (twofold for a kink, sixteenfold for a smooth curve), that of scatter stays.

    uneven: the table's unevenness, where it is known
    """
    if len(table) < FEWEST_FOR_ROUGHNESS:
        return 0.0
    halved = unevenness(np.ascontiguousarray(table[::2, ::2, ::2]))
    near, far = (float(np.median(one[2:-2, 2:-2, 2:-2])) for one in (unevenness(table) if uneven is None else uneven, halved))
    by_chance = (near**2 - (far / BEND_GROWS) ** 2) / (1 - 1 / BEND_GROWS**2)
    return float(np.sqrt(max(by_chance, 0.0))) / CODE


def _roughness(table: np.ndarray, uneven: np.ndarray) -> Finding:
    level = roughness(table, uneven)
    if len(table) < FEWEST_FOR_ROUGHNESS:
        return Finding("rough", "Too small to tell", "fine", 0.0, "There are too few entries to tell scatter from bends.")
    if level > 0.75:
        return Finding(
            "rough", "Rough", "notice" if level < 4 else "bad", level,
            f"Neighbouring entries scatter by about {level:.1f} of 1023 codes: grain, noise or compression got in.",
            "Smooth it, or make it again from a clean picture.", "smooth",
        )  # fmt: skip
    return Finding("rough", "Even", "fine", level, f"Neighbouring entries scatter by {level:.2f} of 1023 codes.")


def channel_order(lut: Lut) -> tuple[int, int, int]:
    """Which input each output follows most, on the lattice; (0, 1, 2) where that is as it should be or not clear."""
    inputs = grid(9, lut.domain).astype(np.float64)
    outputs = apply_lut(lut, inputs.astype(np.float32)).astype(np.float64)
    centred_in, centred_out = inputs - inputs.mean(axis=0), outputs - outputs.mean(axis=0)
    if (centred_out.std(axis=0) < 1e-4).any():
        return (0, 1, 2)
    related = centred_out.T @ centred_in / len(inputs) / np.outer(centred_out.std(axis=0), centred_in.std(axis=0))
    strongest = related.argmax(axis=1)
    order = tuple(int(i) for i in strongest)
    own = related[range(3), range(3)]
    clear = all(related[i, order[i]] > own[i] + 0.25 for i in range(3) if order[i] != i)
    return order if sorted(order) == [0, 1, 2] and clear else (0, 1, 2)  # type: ignore[return-value]


def _swapped(lut: Lut) -> Finding:
    order = channel_order(lut)
    names = ("red", "green", "blue")
    if order != (0, 1, 2):
        words = ", ".join(f"{names[i]} comes from {names[j]}" for i, j in enumerate(order) if i != j)
        return Finding(
            "swapped", "Swapped channels", "bad", float(sum(i != j for i, j in enumerate(order))),
            f"{words[0].upper()}{words[1:]}: the axes or channels are in another order.",
            "Put them back in order.", "unswap",
        )  # fmt: skip
    return Finding("swapped", "Channels in order", "fine", 0, "Each channel follows its own.")


def coarse(lut: Lut, size: int = 9) -> np.ndarray:
    """(size**3, 3) outputs of a coarse lattice over the domain, blue fastest."""
    return apply_lut(lut, grid(size, lut.domain))
