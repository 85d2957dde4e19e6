"""Encodings by pairs against the studio configuration that OpenColorIO ships (version 2.2.0, ACES 1.3).

Colours that every gamut here holds: what lies outside is a matter of where negative values go, which each of them settles in its own way.
"""

from __future__ import annotations

from itertools import permutations

import numpy as np
import PyOpenColorIO as ocio
import pytest

from saucer.core.colour.conversion import conversion
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.colour.primaries import Adaptation
from saucer.core.numeric.planes import through

CONFIG = ocio.Config.CreateFromBuiltinConfig("studio-config-v2.2.0_aces-v1.3_ocio-v2.4")


def space_with(part: str) -> str:
    """The configuration's name of the one colour space that has this in it."""
    (found,) = [name for name in CONFIG.getColorSpaceNames() if part in name]
    return str(found)


ACES = {"aces2065-1": "ACES2065-1", "acescg": "ACEScg", "acescc": "ACEScc", "acescct": "ACEScct"}
SCENE: dict[Adaptation, dict[str, str]] = {
    # How each maker's transform adapts to the white of ACES; within one of these groups the adaptation does not matter to a pair.
    "bradford": {
        **ACES, "linear-709": "Linear Rec.709 (sRGB)", "linear-2020": "Linear Rec.2020", "srgb": "sRGB Encoded Rec.709 (sRGB)",
        "gamma22-709": "Gamma 2.2 Encoded Rec.709", "rec709": "Gamma 2.4 Encoded Rec.709", "display-p3": "sRGB Encoded P3-D65",
        "oprgb": space_with("Gamma 2.2 Encoded Ad"), "v-log": "V-Log V-Gamut", "log3g10": space_with("Log3G10"),
    },
    "cat02": {
        **ACES, "s-log3": "S-Log3 S-Gamut3", "s-log3-cine": "S-Log3 S-Gamut3.Cine", "logc3-ei800": space_with("LogC3 (EI800)"),
        "logc4": space_with("LogC4"), "c-log2": space_with("Log2 Cinema"), "c-log3": space_with("Log3 Cinema"),
    },
}  # fmt: skip
DISPLAYS = {
    "srgb": "sRGB - Display", "display-p3": "Display P3 - Display", "rec709": "Rec.1886 Rec.709 - Display",
    "rec2020": "Rec.1886 Rec.2020 - Display", "p3-d65": "P3-D65 - Display", "p3-theatre": "P3-DCI - Display",
}  # fmt: skip
HDR = {"pq": "Rec.2100-PQ - Display", "pq-p3": "ST2084-P3-D65 - Display"}
SAME = 2e-5


def by_ocio(source: str, target: str, values: np.ndarray) -> np.ndarray:
    processor = CONFIG.getProcessor(source, target).getOptimizedCPUProcessor(ocio.OPTIMIZATION_LOSSLESS)
    found = np.array(values, np.float32)
    processor.applyRGB(found)
    return found


def by_us(source: str, target: str, values: np.ndarray, adaptation: Adaptation) -> np.ndarray:
    operation = conversion(ENCODINGS[source], ENCODINGS[target], adaptation=adaptation)
    assert operation is not None
    return through(operation, values)


def light(top: float) -> np.ndarray:
    """(400, 3) light on AP1 from 1 % to `top`, a sixth about grey."""
    random = np.random.default_rng(8)
    grey = 0.01 * (top / 0.01) ** random.random((400, 1))
    return (grey * random.uniform(0.85, 1.17, (400, 3))).astype(np.float32)


def assert_same(ours: np.ndarray, theirs: np.ndarray) -> None:
    assert (np.abs(ours - theirs) / np.maximum(1, np.abs(theirs))).max() <= SAME


@pytest.mark.parametrize(
    ("adaptation", "source", "target"),
    [(adaptation, *pair) for adaptation, group in SCENE.items() for pair in permutations(group, 2)],
)
def test_of_the_scene(adaptation, source, target):
    names = SCENE[adaptation]
    values = by_ocio("ACEScg", names[source], light(0.8 if target.startswith("c-log") or source.startswith("c-log") else 4.0))
    assert_same(by_us(source, target, values, adaptation), by_ocio(names[source], names[target], values))


@pytest.mark.parametrize(("source", "target"), list(permutations(DISPLAYS, 2)))
def test_of_displays(source, target):
    values = by_ocio("Linear Rec.709 (sRGB)", "sRGB Encoded Rec.709 (sRGB)", light(0.8))
    values = by_ocio("sRGB - Display", DISPLAYS[source], values)
    assert_same(by_us(source, target, values, "bradford"), by_ocio(DISPLAYS[source], DISPLAYS[target], values))


@pytest.mark.parametrize("target", HDR)
def test_pq_beside_its_other_primaries_and_a_display(target):
    """Their white is 100 cd/m2, ours the 203 of ITU-R BT.2408: the light is brought to the same before it is compared."""
    values = light(0.8)
    linear = by_us("linear-2020", "srgb", values, "bradford")
    dimmer = by_us("linear-2020", "srgb", values * np.float32(100 / 203), "bradford")
    assert_same(by_us("srgb", target, dimmer, "bradford"), by_ocio("sRGB - Display", HDR[target], linear))
    other = next(name for name in HDR if name != target)
    codes = by_ocio("sRGB - Display", HDR[target], linear)
    assert_same(by_us(target, other, codes, "bradford"), by_ocio(HDR[target], HDR[other], codes))
