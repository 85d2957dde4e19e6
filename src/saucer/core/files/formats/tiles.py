"""Square tiles in a picture: red across a tile, green down it, blue from tile to tile.

64 nodes are 8 x 8 tiles in 512 x 512. Common practice, no source.
"""

from __future__ import annotations

from saucer.core.files.picture_lut import layout_format

FORMAT = layout_format("tiles", "Picture LUT, square tiles")
