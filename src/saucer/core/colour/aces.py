"""The output transforms of the Academy Color Encoding System, as OpenColorIO ships them: light of a scene to light of a display, and back.

They are the only part of the engine that is not our own: they are published as programs, of which OpenColorIO's are in use everywhere.
The library is loaded when the first of them is asked for.
"""

from __future__ import annotations

from functools import lru_cache
from typing import Any, Literal

import numpy as np

from saucer.core.colour.encodings import Encoding
from saucer.core.colour.primaries import AP0, BT709, Adaptation, Primaries, rgb_to_rgb, rgb_to_xyz
from saucer.core.colour.transfer.hdr import REFERENCE_WHITE
from saucer.core.numeric.planes import Operation

Version = Literal["aces-1", "aces-2"]
HUNDRED = 100.0
"""cd/m2 of 1.0 in what the transforms give."""
PEAKS: dict[Version, tuple[int, ...]] = {"aces-1": (1000, 2000, 4000), "aces-2": (500, 1000, 2000, 4000)}


def peak_of(version: Version, peak: float) -> int:
    """The peak there is a transform for that lies nearest, in stops."""
    return min(PEAKS[version], key=lambda one: abs(np.log2(one / peak)))


def style_of(version: Version, target: Encoding, peak: float) -> str:
    """OpenColorIO's name of the transform for a display."""
    primaries = "REC709" if target.primaries == BT709 else "P3-D65"
    if not target.hdr_display and version == "aces-2":
        end = f"SDR-100nit-{primaries}_2.0"
    elif not target.hdr_display:
        end = "SDR-VIDEO_1.0" if primaries == "REC709" else "SDR-VIDEO-P3lim_1.1"
    elif version == "aces-2":
        end = f"HDR-{peak_of(version, peak)}nit-{'REC2020' if target.primaries.name == 'BT.2020' else 'P3-D65'}_2.0"
    else:
        end = f"HDR-VIDEO-{peak_of(version, peak)}nit-15nit-{'REC2020' if target.primaries.name == 'BT.2020' else 'P3'}lim_1.1"
    return f"ACES-OUTPUT - ACES2065-1_to_CIE-XYZ-D65 - {end}"


@lru_cache(maxsize=32)
def _processor(style: str, forward: bool, before: tuple[float, ...], after: tuple[float, ...]) -> Any:
    """before, after: matrices (9 numbers) round the transform."""
    import PyOpenColorIO as ocio  # loaded where it is used only: it takes 0.07 s and 22 MB

    def matrix(rows: tuple[float, ...]) -> Any:
        full = np.eye(4)
        full[:3, :3] = np.reshape(rows, (3, 3))
        return ocio.MatrixTransform(full.reshape(-1).tolist())

    way = ocio.TRANSFORM_DIR_FORWARD if forward else ocio.TRANSFORM_DIR_INVERSE
    group = ocio.GroupTransform([matrix(before), ocio.BuiltinTransform(style, way), matrix(after)])
    return ocio.Config.CreateRaw().getProcessor(group).getDefaultCPUProcessor()


def output_transform(
    scene: Primaries, display: Encoding, version: Version, peak: float, adaptation: Adaptation, forward: bool
) -> Operation:
    """On (3, n) float32 linear light: of a scene in its primaries to that of a display in its own, 1.0 as the encoding has it.

    forward: so; without, back from the display to the scene

    Source: Academy S-2013-001 and the ACES 1.3 and 2.0 output transforms, as OpenColorIO 2.6's built-in transforms have them
    """
    to_ap0 = rgb_to_rgb(scene, AP0, adaptation)
    d65 = BT709
    unit = HUNDRED / REFERENCE_WHITE if display.hdr_display else 1.0
    to_display = unit * rgb_to_rgb(d65, display.primaries, adaptation) @ np.linalg.inv(rgb_to_xyz(d65))
    ends = (to_ap0, to_display) if forward else (np.linalg.inv(to_display), np.linalg.inv(to_ap0))
    before, after = (tuple(float(one) for one in end.reshape(-1)) for end in ends)
    processor = _processor(style_of(version, display, peak), forward, before, after)

    def run(planes: np.ndarray) -> None:
        pixels = np.ascontiguousarray(planes.T)
        processor.applyRGB(pixels)
        planes[...] = pixels.T

    return run
