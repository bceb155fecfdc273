"""Searching for real: the scenes hold what they say, a search is kept whole, marks are judged by the truth, and the
debrief names only what stood in the same pictures."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from hollow_glint.core.search.look import Look
from hollow_glint.core.search.made import seen_from
from hollow_glint.core.search.patch import Standing
from hollow_glint.core.search.sweep import Hang, TurningHead
from hollow_glint.core.searches.debrief import debrief, first_told, judged
from hollow_glint.core.searches.scenes import APART_M, HOLES_M, LASTS_FOR_S, ROAM_M, SCENES, SCHOOLS, scene_water
from hollow_glint.core.searches.searched import HungFrom, MarkedSchool, Searched, Watched, look_from, turns_of
from hollow_glint.core.searches.searcher import next_hole, search

SEED = 5  # of these tests alone
USUAL = Hang()


def watch(east_m: float, north_m: float, from_s: float, until_s: float, *hangs: tuple[float, Hang]) -> Watched:
    return Watched(east_m, north_m, from_s, until_s, tuple(HungFrom(*one) for one in (hangs or ((from_s, USUAL),))))


def seen_in_picture(water, k: int, one: Watched, time_s: float) -> MarkedSchool:
    """The mark of someone who knows where a group is."""
    fish = water.groups[k].places(np.array([time_s]))[0].mean(axis=0)
    east, north = fish[0] - one.east_m, fish[1] - one.north_m
    away = float(np.hypot(np.hypot(east, north), fish[2] - one.hangs[0].hang.depth_m))
    return MarkedSchool(time_s, float(np.degrees(np.arctan2(east, north)) % 360.0), away)


@pytest.mark.parametrize("key", SCENES)
def test_a_scene_holds_three_schools_apart_and_what_it_says(key):
    scene = SCENES[key]
    for seed in range(20):
        water = scene_water(scene, seed)
        kinds = [group.kind for group in water.groups]
        assert kinds == ["school"] * SCHOOLS + ["hunters"] * scene.hunters + ["single"] * scene.singles
        assert len(water.standing) == scene.things and {one.kind for one in water.standing} <= set(scene.stands)
        times = np.arange(0.0, LASTS_FOR_S, 10.0)
        ways = np.array([group.centre(times) for group in water.groups[:SCHOOLS]])
        middles = ways.mean(axis=1)
        # The wandering of a mean about the middle of its ground is small beside what the grounds are apart.
        apart = np.hypot(*(middles[:, None] - middles).transpose(2, 0, 1)) + 1e9 * np.eye(SCHOOLS)
        assert apart.min() > APART_M - ROAM_M
        assert np.hypot(*ways[0].T).min() < 25.0 + ROAM_M  # one may be seen from the first hole
        for group in water.groups[:SCHOOLS]:
            assert group.length_m.size >= 10 and group.length_m.min() >= 0.2
            bed = water.depth_at(*group.centre(times).T)
            assert (bed > group.depth_m).mean() > 0.99
    a, b = scene_water(scene, 3), scene_water(scene, 3)
    assert np.array_equal(a.grid.depth_m, b.grid.depth_m) and np.array_equal(
        a.groups[0].corners_m, b.groups[0].corners_m
    )
    assert not np.array_equal(a.grid.depth_m, scene_water(scene, 4).grid.depth_m)


def test_the_pictures_of_a_search_can_be_looked_at_again():
    """Live, in steps of a tenth of a second and hung anew now and then, and again from what was written down."""
    water = scene_water(SCENES["wood"], SEED)
    deeper, near = replace(USUAL, depth_m=1.5), replace(USUAL, depth_m=1.5, range_m=15.0)
    live = Look(seen_from(water, 20.0, -10.0), TurningHead(), USUAL, np.random.default_rng([SEED, 1]), 200.0)
    for frame in range(400):
        if frame == 123:
            live.set(deeper)
        if frame == 260:
            live.set(near)
        live.advance(0.1)
    one = watch(20.0, -10.0, 200.0, 240.0, (200.0, USUAL), (212.3, deeper), (226.0, near))
    again = look_from(water, one, SEED)
    for again in turns_of(water, one, SEED):  # noqa: B007 - the last turn's
        pass
    again.advance(one.until_s - again.time_s)
    assert again.hang == live.hang == near
    assert np.allclose(again.seen_s, live.seen_s, atol=1e-6)
    assert (again.levels != live.levels).mean() < 1e-3


def test_marks_are_judged_where_they_were_made():
    water = scene_water(SCENES["company"], SEED)
    one = watch(0.0, 0.0, 0.0, 600.0)
    marks = [seen_in_picture(water, 0, one, 30.0), seen_in_picture(water, 0, one, 90.0)]
    marks += [seen_in_picture(water, k, one, 60.0) for k in (1, SCHOOLS, SCHOOLS + 2)]
    marks.append(MarkedSchool(100.0, 0.0, 0.2))
    found = judged(Searched("company", SEED, (one,), tuple(marks)), water)
    by_time = {round(mark.at_s): mark for mark in found if mark.at_s != 60.0}
    assert (by_time[30].what, by_time[30].school, by_time[30].again) == ("school", 0, False)
    assert (by_time[90].school, by_time[90].again) == (0, True)
    assert by_time[100].what == "nothing" and by_time[100].school is None
    assert sorted(mark.what for mark in found if mark.at_s == 60.0) == ["hunters", "school", "single fish"]
    truly = water.groups[0].places(np.array([30.0]))[0].mean(axis=0)
    assert np.hypot(by_time[30].east_m - truly[0], by_time[30].north_m - truly[1]) < 0.1


def test_what_stands_is_named():
    water = replace(
        scene_water(SCENES["open"], SEED), groups=(), standing=(Standing("crib", 12.0, 5.0, 1.2, 2.0, 2.0),)
    )
    one = watch(0.0, 0.0, 0.0, 100.0)
    depth = float(water.depth_at(np.array([12.0]), np.array([5.0]))[0])
    away = float(np.hypot(13.0, depth - 0.6 - USUAL.depth_m))
    mark = MarkedSchool(50.0, float(np.degrees(np.arctan2(12.0, 5.0))), away)
    (found,) = judged(Searched("open", SEED, (one,), (mark,)), water)
    assert (found.what, found.school, found.east_m, found.north_m) == ("crib", None, 12.0, 5.0)
    (off,) = judged(Searched("open", SEED, (one,), (replace(mark, bearing_deg=200.0),)), water)
    assert off.what == "nothing"


def test_a_hole_that_is_come_back_to_is_one_hole_and_need_not_be_drilled_again():
    here, there = watch(0.0, 0.0, 0.0, 100.0), watch(24.0, 0.0, 210.0, 300.0)
    back = watch(0.0, 0.0, 320.0, 400.0)
    kept = Searched("open", SEED, (here, there, back))
    assert [len(hole) for hole in kept.holes] == [2, 1]
    assert (kept.walked_m, kept.watched_s) == (48.0, 270.0)
    with pytest.raises(ValueError, match=r"watches\[1\].from_s is 205 s: accepted is 210 s and later"):
        Searched("open", SEED, (here, replace(there, from_s=205.0, hangs=(HungFrom(205.0, USUAL),))))


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"watches": ()}, "watches"),
        ({"watches": (watch(3.0, 0.0, 0.0, 100.0),)}, r"watches\[0\] is not at the first hole"),
        ({"marks": (MarkedSchool(500.0, 0.0, 5.0),)}, r"marks\[0\].at_s is 500 s"),
        ({"scene": "sea"}, "scene is 'sea'"),
        ({"seed": -1}, "seed"),
    ],
)
def test_a_search_that_cannot_have_been_is_refused(change, says):
    with pytest.raises(ValueError, match=says):
        replace(Searched("open", SEED, (watch(0.0, 0.0, 0.0, 100.0),)), **change)


@pytest.mark.parametrize("hangs", [[(50.0, USUAL), (20.0, USUAL)], [(0.0, USUAL), (130.0, USUAL)]])
def test_hangs_out_of_order_or_after_the_watch_are_refused(hangs):
    with pytest.raises(ValueError, match=r"hangs\.at_s"):
        watch(0.0, 0.0, 0.0, 100.0, *hangs)


def test_the_next_hole_shows_what_was_not_looked_at():
    first = next_hole(np.zeros((1, 2)), np.zeros(2))
    assert 40.0 < np.hypot(*first) < 70.0 and np.abs(first).max() <= HOLES_M
    second = next_hole(np.array([[0.0, 0.0], first]), first)
    assert np.hypot(*(second - first)) > 30.0 and np.hypot(*second) > 30.0


def test_the_debrief_says_only_what_the_pictures_held():
    """Whoever watched too short for the eye is not told that a school could be seen; whoever watched long is."""
    way = search(SCENES["open"], SEED)
    found = {one.school for one in judged(way.searched, way.searched.water())} - {None}
    blind = debrief(replace(way.searched, marks=()))
    missed = [one for one in blind.schools if one.told_s is not None]
    assert (blind.own.found, blind.other.found) == (0, len(found)) and len(missed) >= len(found) > 0
    assert blind.own.holes[0].watched_s == blind.other.holes[0].watched_s
    for one in missed:
        at = blind.own.holes[one.told_hole]
        assert at.from_s + 20.0 < one.told_s <= at.until_s
        assert any("you did not mark it" in said.text for said in blind.said)
    glance = Searched("open", SEED, (watch(0.0, 0.0, 0.0, 12.0),))
    assert first_told(glance, glance.water()) == {}
    said = debrief(glance).said
    (left,) = [one.values["left"] for one in said if "left" in one.values]
    assert (left.value, left.unit) == (LASTS_FOR_S - 12.0, "m:ss")
    assert any("three turns" in one.text for one in said) and not any("did not mark" in one.text for one in said)


def test_the_searcher_keeps_the_rules_and_finds_most_in_open_water():
    """Seeds that nothing was chosen on. Its own search is held against the same rules as anyone's."""
    found = []
    for seed in range(60, 64):
        way = search(SCENES["open"], seed)
        water = way.searched.water()
        marks = judged(way.searched, water)
        found.append(len({one.school for one in marks} - {None}))
        assert max(one.until_s for one in way.searched.watches) <= LASTS_FOR_S
    assert np.mean(found) >= 1.5
