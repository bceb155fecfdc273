"""Lines and areas of a lake as GeoJSON (RFC 7946): longitude before latitude, in degrees on WGS 84."""

from __future__ import annotations

import json
from collections.abc import Iterable, Mapping
from typing import TYPE_CHECKING, Any

import numpy as np
from numpy.typing import NDArray

from ..core.ground.plane import Plane
from ..core.lazily import Lazily

if TYPE_CHECKING:
    import shapely
else:
    shapely = Lazily("shapely")

DIGITS = 7  # of a degree: a centimetre


def _degrees(plane: Plane, ring: NDArray[np.float64]) -> list[list[float]]:
    latitude, longitude = plane.to_degrees(ring[:, 0], ring[:, 1])
    return [[round(float(b), DIGITS), round(float(a), DIGITS)] for a, b in zip(latitude, longitude, strict=True)]


def _feature(geometry: dict[str, Any] | None, properties: Mapping[str, Any]) -> dict[str, Any]:
    return {"type": "Feature", "geometry": geometry, "properties": dict(properties)}


def point(latitude: float | None, longitude: float | None, **properties: Any) -> dict[str, Any]:
    """A place in degrees as a feature; without geometry where nobody is to know it (RFC 7946, 3.2)."""
    if latitude is None or longitude is None:
        return _feature(None, properties)
    coordinates = [round(longitude, DIGITS), round(latitude, DIGITS)]
    return _feature({"type": "Point", "coordinates": coordinates}, properties)


def line(plane: Plane, places: NDArray[np.float64], **properties: Any) -> dict[str, Any]:
    """A line through places (n, 2) [m] as a feature."""
    return _feature({"type": "LineString", "coordinates": _degrees(plane, places)}, properties)


def area(plane: Plane, water: shapely.MultiPolygon, **properties: Any) -> dict[str, Any]:
    """An area [m] as a feature; rings go as the right hand says, outer ones against the clock (RFC 7946, 3.1.6)."""
    pieces = []
    for piece in water.geoms:
        turned = shapely.orient_polygons(piece, exterior_cw=False)
        rings = [turned.exterior, *turned.interiors]
        pieces.append([_degrees(plane, np.asarray(shapely.get_coordinates(ring))) for ring in rings])
    return _feature({"type": "MultiPolygon", "coordinates": pieces}, properties)


def write(features: Iterable[dict[str, Any]], **told: Any) -> str:
    """The file's text; what else is told of it stands beside its features (RFC 7946, 6.1)."""
    return json.dumps({"type": "FeatureCollection", **told, "features": list(features)}, separators=(",", ":"))
