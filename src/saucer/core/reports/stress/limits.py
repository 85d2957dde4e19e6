"""What each measure of where a look breaks may be at most."""

from __future__ import annotations

from collections.abc import Mapping

from saucer.core.errors import SaucerError

LIMITS: Mapping[str, float] = {
    "clipped": 0.02, "crushed": 0.04, "merged": 0.4, "skin": 10.0, "gamut": 0.02, "bands": 0.005, "noise": 3.0,
    "together": 24.0, "leaps": 16.0, "reversed": 4.0, "beyond": 4.0, "lut": 1.0,
}  # fmt: skip
"""What is usual; where these lie is common practice, no source.

Shares of a picture's pixels, of its tones (merged), degrees (skin), a factor (noise), codes of 10 bits (together to beyond), and the
99th percentile of CIEDE2000 between the look and a LUT of 33 nodes of it (lut).
"""
LARGEST: Mapping[str, float] = {
    "clipped": 1.0, "crushed": 1.0, "merged": 1.0, "skin": 180.0, "gamut": 1.0, "bands": 1.0, "noise": 1000.0,
    "together": 1024.0, "leaps": 1024.0, "reversed": 1024.0, "beyond": 1e6, "lut": 100.0,
}  # fmt: skip
"""What no figure is above, or none that means anything: a limit of this is as good as none."""


def check_limit(what: str, most: float) -> None:
    """Raises: SaucerError for a measure that there is not, or a limit that is no use for it"""
    if what not in LIMITS:
        raise SaucerError("", f'there is no limit "{what}"; there are {", ".join(LIMITS)}')
    if not 0 < most <= LARGEST[what]:
        raise SaucerError(what, f"must be above 0 and at most {LARGEST[what]:g}, like {LIMITS[what]:g}; got {most:g}")
