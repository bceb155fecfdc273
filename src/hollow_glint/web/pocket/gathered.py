"""What a pocket sheet says of the day: the walk, the places with their reasons, the holes there are, gear, ladders."""

from __future__ import annotations

import string
from dataclasses import replace
from typing import Any

from ...core.fish.strike_sheet import HAPPENED, LADDERS, TRIES
from ...core.ground.lake import Lake
from ...core.ground.surface import Band
from ...core.log.outing import ENDINGS
from ...core.trip.day import Chosen, Day
from ...core.trip.start_places import judged_places, start_places
from ...store import lake_things
from ..contract import plain
from ..database import database
from ..trip.day import bands_for, bed_of, planned
from ..trip.lake_contract import StartOut, TripDayFields
from ..trip.lakes import drawn, surface_of
from ..trip.rig import get_rig

MOST_PROPOSED, APART_M = 6, 60.0  # as the page proposes places


def gathered(lake_id: int, lake: Lake, day: Day) -> dict[str, Any]:
    """The day at a lake, JSON-ready. Positions in degrees only where somebody said where the lake lies."""
    day = proposed(lake_id, day)
    plan = planned(lake_id, day)
    _, surface = surface_of(lake_id)
    at = [(one.east_m, one.north_m) for one in day.places]
    judged: list[Any] = []
    if surface is not None and at:
        band = Band(plan["bands"][0]["from_m"], plan["bands"][0]["to_m"])
        judged = plain({"places": judged_places(surface, band, at, bed_of(lake_id, day.date))}, StartOut)["places"]
    return {
        "lake": {"id": lake_id, "name": lake.name},
        "day": {**TripDayFields.model_validate(day, from_attributes=True).model_dump(mode="json"), "powered": []},
        "plan": plan, "judged": judged, "degrees": _degrees(lake, at),
        "start_m": list(day.start_m or lake.landing_m),
        "holes": [vars(one) for one in lake_things.holes_on(database(), lake_id)],
        "rig": get_rig(), "tries": TRIES, "ladders": LADDERS, "happened": list(HAPPENED), "endings": ENDINGS,
    }  # fmt: skip


def proposed(lake_id: int, day: Day) -> Day:
    """A day with the places that are proposed for it, where it has none of its own yet."""
    _, sheet = drawn(lake_id)
    if day.places or sheet is None:
        return day
    band = bands_for(lake_id, day, sheet.surface)[0].band
    found = start_places(sheet, Band(band.from_m, band.to_m), bed_of(lake_id, day.date), MOST_PROPOSED, APART_M)
    places = tuple(
        Chosen(string.ascii_uppercase[k], one.east_m, one.north_m, round(one.worth, 2)) for k, one in enumerate(found)
    )
    return replace(day, places=places)


def _degrees(lake: Lake, at: list[tuple[float, float]]) -> list[list[float]] | None:
    """Latitude and longitude of places, as a handset takes them; None where the lake lies nobody knows where."""
    if lake.latitude is None or lake.longitude is None:
        return None
    return [[round(float(one), 6) for one in lake.plane.to_degrees(east, north)] for east, north in at]
