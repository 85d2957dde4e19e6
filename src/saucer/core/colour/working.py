"""Working in linear light or in OKLab inside a step whose samples are code values."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from saucer.core.colour.encodings import Encoding
from saucer.core.colour.oklab import LAB_TO_LMS, LINEAR_TO_LMS, LMS_TO_LAB, LMS_TO_LINEAR
from saucer.core.colour.primaries import BT709, rgb_to_rgb
from saucer.core.numeric.elementary import F, compiled, cube_root
from saucer.core.numeric.parallel import over_runs
from saucer.core.numeric.planes import NO_OFFSET, Operation, mix


@dataclass(frozen=True, eq=False)
class InLight:
    """Parts that work on linear light, (3, n) in the encoding's own primaries, on code values."""

    encoding: Encoding
    parts: tuple[Operation, ...]

    def __call__(self, planes: np.ndarray) -> None:
        decode, encode = self.encoding.transfer.decode_fast, self.encoding.transfer.encode_fast
        if decode is not None and encode is not None:
            decode(planes.reshape(-1))
        for part in self.parts:
            part(planes)
        if decode is not None and encode is not None:
            encode(planes.reshape(-1))


@dataclass(frozen=True, eq=False)
class InOklab:
    """Parts that work on (3, n) OKLab L, a, b, on code values. With `neutrals_stay`, samples of three equal ones come back bit for bit."""

    encoding: Encoding
    parts: tuple[Operation, ...]
    neutrals_stay: bool

    def __call__(self, planes: np.ndarray) -> None:
        before = planes.copy() if self.neutrals_stay else None
        InLight(self.encoding, (self._on_light,))(planes)
        if before is not None:
            _grey_again(before.reshape(-1), planes.reshape(-1))

    def _on_light(self, light: np.ndarray) -> None:
        there, back = _lms_matrices(self.encoding)
        lms = light.copy()
        mix(lms, there, NO_OFFSET)
        _cube_roots(lms.reshape(-1))
        lab = lms.copy()
        mix(lab, _TO_LAB, NO_OFFSET)
        before = lab.copy()
        for part in self.parts:
            part(lab)
        # Only the change goes back, so that rounding on the way there and back takes part no further than something changes. One array
        # after the other: with more of them in a loop LLVM gives up on showing that they do not overlap, and does not vectorise.
        change = lab
        _minus(change.reshape(-1), before.reshape(-1))
        mix(change, _TO_LMS, NO_OFFSET)
        _change_of_cubes(change.reshape(-1), lms.reshape(-1))
        mix(change, back, NO_OFFSET)
        _plus(light.reshape(-1), change.reshape(-1))


def in_light(encoding: Encoding, operation: Operation) -> InLight:
    return InLight(encoding, (operation,))


def in_oklab(encoding: Encoding, operation: Operation, neutrals_stay: bool = True) -> InOklab:
    return InOklab(encoding, (operation,), neutrals_stay)


def put_in_oklab(planes: np.ndarray, encoding: Encoding) -> None:
    """(3, n) float32 code values to OKLab L, a, b, in place."""
    if encoding.transfer.decode_fast is not None:
        encoding.transfer.decode_fast(planes.reshape(-1))
    mix(planes, _lms_matrices(encoding)[0], NO_OFFSET)
    _cube_roots(planes.reshape(-1))
    mix(planes, _TO_LAB, NO_OFFSET)


def in_turn(operations: Iterable[Operation]) -> Operation:
    """One operation that is all of these; those that follow each other in light, or in OKLab, go there and back together."""
    joined: list[Operation] = []
    for operation in operations:
        together = _joined(joined[-1], operation) if joined else None
        if together is None:
            joined.append(operation)
        else:
            joined[-1] = together
    if len(joined) == 1:
        return joined[0]

    def run(planes: np.ndarray) -> None:
        for operation in joined:
            operation(planes)

    return run


def _joined(first: Operation, second: Operation) -> Operation | None:
    if isinstance(first, InLight) and isinstance(second, InLight) and first.encoding == second.encoding:
        return InLight(first.encoding, first.parts + second.parts)
    if isinstance(first, InOklab) and isinstance(second, InOklab) and first.encoding == second.encoding:
        return InOklab(first.encoding, first.parts + second.parts, first.neutrals_stay and second.neutrals_stay)
    return None


def over_rows_in_light(encoding: Encoding, rows: np.ndarray, work: Callable[[np.ndarray, int], None], chunk: int) -> None:
    """`work` on linear light of rows of interleaved code values, in place, `chunk` of them at a time on several threads.

    rows: (n, 3 width) float32, contiguous; work: some of them, and which is the first
    """
    decode, encode = encoding.transfer.decode_fast, encoding.transfer.encode_fast

    def run(start: int, stop: int) -> None:
        for begin in range(start, stop, chunk):
            some = rows[begin : min(begin + chunk, stop)]
            if decode is not None and encode is not None:
                decode(some.reshape(-1))
                work(some, begin)
                encode(some.reshape(-1))
            else:
                work(some, begin)

    over_runs(run, len(rows), chunk=chunk)


@compiled
def _cube_roots(values):  # type: ignore[no-untyped-def]
    for j in range(values.size):
        values[j] = cube_root(values[j])


@compiled
def _minus(values, others):  # type: ignore[no-untyped-def]
    for j in range(values.size):
        values[j] -= others[j]


@compiled
def _plus(values, others):  # type: ignore[no-untyped-def]
    for j in range(values.size):
        values[j] += others[j]


@compiled
def _change_of_cubes(change, roots):  # type: ignore[no-untyped-def]
    """(roots + change)^3 - roots^3 in place of `change`, without cancellation."""
    for j in range(change.size):
        d, p = change[j], roots[j]
        change[j] = d * (F(3) * p * (p + d) + d * d)


@compiled
def _grey_again(before, after):  # type: ignore[no-untyped-def]
    """Where the three planes of `before`, one after the other, are equal, put them back."""
    n = before.size // 3
    for channel in range(3):
        red, green, blue, result = before[:n], before[n : 2 * n], before[2 * n :], after[channel * n : (channel + 1) * n]
        for j in range(n):
            grey = (red[j] == green[j]) & (green[j] == blue[j])
            result[j] = red[j] if grey else result[j]


_TO_LAB, _TO_LMS = LMS_TO_LAB.astype(np.float32), LAB_TO_LMS.astype(np.float32)


@lru_cache(maxsize=64)
def _lms_matrices(encoding: Encoding) -> tuple[np.ndarray, np.ndarray]:
    """Linear light of the encoding's primaries to OKLab's LMS, and back, (3, 3) float32."""
    there = LINEAR_TO_LMS @ rgb_to_rgb(encoding.primaries, BT709)
    back = rgb_to_rgb(BT709, encoding.primaries) @ LMS_TO_LINEAR
    return there.astype(np.float32), back.astype(np.float32)
