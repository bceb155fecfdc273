"""The search against looking at every seating there is, and what it leaves out against leaving nothing out."""

from dataclasses import replace
from functools import lru_cache
from itertools import permutations, product

import numpy as np
import pytest

from hollow_glint.core.card.known_hole import KnownHole
from hollow_glint.core.gear.lures import USUAL_JIG
from hollow_glint.core.shelter.branch_and_bound import best_seating, without_beaten
from hollow_glint.core.shelter.choices import choices_of
from hollow_glint.core.shelter.seating import MOVED_COUNTS, Weights, table_of
from tests.effort import seeds

from .parties import UNITS, scattered

HOLES = 5
DEPTHS = (2.5, 5.0, 9.4, 14.0)


@lru_cache(maxsize=8)
def everyone(depth_m, seed):
    """The table of all generic units, each twice, over holes put down by chance."""
    choices = tuple(choices_of(KnownHole(depth_m), unit, USUAL_JIG, None) for unit in (*UNITS, *UNITS))
    apart = scattered(np.random.default_rng(seed), HOLES)
    return table_of(choices, (None,) * len(choices), apart)


def case(seed):
    """Two or three seats of those, at home in some of the holes, with at most two of their voices."""
    rng = np.random.default_rng(seed)
    whole = everyone(DEPTHS[seed % len(DEPTHS)], 7)
    seats = rng.choice(len(whole.own), size=int(rng.integers(2, 4)), replace=False)
    holes = np.sort(rng.choice(HOLES, size=int(rng.integers(seats.size, HOLES)), replace=False))
    voices = [np.sort(rng.choice(one.shape[0], size=min(2, one.shape[0]), replace=False)) for one in whole.own]
    late = bool(seed % 3 == 0)
    home = tuple(None if late and k == 0 else int(h) for k, h in enumerate(rng.permutation(holes.size)[: seats.size]))
    weights = Weights.in_order(late)
    moved = np.full((seats.size, holes.size), MOVED_COUNTS * weights.changed)
    for k, h in enumerate(home):
        moved[k, slice(None) if h is None else h] = 0.0
    cut = [whole.own[i][voices[i]] for i in seats]
    return replace(
        whole,
        own=tuple(cut),
        most=tuple(whole.most[i][:, voices[i]] for i in seats),
        seen=tuple(
            tuple(None if i == j else whole.seen[i][j][voices[i]][:, :, voices[j]] for j in seats) for i in seats
        ),
        distance=whole.distance[np.ix_(holes, holes)],
        moved=moved,
        voice=tuple(np.arange(one.shape[0]) for one in cut),
        way=tuple(whole.way[i][voices[i]] for i in seats),
        like=tuple(whole.like[i] * 2 + (h is None) if voices[i].size == whole.own[i].shape[0] else 100 + k
                   for k, (i, h) in enumerate(zip(seats, home, strict=True))),
        home=home,
        weights=weights,
    )  # fmt: skip


def brute_force(table):
    """The least that any seating costs: every hole and voice of every seat tried."""
    holes = range(table.distance.shape[0])
    voices = [range(one.shape[0]) for one in table.own]
    return min(
        table.total(list(where), list(which))
        for where in permutations(holes, len(table.own))
        for which in product(*voices)
    )


def cost_of(table, found):
    return table.total([one.hole for one in found.seats], [one.voice for one in found.seats])


def test_two_hundred_parties_are_seated_as_brute_force_would():
    lowered = 0
    for seed in seeds(200):
        table = case(seed)
        found = best_seating(table)
        best = brute_force(table)
        assert found.proved and cost_of(table, found) == best, seed
        assert len({one.hole for one in found.seats}) == len(found.seats)
        stays = [h if h is not None else next(k for k in range(9) if k not in table.home) for h in table.home]
        lowered += best < table.total(stays, [int(np.argmin(own.min(axis=1))) for own in table.own])
    assert lowered > 20, "there was something to be found"


@pytest.mark.parametrize("seed", range(12))
def test_what_is_left_out_beforehand_costs_nothing(seed):
    table = case(seed)
    fewer = without_beaten(table)
    assert brute_force(fewer) == brute_force(table)
    assert sum(one.size for one in fewer.own) < sum(one.size for one in table.own)


def test_of_what_costs_the_same_no_knob_is_turned_for_nothing():
    """Alone in a shelter nobody changes anything, though many settings are as good."""
    whole = everyone(9.4, 7)
    for i in range(len(UNITS)):
        alone = replace(
            whole, own=(whole.own[i],), most=(whole.most[i],), seen=((None,),),
            moved=np.zeros((1, HOLES)), voice=(whole.voice[i],),
            way=(whole.way[i],), like=(0,), home=(0,),
        )  # fmt: skip
        choices = choices_of(KnownHole(9.4), UNITS[i], USUAL_JIG, None)
        (seat,) = best_seating(alone).seats
        way = choices.ways[seat.voice][seat.way]
        lag = min(one.lag for ways in choices.ways for one in ways)
        stays = any(one.turned == 0 and one.lag == lag for ways in choices.ways for one in ways)
        assert seat.hole == 0 and way.lag == lag and way.turned == (0 if stays else 1)


def test_a_search_that_is_stopped_says_so_and_still_seats_everyone():
    table = everyone(9.4, 7)
    five = replace(
        table, own=table.own[:5], most=table.most[:5],
        seen=tuple(row[:5] for row in table.seen[:5]), moved=table.moved[:5],
        voice=table.voice[:5], way=table.way[:5], like=table.like[:5], home=(4, 3, 2, 1, 0),
    )  # fmt: skip
    stopped, whole = best_seating(five, most_bounds=3), best_seating(five)
    assert not stopped.proved and len({one.hole for one in stopped.seats}) == 5
    assert cost_of(five, whole) <= cost_of(five, stopped)
