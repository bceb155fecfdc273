"""The fish that are at a hole, as arrays: who comes, with what of its own, and who is forgotten."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from ..checks import Floats
from ..hole import scene
from .day import Day
from .states import LOAD, NIP, SLACK, TAP, Newcomer
from .traits import CLEAR_SIGHT, EVERY, FishTraits, fish_traits

BELLY_M = 0.04  # how near the bottom a fish swims


class FishPresent:
    """The fish that have come, as arrays (fish,): place x, y, z [m], mood, keenness and the rest.

    alone   each fish has the water and its own lure to itself, as in the cadence lab
    """

    def __init__(
        self,
        day: Day,
        clarity: str,
        hour: float,
        bottom_m: float,
        rng: np.random.Generator,
        alone: bool = False,
    ) -> None:
        self.day = day
        self.face, self.pounding = (np.zeros(0) for _ in range(2))
        self._lowest_m = bottom_m - BELLY_M
        self.alone = alone
        self._clear = CLEAR_SIGHT[clarity]
        self._night = scene.night_share(hour)
        self._rng = rng
        self.species: tuple[str, ...] = ()
        self.traits: FishTraits = fish_traits([])
        none = np.zeros(0)
        self.x, self.y, self.z, self.vx, self.vy = (none.copy() for _ in range(5))
        self.length_m, self.home_m, self.highest_m = (none.copy() for _ in range(3))
        self.keen, self.shy, self.timer_s, self.watched_s, self.stays_s = (none.copy() for _ in range(5))
        self.mood: NDArray[np.int64] = np.zeros(0, dtype=np.int64)
        self.bite: NDArray[np.int64] = np.zeros(0, dtype=np.int64)
        self.who: NDArray[np.int64] = np.zeros(0, dtype=np.int64)  # which of all that ever came
        self._came = 0
        self.at: NDArray[np.int64] = np.zeros(0, dtype=np.int64)  # which lure it looks at
        self.comes, self.looked, self.dropped_on = (np.zeros(0, dtype=bool) for _ in range(3))
        self.bold = none.copy()  # 1 for the middling fish of its kind
        self.topmost_m = none.copy()  # the highest it has been while watching

    @property
    def count(self) -> int:
        """How many are there."""
        return self.x.size

    @property
    def aside_m(self) -> Floats:
        """Distance off the hole's axis [m], shape (fish,)."""
        return np.hypot(self.x, self.y)

    def join(self, fish: Sequence[Newcomer], day: Day | None = None) -> None:
        """More fish come. Each draws how high it will follow, whether it comes to lures at all, and how it bites.

        They are of `day`, the day of all the others if None.
        """
        day = self.day if day is None else day
        luck = self._rng.random((len(fish), 3))
        bold = self._rng.standard_normal(len(fish))
        new = fish_traits([(one.species, day.mood) for one in fish])
        old = self.traits.numbers
        self.traits = FishTraits(
            {name: np.concatenate([old[name], more]) if old else more for name, more in new.numbers.items()}
            if self.count
            else new.numbers
        )
        self.species += tuple(one.species for one in fish)
        home = np.array([one.home_m for one in fish])
        away = np.array([one.away_m for one in fish])
        bearing = np.array([one.bearing_rad for one in fish])
        x, y = away * np.cos(bearing), away * np.sin(bearing)
        past = np.arcsin(np.clip(np.array([one.miss_m for one in fish]) / away, -1.0, 1.0))
        heading = np.arctan2(-y, -x) + past
        own = new.cruise_m_s
        cruise = np.array([own[k] if one.speed_m_s is None else one.speed_m_s for k, one in enumerate(fish)])
        taps = luck[:, 2] < new.tap_share
        slack = luck[:, 2] > 1.0 - new.slack_share
        small = np.array([one.length_m < EVERY["nip_m"] for one in fish])
        # Each follows to a height of its own, but none of them beyond the day's line.
        rises = new.rises_m * (0.7 + 0.6 * luck[:, 0])
        highest = np.minimum(np.maximum(home - rises, day.rise_line_m), home)
        comes = [luck[k, 1] < new.comes[k] if one.comes is None else one.comes for k, one in enumerate(fish)]
        stays = [new.stays_s[k] if one.stays_s is None else one.stays_s for k, one in enumerate(fish)]

        def add(name: str, more: object) -> None:
            setattr(self, name, np.concatenate([getattr(self, name), np.asarray(more, getattr(self, name).dtype)]))

        nothing = np.zeros(len(fish))
        for name, more in {
            "x": x, "y": y, "z": home, "vx": cruise * np.cos(heading), "vy": cruise * np.sin(heading),
            "length_m": [one.length_m for one in fish], "home_m": home, "highest_m": highest,
            "keen": nothing, "shy": nothing, "timer_s": nothing, "watched_s": nothing, "stays_s": stays,
            "mood": nothing, "at": nothing, "comes": comes, "looked": nothing, "dropped_on": nothing,
            "bite": np.where(small, NIP, np.where(taps, TAP, np.where(slack, SLACK, LOAD))), "topmost_m": home,
            "bold": np.exp(new.bold_spread * bold), "face": nothing + day.in_the_face,
            "pounding": nothing + day.pounding, "who": np.arange(len(fish)) + self._came,
        }.items():  # fmt: skip
            add(name, more)
        self._came += len(fish)

    def leave_out(self, gone: NDArray[np.bool_]) -> None:
        """Forget the fish that are `gone` (fish,)."""
        stay = ~gone
        self.traits = FishTraits({name: values[stay] for name, values in self.traits.numbers.items()})
        self.species = tuple(one for one, kept in zip(self.species, stay, strict=True) if kept)
        for name, value in vars(self).items():
            if isinstance(value, np.ndarray):
                setattr(self, name, value[stay])
