"""What fish sense of the lures they look at."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from ..checks import Floats
from .stimulus import LureStimulus


class Sense:
    """What each fish senses of the lure it looks at, and where that is from it: arrays (fish,)."""

    def __init__(self, lures: Sequence[LureStimulus], at: NDArray[np.int64], x: Floats, y: Floats, z: Floats) -> None:
        first, others = lures[0], list(enumerate(lures[1:], start=1))

        # With one lure its values stand for every fish as they are.
        def of(name: str) -> Floats:
            value: Floats = np.asarray(getattr(first, name))
            for k, lure in others:
                value = np.where(at == k, getattr(lure, name), value)
            return value

        self.x, self.y = of("x"), of("y")
        depth = first.taken_at(z)
        for k, lure in others:
            depth = np.where(at == k, lure.taken_at(z), depth)
        self.depth_m = depth
        self.speed_m_s, self.falling_m_s, self.fastest_m_s = of("speed_m_s"), of("falling_m_s"), of("fastest_m_s")
        self.still_s, self.since_lift_s, self.news = of("still_s"), of("since_lift_s"), of("news")
        self.lively, self.lifting, self.size_m = of("lively"), of("lifting"), of("size_m")
        self.twitched, self.thumped, self.baited = (of(name) > 0 for name in ("twitched", "thumped", "baited"))
        self.aside_m = np.hypot(x - self.x, y - self.y)
        self.gap_m = z - depth  # positive below the lure, where a fish wants to be
        self.away_m = np.hypot(self.aside_m, self.gap_m)
