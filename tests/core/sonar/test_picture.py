"""From scene to picture: where a mark stands, how thick it is, what window shows it."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from hollow_glint.core.gear.settings import Settings
from hollow_glint.core.hole.scene import Scene
from hollow_glint.core.sonar import picture, ping, transmission

from ..watching import painted, steady


def one_target(z, strength_db=-55.0, aside=0.0, pings=4):
    return steady((z, aside, strength_db), pings=pings)


def rows_lit(scene, unit, settings, targets, near_range, shown=None, reach=0.8):
    """Rows lit in most pings within `reach` of `near_range`, and the ranges of all rows."""
    t = transmission.transmit(scene, unit, settings)
    shown = shown or picture.full_column(settings)
    echoes = ping.echo_levels(t, targets, targets.x.shape[0], np.random.default_rng(0))
    levels = painted(echoes, unit, settings, t, shown)
    r = picture.row_range(unit, shown)
    lit = (np.median(levels, axis=0) > 0) & (np.abs(r - near_range) < reach)
    return lit, r


def test_displayed_depth_is_range_from_the_face(hole, unit, settings):
    """True depth = displayed depth + face depth."""
    lit, r = rows_lit(hole, unit, settings, one_target(5.0), 5.0 - hole.face_depth_m)
    assert r[lit][0] + hole.face_depth_m == pytest.approx(5.0, abs=0.06)
    lower = replace(hole, face_depth_m=hole.face_depth_m + 0.5)
    lit, r = rows_lit(lower, unit, settings, one_target(5.0), 5.0 - lower.face_depth_m)
    assert r[lit][0] + lower.face_depth_m == pytest.approx(5.0, abs=0.06)


def test_off_axis_fish_looks_too_deep():
    """25 ft down and 5 ft out: about 6 inches too deep. Geometry."""
    from hollow_glint.core.acoustics.beam import slant_range

    assert slant_range(25.0, 5.0) - 25.0 == pytest.approx(0.5, abs=0.01)


def test_stronger_echo_is_thicker(hole, unit, settings):
    weak, _ = rows_lit(hole, unit, settings, one_target(5.0, -62.0), 4.6)
    strong, _ = rows_lit(hole, unit, settings, one_target(5.0, -40.0), 4.6)
    assert strong.sum() > weak.sum() >= 1


def test_doubling_the_range_halves_a_mark(hole, unit, settings):
    # A loud target, thick enough in rows for halves to be counted. Common practice, no source.
    near, _ = rows_lit(hole, unit, settings, one_target(5.0, -35.0), 4.6)
    far, _ = rows_lit(hole, unit, replace(settings, range_m=24.384), one_target(5.0, -35.0), 4.6)
    assert near.sum() / far.sum() == pytest.approx(2.0, abs=0.6)


def test_bottom_window_magnifies_and_follows_the_bottom(hole, unit, settings):
    zoomed = replace(settings, bottom_window_m=1.8288)
    t = transmission.transmit(hole, unit, zoomed)
    found = picture.find_bottom(ping.echo_levels(t, None, 8, np.random.default_rng(0)), t)
    assert found == pytest.approx(hole.bottom_range_m, abs=0.08)
    shown = picture.window(zoomed, found)
    assert shown.height_m == pytest.approx(1.8288)
    assert shown.top_m < hole.bottom_range_m < shown.bottom_m
    depth = hole.bottom_depth_m - 0.8
    full, _ = rows_lit(hole, unit, settings, one_target(depth, -45.0), depth - hole.face_depth_m, reach=0.4)
    large, _ = rows_lit(hole, unit, zoomed, one_target(depth, -45.0), depth - hole.face_depth_m, shown, reach=0.4)
    assert large.sum() / full.sum() == pytest.approx(12.192 / 1.8288, rel=0.4)


def test_soft_bottom_has_a_tail_and_hard_bottom_a_second_echo(unit):
    # Common practice, no source.
    settings = Settings(18.0, 24.384)

    def thickness_and_second(kind):
        scene = Scene(9.75, kind, 0.35, 0.42)
        t = transmission.transmit(scene, unit, settings)
        echoes = ping.echo_levels(t, None, 32, np.random.default_rng(0))
        lit = np.median(painted(echoes, unit, settings, t,
                                             picture.full_column(settings)), axis=0)  # fmt: skip
        r = picture.row_range(unit, picture.full_column(settings))
        first = (lit > 0) & (r > 9.0) & (r < 13.0)
        second = (lit > 0) & (np.abs(r - (2 * 9.75 - 0.42 - 0.35)) < 0.4)
        return int(first.sum()), int(second.sum())

    mud, sand = thickness_and_second("mud"), thickness_and_second("sand")
    assert mud[0] > 1.5 * sand[0]
    assert sand[1] >= 1 and mud[1] == 0


def test_two_targets_closer_than_the_pulse_merge(hole, unit, settings):
    def gaps(apart):
        targets = steady((5.0, 0.0, -58.0), (5.0 + apart, 0.0, -58.0), pings=64)
        lit, _ = rows_lit(hole, unit, replace(settings, gain=18.0), targets, 4.7)
        return int(np.sum(np.diff(lit.astype(int)) == 1))

    assert gaps(0.30) == 2
    assert gaps(0.04) == 1


def test_targets_outside_the_picture_add_nothing(hole, unit, settings):
    t = transmission.transmit(hole, unit, settings)
    quiet = ping.echo_levels(t, None, 2, np.random.default_rng(5))
    for z in (0.0, hole.face_depth_m, hole.face_depth_m + 50.0):
        heard = ping.echo_levels(t, one_target(z, pings=2), 2, np.random.default_rng(5))
        assert np.array_equal(quiet, heard)


def test_block_of_pings_equals_its_targets_one_by_one(hole, unit, settings):
    """Laying a block at once puts each ping's target where that ping has it."""
    t = transmission.transmit(hole, unit, settings)
    z = np.array([[2.0], [5.0], [8.0]])
    targets = one_target(0.0, -30.0, pings=3)
    targets.place[2] = z
    echoes = ping.echo_levels(t, targets, 3, np.random.default_rng(0))
    water = (t.bin_range_m > 1.0) & (t.bin_range_m < 9.0)
    found = t.bin_range_m[water][echoes[:, water].argmax(axis=1)] + hole.face_depth_m
    assert found == pytest.approx(z[:, 0], abs=2 * t.resolution_m)


@pytest.mark.parametrize("range_m", [3.048, 12.192, 60.96])
def test_every_row_is_painted_whatever_the_range(hole, unit, range_m):
    settings = Settings(50.0, range_m)
    t = transmission.transmit(hole, unit, settings)
    echoes = ping.echo_levels(t, None, 2, np.random.default_rng(0))
    levels = painted(echoes, unit, settings, t, picture.full_column(settings))
    assert levels.shape == (2, unit.rows) and levels.dtype == np.uint8
    assert levels.max() <= len(unit.ladders[0].steps)
