"""The Trip step's computations: a depth surface, a walk, a battery's hours. Nothing is read from the store or kept."""

from __future__ import annotations

from typing import Any

import numpy as np

from ...core.fields import from_fields
from ...core.ground.surface import Band, Surface
from ...core.trip import power, walk
from ...core.trip.walk import Stop
from ..blueprint import StepBlueprint
from ..contract import BODY, answers, plain
from .contract import PowerOut, PowerWanted, SurfaceOut, SurfaceWanted, WalkOut, WalkWanted

api = StepBlueprint("trip", __name__, "Trip")


@api.post("/ground/surface", responses=answers(200, SurfaceOut, *BODY))
def find_surface(body: SurfaceWanted) -> dict[str, Any]:
    """The depth at places from soundings, how sure that is, and the chance of lying in a band."""
    band = None if body.band_m is None else Band(*body.band_m)
    surface = Surface(
        [(one.east_m, one.north_m) for one in body.soundings], [one.depth_m for one in body.soundings], body.shore
    )
    asked = np.asarray(body.at, dtype=np.float64)
    depth, sd = surface.at(asked)
    chance = None if band is None else surface.in_band(asked, band).tolist()
    return {"depth_m": depth.tolist(), "sd_m": sd.tolist(), "in_band": chance}


@api.post("/trip/walk", responses=answers(200, WalkOut, *BODY))
def plan_walk(body: WalkWanted) -> dict[str, Any]:
    """The round that is worth most in the time, of those worth the same the shorter."""
    stops = [from_fields(Stop, one.model_dump(), "the place") for one in body.places]
    return plain(walk.plan(body.start, body.end, body.minutes, body.walk_m_min, stops), WalkOut)


@api.post("/trip/power", responses=answers(200, PowerOut, *BODY))
def hours_left(body: PowerWanted) -> dict[str, Any]:
    """How long a full battery lasts at a draw and in a cold, and why."""
    return plain(power.lasts(**body.model_dump()), PowerOut)
