"""Fewer holes: how many looks cover a basin, against how many holes would, drilled blind, and where to look from.

Circles of one size cover a plane best when their middles stand in a triangle lattice, `sqrt 3` radii apart (Kershner
1939, American Journal of Mathematics 61, 665-671).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from ..checks import InputError, number
from ..lazily import Lazily
from .course import Array

if TYPE_CHECKING:
    import shapely
else:
    shapely = Lazily("shapely")

MOST_LOOKS = 2000
OFFSETS = 6  # of the lattice, tried along each axis


@dataclass(frozen=True, eq=False)
class Cover:
    """Where to look from (looks, 2) [m], in walking order; how many holes drilled blind cover as much, each showing a
    cone of so many metres; and the water that is covered [m^2]."""

    looks: Array
    blind: int
    water_m2: float


def cover(shore: Sequence[tuple[float, float]], look_radius_m: float, cone_radius_m: float) -> Cover:
    """The fewest looks, on a lattice, from which every place within `shore` (ring of east, north [m]) is in sight.

    Raises ValueError naming what is outside its span, a ring that encloses nothing, or water that needs too many.
    """
    number("look_radius_m", look_radius_m, 1.0, 300.0, "m")
    number("cone_radius_m", cone_radius_m, 0.05, 100.0, "m")
    basin = shapely.Polygon(shore) if len(shore) > 2 else None
    if basin is None or not basin.is_valid or basin.area <= 0.0:
        raise InputError("shore encloses nothing or crosses itself: accepted is a ring of three places and more")
    least = basin.area / (np.pi * look_radius_m**2)
    if least > MOST_LOOKS:
        raise InputError(f"shore encloses {basin.area / 1e4:.0f} ha: accepted is what {MOST_LOOKS} looks can cover")
    tried = sorted((_lattice(basin, look_radius_m, i, j) for i in range(OFFSETS) for j in range(OFFSETS)), key=len)
    looks: Array | None = None
    for lattice in tried:  # what is in nobody's sight is dear to find: only where it can still be the fewest
        if looks is not None and len(lattice) >= len(looks):
            break
        whole = np.concatenate([lattice, _left_out(basin, lattice, look_radius_m)])
        looks = whole if looks is None or len(whole) < len(looks) else looks
    assert looks is not None
    return Cover(_in_order(looks), _blind(float(basin.area), cone_radius_m), float(basin.area))


def _blind(area_m2: float, cone_radius_m: float) -> int:
    """Holes that cover as much with a cone each: by area, at the best lattice's density of 2 pi / sqrt 27."""
    each = 1.5 * np.sqrt(3.0) * cone_radius_m**2
    return int(np.ceil(area_m2 / each))


def _lattice(basin: shapely.Polygon, radius_m: float, i: int, j: int) -> Array:
    """The lattice's places that are needed to cover a basin, moved about by a share of its step."""
    step = radius_m * np.sqrt(3.0)
    west, south, east, north = basin.bounds
    rows = np.arange(south - 2.0 * radius_m + j / OFFSETS * 1.5 * radius_m, north + 2.0 * radius_m, 1.5 * radius_m)
    places = [
        (x, y)
        for k, y in enumerate(rows)
        for x in np.arange(west - 2.0 * step + (i / OFFSETS + 0.5 * (k % 2)) * step, east + 2.0 * step, step)
    ]
    # Each look owns the six-sided cell round it: it is needed where that cell holds water.
    turns = np.radians(np.arange(30.0, 390.0, 60.0))
    cells = shapely.polygons(
        np.array(places)[:, None, :] + 0.999 * radius_m * np.column_stack([np.cos(turns), np.sin(turns)])
    )
    needed = shapely.intersects(cells, basin)
    kept = np.array(places)[needed]
    # Nobody drills on land: a look whose middle lies ashore moves to the middle of what its cell holds of the water.
    for k in np.flatnonzero(~shapely.contains_xy(basin, kept[:, 0], kept[:, 1])):
        part = shapely.intersection(cells[np.flatnonzero(needed)[k]], basin)
        middle = shapely.minimum_bounding_circle(part).centroid
        middle = middle if basin.contains(middle) else shapely.shortest_line(part, middle).interpolate(0.0)
        kept[k] = middle.x, middle.y
    return np.asarray(kept)


def _left_out(basin: shapely.Polygon, looks: Array, radius_m: float) -> Array:
    """A look more for every piece of water that is in nobody's sight; a bay may need one."""
    more: list[tuple[float, float]] = []
    sight = shapely.union_all(shapely.buffer(shapely.points(looks), radius_m * 1.001, quad_segs=32))
    while True:
        left = [one for one in shapely.get_parts(basin.difference(sight)) if one.area > 0.01]
        if not left:
            return np.array(more).reshape(-1, 2)
        place = max(left, key=lambda one: one.area).representative_point()
        more.append((place.x, place.y))
        sight = sight.union(place.buffer(radius_m * 1.001, quad_segs=32))


def _in_order(places: Array) -> Array:
    """Row by row, to and fro."""
    if len(places) < 3:
        return places
    rows = np.round((places[:, 1] - places[:, 1].min()) / max(np.ptp(places[:, 1]) / 12.0, 1e-9)).astype(int)
    way = np.where(rows % 2 == 0, places[:, 0], -places[:, 0])
    return np.asarray(places[np.lexsort((way, rows))])
