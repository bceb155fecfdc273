"""What a fish makes of a lure's movement: speeds, rest, twitches and thumps."""

from __future__ import annotations

import numpy as np
import pytest

from hollow_glint.core.fish.stimulus import LureStimulus, between
from hollow_glint.core.fish.traits import EVERY

DT, BOTTOM = 0.05, 9.0


def moved(*speeds: float, start: float = 7.0, twitch_at: int = -1, **kind) -> LureStimulus:
    """A lure moved for one step at each of `speeds`, upwards positive."""
    lure, depth = LureStimulus(start, 0.01, **kind), start
    for k, speed in enumerate(speeds):
        depth = min(depth - speed * DT, BOTTOM)
        lure.move(depth, DT, k == twitch_at, BOTTOM)
    return lure


def test_a_speed_is_judged_over_a_quarter_of_a_second():
    """First-order smoothing: after n steps 1 - (1 - dt/T)^n of it."""
    for n in (1, 5, 20):
        lure = moved(*[0.04] * n)
        assert float(lure.speed_m_s) == pytest.approx(0.04 * (1.0 - (1.0 - DT / 0.25) ** n))


def test_a_lift_draws_best_between_its_two_speeds_and_not_at_all_outside():
    slow, best, fast, too_fast = (
        EVERY[name] for name in ("slow_from_m_s", "best_from_m_s", "best_to_m_s", "slow_to_m_s")
    )
    assert slow < best <= fast < too_fast

    def lifting(speed: float) -> float:
        return float(moved(*[speed] * 200).lifting)

    assert lifting((best + fast) / 2.0) == pytest.approx(1.0, abs=0.01)
    assert lifting(slow * 0.9) == 0.0 and lifting(too_fast * 1.1) == 0.0 and lifting(-0.04) == 0.0
    assert 0.0 < lifting((slow + best) / 2.0) < 1.0 and 0.0 < lifting((fast + too_fast) / 2.0) < 1.0


def test_falling_is_as_it_is_now_and_rising_is_none():
    assert float(moved(-0.3).falling_m_s) == pytest.approx(0.3)
    assert float(moved(0.3).falling_m_s) == 0.0


def test_the_fastest_is_remembered_for_a_second_or_two():
    quick = moved(*[0.5] * 20)
    peak = float(quick.fastest_m_s)
    depth = float(quick.depth_m)
    for _ in range(20):
        quick.move(depth, DT, False, BOTTOM)
    assert float(quick.fastest_m_s) == pytest.approx(peak / 2.0, rel=0.05)


def test_rest_is_counted_from_the_last_move_or_twitch():
    still = moved(0.1, *[0.0] * 40)
    assert float(still.still_s) == pytest.approx(40 * DT)
    twitched = moved(0.1, *[0.0] * 40, twitch_at=30)
    assert float(twitched.still_s) == pytest.approx(10 * DT)
    # A creep slower than three millimetres a second is rest too.
    assert float(moved(*[0.002] * 10).still_s) > 60.0


def test_a_lure_at_rest_draws_half_as_much_after_each_half_life_and_bait_keeps_its_smell():
    lure, bait = moved(0.1), moved(0.1, baited=True)
    half = EVERY["still_half_life_s"]
    for _ in range(round(half / DT)):
        for one in (lure, bait):
            one.move(one.depth_m, DT, False, BOTTOM)
    assert float(lure.lively) == pytest.approx(0.5, rel=0.01)
    for _ in range(round(6 * half / DT)):
        for one in (lure, bait):
            one.move(one.depth_m, DT, False, BOTTOM)
    assert float(lure.lively) < 0.02 and float(bait.lively) == 0.35


def test_one_twitch_after_another_is_less_of_a_novelty():
    lure = moved(0.0, twitch_at=0)
    news = [float(lure.news)]
    for _ in range(3):
        lure.spend_news()
        news.append(float(lure.news))
    assert news == pytest.approx([EVERY["stale_twitch"] ** k for k in range(4)])
    # What was no twitch spends nothing, and rest makes it new again.
    lure.move(lure.depth_m, DT, False, BOTTOM)
    spent = float(lure.news)
    lure.spend_news()
    assert float(lure.news) == spent
    for _ in range(round(EVERY["twitch_rest_s"] / DT) + 1):
        lure.move(lure.depth_m, DT, False, BOTTOM)
    assert float(lure.news) == 1.0


def test_only_a_hard_landing_thumps_and_only_once():
    thump = EVERY["thump_m_s"]
    hard = moved(-1.2 * thump, start=BOTTOM - 1.1 * thump * DT)
    assert bool(hard.thumped)
    hard.move(BOTTOM, DT, False, BOTTOM)
    assert not bool(hard.thumped)
    assert not bool(moved(-0.5 * thump, start=BOTTOM - 0.25 * thump * DT).thumped)
    assert not bool(moved(-1.2 * thump, start=7.0).thumped), "in open water"


def test_of_two_jigs_fish_above_take_the_upper():
    one, two = LureStimulus(7.0, 0.01), LureStimulus(7.0, 0.01, spacing_m=0.5)
    fish = np.array([5.0, 6.9, 6.99, 7.5])
    assert float(one.taken_at(fish)) == 7.0
    assert two.taken_at(fish).tolist() == [6.5, 6.5, 7.0, 7.0]


def test_many_lures_at_once_are_what_each_is_by_itself():
    speeds = np.array([0.0, 0.03, 0.3, -0.5])
    depth = np.full(4, 7.0)
    together = LureStimulus(depth, 0.01)
    for _ in range(30):
        depth = depth - speeds * DT
        together.move(depth, DT, False, BOTTOM)
    for k, speed in enumerate(speeds):
        alone = moved(*[float(speed)] * 30)
        for name in ("speed_m_s", "fastest_m_s", "still_s", "lifting", "falling_m_s"):
            assert np.asarray(getattr(together, name))[k] == pytest.approx(float(getattr(alone, name)))


def test_between_is_numpys_clip():
    values = np.array([-2.0, 0.0, 0.4, 9.0])
    assert between(values, 0.0, 1.0).tolist() == np.clip(values, 0.0, 1.0).tolist()
