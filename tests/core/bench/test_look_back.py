"""The water before the start: half a minute of it in one frame, the same water, and what follows goes on from it."""

from __future__ import annotations

import numpy as np
import pytest

from hollow_glint.core.bench.bench_run import BenchRun
from hollow_glint.core.fish.states import Newcomer
from hollow_glint.core.gear.lures import Lure
from hollow_glint.core.gear.profiles import SHIPPED, TRAIL_UNIT
from hollow_glint.core.gear.settings import starting_settings
from hollow_glint.core.hole.contents import Neighbour, Shoal
from hollow_glint.core.hole.scene import Scene

HOLE = Scene(bottom_depth_m=9.0, bottom_kind="sand", ice_thickness_m=0.36, face_depth_m=0.45)


def bench(scene=HOLE, unit=TRAIL_UNIT, seed=3, **of) -> BenchRun:
    settings = starting_settings(unit, scene.bottom_range_m)
    return BenchRun(scene, unit, settings, Lure("jig", 0.006), np.random.default_rng(seed), 7.0, **of)


@pytest.mark.parametrize("unit", SHIPPED, ids=lambda unit: unit.name)
def test_as_many_pings_as_the_unit_sends_in_that_time_and_the_next_one_follows(unit):
    run = bench(unit=unit)
    past = run.look_back(30.0)
    assert past.levels.shape == (int(30.0 * run.ping_rate_hz), unit.rows)
    assert past.first_ping == 0 and past.events == () and past.fish == ()
    frame = run.advance()
    while not len(frame.levels):
        frame = run.advance()
    assert frame.first_ping == past.levels.shape[0]
    assert run.heard[0].time_s == pytest.approx(-30.0, abs=0.1) and run.heard[-1].time_s >= 0.0


def test_the_water_before_is_the_water_after():
    """How often each row lights, before against after, over half a minute each: one binomial spread, four times."""
    scene = Scene(
        bottom_depth_m=9.0, bottom_kind="mud", ice_thickness_m=0.36, face_depth_m=0.45, clarity="murky",
        neighbours=(Neighbour(3.0, 200_000.0),), shoals=(Shoal("bait", 20, "loose", 4.0),), visitors=0,
    )  # fmt: skip
    run = bench(scene)
    before = run.look_back(30.0).levels > 0
    after = np.concatenate([run.advance().levels for _ in range(600)]) > 0
    lit, then = before.mean(axis=0), after.mean(axis=0)
    assert 0.02 < lit.mean() < 0.9
    assert np.abs(lit - then).mean() < 0.06
    at_lure = int((7.0 - 0.45) / run.shown.height_m * TRAIL_UNIT.rows)
    assert before[:, at_lure - 1 : at_lure + 3].any(axis=1).mean() > 0.9


def test_what_was_before_is_asked_for_before_the_start():
    run = bench()
    run.advance()
    with pytest.raises(RuntimeError, match="has begun"):
        run.look_back(5.0)


def test_looking_back_changes_nothing_of_what_the_fish_do():
    first = Newcomer("whitefish", 0.3, 8.5, 2.0, at_s=0.5, comes=True)
    plain, looked = (bench(first=first) for _ in range(2))
    looked.look_back(30.0)
    for _ in range(200):
        a, b = plain.advance(), looked.advance()
        assert a.fish == b.fish and a.events == b.events
    assert a.fish[0].length_m == 0.3, "the one that was expected"
