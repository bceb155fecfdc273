"""The gain window of a fan, held against the pictures themselves; and the coach, whose changes settle what it finds."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from hollow_glint.core.checks import InputError
from hollow_glint.core.fan.coach import RULES, fan_verdicts, turn_out_of_strip, with_change
from hollow_glint.core.fan.head import FAN_HEADS, FAR_REACH, NEAR_REACH, FanHang
from hollow_glint.core.fan.look import FanLook
from hollow_glint.core.fan.picture import places
from hollow_glint.core.fan.settings import FanSettings
from hollow_glint.core.fan.situation import FanSituation
from hollow_glint.core.fan.swimmers import HungLure
from hollow_glint.core.fan.water import fan_water
from hollow_glint.core.fan.window import Sought, gain_window, smallest_fish
from hollow_glint.core.wording import Change

from ..search.waters import fish, flat

HEADS = pytest.mark.parametrize("head", FAN_HEADS.values(), ids=lambda one: one.name)
MUD, SAND, GRAVEL = flat(9.4), flat(9.4, "sand"), flat(9.4, "gravel")
AHEAD, DOWN = FanHang(depth_m=0.9), FanHang(depth_m=0.9, mounting="down")
SEARCH = FanSettings(ahead_m=22.0, deep_m=10.5)
FISH = FanSettings(ahead_m=8.0, behind_m=8.0, deep_m=10.5)
JIG = Sought(lure_depth_m=6.0, lure_ahead_m=1.0, away_m=6.0, fish_depth_m=6.0)


def window(head, settings, sought, hang=AHEAD, patch=MUD, **more):
    return gain_window(fan_water(patch, head, hang, settings.reach_m, **more), head, hang, settings, sought)


def share_seen(look: FanLook, ahead_m: float, depth_m: float, within_m: float = 0.5) -> float:
    """Share of frames in which something is lit within so far of a place."""
    ahead, deep = places(look.water, look.head, look.hang, look.settings)
    there = np.hypot(ahead - ahead_m, deep - depth_m) < within_m
    return float(np.mean([(frame.steps[there] > 0).any() for frame in look.frames]))


@HEADS
def test_from_the_floor_up_the_lure_shows_and_below_it_does_not(head):
    lure = HungLure(0.0, 1.0, 6.0, 0.0)
    floor = window(head, FISH, JIG).lure_floor
    seen = []
    for gain in (floor - 4.0, floor + 1.5):
        look = FanLook(MUD, head, AHEAD, replace(FISH, gain_db=gain), np.random.default_rng(3), (lure,))
        look.advance(1.0)
        seen.append(share_seen(look, 1.0, 6.0))
    assert seen[0] < 0.2 and seen[1] > 0.8


@HEADS
def test_a_fish_shows_in_most_frames_at_its_floor(head):
    """One that swims 72 degrees off the way of the sound is as loud as all ways in the mean (the aspect's law)."""
    way = 30.0 * np.array([np.sin(np.radians(72.0)), np.cos(np.radians(72.0))]) / 10.0
    swims = fish([(0.0, -way[0], 14.0 - way[1]), (100.0, way[0], 14.0 + way[1])], 5.0, 0.3)
    patch = replace(MUD, groups=(swims,))
    sought = Sought(away_m=14.0, fish_depth_m=5.0, fish_m=0.3)
    shares = []
    for off in (-8.0, 1.5):
        settings = replace(SEARCH, gain_db=max(window(head, SEARCH, sought).fish_floor + off, 0.0))
        look = FanLook(patch, head, AHEAD, settings, np.random.default_rng(4), (), 48.8)
        look.advance(2.4)
        shares.append(share_seen(look, 14.0, 5.0, 0.8))
    assert shares[1] > 0.7 and shares[0] < 0.5 * shares[1]


@HEADS
@pytest.mark.parametrize("clarity", ["clear", "plankton"])
def test_at_the_ceiling_the_water_begins_to_light(head, clarity):
    patch = replace(flat(60.0), clarity=clarity)
    settings = replace(SEARCH, deep_m=9.0)
    ceiling = window(head, settings, Sought(), patch=patch).ceiling
    lit = []
    for gain in (ceiling - 1.0, ceiling + 6.0):
        look = FanLook(patch, head, AHEAD, replace(settings, gain_db=gain), np.random.default_rng(5))
        look.advance(0.3)
        ahead, deep = places(look.water, head, AHEAD, settings)
        water = (deep > 4.0) & (deep < 8.8) & (ahead > 20.0) & (ahead < 22.0)  # where it is brightest
        lit.append(np.mean([(frame.steps[water] > 0).mean() for frame in look.frames]))
    assert lit[0] < 0.05 and lit[1] > 2.0 * lit[0] and lit[1] > 0.03


def test_the_trades_rules_follow():
    """Deeper and clearer more, shallow and murky less, less as night falls; rich more than clean (common practice, no
    source)."""
    clear, murky = (replace(SAND, clarity=one) for one in ("clear", "murky"))
    jig = replace(JIG, lure_depth_m=4.0)
    assert (
        window(NEAR_REACH, FISH, replace(jig, lure_depth_m=8.0)).lure_floor > window(NEAR_REACH, FISH, jig).lure_floor
    )
    advised = [window(NEAR_REACH, FISH, jig, patch=patch).advised for patch in (clear, murky)]
    assert advised[0] > advised[1]
    night = window(NEAR_REACH, FISH, jig, patch=clear, risen_db=-62.0).advised
    assert night < advised[0] - 1.0
    rich = window(NEAR_REACH, FISH, replace(jig, liking="rich"), patch=clear)
    assert rich.advised > advised[0] + 2.0 and rich.floor <= rich.advised <= rich.ceiling


def test_the_floor_is_higher_in_a_weak_strip_by_what_steering_costs():
    """The jig 22.5 degrees off straight down, where two sub-arrays meet, against one 10 degrees off."""
    floors = []
    for off in (10.0, 22.5):
        a = np.radians(off)
        place = replace(JIG, lure_ahead_m=6.0 * np.sin(a), lure_depth_m=0.9 + 6.0 * np.cos(a))
        floors.append(window(NEAR_REACH, FISH, place, DOWN).lure_floor)
    assert 4.0 < floors[1] - floors[0] < 9.0


@HEADS
def test_smaller_fish_show_nearer(head):
    settings = replace(SEARCH, gain_db=16.0)
    here = fan_water(MUD, head, AHEAD, settings.reach_m)
    lengths = [smallest_fish(here, head, AHEAD, settings, away) for away in (5.0, 12.0, 20.0)]
    assert None not in lengths and lengths == sorted(lengths) and lengths[0] < lengths[2]
    assert smallest_fish(here, head, AHEAD, replace(settings, gain_db=0.0, weak_steps=12), 20.0) is None


def situation(head=NEAR_REACH, hang=AHEAD, settings=SEARCH, sought=None, job="search", patch=MUD, dark=False, **more):
    sought = sought or (JIG if job == "fish" else Sought(away_m=18.0, lure_depth_m=6.0))
    here = fan_water(patch, head, hang, settings.reach_m, **more)
    return FanSituation(here, head, hang, settings, sought, job, dark)


def good(head=NEAR_REACH, job="search", hang=AHEAD, **more):
    """A situation in which nothing is wrong: the gain advised, and the rest as it should be."""
    settings = FISH if job == "fish" else SEARCH
    settings = replace(settings, strong_db=60.0, repeats=1)
    first = situation(head, hang, settings, job=job, **more)
    return replace(settings, gain_db=first.window.advised), first.sought


def strip(turned=0.0):
    """A jig 7.5 degrees off straight down: where the last two parts of a fan that looks ahead meet."""
    a, t = np.radians(7.5), np.radians(turned)
    out = 6.0 * np.sin(a)
    return replace(JIG, lure_ahead_m=out * np.cos(t), lure_aside_m=out * np.sin(t), lure_depth_m=0.9 + 6.0 * np.cos(a))


def bad(code):
    """A situation in which this is wrong."""
    settings, sought = good()
    fishing, _ = good(job="fish")
    weak = situation(settings=fishing, sought=strip(), job="fish").window.lure_floor
    far, far_sought = good(FAR_REACH)
    floor = situation(settings=fishing, job="fish").window.lure_floor
    made = {
        "head inside the ice": lambda: situation(hang=replace(AHEAD, depth_m=0.2), settings=settings),
        "head not level": lambda: situation(hang=replace(AHEAD, nose_up_deg=6.0), settings=settings),
        "handle out of line": lambda: situation(FAR_REACH, replace(AHEAD, off_deg=20.0), far, far_sought),
        "lure in a weak strip": lambda: situation(
            settings=replace(fishing, gain_db=weak - 1.0), sought=strip(), job="fish"
        ),
        "reach too long": lambda: situation(settings=replace(fishing, ahead_m=30.0), job="fish"),
        "reach too short": lambda: situation(settings=replace(settings, ahead_m=10.0)),
        "repeats look like fish": lambda: situation(
            FAR_REACH, settings=replace(far, repeats=0, gain_db=45.0, ahead_m=12.0), patch=GRAVEL
        ),
        "damping hides the lure": lambda: situation(
            settings=replace(fishing, gain_db=floor + 1.0, damping_m=8.0), job="fish"
        ),
        "weak end hides the lure": lambda: situation(
            settings=replace(fishing, gain_db=floor + 1.0, weak_steps=6), job="fish"
        ),
        "all fish look large": lambda: situation(settings=replace(settings, strong_db=12.0)),
        "water too bright": lambda: situation(settings=replace(settings, gain_db=68.0)),
        "gain too low": lambda: situation(settings=replace(fishing, gain_db=5.0), job="fish"),
        "clutter hides small fish": lambda: situation(
            settings=replace(settings, clutter=3), sought=replace(sought, fish_m=0.05),
            risen_db=-52.0,
        ),
        "tails too long": lambda: situation(settings=replace(fishing, tails=3), job="fish"),
        "screen too bright for the dark": lambda: situation(settings=settings, dark=True),
    }  # fmt: skip
    return made[code]()


@pytest.mark.parametrize("job", ["search", "fish"])
@HEADS
def test_where_nothing_is_wrong_the_coach_is_silent(head, job):
    settings, sought = good(head, job)
    assert fan_verdicts(situation(head, settings=settings, sought=sought, job=job)) == ()


@pytest.mark.parametrize("code", RULES)
def test_the_coach_finds_it_and_its_change_settles_it(code):
    wrong = bad(code)
    found = {one.code: one for one in fan_verdicts(wrong)}
    assert code in found, sorted(found)
    verdict = found[code]
    for name in verdict.values:
        assert f"{{{name}}}" in verdict.finding + verdict.reason, name
    for _ in range(3):  # a step at a time where the change is a step
        hang, settings = with_change(wrong.hang, wrong.settings, found[code].change)
        here = fan_water(MUD if code != "repeats look like fish" else GRAVEL, wrong.head, hang, settings.reach_m)
        if code == "clutter hides small fish":
            here = wrong.here
        sought = wrong.sought
        if code == "lure in a weak strip" and hang.aim_deg != wrong.hang.aim_deg:
            sought = strip(-(hang.aim_deg - wrong.hang.aim_deg))
        wrong = FanSituation(here, wrong.head, hang, settings, sought, wrong.job, wrong.dark)
        found = {one.code: one for one in fan_verdicts(wrong)}
        if code not in found:
            return
    raise AssertionError(found[code])


def test_a_jig_lost_in_the_strip_is_found_again_by_the_turn_that_the_coach_names():
    """In the picture itself, not by the coach's own sums."""
    wrong = bad("lure in a weak strip")
    turn = turn_out_of_strip(wrong)
    assert turn is not None
    place = wrong.sought
    lure = HungLure(place.lure_aside_m, place.lure_ahead_m, place.lure_depth_m, 0.0)
    shares = []
    for aim in (0.0, turn % 360.0):
        hang = replace(AHEAD, aim_deg=aim)
        look = FanLook(MUD, NEAR_REACH, hang, wrong.settings, np.random.default_rng(8), (lure,))
        look.advance(1.0)
        shares.append(
            share_seen(
                look,
                place.lure_ahead_m * np.cos(np.radians(turn)) if aim else place.lure_ahead_m,
                place.lure_depth_m,
                0.5,
            )
        )
    assert shares[0] < 0.35 and shares[1] > 0.8


def test_beside_straight_down_another_depth_of_the_head_helps():
    """A fan that looks down has its strips 22.5 degrees to both sides: no turn helps there, another depth does."""
    a = np.radians(22.5)
    place = replace(JIG, lure_ahead_m=6.0 * np.sin(a), lure_depth_m=0.9 + 6.0 * np.cos(a))
    first = situation(hang=DOWN, settings=good(job="fish")[0], sought=place, job="fish")
    wrong = situation(
        hang=DOWN, settings=replace(first.settings, gain_db=first.window.lure_floor - 1.0), sought=place, job="fish"
    )
    found = fan_verdicts(wrong)[0]
    assert found.code == "lure in a weak strip" and found.change.setting == "depth_m"
    hang, settings = with_change(wrong.hang, wrong.settings, found.change)
    assert "lure in a weak strip" not in {
        one.code for one in fan_verdicts(situation(hang=hang, settings=settings, sought=place, job="fish"))
    }


def test_a_change_that_is_nobodys_is_refused():
    with pytest.raises(InputError, match="setting is 'kick'"):
        with_change(AHEAD, SEARCH, Change("kick", True))
    assert with_change(AHEAD, SEARCH, Change("looks_down", True))[0].mounting == "down"
    assert with_change(AHEAD, SEARCH, Change("repeats", 2.0))[1].repeats == 2
