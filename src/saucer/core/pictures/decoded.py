"""Pictures that other libraries decode whole: behind the same few calls as a reader of OpenImageIO, held to the same limits first."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import numpy as np
import OpenImageIO as oiio


class Decoded:
    """spec: its header; decode: its samples (h, w, channels) float32, not called before any are asked for"""

    has_error = False

    def __init__(
        self, width: int, height: int, channels: int, depth: str, decode: Callable[[], np.ndarray], orientation: int = 1
    ) -> None:
        self._spec = oiio.ImageSpec(width, height, channels, depth)
        self._spec["Orientation"] = orientation
        if channels in (2, 4):
            self._spec["oiio:UnassociatedAlpha"] = 1
        self._decode = decode
        self._samples: np.ndarray | None = None

    def spec(self) -> Any:
        return self._spec

    def read_scanlines(self, subimage: int, level: int, top: int, bottom: int, *rest: object) -> np.ndarray:
        """Rows top..bottom. Raises: whatever `decode` does"""
        if self._samples is None:
            self._samples = self._decode()
        return self._samples[top:bottom]

    def geterror(self) -> str:
        return ""

    def close(self) -> None:
        self._samples = None
