"""What a new studio is offered to begin with: test pictures, looks, presets and categories, all of our own making. No data of it needs Django."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import Any

import saucer

FOLDER = Path(saucer.__file__).parent / "demo" / "pictures"
"""Where the test pictures lie; the demo renders them."""


@dataclass(frozen=True)
class TestPicture:
    file: str
    name: str
    encoding: str
    note: str


PICTURES = (
    TestPicture("quay-dusk.png", "Quay, dusk", "srgb", "wide sky gradient and water"),
    TestPicture("orchard-low-sun.png", "Orchard, low sun", "acescct", "foliage, sun in frame"),
    TestPicture("night-market.exr", "Night market", "linear-709", "lamps and coloured tubes"),
    TestPicture("table-window.png", "Table by a window", "srgb", "glazes, wood, linen"),
    TestPicture("six-busts.png", "Six busts", "srgb", "skin tones in soft light"),
    TestPicture("hillside-fog.png", "Hillside, fog", "rec709", "low contrast, subtle hues"),
    TestPicture("room-window.png", "Room and window", "film-log", "deep shadow, bright window"),
    TestPicture("chart.png", "Chart", "srgb", "ramp, hue sweep, skin row, patches"),
)


@dataclass(frozen=True)
class StarterLook:
    name: str
    category: str
    tags: tuple[str, ...]
    note: str
    steps: tuple[dict[str, Any], ...]


LOOKS = (
    StarterLook(
        "Plain print", "Starter/Day", ("day", "print"), "A little contrast and a soft end to the highlights: a base for others",
        ({"kind": "tone", "contrast": 1.14, "toe": 0.1, "shoulder": -0.3}, {"kind": "saturation", "factor": 1.06, "muted": 0.15}),
    ),
    StarterLook(
        "North window", "Starter/Day", ("day", "cool"), "Cool shadows, paper whites, colours held back",
        (
            {"kind": "white-balance", "warm": -12},
            {"kind": "tone", "contrast": 1.08, "shoulder": -0.2},
            {"kind": "split-tone", "shadows": {"hue": 245, "amount": 0.022}, "highlights": {"hue": 90, "amount": 0.008}},
            {"kind": "saturation", "factor": 0.88},
        ),
    ),
    StarterLook(
        "Late harvest", "Starter/Day", ("day", "warm"), "Low sun: warm highlights, greens turned towards straw",
        (
            {"kind": "white-balance", "warm": 16},
            {"kind": "split-tone", "shadows": {"hue": 40, "amount": 0.012}, "highlights": {"hue": 75, "amount": 0.03}},
            {"kind": "hue-bands", "strength": 0.8, "bands": [
                {"centre": 29}, {"centre": 66}, {"centre": 110, "hue": -10}, {"centre": 142, "hue": -16, "saturation": 0.85},
                {"centre": 195}, {"centre": 264, "saturation": 0.85}, {"centre": 300}, {"centre": 328}]},
        ),
    ),
    StarterLook(
        "Lamp and rain", "Starter/Night", ("night",), "Blue night, warm lamps, light that spreads round them",
        (
            {"kind": "white-balance", "warm": -20},
            {"kind": "tone", "contrast": 1.12, "toe": 0.12},
            {"kind": "split-tone", "shadows": {"hue": 255, "amount": 0.03}, "highlights": {"hue": 72, "amount": 0.03}},
            {"kind": "halation", "amount": 0.8, "threshold": 0.6},
        ),
    ),
    StarterLook(
        "Faded card", "Starter/Memory", ("faded", "print"), "Lifted blacks, low whites, quiet colour, a little grain",
        (
            {"kind": "levels", "master": {"output_black": 0.07, "output_white": 0.95}},
            {"kind": "saturation", "factor": 0.8, "muted": 0.2},
            {"kind": "grain", "amount": 0.15},
        ),
    ),
    StarterLook(
        "Silver", "Starter/Black and white", ("monochrome",), "Grey from mostly red and green, as skin likes it; firm contrast",
        ({"kind": "channel-mix", "monochrome": True, "grey": [0.48, 0.4, 0.12]}, {"kind": "tone", "contrast": 1.22, "toe": 0.1, "shoulder": -0.2}),
    ),
)  # fmt: skip
PRESETS = (
    ("Soft skin", "Less red in skin, its lightness kept", (
        {"kind": "hue-bands", "strength": 0.7, "bands": [
            {"centre": 29, "hue": 8, "saturation": 0.85}, {"centre": 66, "saturation": 0.92}, {"centre": 110}, {"centre": 142},
            {"centre": 195}, {"centre": 264}, {"centre": 300}, {"centre": 328}]},)),
    ("Lamps in rain", "Halation and bloom round lamps", (
        {"kind": "halation", "amount": 1.1, "threshold": 0.55, "radius": 0.008}, {"kind": "bloom", "amount": 0.25, "threshold": 0.75})),
    ("Base correction", "White balance and tone in one group, to be set by hand", (
        {"kind": "group", "name": "Base", "steps": [{"kind": "white-balance", "warm": 4}, {"kind": "tone", "contrast": 1.08}]},)),
)  # fmt: skip
"""Name, note, steps."""
PRESETS_IN = "Starter"
"""The category that they are filed in."""
CATEGORIES = ("Day", "Night", "Inside", "Black and white", "Prints", "Cameras")
