"""Searching for real with the fan: marks are judged by what a plane can tell, the eye says only what a touch would have
measured, and where one has both heads the fan's marks alone count."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from hollow_glint.core.fan.card import FanKnown, fan_card
from hollow_glint.core.fan.head import FAN_HEADS, FanHang
from hollow_glint.core.fan.look import FanLook
from hollow_glint.core.fan.measure import measured
from hollow_glint.core.search.made import seen_from
from hollow_glint.core.search.sweep import Hang
from hollow_glint.core.searches import debrief as debriefs
from hollow_glint.core.searches.debrief import judged
from hollow_glint.core.searches.fan_eye import told_in_fan
from hollow_glint.core.searches.fan_scan import Scan
from hollow_glint.core.searches.scenes import SCENES, SCHOOLS, scene_water
from hollow_glint.core.searches.searched import AimedFrom, HungFrom, MarkedSchool, Searched, Watched
from hollow_glint.core.searches.searcher import Way, search

SEED = 5  # of these tests alone
NEAR = FAN_HEADS["near reach"]
CIRCLE_THEN_FAN = "circle then fan"


@pytest.fixture
def alone(monkeypatch):
    """Debriefs without the other's search, which takes its time and is tested by itself."""

    def mine(searched: Searched):
        monkeypatch.setattr(debriefs, "search", lambda scene, seed, tell: Way(searched, ()))
        return debriefs.debrief(searched)

    return mine


def set_for(scene: str, head: str = "near reach"):
    water = scene_water(SCENES[scene], SEED)
    return fan_card(FanKnown(round(water.bottom_depth_m, 1), "search", water.clarity), FAN_HEADS[head]).settings


def aimed(scene: str, from_s: float, until_s: float, aims, head: str = "near reach", **other) -> Watched:
    """A watch at the first hole with a fan aimed at `aims`, (moment, degrees) each."""
    settings = replace(set_for(scene, head), **other)
    return Watched(
        0.0, 0.0, from_s, until_s, (), tuple(AimedFrom(at, head, FanHang(aim_deg=deg), settings) for at, deg in aims)
    )


def bearing_of(water, k: int, time_s: float) -> float:
    fish = water.groups[k].places(np.array([time_s]))[0].mean(axis=0)
    return float(np.degrees(np.arctan2(fish[0], fish[1])) % 360.0)


def mark_of(water, k: int, time_s: float, aim_deg: float, hang: FanHang) -> MarkedSchool:
    """The mark of someone who knows how far through the water a school is, and has the fan at `aim_deg`."""
    fish = water.groups[k].places(np.array([time_s]))[0].mean(axis=0)
    return MarkedSchool(time_s, aim_deg, float(np.linalg.norm(fish - np.array([0.0, 0.0, hang.depth_m]))))


def test_a_mark_within_the_fans_thickness_is_one_and_beside_it_or_behind_is_none():
    water = scene_water(SCENES["plane"], SEED)
    at = 30.0
    bearing = bearing_of(water, 0, at)
    for off, school in ((0.0, 0), (NEAR.thickness_deg / 2.0, 0), (60.0, None), (180.0, None)):
        aim = (bearing + off) % 360.0
        one = aimed("plane", 0.0, 60.0, [(0.0, aim)])
        mark = mark_of(water, 0, at, aim, one.aims[0].hang)
        (found,) = judged(Searched("plane", SEED, (one,), (mark,)), water)
        assert found.school == school, off
        if school is None:
            continue
        # Some metres nearer or farther through the water it is not what was touched.
        (short,) = judged(
            Searched("plane", SEED, (one,), (replace(mark, range_m=max(mark.range_m - 9.0, 0.1)),)), water
        )
        assert short.school is None


def test_what_a_touch_on_the_picture_measures_is_judged_as_the_school():
    """The whole way: the fan's own picture, a touch on a fish of it, the mark as the page makes it of that."""
    water = scene_water(SCENES["plane"], SEED)
    here = seen_from(water, 0.0, 0.0)
    hits = 0
    for at in np.arange(20.0, 120.0, 10.0):
        fish = here.groups[0].places(np.array([at]))[0]
        aim = bearing_of(water, 0, at)
        one = aimed("plane", 0.0, 130.0, [(0.0, aim)])
        (set_so,) = one.aims
        look = FanLook(here, NEAR, set_so.hang, set_so.settings, np.random.default_rng(3), (), at - 0.4)
        look.advance(0.4)
        turn = np.radians(aim)
        ahead = fish[:, 0] * np.sin(turn) + fish[:, 1] * np.cos(turn)
        off = np.abs(fish[:, 0] * np.cos(turn) - fish[:, 1] * np.sin(turn))
        nearest = int(off.argmin())
        if ahead[nearest] > set_so.settings.ahead_m:
            continue
        found = measured(look, float(ahead[nearest]), float(fish[nearest, 2]))
        if found is None:
            continue
        mark = MarkedSchool(at, aim, found.mark.range_m)
        (told,) = judged(Searched("plane", SEED, (one,), (mark,)), water)
        hits += told.school == 0
    assert hits >= 5


def test_the_eye_tells_a_school_that_the_fan_was_held_on_and_none_that_it_was_not():
    water = scene_water(SCENES["plane"], SEED)
    at = bearing_of(water, 0, 30.0)
    assert 0 in told_in_fan(water, aimed("plane", 0.0, 60.0, [(0.0, at)]), SEED)
    away = aimed("plane", 0.0, 60.0, [(0.0, (at + 180.0) % 360.0)])
    assert 0 not in told_in_fan(water, away, SEED)
    # Turned to it in the end it is told from then on, not before.
    late = aimed("plane", 0.0, 60.0, [(0.0, (at + 180.0) % 360.0), (30.0, at)])
    assert 30.0 < told_in_fan(water, late, SEED)[0] <= 60.0
    # Nothing is told of a picture that shows nothing, or does not reach so far.
    assert told_in_fan(water, aimed("plane", 0.0, 60.0, [(0.0, at)], gain_db=0.0), SEED) == {}
    assert told_in_fan(water, aimed("plane", 0.0, 60.0, [(0.0, at)], ahead_m=3.0), SEED) == {}


def test_with_both_heads_only_what_the_fan_has_is_marked(alone):
    water = scene_water(SCENES[CIRCLE_THEN_FAN], SEED)
    round_first = Watched(0.0, 0.0, 0.0, 40.0, (HungFrom(0.0, Hang()),))
    at = bearing_of(water, 0, 50.0)
    then = aimed(CIRCLE_THEN_FAN, 40.0, 80.0, [(40.0, at)])
    mark = mark_of(water, 0, 50.0, at, then.aims[0].hang)
    kept = Searched(CIRCLE_THEN_FAN, SEED, (round_first, then), (mark,))
    assert [len(hole) for hole in kept.holes] == [2]
    told = alone(kept)
    (hole,) = told.own.holes
    assert (told.own.found, told.own.wrong, hole.range_m) == (1, 0, Hang().range_m)
    assert hole.aims == ((round(at / 5.0) * 5.0 % 360.0, then.aims[0].settings.ahead_m),)
    assert not any("aimed the fan without" in one.text or "fan never looked" in one.text for one in told.said)
    with pytest.raises(ValueError, match=r"marks\[0\].at_s is 20 s: accepted are moments .* with the fan"):
        replace(kept, marks=(replace(mark, at_s=20.0),))
    # Without a look all round first, or without the fan, one is told so.
    blind = replace(kept, watches=(replace(then, from_s=0.0, aims=(replace(then.aims[0], at_s=0.0),)),))
    assert any("without a look all round" in one.text for one in alone(blind).said)
    only = replace(kept, watches=(round_first,), marks=())
    assert any("fan never looked" in one.text for one in alone(only).said)


def test_each_scene_has_its_heads_and_no_others():
    with pytest.raises(ValueError, match=r"watches\[0\] is with the fan: accepted in Open basin is circle"):
        Searched("open", SEED, (aimed("plane", 0.0, 10.0, [(0.0, 0.0)]),))
    with pytest.raises(ValueError, match=r"watches\[0\] is with the circle: accepted in .* is fan"):
        Searched("plane", SEED, (Watched(0.0, 0.0, 0.0, 10.0, (HungFrom(0.0, Hang()),)),))
    with pytest.raises(ValueError, match=r"aims\.head is 'near reach': accepted is 'far reach'"):
        Searched("masts", SEED, (aimed("masts", 0.0, 10.0, [(0.0, 0.0)]),))
    with pytest.raises(ValueError, match=r"hangs, aims: accepted is one of them"):
        Watched(0.0, 0.0, 0.0, 10.0)
    with pytest.raises(ValueError, match=r"aims\.at_s is 20 s"):
        aimed("plane", 0.0, 10.0, [(0.0, 0.0), (20.0, 5.0)])
    one = aimed("plane", 0.0, 10.0, [(0.0, 0.0)])
    far = AimedFrom(5.0, "far reach", FanHang(), set_for("masts", "far reach"))
    with pytest.raises(ValueError, match=r"one fan in a watch"):
        replace(one, aims=(*one.aims, far))
    with pytest.raises(ValueError, match="Far reach has no such control"):
        AimedFrom(0.0, "far reach", FanHang(), replace(set_for("masts", "far reach"), tails=2))


def test_the_debrief_of_a_fan_says_what_stood_in_its_plane_unmarked(alone):
    water = scene_water(SCENES["plane"], SEED)
    turned = aimed("plane", 0.0, 240.0, [(4.0 * k, 12.0 * k % 360.0) for k in range(60)])
    told = alone(Searched("plane", SEED, (turned,)))
    could = [k for k, one in enumerate(told.schools) if one.told_s is not None]
    assert could == sorted(told_in_fan(water, turned, SEED)) and len(could) >= 1
    missed = [one for one in told.said if "you did not mark it" in one.text]
    assert len(missed) == len(could) < SCHOOLS + 1
    assert len(told.own.holes[0].aims) >= 25


def test_the_searcher_aims_the_fan_where_the_circle_showed_something():
    """A seed that nothing was chosen on. Its own search is held against the same rules as anyone's."""
    way = search(SCENES[CIRCLE_THEN_FAN], 61)
    heads = [[one.head for one in hole] for hole in way.searched.holes]
    assert all(hole[0] == "circle" for hole in heads) and any("fan" in hole for hole in heads)
    marks = judged(way.searched, way.searched.water())
    assert len({one.school for one in marks} - {None}) >= 1
    assert all(one.school is not None for one in marks)


def test_the_searcher_turns_the_handle_round_and_passes_over_what_stands():
    """One hole of it, on a seed that nothing was chosen on: the school near the first hole, and no timber or brush."""
    water = scene_water(SCENES["plane"], 61)
    watch, told = Scan(water, "near reach", 61).all_round((0.0, 0.0), 0.0, [], SCHOOLS)
    aims = np.array([one.hang.aim_deg for one in watch.aims])
    assert np.diff(aims).max() < NEAR.thickness_deg and aims.max() + NEAR.thickness_deg > 360.0
    marks = judged(Searched("plane", 61, (watch,), tuple(one.mark for one in told)), water)
    assert {one.school for one in marks} == {0}
    # Each is told again to nobody: with it known, nothing is new.
    assert Scan(water, "near reach", 61).all_round((0.0, 0.0), 0.0, told, SCHOOLS)[1] == []
