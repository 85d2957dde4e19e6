"""Near pairs among many: against every pair compared, and looks whose distance is known."""

from __future__ import annotations

import itertools

import numpy as np
import pytest

from saucer.core.reports.alike import find_near, group
from saucer.core.reports.character import likeness, see_look
from tests.make import a_look


def made(count: int, seed: int = 3) -> np.ndarray:
    """Looks of all sorts and copies of some of them, a little off."""
    rng = np.random.default_rng(seed)
    plain = see_look(a_look())
    gains, lifts, powers = (
        rng.uniform(0.6, 1.1, (count, 1, 1)),
        rng.uniform(-0.1, 0.1, (count, 1, 3)),
        rng.uniform(0.7, 1.4, (count, 1, 1)),
    )
    seen = np.clip(plain * gains + lifts, 0, 1) ** powers
    seen[count // 2 : count // 2 + 20] = seen[:20] + rng.uniform(-0.004, 0.004, (20, 1, 3))
    return np.clip(seen, 0, 1).astype(np.float32)


@pytest.mark.parametrize("within", [0.2, 0.6, 1.5])
def test_the_pairs_found_are_those_of_comparing_all_with_all(within):
    seen = made(160)
    expected = {}
    for first in range(len(seen) - 1):
        apart = likeness(seen[first], seen[first + 1 :])
        expected |= {(first, first + 1 + at): far for at, far in enumerate(apart) if far <= within}
    found = find_near(seen, within)
    assert {pair[:2] for pair in found} == set(expected)
    assert len(found) >= 5
    assert [pair[2] for pair in found] == sorted(pair[2] for pair in found)
    assert all(far == pytest.approx(expected[first, second], abs=1e-5) for first, second, far in found)


def test_a_look_and_the_same_look_by_other_steps_are_a_pair_and_a_stronger_one_is_none():
    warm, twice = {"kind": "white-balance", "warm": 20}, {"kind": "white-balance", "warm": 40}
    renamed = {"kind": "white-balance", "warm": 20, "name": "Evening"}
    seen = np.stack([see_look(a_look(step)) for step in (warm, twice, renamed)])
    assert [pair[:2] for pair in find_near(seen, 0.5)] == [(0, 2)]


def test_pairs_that_hang_together_are_one_group():
    assert group([(0, 2, 0.1), (5, 6, 0.2), (2, 9, 0.3)]) == [[0, 2, 9], [5, 6]]
    assert group([]) == []
    chain = [(a, b, 0.1) for a, b in itertools.pairwise(range(6))]
    assert group(chain) == [[0, 1, 2, 3, 4, 5]]


def test_one_thing_or_none_has_no_pairs():
    assert find_near(made(40)[:1], 1.0) == []
    assert find_near(np.zeros((0, 256, 3), np.float32), 1.0) == []
