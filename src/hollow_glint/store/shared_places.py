"""Places from a friend: taken in without anything twice, all of them or none."""

from __future__ import annotations

import re
import sqlite3
from dataclasses import asdict, dataclass, replace
from itertools import count

import numpy as np

from ..core.ground.lake import Lake
from ..core.ground.soundings import Sounding, Structure
from ..core.trip.sharing import Shared, SharedHole, SharedThing
from . import lake_things, lakes
from .database import Database
from .rows import insert_in

SAME_M, SAME_DEPTH_M = 1.0, 0.005  # what lies closer, and is the same, is one
LONGEST_STEM = 74  # of a name that gets a number
FAR_LAKE_M = 30_000.0  # a lake of the same name further off is another


@dataclass(frozen=True)
class PlacesTaken:
    """The lake that they belong to, whether it is new, how many of each came, and how many were here already."""

    lake_id: int
    new_lake: bool
    holes: int
    structures: int
    soundings: int
    known: int


def take_in(database: Database, given: Shared, taken_at: str) -> PlacesTaken:
    """Keep what a friend's file brings and is not here yet. A hole is the same when it has the name, depth and bottom
    of one of that water; one that has only the name is kept beside it, under the name with a number.

    Raises ValueError where a place lies too far from the lake.
    """
    with database.transaction() as connection:
        taking = _Taking(connection, given)
        holes = [taking.hole(one) for one in given.holes]
        things = [taking.structure(one) for one in given.structures]
        soundings = taking.soundings(taken_at)
        known = holes.count(False) + things.count(False) + len(given.soundings) - soundings
        return PlacesTaken(taking.lake_id, taking.new_lake, sum(holes), sum(things), soundings, known)


class _Taking:
    """A file on its way into the store, within one transaction."""

    def __init__(self, connection: sqlite3.Connection, given: Shared) -> None:
        self._connection, self._given = connection, given
        self.lake_id, self._lake, self.new_lake = self._find_lake()

    def _find_lake(self) -> tuple[int, Lake, bool]:
        """The lake here that is meant; a new one where there is none of that name about there."""
        given = self._given
        for row in self._connection.execute("SELECT * FROM lake ORDER BY id").fetchall():
            lake = Lake(row["name"], row["latitude"], row["longitude"])
            if lake.name.strip().lower() == given.lake.strip().lower() and _is_about(lake, given):
                return row["id"], lake, False
        lake = Lake(given.lake, given.latitude, given.longitude)
        return insert_in(self._connection, "lake", {**lakes.columns_of(lake), "demo_key": None}), lake, True

    def _place(self, latitude: float | None, longitude: float | None) -> tuple[float, float] | None:
        """East and north of the lake's anchor [m]; None where the position is hidden."""
        if latitude is None or longitude is None or self._lake.latitude is None:
            return None
        east, north = self._lake.plane.to_plane(latitude, longitude)
        return float(east), float(north)

    def hole(self, given: SharedHole) -> bool:
        """Whether it was not here yet."""
        hole = replace(given.hole, water=given.hole.water or self._given.lake)
        if self._given.within_m > 0.0:
            told = f"Position from a friend, rounded: within {self._given.within_m:.0f} m."
            hole = replace(hole, note=f"{hole.note} {told}".strip()[:500])
        place = self._place(given.latitude, given.longitude)
        rows = self._connection.execute(
            "SELECT id, name, bottom_depth_m, bottom_kind FROM hole WHERE lower(trim(water)) = lower(trim(?))",
            (hole.water,),
        ).fetchall()
        named = [row for row in rows if _plain_name(row["name"]) == _plain_name(hole.name)]
        for row in named:
            if (
                abs(row["bottom_depth_m"] - hole.bottom_depth_m) < SAME_DEPTH_M
                and row["bottom_kind"] == hole.bottom_kind
            ):
                self._put(row["id"], place)
                return False
        taken = {row["name"] for row in rows}
        names = (f"{hole.name[:LONGEST_STEM]} ({k})" for k in count(2))
        name = hole.name if hole.name not in taken else next(one for one in names if one not in taken)
        columns = {**asdict(replace(hole, name=name)), "demo_key": None}
        self._put(insert_in(self._connection, "hole", columns), place)
        return True

    def _put(self, hole_id: int, place: tuple[float, float] | None) -> None:
        """Say where a hole lies, unless somebody here did."""
        if place is not None:
            self._connection.execute(
                "INSERT OR IGNORE INTO hole_place (hole_id, lake_id, east_m, north_m) VALUES (?, ?, ?, ?)",
                (hole_id, self.lake_id, *place),
            )

    def structure(self, given: SharedThing) -> bool:
        """Whether it was not here yet. One without a place is none."""
        place = self._place(given.latitude, given.longitude)
        if place is None:
            return False
        found = self._connection.execute(
            f"SELECT 1 FROM {lake_things.TABLES[Structure]} WHERE lake_id = ? AND kind = ?"
            " AND abs(east_m - ?) < ? AND abs(north_m - ?) < ?",
            (self.lake_id, given.kind, place[0], SAME_M, place[1], SAME_M),
        ).fetchone()
        if found is None:
            columns = {**asdict(Structure(*place, given.kind, given.note)), "lake_id": self.lake_id, "demo_key": None}
            insert_in(self._connection, lake_things.TABLES[Structure], columns)
        return found is None

    def soundings(self, taken_at: str) -> int:
        """How many were not here yet: they are kept as one file of soundings, which can be taken away as a whole."""
        given = self._given.soundings
        if not given:
            return 0
        east, north = self._lake.plane.to_plane([one.latitude for one in given], [one.longitude for one in given])
        rows = self._connection.execute(
            "SELECT east_m, north_m, depth_m FROM sounding WHERE lake_id = ?", (self.lake_id,)
        )
        here = {_cell(*row) for row in rows}
        fresh = [
            Sounding(float(e), float(n), one.depth_m, "sonar")
            for one, e, n in zip(given, east, north, strict=True)
            if _cell(e, n, one.depth_m) not in here
        ]
        if fresh:
            lake_things.add_survey_in(self._connection, self.lake_id, "From a friend", taken_at, "", fresh)
        return len(fresh)


def _is_about(lake: Lake, given: Shared) -> bool:
    """Whether a lake here may be the one that is meant: without positions its name is all there is."""
    if given.latitude is None or given.longitude is None:
        return True
    if lake.latitude is None or lake.plane.is_far(given.latitude, given.longitude):
        return False
    return float(np.hypot(*lake.plane.to_plane(given.latitude, given.longitude))) < FAR_LAKE_M


def _plain_name(name: str) -> str:
    """A name without the number that told it from another of that name."""
    return re.sub(r" \(\d+\)$", "", name)[:LONGEST_STEM].strip().lower()


def _cell(east: float, north: float, depth: float) -> tuple[int, int, int]:
    return round(float(east) / SAME_M), round(float(north) / SAME_M), round(100.0 * float(depth))
