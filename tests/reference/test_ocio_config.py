"""The OpenColorIO configuration against OpenColorIO itself: it validates, its spaces agree with ours, its looks with their files.

Reference: PyOpenColorIO from the registry, and its own checker `ociocheck`; the ACES matrices of S-2014-004 for ACEScg.
"""

from __future__ import annotations

import subprocess
import sys
from pathlib import Path

import numpy as np
import PyOpenColorIO as ocio
import pytest

from saucer.core.bake import aces
from saucer.core.bake import ocio as config
from saucer.core.bake.bake import Words, bake_file
from saucer.core.colour.conversion import convert
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.errors import LutError
from saucer.core.files.registry import formats, read_lut
from saucer.core.lut.apply import apply_lut
from tests.make import a_look, evaluate

COLOURS = np.random.default_rng(11).uniform(0, 1, (1000, 3)).astype(np.float32)
LOOKS = {
    "Dusk, warm: 1": a_look({"kind": "white-balance", "warm": 30}, {"kind": "saturation", "factor": 1.3}),
    "Log to display": a_look(
        {"kind": "convert", "to": "rec709", "rendering": "soft"}, {"kind": "levels", "master": {"output_black": 0.05}},
        input="film-log", output="rec709",
    ),
    "Log to display, seen softly": a_look(
        {"kind": "convert", "to": "rec709", "rendering": "soft"}, {"kind": "levels", "master": {"output_black": 0.05}},
        input="s-log3", output="rec709", view="soft",
    ),
    "Within log": a_look({"kind": "white-balance", "warm": 12}, {"kind": "saturation", "factor": 0.7}, input="acescct", output="acescct"),
}  # fmt: skip


@pytest.fixture(scope="module")
def folder(tmp_path_factory) -> Path:
    folder = tmp_path_factory.mktemp("config")
    looks, files = [], {}
    for number, (name, look) in enumerate(zip(config.names_for(list(LOOKS)), LOOKS.values(), strict=True)):
        path = f"looks/{number}.clf"
        files[path] = bake_file(look, formats()["clf"], 33, Words(name)).data
        looks.append(config.ConfigLook(name, path, ENCODINGS[look.input], ENCODINGS[look.output], 'Said of it: "soft"', look.view))
    everything = list(ENCODINGS.values())
    for encoding in config.needed_for(everything, looks):
        files |= dict(config.space_files(encoding))
    files |= dict(config.view_files(config.needed_for(everything, looks)))
    files[config.CONFIG] = config.config_text("For tests", everything, looks, "soft").encode()
    for path, data in files.items():
        (folder / path).parent.mkdir(exist_ok=True)
        (folder / path).write_bytes(data)
    return folder


@pytest.fixture(scope="module")
def read(folder) -> ocio.Config:
    return ocio.Config.CreateFromFile(str(folder / config.CONFIG))


def through(processor: ocio.Processor, values: np.ndarray) -> np.ndarray:
    pixels = np.array(values, np.float32)
    # Without the faster logarithms, which are 1e-5 off by themselves.
    processor.getOptimizedCPUProcessor(ocio.OPTIMIZATION_LOSSLESS).applyRGB(pixels)
    return pixels


def test_it_validates_and_their_own_checker_complains_of_nothing(read, folder):
    read.validate()
    assert read.getMajorVersion() == 2
    checker = Path(sys.executable).with_name("ociocheck")
    told = subprocess.run([checker, "--iconfig", folder / config.CONFIG], capture_output=True, text=True, check=False, timeout=120)
    assert told.returncode == 0, told.stdout
    assert "Validation: passed" in told.stdout
    assert "WARNING" not in told.stdout, told.stdout
    assert "ERROR" not in told.stdout


@pytest.mark.parametrize("name", [name for name, look in LOOKS.items() if look.view == "plain"])
def test_a_look_does_to_a_thousand_colours_what_its_baked_file_does(read, name):
    look = LOOKS[name]
    (called,) = config.names_for([name])
    expects, gives = (config.name_of(ENCODINGS[end]) for end in (look.input, look.output))
    lut, _ = read_lut(bake_file(look, formats()["clf"], 33, Words(name)).data, "look.clf")
    baked = apply_lut(lut, COLOURS)
    transform = ocio.LookTransform(src=expects, dst=gives, looks=called)
    got = through(read.getProcessor(transform), COLOURS)
    miss = np.abs(got - baked) / np.maximum(1, np.abs(baked))
    assert miss.max() < 2e-5


@pytest.mark.parametrize("name", ENCODINGS)
def test_every_space_agrees_with_ours_both_ways(read, name):
    """Compared in ACES2065-1, of the larger of 1 and the value; back in code values."""
    encoding, reference = ENCODINGS[name], ENCODINGS["aces2065-1"]
    called = config.name_of(encoding)
    assert read.getColorSpace(encoding.id).getName() == called, "found by its id too"
    light = through(read.getProcessor(called, "ACES2065-1"), COLOURS)
    ours = convert(COLOURS.astype(np.float64), encoding, reference)
    assert (np.abs(light - ours) / np.maximum(1, np.abs(ours))).max() < 2e-5
    back = through(read.getProcessor("ACES2065-1", called), ours.astype(np.float32))
    # Near black, curves are steep and float32 light in AP0 does not hold the last digits.
    # N-Log begins as a cube root, endlessly steep at its code 0.
    assert np.abs(back - COLOURS).max() < (2e-5 if encoding.linear else 4e-3 if name == "n-log" else 6e-4)
    assert np.abs(back - COLOURS)[COLOURS.min(axis=1) > 0.15].max() < 1e-4


def test_acescg_is_as_the_standard_has_it(read):
    """S-2014-004, annex A: the matrix from AP1 to AP0."""
    matrix = np.array(
        [[0.6954522414, 0.1406786965, 0.1638690622], [0.0447945634, 0.8596711185, 0.0955343182], [-0.0055258826, 0.0040252103, 1.0015006723]]
    )  # fmt: skip
    got = through(read.getProcessor("ACEScg", "ACES2065-1"), COLOURS)
    assert np.abs(got - COLOURS @ matrix.T).max() < 1e-6


def test_its_views_show_scene_light_plainly_and_softly(read):
    assert list(read.getDisplays()) == ["sRGB", "Rec.709 display"]
    assert list(read.getViews("sRGB", "ACEScg")) == ["Soft", "Plain"], "the studio's view comes first"
    grey = np.array([[0.18] * 3, [1.0] * 3, [4.0] * 3], np.float32)
    soft = through(read.getProcessor(ocio.DisplayViewTransform(src="ACEScg", display="sRGB", view="Soft")), grey)
    step = {"kind": "convert", "to": "srgb", "rendering": "soft"}
    expected = evaluate(a_look(step, input="acescg", output="srgb"), grey)
    assert np.abs(soft - expected).max() < 5e-4, "a lattice of 65 over ACEScct"
    plain = through(read.getProcessor(ocio.DisplayViewTransform(src="ACEScg", display="Rec.709 display", view="Plain")), grey)
    assert np.abs(plain[0] - 0.18 ** (1 / 2.4)).max() < 1e-5


def test_what_a_look_gives_is_not_rendered_again_by_the_view_it_was_made_for(read):
    """On a display through `Soft`: the values of the baked file itself, within what the lattices there and back leave."""
    look = LOOKS["Log to display, seen softly"]
    scene = np.random.default_rng(4).uniform(0, 1, (1000, 3)).astype(np.float32) ** 2 * 3
    codes = np.ascontiguousarray(convert(scene, ENCODINGS["linear-709"], ENCODINGS["s-log3"]))
    transform = ocio.DisplayViewTransform(src=config.name_of(ENCODINGS["s-log3"]), display="Rec.709 display", view="Soft")
    pipeline = ocio.LegacyViewingPipeline()
    pipeline.setDisplayViewTransform(transform)
    pipeline.setLooksOverrideEnabled(True)
    pipeline.setLooksOverride("Log to display seen softly")
    got = through(pipeline.getProcessor(read), codes)
    lut, _ = read_lut(bake_file(look, formats()["clf"], 33, Words("")).data, "look.clf")
    wanted = apply_lut(lut, codes)
    shown = ((wanted > 0) & (wanted < 1)).all(axis=1)  # lattices hold no more
    off = np.abs(got - wanted)[shown]
    assert shown.sum() > 500
    assert np.percentile(off, 99) < 0.3 / 255
    assert off.max() < 1 / 255


@pytest.mark.parametrize("name", ["hlg", "hlg-p3"])
def test_hlg_is_looked_at_through_the_ootf_of_its_display(read, name):
    """As Saucer shows it (its OOTF: BT.2100, table 5, checked in test_hlg), and offered for pictures in HLG alone."""
    space = config.name_of(ENCODINGS[name])
    for shown, display in (("srgb", "sRGB"), ("rec709", "Rec.709 display")):
        assert space in list(read.getViews(display, space))
        assert space not in list(read.getViews(display, config.name_of(ENCODINGS["acescg"])))
        transform = ocio.DisplayViewTransform(src=space, display=display, view=space)
        found = COLOURS.copy() * np.float32(0.75)
        read.getProcessor(transform).getDefaultCPUProcessor().applyRGB(found)
        wanted = convert(COLOURS * np.float32(0.75), ENCODINGS[name], ENCODINGS[shown])
        away = np.abs(np.clip(found, 0, 1) - np.clip(wanted, 0, 1))
        assert away.mean() < 2e-3
        assert np.quantile(away, 0.99) < 0.02


def test_names_are_no_syntax_and_each_once():
    assert config.names_for(["A, b: c|d", "A b c d", "-soft", "%$"]) == ["A b c d", "A b c d 2", "soft", "Look 4"]


@pytest.mark.parametrize("ends", [("acescct", "acescct"), ("acescg", "acescg"), ("aces2065-1", "aces2065-1")])
def test_an_aces_look_transform_goes_from_and_to_aces2065_1(tmp_path, ends):
    look = a_look({"kind": "cdl", "slope": [1.1, 1.0, 0.9]}, input=ends[0], output=ends[1], name="Dusk, warm")
    data = aces.look_transform(look, 3)
    assert b"<ACEStransformID>urn:ampas:aces:transformId:v1.5:LMT.Saucer.DuskWarm.a1.v3</ACEStransformID>" in data
    assert data.count(b"ACES2065-1") >= 2
    path = tmp_path / "look.clf"
    path.write_bytes(data)
    light = COLOURS * 4
    got = through(ocio.Config.CreateRaw().getProcessor(ocio.FileTransform(str(path))), light)
    reference, before, after = ENCODINGS["aces2065-1"], ENCODINGS[ends[0]], ENCODINGS[ends[1]]
    codes = evaluate(look, convert(light.astype(np.float64), reference, before).astype(np.float32))
    wanted = convert(codes.astype(np.float64), after, reference)
    assert (np.abs(got - wanted) / np.maximum(1, np.abs(wanted))).max() < 2e-3


def test_a_look_that_is_not_between_aces_encodings_is_no_look_transform():
    with pytest.raises(LutError, match="needs an ACES encoding at both ends; this look is srgb to srgb"):
        aces.look_transform(a_look(), 1)
