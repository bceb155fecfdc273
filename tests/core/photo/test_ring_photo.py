"""Photos and films of made-up dials read: the ring's geometry, one photo, a hand that shakes, what is refused."""

from __future__ import annotations

import io
from dataclasses import replace

import numpy as np
import pytest
from PIL import Image

from hollow_glint.core.checks import InputError
from hollow_glint.core.gear.ladders import SIX_STEP
from hollow_glint.core.photo.colour import light_of_hex
from hollow_glint.core.photo.following import Follower
from hollow_glint.core.photo.perspective import as_outline
from hollow_glint.core.photo.ring import Ring
from hollow_glint.core.photo.ring_finder import find_ring
from hollow_glint.core.photo.ring_photo import read_rings
from hollow_glint.stand_ins.made_up_dial import Dial, dial_by_chance, made_up_dial
from hollow_glint.stand_ins.made_up_screen import made_up_ladder, made_up_screen
from hollow_glint.stand_ins.phone_camera import Shot, filmed, photographed, shot_by_chance
from tests.core.photo.test_screen_photo import ROWS, picture

HEARTH = SIX_STEP.colours("lantern")
LIGHT = light_of_hex("colours", HEARTH)
FIRST, PICTURES = 30, 14  # of the picture's pings, that are filmed
SHOT = Shot(size=(640, 480), fill=0.7, keystone=0.06, turn_deg=4.0)


def pixels_of(photo):
    return np.asarray(Image.open(io.BytesIO(photo.content)))


def ring_of(photo, dial: Dial, pixels) -> Ring:
    square = as_outline(photo.shown_at(dial.quarters).tolist(), pixels.shape[1], pixels.shape[0], "rim")
    return Ring(square, dial.scale, dial.inner, dial.clockwise)


def film(dial: Dial, shot: Shot = SHOT, seed: int = 3, shake: float = 0.02):
    screens = [made_up_dial(picture()[:, FIRST + k], list(HEARTH), 12.0, dial) for k in range(PICTURES)]
    return list(filmed(screens, shot, shake, np.random.default_rng(seed), seed))


def test_a_circle_runs_through_the_four_places():
    """Straight on, a turn's places are those of a circle about the middle, from the zero on and the way it runs."""
    square = as_outline([[300, 100], [500, 300], [300, 500], [100, 300]], 600, 600, "rim")
    ring = Ring(square, scale=0.75, inner=0.5)
    top, right, end = ring.places(np.ones(3), np.array([0.0, 1.0 / 3.0, 1.0]))
    reach = 200 * (1.0 - 0.1 * 0.5)  # a tenth of its breadth is left out at the rim
    assert np.allclose(top, [300, 300 - reach]) and np.allclose(right, [300 + reach, 300])
    assert np.allclose(end, [300 - reach, 300])
    assert np.allclose(replace(ring, clockwise=False).places(np.ones(1), np.array([1.0 / 3.0])), [[300 - reach, 300]])
    assert np.allclose(np.hypot(*(ring.rim() - 300).T), 200)
    tall, wide = ring.pixels_each(100, 10)
    assert tall == pytest.approx(0.75 * 2 * np.pi * 150 / 100, rel=0.01)
    assert wide == pytest.approx(100 * 0.8 / 10, rel=0.01)


def test_a_circle_seen_askew_is_the_conic_that_a_camera_shows():
    """Against the made-up phone's own matrix: every place of the rim, not the four alone."""
    dial = Dial(zero=0.1)
    photo = photographed(made_up_dial(picture()[:, 0], list(HEARTH), 12.0, dial), replace(SHOT, keystone=0.2),
                         np.random.default_rng(4))  # fmt: skip
    ring = ring_of(photo, dial, pixels_of(photo))
    turn = np.linspace(0.0, 1.0, 33)
    assert np.allclose(ring.at(turn, np.full(33, 0.8)), photo.shown_at(dial.at(turn, 0.8)), atol=0.01)


def test_one_photo_of_a_dial_is_one_ping():
    """As phones take it, by chance; strong glare apart, which docs/photo.md tells of."""
    right = []
    for seed in range(70_000, 70_006):
        rng = np.random.default_rng(seed)
        dial, colours = dial_by_chance(rng), made_up_ladder(rng, 6)
        shot = replace(shot_by_chance(rng), size=(1000, 750), thumb=0.0, glare=min(0.2, float(rng.uniform(0, 0.3))))
        levels = picture()[:, 80]
        photo = photographed(made_up_dial(levels, colours, 12.0, dial), shot, rng)
        pixels = pixels_of(photo)
        read = read_rings([pixels], 1, ring_of(photo, dial, pixels), light_of_hex("colours", colours), ROWS)
        assert read.levels.shape == read.unsure.shape == (1, ROWS)
        sure = ~read.unsure[0]
        assert sure.mean() > 0.85
        right.append((np.abs(read.levels[0].astype(int) - levels) <= 1)[sure].mean())
    assert np.median(right) > 0.97 and min(right) > 0.9, right


@pytest.mark.parametrize(
    "dial",
    [Dial(zero=0.55, scale=0.83), Dial(ground=(214, 210, 205), ink=(24, 26, 30), about=False, clockwise=False)],
    ids=["dark, most of a turn", "light, a whole turn, the other way"],
)
def test_a_film_in_a_hand_that_shakes(dial):
    """The ring is followed to a part of a pixel, and what moves on it is read where it is."""
    photos = film(dial)
    shown = [pixels_of(one) for one in photos]
    ring = ring_of(photos[0], dial, shown[0])
    follower = Follower(shown[0], ring)
    moved = []
    for photo, pixels in zip(photos[1:], shown[1:], strict=True):
        found = follower.found(pixels)
        assert found is not None
        truth = photo.shown_at(dial.quarters)
        assert np.abs(np.array(found.square.corners) - truth).max() < 1.5
        moved.append(np.abs(truth - photos[0].shown_at(dial.quarters)).max())
    assert max(moved) > 8.0  # so much that a ring taken to stand still would be lost
    read = read_rings(shown, PICTURES, ring, LIGHT, ROWS)
    truth = picture()[:, FIRST : FIRST + PICTURES].T
    assert (np.abs(read.levels.astype(int) - truth) <= 1).mean() > 0.96
    assert read.share_sure > 0.9


def test_a_camera_whose_exposure_changes_as_it_goes():
    dial = Dial(zero=0.2)
    screens = [made_up_dial(picture()[:, FIRST + k], list(HEARTH), 12.0, dial) for k in range(6)]
    shown = []
    for k, screen in enumerate(screens):
        shot = replace(SHOT, exposure=1.0 - 0.09 * k)
        photo = photographed(screen, shot, np.random.default_rng(5))
        shown.append(pixels_of(photo))
    read = read_rings(shown, 6, ring_of(photo, dial, shown[0]), LIGHT, ROWS)
    assert (np.abs(read.levels.astype(int) - picture()[:, FIRST : FIRST + 6].T) <= 1).mean() > 0.96


def test_where_the_dial_is_out_of_sight_nothing_is_sure_and_it_is_found_again():
    dial = Dial()
    photos = film(dial, seed=6)
    shown = [pixels_of(one) for one in photos]
    shown[5] = np.random.default_rng(1).integers(0, 255, shown[5].shape, np.uint8)
    read = read_rings(shown, PICTURES, ring_of(photos[0], dial, shown[0]), LIGHT, ROWS)
    assert read.unsure[5].all()
    assert (read.levels[5] == read.levels[4]).all()
    assert read.unsure[[4, 6, 7]].mean() < 0.2


def test_what_is_no_ring_is_refused():
    square = as_outline([[300, 100], [500, 300], [300, 500], [100, 300]], 600, 600, "rim")
    with pytest.raises(InputError, match=r"inner is 0\.97"):
        Ring(square, inner=0.97)
    with pytest.raises(InputError, match=r"scale is 0\.1"):
        Ring(square, scale=0.1)
    # Four places in the photo, and a circle through them that is not.
    with pytest.raises(InputError, match="rim: the ring through these places runs out of the photo"):
        Ring(as_outline([[40, 20], [560, 20], [560, 580], [40, 580]], 600, 600, "rim"))
    with pytest.raises(InputError, match=r"rim: the second one is \(900, 300\)"):
        as_outline([[300, 100], [900, 300], [300, 500], [100, 300]], 600, 600, "rim")
    with pytest.raises(InputError, match="rim cross or run the wrong way: places from the zero on clockwise"):
        as_outline([[300, 100], [100, 300], [300, 500], [500, 300]], 600, 600, "rim")
    rough = np.random.default_rng(2).integers(0, 255, (60, 60, 3), np.uint8).repeat(10, 0).repeat(10, 1)
    with pytest.raises(InputError, match="of 100 places"):
        read_rings([rough], 1, Ring(square), light_of_hex("colours", ["#001020", "#103050", "#205080"]), ROWS)
    with pytest.raises(InputError, match="photos: one is 600 x 500 pixels, the first is 600 x 600"):
        read_rings([rough, rough[:500]], 2, Ring(square), LIGHT, ROWS)


def test_a_ring_is_found_unaided():
    """Rim and inner radius, whatever the dial and the light; where its zero is nobody can see."""
    right = []
    for seed in range(70_020, 70_028):
        rng = np.random.default_rng(seed)
        dial, colours = dial_by_chance(rng), made_up_ladder(rng, 6)
        shot = replace(shot_by_chance(rng), size=(1000, 750))
        photo = photographed(made_up_dial(picture()[:, 60], colours, 12.0, dial), shot, rng)
        pixels = pixels_of(photo)
        try:
            found = find_ring(pixels)
        except InputError:
            right.append(False)
            continue
        ring = Ring(as_outline(found.rim.tolist(), pixels.shape[1], pixels.shape[0], "rim"))
        truth = photo.shown_at(dial.at(np.arange(36) / 36.0, 1.0))
        radius = np.hypot(*(truth - truth.mean(axis=0)).T).mean()
        off = truth[:, None] - ring.at(np.arange(720) / 720.0, np.ones(720))
        right.append(np.hypot(off[..., 0], off[..., 1]).min(axis=1).max() < 0.03 * radius)
        right[-1] &= abs(found.inner - dial.inner) < 0.03
        assert found.rim[:, 1].argmin() == 0, "the zero is put uppermost"
    assert sum(right) >= 7, right


@pytest.mark.parametrize("what", ["a scrolling screen", "noise", "nothing"])
def test_where_there_is_no_ring_none_is_found(what):
    rng = np.random.default_rng(9)
    if what == "a scrolling screen":
        screen = made_up_screen(picture(), list(HEARTH), 12.0, rng)
        pixels = pixels_of(photographed(screen, SHOT, rng))
    elif what == "noise":
        pixels = rng.integers(0, 255, (60, 80, 3), np.uint8).repeat(8, 0).repeat(8, 1)
    else:
        pixels = np.full((480, 640, 3), 90, np.uint8)
    with pytest.raises(InputError, match="no ring"):
        find_ring(pixels)
