"""Made-up lakes for the checks: a shore that winds, and a bed that nobody fitted anything to.

A lake comes from its seed. Seeds below 1000 are for judging, those from 5000 up for trying things out.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import shapely
from numpy.typing import NDArray

Array = NDArray[np.float64]
KINDS = ("smooth", "rough", "cone")


@dataclass(frozen=True)
class Lake:
    """A ring (n, 2) [m] and waves on a bed of `deep_m` [m]."""

    ring: Array
    kind: str
    deep_m: float
    across_m: float
    waves: tuple[tuple[Array, float, float], ...]

    @property
    def polygon(self) -> shapely.Polygon:
        return shapely.Polygon(self.ring)

    def depth(self, place: Array) -> Array:
        """The true depth [m] at places (m, 2); nothing on land."""
        polygon = self.polygon
        farthest = shapely.maximum_inscribed_circle(polygon).length
        wet = shapely.contains_xy(polygon, place[:, 0], place[:, 1])
        share = np.where(wet, shapely.distance(polygon.exterior, shapely.points(place)), 0.0) / farthest
        if self.kind == "cone":
            return np.asarray(self.deep_m * share)
        waves = sum(a * np.cos(place @ k + phase) for k, phase, a in self.waves)
        if self.kind == "rough":  # ledges
            k = self.waves[2][0] * 1.3
            waves = waves + 0.15 * np.tanh(4.0 * np.cos(place @ k)) * np.minimum(1.0, 4.0 * share)
        return np.maximum(self.deep_m * (1.0 - np.exp(-2.5 * share)) * (1.0 + waves), 0.0)

    def places(self, count: int, rng: np.random.Generator) -> Array:
        """Places over water (count, 2), anywhere with the same chance."""
        found = np.empty((0, 2))
        west, south, east, north = self.polygon.bounds
        while found.shape[0] < count:
            tried = rng.uniform((west, south), (east, north), (4 * count, 2))
            found = np.vstack([found, tried[shapely.contains_xy(self.polygon, tried[:, 0], tried[:, 1])]])
        return found[:count]


def lake(seed: int, kind: str) -> Lake:
    """The lake of a seed."""
    rng = np.random.default_rng(seed)
    across, deep = rng.uniform(300.0, 1500.0), rng.uniform(5.0, 30.0)
    angle = np.linspace(0.0, 2.0 * np.pi, 60, endpoint=False)
    winds = sum(rng.normal() / k * np.cos(k * angle + rng.uniform(0, 6)) for k in (2, 3, 4))
    radius = np.maximum(across / 2.0 * (1.0 + 0.25 * winds), across / 6.0)
    ring = np.column_stack([radius * np.cos(angle), radius * np.sin(angle) * rng.uniform(0.6, 1.0)])
    sizes = ((0.5, 0.3), (0.3, 0.2), (0.15, 0.1), (0.1, 0.06))
    waves = tuple(
        (rng.normal(size=2) * 2.0 * np.pi / (across * size), rng.uniform(0, 6), share) for size, share in sizes
    )
    return Lake(ring, kind, deep, across, waves)
