"""The ladder as a camera shows it in one light, found again from the cells alone."""

from __future__ import annotations

from itertools import product

import numpy as np
import pytest

from hollow_glint.core.gear.ladders import SIX_STEP, TWO_ENDED
from hollow_glint.core.photo.colour import lab_of, light_of, light_of_hex, srgb_of
from hollow_glint.core.photo.first_light import even_light
from hollow_glint.core.photo.one_curve import under_one_curve

GREYS = tuple(f"#{17 * k:02x}{17 * k:02x}{17 * k:02x}" for k in range(16))


def cells_under(curve, ladder: np.ndarray, noise: float = 0.0) -> tuple[np.ndarray, np.ndarray]:
    """Cells of all steps by chance, half of them dark water, as a camera shows them; and the steps as it does."""
    rng = np.random.default_rng(3)
    levels = rng.integers(0, len(ladder), (90, 120)) * (rng.random((90, 120)) < 0.5)
    shown = light_of(np.clip(curve(srgb_of(ladder)), 0.0, 1.0))
    return (shown[levels] + rng.normal(0.0, noise, (90, 120, 3))).astype(np.float32), shown


CURVES = {
    "as it is": lambda coded: coded,
    "darker": lambda coded: 0.8 * coded,
    "lamplight": lambda coded: 0.9 * coded * np.array([1.08, 1.0, 0.9]),
    "a bow": lambda coded: coded + 0.12 * coded * (1.0 - coded),
    "a veil": lambda coded: 0.05 + 0.85 * coded,
}
LADDERS = {"six": SIX_STEP.colours("lantern"), "two hues": TWO_ENDED.colours("lantern"), "greys": GREYS}
# A veil over greys is a step more of each: nothing tells which it was.
CASES = [one for one in product(LADDERS, CURVES) if one != ("greys", "a veil")]


@pytest.mark.parametrize(("colours", "curve"), CASES)
def test_the_curve_is_found_again(colours, curve):
    ladder = light_of_hex("colours", LADDERS[colours])
    cells, shown = cells_under(CURVES[curve], ladder, noise=0.0003)
    found = under_one_curve(cells, ladder, even_light(cells, ladder))
    assert np.abs(lab_of(found) - lab_of(shown)).max() < 3.0


def test_a_step_that_is_not_there_stands_where_the_curve_puts_it():
    """Three of seven steps alone are shown: the others are bent with them."""
    ladder = light_of_hex("colours", SIX_STEP.colours("lantern"))
    cells, shown = cells_under(lambda coded: 0.04 + 0.8 * coded, ladder)
    far = np.abs(lab_of(cells)[:, :, None] - lab_of(shown)).sum(axis=-1).argmin(axis=-1)
    cells[np.isin(far, (2, 3, 5, 6))] = shown[0]
    found = under_one_curve(cells, ladder, even_light(cells, ladder))
    assert np.abs(lab_of(found) - lab_of(shown))[[2, 3]].max() < 4.0


def test_cells_of_one_colour_leave_the_ladder_near_its_own():
    ladder = light_of_hex("colours", SIX_STEP.colours("rime"))
    cells = np.tile(ladder[0].astype(np.float32), (30, 40, 1))
    found = under_one_curve(cells, ladder, even_light(cells, ladder))
    assert np.isfinite(found).all() and np.abs(lab_of(found) - lab_of(ladder))[0].max() < 2.0
