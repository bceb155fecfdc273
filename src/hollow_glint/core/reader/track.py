"""One mark followed from ping to ping, with its own history."""

from __future__ import annotations

from collections import deque
from dataclasses import dataclass, field

import numpy as np

from ..checks import Floats
from .story import Story


@dataclass
class Track:
    """One followed mark: where it is [m from the face], how it moves [m/s], and what it was.

    variance_m2, covariance, variance_speed   of the two
    score      log likelihood ratio; hit_share how often it was lit of late
    seen       per ping: time [s], range [m], level (0 when dark), thickness [m], line taken in so far [m]
    expected_m     where it should have been by its own way, and with the rod [m from the face]
    rod_odds       log odds of late that the rod says better where it goes
    above_chance   how much more often it is lit than speckle would light it [share of pings]
    speckle        how often the water about it is lit
    hidden     for how long it has stood within another's mark [s]
    hidden_in  which track that is; -1 the bottom
    features   what was measured of it at the last look, at `looked_s` [s]
    alone, beside  log odds of what it is: by itself, and beside the lure once that is known
    story      what it has shown of itself over its whole life
    """

    id: int
    range_m: float
    speed_m_s: float
    began_s: float
    variance_m2: float = 4e-4
    covariance: float = 0.0
    variance_speed: float = 0.04
    score: float = 0.0
    hit_share: float = 0.8
    hits: int = 1
    level_mean: float = 0.0
    thick_m: float = 0.0
    exceed: Floats = field(default_factory=lambda: np.zeros(0))
    above_chance: float = 0.0
    speckle: float = 0.0
    hidden: float = 0.0
    hidden_in: int | None = None
    confirmed: bool = False
    last_hit_s: float = 0.0
    expected_m: tuple[float, float] = (0.0, 0.0)
    rod_odds: float = 0.0
    rod_score: float = 0.0
    still_score: float = 0.0
    compared_s: float = 0.0
    story: Story = field(default_factory=Story)
    features: Floats = field(default_factory=lambda: np.zeros(0))
    alone: Floats | None = None
    beside: Floats | None = None
    looked_s: float = 0.0
    seen: deque[tuple[float, float, int, float, float]] = field(default_factory=lambda: deque(maxlen=400))
