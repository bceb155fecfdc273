"""The walk: against brute force, in time, and as short as it can be."""

from __future__ import annotations

from itertools import permutations

import numpy as np
import pytest

from hollow_glint.core.trip.walk import MOST_EXACT, Stop, Walk, plan
from tests.effort import seeds


def stops(rng: np.random.Generator, count: int, whole: bool = False) -> list[Stop]:
    at = rng.uniform(-500.0, 500.0, (count, 2))
    worth = rng.integers(0, 4, count) if whole else rng.uniform(0.0, 10.0, count)
    stay = rng.uniform(2.0, 30.0, count)
    return [Stop(float(e), float(n), float(v), float(m)) for (e, n), v, m in zip(at, worth, stay, strict=True)]


def by_force(start, end, minutes: float, pace: float, given: list[Stop]) -> tuple[float, float]:
    """Greatest worth that fits, and the least minutes for it, over every order of every subset."""
    best = (0.0, float(np.hypot(end[0] - start[0], end[1] - start[1]) / pace))
    for k in range(1, len(given) + 1):
        for order in permutations(range(len(given)), k):
            line = [start, *((given[i].east_m, given[i].north_m) for i in order), end]
            walked = sum(np.hypot(b[0] - a[0], b[1] - a[1]) for a, b in zip(line, line[1:], strict=False)) / pace
            total = walked + sum(given[i].minutes for i in order)
            worth = sum(given[i].value for i in order)
            if (total <= minutes and (worth, -total) > (best[0] + 1e-9, 0.0)) or (
                total <= minutes and abs(worth - best[0]) <= 1e-9 and total < best[1]
            ):
                best = (worth, total)
    return best


@pytest.mark.parametrize("whole", [False, True], ids=["any worth", "many worth the same"])
@pytest.mark.parametrize("seed", seeds(12))
def test_the_exact_walk_is_the_one_that_brute_force_finds(seed, whole):
    rng = np.random.default_rng(seed)
    given = stops(rng, int(rng.integers(1, 7)), whole)
    start, end = rng.uniform(-300, 300, (2, 2))
    minutes = float(np.hypot(*(end - start)) / 60.0 + rng.uniform(0.0, 120.0))
    found = plan(start, end, minutes, 60.0, given)
    worth, least = by_force(tuple(start), tuple(end), minutes, 60.0, given)
    assert found.value == pytest.approx(worth)
    assert found.minutes == pytest.approx(least, abs=1e-6) and found.minutes <= minutes + 1e-6


def retold(start, end, pace: float, given: list[Stop], walk: Walk) -> float:
    line = np.array([start, *((given[i].east_m, given[i].north_m) for i in walk.order), end])
    return float(np.linalg.norm(np.diff(line, axis=0), axis=1).sum() / pace + sum(given[i].minutes for i in walk.order))


def test_fourteen_places_are_solved_and_the_minutes_are_those_of_the_order():
    rng = np.random.default_rng(3)
    given = stops(rng, MOST_EXACT)
    found = plan((0, 0), (100, 0), 180.0, 60.0, given)
    assert 2 < len(found.order) < MOST_EXACT and len(set(found.order)) == len(found.order)
    assert found.minutes == pytest.approx(retold((0, 0), (100, 0), 60.0, given, found)) and found.minutes <= 180.0
    assert found.value == pytest.approx(sum(given[i].value for i in found.order))
    # More time is never worth less; without any to spare nothing is visited.
    worths = [plan((0, 0), (100, 0), minutes, 60.0, given).value for minutes in (30.0, 60.0, 120.0, 240.0, 1000.0)]
    assert worths == sorted(worths) and worths[-1] == pytest.approx(sum(one.value for one in given))
    assert plan((0, 0), (600, 0), 10.0, 60.0, given).order == ()


@pytest.mark.parametrize("seed", range(6))
def test_many_places_come_near_to_the_exact_walk_and_fit(seed):
    """What is built up for many places is held against the exact walk of fourteen of the same kind."""
    from hollow_glint.core.trip import walk as module

    rng = np.random.default_rng(100 + seed)
    given = stops(rng, MOST_EXACT)
    exact = plan((0, 0), (0, 0), 150.0, 60.0, given)
    ways = module._Ways(
        np.zeros(2), np.zeros(2), np.array([(one.east_m, one.north_m) for one in given]),
        np.array([one.minutes for one in given]), 60.0,
    )  # fmt: skip
    values = np.array([one.value for one in given])
    order = module._mended(ways, values, range(MOST_EXACT), 150.0)
    assert ways.minutes(order) <= 150.0 + 1e-6
    assert values[order].sum() >= 0.85 * exact.value
    many = stops(rng, 40)
    found = plan((0, 0), (0, 0), 240.0, 60.0, many)
    assert found.minutes <= 240.0 + 1e-6 and found.minutes == pytest.approx(retold((0, 0), (0, 0), 60.0, many, found))
    assert found.value >= plan((0, 0), (0, 0), 240.0, 60.0, many[:MOST_EXACT]).value * 0.95


def test_what_cannot_be_walked_is_refused_by_name():
    with pytest.raises(ValueError, match=r"minutes is 3: walking from start to end alone takes 10\.0"):
        plan((0, 0), (600, 0), 3.0, 60.0, [])
    with pytest.raises(ValueError, match="walk_m_min is 0"):
        plan((0, 0), (0, 0), 3.0, 0.0, [])
    with pytest.raises(ValueError, match=r"places\.value is -1"):
        Stop(0.0, 0.0, -1.0, 5.0)
    assert plan((0, 0), (60, 0), 3.0, 60.0, []) == Walk((), 0.0, 1.0)
