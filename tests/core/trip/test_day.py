"""The day: legs, hours and light; ice on the way; screens; the rig test."""

from __future__ import annotations

from dataclasses import replace

import pytest

from hollow_glint.core.gear import profiles
from hollow_glint.core.ground.soundings import Structure
from hollow_glint.core.trip.day import Chosen, Day, plan_day
from hollow_glint.core.trip.ice import IceMeasured, ice_warnings
from hollow_glint.core.trip.rig_test import CHECKS, Finding, GearItem, checks_for, failed, standing
from hollow_glint.core.trip.screens import VIEWS, Job, screens_to_keep, views_of
from hollow_glint.core.trip.sun import sun_times

SUN = sun_times(62.0, 15.0, "2026-12-05", 60.0)
SQUARE = tuple(Chosen(f"p{k}", e, n, 5.0) for k, (e, n) in enumerate([(0, 600), (600, 600), (600, 0)]))
DAY = Day("2026-12-05", utc_offset_min=60.0, people=4, holes_each=4, ice_m=0.3, snow="packed snow", places=SQUARE)


def test_a_square_is_walked_round_with_its_bearings_and_the_clock_adds_up():
    found = plan_day(DAY, SUN, (0.0, 0.0))
    assert [one.to for one in found.legs] in ([0, 1, 2, None], [2, 1, 0, None])
    assert [one.bearing_deg for one in found.legs] in ([0, 90, 180, 270], [90, 0, 270, 180])
    assert found.distance_m == pytest.approx(2400.0) and found.value == pytest.approx(15.0)
    # 600 m at 60 m/min; 4 holes of 1.5 x 0.3 + 1.5 min; four people look at four holes at once.
    stay = 4 * (1.5 * 0.3 + 1.5) + 15.0
    assert [one.arrives_min - 540.0 for one in found.legs] == pytest.approx(
        [10.0, 20.0 + stay, 30.0 + 2 * stay, 40.0 + 3 * stay]
    )
    assert found.back_min == found.legs[-1].arrives_min and found.legs[0].light == "day"


def test_one_alone_looks_at_one_hole_after_another_and_deep_snow_is_slow():
    alone = replace(DAY, people=1)
    assert alone.stay_min - DAY.stay_min == pytest.approx(3 * 15.0)
    assert (
        plan_day(replace(DAY, snow="snow to the knee"), SUN, (0.0, 0.0)).back_min > plan_day(DAY, SUN, (0, 0)).back_min
    )


def test_what_a_person_put_in_comes_before_what_is_worth_more_and_what_is_out_stays_out():
    short = replace(DAY, ends_min=540.0 + 2 * 10.0 + DAY.stay_min + 1.0)
    poor = replace(SQUARE[2], worth=0.5, wanted=True)
    found = plan_day(replace(short, places=(replace(SQUARE[0], worth=9.0), poor)), SUN, (0.0, 0.0))
    assert [one.to for one in found.legs] == [1, None] and found.no_time == (0,) and found.value == pytest.approx(0.5)
    assert found.said[-1].text.startswith("One place does not fit")
    out = plan_day(replace(DAY, places=(replace(SQUARE[0], out=True), *SQUARE[1:])), SUN, (0.0, 0.0))
    assert 0 not in [one.to for one in out.legs] and out.no_time == ()


def test_a_day_that_ends_in_the_dark_says_so_and_one_that_is_none_is_refused():
    late = replace(DAY, begins_min=900.0, ends_min=1300.0, looking_min=90.0)
    found = plan_day(late, SUN, (0.0, 0.0))
    assert found.legs[-1].light == "night" and "dark" in found.said[-1].text
    with pytest.raises(ValueError, match="ends_min is 500: accepted is a time after begins_min, 540"):
        replace(DAY, ends_min=500.0)
    with pytest.raises(ValueError, match="snow is 'powder'"):
        replace(DAY, snow="powder")
    with pytest.raises(ValueError, match="date is '2026-13-01'"):
        replace(DAY, date="2026-13-01")
    with pytest.raises(ValueError, match="band_m has 1 entry"):
        replace(DAY, band_m=(3.0,))


def test_ice_that_is_thin_old_unmeasured_or_over_moving_water_is_warned_of_and_no_other():
    walk = [(0.0, 0.0), (0.0, 400.0), (400.0, 400.0)]
    good = [IceMeasured(0.0, 390.0, 0.3, "clear"), IceMeasured(400.0, 410.0, 0.3, "clear", 1.0)]
    assert ice_warnings(walk, good) == []
    thin = [good[0], IceMeasured(390.0, 400.0, 0.16, "white", 5.0)]  # white counts half: 8 cm
    assert [(one.kind, one.at) for one in ice_warnings(walk, thin)] == [("thin", 1), ("old", 1)]
    assert [(one.kind, one.at) for one in ice_warnings(walk, good[:1])] == [("unmeasured", 1)]
    on_the_way = [*good, IceMeasured(20.0, 200.0, 0.05, "clear")]
    assert [(one.kind, one.at) for one in ice_warnings(walk, on_the_way)] == [("thin", 0)]
    spring = ice_warnings(walk, good, [Structure(200.0, 430.0, "spring"), Structure(0.0, 200.0, "timber")])
    assert [(one.kind, one.at) for one in spring] == [("moving water", 1)]
    assert spring[0].said.values["away"].value == pytest.approx(30.0)


def test_what_failed_stays_failed_until_the_same_check_is_passed():
    cable = GearItem("Second unit's cable", "cable")
    found = [
        Finding("2026-11-20T18:00", "plugs", False, "green in one plug"),
        Finding("2026-11-21T18:00", "bend", True),
    ]
    assert [(one.check, one.note) for one in failed(cable, found)] == [("plugs", "green in one plug")]
    assert {one.check: one.state for one in standing("cable", found)}["packing"] == "not made"
    # Noted out of order, what counts is when it was.
    assert failed(cable, [Finding("2026-11-22T08:00", "plugs", True), *found]) == []
    assert all(checks_for(kind) for one in CHECKS.values() for kind in one.kinds)
    with pytest.raises(ValueError, match="made is 'kick'"):
        Finding("2026-11-20T18:00", "kick", True)


def test_screens_are_kept_for_the_job_and_the_rest_hidden():
    views = list(VIEWS)
    deep = screens_to_keep(views, Job(9.0, 18.0, 6, 4))
    order = [one.view for one in deep if one.place is not None]
    assert order[:2] == ["history", "bottom window"] and "map" in order and "all round" in order
    assert [one.place for one in deep if one.place] == list(range(1, len(order) + 1))
    alone = screens_to_keep(views, Job(2.0, 4.0, 1, 1))
    hidden = {one.view for one in alone if one.place is None}
    assert {"bottom window", "free window", "two beams", "map", "ring"} <= hidden
    assert [one.view for one in screens_to_keep(["ring"], Job(2.0, 4.0, 1, 1)) if one.place] == ["ring"]
    for unit in profiles.SHIPPED:
        assert set(views_of(unit)) <= set(VIEWS) and views_of(unit)
    with pytest.raises(ValueError, match="views is 'sideways'"):
        screens_to_keep(["sideways"], Job(2.0, 4.0, 1, 1))
