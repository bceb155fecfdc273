"""A lake on a grid: lines of equal depth, and the water inside a band.

Marching squares with straight pieces between the grid's corners (Lorensen and Cline 1987 in two dimensions), by the
library `contourpy`; areas and lengths by `shapely`.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, Any

import numpy as np
from numpy.typing import NDArray

from ..checks import InputError, number
from ..lazily import Lazily
from .regression import Array
from .surface import Band, Surface

if TYPE_CHECKING:
    import contourpy
    import shapely
else:
    contourpy = Lazily("contourpy")
    shapely = Lazily("shapely")

MOST_CELLS = 40_000


@dataclass(frozen=True)
class Grid:
    """Depths (rows, columns) [m] on a grid of places: its south-west corner and the distance between neighbours [m].

    Rows go north, columns east. On land and where nothing is known a depth is not a number.
    """

    west_m: float
    south_m: float
    cell_m: float
    depth_m: Array

    def __post_init__(self) -> None:
        number("cell_m", self.cell_m, 0.01, 10_000.0, "m")
        if self.depth_m.ndim != 2 or min(self.depth_m.shape) < 2:
            raise InputError(f"depth_m has the shape {self.depth_m.shape}: at least 2 rows and 2 columns are needed")
        if self.depth_m.size > MOST_CELLS:
            raise InputError(f"depth_m has {self.depth_m.size} cells: accepted are up to {MOST_CELLS}")

    def lies_as(self, other: Grid) -> bool:
        """Whether another grid has the same places."""
        mine, its = ((one.west_m, one.south_m, one.cell_m, one.depth_m.shape) for one in (self, other))
        return mine == its

    @property
    def east(self) -> Array:
        """East of its columns [m]."""
        return np.asarray(self.west_m + self.cell_m * np.arange(self.depth_m.shape[1]), dtype=np.float64)

    @property
    def north(self) -> Array:
        """North of its rows [m]."""
        return np.asarray(self.south_m + self.cell_m * np.arange(self.depth_m.shape[0]), dtype=np.float64)

    @property
    def places(self) -> Array:
        """Its places (rows x columns, 2), row by row from the south-west."""
        east, north = np.meshgrid(self.east, self.north)
        return np.column_stack([east.ravel(), north.ravel()])


@dataclass(frozen=True)
class Drawn:
    """A surface on a grid: its depths, and their deviations (rows, columns) [m]."""

    surface: Surface
    grid: Grid
    sd_m: Array


def on_a_grid(surface: Surface, cells: int = 4000, before: Drawn | None = None) -> Drawn:
    """A surface on a grid of about so many places over its water.

    Where `before` is the same lake with fewer soundings, only what the new ones reach is worked out anew.
    """
    count = int(number("cells", cells, 16, MOST_CELLS))
    if surface.shore is None:
        (west, south), (east, north) = surface.place.min(axis=0), surface.place.max(axis=0)
        side = max(east - west, north - south, 20.0)
        # A sheet about them, which is no strip even where they lie in a line.
        wide, high = (0.1 * side + max(0.0, 0.6 * side - along) / 2.0 for along in (east - west, north - south))
        west, south, east, north = west - wide, south - high, east + wide, north + high
    else:
        west, south, east, north = surface.shore.polygon.bounds
    cell = float(np.sqrt((east - west) * (north - south) / count))
    shape = (max(int((north - south) / cell) + 2, 2), max(int((east - west) / cell) + 2, 2))
    empty = Grid(float(west), float(south), cell, np.zeros(shape))
    places = empty.places
    water = np.ones(places.shape[0], dtype=np.bool_) if surface.shore is None else surface.shore.inside(places)
    depth, sd = np.full(places.shape[0], np.nan), np.zeros(places.shape[0])
    anew = water
    if before is not None and surface.is_more_of(before.surface) and empty.lies_as(before.grid):
        depth, sd = before.grid.depth_m.ravel().copy(), before.sd_m.ravel().copy()
        anew = water.copy()
        anew[water] = surface.reached_since(before.surface, places[water])
    depth[anew], sd[anew] = surface.at(places[anew])
    return Drawn(surface, replace(empty, depth_m=depth.reshape(shape)), sd.reshape(shape))


def _generator(grid: Grid) -> contourpy.ContourGenerator:
    known: NDArray[np.float64] = np.ma.masked_invalid(grid.depth_m)
    return contourpy.contour_generator(grid.east, grid.north, known, fill_type="OuterOffset", line_type="Separate")


def isobath(grid: Grid, depth_m: float) -> list[Array]:
    """Lines (n, 2) [m] along which it is `depth_m` [m] deep."""
    lines = _generator(grid).lines(depth_m)
    return [np.asarray(line) for line in lines]


def water_in(grid: Grid, band: Band) -> shapely.MultiPolygon:
    """The water whose depth lies inside a band, with its islands left out [m]."""
    return _area(_generator(grid), band.from_m, band.to_m)


def water_where(grid: Grid, value: Array, from_: float, to: float) -> shapely.MultiPolygon:
    """The water where a value (rows, columns) on the grid's places lies between two, with its islands left out [m]."""
    return _area(_generator(replace(grid, depth_m=np.where(np.isfinite(grid.depth_m), value, np.nan))), from_, to)


def _area(generator: contourpy.ContourGenerator, low: float, high: float) -> shapely.MultiPolygon:
    filled: tuple[Any, ...] = generator.filled(low, high)
    outer, offsets = filled  # as OuterOffset has it
    pieces = []
    for ring, cuts in zip(outer, offsets, strict=True):
        parts = [ring[a:b] for a, b in zip(cuts[:-1], cuts[1:], strict=True)]
        if len(parts[0]) >= 4:
            pieces.append(shapely.Polygon(parts[0], [hole for hole in parts[1:] if len(hole) >= 4]))
    whole = shapely.union_all([shapely.make_valid(piece) for piece in pieces])
    return (
        whole
        if isinstance(whole, shapely.MultiPolygon)
        else shapely.MultiPolygon([part for part in shapely.get_parts(whole) if isinstance(part, shapely.Polygon)])
    )


def depths_between(grid: Grid, most: int = 12, unit_m: float = 1.0) -> list[float]:
    """Depths [m] of lines to draw, round in a unit of so many metres: 1, 2 or 5 and their tens, at most so many."""
    deepest = float(np.nanmax(grid.depth_m)) if np.isfinite(grid.depth_m).any() else 0.0
    for step in (unit_m * one for one in (0.5, 1.0, 2.0, 5.0, 10.0, 20.0, 50.0, 100.0, 200.0)):
        if deepest / step <= most:
            return [step * k for k in range(1, int(deepest / step) + 1)]
    return []
