"""Soundings in and out as files: CSV, GPX, GeoJSON, ESRI grid. A file is looked at, its columns confirmed, then taken
in whole or not at all.
"""

from __future__ import annotations

from typing import Any

import numpy as np
from flask import Response

from ...core.checks import InputError
from ...core.fields import from_fields
from ...core.ground.lake import Lake
from ...core.ground.lake_map import lake_map
from ...core.ground.plane import Plane
from ...core.ground.soundings import Sounding, Structure
from ...core.ground.surface import Band
from ...core.ground.thinning import Thinned, thinned
from ...core.wording import Quantity, Sentence
from ...formats import ascii_grid, geojson, soundings_csv, soundings_gpx
from ...formats.soundings_csv import Columns, Taken
from ...formats.soundings_gpx import Waypoint
from ...store import lake_things, lakes
from ..blueprint import StepBlueprint
from ..contract import BODY, answers, plain
from ..database import database, utc
from ..files import attachment
from ..working import teller
from .lake_contract import FileAsked, FileLooked, FileOut, FileWanted, LakePath, SniffedOut
from .lakes import drawn

api = StepBlueprint("lake_files", __name__, "Lakes")
MOST_KEPT = 12_000  # soundings of one file; more are thinned
MOST_TOLD = 40  # refused lines that are shown


def kind_of(text: str) -> str:
    """What a file seems to be: "gpx", "grid" or "csv"."""
    head = text.lstrip("\ufeff \r\n\t")[:40].lower()
    return "gpx" if head.startswith("<") else "grid" if head.startswith(("ncols", "nrows")) else "csv"


def _own(text: str) -> str:
    return text.lstrip("\ufeff")


@api.post("/soundings/look", responses=answers(200, SniffedOut, *BODY))
def look_at_file(body: FileLooked) -> dict[str, Any]:
    """What a file seems to hold: its columns are to be confirmed before it is taken in. Nothing is kept."""
    text, kind = _own(body.text), kind_of(body.text)
    lines = text.count("\n") + (not text.endswith("\n"))
    empty: dict[str, Any] = {"columns": [], "first": [], "guess": None, "missing": [], "lines": lines, "middle": None}
    if kind == "grid":
        ascii_grid.read(text)
        return {"kind": kind, **empty}
    if kind == "gpx":
        return {"kind": kind, **empty, "middle": soundings_gpx.middle(text)}
    found = soundings_csv.sniff(text)
    middle = None if found.guess is None else soundings_csv.middle(text, found.guess)
    guess = None if found.guess is None else vars(found.guess)
    told = {"columns": list(found.names), "first": [list(row) for row in found.first], "guess": guess}
    return {"kind": kind, **empty, **told, "missing": list(found.missing), "middle": middle}


@api.post("/lakes/<int:lake_id>/soundings/file", responses=answers(200, FileOut, 404, *BODY))
def take_file(path: LakePath, body: FileWanted) -> dict[str, Any]:
    """Take a file of soundings in. Where lines are refused and `rest` is "ask", they are told and nothing is kept."""
    store, tell = database(), teller()
    kept = lakes.get(store, path.lake_id)
    found = _read(body, _plane_for(kept.lake, body), tell)
    refused = {"refused": [vars(one) for one in found.refused[:MOST_TOLD]], "refused_count": len(found.refused)}
    good = len(found)
    if good == 0 or (found.refused and body.rest == "ask"):
        words = "{good} lines can be taken, {bad} cannot. Nothing was taken in." if good else "No line can be taken in."
        values = {"good": Quantity(good, "count"), "bad": Quantity(len(found.refused), "count")}
        said = Sentence(words, values)
        return plain({"taken": 0, "good": good, **refused, "left_out": 0, "said": said, "survey": None}, FileOut)
    fewer = thinned(found.place, found.depth_m, MOST_KEPT)
    tell(0.95)
    chosen = found.soundings(fewer.kept)
    said = _said(good, fewer)
    survey = lake_things.add_survey(store, path.lake_id, body.name, utc(), said.text, chosen)
    left_out = good - len(chosen)
    return plain(
        {"taken": len(chosen), "good": good, **refused, "left_out": left_out, "said": said, "survey": survey}, FileOut
    )


def _plane_for(lake: Lake, body: FileWanted) -> Plane:
    """The lake's sheet; a grid is in metres on it already, wherever that lies."""
    return Plane(0.0, 0.0) if kind_of(_own(body.text)) == "grid" else lake.plane


def _read(body: FileWanted, plane: Plane, tell: Any) -> Taken:
    text, kind = _own(body.text), kind_of(body.text)
    if kind == "gpx":
        return soundings_gpx.read(text, plane)[0]
    if kind == "grid":
        grid = ascii_grid.read(text)
        known = np.isfinite(grid.depth_m.ravel())
        return Taken(grid.places[known], grid.depth_m.ravel()[known], (), ())
    if body.columns is None:
        raise InputError("columns is null: accepted is which column is which, as a look at the file proposes it")
    return soundings_csv.read(text, from_fields(Columns, body.columns.model_dump(), "columns"), plane, tell)


def _said(good: int, fewer: Thinned) -> Sentence:
    values = {
        "good": Quantity(good, "count"),
        "kept": Quantity(int(fewer.kept.size), "count"),
        "cell": Quantity(fewer.cell_m, "m"),
        "within": Quantity(fewer.within_m, "m"),
    }
    if fewer.kept.size == good:
        return Sentence("All {good} soundings were taken in.", values)
    return Sentence(
        "{kept} of {good} soundings stand for all: one for each square of {cell}, the one in the middle of its depths. "
        "Of those left out 95 in 100 agree with theirs within {within}.",
        values,
    )


@api.get("/lakes/<int:lake_id>/file", responses=answers(200, None, 404, 422))
def give_file(path: LakePath, query: FileAsked) -> Response:
    """A lake as a file: its soundings as CSV or GPX (with what stands there as waypoints), its lines and the band as
    GeoJSON, its depths as an ESRI grid."""
    lake, sheet = drawn(path.lake_id)
    soundings = [Sounding(e, n, d) for e, n, d in lake_things.depths(database(), path.lake_id)]
    if query.kind == "csv":
        return attachment(soundings_csv.write(soundings, lake.plane), lake.name, "soundings", "csv")
    if query.kind == "gpx":
        kept = [one.thing for one in lake_things.every(database(), Structure, path.lake_id)]
        stands = [Waypoint(one.east_m, one.north_m, one.kind, one.note) for one in kept]
        return attachment(soundings_gpx.write(stands, soundings, lake.plane), lake.name, "soundings", "gpx")
    if sheet is None:
        raise InputError(f"kind is {query.kind!r}: nothing was sounded here yet, so there is no map to give out")
    band = None if query.from_m is None or query.to_m is None else Band(query.from_m, query.to_m)
    found = lake_map(sheet, band)
    if query.kind == "grid":
        return attachment(ascii_grid.write(sheet.grid), lake.name, "depths", "asc")
    plane = lake.plane
    features = [geojson.line(plane, one.line, depth_m=one.depth_m, sure=one.is_sure) for one in found.contours]
    if found.band is not None and band is not None:
        for words, area in (("likely", found.band.likely), ("possible", found.band.possible)):
            told = {"from_m": band.from_m, "to_m": band.to_m, "in_band": words}
            features.append(geojson.area(plane, area, **told))
    return attachment(geojson.write(features), lake.name, "lake", "geojson")


def waypoints_file(name: str, waypoints: list[Waypoint], plane: Plane) -> Response:
    """Places to walk to as a GPX file."""
    return attachment(soundings_gpx.write(waypoints, [], plane), name, "places", "gpx")
