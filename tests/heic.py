"""HEIC pictures, written in a process of their own: beside their library, the encoder of H.265 clips fails."""

from __future__ import annotations

import subprocess
import sys
from pathlib import Path

import numpy as np

_SCRIPT = """
import sys, numpy, pillow_heif
from PIL import Image
pixels, path, said = numpy.load(sys.argv[1]), sys.argv[2], [int(one) for one in sys.argv[3:]]
made = (pillow_heif.from_pillow(Image.fromarray(pixels)) if pixels.dtype == numpy.uint8
        else pillow_heif.from_bytes("RGB;16", (pixels.shape[1], pixels.shape[0]), pixels.tobytes()))
more = {"save_nclx_profile": True, "color_primaries": said[0], "transfer_characteristics": said[1]} if said else {}
made.save(path, quality=-1, chroma=444, **more)
"""


def write_heic(path: Path, pixels: np.ndarray, numbers: tuple[int, int] | None = None) -> Path:
    """pixels: (h, w, 3 or 4) uint8, or uint16 of which ten bits are kept; numbers: primaries and transfer of ITU-T H.273. Without loss"""
    held = path.with_suffix(".npy")
    np.save(held, pixels)
    said = [str(one) for one in numbers or ()]
    subprocess.run([sys.executable, "-c", _SCRIPT, str(held), str(path), *said], check=True, timeout=60)
    held.unlink()
    return path
