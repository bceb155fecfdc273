"""What belongs to a lake, row by row: soundings, structures, ice as it was measured, places as they were fished.

Each kind is a table whose columns are the fields of its dataclass in the core.
"""

from __future__ import annotations

import sqlite3
from collections.abc import Sequence
from dataclasses import asdict, dataclass, fields
from typing import Any, Generic, TypeVar

from ..core.ground.soundings import Sounding, Structure
from ..core.trip.ice import IceReading
from ..core.trip.start_places import FishedPlace
from .database import Database
from .rows import delete, insert_in, one

Thing = TypeVar("Thing")
TABLES: dict[type, str] = {
    Sounding: "sounding",
    Structure: "structure",
    IceReading: "ice_reading",
    FishedPlace: "fished_place",
}
WORDS = {"ice_reading": "ice reading", "fished_place": "fished place"}


@dataclass(frozen=True)
class Kept(Generic[Thing]):
    """A stored thing of a lake."""

    id: int
    thing: Thing


@dataclass(frozen=True)
class PlacedHole:
    """Where a hole lies on a lake [m], and how deep it is there [m]."""

    hole_id: int
    name: str
    east_m: float
    north_m: float
    depth_m: float
    bottom: str


@dataclass(frozen=True)
class Survey:
    """A file of soundings that was taken in: when (UTC), what was said of it, and how many soundings it brought."""

    id: int
    name: str
    taken_at: str
    said: str
    soundings: int


def every(database: Database, kind: type[Thing], lake_id: int) -> list[Kept[Thing]]:
    """All things of a kind at a lake, oldest first."""
    names = [field.name for field in fields(kind)]  # type: ignore[arg-type]
    rows = database.connection().execute(
        f"SELECT id, {', '.join(names)} FROM {TABLES[kind]} WHERE lake_id = ? ORDER BY id", (lake_id,)
    )
    return [Kept(row["id"], kind(**{name: row[name] for name in names})) for row in rows]


def add(
    database: Database, lake_id: int, things: Sequence[Any], demo_key: str | None = None, survey_id: int | None = None
) -> list[int]:
    """Keep things of one kind at a lake: their ids. All of them, or none. Raises NotFound for an unknown lake."""
    one(database, "lake", lake_id, "id")
    with database.transaction() as connection:
        found = []
        for k, thing in enumerate(things):
            values = {**asdict(thing), "lake_id": lake_id, "demo_key": None if demo_key is None else f"{demo_key}-{k}"}
            if survey_id is not None:
                values["survey_id"] = survey_id
            found.append(insert_in(connection, TABLES[type(thing)], values))
        return found


def remove(database: Database, kind: type, lake_id: int, row_id: int) -> int:
    """Take a thing away: the number by which it can be brought back. Raises NotFound."""
    table = TABLES[kind]
    return delete(database, table, row_id, WORDS.get(table, table), ("lake_id", lake_id))


def depths(database: Database, lake_id: int) -> list[tuple[float, float, float]]:
    """East, north and depth [m] of all soundings of a lake and of the holes on it, oldest first."""
    rows = database.connection().execute(
        """
        SELECT east_m, north_m, depth_m, 0 AS of_hole, id FROM sounding WHERE lake_id = ?1
        UNION ALL
        SELECT hole_place.east_m, hole_place.north_m, hole.bottom_depth_m, 1, hole_place.id
        FROM hole_place JOIN hole ON hole.id = hole_place.hole_id WHERE hole_place.lake_id = ?1
        ORDER BY of_hole, id
        """,
        (lake_id,),
    )
    return [(row["east_m"], row["north_m"], row["depth_m"]) for row in rows]


def bottoms(database: Database, lake_id: int) -> list[tuple[float, float, str]]:
    """East, north [m] and kind of bottom of the places of a lake where that is known, holes among them."""
    rows = database.connection().execute(
        "SELECT east_m, north_m, bottom FROM sounding WHERE lake_id = ? AND bottom <> '' ORDER BY id", (lake_id,)
    )
    found = [(row["east_m"], row["north_m"], row["bottom"]) for row in rows]
    return found + [(one.east_m, one.north_m, one.bottom) for one in holes_on(database, lake_id)]


def surveys(database: Database, lake_id: int) -> list[Survey]:
    """The files that were taken in for a lake, oldest first."""
    rows = database.connection().execute(
        """
        SELECT id, name, taken_at, said, (SELECT count(*) FROM sounding WHERE survey_id = survey.id) AS soundings
        FROM survey WHERE lake_id = ? ORDER BY id
        """,
        (lake_id,),
    )
    return [Survey(**dict(row)) for row in rows]


def add_survey(
    database: Database, lake_id: int, name: str, taken_at: str, said: str, soundings: Sequence[Sounding]
) -> int:
    """Keep a file's soundings: the id of the survey. All of them, or none. Raises NotFound for an unknown lake."""
    one(database, "lake", lake_id, "id")
    with database.transaction() as connection:
        return add_survey_in(connection, lake_id, name, taken_at, said, soundings)


def add_survey_in(
    connection: sqlite3.Connection, lake_id: int, name: str, taken_at: str, said: str, soundings: Sequence[Sounding]
) -> int:
    """`add_survey` within a transaction that is open."""
    survey = {"lake_id": lake_id, "name": name[:80], "taken_at": taken_at, "said": said, "demo_key": None}
    survey_id = insert_in(connection, "survey", survey)
    connection.executemany(
        """
        INSERT INTO sounding (lake_id, survey_id, east_m, north_m, depth_m, how, at, bottom)
        VALUES (:lake_id, :survey_id, :east_m, :north_m, :depth_m, :how, :at, :bottom)
        """,
        [{**asdict(one), "lake_id": lake_id, "survey_id": survey_id} for one in soundings],
    )
    return survey_id


def remove_survey(database: Database, lake_id: int, survey_id: int) -> int:
    """Take a file's soundings away. Raises NotFound."""
    return delete(database, "survey", survey_id, owner=("lake_id", lake_id))


def holes_on(database: Database, lake_id: int) -> list[PlacedHole]:
    """The holes that have a place on a lake."""
    rows = database.connection().execute(
        """
        SELECT hole.id AS hole_id, hole.name, hole_place.east_m, hole_place.north_m, hole.bottom_depth_m AS depth_m,
               hole.bottom_kind AS bottom
        FROM hole_place JOIN hole ON hole.id = hole_place.hole_id WHERE hole_place.lake_id = ? ORDER BY hole_place.id
        """,
        (lake_id,),
    )
    return [PlacedHole(**dict(row)) for row in rows]


def place_of(database: Database, hole_id: int) -> tuple[int, float, float] | None:
    """On which lake a hole lies and where there [m]; None where nobody said so."""
    row = (
        database.connection()
        .execute("SELECT lake_id, east_m, north_m FROM hole_place WHERE hole_id = ?", (hole_id,))
        .fetchone()
    )
    return None if row is None else (row["lake_id"], row["east_m"], row["north_m"])


def place_hole(database: Database, lake_id: int, hole_id: int, east_m: float, north_m: float) -> None:
    """Say where a hole lies, or that it lies elsewhere now. Raises NotFound for an unknown lake or hole."""
    one(database, "lake", lake_id, "id")
    one(database, "hole", hole_id, "id")
    with database.transaction() as connection:
        connection.execute(
            """
            INSERT INTO hole_place (hole_id, lake_id, east_m, north_m) VALUES (?, ?, ?, ?)
            ON CONFLICT (hole_id) DO UPDATE SET lake_id = excluded.lake_id, east_m = excluded.east_m,
                                                north_m = excluded.north_m
            """,
            (hole_id, lake_id, east_m, north_m),
        )


def unplace_hole(database: Database, lake_id: int, hole_id: int) -> int:
    """Forget where a hole lies; the hole stays. Raises NotFound."""
    row = (
        database.connection()
        .execute("SELECT id FROM hole_place WHERE hole_id = ? AND lake_id = ?", (hole_id, lake_id))
        .fetchone()
    )
    return delete(database, "hole_place", -1 if row is None else row["id"], "hole on this lake", ("lake_id", lake_id))


def logged(database: Database, lake_id: int, species: str) -> list[tuple[str, float]]:
    """When (UTC) and how deep [m] fish of a species were had at a lake's holes, by the strike sheet and the log."""
    rows = database.connection().execute(
        """
        SELECT happening.at, happening.depth_m
        FROM happening JOIN stay ON stay.id = stay_id JOIN hole_place USING (hole_id)
        WHERE lake_id = ?1 AND happening.depth_m IS NOT NULL AND lower(species) = lower(?2)
            AND kind IN ('bite', 'miss', 'fish')
        UNION ALL
        SELECT struck_at, depth_m FROM strike JOIN hole_place USING (hole_id)
        WHERE lake_id = ?1 AND lower(note) LIKE '%' || lower(?2) || '%'
        ORDER BY 1
        """,
        (lake_id, species),
    )
    return [(row["at"], row["depth_m"]) for row in rows]
