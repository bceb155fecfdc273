"""The log to and from files: all of it out; in again without anything twice."""

from __future__ import annotations

import sqlite3
from collections import defaultdict
from collections.abc import Callable, Sequence
from dataclasses import dataclass

from ..core.log.outing import Happening, Outing
from ..core.trip.sun import SunTimes
from ..formats.log_file import OutingFile, StayFile
from . import lakes, outings
from .database import Database
from .outings import StayAt, happening_columns, happening_of, outing_columns, stay_columns, stay_of
from .rows import insert_in


@dataclass(frozen=True)
class TakenIn:
    """How many rows a file brought, and how many of its rows were here already."""

    outings: int
    stays: int
    happenings: int
    known: int


def everything(database: Database) -> list[OutingFile]:
    """The whole log, oldest first."""
    connection = database.connection()
    names = {one.id: one.lake.name for one in lakes.every(database)}
    notes: dict[int, list[Happening]] = defaultdict(list)
    for row in connection.execute("SELECT * FROM happening ORDER BY at, id"):
        notes[row["stay_id"]].append(happening_of(row).happening)
    stays: dict[int, list[StayFile]] = defaultdict(list)
    for row in connection.execute("SELECT * FROM stay ORDER BY began_at, id"):
        one = stay_of(row)
        told = StayFile(one.stay, tuple(notes[one.id]), one.at.east_m, one.at.north_m)
        stays[one.outing_id].append(told)
    return [
        OutingFile(one.outing, tuple(stays[one.id]), "" if one.lake_id is None else names[one.lake_id])
        for one in reversed(outings.every(database))
    ]


def take_in(
    database: Database, given: Sequence[OutingFile], sun_of: Callable[[int | None, Outing], SunTimes | None]
) -> TakenIn:
    """Keep what a file brings and is not here yet, all of it or nothing. `sun_of` gives the sun of an outing at a lake.

    An outing is the same when it began at the same moment on the same water, a stay when it began then at that hole, a
    note when it says the same of the same moment.
    """
    of_name = {one.lake.name: one.id for one in lakes.every(database)}
    suns = [sun_of(of_name.get(one.lake), one.outing) for one in given]
    counts = {"outing": 0, "stay": 0, "happening": 0}
    known = 0

    def kept(table: str, same: int | None, columns: dict[str, object]) -> int:
        nonlocal known
        if same is not None:
            known += 1
            return same
        counts[table] += 1
        return insert_in(connection, table, {**columns, "demo_key": None})

    with database.transaction() as connection:
        for one, sun in zip(given, suns, strict=True):
            columns = outing_columns(one.outing, of_name.get(one.lake), sun)
            outing_id = kept("outing", _same(connection, "outing", columns, ("began_at", "water")), columns)
            for each in one.stays:
                at = StayAt(_hole(connection, each, one), None, None, each.east_m, each.north_m)
                columns = {**stay_columns(each.stay, at), "outing_id": outing_id}
                stay_id = kept("stay", _same(connection, "stay", columns, ("outing_id", "began_at", "hole")), columns)
                for note in each.happened:
                    columns = {**happening_columns(note), "stay_id": stay_id}
                    same = _same(connection, "happening", columns, ("stay_id", "at", "kind", "depth_m", "species"))
                    kept("happening", same, columns)
    return TakenIn(counts["outing"], counts["stay"], counts["happening"], known)


def _same(connection: sqlite3.Connection, table: str, columns: dict[str, object], by: tuple[str, ...]) -> int | None:
    wanted = " AND ".join(f"{name} IS :{name}" for name in by)
    row = connection.execute(f"SELECT id FROM {table} WHERE {wanted}", {name: columns[name] for name in by}).fetchone()
    return None if row is None else int(row["id"])


def _hole(connection: sqlite3.Connection, stay: StayFile, outing: OutingFile) -> int | None:
    """The hole of that name on that water, where there is just one."""
    rows = connection.execute(
        "SELECT id FROM hole WHERE name = ? AND water = ? LIMIT 2", (stay.stay.hole, outing.outing.water)
    ).fetchall()
    return int(rows[0]["id"]) if len(rows) == 1 else None
