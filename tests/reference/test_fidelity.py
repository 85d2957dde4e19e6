"""The figure of fidelity against what OpenColorIO makes of our files, on colours that were not chosen by us: never more than 15 % too good."""

from __future__ import annotations

import warnings
from collections.abc import Callable
from pathlib import Path

import numpy as np
import PyOpenColorIO as ocio
import pytest

from saucer.core.bake.bake import Words, bake_file, round_as_written, sample_for
from saucer.core.bake.colours import SORTS
from saucer.core.bake.fidelity import Truth, measure
from saucer.core.colour.conversion import convert
from saucer.core.colour.difference_fast import difference_of_light
from saucer.core.colour.encodings import ENCODINGS, Encoding
from saucer.core.colour.itp import difference_itp
from saucer.core.colour.oklab import oklab_to_linear
from saucer.core.engine.evaluate import evaluate
from saucer.core.engine.lattice import SHAPER
from saucer.core.engine.plan import prepare
from saucer.core.files.registry import formats
from saucer.core.look.model import Look, look_from

COUNT, TOO_GOOD, TOO_SMALL_TO_MATTER = 100_000, 1.15, 0.02
BANDS = [
    {"centre": centre, "hue": hue, "saturation": factor}
    for centre, hue, factor in zip(
        (29, 66, 110, 142, 195, 264, 300, 328),
        (10, -8, 12, -20, 15, -10, 8, 0),
        (1.2, 0.9, 1.3, 0.7, 1.2, 1.4, 0.8, 1.0),
        strict=True,
    )
]
STEPS: dict[str, list[dict[str, object]]] = {
    "curves": [{"kind": "curves", "master": [[0, 0.02], [0.3, 0.22], [0.7, 0.8], [1, 0.97]]}],
    "muted": [{"kind": "saturation", "muted": 0.6}],
    "hue bands": [{"kind": "hue-bands", "bands": BANDS}],
    "colour curves": [
        {
            "kind": "colour-curves",
            "turn": [[20, 0], [60, 15], [110, -10], [250, 12]],
            "saturation": [[10, 1.2], [60, 0.8], [140, 0.6], [260, 1.3]],
            "lightness": [[90, 0.03], [250, -0.06]],
            "saturation_by_lightness": [[0.15, 0.5], [0.5, 1], [0.95, 0.8]],
        }
    ],
    "isolate": [{"kind": "isolate-hue", "others": 0.2}],
    "split tone": [{"kind": "split-tone", "shadows": {"hue": 220, "amount": 0.2}, "highlights": {"hue": 60, "amount": 0.2}}],
    "log": [{"kind": "convert", "to": "rec709", "rendering": "soft", "gamut": "compress"}, {"kind": "saturation", "muted": 0.3}],
    "linear": [{"kind": "convert", "to": "srgb", "rendering": "soft", "gamut": "compress"}, {"kind": "tone", "contrast": 1.2}],
    "PQ": [{"kind": "saturation", "muted": 0.6}],
    "HLG": [{"kind": "hue-bands", "bands": BANDS}, {"kind": "saturation", "factor": 1.1}],
    "HLG to sRGB": [{"kind": "convert", "to": "srgb", "rendering": "soft", "gamut": "compress"}],
}  # fmt: skip
ENDS = {
    "log": ("logc3-ei800", "rec709"), "linear": ("acescg", "srgb"), "PQ": ("pq", "pq"), "HLG": ("hlg", "hlg"), "HLG to sRGB": ("hlg", "srgb"),
}  # fmt: skip


def a_look(name: str) -> Look:
    source, target = ENDS.get(name, ("srgb", "srgb"))
    return look_from({"input": source, "output": target, "steps": STEPS[name]})


def unknown_colours(source: Encoding) -> dict[str, list[np.ndarray]]:
    """Of each sort, drawn in another way than ours: normal spreads round greys, other ends of the dark, four skins and what is near them."""
    random = np.random.default_rng(77)

    def spread(top: float = 1.0) -> np.ndarray:
        return random.random((COUNT, 3)) * top

    grey = random.random((COUNT, 1))
    unit = {
        "uniform": [spread()],
        "neutral": [grey + random.normal(0, away, (COUNT, 3)) for away in (0.003, 0.008, 0.02)],
        "dark": [spread(0.1), spread(0.15)],
    }
    found = {sort: [np.clip(one, 0, 1).astype(np.float32) for one in some] for sort, some in unit.items()}
    if source.linear:
        found = {sort: [SHAPER.light(one) for one in some] for sort, some in found.items()}
        found["dark"] += [spread(top).astype(np.float32) for top in (0.02, 0.05)]
    skins = np.array([[0.62, 0.04, 0.06], [0.78, 0.035, 0.05], [0.42, 0.05, 0.06], [0.7, 0.06, 0.07]])
    lab = skins[random.integers(0, 4, COUNT)] + random.normal(0, 1, (COUNT, 3)) * np.array([0.06, 0.01, 0.01])
    skin = convert(np.clip(oklab_to_linear(lab), 0, 1), ENCODINGS["linear-709"], source)
    return found | {"skin": [skin.astype(np.float32)]}


@pytest.mark.parametrize("name", STEPS)
def test_the_figure_is_never_more_than_fifteen_percent_too_good(tmp_path: Path, name: str):
    look = a_look(name)
    plan = prepare(look)
    truth, form = Truth(plan), formats()["csp" if ENCODINGS[look.input].linear else "cube"]
    colours = unknown_colours(truth.source)
    exact = {sort: [truth.light_of(evaluate(plan, one)) for one in some] for sort, some in colours.items()}
    for size in (17, 33, 65):
        ours = measure(truth, round_as_written(sample_for(plan, form, size)[0], form))
        path = tmp_path / f"{size}{form.suffix}"
        path.write_bytes(bake_file(look, form, size, Words(title=name)).data)
        reader = ocio.FileTransform(str(path), interpolation=ocio.INTERP_TETRAHEDRAL)
        processor = ocio.Config.CreateRaw().getProcessor(reader).getDefaultCPUProcessor()
        got = {}
        for sort, some in colours.items():
            got[sort] = [one.copy() for one in some]
            for one in got[sort]:
                processor.applyRGB(one)
        by: list[tuple[object, Callable[[np.ndarray, np.ndarray], np.ndarray]]] = [(ours.colours, difference_of_light)]
        by += [(ours.itp, difference_itp)] if truth.is_hdr else []
        for sorts, difference in by:
            for sort in SORTS:
                pairs = zip(exact[sort], got[sort], strict=True)
                theirs = max(np.percentile(difference(meant, truth.light_of(one)), 99) for meant, one in pairs)
                assert theirs <= TOO_GOOD * max(getattr(sorts, sort).p99, TOO_SMALL_TO_MATTER), (size, sort)
        assert ours.p99 == max(getattr(ours.colours, sort).p99 for sort in SORTS) or truth.is_hdr


@pytest.mark.parametrize(("name", "most"), [("muted", 0.25), ("hue bands", 0.35), ("isolate", 0.55)], ids=lambda value: str(value))
def test_what_hues_decide_does_not_jump_at_grey(name: str, most: float):
    """At 65 nodes; they were 0.40, 0.69 and 1.20 when hues acted in full right up to grey."""
    plan, form = prepare(a_look(name)), formats()["cube"]
    assert measure(Truth(plan), round_as_written(sample_for(plan, form, 65)[0], form)).colours.neutral.p99 < most


def test_delta_e_itp_is_that_of_bt_2124():
    """colour-science's ICtCp of BT.2100 and its Delta E ITP, on light from black to 10,000 cd/m2."""
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        colour = pytest.importorskip("colour", reason="development requirements are not installed")
    random = np.random.default_rng(5)
    one = 10 ** random.uniform(-4, np.log10(40), (2000, 3))
    other = one * random.uniform(0.9, 1.1, one.shape)
    to_2020 = colour.matrix_RGB_to_RGB("ITU-R BT.709", "ITU-R BT.2020")

    def ictcp(light: np.ndarray) -> np.ndarray:
        return colour.RGB_to_ICtCp(np.maximum(light @ to_2020.T, 0) * 203, method="ITU-R BT.2100-2 PQ")

    theirs = colour.delta_E(ictcp(one), ictcp(other), method="ITP")
    inside = ((one @ to_2020.T) > 0).all(axis=-1) & ((other @ to_2020.T) > 0).all(axis=-1)
    assert inside.mean() > 0.9
    assert difference_itp(one, other)[inside] == pytest.approx(theirs[inside], rel=2e-3, abs=2e-3)
