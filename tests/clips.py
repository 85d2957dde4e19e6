"""Clips for tests, made by the library itself, so that what reads them is checked against another writer than ours."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import numpy as np


def moving(number: int, width: int = 64, height: int = 48) -> np.ndarray:
    """(h, w, 3) float32, soft, another one each frame."""
    y, x = np.mgrid[0:height, 0:width].astype(np.float32)
    waves = [0.5 + 0.35 * np.sin((a * x + b * y) / 17 + number / 6 + c) for a, b, c in ((1, 0, 0), (0, 1, 2), (0.7, 0.7, 4))]
    return np.stack(waves, axis=-1).astype(np.float32)


def write(
    path: Path, codec: str = "libx264", pixels: str = "yuv420p", count: int = 30, rate: Fraction = Fraction(24), size: tuple[int, int] = (64, 48),
    options: dict[str, str] | None = None, tags: dict[str, int] | None = None, times: Sequence[int] | None = None, timecode: str = "",
) -> Path:  # fmt: skip
    """tags: colorspace, color_range, color_primaries, color_trc; times: of the frames in 1/1000 s, in place of an even rate"""
    with av.open(str(path), "w") as container:
        stream: Any = container.add_stream(codec, rate=rate)
        stream.width, stream.height, stream.pix_fmt = *size, pixels
        stream.options = options or {}
        for name, value in (tags or {}).items():
            setattr(stream.codec_context, name, value)
        if timecode:
            stream.metadata["timecode"] = timecode
        base = Fraction(1, 1000) if times else 1 / rate
        stream.codec_context.time_base = base
        for number, frame in enumerate(frames(count, size, pixels, tags or {})):
            frame.pts, frame.time_base = (times[number] if times else number), base
            container.mux(stream.encode(frame))
        container.mux(stream.encode(None))
    return path


def frames(count: int, size: tuple[int, int], pixels: str, tags: dict[str, int]) -> Iterator[Any]:
    """By the library's own conversion, its exact way of rounding."""
    for number in range(count):
        codes = (moving(number, *size) * 65535 + 0.5).astype(np.uint16)
        frame = av.VideoFrame.from_ndarray(codes, format="rgb48le")
        yield frame.reformat(
            format=pixels, dst_colorspace=tags.get("colorspace") or None, dst_color_range=tags.get("color_range") or None,
            interpolation="BILINEAR",
        )  # fmt: skip


def psnr(one: np.ndarray, other: np.ndarray) -> float:
    """Decibels, for a peak of 1."""
    return float(10 * np.log10(1 / max(float(np.mean((one - other) ** 2)), 1e-12)))
