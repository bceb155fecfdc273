"""A look around: a head that turns in a patch of water, bearing after bearing. Times in, bearings of picture out.

A look is a pure function of its patch, its seed and what was asked of it and when, so that it can be looked at again.
It knows no clock.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..checks import Floats
from .patch import Patch
from .sweep import BEARINGS, BINS, Hang, Still, TurningHead, heard, painted, ping_interval, still, turn_time


@dataclass(frozen=True, eq=False)
class Turned:
    """Some bearings of a picture: their numbers (pings,) of BEARINGS, when [s] (pings,), and the levels (pings, BINS).

    `turn` says how many turns, or ways through the sector, were begun before the last of them.
    """

    which: NDArray[np.intp]
    time_s: Floats
    levels: NDArray[np.uint8]
    hang: Hang
    turn: int


class Look:
    """A look that goes on. `advance` it; `levels` keeps the newest of every bearing, `seen_s` when it was seen,
    `before` what it showed when it was looked along the time before, and `turns` how often it was."""

    def __init__(
        self, patch: Patch, head: TurningHead, hang: Hang, rng: np.random.Generator, start_s: float = 0.0
    ) -> None:
        """Start at `start_s` [s] on the patch's clock."""
        self.patch, self.head, self.hang = patch, head, hang
        self.time_s = self._next_s = start_s
        # The same pings show the same picture however long the steps are: so a look can be gone through again.
        self._rng, self._flicker = rng, rng.spawn(1)[0]
        self._pings = 0
        self.levels = np.zeros((BEARINGS, BINS), dtype=np.uint8)
        self.before = np.zeros_like(self.levels)
        self.turns = np.zeros(BEARINGS, dtype=np.intp)
        self.seen_s = np.full(BEARINGS, -np.inf)

    @property
    def still(self) -> Still:
        """What does not move, as the head hangs now."""
        return still(self.patch, self.head, self.hang.depth_m, self.hang.range_m)

    @property
    def interval_s(self) -> float:
        """From one bearing to the next [s]."""
        return ping_interval(self.head, self.hang, self.still.sound_speed_m_s)

    @property
    def turn_s(self) -> float:
        """How long one turn, or one way through the sector, takes [s]."""
        return turn_time(self.head, self.hang, self.still.sound_speed_m_s)

    def set(self, hang: Hang) -> None:
        """Hang or set it anew. What was seen in another range or from another depth is another picture."""
        if (hang.range_m, hang.depth_m, hang.gain_db) != (self.hang.range_m, self.hang.depth_m, self.hang.gain_db):
            self.levels[:] = self.before[:] = 0
            self.seen_s[:] = -np.inf
            self.turns[:] = 0
        if (hang.from_deg, hang.to_deg) != (self.hang.from_deg, self.hang.to_deg):
            self._pings = 0
        self.hang = hang

    def _which(self, ping: NDArray[np.intp]) -> NDArray[np.intp]:
        """Which bearing a ping looks along: on round the circle, or to and fro through a sector."""
        count = max(round(BEARINGS * self.hang.width_deg / 360.0), 2)
        first = round(BEARINGS * self.hang.from_deg / 360.0)
        if count >= BEARINGS:
            return np.asarray((first + ping) % BEARINGS)
        along = ping % (2 * count)
        return np.asarray((first + np.minimum(along, 2 * count - 1 - along)) % BEARINGS)

    def _keep(self, which: NDArray[np.intp], time_s: Floats, shown: NDArray[np.uint8]) -> None:
        """Put the newest bearings into the picture; in a long step the last two turns count."""
        last = np.concatenate([np.diff(which) != 0, [True]])  # at its ends a sector is looked along twice on end
        for k in np.flatnonzero(last)[-2 * BEARINGS :]:
            at = which[k]
            self.before[at], self.levels[at] = self.levels[at], shown[k]
            self.seen_s[at] = time_s[k]
            self.turns[at] += 1

    @property
    def picture_before(self) -> NDArray[np.uint8] | None:
        """The picture a turn ago; None while not every bearing in it was looked along twice."""
        seen = self.turns > 0
        return self.before if seen.any() and (self.turns[seen] > 1).all() else None

    def advance(self, seconds: float) -> Turned:
        """All bearings that are looked along in the next `seconds` [s]."""
        until, step = self.time_s + seconds, self.interval_s
        count = max(int(np.ceil((until - self._next_s) / step - 1e-9)), 0)
        time_s = self._next_s + step * np.arange(count)
        pings = self._pings + np.arange(count)
        which = self._which(pings)
        self._pings += count
        self._next_s += step * count
        self.time_s = until
        if count:
            # The head's mark may stand off north: what it takes for a bearing is another in the water.
            off = round(self.hang.off_deg / 360.0 * BEARINGS)
            truly = (which + off) % BEARINGS
            level = heard(self.patch, self.head, self.hang, truly, time_s, self._rng, self.still, self._flicker)
            shown = painted(level, self.still, self.hang)
            self._keep(which, time_s, shown)
        else:
            shown = np.zeros((0, BINS), dtype=np.uint8)
        per_turn = max(round(BEARINGS * self.hang.width_deg / 360.0), 2)
        return Turned(which, time_s, shown, self.hang, max(self._pings - 1, 0) // per_turn)
