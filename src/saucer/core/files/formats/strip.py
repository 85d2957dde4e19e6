"""Tiles in one row: n**2 x n pixels. Common practice, no source."""

from __future__ import annotations

from saucer.core.files.picture_lut import layout_format

FORMAT = layout_format("strip", "Picture LUT, strip")
