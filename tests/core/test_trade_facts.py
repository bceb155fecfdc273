"""What the simulation must show by itself: facts of the trade, each measured on the picture the chain makes.

All are common practice, no single source. The number in each name is the fact's number in the design's list; those
that need things not built yet are still to come.
"""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from hollow_glint.core import beam, ping, tuning
from hollow_glint.core.scene import Lure, Scene
from hollow_glint.core.unit import FOOT, TRAIL_UNIT, Beam, Settings

from .watching import fish, steady, watch

HOLE = Scene(bottom_depth_m=31 * FOOT, bottom_kind="mud", ice_thickness_m=0.35, face_depth_m=0.42)
FORTY = Settings(gain=25.0, range_m=40 * FOOT)


def test_01_a_20_degree_cone_is_a_third_as_wide_as_the_water_is_deep():
    for feet in (10, 20, 40):
        assert beam.footprint_diameter(feet * FOOT, 20.0) == pytest.approx(feet * FOOT / 3.0, rel=0.07)
    assert beam.footprint_diameter(31 * FOOT, 12.0) == pytest.approx(6.5 * FOOT, rel=0.01)


def test_02_a_target_drawn_to_the_edge_fades_and_looks_deeper():
    scene = replace(HOLE, bottom_depth_m=40 * FOOT)
    settings = Settings(21.0, 60 * FOOT)
    depth = scene.face_depth_m + 25 * FOOT
    looked = {}
    for aside_ft in (0, 3, 5):
        seen = watch(scene, settings, steady((depth, aside_ft * FOOT, -22.0)))
        looked[aside_ft] = (seen.top_of_mark(24 * FOOT, 27 * FOOT), seen.brightest(24 * FOOT, 27 * FOOT))
    deeper = looked[5][0] - looked[0][0]
    assert deeper == pytest.approx(0.5 * FOOT, abs=1.5 * 60 * FOOT / TRAIL_UNIT.rows)
    assert looked[0][1] > looked[3][1] >= looked[5][1] > 0


def test_02b_the_shift_is_resolved_in_a_bottom_window():
    """In a finer picture the same six inches are measured closely."""
    scene = replace(HOLE, bottom_depth_m=27 * FOOT + HOLE.face_depth_m)
    settings = Settings(30.0, 30 * FOOT, 6 * FOOT)
    depth = scene.face_depth_m + 25 * FOOT
    tops = [
        watch(scene, settings, steady((depth, aside * FOOT, -22.0))).top_of_mark(24 * FOOT, 26 * FOOT)
        for aside in (0, 5)
    ]
    assert (tops[1] - tops[0]) / FOOT * 12 == pytest.approx(6.0, abs=1.0)


def test_03_the_same_fish_is_weakest_at_the_edge_and_strongest_under_the_hole():
    t = ping.transmit(HOLE, TRAIL_UNIT, FORTY)
    threshold = TRAIL_UNIT.gain.first_colour_db - TRAIL_UNIT.gain.decibels(FORTY.gain)
    edge = float(tuning.fish_seen_radius(t, 0.3, threshold, np.array([7.0]))[0])
    levels = []
    for share in (0.0, 0.5, 0.9, 1.0):
        seen = watch(HOLE, FORTY, fish((7.0, share * edge, 0.3)))
        levels.append(seen.brightest(6.0, 7.2))
    assert levels == sorted(levels, reverse=True)
    assert levels[0] > 3.5
    assert 0.1 < levels[-1] < 1.2


def test_04_more_gain_widens_the_cone_in_which_a_fish_is_seen():
    """A nominal 9 degree beam acts like 12 or more once there is gain to spare."""
    unit = replace(TRAIL_UNIT, beams=(Beam("nine", 200e3, 9.0),))

    def acts_like(gain: float) -> float:
        widest = 0.0
        for aside in np.arange(0.0, 1.6, 0.05):
            seen = watch(HOLE, replace(FORTY, gain=gain), fish((7.0, float(aside), 0.3), pings=120), unit)
            if seen.share_lit(6.2, 7.2) > 0.5:
                widest = float(aside)
        return float(2 * np.degrees(np.arctan(widest / (7.0 - HOLE.face_depth_m))))

    widths = [acts_like(gain) for gain in (12.0, 20.0, 28.0)]
    assert widths[0] < widths[1] < widths[2]
    assert widths[2] > 12.0


def test_05_the_lure_needs_more_gain_deeper_and_murk_takes_gain_away():
    jig = Lure("5 mm tungsten jig", 0.005)
    strength = jig.target_strength(200e3, ping.transmit(HOLE, TRAIL_UNIT, FORTY).sound_speed_m_s)

    def least_gain(depth: float) -> float:
        for gain in np.arange(0.0, 51.0):
            seen = watch(HOLE, replace(FORTY, gain=float(gain)), steady((depth, 0.0, strength), pings=40))
            r = depth - HOLE.face_depth_m
            if seen.share_lit(r - 0.05, r + 0.15) > 0.9:
                return float(gain)
        return np.inf

    needs = [least_gain(depth) for depth in (3.0, 5.0, 8.0)]
    assert needs == sorted(needs) and needs[2] - needs[0] > 8

    def most_gain(clarity: str) -> float:
        scene = replace(HOLE, clarity=clarity)
        for gain in np.arange(50.0, -1.0, -1.0):
            seen = watch(scene, replace(FORTY, gain=float(gain)), None, pings=40)
            if (seen.between(1.5, 8.5) > 0).mean() < 0.02:
                return float(gain)
        return -np.inf

    allows = [most_gain(clarity) for clarity in ("clear", "murky", "plankton")]
    assert allows == sorted(allows, reverse=True) and allows[0] - allows[2] > 8


def test_06_doubling_the_range_halves_a_mark_and_a_window_enlarges_it():
    loud = steady((8.4, 0.0, -38.0))
    near = watch(HOLE, FORTY, loud).thickness(7.7, 8.6)
    far = watch(HOLE, replace(FORTY, range_m=80 * FOOT), loud).thickness(7.7, 8.6)
    close = watch(HOLE, replace(FORTY, bottom_window_m=6 * FOOT), loud).thickness(7.7, 8.6)
    assert near / far == pytest.approx(2.0, rel=0.35)
    assert close / near == pytest.approx(40 / 6, rel=0.25)


def test_08_mud_leaves_a_tail_and_sand_a_second_echo():
    settings = Settings(18.0, 80 * FOOT)
    thick, second = {}, {}
    for kind in ("mud", "sand"):
        scene = replace(HOLE, bottom_kind=kind)
        seen = watch(scene, settings, None)
        first = scene.bottom_range_m
        again = 2 * scene.bottom_depth_m - scene.face_depth_m - scene.ice_thickness_m
        thick[kind] = seen.thickness(first - 0.3, first + 4.0)
        second[kind] = seen.share_lit(again - 0.3, again + 0.4)
        assert again == pytest.approx(2 * first, rel=0.1)
    assert thick["mud"] > 1.5 * thick["sand"]
    assert second == {"mud": 0.0, "sand": 1.0}


def test_10_the_displayed_depth_drops_by_what_the_transducer_is_lowered():
    tops = []
    for lowered in (0.0, 0.3, 0.6):
        scene = replace(HOLE, face_depth_m=HOLE.face_depth_m + lowered)
        seen = watch(scene, Settings(20.0, 40 * FOOT), None)
        displayed = seen.top_of_mark(7.0, 11.0)
        assert displayed + scene.face_depth_m == pytest.approx(scene.bottom_depth_m, abs=1.5 * seen.row_m)
        tops.append(displayed)
    assert tops[0] - tops[2] == pytest.approx(0.6, abs=1.5 * 40 * FOOT / TRAIL_UNIT.rows)


def test_15_two_jigs_six_inches_apart_are_two_marks():
    t = ping.transmit(HOLE, TRAIL_UNIT, FORTY)
    strength = Lure("5 mm tungsten jig", 0.005).target_strength(200e3, t.sound_speed_m_s)
    settings = replace(FORTY, gain=23.0, bottom_window_m=6 * FOOT)
    apart = watch(HOLE, settings, steady((8.2, 0.0, strength), (8.2 + 0.5 * FOOT, 0.0, strength)))
    touching = watch(HOLE, settings, steady((8.2, 0.0, strength), (8.2 + FOOT / 24, 0.0, strength)))
    assert apart.runs(7.5, 8.3) == 2
    assert touching.runs(7.5, 8.3) == 1


def test_16_a_fish_that_closes_on_the_lure_merges_and_the_mark_swells():
    settings = replace(FORTY, gain=23.0, bottom_window_m=6 * FOOT)
    lure = (8.2, 0.0, -58.0)

    def with_fish_below(gap: float):
        return watch(HOLE, settings, steady(lure, (8.2 + gap, 0.0, -45.0)))

    assert with_fish_below(0.35).runs(7.5, 8.4) == 2
    merged = with_fish_below(0.04)
    assert merged.runs(7.5, 8.4) == 1
    alone = watch(HOLE, settings, steady(lure))
    assert merged.thickness(7.5, 8.4) > 1.3 * alone.thickness(7.5, 8.4)
    assert merged.brightest(7.5, 8.4) > alone.brightest(7.5, 8.4)


def test_17_a_fish_near_the_bottom_but_off_axis_hides_in_the_bottom_echo():
    """On axis it stands clear above the line; off axis its slant puts it into the line."""
    settings = Settings(22.0, 40 * FOOT, 6 * FOOT)
    depth = HOLE.bottom_depth_m - 0.22
    line = HOLE.bottom_range_m
    under = watch(HOLE, settings, fish((depth, 0.0, 0.35)))
    aside = watch(HOLE, settings, fish((depth, 2.1, 0.35)))
    empty = watch(HOLE, settings, None, pings=400)
    above = (line - 0.4, line - 0.05)
    assert under.share_lit(*above) > 0.9
    assert aside.share_lit(*above) == empty.share_lit(*above) == 0.0


def test_21_a_still_fish_draws_a_line_and_one_that_swims_through_an_arc():
    pings = 300
    through = fish((7.0, 0.0, 0.4), pings=pings)
    through = replace(through, x=np.linspace(-1.6, 1.6, pings)[:, None])
    settings = replace(FORTY, gain=28.0)

    def course(targets) -> np.ndarray:
        seen = watch(HOLE, settings, targets)
        rows = (seen.range_m > 6.2) & (seen.range_m < 7.4)
        lit = seen.levels[:, rows] > 0
        first = np.where(lit.any(axis=1), seen.range_m[rows][lit.argmax(axis=1)], np.nan)
        return np.array([np.nanmedian(part) for part in np.array_split(first, 5)])

    still, swimming = course(fish((7.0, 0.0, 0.4), pings=pings)), course(through)
    row = 40 * FOOT / TRAIL_UNIT.rows
    assert np.ptp(still) <= row
    assert swimming[0] - swimming[2] > row and swimming[4] - swimming[2] > row


def test_22_small_fish_that_look_like_one_mark_part_in_a_window():
    """Two a hand apart share their rows at 80 ft of range and stand apart in a 6 ft window."""
    pair = steady((8.4, 0.0, -50.0), (8.58, 0.0, -50.0))
    wide = watch(HOLE, Settings(20.0, 80 * FOOT), pair)
    close = watch(HOLE, Settings(20.0, 80 * FOOT, 6 * FOOT), pair)
    assert wide.runs(7.6, 8.5) == 1
    assert close.runs(7.6, 8.5) == 2
