"""Where to go: places like those that worked, holes and hours worth a return, and what the settings were."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from datetime import UTC, datetime
from typing import Any

import numpy as np
from flask import Response

from ...core.checks import InputError
from ...core.gear.lures import USUAL_JIG
from ...core.ground.edges import falls as falls_of
from ...core.ground.soundings import THIN_ICE, Structure
from ...core.log.elsewhere import MATTERS, Ground, Taught
from ...core.log.going_back import Return, going_back, hole_by_hole, minutes_of
from ...core.log.posterior import Array
from ...core.log.season import Piece
from ...core.log.worked import Now, gains_that_worked, worked
from ...core.trip.start_places import NEAR_M, TaughtAt
from ...core.wording import Sentence
from ...formats import calendar
from ...formats.calendar import Entry
from ...formats.soundings_gpx import Waypoint
from ...store import hole_cards, holes, lake_things, lakes, lures, season, units
from ...store.database import NotFound
from ...store.season import KeptTold
from ..blueprint import StepBlueprint
from ..card.here import card_at, wanted_at
from ..contract import HolePath, answers, plain
from ..database import database
from ..files import attachment
from ..trip.lake_files import waypoints_file
from ..trip.lakes import drawn, surface_of
from .contract import CalendarAsked, ElsewhereOut, ElsewhereQuery, ReturnsOut, ReturnsQuery, WorkedGainsOut, WorkedOut
from .noting import sun_then
from .season import season_pieces

api = StepBlueprint("log_places", __name__, "Log")
CELLS, APART_M, MOST_PLACES = 2500, 60.0, 4
KNOWN_M = 60.0  # how far from where the bottom was felt its kind is believed


class Bottoms:
    """What stands and lies on a lake's bed, to be looked up at places."""

    def __init__(self, lake_id: int) -> None:
        stands = [one.thing for one in lake_things.every(database(), Structure, lake_id)]
        self.stands = [one for one in stands if one.kind not in THIN_ICE]
        self.at = np.array([(one.east_m, one.north_m) for one in self.stands]).reshape(-1, 2)
        felt = lake_things.bottoms(database(), lake_id)
        self.felt = np.array([(e, n) for e, n, _ in felt]).reshape(-1, 2)
        self.kinds = [kind for *_, kind in felt]

    def grounds(self, places: Array, depth: Array, fall: Array) -> list[Ground]:
        """Many places as the map has them: places (n, 2) and what they are (n,)."""
        near = _names(places, self.at, [one.kind for one in self.stands], NEAR_M)
        bottom = _names(places, self.felt, self.kinds, KNOWN_M)
        return [Ground(*one) for one in zip(depth.tolist(), fall.tolist(), near, bottom, strict=True)]


def _names(places: Array, at: Array, names: Sequence[str], within_m: float) -> list[str]:
    """What is nearest to each place (n, 2), by its name; "" where nothing is within so far [m]."""
    if not len(at):
        return [""] * len(places)
    away = np.linalg.norm(places[:, None] - at[None], axis=-1)
    nearest = away.argmin(axis=1)
    close = away[np.arange(len(places)), nearest] <= within_m
    return [names[k] if is_near else "" for k, is_near in zip(nearest.tolist(), close.tolist(), strict=True)]


def grounds_of(pieces: Sequence[Piece], kept: Sequence[KeptTold]) -> list[Ground | None]:
    """The ground that each piece of a stay was on; None for one whose place is on no map."""
    of: dict[int, Ground | None] = defaultdict(lambda: None)
    by_lake: dict[int, list[KeptTold]] = {}
    places: dict[int, tuple[int | None, float | None, float | None]] = {}
    for one in kept:
        lake_id, *place = places[one.stay.id] = place_of(one)
        if lake_id is not None and None not in place:
            by_lake.setdefault(lake_id, []).append(one)
    for lake_id, mine in by_lake.items():
        _, surface = surface_of(lake_id)
        if surface is None:
            continue
        bottoms = Bottoms(lake_id)
        where = np.array([places[one.stay.id][1:] for one in mine], dtype=np.float64)
        depth, fall = surface.at(where)[0], surface.slope(where)[0]
        for one, ground in zip(mine, bottoms.grounds(where, depth, fall), strict=True):
            felt = one.stay.stay.depth_m if one.stay.stay.depth_m is not None else ground.depth_m
            of[one.stay.id] = Ground(felt, ground.fall, ground.near, one.stay.stay.bottom or ground.bottom)
    return [of[piece.stay_id] for piece in pieces]


def taught(of: str = "bites", species: str | None = None) -> Taught | None:
    """What the log says of kinds of places; None where it has too little to say anything."""
    pieces = season_pieces(species)
    try:
        return Taught(pieces, grounds_of(pieces, season.told(database(), kinds=())), of)  # type: ignore[arg-type]
    except InputError:
        return None


def taught_on(lake_id: int) -> TaughtAt | None:
    """What the log says of places on a lake, for those weighed there to start at; None where it says nothing."""
    known = taught()
    if known is None:
        return None
    bottoms = Bottoms(lake_id)

    def told(places: Array, depth: Array, fall: Array) -> list[tuple[float, Sentence | None]]:
        found = [known.expect(one) for one in bottoms.grounds(places, depth, fall)]
        return [(one.times, one.why if abs(np.log(one.times)) > MATTERS else None) for one in found]

    return told


@api.get("/log/elsewhere", responses=answers(200, ElsewhereOut, 422))
def find_elsewhere(query: ElsewhereQuery) -> dict[str, Any]:
    """Places on every lake that are like those that worked, with what to expect and why."""
    known = taught(query.of, query.species)
    if known is None:
        return plain({"usual": None, "hours": 0.0, "places": []}, ElsewhereOut)
    places: list[dict[str, Any]] = []
    for kept in lakes.every(database()):
        _, sheet = drawn(kept.id, CELLS)
        if sheet is None:
            continue
        grid, bottoms = sheet.grid, Bottoms(kept.id)
        water = np.isfinite(grid.depth_m.ravel())
        at, depth, fall = grid.places[water], grid.depth_m.ravel()[water], falls_of(grid).ravel()[water]
        grounds = bottoms.grounds(at, depth, fall)
        low = np.array([known.expect(one).rate.low for one in grounds])
        for _ in range(MOST_PLACES):
            if not low.size or low.max() <= 0.0:
                break
            # Of all that promise the same the one that lies deepest among its like: its neighbours are like it too.
            best = np.flatnonzero(low >= low.max() - 1e-12)
            middle = int(best[np.argmin(np.linalg.norm(at[best] - np.median(at[best], axis=0), axis=1))])
            expected = known.expect(grounds[middle])
            if expected.rate.likely <= known.usual.likely:
                break
            places.append(
                {
                    "lake_id": kept.id, "lake": kept.lake.name, "east_m": float(at[middle, 0]),
                    "north_m": float(at[middle, 1]), "depth_m": float(depth[middle]), "rate": expected.rate,
                    "times": expected.times, "why": expected.why,
                }
            )  # fmt: skip
            low[np.linalg.norm(at - at[middle], axis=1) < APART_M] = 0.0
    places.sort(key=lambda one: -one["rate"].low)
    return plain({"usual": known.usual, "hours": known.hours, "places": places}, ElsewhereOut)


def place_of(kept: KeptTold) -> tuple[int | None, float | None, float | None]:
    """On which lake a stay's hole lies and where there: as the map has it now, or as it was written down."""
    at = kept.stay.at
    placed = None if at.hole_id is None else lake_things.place_of(database(), at.hole_id)
    return placed or (kept.outing.lake_id, at.east_m, at.north_m)


def _holes(query: ReturnsQuery) -> tuple[list[Return], dict[str, KeptTold]]:
    """What the log has of every hole, and the last stay at each."""
    of = {one.told.hole: one for one in season.told(database(), kinds=())}
    return hole_by_hole(season_pieces(query.species), query.of), of  # type: ignore[arg-type]


@api.get("/log/returns", responses=answers(200, ReturnsOut, 422))
def list_returns(query: ReturnsQuery) -> dict[str, Any]:
    """Holes and hours that are worth a return, with why."""
    every, of = _holes(query)

    def told(one: Return) -> dict[str, Any]:
        kept = of[one.hole]
        lake_id, east, north = place_of(kept)
        return {
            **vars(one), "name": kept.stay.stay.hole, "water": kept.outing.outing.water,
            "hole_id": kept.stay.at.hole_id, "lake_id": lake_id, "east_m": east, "north_m": north,
        }  # fmt: skip

    return plain(
        {"returns": [told(one) for one in going_back(every)], "holes": [told(one) for one in every]}, ReturnsOut
    )


def _return_at(hole_id: int, query: ReturnsQuery) -> tuple[Return, KeptTold]:
    holes.get(database(), hole_id)
    every, of = _holes(query)
    for one in going_back(every):
        if of[one.hole].stay.at.hole_id == hole_id:
            return one, of[one.hole]
    raise NotFound("return to a hole", hole_id)


@api.get("/log/returns/<int:hole_id>/waypoint", responses=answers(200, None, 404, 422))
def give_return_waypoint(path: HolePath, query: ReturnsQuery) -> Response:
    """A hole worth a return as a GPX waypoint. A hole that is on no lake has no place."""
    one, kept = _return_at(path.hole_id, query)
    lake_id, east, north = place_of(kept)
    if lake_id is None or east is None or north is None:
        raise InputError("hole_id names a hole that is on no map: accepted is one that was placed on a lake")
    lake = lakes.get(database(), lake_id).lake
    note = f"{one.count} {query.of} in {one.rod_hours:.1f} h of one line"
    return waypoints_file(kept.stay.stay.hole, [Waypoint(east, north, kept.stay.stay.hole, note)], lake.plane)


@api.get("/log/returns/<int:hole_id>/calendar", responses=answers(200, None, 404, 422))
def give_return_calendar(path: HolePath, query: CalendarAsked) -> Response:
    """A hole worth a return as a calendar entry on a day, at its best hour where the sun of that day is known."""
    one, kept = _return_at(path.hole_id, query)
    lake_id = place_of(kept)[0]
    lake = None if lake_id is None else lakes.get(database(), lake_id).lake
    clock = kept.outing.outing.utc_offset_min
    sun = sun_then(lake, f"{query.date}T12:00:00Z", clock)
    begins, lasts = None, 60.0
    if one.hour and sun is not None and sun.sunset_min is not None:
        first, last = minutes_of(one.hour)
        begins, lasts = sun.sunset_min + first, last - first
    note = (
        f"{one.count} {query.of} in {one.rod_hours:.1f} h of one line. Measure the ice as you go; tell someone ashore."
    )
    entries = [Entry(f"{kept.stay.stay.hole}, {kept.outing.outing.water}".strip(", "), query.date, begins, lasts, note)]
    return attachment(calendar.write(entries, datetime.now(UTC)), kept.stay.stay.hole, "return", "ics")


@api.get("/log/gains", responses=answers(200, WorkedGainsOut))
def list_gains() -> dict[str, Any]:
    """Where the gain stood on stays with a bite, by unit and by the water it was in."""
    every = gains_that_worked([one.told for one in season.told(database())])
    told = [
        {"unit": unit, "clarity": clarity or "not noted", "gain": gain, "bites": bites}
        for unit, clarity, gain, bites in every
    ]
    return plain({"gains": told}, WorkedGainsOut)


@api.get("/holes/<int:hole_id>/worked", responses=answers(200, WorkedOut, 404, 422))
def get_worked(path: HolePath) -> dict[str, Any]:
    """What settings worked at a hole and in water like it, beside what its card says now."""
    hole = holes.get(database(), path.hole_id).hole
    wanted = wanted_at(path.hole_id)
    every = units.every(database())
    unit = next((one for one in every if one.id == wanted.unit_id), next(iter(every), None))
    if unit is None or (hole_cards.find(database(), path.hole_id) is None and not _was_here(path.hole_id)):
        return plain({"worked": []}, WorkedOut)
    lure = USUAL_JIG if wanted.lure_id is None else lures.get(database(), wanted.lure_id).lure
    card = card_at(path.hole_id, unit.profile, lure)
    now = Now(
        str(path.hole_id), unit.profile.name, card.settings.gain, lure.form, lure.size_m,
        unit.profile.beams[card.settings.beam].name, hole.clarity, hole.bottom_depth_m,
        str(wanted.model_dump().get("light") or ""),
    )  # fmt: skip
    return plain({"worked": worked([one.told for one in season.told(database())], now)}, WorkedOut)


def _was_here(hole_id: int) -> bool:
    return any(one.stay.at.hole_id == hole_id for one in season.told(database()))
