"""Which places to walk to, and in which order, so that the day is worth most and one is back in time.

An orienteering problem (Tsiligirides 1984; Golden, Levy and Vohra 1987): of some places, each with its worth and the
minutes that are spent there, the round of greatest worth that fits. Up to fourteen places it is solved exactly, over
all subsets (Held and Karp 1962); more are built up by insertion and mended by exchange.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Annotated

import numpy as np
from numpy.typing import NDArray

from ..checks import InputError, number, within
from ..fields import Span, check_fields

Array = NDArray[np.float64]
MOST_EXACT = 14
FAR_M = 100_000.0  # from the anchor
MOST_PLACES = 200
SAME = 1e-9  # worths and minutes closer than this are the same


@dataclass(frozen=True)
class Stop:
    """A place [m], what it is worth, and how long one stays [min]."""

    east_m: Annotated[float, Span(-FAR_M, FAR_M, "m")]
    north_m: Annotated[float, Span(-FAR_M, FAR_M, "m")]
    value: Annotated[float, Span(0.0, 1e9)]
    minutes: Annotated[float, Span(0.0, 1440.0, "min")]

    def __post_init__(self) -> None:
        check_fields(self, "places")


@dataclass(frozen=True)
class Walk:
    """Places by their numbers in walking order, what they are worth together, and the minutes of it all."""

    order: tuple[int, ...]
    value: float
    minutes: float


class _Ways:
    """Minutes between places: from the start, among them, to the end; those of arriving and staying together."""

    def __init__(self, start: Array, end: Array, places: Array, stays: Array, walk_m_min: float) -> None:
        def between(a: Array, b: Array) -> Array:
            return np.asarray(np.linalg.norm(a[:, None] - b[None], axis=-1) / walk_m_min)

        self.first = between(start[None], places)[0] + stays
        self.step = between(places, places) + stays
        self.last = between(places, end[None])[:, 0]
        self.straight = float(np.linalg.norm(end - start) / walk_m_min)

    def minutes(self, order: Sequence[int]) -> float:
        """Of a whole round."""
        if not order:
            return self.straight
        steps = sum(self.step[a, b] for a, b in zip(order, order[1:], strict=False))
        return float(self.first[order[0]] + steps + self.last[order[-1]])


def plan(
    start: Sequence[float], end: Sequence[float], minutes: float, walk_m_min: float, stops: Sequence[Stop]
) -> Walk:
    """The round from `start` to `end` (east, north) [m] worth most within `minutes`, walking `walk_m_min` [m/min].

    Of those worth the same the shorter. Places are told by their numbers in `stops`.

    Raises ValueError naming what cannot be accepted, or when the way from start to end alone takes longer.
    """
    within("start", start, -FAR_M, FAR_M, "m")
    within("end", end, -FAR_M, FAR_M, "m")
    number("minutes", minutes, 0.0, 10_000.0, "min")
    number("walk_m_min", walk_m_min, 1.0, 1000.0, "m/min")
    if len(stops) > MOST_PLACES:
        raise InputError(f"places has {len(stops)} entries: accepted are up to {MOST_PLACES}")
    places = np.array([(one.east_m, one.north_m) for one in stops], dtype=np.float64).reshape(-1, 2)
    stays = np.array([one.minutes for one in stops], dtype=np.float64)
    values = np.array([one.value for one in stops], dtype=np.float64)
    ways = _Ways(np.asarray(start, float), np.asarray(end, float), places, stays, walk_m_min)
    if ways.straight > minutes + SAME:
        raise InputError(f"minutes is {minutes:g}: walking from start to end alone takes {ways.straight:.1f}")
    # What cannot be reached and left in time is nothing to think about.
    near = [i for i in range(len(stops)) if ways.first[i] + ways.last[i] <= minutes + SAME]
    order = _exact(ways, values, near, minutes) if len(near) <= MOST_EXACT else _mended(ways, values, near, minutes)
    return Walk(tuple(order), float(values[order].sum()) if order else 0.0, ways.minutes(order))


def _exact(ways: _Ways, values: Array, near: Sequence[int], most: float) -> list[int]:
    """The best round over all subsets of `near`: the least minutes to have seen a subset and stand at its last."""
    n = len(near)
    if n == 0:
        return []
    at = np.asarray(near)
    first, step, last = ways.first[at], ways.step[np.ix_(at, at)], ways.last[at]
    masks = np.arange(1 << n)
    count = np.array([int(one).bit_count() for one in masks])
    cost = np.full((1 << n, n), np.inf)
    cost[1 << np.arange(n), np.arange(n)] = first
    for k in range(1, n):
        here = masks[count == k]
        for j in range(n):
            without = here[(here >> j) & 1 == 0]
            cost[without | (1 << j), j] = (cost[without] + step[:, j]).min(axis=1)
    back = cost + last
    total = back.min(axis=1)
    total[0] = ways.straight
    worth = ((masks[:, None] >> np.arange(n)) & 1) @ values[at]
    fits = total <= most + SAME
    best = worth[fits].max()
    among = np.flatnonzero(fits & (worth >= best - SAME))
    mask = int(among[total[among].argmin()])
    order: list[int] = []
    arriving = last
    while mask:
        j = int((cost[mask] + arriving).argmin())
        order.append(j)
        mask &= ~(1 << j)
        arriving = step[:, j]
    return [int(at[j]) for j in reversed(order)]


def _mended(ways: _Ways, values: Array, near: Sequence[int], most: float) -> list[int]:
    """A good round of many: put in what is worth most for its detour, untangle, exchange, until nothing helps."""
    order: list[int] = []
    best = order
    for _ in range(60):
        order = _untangled(ways, _filled(ways, values, order, near, most))
        if _better(ways, values, order, best):
            best = order
        elif len(best) < 2:
            break
        # Take out what is worth least for its minutes, and let others have the time.
        drop = min(best, key=lambda i: values[i] / max(ways.minutes(best) - ways.minutes(_less(best, i)), SAME))
        tried = _untangled(ways, _filled(ways, values, _less(best, drop), [i for i in near if i != drop], most))
        if not _better(ways, values, tried, best):
            break
        best = order = tried
    return best


def _less(order: Sequence[int], gone: int) -> list[int]:
    return [i for i in order if i != gone]


def _better(ways: _Ways, values: Array, order: list[int], than: list[int]) -> bool:
    mine, theirs = float(values[order].sum()), float(values[than].sum())
    return mine > theirs + SAME or (mine > theirs - SAME and ways.minutes(order) < ways.minutes(than) - SAME)


def _filled(ways: _Ways, values: Array, order: list[int], near: Sequence[int], most: float) -> list[int]:
    order = list(order)
    while True:
        now = ways.minutes(order)
        found: tuple[float, list[int]] | None = None
        for i in near:
            if i in order or values[i] <= 0.0:
                continue
            for k in range(len(order) + 1):
                tried = [*order[:k], i, *order[k:]]
                longer = ways.minutes(tried) - now
                if now + longer <= most + SAME:
                    share = float(values[i]) / max(longer, SAME)
                    if found is None or share > found[0]:
                        found = (share, tried)
        if found is None:
            return order
        order = found[1]


def _untangled(ways: _Ways, order: list[int]) -> list[int]:
    """With no two legs that would be shorter crossed over (2-opt; Croes 1958)."""
    best, least = list(order), ways.minutes(order)
    helped = True
    while helped:
        helped = False
        for i in range(len(best) - 1):
            for j in range(i + 1, len(best)):
                tried = [*best[:i], *reversed(best[i : j + 1]), *best[j + 1 :]]
                if (minutes := ways.minutes(tried)) < least - SAME:
                    best, least, helped = tried, minutes, True
    return best
