"""Measuring in the fan's picture: place, depth, length and turn against what is truly there, on seeds for trying out.

The judged figures, on other seeds, stand in docs/search.md.
"""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from benchmarks.looking_ahead import FOOT_M, lone_fish, seen_fish
from benchmarks.searching import TRYING
from hollow_glint.core.acoustics.beam import line_amplitude
from hollow_glint.core.checks import InputError
from hollow_glint.core.fan.head import FAN_HEADS, NEAR_REACH, FanHang
from hollow_glint.core.fan.look import FanLook
from hollow_glint.core.fan.measure import FanMark, closing, find_mark, length_span, measured, turn_to
from hollow_glint.core.fan.settings import FanSettings
from hollow_glint.core.fan.swimmers import HungLure
from hollow_glint.core.search.course import Column, Course

from ..search.waters import flat

HANG = FanHang(depth_m=0.9)
WATER = flat(9.4)
SETTINGS = FanSettings(ahead_m=20.0, behind_m=2.0, deep_m=11.0)


def swims_at(
    ahead_m, depth_m, length_m=0.4, heading=0.6, speed=0.2, beside_m=0.0, head=NEAR_REACH, hang=HANG
) -> FanLook:
    patch = lone_fish(flat(9.4), beside_m, ahead_m, depth_m, length_m, (heading, speed))
    look = FanLook(patch, head, hang, SETTINGS, np.random.default_rng(6), (), 19.0)
    look.advance(1.0)
    return look


@pytest.mark.parametrize("seed", range(TRYING, TRYING + 6))
def test_a_touched_fish_is_measured(seed):
    one = seen_fish(seed)
    found = one.touched()
    if found is None:
        pytest.skip("nothing stands out there: the figures say how often")
    assert found.along_ice_m.likely == pytest.approx(one.along_ice_m, rel=0.03)
    assert found.depth_m.likely == pytest.approx(one.depth_m, abs=FOOT_M)
    assert found.length_m.low <= one.length_m <= found.length_m.high
    assert found.along_ice_m.low <= one.along_ice_m <= found.along_ice_m.high


@pytest.mark.parametrize("head", FAN_HEADS.values(), ids=lambda one: one.name)
def test_the_bed_below_a_fish_and_its_height_off_it(head):
    look = swims_at(9.0, 6.0, head=head)
    found = measured(look, 9.0, 6.0)
    assert found.off_bed_m == pytest.approx(3.4, abs=0.3)
    assert found.mark.over_db > 9.0


def test_a_longer_fish_is_told_longer_and_a_wider_mark_farther_off_is_not():
    """The smear taken out: the same fish near and far, swimming square to the plane, has spans that overlap."""
    spans = [
        measured(swims_at(away, 5.0, length, 1.57), away, 5.0).length_m
        for away, length in ((6.0, 0.3), (17.0, 0.3), (6.0, 0.8))
    ]
    assert max(spans[0].low, spans[1].low) < min(spans[0].high, spans[1].high)
    assert spans[2].likely > 1.5 * spans[0].likely


def test_swimming_along_the_sound_it_is_long_and_faint_and_square_to_it_short_and_loud():
    along, square = (measured(swims_at(9.0, 2.0, 0.7, heading, 0.05), 9.0, 2.0) for heading in (0.0, np.pi / 2.0))
    assert along.mark.drawn_m > square.mark.drawn_m + 0.25
    assert square.mark.strength_db > along.mark.strength_db + 6.0


def test_a_head_off_level_measures_wrong_until_it_is_levelled():
    """At 15 m five degrees are 1.3 m of depth."""
    hang = replace(HANG, nose_up_deg=5.0)
    wrong = 0.9 + 15.0 * np.sin(np.arcsin(4.1 / 15.0) + np.radians(5.0))
    for levelling, depth in ((False, wrong), (True, 5.0)):
        look = swims_at(np.sqrt(15.0**2 - 4.1**2), 5.0, hang=hang)
        look.set(hang, replace(SETTINGS, levelling=levelling))
        look.advance(1.0)
        found = find_mark(look, np.sqrt(15.0**2 - (depth - 0.9) ** 2), depth)
        assert found.depth_m == pytest.approx(depth, abs=0.3)


def test_nothing_is_made_of_open_water_nor_of_the_bed():
    look = swims_at(14.0, 5.0)
    assert find_mark(look, 6.0, 4.0) is None
    assert find_mark(look, 8.0, 9.4) is None, "the bed is no fish"
    with pytest.raises(InputError, match="ahead_m is 40"):
        find_mark(look, 40.0, 5.0)


def test_what_to_do_is_said_in_metres_and_paces_and_near_by_it_is_to_turn_the_head_down():
    far = measured(swims_at(15.0, 5.0), 15.0, 5.0).to_do
    assert far.text == "Walk {away} the way the handle points, {paces} paces, and drill. It is {depth} down."
    assert far.values["paces"].value == round(far.values["away"].value / 0.75)
    near = measured(swims_at(1.8, 6.0, speed=0.02), 1.8, 6.0).to_do
    assert near.text.endswith("turn the head down and fish.")
    down = swims_at(1.8, 6.0, speed=0.02, hang=replace(HANG, mounting="down"))
    assert measured(down, 1.8, 6.0).to_do.text.endswith("put the lure over it.")


def test_fixes_of_the_fan_make_a_course_as_those_of_the_circle_do():
    """A school that comes nearer at 0.2 m/s is told to, from two fixes a minute apart."""
    patch = lone_fish(flat(9.4), 0.0, 15.0, 5.0, 0.4, (np.pi, 0.2))
    patch = replace(
        patch,
        groups=(
            replace(patch.groups[0], times_s=np.array([0.0, 100.0]), corners_m=np.array([[0.0, 19.0], [0.0, -1.0]])),
        ),
    )
    look = FanLook(patch, NEAR_REACH, HANG, SETTINGS, np.random.default_rng(6), (), 9.0)
    fixes = []
    for moment in (10.0, 40.0, 70.0):
        look.advance(moment - look.time_s)
        fixes.append(measured(look, 19.0 - 0.2 * (moment - 0.4), 5.0).fix)
    course = Course(fixes, Column(0.9, 9.4, 5.0))
    assert course.speed().low <= 0.2 <= course.speed().high
    assert course.speed().likely == pytest.approx(0.2, abs=0.05)


def test_the_turn_that_brings_a_fish_into_the_plane():
    """From levels by the fan's own thickness; and a span that grows where the aims tell little."""
    aims = (350.0, 0.0, 8.0)
    seen = [
        (aim, float(40.0 * np.log10(line_amplitude(np.radians((aim - 5.0 + 180) % 360 - 180), 18.0)))) for aim in aims
    ]
    told = turn_to(seen, NEAR_REACH, 0.0)
    assert told.turn_deg == pytest.approx(5.0, abs=0.5)
    assert turn_to([seen[1], (2.0, seen[1][1])], NEAR_REACH, 0.0).sd_deg > told.sd_deg
    with pytest.raises(InputError, match="seen has one aim"):
        turn_to(seen[:1], NEAR_REACH, 0.0)


def test_a_span_of_lengths_holds_even_for_what_no_fish_is():
    loud = FanMark(0.0, 10.0, 10.0, 9.8, 3.0, 20.0, 0.3, 30.0)
    span = length_span(loud, NEAR_REACH, HANG)
    assert 0.05 <= span.low < span.likely < span.high <= 1.5


def test_a_lure_is_a_mark_too():
    look = FanLook(flat(9.4), NEAR_REACH, HANG, SETTINGS, np.random.default_rng(2), (HungLure(0.0, 2.0, 6.0, 0.0),))
    look.advance(1.0)
    mark = find_mark(look, 2.0, 6.0)
    assert (mark.ahead_m, mark.depth_m) == (pytest.approx(2.0, abs=0.1), pytest.approx(6.0, abs=0.1))
    assert mark.drawn_m < 0.1
    lure = look.lures[0].lure.target_strength(1e6, look.water.sound_speed_m_s)
    assert mark.strength_db == pytest.approx(lure, abs=2.0)


def test_coming_or_leaving_over_the_frames():
    """A fish that swims at the head at 0.2 m/s, touched three times; and one that only moves across."""
    patch = lone_fish(WATER, 0.0, 14.0, 4.0, 0.4, (np.pi, 0.2))
    look = FanLook(patch, NEAR_REACH, HANG, SETTINGS, np.random.default_rng(6), (), 9.0)
    seen = []
    for moment in (10.0, 18.0, 26.0):
        look.advance(moment - look.time_s)
        mark = find_mark(look, 14.0 + 0.2 * (20.0 - moment + 0.4), 4.0)
        seen.append((mark.time_s, mark.range_m))
    told = closing(seen)
    assert told.speed_m_s == pytest.approx(0.2, abs=2.0 * told.sd_m_s) and "comes nearer" in told.said.text
    assert "leaves" in closing([(0.0, 5.0), (10.0, 8.0)]).said.text
    assert "not sure" in closing([(0.0, 5.0), (3.0, 5.1)]).said.text
    # More touches, surer.
    assert closing([(0.0, 9.0), (10.0, 8.0), (20.0, 7.0)]).sd_m_s < closing([(0.0, 9.0), (10.0, 8.0)]).sd_m_s
    with pytest.raises(InputError, match="seen has one time"):
        closing([(0.0, 5.0), (0.1, 5.0)])
