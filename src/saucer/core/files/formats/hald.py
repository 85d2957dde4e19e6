"""Hald: red fastest along the rows of a square picture; level 8 is 512 x 512.

Source: the public description of Hald CLUT identity pictures.
"""

from __future__ import annotations

from saucer.core.files.picture_lut import layout_format

FORMAT = layout_format("hald", "Picture LUT, Hald")
