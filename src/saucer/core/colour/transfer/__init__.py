"""Transfer functions: code value to linear light and back, one module a family.

Published curves stop at 0 and 1, or at what a file can hold. Between steps values outside are legal and must survive,
so each curve says how it goes on: display curves, PQ and HLG are mirrored about 0; log curves go on straight below their break,
and linear light stops at 65504, the largest half float, as S-2016-001 does it.

Each family stands twice: as formulas for float64, and as compiled loops for float32, which work in place and are tested against the
formulas.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from saucer.core.lut.formulas import Formula
from saucer.core.numeric.parallel import over_runs

HALF_MAX = 65504.0


@dataclass(frozen=True, eq=False)
class Transfer:
    """decode: code value to linear light; encode: back. Any shape, float32 or float64, new arrays.

    decode_formula, encode_formula: on float64 arrays
    formulas: the same decode and encode as nodes of a LUT file, where the standard has such nodes
    decode_fast, encode_fast: on a contiguous float32 array of one axis, in place; None where nothing is to be done
    scale_fast: the code values of that light times a gain 0..1 for each pixel, (3 n,) interleaved in place and (n,), without going to
        light and back for each of them; None where that is the only way
    """

    decode_formula: Callable[[np.ndarray], np.ndarray]
    encode_formula: Callable[[np.ndarray], np.ndarray]
    decode_fast: Callable[[np.ndarray], object] | None
    encode_fast: Callable[[np.ndarray], object] | None
    formulas: tuple[tuple[Formula, ...], tuple[Formula, ...]] | None = None
    scale_fast: Callable[[np.ndarray, np.ndarray], object] | None = None

    def decode(self, values: np.ndarray) -> np.ndarray:
        return _applied(values, self.decode_formula, self.decode_fast)

    def encode(self, values: np.ndarray) -> np.ndarray:
        return _applied(values, self.encode_formula, self.encode_fast)

    def decode_here(self, values: np.ndarray) -> None:
        """In place; values: float32, contiguous"""
        _apply_here(values, self.decode_fast)

    def encode_here(self, values: np.ndarray) -> None:
        """In place; values: float32, contiguous"""
        _apply_here(values, self.encode_fast)


def _apply_here(values: np.ndarray, fast: Callable[[np.ndarray], object] | None) -> None:
    if fast is None:
        return
    flat = values.reshape(-1)

    def run(start: int, stop: int) -> None:
        fast(flat[start:stop])

    over_runs(run, flat.size)


def _applied(
    values: np.ndarray, formula: Callable[[np.ndarray], np.ndarray], fast: Callable[[np.ndarray], object] | None
) -> np.ndarray:
    if values.dtype != np.float32:
        return formula(values)
    result = np.array(values, np.float32, order="C")
    _apply_here(result, fast)
    return result


LINEAR = Transfer(lambda x: x, lambda x: x, None, None, ((), ()))
