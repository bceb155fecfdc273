"""Where knobs may stand, and what follows from that: ranges, rates and amperes."""

from __future__ import annotations

from dataclasses import replace

import pytest

from hollow_glint.core.checks import InputError
from hollow_glint.core.gear.profiles import SHIPPED, TRAIL_UNIT
from hollow_glint.core.gear.settings import POSITIONS, Settings, draw, picture_rate, smallest_range, starting_settings
from hollow_glint.core.gear.unit import FOOT, Calibrated, unit_from_dict, unit_to_dict

UNITS = (TRAIL_UNIT, *SHIPPED)


@pytest.mark.parametrize("unit", UNITS, ids=lambda unit: unit.name)
def test_every_unit_starts_with_its_gain_in_the_middle_and_the_bottom_in_the_picture(unit):
    at = starting_settings(unit, 6.0)
    assert at.range_m >= 6.3
    middle = (unit.gain.minimum + unit.gain.maximum) / 2.0
    assert abs(at.gain - middle) <= unit.gain.step / 2.0 + 1e-9
    assert at.checked(unit) == at


@pytest.mark.parametrize("unit", UNITS, ids=lambda unit: unit.name)
def test_every_knob_that_is_a_list_ends_with_its_last_position(unit):
    at = starting_settings(unit, 6.0)
    for name, listed in POSITIONS.items():
        last = len(getattr(unit, listed)) - 1
        assert getattr(replace(at, **{name: last}).checked(unit), name) == last
        for wrong in (last + 1, -1, True):
            with pytest.raises(InputError, match=rf"{name} is .*positions 0 to {last}"):
                replace(at, **{name: wrong}).checked(unit)


@pytest.mark.parametrize("unit", UNITS, ids=lambda unit: unit.name)
def test_gain_goes_to_its_nearest_step_and_never_past_its_ends(unit):
    at, scale = starting_settings(unit, 6.0), unit.gain
    near = replace(at, gain=scale.minimum + 2.4 * scale.step).checked(unit).gain
    assert near == pytest.approx(scale.minimum + 2.0 * scale.step)
    near = replace(at, gain=scale.minimum + 2.6 * scale.step).checked(unit).gain
    assert near == pytest.approx(scale.minimum + 3.0 * scale.step)
    for wrong in (scale.minimum - 0.1, scale.maximum + 0.1, float("nan")):
        with pytest.raises(InputError, match="gain"):
            replace(at, gain=wrong).checked(unit)


@pytest.mark.parametrize("unit", UNITS, ids=lambda unit: unit.name)
def test_more_gain_brings_the_first_colour_down_by_as_many_decibels(unit):
    scale = unit.gain
    for gain in (scale.minimum, (scale.minimum + scale.maximum) / 2.0):
        down = scale.first_colour_at(gain) - scale.first_colour_at(gain + scale.step)
        assert down == pytest.approx(scale.db_per_step)
        # From a level to the knob and back again.
        assert scale.position(scale.decibels(gain)) == pytest.approx(gain)


def test_a_range_that_is_not_listed_is_refused_with_the_list():
    listed = next(unit for unit in UNITS if not unit.free_range)
    with pytest.raises(InputError) as refused:
        replace(starting_settings(listed, 6.0), range_m=listed.ranges_m[0] + 0.5).checked(listed)
    assert "range_m" in str(refused.value) and f"{listed.ranges_m[0]:g}" in str(refused.value)


def test_a_free_range_stands_anywhere_between_its_ends():
    free = next((unit for unit in UNITS if unit.free_range), replace(TRAIL_UNIT, free_range=True))
    at = starting_settings(free, 6.0)
    assert replace(at, range_m=7.77).checked(free).range_m == 7.77
    with pytest.raises(InputError, match="range_m"):
        replace(at, range_m=free.ranges_m[-1] + 1.0).checked(free)
    # Automatically to the next whole foot, as a hand would set it.
    assert smallest_range(free, 6.0) / FOOT == pytest.approx(round(smallest_range(free, 6.0) / FOOT))


def test_the_smallest_range_has_three_tenths_of_a_metre_or_three_hundredths_below_the_bottom():
    unit = replace(TRAIL_UNIT, ranges_m=(5.0, 10.0, 20.0, 40.0), free_range=False)
    assert smallest_range(unit, 4.7) == 5.0
    assert smallest_range(unit, 4.71) == 10.0
    assert smallest_range(unit, 19.4) == 20.0
    assert smallest_range(unit, 19.45) == 40.0
    assert smallest_range(unit, 90.0) == 40.0


def test_what_a_unit_cannot_do_is_refused_by_name():
    plain = replace(TRAIL_UNIT, auto_range=False, window_beside=False, bottom_windows_m=(), free_windows_m=())
    at = starting_settings(plain, 6.0)
    for field, value, said in (
        ("auto_range", True, "cannot choose its range"),
        ("beside", True, "one picture at a time"),
        ("bottom_window_m", 1.5, "this unit has 0 m"),
        ("free_window_m", 1.5, "this unit has 0 m"),
        ("free_window_top_m", -1.0, "free_window_top_m"),
    ):
        with pytest.raises(InputError, match=said):
            replace(at, **{field: value}).checked(plain)


def test_one_window_at_a_time():
    unit = replace(TRAIL_UNIT, bottom_windows_m=(1.5,), free_windows_m=(2.0,))
    at = starting_settings(unit, 6.0)
    assert replace(at, bottom_window_m=1.5).checked(unit).bottom_window_m == 1.5
    with pytest.raises(InputError, match="one window at a time"):
        replace(at, bottom_window_m=1.5, free_window_m=2.0).checked(unit)


def test_rejection_slows_the_picture_and_a_long_range_slows_the_pings():
    unit = max(UNITS, key=lambda one: len(one.rejections))
    at = starting_settings(unit, 6.0)
    assert picture_rate(unit, at, 1000.0) == unit.ping_rate_hz
    assert picture_rate(unit, at, unit.ping_rate_hz / 3.0) == pytest.approx(unit.ping_rate_hz / 3.0)
    for step, one in enumerate(unit.rejections):
        assert picture_rate(unit, replace(at, rejection=step), 1000.0) == pytest.approx(unit.ping_rate_hz * one.rate)


def test_an_echo_must_be_in_more_than_half_of_the_pings():
    from hollow_glint.core.gear.unit import Rejection

    assert [Rejection(n).needed for n in (1, 2, 3, 4, 5, 9, 15)] == [1, 2, 2, 3, 3, 5, 8]


def test_the_light_draws_what_it_gives():
    unit = replace(TRAIL_UNIT, draw_a=0.2, light_a=0.3, brightness=(1.0, 0.5, 0.1))
    at = starting_settings(unit, 6.0)
    assert [draw(unit, replace(at, light=k)) for k in range(3)] == pytest.approx([0.5, 0.35, 0.23])


def test_how_surely_a_gain_is_known_is_least_where_the_readings_pull_apart():
    """Var(a - n b) = var a - 2 n cov + n^2 var b, for a knob of 1 dB a step: propagation of errors, by hand."""
    scale = replace(TRAIL_UNIT.gain, minimum=0.0, step=1.0, db_per_step=1.0)
    known = Calibrated(8, 2.0, 0.1, 0.1, 0.5)
    assert known.position_sd(scale, 0.0) == pytest.approx(2.0)
    assert known.position_sd(scale, 10.0) == pytest.approx((4.0 - 2.0 + 1.0) ** 0.5)
    assert known.position_sd(scale, 40.0) == pytest.approx((4.0 - 8.0 + 16.0) ** 0.5)
    # A knob of 2 dB a step is known to half as many steps.
    assert known.position_sd(replace(scale, db_per_step=2.0), 0.0) == pytest.approx(1.0)


@pytest.mark.parametrize("unit", UNITS, ids=lambda unit: unit.name)
def test_a_unit_comes_back_from_its_fields_and_is_found_by_what_it_is(unit):
    again = unit_from_dict(unit_to_dict(unit))
    assert again == unit and hash(again) == hash(unit)
    assert replace(unit, colour_step_db=unit.colour_step_db + 0.5) != unit


def test_ranges_out_of_order_and_unknown_fields_are_refused():
    with pytest.raises(InputError, match="ranges_m is not in order"):
        replace(TRAIL_UNIT, ranges_m=(10.0, 5.0))
    given = unit_to_dict(TRAIL_UNIT)
    with pytest.raises(InputError, match="wings"):
        unit_from_dict({**given, "wings": 2})
    del given["gain"]
    with pytest.raises(InputError, match="gain"):
        unit_from_dict(given)


def test_settings_carry_no_knob_that_no_unit_has():
    assert set(POSITIONS) <= set(Settings.__dataclass_fields__)


@pytest.mark.parametrize("unit", UNITS, ids=lambda unit: unit.name)
def test_the_knobs_steps_above_and_below_hold_what_lies_between_them(unit):
    scale = unit.gain
    for share in (0.0, 0.137, 0.5, 0.861, 1.0):
        gain = scale.minimum + share * (scale.maximum - scale.minimum)
        below, above = scale.at_or_below(gain), scale.at_or_above(gain)
        assert below - 1e-6 <= gain <= above + 1e-6
        assert above - below <= scale.step + 1e-6
        assert scale.nearest(gain) in (pytest.approx(below), pytest.approx(above))
    # A step is its own neighbour on either side, however its number was reckoned.
    for n in (0, 1, 7):
        step = scale.minimum + n * scale.step
        assert scale.at_or_below(step) == scale.at_or_above(step) == pytest.approx(step)
    assert scale.nearest(scale.maximum + 5.0 * scale.step) == scale.maximum
    assert scale.nearest(scale.minimum - 5.0 * scale.step) == scale.minimum


@pytest.mark.parametrize("unit", UNITS, ids=lambda unit: unit.name)
def test_settings_once_checked_are_left_as_they_are(unit):
    for span in unit.ranges_m:
        at = replace(starting_settings(unit, 4.0), range_m=span)
        once = at.checked(unit)
        assert once.checked(unit) == once
        assert once.range_m == pytest.approx(span)
        assert unit.gain.minimum <= once.gain <= unit.gain.maximum
