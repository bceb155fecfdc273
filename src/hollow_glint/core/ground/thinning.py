"""Many soundings made fewer, and what that leaves out said: one for each square of a net, the one nearest to the
square's middle depth. The net is as fine as the number that may stay allows.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ..checks import InputError, number, within
from .regression import Array

FINEST_M = 0.5


@dataclass(frozen=True)
class Thinned:
    """Which soundings stay, by their numbers; the side of a square [m], nothing where all stay; and within how much the
    depths that were left out agree with the one that stands for them: 95 of 100 of them, and all [m]."""

    kept: NDArray[np.intp]
    cell_m: float
    within_m: float
    most_m: float


def thinned(place: ArrayLike, depth_m: ArrayLike, most: int) -> Thinned:
    """At most `most` of the soundings at places (n, 2) [m]. Raises ValueError naming what cannot be accepted."""
    number("most", most, 1, 1_000_000)
    where = np.asarray(place, dtype=np.float64)
    depth = within("depth_m", depth_m, 0.0, 500.0, "m")
    if where.shape != (depth.size, 2):
        raise InputError(f"place has the shape {where.shape}: accepted is ({depth.size}, 2), one for each depth")
    if depth.size <= most:
        return Thinned(np.arange(depth.size), 0.0, 0.0, 0.0)
    cell = FINEST_M  # and not by the size of the box: one place far off must not make the net coarse for all
    while np.unique(square := _squares(where, cell)).size > most:
        cell *= 1.15
    order = np.lexsort((depth, square))
    _, first, count = np.unique(square[order], return_index=True, return_counts=True)
    kept = order[first + (count - 1) // 2]  # the middle one of each square, by depth
    stands_for = np.repeat(depth[kept], count)
    off = np.abs(depth[order] - stands_for)[np.arange(depth.size) != np.repeat(first + (count - 1) // 2, count)]
    return Thinned(np.sort(kept), cell, float(np.quantile(off, 0.95)), float(off.max()))


def _squares(place: Array, cell: float) -> NDArray[np.int64]:
    """A number for the square in which each place lies."""
    east, north = np.floor((place - place.min(axis=0)) / cell).astype(np.int64).T
    return np.asarray(north * (east.max() + 1) + east)
