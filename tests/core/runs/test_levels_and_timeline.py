"""Every level's water, who comes in it and how it is set; and the time line of a run, told from beats by hand."""

from __future__ import annotations

from dataclasses import replace

import pytest

from hollow_glint.core.bench.frame import STEP_S
from hollow_glint.core.checks import InputError
from hollow_glint.core.fish.events import FishTruth
from hollow_glint.core.fish.rod import LINES, Tip
from hollow_glint.core.fish.traits import EVERY, MOODS
from hollow_glint.core.gear.profiles import TRAIL_UNIT
from hollow_glint.core.runs.levels import LEVELS
from hollow_glint.core.runs.replay import Beat
from hollow_glint.core.runs.run_log import LONGEST_S
from hollow_glint.core.runs.start import set_up
from hollow_glint.core.runs.timeline import TELLING, nearest_fish, timeline
from hollow_glint.core.tuning.situation import situation_at

SEEDS = (1, 2, 3)


@pytest.mark.parametrize("key", LEVELS)
@pytest.mark.parametrize("seed", SEEDS)
def test_all_that_come_come_in_time_in_order_and_in_the_water(key, seed):
    setup = set_up(key, seed)
    times = [fish.at_s for fish in setup.schedule]
    assert times == sorted(times) and times and times[0] >= 0.0 and times[-1] < LONGEST_S
    for fish in setup.schedule:
        assert setup.scene.ice_thickness_m < fish.home_m < setup.scene.bottom_depth_m
    assert setup.small == sum(fish.length_m < EVERY["nip_m"] for fish in setup.schedule)
    assert setup.scene.ice_thickness_m < setup.lure_depth_m < setup.goal_m < setup.scene.bottom_depth_m


@pytest.mark.parametrize("key", LEVELS)
def test_the_same_seed_is_the_same_run_and_another_another(key):
    assert set_up(key, 4) == set_up(key, 4)
    assert set_up(key, 4).schedule != set_up(key, 5).schedule


@pytest.mark.parametrize("key", LEVELS)
def test_a_spoiled_start_has_its_gain_outside_the_window_and_no_help_on(key):
    for seed in SEEDS:
        setup = set_up(key, seed, start="spoiled")
        limits = situation_at(setup.scene, setup.unit, setup.settings, setup.lure, setup.goal_m).limits
        assert not limits.floor <= setup.settings.gain <= limits.ceiling
        assert setup.settings.rejection == 0 and setup.settings.bottom_window_m == setup.settings.free_window_m == 0.0
        assert setup.settings == setup.settings.checked(setup.unit)


@pytest.mark.parametrize("mood", MOODS)
@pytest.mark.parametrize("line", LINES)
def test_mood_and_line_are_as_they_are_asked_for(mood, line):
    setup = set_up("willing", 1, mood=mood, line=line)
    assert setup.day.mood == mood and setup.line == line


def test_a_levels_own_water_unit_and_lure_give_way_to_those_asked_for():
    own = set_up("willing", 1)
    scene = replace(own.scene, bottom_depth_m=6.0)
    mine = set_up("willing", 1, scene=scene, unit=TRAIL_UNIT, lure=replace(own.lure, name="mine"))
    assert (mine.scene.bottom_depth_m, mine.unit, mine.lure.name) == (6.0, TRAIL_UNIT, "mine")


@pytest.mark.parametrize(
    ("given", "field"),
    [({"key": "none"}, "level"), ({"mood": "merry"}, "mood"), ({"start": "odd"}, "start"), ({"line": "rope"}, "line")],
)
def test_what_is_not_known_is_refused_by_name(given, field):
    with pytest.raises(InputError, match=field):
        set_up(**{"key": "willing", "seed": 1, **given})


def test_water_too_deep_for_the_unit_is_refused():
    own = set_up("willing", 1)
    with pytest.raises(InputError, match="bottom_depth_m is 50 m"):
        set_up(
            "willing", 1, scene=replace(own.scene, bottom_depth_m=50.0), unit=replace(own.unit, ranges_m=(5.0, 20.0))
        )


# --- the time line -------------------------------------------------------------------------------------------------


def beat(k: int, says="still", bend=0.1, eyes="sonar", rising=0.0, fish=()) -> Beat:
    return Beat(round((k + 1) * STEP_S, 6), 7.0 - 0.01 * k, rising, 0.0, eyes, Tip(says, bend), Tip(), fish, ())


def a_fish(who: int, z: float, x: float = 0.0, mood="curious") -> FishTruth:
    return FishTruth(x, 0.0, z, 0.3, mood, "char", who=who)


def test_it_is_told_every_fifth_of_a_second():
    told = timeline([beat(k) for k in range(42)])
    assert len(told.time_s) == len(told.lure_m) == len(told.tip) == len(told.bend) == 11
    assert told.time_s[:3] == (0.05, 0.25, 0.45) and told.lure_m[1] == pytest.approx(6.96)


def test_a_tap_between_two_moments_is_not_lost():
    beats = [beat(k) for k in range(12)]
    beats[6] = beat(6, "tap", 0.6)
    told = timeline(beats)
    assert told.tip == ("still", "tap", "still") and told.bend == (0.1, 0.6, 0.1)


def test_of_several_signs_in_a_moment_the_most_telling_is_told():
    for k, first in enumerate(TELLING):
        for second in TELLING[k + 1 :]:
            assert timeline([beat(0, second), beat(1, first), beat(2), beat(3)]).tip == (first,)


def test_eyes_on_the_rod_are_told_from_when_to_when():
    beats = [beat(k, eyes="rod" if 4 <= k < 10 or k >= 15 else "sonar") for k in range(20)]
    assert timeline(beats).eyes_on_rod == ((0.2, 0.5), (0.75, 1.0))
    assert timeline([beat(k) for k in range(8)]).eyes_on_rod == ()


def test_the_speed_is_the_mean_of_the_moment():
    assert timeline([beat(k, rising=0.4 if k == 1 else 0.0) for k in range(4)]).rising_m_s == (0.1,)


def test_each_fish_is_one_track_by_who_it_is():
    beats = [beat(k, fish=(a_fish(2, 6.0, 1.0), a_fish(1, 5.0)) if k < 8 else (a_fish(1, 5.5),)) for k in range(16)]
    tracks = {round(track.depth_m[0], 1): track for track in timeline(beats).tracks}
    assert len(tracks) == 2
    assert tracks[6.0].time_s == (0.05, 0.25) and tracks[6.0].aside_m == (1.0, 1.0)
    assert tracks[5.0].depth_m == (5.0, 5.0, 5.5, 5.5) and tracks[5.0].mood == ("curious",) * 4


def test_the_nearest_fish_is_the_one_at_the_lures_height_and_not_far_aside():
    near, high, aside = a_fish(1, 6.8), a_fish(2, 4.0), a_fish(3, 7.0, 1.6)
    assert nearest_fish([beat(0, fish=(high, near, aside))]) == (6.8,)
    assert nearest_fish([beat(0, fish=(aside,))]) == (None,)
    assert nearest_fish([beat(0)]) == (None,)
