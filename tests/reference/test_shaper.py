"""Files for linear light, with a table in front of their lattice, as OpenColorIO reads them."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import PyOpenColorIO as ocio
import pytest

from saucer.core.bake.bake import Words, bake_file
from saucer.core.engine.evaluate import evaluate
from saucer.core.engine.lattice import SHAPER, Shaper
from saucer.core.engine.plan import prepare
from saucer.core.files.registry import formats
from saucer.core.look.model import look_from

TO_LOG = look_from({"input": "acescg", "output": "acescct", "steps": [{"kind": "convert", "to": "acescct"}]})
LIGHT = (0.18 * 2 ** np.random.default_rng(4).uniform(-10, 6, (50_000, 3))).astype(np.float32)
"""From ten stops under mid grey to six above it, as many in each stop."""


def read_by_opencolorio(form: str, folder: Path, size: int, light: np.ndarray, shaper: Shaper = SHAPER) -> np.ndarray:
    path = folder / f"{size}-{shaper.top:g}-{shaper.toe:g}{formats()[form].suffix}"  # OpenColorIO keeps what it has read, by name
    path.write_bytes(bake_file(TO_LOG, formats()[form], size, Words(title="Light"), shaper=shaper).data)
    reader = ocio.FileTransform(str(path), interpolation=ocio.INTERP_TETRAHEDRAL)
    out = light.copy()
    ocio.Config.CreateRaw().getProcessor(reader).getDefaultCPUProcessor().applyRGB(out)
    return out


@pytest.mark.parametrize("form", ["cube", "csp"])
def test_more_nodes_are_nearer_down_to_ten_stops_under_grey(tmp_path: Path, form):
    """Mean error in ten-bit codes; it was 1.25 at 65 nodes, and worse than at 33, where the table's first entry lay 5.5 stops under grey."""
    exact = evaluate(prepare(TO_LOG), LIGHT)
    errors = [np.abs(read_by_opencolorio(form, tmp_path, size, LIGHT) - exact).mean() * 1023 for size in (17, 33, 65)]
    assert errors[0] > errors[1] > errors[2]
    assert errors[2] < 0.1


def test_a_long_prelut_is_written_with_uneven_points(tmp_path: Path):
    text = bake_file(TO_LOG, formats()["csp"], 17, Words(title="Light")).data.decode().splitlines()
    count = int(text[text.index("END METADATA") + 2])
    points = np.array(text[text.index("END METADATA") + 3].split(), float)
    assert len(points) == count < 2100
    assert points[1] == pytest.approx(16 / 13107)
    assert points[-1] - points[-2] > 40 * points[1]


def test_top_and_toe_are_chosen_and_what_lies_outside_is_held_and_told(tmp_path: Path):
    bright = np.float32([[40, 40, 40], [10, 10, 10]])
    narrow, wide = (read_by_opencolorio("cube", tmp_path, 33, bright, Shaper(top)) for top in (16, 64))
    exact = evaluate(prepare(TO_LOG), np.float32([[16, 16, 16], [40, 40, 40]]))
    np.testing.assert_allclose(narrow[0], exact[0], atol=2e-4)
    np.testing.assert_allclose(wide[0], exact[1], atol=2e-3)
    np.testing.assert_allclose(
        read_by_opencolorio("cube", tmp_path, 33, np.float32([[-1, -1, -1]])),
        evaluate(prepare(TO_LOG), np.zeros((1, 3), np.float32)),
        atol=2e-4,
    )
    assert "light below 0 and above 64 is held there" in bake_file(TO_LOG, formats()["cube"], 17, Words(), shaper=Shaper(64)).lost
    dark = (0.18 * 2 ** np.random.default_rng(5).uniform(-12, -6, (5000, 3))).astype(np.float32)
    meant = evaluate(prepare(TO_LOG), dark)
    far, near = (np.abs(read_by_opencolorio("cube", tmp_path, 17, dark, Shaper(16, toe)) - meant).mean() for toe in (0.05, 0.005))
    assert near < far, "a smaller toe has more nodes in the dark"
