"""Marks that live for one ping alone: a neighbour's sonar, electrical noise, or only specks; measured to tell which."""

from __future__ import annotations

from collections import deque

import numpy as np

from ..checks import Floats
from .detect import Marks

REMEMBERED_S = 8.0
BANDS = 8  # of the water, in which lone marks are looked for
STOUT = 0.8  # pulses thick at the least; a speck is thinner
MEASURES = ("a second", "specks a second", "strength", "spread", "drift", "speckle", "kept", "colours")

# A neighbour's marks fall anywhere in the water; specks, bait and a lost track's marks fall where they are. Found as
# cuts of a decision tree over practice scenes, where they told 85 of 100 looks and 1 of 100 falsely.
LEAST_A_SECOND, LEAST_SPREAD = 0.9, 0.55


def strangers_about(measures: Floats) -> bool:
    """Whether lone marks that measure so are a neighbour's or electrical noise: many, and all over the water."""
    return bool(measures[0] >= LEAST_A_SECOND and measures[3] >= LEAST_SPREAD)


class Strangers:
    """Remembers the lone marks of the last REMEMBERED_S."""

    def __init__(self, resolution_m: float, row_m: float, steps: int) -> None:
        self._resolution_m, self._row_m, self._steps = resolution_m, row_m, steps
        self._pings: deque[tuple[float, Floats, Floats, int]] = deque()

    def see(self, time_s: float, loose: Marks) -> None:
        """The marks of one ping that continue nothing."""
        stout = (loose.thick_m >= STOUT * self._resolution_m) & (loose.level >= 2)
        strength = loose.level[stout] / self._steps
        self._pings.append((time_s, loose.range_m[stout], strength, int(loose.range_m.size)))
        while self._pings[0][0] < time_s - REMEMBERED_S:
            self._pings.popleft()

    def measures(self, top_m: float, foot_m: float, speckle: float, kept: int) -> Floats:
        """The numbers that tell them apart, shape (MEASURES,), over the water from `top_m` to `foot_m` [m from the
        face], of which a share `speckle` is lit by short-lived marks."""
        span = max(self._pings[-1][0] - self._pings[0][0], 0.5) if self._pings else 1.0
        at = [one for _, one, _, _ in self._pings]
        all_m = np.concatenate(at) if at else np.zeros(0)
        strength = np.concatenate([one for _, _, one, _ in self._pings]) if at else np.zeros(0)
        band = np.clip((all_m - top_m) / max(foot_m - top_m, 0.1) * BANDS, 0, BANDS - 1).astype(int)
        _, agree = self.drift()
        return np.array((
            all_m.size / span,
            sum(one for _, _, _, one in self._pings) / span,
            float(strength.mean()) if strength.size else 0.0,
            np.unique(band).size / max(min(BANDS, all_m.size), 1),
            agree,
            speckle,
            float(kept),
            float(self._steps),
        ))  # fmt: skip

    def drift(self) -> tuple[float | None, float]:
        """The step [m a ping] that most lone marks of a ping and the next share, and what share agrees with it."""
        at = [one for _, one, _, _ in self._pings]
        steps = [(b[None, :] - a[:, None]).ravel() for a, b in zip(at, at[1:], strict=False) if a.size and b.size]
        if not steps:
            return None, 0.0
        step = np.concatenate(steps)
        bins = np.round(step / max(2.0 * self._row_m, 0.06)).astype(int)
        values, counts = np.unique(bins, return_counts=True)
        near = counts + np.array([counts[np.abs(values - v) == 1].sum() for v in values])
        best = int(np.argmax(near))
        if near[best] < 5:
            return None, 0.0
        return float(np.median(step[np.abs(bins - values[best]) <= 1])), float(near[best] / step.size)
