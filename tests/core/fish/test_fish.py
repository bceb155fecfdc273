"""How the fish behave: what common practice says of drawing and scaring them holds in at least 95 of 100 seeds.

"Common practice, no source" throughout: draw a fish up, never chase it down; a slow lift, not a jerk; a fish in company
commits sooner; each day has a height beyond which fish will not follow.
"""

from __future__ import annotations

import numpy as np
import pytest

from hollow_glint.core.fish.cadence import PATTERNS, STEP_S, Move, Pattern, hand, outcomes
from hollow_glint.core.fish.day import Day, draw_day
from hollow_glint.core.fish.fish import Visitors
from hollow_glint.core.fish.states import CURIOUS, FOLLOWING, MOUTHING, PASSING, PUT_OFF, FishAct, Newcomer
from hollow_glint.core.fish.stimulus import LureStimulus
from hollow_glint.core.fish.traits import ALL, BY_MOOD, BY_SPECIES, EVERY, MOODS, SPECIES, Trait, page, species_traits
from tests.effort import seeds as swept

BOTTOM, TOP = 9.1, 0.4


def a_day(mood="choosy", seed=0) -> Day:
    return draw_day(mood, TOP, BOTTOM, np.random.default_rng(seed))


def waiting(days: Day | list[Day], seed: int, count: int = 12, species: str = "whitefish", alone: bool = True):
    """Fish half a metre below a lure that hangs 1.4 m off the bottom, `count` of each day: they have come, and look."""
    days = [days] if isinstance(days, Day) else days
    fish = Visitors(days[0], "clear", 12.0, BOTTOM, np.random.default_rng(seed), alone=alone)
    for day in days:
        fish.join([Newcomer(species, 0.33, BOTTOM - 0.9, 0.3, 0.5 * k, comes=True) for k in range(count)], day)
    fish.mood[:] = CURIOUS
    fish.keen[:] = EVERY["keen_at_first"] + 0.1
    return fish


def seeds(mood: str, count: int = 100) -> list[Day]:
    """A day for each seed."""
    return [a_day(mood, seed) for seed in range(count)]


def shown(fish: Visitors, moves: list[tuple[float, float]], start_m: float = BOTTOM - 1.4) -> list[FishAct]:
    """What the fish do under a lure moved by (seconds, m/s up)."""
    lure = LureStimulus(np.full(fish.count, start_m) if fish.alone else start_m, 0.01)
    lure.still_s = lure.still_s * 0.0
    did: list[FishAct] = []
    depth = start_m
    for seconds, speed in moves:
        for _ in range(round(seconds / STEP_S)):
            depth = min(max(depth - speed * STEP_S, TOP), BOTTOM)
            lure.move(np.full(fish.count, depth) if fish.alone else depth, STEP_S, False, BOTTOM)
            did += fish.step([lure], STEP_S)
    return did


SLOW = [(12.0, 0.025), (4.0, 0.0), (8.0, 0.025), (4.0, 0.0)]
FAST = [(4.0, 0.3), (24.0, 0.0)]
DROP = [(4.0, 0.0), (1.5, -0.4), (22.5, 0.0)]


@pytest.mark.parametrize("mood", MOODS[:2])
def test_a_slow_lift_beats_a_fast_one_and_a_drop_in_95_of_100_seeds(mood):
    """A day for each seed, twelve fish each: more of them take."""
    takes = []
    for moves in (SLOW, FAST, DROP):
        did = shown(waiting(seeds(mood), 1), moves)
        takes.append(np.bincount([one.fish // 12 for one in did if one.kind == "bite"], minlength=100))
    slow, fast, drop = takes
    assert (slow > fast).sum() >= 95 and (slow > drop).sum() >= 95


@pytest.mark.parametrize("speed", [0.01, 0.02, 0.03, 0.04])
def test_every_speed_that_practice_calls_slow_draws(speed):
    """Keener after five seconds of it than after five of hanging still, whatever the mood."""
    for mood in MOODS:
        lifted, hung = (waiting(a_day(mood, 5), 5, 60) for _ in range(2))
        shown(lifted, [(4.0, speed)])
        shown(hung, [(4.0, 0.0)])
        assert lifted.keen.mean() > hung.keen.mean() + 0.05


def test_a_fish_dropped_on_leaves_and_says_how_fast_the_lure_fell():
    fish = waiting(a_day(), 3, 40)
    lure = LureStimulus(np.full(40, BOTTOM - 1.4), 0.01)
    told = []
    for k in range(20):
        lure.move(np.full(40, BOTTOM - 1.4 + 0.4 * STEP_S * (k + 1)), STEP_S, False, BOTTOM)
        told += [one for one in fish.step([lure], STEP_S) if one.kind == "put off by the drop"]
    assert len(told) >= 30
    assert all(one.number == pytest.approx(0.4) for one in told)
    assert (fish.mood == PUT_OFF).sum() >= len(told)


@pytest.mark.parametrize("mood", MOODS)
def test_no_fish_follows_beyond_its_rise_line(mood):
    """Reeled slowly all the way up: every one stops at its own height, none above its day's line."""
    days = seeds(mood, 30)
    line = np.repeat([min(day.rise_line_m, BOTTOM - 0.9) for day in days], 20)
    fish = waiting(days, 1, 20)
    for name in ("take_lift_per_s", "take_pause_per_s", "wanders_off_per_s"):
        fish.traits.numbers[name][:] = 0.0
    lure = LureStimulus(np.full(fish.count, BOTTOM - 1.4), 0.01)
    topmost = fish.z.copy()
    for k in range(3000):
        lure.move(np.full(fish.count, max(BOTTOM - 1.4 - 0.03 * STEP_S * k, TOP)), STEP_S, False, BOTTOM)
        fish.step([lure], STEP_S)
        topmost = np.minimum(topmost, fish.z)
    assert (topmost >= fish.highest_m - 1e-9).all() and (topmost >= line - 1e-9).all()
    assert (topmost < BOTTOM - 1.2).any(), "none followed at all"


def test_one_that_turns_at_its_line_says_where():
    day = Day("dead", BOTTOM - 1.0, 0.0, 0.0)
    fish = waiting(day, 1, 40)
    fish.keen[:] = 0.9
    fish.stays_s[:] = 1e9
    fish.traits.numbers["wanders_off_per_s"][:] = 0.0
    fish.traits.numbers["take_lift_per_s"][:] = 0.0
    fish.traits.numbers["take_pause_per_s"][:] = 0.0
    lure = LureStimulus(np.full(40, BOTTOM - 1.4), 0.01)
    told = []
    for k in range(600):
        lure.move(np.full(40, BOTTOM - 1.4 - 0.04 * STEP_S * k), STEP_S, False, BOTTOM)
        told += [one for one in fish.step([lure], STEP_S) if one.kind == "turned at its line"]
    assert len(told) == 40
    assert all(one.number >= day.rise_line_m - 1e-9 and one.depth_m >= one.number - 1e-9 for one in told)


def test_a_pair_competes_and_commits_sooner():
    """The same fish, lifted to the same way: with another beside it, keen enough to take sooner, in 95 of 100 seeds."""
    sooner = 0
    for seed in swept(40):
        day = a_day("choosy", seed)
        keen = []
        for count in (1, 2):
            fish = waiting(day, seed, count, alone=False)
            fish.bold[:] = 1.0
            fish.traits.numbers["wanders_off_per_s"][:] = 0.0
            fish.traits.numbers["take_lift_per_s"][:] = 0.0
            shown(fish, [(2.0, 0.025)])
            keen.append(float(fish.keen[0]))
        sooner += keen[1] > keen[0]
    assert sooner >= 0.95 * len(swept(40))


def test_a_still_lures_draw_decays():
    """Fish that come by notice a lure that has just moved far sooner than one that has hung still for a minute."""

    def noticed(still_s: float) -> int:
        fish = Visitors(a_day(), "clear", 12.0, BOTTOM, np.random.default_rng(4), alone=True)
        fish.join([Newcomer("whitefish", 0.3, BOTTOM - 1.0, 2.0, 0.1 * k, comes=True) for k in range(200)])
        lure = LureStimulus(np.full(200, BOTTOM - 1.2), 0.01)
        found = 0
        for _ in range(20):
            lure.still_s[:] = still_s
            found += sum(one.kind == "noticed" for one in fish.step([lure], STEP_S))
        return found

    assert noticed(0.0) > 3 * noticed(60.0) > 0
    lure = LureStimulus(5.0, 0.01)
    lure.move(4.9, STEP_S, False, BOTTOM)
    fresh = float(lure.lively)
    for _ in range(round(EVERY["still_half_life_s"] / STEP_S)):
        lure.move(4.9, STEP_S, False, BOTTOM)
    assert float(lure.lively) == pytest.approx(fresh / 2, rel=0.01)


def test_pounding_brings_fish_that_were_off_axis_near():
    """Fish that pass 2 m off, out of sight of a lure in murky water: thumps bring them in, in 95 of 100 seeds."""
    pound = Pattern("thumps", "", (Move(0.5, 0.3), Move(0.6, -0.3), Move(1.5)), 0.0)
    near = []
    for pattern in (pound, Pattern("still", "", (Move(5.0),), 0.0)):
        fish = Visitors(a_day("hot"), "murky", 12.0, BOTTOM, np.random.default_rng(3), alone=True)
        for day in seeds("hot"):
            fish.join([Newcomer("burbot", 0.5, BOTTOM - 0.3, 3.0, 0.6 * k, 2.0, comes=True) for k in range(10)], day)
        depth, _ = hand(pattern, 45.0, BOTTOM, TOP)
        lure = LureStimulus(np.full(fish.count, depth[0]), 0.01)
        closest = np.full(fish.count, 9.0)
        for now in depth:
            lure.move(np.full(fish.count, now), STEP_S, False, BOTTOM)
            fish.step([lure], STEP_S)
            closest = np.minimum(closest, fish.aside_m)
        near.append((closest < 1.0).reshape(100, 10).sum(axis=1))
    assert (near[0] > near[1]).sum() >= 95


def test_moods_make_a_hot_a_choosy_and_a_dead_day():
    """Bites of a hundred fish shown a lift and a pause: hot more than 60, dead fewer than 10, choosy between,
    with far more looks than bites."""
    for seed in swept(1):
        hot, shop, dead = (
            outcomes([PATTERNS[1]], draw_day(mood, TOP, BOTTOM, np.random.default_rng(seed)), BOTTOM, TOP, seed)[0]
            for mood in MOODS
        )
        assert hot.took > 60
        assert 15 <= shop.took < hot.took - 5
        assert dead.took < 10 and dead.came < 50
        assert shop.came > 1.15 * shop.took


def test_a_missed_bite_teaches_caution():
    fish = waiting(a_day("hot"), 2, 200)
    fish.mood[:] = MOUTHING
    fish.timer_s[:] = 0.1
    did = shown(fish, [(0.5, 0.0)])
    assert sum(one.kind == "let go" for one in did) == 200
    assert (fish.shy >= species_traits("whitefish", "hot")["shy_after_miss"]).all()
    stayed = fish.mood <= FOLLOWING
    share = species_traits("whitefish", "hot")["back_after_miss"]
    assert abs(stayed.mean() - share) < 3.0 * np.sqrt(share * (1 - share) / 200) + 0.02


def test_small_fish_only_nip():
    fish = Visitors(a_day("hot"), "clear", 12.0, BOTTOM, np.random.default_rng(1), alone=True)
    fish.join([Newcomer("grayling", 0.10, 8.0), Newcomer("grayling", 0.30, 8.0)])
    assert fish.bite[0] == 3 and fish.bite[1] != 3


def test_one_lure_is_in_one_mouth():
    for seed in range(8):
        fish = waiting(a_day("hot", seed), seed, 6, alone=False)
        fish.keen[:] = 1.0
        lure = LureStimulus(BOTTOM - 1.4, 0.01)
        for k in range(400):
            lure.move(BOTTOM - 1.4 - 0.03 * STEP_S * k, STEP_S, False, BOTTOM)
            fish.step([lure], STEP_S)
            assert (fish.mood == MOUTHING).sum() <= 1


def test_the_same_seed_gives_the_same_fish_and_one_fishs_luck_is_its_own():
    def ways(count):
        fish = waiting(a_day("hot", 3), 3, count)
        shown(fish, SLOW)
        return np.stack([fish.x, fish.y, fish.z, fish.keen])

    np.testing.assert_array_equal(ways(8), ways(8))


def test_night_and_murk_shorten_sight():
    rng = np.random.default_rng(0)

    def sight(clarity, hour, species="char"):
        fish = Visitors(a_day(), clarity, hour, BOTTOM, rng)
        fish.join([Newcomer(species, 0.4, 8.0)])
        return float(fish._sight(fish.mood == PASSING)[0])

    assert sight("clear", 12.0) > sight("murky", 12.0) > sight("murky", 22.0)
    assert sight("clear", 22.0, "burbot") == sight("clear", 12.0, "burbot")


def test_every_number_has_a_unit_a_reason_and_a_source_and_the_page_lists_it(request):
    text = (request.config.rootpath / "docs" / "behaviour.md").read_text()
    assert text == page(), "run: python -m tools.behaviour_page"
    for traits, columns in ((ALL, 1), (BY_MOOD, len(MOODS)), (BY_SPECIES, len(SPECIES))):
        for one in traits:
            assert isinstance(one, Trait) and len(one.values) == columns and np.isfinite(one.values).all()
            assert one.unit and len(one.reason) > 10 and one.source in ("common practice", "invented")
            assert f"`{one.name}`" in text and one.reason in text


@pytest.mark.parametrize("wrong", [("pike", "hot"), ("char", "sulky")])
def test_kinds_that_are_not_known_are_refused(wrong):
    with pytest.raises(ValueError, match="accepted are"):
        species_traits(*wrong)
