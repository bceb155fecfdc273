"""Made-up water, the look that goes on, marks and what they can be, heading, fewer holes, and the way to the Bench."""

from __future__ import annotations

import numpy as np
import pytest
import shapely

from benchmarks.searching import TRYING, touched_things
from hollow_glint.core.ground.contours import Grid
from hollow_glint.core.ground.soundings import Structure
from hollow_glint.core.search.fewer_holes import cover
from hollow_glint.core.search.heading import Known, heading_error
from hollow_glint.core.search.kinds import THINGS, Seen, what_kind
from hollow_glint.core.search.look import Look
from hollow_glint.core.search.made import Passing, made_patch, patch_of_ground, seen_from
from hollow_glint.core.search.marks import find_marks, looked_at, middle_of, thing_at
from hollow_glint.core.search.patch import BEDS, Standing
from hollow_glint.core.search.sweep import BEARINGS, Hang, TurningHead
from hollow_glint.core.search.to_bench import SIGHT_M, under_hole

from .waters import fish, flat

NOW = np.array([100.0])


USUAL = Hang(1.0, 20.0, 34.0)


def look_at(patch, hang=USUAL, seed: int = 1) -> Look:
    return Look(patch, TurningHead(), hang, np.random.default_rng(seed))


# Water


def test_a_patch_is_the_same_each_time_and_its_groups_pass_in_sight():
    for seed in range(TRYING, TRYING + 12):
        one, again = made_patch(seed), made_patch(seed)
        assert (one.grid.depth_m == again.grid.depth_m).all() and one.standing == again.standing
        for group, same in zip(one.groups, again.groups, strict=True):
            assert (group.places(NOW) == same.places(NOW)).all()
        nearest = [np.hypot(*g.centre(np.arange(0.0, 300.0, 5.0)).T).min() for g in one.groups]
        assert max(nearest) < 16.0
        assert all(one.depth_at(g.centre(NOW)[:, 0], g.centre(NOW)[:, 1])[0] > 1.0 for g in one.groups)
    assert (made_patch(1).grid.depth_m != made_patch(2).grid.depth_m).any()


def test_a_school_goes_where_its_way_says():
    times, corners = Passing(3.0, 4.0, 60.0, 90.0, 0.2).way()
    at = np.array([[np.interp(t, times, corners[:, k]) for k in (0, 1)] for t in (60.0, 160.0)])
    assert at == pytest.approx(np.array([[3.0, 4.0], [23.0, 4.0]]))


def test_water_from_a_lakes_map_has_its_depths_bottoms_and_structures():
    axis = np.arange(0.0, 101.0, 5.0)
    depth = 4.0 + 0.05 * axis[None, :] + 0.0 * axis[:, None]
    patch = patch_of_ground(
        Grid(0.0, 0.0, 5.0, depth), [(10.0, 50.0, "rock"), (90.0, 50.0, "mud")],
        [Structure(60.0, 50.0, "boulder"), Structure(50.0, 50.0, "spring")], (50.0, 50.0), 3,
    )  # fmt: skip
    assert patch.bottom_depth_m == pytest.approx(6.5)
    assert patch.depth_at(np.array([20.0]), np.array([0.0]))[0] == pytest.approx(7.5)
    assert [BEDS[i] for i in patch.bed_at(np.array([-30.0, 30.0]), np.zeros(2))] == ["rock", "mud"]
    assert [(one.kind, one.east_m, one.north_m) for one in patch.standing] == [("boulder", 10.0, 0.0)]


def test_the_same_water_from_another_hole():
    patch = made_patch(TRYING)
    moved = seen_from(patch, 12.0, -5.0)
    assert moved.depth_at(np.zeros(1), np.zeros(1)) == pytest.approx(patch.depth_at(np.array([12.0]), np.array([-5.0])))
    for a, b in zip(patch.groups, moved.groups, strict=True):
        assert a.places(NOW) - b.places(NOW) == pytest.approx(np.tile([12.0, -5.0, 0.0], (1, a.length_m.size, 1)))


# The look


def test_a_look_in_small_steps_is_the_look_in_one():
    patch = made_patch(TRYING)
    whole, steps = look_at(patch), look_at(patch)
    at_once = whole.advance(20.0)
    parts = [steps.advance(0.1) for _ in range(200)]
    assert (np.concatenate([one.which for one in parts]) == at_once.which).all()
    assert np.concatenate([one.time_s for one in parts]) == pytest.approx(at_once.time_s)
    assert parts[-1].turn == at_once.turn == int(20.0 / whole.turn_s)
    seen = np.concatenate([one.levels for one in parts]).astype(float)
    assert seen.mean() == pytest.approx(at_once.levels.mean(), rel=0.02)


def test_a_sector_is_looked_along_to_and_fro_and_comes_round_sooner():
    look = look_at(made_patch(TRYING), Hang(1.0, 20.0, 34.0, 330.0, 30.0))
    got = look.advance(2.0 * look.turn_s + 0.01)
    assert look.turn_s == pytest.approx(look_at(made_patch(TRYING)).turn_s / 6.0)
    bearings = got.which * 360.0 / BEARINGS
    assert set(np.unique(got.which)) == set(range(220, 240)) | set(range(20))
    assert bearings[0] == 330.0 and got.which[39] == got.which[40] and got.which[79] == got.which[0]
    look.set(Hang(1.0, 10.0, 34.0))
    assert not look.levels.any() and look.turn_s < look_at(made_patch(TRYING)).turn_s


def test_a_picture_that_is_turned_shows_things_at_the_wrong_bearing():
    def bearing_of(off: float) -> float:
        look = look_at(flat(9.4, standing=(Standing("boulder", 0.0, 12.0, 1.4, 2.0, 2.0),)), Hang(off_deg=off))
        look.advance(look.turn_s)
        return max(find_marks(look.levels, look.seen_s, 20.0), key=lambda one: one.over_db).bearing_deg

    straight, turned = bearing_of(0.0), bearing_of(30.0)
    assert min(straight, 360.0 - straight) < 3.0
    # The mark stands 30 degrees clockwise of north: what lies north is seen 30 degrees anticlockwise of the mark.
    assert turned == pytest.approx(330.0, abs=3.0)
    told = heading_error([Known(0.0, turned)])
    assert told.say == "correct" and np.cos(np.radians(told.corrected(turned))) == pytest.approx(1.0)


# Marks, and what they can be


def test_a_lone_boulder_is_one_thing_that_stays_with_a_shadow_behind_it():
    look = look_at(flat(9.4, "sand", (Standing("boulder", 9.0, 9.0, 1.5, 2.2, 2.2),)))
    look.advance(look.turn_s)
    before = look.levels.copy()
    look.advance(look.turn_s)
    marks = find_marks(look.levels, look.seen_s, 20.0, before)
    thing = thing_at(marks, 45.0, 14.7)
    bearing, away, _ = middle_of(thing)
    assert bearing == pytest.approx(45.0, abs=3.0) and away == pytest.approx(np.hypot(12.7, 7.7), abs=1.0)
    seen = looked_at(thing)
    assert seen.stays == pytest.approx(1.0, abs=0.2) and seen.dark_behind
    found = what_kind(seen)
    assert found[0].kind == "standing" and found[0].chance > 0.8
    assert any("dark behind" in one.text for one in found[0].why)
    assert thing_at(marks, 225.0, 14.7) == [] and find_marks(look.levels, np.full(BEARINGS, -np.inf), 20.0) == []


def test_a_plain_bed_has_hardly_a_mark():
    false = []
    for seed in range(6):
        look = look_at(flat(9.4, "gravel"), seed=seed)
        look.advance(look.turn_s)
        false.append(len(find_marks(look.levels, look.seen_s, 20.0)))
    assert np.mean(false) < 3.0, false


def test_what_swims_has_moved_a_turn_later():
    look = look_at(flat(12.0, groups=(fish([(0.0, 8.0, -6.0), (60.0, 8.0, 24.0)], 3.0, 0.45),)))
    look.advance(look.turn_s)
    before = look.levels.copy()
    look.advance(look.turn_s)
    east, north = look.patch.groups[0].centre(np.array([look.time_s - 6.0]))[0]
    marks = find_marks(look.levels, look.seen_s, 20.0, before)
    thing = thing_at(marks, float(np.degrees(np.arctan2(east, north)) % 360), float(np.hypot(east, north)))
    assert thing and looked_at(thing).stays == 0.0


@pytest.mark.parametrize(
    ("seen", "kind"),
    [
        (Seen(14, 1.6, None, 0.0), "school"),
        (Seen(3, 1.4, None, 0.0), "hunters"),
        (Seen(1, 0.0, 0.2, 1.0), "single fish"),
        (Seen(1, 0.0, 2.5, 1.0, True), "standing"),
    ],
)
def test_by_hand_too_the_plain_cases_are_called_for_what_they_are(seen, kind):
    found = what_kind(seen)
    assert found[0].kind == kind and sum(one.chance for one in found) == pytest.approx(1.0)
    assert {one.kind for one in found} == set(THINGS) and all(one.why for one in found)


def test_on_made_up_water_the_likeliest_is_right_far_more_often_than_by_chance():
    calls = [one for seed in range(TRYING, TRYING + 25) for one in touched_things(seed)]
    right = [what_kind(seen)[0].kind == kind for kind, seen in calls if seen is not None]
    assert len(right) > 60 and np.mean(right) > 0.6


# The heading


def test_the_heading_check_against_round_the_circle_means():
    straight = heading_error([Known(10.0, 11.0, 3.0)])
    assert straight.say == "straight" and straight.error_deg == pytest.approx(1.0)
    off = heading_error([Known(350.0, 12.0, 3.0), Known(90.0, 110.0, 3.0)])
    assert off.say == "correct" and off.error_deg == pytest.approx(21.0, abs=0.1)
    assert off.sd_deg == pytest.approx(3.0 / np.sqrt(2.0)) and off.corrected(5.0) == pytest.approx(344.0, abs=0.1)
    assert "clockwise" in off.why.text
    parted = heading_error([Known(0.0, 0.0, 2.0), Known(90.0, 150.0, 2.0)])
    assert parted.say == "look again"
    with pytest.raises(ValueError, match="known has 0 entries"):
        heading_error([])


def test_an_error_that_is_there_is_found_and_one_that_is_not_is_seldom_reported():
    rng, found, false = np.random.default_rng(8), [], 0
    for _ in range(400):
        error = float(rng.uniform(10.0, 40.0)) * rng.choice([-1.0, 1.0])
        true = float(rng.uniform(0.0, 360.0))
        told = heading_error([Known(true, true + error + float(rng.normal(0.0, 3.0)), 3.0)])
        found.append(told.say == "correct" and abs(told.error_deg - error) < 3.0 * 3.0)
        false += heading_error([Known(true, true + float(rng.normal(0.0, 3.0)), 3.0)]).say == "correct"
    assert np.mean(found) > 0.97 and false / 400 < 0.08  # two deviations leave 4.6 %


# Fewer holes


@pytest.mark.parametrize("shore", [[(0, 0), (300, 0), (320, 150), (100, 220), (-40, 120)],
                                   [(0, 0), (100, 0), (100, 10), (20, 10), (20, 90), (0, 90)]])  # fmt: skip
def test_every_place_of_a_basin_is_in_sight_of_some_look(shore):
    basin = shapely.Polygon(shore)
    told = cover(shore, 18.3, 1.0)
    rng = np.random.default_rng(5)
    west, south, east, north = basin.bounds
    tried = rng.uniform((west, south), (east, north), (20_000, 2))
    tried = tried[shapely.contains_xy(basin, *tried.T)]
    away = np.hypot(*(tried[:, None] - told.looks).transpose(2, 0, 1)).min(axis=1)
    assert away.max() <= 18.3 * 1.002
    assert shapely.contains_xy(basin.buffer(0.01), *told.looks.T).all(), "nobody drills on land"
    assert told.water_m2 == pytest.approx(basin.area)


def test_a_wide_basin_needs_about_as_many_looks_as_kershner_says():
    """Kershner 1939: the best cover of a plane is 2 pi / sqrt 27 deep; a rim needs some more."""
    told = cover([(0, 0), (1000, 0), (1000, 1000), (0, 1000)], 20.0, 1.0)
    least = 1e6 / (np.pi * 20.0**2) * 2 * np.pi / np.sqrt(27)
    assert least < len(told.looks) < 1.15 * least
    assert told.blind == pytest.approx(1e6 / (1.5 * np.sqrt(3.0)), abs=1)
    with pytest.raises(ValueError, match="shore encloses"):
        cover([(0, 0), (1, 1)], 18.0, 1.0)
    with pytest.raises(ValueError, match="look_radius_m is 0"):
        cover([(0, 0), (9, 0), (0, 9)], 0.0, 1.0)


# To the Bench


def test_under_the_new_hole_is_the_water_that_was_looked_at():
    patch = flat(9.4, "gravel", (Standing("boulder", 31.0, 20.0, 1.1, 2.0, 2.0),),
                 (fish([(0.0, 0.0, 21.0), (100.0, 30.0, 21.0)], 5.0, 0.4),))  # fmt: skip
    told = under_hole(patch, 30.0, 20.0, 40.0)
    assert told.scene.bottom_depth_m == pytest.approx(9.4) and told.scene.bottom_kind == "gravel"
    assert [one.kind for one in told.scene.structures] == ["boulder"]
    (comer,) = told.comers
    # It swims 0.3 m/s eastwards 1 m north of the hole and stops above it: 4 m off after (30 - sqrt(15)) / 0.3 s.
    assert comer.at_s == pytest.approx((30.0 - np.sqrt(15.0)) / 0.3 - 40.0, abs=0.6)
    assert comer.away_m == pytest.approx(SIGHT_M, abs=0.2) and comer.speed_m_s == pytest.approx(0.3)
    assert (comer.species, comer.length_m, comer.home_m) == ("char", 0.4, 5.0)
    # Where it starts and how it heads, as the fish's own room has it, is past the hole on the side where it passes.
    start = comer.away_m * np.array([np.cos(comer.bearing_rad), np.sin(comer.bearing_rad)])
    heading = np.arctan2(-start[1], -start[0]) + np.arcsin(comer.miss_m / comer.away_m)
    assert start == pytest.approx([-np.sqrt(15.0), 1.0], abs=0.2)
    assert (np.cos(heading), np.sin(heading)) == pytest.approx((1.0, 0.0), abs=0.03)


def test_off_the_water_no_hole_is_drilled():
    with pytest.raises(ValueError, match="accepted is a place in the water looked at"):
        under_hole(flat(), 500.0, 0.0, 0.0)
    with pytest.raises(ValueError, match="too shallow"):
        under_hole(flat(1.0), 0.0, 0.0, 0.0)
