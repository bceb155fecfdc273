"""Corners found beforehand: a guess, held against where a made-up phone put them."""

from __future__ import annotations

import io

import numpy as np
import pytest
from PIL import Image

from hollow_glint.core.checks import InputError
from hollow_glint.core.photo.corners import _refined, find_corners
from hollow_glint.core.photo.perspective import as_outline
from hollow_glint.stand_ins.made_up_screen import MadeUpScreen
from hollow_glint.stand_ins.phone_camera import Shot, photographed


def plain_screen() -> MadeUpScreen:
    """A lit picture without a line across it, on a grey ground all about it."""
    pixels = np.full((300, 420, 3), 60, np.uint8)
    pixels[30:270, 40:360] = (18, 52, 70)
    for k in range(6):
        pixels[60 + 30 * k : 66 + 30 * k, 70 + 20 * k : 130 + 30 * k] = (210, 150, 80)
    return MadeUpScreen(pixels, (40, 30, 360, 270), np.zeros((120, 160), bool))


@pytest.mark.parametrize("turn", [-8.0, 0.0, 6.0])
def test_a_guess_is_an_outline_within_the_photo(turn):
    """How often it is the right one stands in docs/photo.md: seldom enough that it is always called a guess."""
    photo = photographed(plain_screen(), Shot(size=(1000, 750), turn_deg=turn), np.random.default_rng(3))
    found = find_corners(np.asarray(Image.open(io.BytesIO(photo.content))))
    assert as_outline(found.tolist(), 1000, 750).corners  # which refuses corners that cross or lie outside


def test_edges_near_a_guess_are_found_to_a_fraction_of_a_pixel():
    photo = photographed(plain_screen(), Shot(size=(1000, 750), turn_deg=4.0, keystone=0.05), np.random.default_rng(3))
    pixels, true = np.asarray(Image.open(io.BytesIO(photo.content))), np.array(photo.corners)
    guess = true + np.random.default_rng(1).uniform(-5.0, 5.0, (4, 2))
    assert np.abs(_refined(pixels, guess) - true).max() < 1.0


def test_what_has_no_straight_edges_has_no_corners():
    with pytest.raises(InputError, match="by hand"):
        find_corners(np.full((300, 400, 3), 90, np.uint8))
