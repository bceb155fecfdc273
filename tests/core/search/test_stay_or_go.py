"""The watch clock: against molecules in a box, SciPy's gamma-Poisson, and policies played out over seeded days."""

from __future__ import annotations

import numpy as np
import pytest
from scipy import stats

from benchmarks.searching import TRYING, USUAL, Waters, by_the_clock, watched_day
from hollow_glint.core.search.stay_or_go import LONGEST_S, TURN_S, best_rate, stay_or_go, staying_rate


def test_as_many_come_into_sight_as_molecules_in_a_box_do():
    """Hutchinson and Waser 2007: past one who stands still, D pi R^2 at first, then 2 R v D a second."""
    rng, side, radius, speed, count, seconds = np.random.default_rng(3), 400.0, 18.3, 0.25, 20_000, 600.0
    density = count / side**2
    at = rng.uniform(-side / 2, side / 2, (count, 2))
    turn = rng.uniform(0, 2 * np.pi, count)
    v = speed * np.column_stack([np.sin(turn), np.cos(turn)])
    nearest = np.clip(-(at * v).sum(axis=1) / speed**2, 0.0, seconds)
    come = np.hypot(*(at + v * nearest[:, None]).T) <= radius
    waters = Waters(radius, speed, 60.0, 2e4, 300.0)
    expected = density * (waters.at_first_m2 + waters.swept_m2_s * seconds)
    assert come.sum() == pytest.approx(expected, abs=3.0 * np.sqrt(expected))


@pytest.mark.parametrize(("watched", "seen"), [(60.0, 0), (600.0, 0), (600.0, 3)])
def test_nobody_here_is_the_negative_binomials_nothing(watched, seen):
    a, b = USUAL.schools + seen, USUAL.sure + USUAL.watched_m2(watched)
    passing = USUAL.swept_m2_s * USUAL.move_s
    expected = stats.nbinom.pmf(0, a, b / (b + passing))
    assert stay_or_go(USUAL, watched, seen).nobody_here == pytest.approx(expected, rel=1e-9)


@pytest.mark.parametrize("move", [60.0, 120.0, 400.0])
def test_where_all_places_are_alike_it_is_the_marginal_value_theorem(move):
    """Charnov 1976: with nothing to learn, the best of what is seen over (move + stay), over all stays."""
    waters = Waters(18.3, 0.25, 200.0, 1e8, move)
    density, stays = 200e-6, np.linspace(TURN_S, TURN_S + LONGEST_S, 2000)
    rates = density * (waters.at_first_m2 + waters.swept_m2_s * stays) / (move + stays)
    assert best_rate(waters) == pytest.approx(rates.max(), rel=0.01)


def test_what_staying_is_worth_falls_with_time_and_rises_with_what_is_seen():
    told = [stay_or_go(USUAL, 60.0 * minute, 0) for minute in range(25)]
    worth = [one.stay_worth for one in told]
    assert all(a > b for a, b in zip(worth, worth[1:], strict=False))
    nobody = [one.nobody_here for one in told]
    assert all(a < b for a, b in zip(nobody, nobody[1:], strict=False))
    assert [one.stay for one in told] == [one.stay_worth >= one.go_worth for one in told]
    changes = [a.stay != b.stay for a, b in zip(told, told[1:], strict=False)]
    assert sum(changes) == 1, "it changes its mind once"
    at = changes.index(True)
    assert 60.0 * at <= told[0].go_at_s <= 60.0 * (at + 1)
    assert stay_or_go(USUAL, 600.0, 1).go_at_s > told[0].go_at_s


def test_with_usual_numbers_it_comes_out_at_three_to_ten_minutes():
    # Common practice, no source: people watch for three to ten minutes before they move.
    for move in (240.0, 300.0, 360.0):
        for density in (40.0, 60.0, 100.0):
            go_at = stay_or_go(Waters(18.3, 0.25, density, 20_000.0, move), 0.0, 0).go_at_s
            assert 180.0 <= go_at <= 720.0, (move, density, go_at)


def test_staying_is_never_worth_less_than_its_next_second():
    for seen in (0, 2, 9):
        next_second = (USUAL.schools + seen) / (USUAL.sure + 5000.0) * USUAL.swept_m2_s
        assert next_second <= staying_rate(USUAL, 5000.0, seen) < 3.0 * next_second


@pytest.mark.parametrize("minutes", [1, 3, 5, 10, 20])
def test_the_clock_finds_more_schools_than_a_fixed_watch(minutes):
    days = range(TRYING, TRYING + 150)
    clock = by_the_clock(USUAL)
    ours = np.array([watched_day(USUAL, seed, clock) for seed in days])
    fixed = np.array([watched_day(USUAL, seed, lambda _: 60.0 * minutes) for seed in days])
    better = ours - fixed
    assert better.mean() > 3.0 * better.std() / np.sqrt(better.size)


def test_the_rate_that_is_told_is_what_the_clock_brings_on_a_long_day():
    clock, day = by_the_clock(USUAL), 48 * 3600.0
    found = np.array([watched_day(USUAL, seed, clock, day) for seed in range(TRYING, TRYING + 60)]) / day
    # Nobody stays longer than an hour in what is told, and some do in a long day: it brings no less.
    assert found.mean() > best_rate(USUAL) - 3.0 * found.std() / np.sqrt(found.size)


def test_odd_lakes_have_answers_and_bad_ones_are_refused():
    for waters in (Waters(300.0, 5.0, 10_000.0, 1e8, 1.0), Waters(1.0, 0.001, 0.01, 1.0, 86_400.0)):
        told = stay_or_go(waters, 3600.0, 5)
        assert np.isfinite([told.go_at_s, told.stay_worth, told.go_worth]).all() and 0.0 <= told.nobody_here <= 1.0
        assert stay_or_go(waters, 0.0, 0).go_at_s >= TURN_S
    with pytest.raises(ValueError, match=r"schools_per_km2 is 0: accepted"):
        Waters(18.0, 0.2, 0.0, 1e4, 300.0)
    with pytest.raises(ValueError, match="watched_s is -1"):
        stay_or_go(USUAL, -1.0, 0)
    with pytest.raises(ValueError, match="seen is 2000"):
        stay_or_go(USUAL, 1.0, 2000)
