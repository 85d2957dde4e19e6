"""Whether two LUTs do the same, told by what a few hundred colours become: a sample of each, compared within a tolerance.

A hash of rounded numbers misses most copies (two that lie on either side of a rounding step differ in it); it can only find candidates,
coarsely.
"""

from __future__ import annotations

import numpy as np

from saucer.core.lut.apply import apply_lut
from saucer.core.lut.domain import UNIT, spread_over
from saucer.core.lut.table import Lut

SAMPLE_COLOURS = 256
SAME_WITHIN = 1 / 1000
"""Code values by which the samples of two LUTs that do the same may differ."""
ROUNDED_TO = 1 / 128
LARGEST_BUCKET = 2**31 - 1


def take_sample(lut: Lut) -> np.ndarray:
    """(SAMPLE_COLOURS, 3) float32: what fixed colours of 0..1 become, whatever the domain and format of the LUT."""
    return apply_lut(lut, spread_over(UNIT, SAMPLE_COLOURS))


def do_the_same(one: np.ndarray, other: np.ndarray) -> bool:
    """Do two samples agree? An 8-bit copy of a LUT is another LUT: it rounds by up to 1/510."""
    return bool(np.abs(one.astype(np.float64) - other.astype(np.float64)).max() <= SAME_WITHIN)


def bucket_of(sample: np.ndarray) -> int:
    """A coarse number by which candidates are found: the mean of the sample, in steps of ROUNDED_TO, as a whole number.

    Samples that do the same lie in the same bucket or, near its edge, in one of `near_buckets`.
    """
    return _bucket(float(sample.astype(np.float64).mean()))


def near_buckets(sample: np.ndarray) -> list[int]:
    """The buckets in which LUTs that do the same can lie."""
    mean = float(sample.astype(np.float64).mean())
    return sorted({_bucket(mean + off) for off in (-SAME_WITHIN, SAME_WITHIN)})


def _bucket(mean: float) -> int:
    """Whatever a LUT gives, a number that databases hold."""
    return int(np.floor(np.clip(mean / ROUNDED_TO, -LARGEST_BUCKET, LARGEST_BUCKET)))
