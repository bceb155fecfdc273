"""Soundings and places as GPX 1.1: waypoints, and tracks whose points have a depth.

GPX has no word for depth: it stands in an extension called `depth`, in metres, of whatever namespace; ours is written.
The library `gpxpy` reads and writes; `defusedxml` looks at a file first, so that none can blow up as it is opened.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING, Any
from xml.etree.ElementTree import Element, ParseError

import numpy as np

from ..core.checks import InputError
from ..core.ground.plane import Plane
from ..core.ground.soundings import Sounding
from ..core.lazily import Lazily
from .soundings_csv import MOST_BYTES, MOST_LINES, Refused, Taken

if TYPE_CHECKING:
    import defusedxml
    import gpxpy
    from defusedxml import ElementTree
    from gpxpy import gpx
else:
    defusedxml, gpxpy, gpx = Lazily("defusedxml"), Lazily("gpxpy"), Lazily("gpxpy.gpx")
    ElementTree = Lazily("defusedxml.ElementTree")

NAMESPACE = "urn:hollow-glint:gpx:1"
DEPTH = f"{{{NAMESPACE}}}depth"


@dataclass(frozen=True)
class Waypoint:
    """A place with a name and a note, to be walked to [m]."""

    east_m: float
    north_m: float
    name: str
    note: str = ""


def write(waypoints: Sequence[Waypoint], soundings: Sequence[Sounding], plane: Plane) -> str:
    """The file's text: places to walk to as waypoints in their order, soundings as waypoints with a depth."""
    file = gpx.GPX()
    file.creator = "Hollow Glint"
    file.nsmap = {"hollow-glint": NAMESPACE}
    for one in waypoints:
        latitude, longitude = plane.to_degrees(one.east_m, one.north_m)
        point = gpx.GPXWaypoint(float(latitude), float(longitude), name=one.name, description=one.note or None)
        file.waypoints.append(point)
    for sounding in soundings:
        latitude, longitude = plane.to_degrees(sounding.east_m, sounding.north_m)
        point = gpx.GPXWaypoint(float(latitude), float(longitude), type="sounding")
        told = Element(DEPTH)
        told.text = f"{sounding.depth_m:.3f}"
        point.extensions.append(told)
        file.waypoints.append(point)
    return str(file.to_xml(version="1.1"))


def _opened(text: str) -> gpx.GPX:
    if len(text) > MOST_BYTES:
        raise InputError(f"the file has {len(text)} characters: accepted are up to {MOST_BYTES}")
    try:
        root = ElementTree.fromstring(text)
    except defusedxml.DefusedXmlException:
        raise InputError("the file declares entities or fetches from elsewhere: accepted is plain GPX 1.1") from None
    except ParseError as wrong:
        line, column = wrong.position
        raise InputError(f"line {line}, column {column + 1}: the file is not XML that can be read") from None
    if not root.tag.endswith("gpx"):
        raise InputError(f"the file holds <{root.tag.split('}')[-1][:40]}>: accepted is <gpx>")
    try:
        return gpxpy.parse(text)
    except (gpx.GPXException, ValueError) as wrong:
        raise InputError(f"the file is not GPX 1.1: {wrong}") from None


def _depth(point: Any) -> str | None:
    """What a point says of its depth."""
    for told in (inner for one in point.extensions for inner in one.iter()):
        if str(told.tag).split("}")[-1].lower() == "depth":
            return (told.text or "").strip()
    return None


def _points(file: gpx.GPX) -> Iterator[tuple[str, Any]]:
    yield from ((f"waypoint {k}", one) for k, one in enumerate(file.waypoints, 1))
    walked: Iterable[Any] = (point for track in file.tracks for part in track.segments for point in part.points)
    yield from ((f"track point {k}", one) for k, one in enumerate(walked, 1))


def middle(text: str) -> list[float] | None:
    """Latitude and longitude in the middle of a file's places; None where it has none. Raises ValueError for no GPX."""
    found = [(point.latitude, point.longitude) for _, point in _points(_opened(text))]
    return None if not found else [float(one) for one in np.median(found, axis=0)]


def read(text: str, plane: Plane) -> tuple[Taken, tuple[Waypoint, ...]]:
    """Soundings (points that tell a depth) and places that have a name. Raises ValueError for what is no GPX.

    A point that cannot be taken is refused by its number, in `Taken.refused`; `line` counts points, not lines.
    """
    soundings: list[Sounding] = []
    waypoints: list[Waypoint] = []
    refused: list[Refused] = []
    for k, (called, point) in enumerate(_points(_opened(text)), 1):
        if k > MOST_LINES:
            raise InputError(f"the file has more than {MOST_LINES} points")
        said = _depth(point)
        try:
            east, north = (float(one) for one in plane.to_plane(point.latitude, point.longitude))
            if said is not None:
                try:
                    depth = float(said)
                except ValueError:
                    raise InputError(f"depth is {said[:30]!r}: a number of metres is accepted") from None
                when = point.time.isoformat() if point.time else ""
                soundings.append(Sounding(east, north, depth, "sonar", when))
            elif getattr(point, "name", None):
                waypoints.append(Waypoint(east, north, point.name[:80], (point.description or "")[:200]))
        except ValueError as wrong:
            refused.append(Refused(k, f"{called}: {wrong}"))
    place = np.array([(one.east_m, one.north_m) for one in soundings]).reshape(-1, 2)
    depths = np.array([one.depth_m for one in soundings], dtype=np.float64)
    return Taken(place, depths, tuple(one.at for one in soundings), tuple(refused)), tuple(waypoints)
