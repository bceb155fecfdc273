"""A flat sheet about an anchor: metres east and north of it for a latitude and longitude, and back.

Azimuthal equidistant: distance and bearing from the anchor are those of the geodesic on WGS 84 (Karney 2013, J. Geodesy
87, 43-55; the library `geographiclib` is his). Over the 20 km of a large lake any other distance on the sheet is right
to two parts in a million (Snyder 1987, USGS professional paper 1395, chapter 25).
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np
from numpy.polynomial import chebyshev
from numpy.typing import ArrayLike

from ..checks import Floats, within
from ..lazily import Lazily

if TYPE_CHECKING:
    from geographiclib import geodesic
else:
    geodesic = Lazily("geographiclib.geodesic")

MOST_M = 100_000.0  # from the anchor: further off, a sheet is no map
ONE_BY_ONE = 400  # places; more are laid on the sheet by a polynomial, which differs by less than a tenth of a mm
DEGREE = 11
EARTH_M = 6_371_000.0  # mean radius


@dataclass(frozen=True)
class Plane:
    """The sheet about an anchor in degrees north and east on WGS 84."""

    latitude: float
    longitude: float

    def __post_init__(self) -> None:
        within("latitude", self.latitude, -85.0, 85.0, "degrees")
        within("longitude", self.longitude, -180.0, 180.0, "degrees")

    def to_plane(self, latitude: ArrayLike, longitude: ArrayLike) -> tuple[Floats, Floats]:
        """East and north [m] of places in degrees, same shape. Raises ValueError for places more than 100 km off."""
        north = within("latitude", latitude, -90.0, 90.0, "degrees")
        east = within("longitude", longitude, -180.0, 180.0, "degrees")
        north, east = np.broadcast_arrays(north, east)
        if north.size > ONE_BY_ONE:
            return self._many(north, east)
        lines = [
            geodesic.Geodesic.WGS84.Inverse(self.latitude, self.longitude, a, b)
            for a, b in zip(north.flat, east.flat, strict=True)
        ]
        away = np.array([line["s12"] for line in lines]).reshape(north.shape)
        within("distance from the anchor", away, 0.0, MOST_M, "m")
        bearing = np.radians(np.array([line["azi1"] for line in lines])).reshape(north.shape)
        return away * np.sin(bearing), away * np.cos(bearing)

    def is_far(self, latitude: float, longitude: float) -> bool:
        """Whether a place may be too far off for the sheet, by a sphere and so at once: `to_plane` is the judge."""
        north = np.radians(latitude - self.latitude)
        east = np.radians((longitude - self.longitude + 180.0) % 360.0 - 180.0)
        here, there = np.radians(self.latitude), np.radians(latitude)
        half = np.sin(north / 2) ** 2 + np.cos(here) * np.cos(there) * np.sin(east / 2) ** 2
        return bool(2.0 * EARTH_M * np.arcsin(np.sqrt(half)) > 0.98 * MOST_M)

    def _many(self, north: Floats, east: Floats) -> tuple[Floats, Floats]:
        """`to_plane` for many: east and north are smooth, so that Chebyshev polynomials through a few dozen places
        of the box they lie in tell all others (Trefethen 2013, Approximation Theory and Practice, chapter 8)."""
        along = (east - self.longitude + 180.0) % 360.0 - 180.0
        box = [(float(one.min()), float(one.max())) for one in (north, along)]
        middles = [0.5 * (low + high) for low, high in box]
        halves = [max(0.5 * (high - low), 1e-9) for low, high in box]
        knots = chebyshev.chebpts1(DEGREE + 1)
        x, y = (one.ravel() for one in np.meshgrid(knots, knots))
        node = self.to_plane(middles[0] + halves[0] * x, _round(self.longitude + middles[1] + halves[1] * y))
        terms = chebyshev.chebvander2d(x, y, [DEGREE, DEGREE])
        fitted = np.linalg.solve(terms, np.column_stack(node))
        u, v = (north - middles[0]) / halves[0], (along - middles[1]) / halves[1]
        told = [chebyshev.chebval2d(u, v, one.reshape(DEGREE + 1, DEGREE + 1)) for one in fitted.T]
        within("distance from the anchor", np.hypot(*told), 0.0, MOST_M, "m")
        return np.asarray(told[0]), np.asarray(told[1])

    def to_degrees(self, east_m: ArrayLike, north_m: ArrayLike) -> tuple[Floats, Floats]:
        """Latitude and longitude [degrees] of places on the sheet, same shape."""
        east = within("east_m", east_m, -MOST_M, MOST_M, "m")
        north = within("north_m", north_m, -MOST_M, MOST_M, "m")
        east, north = np.broadcast_arrays(east, north)
        ends = [
            geodesic.Geodesic.WGS84.Direct(self.latitude, self.longitude, b, a)
            for a, b in zip(np.hypot(east, north).flat, np.degrees(np.arctan2(east, north)).flat, strict=True)
        ]
        return (
            np.array([end["lat2"] for end in ends]).reshape(east.shape),
            np.array([end["lon2"] for end in ends]).reshape(east.shape),
        )


def _round(longitude: Floats) -> Floats:
    """Longitudes between -180 and 180 degrees."""
    return np.asarray((longitude + 180.0) % 360.0 - 180.0)


def bearing(east_m: ArrayLike, north_m: ArrayLike) -> Floats:
    """Degrees clockwise from north [0, 360) in which a step of so many metres east and north leads."""
    east, north = (np.asarray(one, dtype=np.float64) for one in (east_m, north_m))
    return np.asarray(np.degrees(np.arctan2(east, north)) % 360.0)
