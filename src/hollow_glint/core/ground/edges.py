"""Edges of a bed: the lines along which it falls most steeply, where a flat ends and the deep begins.

An edge is where the slope has its greatest value along the way down: the second derivative of the depth along its own
gradient passes through nothing there, from steepening to easing (Haralick 1984, IEEE PAMI 6, 58-68, for edges in
pictures; here the picture is the depth).
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from ..lazily import Lazily
from .contours import Grid
from .regression import Array

if TYPE_CHECKING:
    import contourpy
    from scipy import ndimage
else:
    contourpy = Lazily("contourpy")
    ndimage = Lazily("scipy.ndimage")

LEAST_FALL = 0.10  # metres down for each metre along; less is no edge
SMOOTHED_CELLS = 1.0
SHORTEST_CELLS = 4.0  # shorter pieces are of the grid, not of the lake


@dataclass(frozen=True)
class Edge:
    """An edge: a line (n, 2) [m] with the deep on its right hand, and how steeply the bed falls there, as a share."""

    line: Array
    falls: float


def falls(grid: Grid) -> Array:
    """How steeply the bed falls (rows, columns): metres down for each metre along; nothing where that is not known."""
    north, east = np.gradient(grid.depth_m, grid.cell_m)
    return np.asarray(np.nan_to_num(np.hypot(north, east)))


def edges(grid: Grid, least_fall: float = LEAST_FALL) -> list[Edge]:
    """The edges of a bed, longest first."""
    cell = grid.cell_m
    depth = _smoothed(grid.depth_m)
    north, east = np.gradient(depth, cell)
    slope = np.hypot(north, east)
    across, twice_east = np.gradient(east, cell)
    twice_north = np.gradient(north, cell)[0]
    squared = np.maximum(slope**2, 1e-12)
    eases = (east**2 * twice_east + 2.0 * east * north * across + north**2 * twice_north) / squared
    known = np.isfinite(eases)
    if not known.any():
        return []
    lines = contourpy.contour_generator(
        np.arange(depth.shape[1]), np.arange(depth.shape[0]), np.ma.masked_invalid(eases), line_type="Separate"
    ).lines(0.0)
    filled: list[Array] = [np.nan_to_num(np.asarray(one)) for one in (eases, slope, east, north)]

    def at(which: Array, places: Array) -> Array:
        return np.asarray(ndimage.map_coordinates(which, places[:, ::-1].T, order=1, mode="nearest"))

    found = []
    for line in (np.asarray(one, dtype=np.float64) for one in lines):
        steep = at(filled[1], line)
        down = np.column_stack([at(filled[2], line), at(filled[3], line)]) / np.maximum(steep, 1e-9)[:, None]
        # Before it the bed steepens on the way down, after it eases: at the other zeros it is the other way about.
        is_edge = (steep >= least_fall) & (at(filled[0], line - 0.7 * down) > at(filled[0], line + 0.7 * down))
        for part in _runs(is_edge):
            piece, way = line[part], down[part]
            along = np.diff(piece, axis=0)
            if np.hypot(*along.T).sum() < SHORTEST_CELLS:
                continue
            # The right hand of a step (x, y) is (y, -x).
            to_right = along[:, 1] * way[:-1, 0] - along[:, 0] * way[:-1, 1]
            piece = piece if to_right.sum() >= 0.0 else piece[::-1]
            found.append(Edge(piece * cell + [grid.west_m, grid.south_m], float(np.mean(steep[part]))))
    return sorted(found, key=lambda one: -one.line.shape[0])


def _smoothed(depth: Array) -> Array:
    """The depth without what only the grid sees; land counts for nothing in it."""
    known = np.isfinite(depth)
    weight = ndimage.gaussian_filter(known.astype(np.float64), SMOOTHED_CELLS)
    total = ndimage.gaussian_filter(np.where(known, depth, 0.0), SMOOTHED_CELLS)
    return np.where(known, total / np.maximum(weight, 1e-9), np.nan)


def _runs(flags: NDArray[np.bool_]) -> list[slice]:
    """Where flags stay true, two and more in a row."""
    ends = np.flatnonzero(np.diff(np.concatenate([[0], flags.astype(np.int8), [0]])))
    return [slice(a, b) for a, b in zip(ends[::2], ends[1::2], strict=True) if b - a >= 2]
