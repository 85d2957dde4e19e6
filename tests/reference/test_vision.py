"""Colour-deficient sight against colour-science, which has the tables that the authors of the model give for it."""

from __future__ import annotations

import warnings

import numpy as np
import pytest

from saucer.core.colour.vision import edges_lost, matrix_of, see_as
from tests.make import random_pixels

with warnings.catch_warnings():  # of what it could plot
    warnings.simplefilter("ignore")
    from colour.blindness import matrix_cvd_Machado2009

# The published tables are what is asked for, approximate as those of the cones of short waves are.
pytestmark = pytest.mark.filterwarnings("ignore:.*tritanomaly")
NAMES = {"protan": "Protanomaly", "deutan": "Deuteranomaly", "tritan": "Tritanomaly"}


@pytest.mark.parametrize("vision", sorted(NAMES))
@pytest.mark.parametrize("severity", [0.2, 0.4, 0.6, 0.8, 1.0])
def test_the_published_tables(vision, severity):
    """Machado, Oliveira and Fernandes (2009)."""
    wanted = matrix_cvd_Machado2009(NAMES[vision], severity)
    np.testing.assert_allclose(matrix_of(vision, severity), wanted, atol=1e-6)


@pytest.mark.parametrize("vision", sorted(NAMES))
def test_between_them_it_is_near_to_every_tenth(vision):
    for severity in (0.1, 0.3, 0.5, 0.7, 0.9):
        wanted = matrix_cvd_Machado2009(NAMES[vision], severity)
        np.testing.assert_allclose(matrix_of(vision, severity), wanted, atol=0.03)


@pytest.mark.parametrize("vision", sorted(NAMES))
def test_greys_stay_and_most_people_see_what_there_is(vision):
    greys = np.repeat(np.linspace(0, 1, 11, dtype=np.float32)[:, None], 3, axis=1)
    np.testing.assert_allclose(see_as(greys, vision), greys, atol=2e-4)
    np.testing.assert_allclose(see_as(random_pixels(), vision, 0.0), random_pixels(), atol=2e-6)


def test_edges_between_red_and_green_are_lost_to_some_and_not_to_others():
    """Two colours that differ along the line that deuteranopes do not see: what the matrix sends to the same light."""
    _, _, rows = np.linalg.svd(matrix_of("deutan", 1.0))
    grey = np.array([0.3, 0.25, 0.2])
    two = np.stack([grey + 0.16 * rows[2], grey - 0.16 * rows[2]])
    srgb = np.where(two <= 0.0031308, two * 12.92, 1.055 * two ** (1 / 2.4) - 0.055)
    stripes = srgb[np.arange(40) // 4 % 2][None].repeat(20, axis=0).astype(np.float32)
    assert edges_lost(stripes, see_as(stripes, "deutan")) == pytest.approx(1.0)
    assert edges_lost(stripes, see_as(stripes, "tritan")) == 0.0
    assert edges_lost(np.full((4, 4, 3), 0.5), np.full((4, 4, 3), 0.5)) == 0.0
