"""Plain waters for the sweep's tests: a flat bed, one thing, one fish."""

from __future__ import annotations

import numpy as np

from hollow_glint.core.ground.contours import Grid
from hollow_glint.core.search.patch import BEDS, Group, Patch, Standing


def flat(depth_m: float = 9.4, kind: str = "mud", standing: tuple[Standing, ...] = (), groups=()) -> Patch:
    """A flat bed of one kind."""
    depth = np.full((121, 121), depth_m)
    return Patch(Grid(-60.0, -60.0, 1.0, depth), np.full(depth.shape, BEDS.index(kind), np.uint8), standing, groups)


def fish(way, depth_m: float = 3.0, length_m: float = 0.3) -> Group:
    """One fish that swims along (time, east, north) and never wanders."""
    corners = np.array(way, dtype=np.float64)
    none = np.zeros((1, 3))
    return Group("single", "char", np.array([length_m]), depth_m, corners[:, 0], corners[:, 1:], none, none, none, none)
