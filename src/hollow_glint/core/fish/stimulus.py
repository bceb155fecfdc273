"""What a fish makes of a lure: how fast it climbs or falls, how long it has been still, whether a twitch is news.

One lure for all fish that look at it, or (in the cadence lab) one lure for each fish: every value is a number or an
array (fish,), and the arithmetic is the same.
"""

from __future__ import annotations

import numpy as np

from ..checks import Floats
from .traits import EVERY

SMOOTH_S = 0.25  # over this time a fish judges a speed. Invented


def between(values: Floats, low: Floats | float, high: Floats | float) -> Floats:
    """`values` held between `low` and `high`; np.clip takes thrice as long on the few fish that there are."""
    held: Floats = np.minimum(np.maximum(values, low), high)
    return held


def _lifting(speed_m_s: Floats) -> Floats:
    """How well a lure is lifted at this speed [m/s upwards], 0 to 1, same shape."""
    e = EVERY
    up = (speed_m_s - e["slow_from_m_s"]) / (e["best_from_m_s"] - e["slow_from_m_s"])
    down = (e["slow_to_m_s"] - speed_m_s) / (e["slow_to_m_s"] - e["best_to_m_s"])
    return between(np.minimum(up, down), 0.0, 1.0)


class LureStimulus:
    """One lure as fish sense it. Depths [m below the surface], speeds [m/s], upwards positive.

    size_m      its length, for what is a mouthful; spacing_m to a second jig above it, 0 for none
    baited      a dead stick's bait draws by smell, moving or not
    """

    def __init__(self, depth_m: Floats | float, size_m: float, spacing_m: float = 0.0, baited: bool = False) -> None:
        self.depth_m = np.asarray(depth_m, dtype=np.float64)
        self.x: Floats | float = 0.0
        self.y: Floats | float = 0.0
        self.size_m, self.spacing_m, self.baited = size_m, spacing_m, baited
        zero = np.zeros_like(self.depth_m)
        self.speed_m_s: Floats = zero.copy()  # smoothed
        self.falling_m_s = zero.copy()  # as it is now
        self.fastest_m_s = zero.copy()  # of the last second or two
        self.still_s = zero + 60.0
        self.since_lift_s = zero + 60.0
        self.news = zero + 1.0  # of a twitch
        self.twitched = zero > 1.0
        self.thumped = zero > 1.0
        self.lifting: Floats = zero.copy()  # how well it is being lifted: 1 for the lifts that draw best, 0 for none

    @property
    def lively(self) -> Floats:
        """1 while it moves, halved with each half-life of rest. A bait's smell keeps up a third of it."""
        left: Floats = 0.5 ** (self.still_s / EVERY["still_half_life_s"])
        return np.maximum(left, 0.35) if self.baited else left

    def move(self, depth_m: Floats | float, dt: float, twitched: Floats | bool, bottom_m: float) -> None:
        """The lure has come to `depth_m` within `dt` [s]; a shiver of a twitch counts as no lift."""
        now = np.asarray(depth_m, dtype=np.float64)
        self.twitched = np.broadcast_to(np.asarray(twitched, dtype=bool), now.shape)
        rising = (self.depth_m - now) / dt
        self.falling_m_s = np.maximum(-rising, 0.0)
        landed = (now >= bottom_m - 1e-6) & (self.depth_m < bottom_m - 1e-6)
        self.thumped = landed & (-rising >= EVERY["thump_m_s"])
        self.speed_m_s = self.speed_m_s + (rising - self.speed_m_s) * min(dt / SMOOTH_S, 1.0)
        self.lifting = _lifting(self.speed_m_s)
        self.fastest_m_s = np.maximum(self.speed_m_s, self.fastest_m_s * 0.5 ** (dt / 1.0))
        stirs = (np.abs(rising) > 0.003) | self.twitched
        self.still_s = np.where(stirs, 0.0, self.still_s + dt)
        self.since_lift_s = np.where(self.lifting > 0.2, 0.0, self.since_lift_s + dt)
        self.news = np.minimum(self.news + dt / EVERY["twitch_rest_s"], 1.0)
        self.depth_m = now

    def spend_news(self) -> None:
        """After the fish have seen a twitch, the next one is less of a novelty."""
        self.news = np.where(self.twitched, self.news * EVERY["stale_twitch"], self.news)

    def taken_at(self, depth_m: Floats) -> Floats:
        """Depth [m] of the jig that fish at `depth_m` (fish,) look at: of two on a line the lower, from below; those
        between or above, the upper."""
        if self.spacing_m == 0.0:
            return self.depth_m
        upper = self.depth_m - self.spacing_m
        return np.where(depth_m < self.depth_m - 0.02, upper, self.depth_m)
