"""Which pictures the demo has and how each is stored; shared by the renderer and the seed."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

from saucer.core.pictures.stored import Depth

FOLDER = Path(__file__).parent / "pictures"


@dataclass(frozen=True)
class DemoPicture:
    """How one scene is exposed and stored. `white` is the scene light that reaches display white, for display encodings only;
    `bits` fewer than the file holds (of a code, or of a half float's 11) keep the file small, as a camera's 10 bits in 16 do."""

    scene: str
    name: str
    file: str
    encoding: str
    depth: Depth
    exposure: float
    white: float = 0.0
    bits: int = 16
    note: str = ""


PICTURES = (
    DemoPicture("harbour", "Quay, dusk", "quay-dusk.png", "srgb", "u8", 1.15, 5.0, note="wide sky gradient and water"),
    DemoPicture("orchard", "Orchard, low sun", "orchard-low-sun.png", "acescct", "u16", 0.8, bits=10, note="foliage, sun in frame"),
    DemoPicture("market", "Night market", "night-market.exr", "linear-709", "f16", 2.2, bits=8, note="lamps and coloured tubes"),
    DemoPicture("table", "Table by a window", "table-window.png", "srgb", "u8", 1.9, 3.0, note="glazes, wood, linen"),
    DemoPicture("busts", "Six busts", "six-busts.png", "srgb", "u8", 1.3, 3.0, note="skin tones in soft light"),
    DemoPicture("hillside", "Hillside, fog", "hillside-fog.png", "rec709", "u8", 0.8, 3.0, note="low contrast, subtle hues"),
    DemoPicture(
        "interior", "Room and window", "room-window.png", "film-log", "u16", 1.0, bits=10, note="deep shadow, bright window"
    ),
    DemoPicture("chart", "Chart", "chart.png", "srgb", "u16", 1.0, note="ramp, hue sweep, skin row, patches"),
)
