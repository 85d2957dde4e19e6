"""A stand-in for another editor: a tone and hue change, and on request what a chart must not get: grain, vignette, sharpening, JPEG.

It is there so that a round trip can be tried and tested without any other program.
"""

from __future__ import annotations

import tempfile
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np
from PIL import Image

from saucer.core.engine.plan import prepare
from saucer.core.engine.rendering import render
from saucer.core.errors import PictureError
from saucer.core.look.model import Look, look_from
from saucer.core.pictures.io import Picture, read_picture, write_picture

RECOLOURING: list[dict[str, Any]] = [
    {"kind": "curves", "master": [[0, 0.02], [0.25, 0.2], [0.7, 0.78], [1, 0.98]], "blue": [[0, 0.05], [0.5, 0.48], [1, 0.93]]},
    {
        "kind": "hue-bands",
        "bands": [
            {"centre": centre, "hue": hue, "saturation": saturation}
            for centre, hue, saturation in zip(
                (20, 65, 110, 150, 200, 260, 300, 335),
                (4, -6, 8, 10, -8, -10, 0, 4),
                (1.05, 1, 0.8, 0.75, 0.9, 1.1, 1, 1),
                strict=True,
            )
        ],
    },
]


@dataclass(frozen=True)
class Editor:
    """What the stand-in does.

    grain, vignette: amounts 0..1; sharpen: times; jpeg: quality 1..100, 0 for none, colour at half size below 100
    resize: factor down and back up, 1 for none
    """

    recolour: bool = True
    grain: float = 0.0
    vignette: float = 0.0
    sharpen: float = 0.0
    jpeg: int = 0
    resize: float = 1.0
    seed: int = 7

    @property
    def look(self) -> Look:
        steps: list[dict[str, Any]] = list(RECOLOURING) if self.recolour else []
        if self.sharpen:
            steps.append({"kind": "sharpen", "amount": self.sharpen, "radius": 0.0015})
        if self.vignette:
            steps.append({"kind": "vignette", "amount": self.vignette})
        if self.grain:
            steps.append({"kind": "grain", "amount": self.grain, "seed": self.seed})
        return look_from({"name": "Stand-in editor", "steps": steps})

    def __call__(self, pixels: np.ndarray) -> np.ndarray:
        """(h, w, 3) float32 code values of sRGB; JPEG is not part of it."""
        done = np.clip(render(prepare(self.look), np.ascontiguousarray(pixels, np.float32)), 0, 1)
        if self.resize != 1:
            height, width = done.shape[:2]
            small = (max(1, round(width * self.resize)), max(1, round(height * self.resize)))
            bicubic = Image.Resampling.BICUBIC
            channels = [Image.fromarray(done[..., channel]) for channel in range(3)]
            planes = [np.asarray(one.resize(small, bicubic).resize((width, height), bicubic)) for one in channels]
            done = np.clip(np.stack(planes, axis=-1), 0, 1)
        return done


def edit(editor: Editor, source: Path, target: Path, name: str = "") -> None:
    """A picture file through the stand-in. JPEG is written when a quality is given, whatever the name's suffix. Raises: PictureError"""
    picture = read_picture(source, name or source.name)
    done = editor(picture.pixels)
    if not editor.jpeg:
        write_picture(picture.with_pixels(done), target)
        return
    if not 1 <= editor.jpeg <= 100:
        raise PictureError("--jpeg", f"quality must be 1 to 100, got {editor.jpeg}")
    codes = (done * 255 + 0.5).astype(np.uint8)
    with tempfile.NamedTemporaryFile(dir=target.parent, suffix=".jpg", delete=False) as file:
        Image.fromarray(codes).save(file, "JPEG", quality=editor.jpeg, subsampling=0 if editor.jpeg == 100 else 2)
    Path(file.name).chmod(0o644)
    Path(file.name).replace(target)


def edited(editor: Editor, pixels: np.ndarray) -> Picture:
    """As `edit`, in memory, with 8-bit JPEG in between where a quality is given."""
    with tempfile.TemporaryDirectory() as folder:
        source, target = Path(folder) / "in.png", Path(folder) / ("out.jpg" if editor.jpeg else "out.png")
        write_picture(Picture(pixels), source)
        edit(editor, source, target)
        return read_picture(target)
