"""Streams of chance, drawn from a run's one source in one order, for whoever steps it: with a picture, or without."""

from __future__ import annotations

import numpy as np


class Luck:
    """What a run draws from. Each stream is its own, so that how many pings a picture needs never moves a fish."""

    def __init__(self, rng: np.random.Generator) -> None:
        self.water, self.fish = rng.spawn(2)
        self._rng = rng

    def another(self) -> np.random.Generator:
        """One stream more: for the day where none is given, and for each set of schools."""
        return self._rng.spawn(1)[0]
