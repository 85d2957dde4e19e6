"""What reading may take, by kind of thing. One table for the server, the worker and the command line; docs/formats.md shows it."""

from __future__ import annotations

from dataclasses import dataclass

MB, GB = 1 << 20, 1 << 30


@dataclass(frozen=True)
class Limit:
    """words: what a thing of this kind is called; bytes: the largest file that is opened

    seconds: until an answer, by the clock; processor: the same by the time of processors, which waits for nobody; memory: bytes of address
    space beyond what a reader has before it opens anything
    """

    words: str
    bytes: int
    seconds: float
    processor: int
    memory: int


LIMITS = {
    "picture": Limit("picture", 1 * GB, 90, 60, 2 * GB),
    "clip": Limit("clip", 64 * GB, 120, 120, 2 * GB),
    "lut": Limit("LUT file", 128 * MB, 60, 30, 2 * GB),
    "pack": Limit("zip", 2 * GB, 120, 90, 1 * GB),
    "timeline": Limit("timeline or edit list", 16 * MB, 120, 90, 1 * GB),
}
"""A clip's seconds are for each answer: its index, and each frame."""

LONGEST_SIDE = 16_641
"""Of a picture: 16,384, and what a LUT of 129 nodes takes as a strip (129 squared)."""
MOST_PIXELS = 100_000_000
MOST_CHANNELS = 1024
MOST_SCANS = 100
MOST_FRAMES = 1_000_000
MOST_SAMPLED = 10**13
"""Frames times pixels of a clip: thirteen hours of 4096 x 2160 at 24 frames a second."""
MOST_ELEMENTS = 500
"""Of a process list."""
LONGEST_LINE = 64 * 1024
"""Bytes of a line of a LUT file that is text."""
