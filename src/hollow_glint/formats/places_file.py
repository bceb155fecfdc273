"""Places for a friend: the program's own file, GPX, GeoJSON. Documented in docs/places-file.md.

The own file and GeoJSON can hold places without a position (RFC 7946 has features with no geometry); GPX cannot.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict
from typing import Any

from pydantic import Field

from ..core import fields
from ..core.checks import InputError
from ..core.ground.plane import Plane
from ..core.ground.soundings import Sounding
from ..core.hole.hole import Hole
from ..core.trip.sharing import Shared, SharedDepth, SharedHole, SharedThing
from . import geojson, json_file, soundings_gpx
from .mirror import Given, mirrors
from .soundings_gpx import Waypoint

MARK, VERSION = "hollow_glint_places", 1


@mirrors(Hole)
class _HoleFields(Given):
    """A hole."""


@mirrors(SharedHole)
class _SharedHoleFields(Given):
    """A hole with its place."""


@mirrors(SharedThing)
class _SharedThingFields(Given):
    """A structure with its place."""


@mirrors(SharedDepth)
class _SharedDepthFields(Given):
    """A sounding with its place."""


@mirrors(Shared)
class _SharedFields(Given):
    """Places for a friend."""

    left_out: list[str] = Field([], max_length=20)


def write(shared: Shared, left_out: Sequence[str]) -> str:
    """The own file's text; it says of itself what it leaves out."""
    return json_file.write(MARK, VERSION, {**asdict(shared), "left_out": list(left_out)})


def read(text: str) -> Shared:
    """What an own file holds, or ValueError with the line and field at fault."""
    return json_file.read(text, MARK, VERSION, "a file of places", _SharedFields, _made)


def _made(given: dict[str, Any]) -> Shared:
    given.pop("left_out", None)
    return fields.from_fields(Shared, given, "the file of places")


def write_gpx(shared: Shared) -> str:
    """As GPX: holes and structures as waypoints, soundings as waypoints with a depth. Raises ValueError for places
    without positions."""
    if shared.latitude is None or shared.longitude is None:
        raise InputError(
            "positions is 'hidden': a GPX file is made of positions, so as they are or rounded is accepted"
        )
    plane = Plane(shared.latitude, shared.longitude)

    def at(one: SharedHole | SharedThing | SharedDepth) -> tuple[float, float]:
        east, north = plane.to_plane(one.latitude or 0.0, one.longitude or 0.0)
        return float(east), float(north)

    waypoints = [Waypoint(*at(one), one.hole.name, _words(one.hole)) for one in shared.holes]
    waypoints += [Waypoint(*at(one), one.kind, one.note) for one in shared.structures]
    soundings = [Sounding(*at(one), one.depth_m) for one in shared.soundings]
    return soundings_gpx.write(waypoints, soundings, plane)


def write_geojson(shared: Shared, left_out: Sequence[str]) -> str:
    """As GeoJSON: a feature each, without geometry where positions are hidden."""
    features = [
        geojson.point(one.latitude, one.longitude, hole=one.hole.name, depth_m=one.hole.bottom_depth_m,
                      bottom=one.hole.bottom_kind, note=one.hole.note)
        for one in shared.holes
    ]  # fmt: skip
    features += [
        geojson.point(one.latitude, one.longitude, structure=one.kind, note=one.note) for one in shared.structures
    ]
    features += [geojson.point(one.latitude, one.longitude, depth_m=one.depth_m) for one in shared.soundings]
    return geojson.write(features, lake=shared.lake, positions=shared.positions, within_m=shared.within_m,
                         left_out=list(left_out))  # fmt: skip


def _words(hole: Hole) -> str:
    """What a waypoint says of a hole."""
    told = f"{hole.bottom_depth_m:.1f} m, {hole.bottom_kind}"
    return f"{told}. {hole.note}" if hole.note else told
