"""The map of a lake, places to start at, where to sound next, and the coming day."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import TYPE_CHECKING, Any

import numpy as np
from flask import Response

from ...core.card.ice_guidance import ice_word
from ...core.checks import InputError
from ...core.fields import from_fields
from ...core.ground.lake import Lake
from ...core.ground.lake_map import lake_map
from ...core.ground.next_sounding import next_soundings
from ...core.ground.regression import Array
from ...core.ground.soundings import Structure
from ...core.ground.surface import Band, Surface
from ...core.lazily import Lazily
from ...core.trip import band as bands
from ...core.trip.band import Proposed, Starting
from ...core.trip.charging import charging
from ...core.trip.day import Day, plan_day
from ...core.trip.ice import CAUTIONS, IceReading, ice_warnings
from ...core.trip.start_places import Bed, FishedPlace, judged_places, start_places
from ...core.trip.sun import UNKNOWN, SunTimes, sun_times
from ...core.wording import Quantity, Sentence
from ...formats import calendar
from ...formats.calendar import Entry
from ...formats.soundings_csv import UNITS
from ...formats.soundings_gpx import Waypoint
from ...store import kit, lake_things, lakes
from ..blueprint import StepBlueprint
from ..contract import BODY, IfMatch, Removed, StaleProblem, answers, plain
from ..database import database
from ..files import attachment
from ..log.places import taught_on
from ..versions import versioned
from .lake_contract import (
    BandLineFields,
    BandLineOut,
    BandTable,
    DayOut,
    LakePath,
    MapOut,
    MapQuery,
    PlanOut,
    StartOut,
    StartWanted,
    TeachOut,
    TeachQuery,
    TripDayFields,
)
from .lake_files import waypoints_file
from .lakes import drawn, surface_of
from .rig_contract import RowPath

if TYPE_CHECKING:
    import shapely
else:
    shapely = Lazily("shapely")

api = StepBlueprint("trip_day", __name__, "Trip")
TEACH_CANDIDATES, TEACH_CELLS, TEACH_SHOWN = 60, 900, 5
LEAST_DECIDED_M2 = 25.0  # a sounding that decides less water is not worth a hole
SEASON_ENDS = "04-15"  # after which batteries are looked after monthly. Common practice, no source


def _flat(line: Array) -> list[float]:
    return [round(float(one), 1) for one in line.ravel()]


def _area(area: shapely.MultiPolygon, size_m2: float) -> dict[str, Any]:
    rings = [ring for piece in area.geoms for ring in (piece.exterior, *piece.interiors)]
    return {"rings": [_flat(shapely.get_coordinates(ring)) for ring in rings], "area_m2": size_m2}


@api.get("/lakes/<int:lake_id>/map", responses=answers(200, MapOut, 404, 422))
def get_map(path: LakePath, query: MapQuery) -> dict[str, Any]:
    """A lake as it is drawn, with what is a guess told apart; with a band of depths if one is asked for."""
    _, sheet = drawn(path.lake_id, query.cells)
    if sheet is None:
        nothing: dict[str, Any] = {"contours": [], "edges": [], "likely": None, "possible": None, "water_m2": 0.0}
        return {"grid": None, **nothing}
    if (query.from_m is None) != (query.to_m is None):
        raise InputError("from_m and to_m belong together: one of them is missing")
    band = None if query.from_m is None or query.to_m is None else Band(query.from_m, query.to_m)
    found = lake_map(sheet, band, UNITS[query.lines])
    grid, areas = sheet.grid, found.band
    depth = grid.depth_m.ravel()
    return {
        "grid": {
            "west_m": grid.west_m, "south_m": grid.south_m, "cell_m": grid.cell_m,
            "rows": grid.depth_m.shape[0], "columns": grid.depth_m.shape[1],
            "depth_m": [round(float(one), 2) if np.isfinite(one) else None for one in depth],
            "sd_m": [round(float(one), 2) for one in sheet.sd_m.ravel()],
        },
        "contours": [
            {"depth_m": one.depth_m, "line": _flat(one.line), "is_sure": one.is_sure} for one in found.contours
        ],
        "edges": [
            {"line": _flat(one.edge.line), "falls": one.edge.falls, "is_sure": one.is_sure} for one in found.edges
        ],
        "likely": None if areas is None else _area(areas.likely, areas.likely_m2),
        "possible": None if areas is None else _area(areas.possible, areas.possible_m2),
        "water_m2": found.water_m2,
    }  # fmt: skip


@api.get("/lakes/<int:lake_id>/teaches", responses=answers(200, TeachOut, 404, 422))
def where_to_sound(path: LakePath, query: TeachQuery) -> dict[str, Any]:
    """Where one more sounding within reach would decide most of the water, in or out of a band."""
    _, sheet = drawn(path.lake_id, TEACH_CELLS)
    if sheet is None:
        return {"places": []}
    surface, grid, band = sheet.surface, sheet.grid, Band(query.from_m, query.to_m)
    water = grid.places[np.isfinite(grid.depth_m.ravel())]
    here = np.array([query.east_m, query.north_m])
    near = water[np.linalg.norm(water - here, axis=1) <= query.reach_m]
    if not len(near):
        return {"places": []}
    step = max(1, len(near) // TEACH_CANDIDATES)
    found = next_soundings(surface, band, water, grid.cell_m**2, near[::step])
    said = "A hole here, {away} from you, would decide {share} of water on average: in the band, or not."
    shown: list[dict[str, Any]] = []
    for one in found:
        if one.decides_m2 < LEAST_DECIDED_M2 or len(shown) == TEACH_SHOWN:
            break
        if any(np.hypot(one.east_m - x["east_m"], one.north_m - x["north_m"]) < 3.0 * grid.cell_m for x in shown):
            continue
        away = float(np.hypot(one.east_m - here[0], one.north_m - here[1]))
        values = {"share": Quantity(round(one.decides_m2), "m2"), "away": Quantity(away, "m")}
        shown.append({**vars(one), "why": Sentence(said, values)})
    return plain({"places": shown}, TeachOut)


@api.post("/lakes/<int:lake_id>/start-places", responses=answers(200, StartOut, 404, *BODY))
def find_start_places(path: LakePath, body: StartWanted) -> dict[str, Any]:
    """The best places to start at in a band, each with its reasons."""
    _, sheet = drawn(path.lake_id)
    band = Band(body.from_m, body.to_m)
    if sheet is None:
        return {"places": []}
    bed = bed_of(path.lake_id, body.date)
    if body.at:
        return plain({"places": judged_places(sheet.surface, band, body.at, bed)}, StartOut)
    return plain({"places": start_places(sheet, band, bed, body.count, body.apart_m)}, StartOut)


def bed_of(lake_id: int, date: str) -> Bed:
    """What is known of a lake besides its depth, on a day."""
    store = database()
    fished = [one.thing for one in lake_things.every(store, FishedPlace, lake_id) if one.thing.how == "fished"]
    return Bed(
        [one.thing for one in lake_things.every(store, Structure, lake_id)],
        lake_things.bottoms(store, lake_id),
        [one.on(date) for one in fished],
        taught_on(lake_id),
    )


@api.get("/lakes/<int:lake_id>/day", responses=answers(200, DayOut, 404))
def get_day(path: LakePath) -> Response:
    """The coming day at a lake; its ETag is its version, 0 for a day that was not kept yet."""
    kept = lakes.day(database(), path.lake_id)
    if kept is None:
        lakes.get(database(), path.lake_id)
        day = new_day()
        return versioned({"id": path.lake_id, "version": 0, **vars(day)}, DayOut)
    return versioned({"id": kept.id, "version": kept.version, **vars(kept.day)}, DayOut)


@api.put("/lakes/<int:lake_id>/day", responses=answers(200, DayOut, 404, *BODY) | {412: StaleProblem})
def keep_day(path: LakePath, header: IfMatch, body: TripDayFields) -> Response:
    """Keep the coming day, if what was kept is still at the version given; 0 where none was."""
    day = from_fields(Day, body.model_dump(), "the day")
    kept = lakes.keep_day(database(), path.lake_id, header.version, day)
    return versioned({"id": kept.id, "version": kept.version, **vars(kept.day)}, DayOut)


@api.post("/lakes/<int:lake_id>/plan", responses=answers(200, PlanOut, 404, *BODY))
def plan(path: LakePath, body: TripDayFields) -> dict[str, Any]:
    """What a day comes to: bands, sun, the walk in order, what to beware of. Nothing is kept."""
    return planned(path.lake_id, from_fields(Day, body.model_dump(), "the day"))


def planned(lake_id: int, day: Day) -> dict[str, Any]:
    """What a day on a lake comes to, as fields of `PlanOut`."""
    lake, surface = surface_of(lake_id)
    sun = sun_on(lake, day)
    start = day.start_m or lake.landing_m
    walk = plan_day(day, sun, start)
    store = database()
    ice = [one.thing.on(day.date) for one in lake_things.every(store, IceReading, lake_id)]
    structures = [one.thing for one in lake_things.every(store, Structure, lake_id)]
    visited = [day.places[leg.to] for leg in walk.legs if leg.to is not None]
    found = bands_for(lake_id, day, surface)
    warnings = ice_warnings([start, *((one.east_m, one.north_m) for one in visited)], ice, structures)
    return plain(
        {
            "bands": [{**vars(one.band), "by": one.by, "why": one.why} for one in found],
            "sun": sun, "planned": walk, "warnings": warnings, "walk_m_min": day.walk_m_min,
            "stay_min": day.stay_min, "cautions": list(CAUTIONS), "guidance": ice_word(day.ice_m, None).guidance,
        },
        PlanOut,
    )  # fmt: skip


def new_day() -> Day:
    """A day that nobody has planned: today, with the hours that most begin with."""
    return Day(datetime.now(UTC).strftime("%Y-%m-%d"))


def sun_on(lake: Lake, day: Day) -> SunTimes:
    """The sun over a lake on a day; unknown where nobody said where the lake lies."""
    if lake.latitude is None or lake.longitude is None:
        return UNKNOWN
    return sun_times(lake.latitude, lake.longitude, day.date, day.utc_offset_min)


def bands_for(lake_id: int, day: Day, surface: Surface | None) -> list[Proposed]:
    """The band that is used first, then the others, by what the store holds of this lake."""
    store = database()
    logged = [m for at, m in lake_things.logged(store, lake_id, day.species) if bands.season_of(at) == day.season]
    left = [one.thing for one in lake_things.every(store, FishedPlace, lake_id)]
    places = [(one.east_m, one.north_m) for one in left if one.how == "left in autumn"]
    autumn = surface.at(places)[0].tolist() if surface is not None and places else []
    asked = bands.Asked(day.species, day.season, day.light, day.band_m)
    return bands.proposals(asked, logged, autumn, table_of_all())


def table_of_all() -> tuple[Starting, ...]:
    """The table of starting depths with one's own lines in place."""
    table = bands.TABLE
    for _, line in kit.band_lines(database()):
        table = bands.changed(table, line)
    return table


@api.get("/lakes/<int:lake_id>/waypoints", responses=answers(200, None, 404))
def give_waypoints(path: LakePath) -> Response:
    """The places of the kept day in walking order as GPX waypoints, for a handset."""
    lake, planned, day = _kept_plan(path.lake_id)
    points = [
        Waypoint(day.places[k].east_m, day.places[k].north_m, f"{n} {day.places[k].name}".strip())
        for n, k in enumerate((leg.to for leg in planned.legs if leg.to is not None), 1)
    ]
    return waypoints_file(f"{lake.name} {day.date}", points, lake.plane)


@api.get("/lakes/<int:lake_id>/calendar", responses=answers(200, None, 404))
def give_calendar(path: LakePath) -> Response:
    """The kept day, and when to charge which battery, as an iCalendar file."""
    lake, _, day = _kept_plan(path.lake_id)
    back = f"Back by {int(day.ends_min) // 60}:{int(day.ends_min) % 60:02d}."
    note = f"{back} Knows the plan: {day.told}." if day.told else f"{back} Tell someone ashore where you are."
    entries = [Entry(lake.name, day.date, day.begins_min, day.ends_min - day.begins_min, note)]
    year = int(day.date[:4]) + (1 if day.date[5:] > SEASON_ENDS else 0)
    kept = [one.battery for one in kit.batteries(database())]
    entries.extend(
        Entry(one.title, one.date, None, note=one.note, months=one.months)
        for one in charging(kept, day.date, f"{year}-{SEASON_ENDS}")
    )
    return attachment(calendar.write(entries, datetime.now(UTC)), f"{lake.name} {day.date}", "trip", "ics")


def _kept_plan(lake_id: int) -> tuple[Lake, Any, Day]:
    kept = lakes.day(database(), lake_id)
    lake = lakes.get(database(), lake_id).lake
    day = new_day() if kept is None else kept.day
    sun = sun_on(lake, day)
    return lake, plan_day(day, sun, day.start_m or lake.landing_m), day


@api.get("/trip/bands", responses=answers(200, BandTable))
def list_bands() -> dict[str, Any]:
    """The table of starting depths; lines of one's own carry an id."""
    own = {(line.species, line.season, line.light): row_id for row_id, line in kit.band_lines(database())}
    lines = [{"id": own.get((one.species, one.season, one.light)), **vars(one)} for one in table_of_all()]
    return plain({"lines": lines}, BandTable)


@api.put("/trip/bands", responses=answers(200, BandLineOut, *BODY))
def put_band(body: BandLineFields) -> dict[str, Any]:
    """Put a line of one's own into the table, in place of the one for the same species, season and light."""
    line = from_fields(Starting, body.model_dump(), "the line")
    return plain({"id": kit.put_band_line(database(), line), **vars(line)}, BandLineOut)


@api.delete("/trip/bands/<int:row_id>", responses=answers(200, Removed, 404))
def remove_band(path: RowPath) -> dict[str, Any]:
    """Take a line of one's own away: the table's own line stands again."""
    return {"removal": kit.remove_band_line(database(), path.row_id)}
