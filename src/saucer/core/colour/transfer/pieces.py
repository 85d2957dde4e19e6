"""A curve as straight pieces between points that somebody has measured, going on straight beyond its ends."""

from __future__ import annotations

from collections.abc import Callable, Sequence

import numpy as np

from saucer.core.colour.transfer import HALF_MAX, Transfer


def straight_pieces(points: Sequence[tuple[float, float]]) -> Transfer:
    """points: code value and linear light, both rising. Light is held to what a half float holds."""
    codes, lights = np.array(points, np.float64).T
    # One far point at each end takes the outermost pieces on, so that interpolation is all there is.
    first, last = (lights[1] - lights[0]) / (codes[1] - codes[0]), (lights[-1] - lights[-2]) / (codes[-1] - codes[-2])
    ends = np.array([-HALF_MAX, HALF_MAX])
    far = np.array([codes[0] + (ends[0] - lights[0]) / first, codes[-1] + (ends[1] - lights[-1]) / last])
    codes, lights = np.array([far[0], *codes, far[1]]), np.array([ends[0], *lights, ends[1]])

    def in_place(before: np.ndarray, after: np.ndarray) -> Callable[[np.ndarray], object]:
        def run(values: np.ndarray) -> None:
            values[:] = np.interp(values, before, after)

        return run

    return Transfer(
        lambda x: np.interp(x, codes, lights),
        lambda x: np.interp(x, lights, codes),
        in_place(codes, lights),
        in_place(lights, codes),
    )
