"""Where to set the shelter down: its plan tried over the lake, for the day that is planned, against where it stands."""

from __future__ import annotations

from typing import Any

import numpy as np

from ...core.ground.plane import bearing
from ...core.ground.surface import Band
from ...core.log.passing import met_in_hours
from ...core.trip.day import Day
from ...core.trip.ice import CAUTIONS, IceReading, ice_at
from ...core.trip.load import load_of
from ...core.trip.shelter_place import Placing, ShelterPlace, shelter_places
from ...core.trip.sun import SunTimes
from ...store import holes, lake_things, lakes, season
from ..blueprint import StepBlueprint
from ..contract import BODY, HolePath, answers, plain
from ..database import database
from ..log.places import place_of
from ..log.season import season_pieces
from .day import bands_for, bed_of, new_day, sun_on
from .lakes import drawn
from .shelter_places_contract import ShelterPlacesOut, ShelterPlacesWanted

api = StepBlueprint("shelter_places", __name__, "Shelter")


@api.post("/holes/<int:hole_id>/party/places", responses=answers(200, ShelterPlacesOut, 404, *BODY))
def find_shelter_places(path: HolePath, body: ShelterPlacesWanted) -> dict[str, Any]:
    """The places and turns from which a shelter's lines reach the best mix, against where it stands. Nothing is kept.

    Without places where the hole lies on no lake, or nothing was sounded there.
    """
    holes.get(database(), path.hole_id)
    at = lake_things.place_of(database(), path.hole_id)
    nothing: dict[str, Any] = {"lake_id": None, "lake": "", "band": None, "hours": None, "places": [], "stands": None}
    if at is None:
        return plain({**nothing, "cautions": CAUTIONS}, ShelterPlacesOut)
    lake_id, east, north = at
    lake, sheet = drawn(lake_id)
    here = {"lake_id": lake_id, "lake": lake.name, "cautions": CAUTIONS}
    if sheet is None:
        return plain({**nothing, **here}, ShelterPlacesOut)
    kept = lakes.day(database(), lake_id)
    day = new_day() if kept is None else kept.day
    chosen = bands_for(lake_id, day, sheet.surface)[0]
    band = Band(chosen.band.from_m, chosen.band.to_m)
    plan = [(one["x_m"], one["y_m"]) for one in body.model_dump()["holes"]]
    now = Placing(east, north, body.turn_deg)
    *best, stands = shelter_places(
        sheet, band, plan, bed_of(lake_id, day.date), now, body.count, _met(lake_id, day, sun_on(lake, day))
    )
    ice = [one.thing.on(day.date) for one in lake_things.every(database(), IceReading, lake_id)]

    def told(place: ShelterPlace) -> dict[str, Any]:
        away = np.array([place.placing.east_m - east, place.placing.north_m - north])
        measured, warned = ice_at((place.placing.east_m, place.placing.north_m), ice)
        return {
            **vars(place), "away_m": float(np.linalg.norm(away)), "bearing_deg": float(bearing(*away)),
            "ice": measured, "ice_said": warned, "load": load_of(body.people, measured),
        }  # fmt: skip

    return plain(
        {
            **here, "band": band, "hours": {"begins_min": day.begins_min, "ends_min": day.ends_min, "date": day.date},
            "places": [told(one) for one in best], "stands": told(stands),
        },
        ShelterPlacesOut,
    )  # fmt: skip


def _met(lake_id: int, day: Day, sun: SunTimes) -> list[Any]:
    """What came to this lake's holes in the hours of the day; at any hour where nobody knows when the sun sets."""
    places = {}
    for one in season.told(database(), kinds=()):
        lake, east, north = place_of(one)
        if lake == lake_id and east is not None and north is not None:
            places[one.told.hole] = (east, north)
    hours = None if sun.sunset_min is None else (day.begins_min - sun.sunset_min, day.ends_min - sun.sunset_min)
    return met_in_hours(season_pieces(None), places, hours) if places else []
