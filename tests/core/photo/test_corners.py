"""Corners found beforehand, held against where a made-up phone put them; how often they are right stands in
docs/photo.md."""

from __future__ import annotations

import io
from dataclasses import replace

import numpy as np
import pytest
from PIL import Image

from hollow_glint.core.checks import InputError
from hollow_glint.core.photo.corners import find_corners
from hollow_glint.core.photo.perspective import as_outline
from hollow_glint.core.photo.sides import bend_seen, fitted_sides, within_rim
from hollow_glint.core.photo.straight_lines import bend_of, lines_of, small_photo
from hollow_glint.stand_ins.made_up_screen import MadeUpScreen
from hollow_glint.stand_ins.phone_camera import Photo, Shot, photographed

BOX = (40, 30, 360, 270)
PLAIN = Shot(size=(1000, 750), turn_deg=4.0, keystone=0.05)


def layered_screen(rim: int = 0) -> MadeUpScreen:
    """A picture with a bottom, a lure and clutter from side to side, on a grey ground, perhaps with a line about it."""
    pixels = np.full((300, 420, 3), 60, np.uint8)
    left, top, right, foot = BOX
    pixels[top - rim : foot + rim, left - rim : right + rim] = 235
    pixels[top:foot, left:right] = (18, 52, 70)
    for at, high, colour in ((top, 9, (210, 150, 80)), (150, 3, (120, 90, 60)), (230, 12, (250, 240, 200))):
        pixels[at : at + high, left:right] = colour
    return MadeUpScreen(pixels, BOX, np.zeros((120, 160), bool))


def photo_of(screen: MadeUpScreen, shot: Shot) -> tuple[np.ndarray, np.ndarray, Photo]:
    photo = photographed(screen, shot, np.random.default_rng(3))
    return np.asarray(Image.open(io.BytesIO(photo.content))), np.array(photo.corners), photo


def worst(found, true) -> float:
    """How far the worst corner is off, as a share of the picture's width."""
    return float(np.hypot(*(np.array(found.corners) - true).T).max() / np.hypot(*(true[1] - true[0])))


@pytest.mark.parametrize("turn", [-8.0, 0.0, 6.0])
@pytest.mark.parametrize("bend", [-0.04, 0.0])
def test_a_plain_picture_is_found_and_called_sure_or_not_by_its_chance(turn, bend):
    pixels, true, _ = photo_of(layered_screen(), replace(PLAIN, turn_deg=turn, bend=bend))
    found = find_corners(pixels)
    assert worst(found.outline, true) < 0.01
    assert found.sure == (found.chance > 0.8)


def test_a_screen_that_shows_nothing_is_not_called_sure():
    pixels = np.full((300, 420, 3), 60, np.uint8)
    pixels, _, _ = photo_of(MadeUpScreen(pixels, BOX, np.zeros((120, 160), bool)), PLAIN)
    assert not find_corners(pixels).sure


def test_sides_near_a_guess_are_found_to_a_pixel():
    pixels, true, _ = photo_of(layered_screen(), PLAIN)
    guess = as_outline(true + np.random.default_rng(1).uniform(-5.0, 5.0, (4, 2)), 1000, 750)
    assert np.abs(np.array(fitted_sides(pixels, guess, 12.0, outermost=True).corners) - true).max() < 1.0


def test_a_line_drawn_about_the_picture_is_left_out():
    pixels, true, _ = photo_of(layered_screen(rim=2), PLAIN)
    outer = fitted_sides(pixels, as_outline(true, 1000, 750), 12.0, outermost=True)
    inner, rim = within_rim(pixels, outer)
    assert rim
    assert worst(inner, true) < 0.5 * worst(outer, true)
    assert not within_rim(*photo_without_rim())[1]


def photo_without_rim():
    pixels, true, _ = photo_of(layered_screen(), PLAIN)
    return pixels, as_outline(true, 1000, 750)


@pytest.mark.parametrize("bend", [-0.045, -0.02, 0.0, 0.025])
def test_how_the_lens_bends_is_seen_from_the_sides_and_from_all_straight_lines(bend):
    """Held against the term that the made-up lens has (Brown 1966)."""
    pixels, true, _ = photo_of(layered_screen(), replace(PLAIN, bend=bend, fill=0.8))
    assert bend_seen(pixels, as_outline(true, 1000, 750)) == pytest.approx(bend, abs=0.008)
    # Coarsely, from all lines: to two of the steps that are tried.
    assert bend_of(small_photo(pixels)[0]) == pytest.approx(bend, abs=0.026)


def test_lines_are_where_the_sides_are():
    pixels, true, _ = photo_of(layered_screen(), PLAIN)
    small, coarser = small_photo(pixels)
    for upright, side in ((True, (0, 3)), (True, (1, 2)), (False, (0, 1)), (False, (3, 2))):
        lines = lines_of(small, upright)
        normals = np.stack([np.cos(lines[:, 0]), np.sin(lines[:, 0])], axis=1)[:, :: 1 if upright else -1]
        off = np.abs(normals @ (true[list(side)] / coarser).T - lines[:, 1:]).max(axis=1)
        assert off.min() < 3.0


def test_what_has_no_straight_sides_has_no_corners():
    with pytest.raises(InputError, match="by hand"):
        find_corners(np.full((300, 400, 3), 90, np.uint8))
