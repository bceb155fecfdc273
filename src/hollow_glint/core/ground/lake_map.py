"""A lake as it is drawn: lines of equal depth, a band of depths, edges; and of each how sure it is.

What is drawn as certain is what a reader may walk by, so each line and area is parted into what the soundings carry and
what is a guess between them.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from ..lazily import Lazily
from .contours import Drawn, Grid, depths_between, isobath, water_where
from .edges import Edge, edges
from .regression import Array
from .surface import Band, chance_in

if TYPE_CHECKING:
    import shapely
    from scipy import ndimage
else:
    shapely = Lazily("shapely")
    ndimage = Lazily("scipy.ndimage")

LIKELY, POSSIBLE = 0.8, 0.3  # chances of lying in the band from which on it is drawn solid, and as a guess


@dataclass(frozen=True)
class Contour:
    """A line (n, 2) [m] of equal depth [m]; sure where the deviation is below half the way to the next line."""

    depth_m: float
    line: Array
    is_sure: bool


@dataclass(frozen=True)
class DrawnEdge:
    """An edge, and whether the soundings carry it: as sure as a line of equal depth would have to be there."""

    edge: Edge
    is_sure: bool


@dataclass(frozen=True)
class BandAreas:
    """A band of depths: where the map is sure of it, where it may be, and how much water each is [m^2]."""

    likely: shapely.MultiPolygon
    possible: shapely.MultiPolygon
    likely_m2: float
    possible_m2: float


@dataclass(frozen=True)
class LakeMap:
    """A lake on a grid, its lines, edges, and the band if one was asked for."""

    drawn: Drawn
    contours: tuple[Contour, ...]
    edges: tuple[DrawnEdge, ...]
    band: BandAreas | None
    water_m2: float


def lake_map(drawn: Drawn, band: Band | None = None, unit_m: float = 1.0) -> LakeMap:
    """The map of a lake that is on a grid, its lines at depths that are round in a unit of so many metres."""
    grid, sd, shore = drawn.grid, drawn.sd_m, drawn.surface.shore
    depths = depths_between(grid, unit_m=unit_m)
    lines = [
        part for depth in depths for line in isobath(grid, depth) for part in _parted(grid, sd, line, depth, depths[0])
    ]
    water = float(np.isfinite(grid.depth_m).sum()) * grid.cell_m**2 if shore is None else float(shore.polygon.area)
    areas = None if band is None else _band_areas(grid, sd, band)
    step = depths[0] if depths else 1.0
    drops = tuple(DrawnEdge(one, float(np.median(_sd_along(grid, sd, one.line))) <= 0.5 * step) for one in edges(grid))
    return LakeMap(drawn, tuple(lines), drops, areas, water)


def _band_areas(grid: Grid, sd: Array, band: Band) -> BandAreas:
    chance = np.clip(chance_in(grid.depth_m, sd, band), 0.0, 1.0)
    likely = water_where(grid, chance, LIKELY, 1.1)
    possible = water_where(grid, chance, POSSIBLE, LIKELY)
    return BandAreas(likely, possible, float(likely.area), float(possible.area))


def _sd_along(grid: Grid, sd: Array, line: Array) -> Array:
    """The deviation [m] at the places (n, 2) [m] of a line."""
    at = (line - [grid.west_m, grid.south_m]) / grid.cell_m
    return np.asarray(ndimage.map_coordinates(sd, at[:, ::-1].T, order=1, mode="nearest"))


def _parted(grid: Grid, sd: Array, line: Array, depth_m: float, step_m: float) -> list[Contour]:
    """A line in pieces, each sure or not; neighbours share the place at which they part."""
    sure = _sd_along(grid, sd, line)[:-1] <= 0.5 * step_m
    cuts = [0, *(np.flatnonzero(np.diff(sure)) + 1).tolist(), sure.size]
    return [Contour(depth_m, line[a : b + 1], bool(sure[a])) for a, b in zip(cuts[:-1], cuts[1:], strict=True) if b > a]
