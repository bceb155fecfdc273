"""The seating that costs least. Exact, by branch and bound: voices first, then holes.

Which voices are heard together matters much and who sits where little, so that most is decided before any hole is. A
branch is left when the least that a seating in it can cost is no less than the best found so far: each seat in what is
best for it, the others adding the least that they can, no two in one hole.

Known limit: units without rejection among many others can be seated in very many ways that are nearly as good. After
MOST_BOUNDS bounds the search stops with the best found, and says that it has not proved that there is none better.

Sources: Lawler and Wood 1966, Branch-and-bound methods, Operations Research 14; the bound by an assignment is that of
Gilmore 1962 and Lawler 1963 for the quadratic assignment problem.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

import numpy as np

from ..checks import Floats
from ..lazily import Lazily
from .seating import DOUBLINGS, NEVER, Seated, Table, Truths, Whole

if TYPE_CHECKING:
    from scipy import optimize
else:
    optimize = Lazily("scipy.optimize")

NOWHERE = 1e6  # what somebody adds who has no hole left: as dark as it gets
MOST_BOUNDS = 1500  # worked out in a search, about a second and a half


@dataclass(frozen=True)
class Found:
    """The seating found, and whether it is proved that none costs less."""

    seats: tuple[Seated, ...]
    proved: bool


def best_seating(table: Table, most_bounds: int = MOST_BOUNDS) -> Found:
    """The seating that costs least, of equals the first found; or the best after `most_bounds` bounds."""
    small = without_beaten(table)
    search = _Voices(small, *_improved(small, *_start(small)), most_bounds)
    holes, voices = search.best()
    # Of all ways, not of those left: one that shuts out more than it must was left even if another turns fewer knobs.
    names = [int(small.voice[i][v]) for i, v in enumerate(voices)]
    return Found(table.seated(holes, names), search.bounds_left > 0)


def without_beaten(table: Table) -> Table:
    """The table without ways and voices that another is no worse than in everything: the best costs the same."""
    own, most, way = list(table.own), list(table.most), list(table.way)
    seen = [list(row) for row in table.seen]
    for i in table.seats:
        others = [one for one in seen[i] if one is not None]
        kept = np.stack([~_beaten(_no_worse(own[i], most[i], others, v, v)) for v in range(own[i].shape[0])])
        order = np.argsort(~kept, axis=1, kind="stable")[:, : kept.sum(axis=1).max()]
        there = np.take_along_axis(kept, order, axis=1)
        own[i] = np.where(there, np.take_along_axis(own[i], order, axis=1), NEVER)
        most[i] = np.take_along_axis(most[i], order[None], axis=2)
        way[i] = np.take_along_axis(way[i], order, axis=1)
        seen[i] = [None if one is None else np.take_along_axis(one, order[:, :, None, None], axis=1) for one in seen[i]]
    voice = list(table.voice)
    for i in table.seats:
        heard = [one for j in table.seats if (one := seen[j][i]) is not None]
        keeps = _unbeaten_voices(own[i], most[i], [one for one in seen[i] if one is not None], heard)
        own[i], most[i], way[i], voice[i] = own[i][keeps], most[i][:, keeps], way[i][keeps], voice[i][keeps]
        seen[i] = [None if one is None else one[keeps] for one in seen[i]]
        for j in table.seats:
            theirs = seen[j][i]
            if theirs is not None:
                seen[j][i] = theirs[:, :, keeps]
    return replace(
        table,
        own=tuple(own),
        most=tuple(most),
        seen=tuple(tuple(row) for row in seen),
        voice=tuple(voice),
        way=tuple(way),
    )


def _no_worse(own: Floats, most: Floats, seen: list[Floats], v: int, u: int) -> Truths:
    """Whether each way of voice v is no worse than each of voice u whatever others do, shape (ways of v, ways of u)."""
    bears = (most[:, v][:, :, None] >= most[:, u][:, None, :]).all(axis=0)
    each = [(one[v][:, None] <= one[u][None, :]).all(axis=(2, 3)) for one in seen]
    return np.asarray(np.logical_and.reduce([own[v][:, None] <= own[u][None, :], bears, *each]))


def _beaten(no_worse: Truths) -> Truths:
    """Which are beaten by another: of equals, all but the first."""
    first = np.arange(no_worse.shape[0])
    beats = no_worse & (~no_worse.T | (first[:, None] < first[None, :]))
    return np.asarray(beats.any(axis=0))


def _unbeaten_voices(own: Floats, most: Floats, seen: list[Floats], heard: list[Floats]) -> Whole:
    """Voices of which none other is no worse in every way, for the seat itself and for all who hear it."""
    voices = range(own.shape[0])
    no_worse = np.ones((own.shape[0], own.shape[0]), dtype=bool)
    for v in voices:
        for u in voices:
            softer = all((one[:, :, v] <= one[:, :, u]).all() for one in heard)
            no_worse[v, u] = softer and bool((_no_worse(own, most, seen, v, u).any(axis=0) | (own[u] >= NEVER)).all())
    return np.flatnonzero(~_beaten(no_worse))


def _start(table: Table) -> tuple[list[int], list[int]]:
    """Everyone where they are, in what is best for them alone; those without a hole in the first free one."""
    taken = [one for one in table.home if one is not None]
    free = [h for h in range(table.distance.shape[0]) if h not in taken]
    holes = [free.pop(0) if home is None else home for home in table.home]
    return holes, [int(np.argmin(own.min(axis=1))) for own in table.own]


def _improved(table: Table, holes: list[int], voices: list[int]) -> tuple[list[int], list[int]]:
    """The seating with one seat after the other changed, or two swapped, until none of it helps."""
    cost, better = table.total(holes, voices), True
    while better:
        better = False
        for i in table.seats:
            for h in range(table.distance.shape[0]):
                for v in range(table.own[i].shape[0]):
                    there = [holes[i] if one == h else one for one in holes]
                    there[i] = h
                    those = [*voices[:i], v, *voices[i + 1 :]]
                    if (now := table.total(there, those)) < cost:
                        holes, voices, cost, better = there, those, now, True
    return holes, voices


def _in_different_holes(costs: Floats) -> float:
    """The least that seats cost in holes of their own, of `costs` that each has in each whatever others do."""
    return float(costs[optimize.linear_sum_assignment(costs)].sum())


def _padded(arrays: list[Floats], shape: tuple[int, ...], with_what: float) -> Floats:
    """Arrays side by side, each filled up to `shape`."""
    laid = np.full((len(arrays), *shape), with_what)
    for k, one in enumerate(arrays):
        there: tuple[int | slice, ...] = (k, *(slice(0, size) for size in one.shape))
        laid[there] = one
    return laid


class _Voices:
    """The outer search, over voices: for each seat in turn every voice that it has."""

    def __init__(self, table: Table, holes: list[int], voices: list[int], most_bounds: int) -> None:
        self.table, self.holes, self.voices = table, holes, voices
        self.cost = table.total(holes, voices)
        self.bounds_left = most_bounds
        self.laid: dict[tuple[int, int, int, int], Floats] = {}
        n, holes_there = len(table.own), table.distance.shape[0]
        most_voices, most_ways = max(one.shape[0] for one in table.own), max(one.shape[1] for one in table.own)
        # What each costs by itself, (seats, holes, voices, ways).
        self.own = _padded(list(table.own), (most_voices, most_ways), NEVER)[:, None] + table.moved[:, :, None, None]
        self.most = _padded(list(table.most), (DOUBLINGS, most_voices, most_ways), np.inf).swapaxes(0, 1)[:, :, None]
        # The least that j in a voice adds to i, from wherever else: (i, j, voices of j, holes of i, voices, ways of i).
        self.least = np.zeros((n, n, most_voices, holes_there, most_voices, most_ways))
        elsewhere = ~np.eye(holes_there, dtype=bool)
        for i in table.seats:
            for j in table.seats:
                pair = table.seen[i][j]
                if pair is None:
                    continue
                for h in range(holes_there):
                    from_there = pair[..., table.distance[h][elsewhere[h]]].min(axis=-1)  # (v, w, u)
                    v, w, u = from_there.shape
                    self.least[i, j, :u, h, :v, :w] = from_there.transpose(2, 0, 1)
                self.least[i, j, pair.shape[2] :] = NOWHERE
        strength = self.least.mean(axis=(0, 2, 3, 4, 5))
        self.order = sorted(table.seats, key=lambda i: (-table.own[i].shape[0], -strength[i]))

    def best(self) -> tuple[list[int], list[int]]:
        """Holes and voices of the best seating, by seat."""
        self._fill(0, {}, self.least.min(axis=2))
        return self.holes, self.voices

    def _fill(self, k: int, at: dict[int, int], seen: Floats) -> None:
        """Voices for the seats from the k-th on; `seen` the least that i sees of j, (i, j, holes, voices, ways)."""
        if self.bounds_left <= 0:
            return
        if k == len(self.order):
            voices = [at[i] for i in self.table.seats]
            found = _Holes(self, voices)
            found.fill(0, {}, np.zeros_like(found.own))
            if found.holes:
                self.holes, self.voices, self.cost = found.holes, voices, found.cost
            return
        self.bounds_left -= 1
        seat = self.order[k]
        names = range(self.table.own[seat].shape[0])
        rest = seen.sum(axis=1) - seen[:, seat]
        total = np.maximum(rest[None] + self.least[:, seat, : len(names)].swapaxes(0, 1), 0.0)
        own = self.own.copy()
        for i, v in at.items():
            own[i, :, :v] = own[i, :, v + 1 :] = NEVER
        each = self.table.cost(total, own[None], self.most[:, None]).min(
            axis=-1
        )  # (voices of the seat, seats, holes, voices)
        costs = each.min(axis=-1)
        costs[:, seat] = each[names, seat, :, names]
        bounds = [_in_different_holes(one) for one in costs]
        for v in np.argsort(bounds, kind="stable"):
            if bounds[v] >= self.cost:
                return
            then = seen.copy()
            then[:, seat] = self.least[:, seat, v]
            self._fill(k + 1, {**at, seat: int(v)}, then)


class _Holes:
    """The inner search: a hole for each seat, all voices settled, for less than the outer search has found."""

    def __init__(self, outer: _Voices, voices: list[int]) -> None:
        self.outer, self.table, self.cost = outer, outer.table, outer.cost
        self.holes: list[int] = []
        table = self.table
        n, there = len(table.own), table.distance.shape[0]
        most_ways = max(one.shape[1] for one in table.own)
        own = _padded([one[v] for one, v in zip(table.own, voices, strict=True)], (most_ways,), NEVER)
        self.own = own[:, None, :] + table.moved[:, :, None]  # (seats, holes, ways)
        may_see = [one[:, v] for one, v in zip(table.most, voices, strict=True)]
        self.most = _padded(may_see, (DOUBLINGS, most_ways), np.inf).swapaxes(0, 1)[:, :, None]
        # What j in each hole adds to i in each: (i, j, holes of i, ways of i, holes of j); never both in one.
        self.seen = np.full((n, n, there, most_ways, there), np.inf)
        for i in table.seats:
            for j in table.seats:
                if i != j:
                    self.seen[i, j] = self._laid(i, voices[i], j, voices[j], most_ways)
        strength = np.where(np.isfinite(self.seen), self.seen, 0.0).mean(axis=(0, 2, 3, 4))
        self.order = sorted(table.seats, key=lambda i: -strength[i])

    def _laid(self, i: int, v: int, j: int, u: int, most_ways: int) -> Floats:
        """What j in voice u adds to i in voice v, (holes of i, ways, holes of j)."""
        key = i, v, j, u
        if key not in self.outer.laid:
            pair = self.table.seen[i][j]
            assert pair is not None
            by_hole = pair[v, :, u][:, self.table.distance].transpose(1, 0, 2)
            laid = np.zeros((by_hole.shape[0], most_ways, by_hole.shape[2]))
            laid[:, : by_hole.shape[1]] = by_hole
            same = np.arange(laid.shape[0])
            laid[same, :, same] = np.inf
            self.outer.laid[key] = laid
        return self.outer.laid[key]

    def fill(self, k: int, at: dict[int, int], seen: Floats) -> None:
        """Holes for the seats from the k-th on; `seen` what each sees of those that sit already, (seats, holes, ways).

        A seating for less stands in `holes` then, and what it costs in `cost`.
        """
        seat = self.order[k]
        self.outer.bounds_left -= 1
        bounds = self._bounds(k, at, seen)
        for h in np.argsort(bounds, kind="stable"):
            if bounds[h] >= self.cost or self.outer.bounds_left <= 0:
                return
            now = {**at, seat: int(h)}
            if k + 1 == len(self.order):
                self.holes, self.cost = [now[i] for i in self.table.seats], float(bounds[h])
                return
            then = seen + self.seen[:, seat, :, :, h]
            then[seat] = seen[seat]  # nobody sees themselves
            self.fill(k + 1, now, then)

    def _rest(self, later: list[int], free: Truths) -> Floats:
        """The least that the seats of `later` add together to what each sees, (seats, holes, ways).

        Each in the free hole from which it adds least is less than any seating adds; so are as many holes as there are
        of them, each with whoever adds least from there. The greater of the two is the closer.
        """
        if not later:
            return np.zeros_like(self.own)
        closed = np.where(free, 0.0, np.inf)
        each = self.seen[:, later] + closed  # (i, later, holes of i, ways, holes)
        apart = each.min(axis=-1)
        own = np.array(later)
        apart[own, np.arange(own.size)] = 0.0
        filled = np.sort(each.min(axis=1), axis=-1)[..., : own.size]
        filled[own, :, :, -1] = 0.0  # of themselves they see nothing
        least: Floats = np.maximum(apart.sum(axis=1), filled.sum(axis=-1))
        return np.where(np.isfinite(least), least, NOWHERE)

    def _bounds(self, k: int, at: dict[int, int], seen: Floats) -> Floats:
        """For each hole of the k-th seat, the least that a whole seating with it can cost, (holes,)."""
        table, seat, later = self.table, self.order[k], self.order[k + 1 :]
        free = self._free(at)
        base = seen + self._rest(later, free)
        bounds = table.cost(base[seat], self.own[seat], self.most[:, seat]).min(axis=-1)
        bounds[~self._allowed(seat, at)] = NEVER
        with_it = np.minimum(base[..., None] + self.seen[:, seat], NOWHERE)  # (seats, holes, ways, holes of the seat)
        each = table.cost(with_it, self.own[..., None], self.most[..., None]).min(
            axis=2
        )  # (seats, holes, holes of the seat)
        for i, h in at.items():
            bounds = bounds + each[i, h]
        if later:
            for there in np.flatnonzero(bounds < self.cost):
                costs = each[later, :, there]
                costs[:, ~free] = NEVER
                costs[:, there] = NEVER
                bounds[there] += _in_different_holes(costs)
        return np.asarray(bounds)

    def _free(self, at: dict[int, int]) -> Truths:
        free = np.ones(self.table.distance.shape[0], dtype=bool)
        free[list(at.values())] = False
        return free

    def _allowed(self, seat: int, at: dict[int, int]) -> Truths:
        """Free holes; of seats that are alike, which of them moves where makes no difference, so that none takes the
        other's hole, and those that move do so in order."""
        allowed, home = self._free(at), self.table.home
        number = np.arange(allowed.size)
        for i, like in enumerate(self.table.like):
            if i == seat or like != self.table.like[seat]:
                continue
            if home[i] is not None:
                allowed[home[i]] = False
            if i in at and at[i] != home[i]:
                in_order = number > at[i] if i < seat else number < at[i]
                allowed &= in_order | (number == (-1 if home[seat] is None else home[seat]))
        return allowed
