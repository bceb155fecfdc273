"""What happens between hand, lure and fish, and where each fish truly is: what the Bench, runs and replays are told."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np


@dataclass(frozen=True)
class Event:
    """Something that happened: a code; depth [m] and fish length [m] where there is a fish in it (else 0); the number
    behind it (a speed [m/s], a time [s], a pull [N]); the species once it is caught; how it bit."""

    kind: str
    depth_m: float = 0.0
    fish_length_m: float = 0.0
    number: float = 0.0
    species: str = ""
    how: str = ""


@dataclass(frozen=True)
class FishTruth:
    """Where the fish truly is [m], what it is about, how keen it is (0 to 1), how high it will go [m], and which of
    all that came it is."""

    x: float
    y: float
    z: float
    length_m: float
    mood: str
    species: str
    keen: float = 0.0
    highest_m: float = 0.0
    who: int = 0

    @property
    def aside_m(self) -> float:
        """Distance off the hole's axis [m]."""
        return float(np.hypot(self.x, self.y))
