"""How each of the demo's pictures is rendered and stored; what it is called is told with what a new studio is offered."""

from __future__ import annotations

from dataclasses import dataclass

from saucer.core.pictures.stored import Depth
from saucer.studio.start.starter import FOLDER, TestPicture
from saucer.studio.start.starter import PICTURES as OFFERED

__all__ = ["FOLDER", "PICTURES", "DemoPicture"]
_OFFERED = {one.file: one for one in OFFERED}


@dataclass(frozen=True)
class DemoPicture:
    """How one scene is exposed and stored. `white` is the scene light that reaches display white, for display encodings only;
    `bits` fewer than the file holds (of a code, or of a half float's 11) keep the file small, as a camera's 10 bits in 16 do."""

    scene: str
    file: str
    depth: Depth
    exposure: float
    white: float = 0.0
    bits: int = 16

    @property
    def offered(self) -> TestPicture:
        return _OFFERED[self.file]

    @property
    def name(self) -> str:
        return self.offered.name

    @property
    def encoding(self) -> str:
        return self.offered.encoding

    @property
    def note(self) -> str:
        return self.offered.note


PICTURES = (
    DemoPicture("harbour", "quay-dusk.png", "u8", 1.15, 5.0),
    DemoPicture("orchard", "orchard-low-sun.png", "u16", 0.8, bits=10),
    DemoPicture("market", "night-market.exr", "f16", 2.2, bits=8),
    DemoPicture("table", "table-window.png", "u8", 1.9, 3.0),
    DemoPicture("busts", "six-busts.png", "u8", 1.3, 3.0),
    DemoPicture("hillside", "hillside-fog.png", "u8", 0.8, 3.0),
    DemoPicture("interior", "room-window.png", "u16", 1.0, bits=10),
    DemoPicture("chart", "chart.png", "u16", 1.0),
)
