"""Perspective: corners to corners, straight lines straight, and a lens's bend there and back."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from hollow_glint.core.checks import InputError
from hollow_glint.core.photo.colour import LIGHT_OF_BYTE
from hollow_glint.core.photo.perspective import Outline, cells_of, homography

SQUARE = ((100.0, 80.0), (540.0, 120.0), (560.0, 420.0), (80.0, 400.0))
jog = st.floats(-30.0, 30.0)


@given(st.lists(st.tuples(jog, jog), min_size=4, max_size=4), st.floats(-0.08, 0.08))
def test_corners_land_on_corners_and_the_middle_where_the_diagonals_cross(moved, bend):
    corners = tuple((x + dx, y + dy) for (x, y), (dx, dy) in zip(SQUARE, moved, strict=True))
    outline = Outline(corners, 640, 480, bend)
    there = outline.places(np.array([0.0, 1.0, 1.0, 0.0]), np.array([0.0, 0.0, 1.0, 1.0]))
    assert there == pytest.approx(np.array(corners), abs=0.2)
    # A square's middle is where its diagonals cross, and they stay straight (Hartley and Zisserman 2004).
    h = homography(np.array(corners))
    middle = h @ [0.5, 0.5, 1.0]
    p, q = np.array(corners)[[0, 1]], np.array(corners)[[2, 3]]
    for one, other in zip(p, q, strict=True):
        along, off = other - one, middle[:2] / middle[2] - one
        assert abs(along[0] * off[1] - along[1] * off[0]) / np.hypot(*along) < 1e-6


def test_a_painted_square_is_read_back_cell_for_cell():
    levels = np.random.default_rng(2).integers(0, 4, (20, 30))
    outline = Outline(SQUARE, 640, 480, -0.04)
    pixels = np.zeros((480, 640, 3), np.uint8)
    fine = 8
    down, across = (np.arange(20 * fine * 3) + 0.5) / (60 * fine), (np.arange(30 * fine * 3) + 0.5) / (90 * fine)
    at = np.round(outline.places(across[None, :], down[:, None]) - 0.5).astype(int)
    grey = (levels * 60 + 20).repeat(fine * 3, 0).repeat(fine * 3, 1)
    pixels[at[..., 1], at[..., 0]] = grey[..., None]
    cells = cells_of(pixels, outline, 20, 30)
    expected = LIGHT_OF_BYTE[levels * 60 + 20]
    assert np.median(np.abs(cells[..., 0] - expected)) < 0.01
    assert np.mean(np.abs(cells[..., 0] - expected) < 0.06) > 0.95


@pytest.mark.parametrize(
    ("corners", "said"),
    [(((100, 80), (80, 400), (560, 420), (540, 120)), "cross"),
     (((100, 80), (560, 420), (540, 120), (80, 400)), "cross"),
     (((-90, 80), *SQUARE[1:]), "top left"), (SQUARE[:3], "3 entries"),
     (((100, 80), (110, 80), (110, 90), (100, 90)), "side of 10"), (((100, 80),) * 4, "cross")],
)  # fmt: skip
def test_corners_that_are_none_are_refused(corners, said):
    with pytest.raises(InputError, match=said):
        Outline(tuple((float(x), float(y)) for x, y in corners), 640, 480)
