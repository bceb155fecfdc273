"""What a seating costs: a hole, a voice and a way for every seat at once, and the least that costs.

What counts, first things first: no lure below its window, fewest seats that neighbours disturb, the least that they see
of them, the least lag, the fewest changes of hole, beam and power. Each is a whole number, so that one sum keeps them
in order and nothing is weighed against what comes before it. Of what is then each one's own affair, pulse, rejection
and gain, as few knobs are turned as leave that sum as it is. When somebody comes late, the changes of those who sit
already count before the lag, and all their knobs among them.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..checks import Floats
from ..gear.settings import Settings
from ..tuning.company import NEIGHBOUR_SHARE
from .choices import Choices, Voice
from .heard import most_lit, paired

MOVED_COUNTS = 3  # to change holes is as much trouble as so many turns of beam or power. Common practice, no source
MOST_CHANGED, MOST_LAG, MOST_SHARE, MOST_DISTURBED = 1e2, 1e4, 1e2, 1e1  # each above all eight seats' sum
HARDLY = 1.1  # times as much is no more, where it is too much anyway
DOUBLINGS = 9  # from what may light to all of the picture
NEVER = 1e15  # above any sum, and small enough that sums with it stay whole numbers

Whole = NDArray[np.intp]
Truths = NDArray[np.bool_]


@dataclass(frozen=True)
class Weights:
    """What a beam or power changed, a step of lag, a doubling of what neighbours light, a seat disturbed and a dB too
    little count."""

    changed: float
    lag: float
    share: float
    disturbed: float
    short: float

    @classmethod
    def in_order(cls, changes_first: bool) -> Weights:
        """Lag before changes, or for a late-comer changes before lag."""
        changed, lag = (MOST_LAG, 1.0) if changes_first else (1.0, MOST_CHANGED)
        share = MOST_CHANGED * MOST_LAG
        return cls(changed, lag, share, share * MOST_SHARE, share * MOST_SHARE * MOST_DISTURBED)


@dataclass(frozen=True)
class Seated:
    """Where a seat comes to sit, and its voice and way, as numbers of its choices."""

    hole: int
    voice: int
    way: int


@dataclass(frozen=True, eq=False)
class Table:
    """All that may be chosen, and what it costs.

    own      of each seat, what each voice and way costs by itself, shape (voices, ways), NEVER past a voice's last
    most     of each seat and way, how much it may see for each doubling of NEIGHBOUR_SHARE, (doublings, voices, ways)
    seen     seen[i][j] what seat i sees of j, shape (voices of i, ways of i, voices of j, distances), logs
    distance   the number of the distance between two holes, shape (holes, holes)
    moved    what it costs each seat to sit in each hole, shape (seats, holes)
    voice, way   the numbers that these have in the seat's choices, shapes (voices,) and (voices, ways)
    like     seats that are the same in everything but where they sit have the same number here
    """

    own: tuple[Floats, ...]
    most: tuple[Floats, ...]
    seen: tuple[tuple[Floats | None, ...], ...]
    distance: Whole
    moved: Floats
    voice: tuple[Whole, ...]
    way: tuple[Whole, ...]
    like: tuple[int, ...]
    home: tuple[int | None, ...]
    weights: Weights

    @property
    def seats(self) -> range:
        """Their numbers."""
        return range(len(self.own))

    def cost(self, seen: Floats, own: Floats, most: Floats) -> Floats:
        """What seeing `seen` costs, with `own` besides, where `most` (doublings, ...) may be seen; shapes broadcast."""
        doublings = (seen[None] > most + 1e-12).sum(axis=0)
        total: Floats = own + doublings * self.weights.share + (doublings > 0.0) * self.weights.disturbed
        return total

    def seen_by(self, i: int, holes: list[int], voices: list[int]) -> Floats:
        """What seat i sees of all others for each of its ways, shape (ways,)."""
        total = np.zeros(self.own[i].shape[1])
        for j in self.seats:
            pair = self.seen[i][j]
            if pair is not None:
                total = total + pair[voices[i], :, voices[j], self.distance[holes[i], holes[j]]]
        return total

    def of_seat(self, i: int, holes: list[int], voices: list[int]) -> Floats:
        """What each way costs seat i in this seating, shape (ways,)."""
        own = self.own[i][voices[i]] + self.moved[i, holes[i]]
        return self.cost(self.seen_by(i, holes, voices), own, self.most[i][:, voices[i]])

    def total(self, holes: list[int], voices: list[int]) -> float:
        """What a whole seating costs, everyone in the best of their ways."""
        return float(sum(self.of_seat(i, holes, voices).min() for i in self.seats))

    def seated(self, holes: list[int], voices: list[int]) -> tuple[Seated, ...]:
        """Each seat in its best way, of equals the first.

        For a seat that stays disturbed no knob is turned for less than HARDLY: a doubling is passed by a hair as well.
        """
        found = []
        for i in self.seats:
            costs, seen = self.of_seat(i, holes, voices), self.seen_by(i, holes, voices)
            way, most = int(np.argmin(costs)), self.most[i][:, voices[i]]
            if seen[way] > most[0, way]:
                own = self.own[i][voices[i]] + self.moved[i, holes[i]]
                way = int(np.argmax(self.cost(seen / HARDLY, own, most) <= costs[way]))
            found.append(Seated(holes[i], int(self.voice[i][voices[i]]), int(self.way[i][voices[i], way])))
        return tuple(found)


def table_of(
    choices: tuple[Choices, ...], home: tuple[int | None, ...], apart_m: Floats, changes_first: bool = False
) -> Table:
    """The table for seats with these choices in holes `apart_m` (holes, holes) [m] from each other."""
    weights = Weights.in_order(changes_first)
    distances, number = np.unique(np.round(apart_m, 3), return_inverse=True)
    pairs: dict[tuple[int, int], Floats] = {}
    for ours in choices:
        for theirs in choices:
            key = id(ours), id(theirs)
            if key not in pairs:
                pairs[key] = paired(ours, theirs, np.maximum(distances, 0.2))
    seats = range(len(choices))
    moved = np.zeros((len(choices), apart_m.shape[0]))
    for i, at_home in enumerate(home):
        if at_home is not None:
            moved[i] = MOVED_COUNTS * weights.changed
            moved[i, at_home] = 0.0
    names = {id(one): k for k, one in enumerate(choices)}
    own = tuple(
        _by_itself(one, weights, changes_first and at_home is not None)
        for one, at_home in zip(choices, home, strict=True)
    )
    return Table(
        own,
        tuple(_may_see(one) for one in choices),
        tuple(
            tuple(None if i == j else pairs[id(choices[i]), id(choices[j])] for j in seats) for i in seats
        ),
        number.reshape(apart_m.shape),
        moved,
        tuple(np.arange(one.shape[0]) for one in own),
        tuple(np.tile(np.arange(one.shape[1]), (one.shape[0], 1)) for one in own),
        tuple(2 * names[id(one)] + (at_home is None) for one, at_home in zip(choices, home, strict=True)),
        home,
        weights,
    )  # fmt: skip


def _by_itself(one: Choices, weights: Weights, every_knob: bool) -> Floats:
    alone = np.full((len(one.voices), max(len(ways) for ways in one.ways)), NEVER)
    for v, ways in enumerate(one.ways):
        for w, way in enumerate(ways):
            changed = way.turned if every_knob else _changed(one.now, one.voices[v])
            alone[v, w] = way.short_db * weights.short + way.lag * weights.lag + changed * weights.changed
    return alone


def _may_see(one: Choices) -> Floats:
    """Half as many marks is what an eye tells apart: so much more than may light, in doublings."""
    shares = np.minimum(NEIGHBOUR_SHARE * 2.0 ** np.arange(DOUBLINGS), 1.0)
    most = np.full((DOUBLINGS, len(one.voices), max(len(ways) for ways in one.ways)), np.inf)
    for v, ways in enumerate(one.ways):
        for w, way in enumerate(ways):
            most[:, v, w] = most_lit(one.unit, way.settings, shares)
    return most


def _changed(now: Settings, voice: Voice) -> int:
    return (now.beam != voice.beam) + (now.power != voice.power)
