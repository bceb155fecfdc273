"""A flat sheet about an anchor: metres east and north of it for a latitude and longitude, and back.

Azimuthal equidistant: distance and bearing from the anchor are those of the geodesic on WGS 84 (Karney 2013, J. Geodesy
87, 43-55; the library `geographiclib` is his). Over the 20 km of a large lake any other distance on the sheet is right
to two parts in a million (Snyder 1987, USGS professional paper 1395, chapter 25).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from geographiclib.geodesic import Geodesic
from numpy.typing import ArrayLike

from ..checks import Floats, within

MOST_M = 100_000.0  # from the anchor: further off, a sheet is no map


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
        lines = [
            Geodesic.WGS84.Inverse(self.latitude, self.longitude, a, b)
            for a, b in zip(north.flat, east.flat, strict=True)
        ]
        away = np.array([line["s12"] for line in lines]).reshape(north.shape)
        within("distance from the anchor", away, 0.0, MOST_M, "m")
        bearing = np.radians(np.array([line["azi1"] for line in lines])).reshape(north.shape)
        return away * np.sin(bearing), away * np.cos(bearing)

    def to_degrees(self, east_m: ArrayLike, north_m: ArrayLike) -> tuple[Floats, Floats]:
        """Latitude and longitude [degrees] of places on the sheet, same shape."""
        east = within("east_m", east_m, -MOST_M, MOST_M, "m")
        north = within("north_m", north_m, -MOST_M, MOST_M, "m")
        east, north = np.broadcast_arrays(east, north)
        ends = [
            Geodesic.WGS84.Direct(self.latitude, self.longitude, b, a)
            for a, b in zip(np.hypot(east, north).flat, np.degrees(np.arctan2(east, north)).flat, strict=True)
        ]
        return (
            np.array([end["lat2"] for end in ends]).reshape(east.shape),
            np.array([end["lon2"] for end in ends]).reshape(east.shape),
        )


def bearing(east_m: ArrayLike, north_m: ArrayLike) -> Floats:
    """Degrees clockwise from north [0, 360) in which a step of so many metres east and north leads."""
    east, north = (np.asarray(one, dtype=np.float64) for one in (east_m, north_m))
    return np.asarray(np.degrees(np.arctan2(east, north)) % 360.0)
