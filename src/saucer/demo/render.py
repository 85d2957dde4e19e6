"""Render the demo pictures again: `python -m saucer.demo.render [NAME ...] [--samples N] [--width N] [--to FOLDER]`.

Needs requirements/render.txt (the path tracer and its denoiser), which neither the server nor the tests use. About ten minutes a
picture on two cores. The results are committed under pictures/, so nobody has to.
"""

from __future__ import annotations

import argparse
import importlib
import time
from collections.abc import Iterator
from pathlib import Path

import numpy as np

from saucer.core.colour.conversion import convert
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.colour.primaries import luma_weights
from saucer.core.pictures.io import Picture, write_picture
from saucer.demo.catalogue import FOLDER, PICTURES, DemoPicture


def display_rendering(light: np.ndarray, white: float) -> np.ndarray:
    """Extended Reinhard on luminance: `white` maps to 1, colours keep their ratios. Source: Reinhard et al. 2002, eq. 4."""
    luminance = np.maximum(light @ luma_weights(ENCODINGS["linear-709"].primaries), 1e-9)[..., None]
    shown = luminance * (1 + luminance / white**2) / (1 + luminance)
    return light * (shown / luminance)


def finish(light: np.ndarray, how: DemoPicture) -> np.ndarray:
    """Scene light to the code values that are stored."""
    light = np.maximum(light, 0) * how.exposure
    if how.white:
        light = display_rendering(light * 1.6, how.white)
    codes = convert(light, ENCODINGS["linear-709"], ENCODINGS[how.encoding])
    if how.depth == "u16" and how.bits < 16:
        top = 2**how.bits - 1
        codes = np.round(np.clip(codes, 0, 1) * top) / top
    elif how.depth == "f16" and how.bits < 11:
        mantissa, exponent = np.frexp(codes)
        codes = np.ldexp(np.round(mantissa * 2**how.bits) / 2**how.bits, exponent)
    return np.asarray(codes, np.float32)


def render(chosen: list[str], width: int, samples: int, folder: Path) -> Iterator[str]:
    folder.mkdir(parents=True, exist_ok=True)
    for how in PICTURES:
        if chosen and how.scene not in chosen:
            continue
        began = time.monotonic()
        light = importlib.import_module(f"saucer.demo.scenes.{how.scene}").light(width, width * 9 // 16, samples)
        write_picture(Picture(finish(light, how), how.depth), folder / how.file)
        yield f"{how.file}: {time.monotonic() - began:.0f} s, {(folder / how.file).stat().st_size / 1e6:.1f} MB"


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("names", nargs="*", help=f"scenes, all without: {', '.join(p.scene for p in PICTURES)}")
    parser.add_argument("--samples", type=int, default=24, help="paths a pixel before denoising")
    parser.add_argument("--width", type=int, default=1920)
    parser.add_argument("--to", type=Path, default=FOLDER)
    given = parser.parse_args()
    for line in render(given.names, given.width, given.samples, given.to):
        print(line, flush=True)


if __name__ == "__main__":
    main()
