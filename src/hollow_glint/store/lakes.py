"""Lakes from above, and the coming day at each. The columns are the fields of `core.ground.lake.Lake`."""

from __future__ import annotations

import json
import sqlite3
from dataclasses import asdict, dataclass, fields
from typing import Any

from ..core.fields import from_fields
from ..core.ground.lake import Lake
from ..core.trip.day import Day
from .database import Database, NotFound, Stale
from .rows import delete, insert, one, update

FIELDS = tuple(field.name for field in fields(Lake))
COLUMNS = ", ".join(("id", "version", *FIELDS))
IN_JSON = ("landing_m", "shore_m")


@dataclass(frozen=True)
class KeptLake:
    """A stored lake; `version` counts up with each change."""

    id: int
    version: int
    lake: Lake


@dataclass(frozen=True)
class KeptDay:
    """The coming day at a lake; `version` 0 where none was kept yet."""

    id: int
    version: int
    day: Day


def _kept(row: sqlite3.Row) -> KeptLake:
    told: dict[str, Any] = {name: tuple(json.loads(row[name])) if name in IN_JSON else row[name] for name in FIELDS}
    return KeptLake(row["id"], row["version"], Lake(**told))


def columns_of(lake: Lake) -> dict[str, object]:
    """A lake's columns."""
    return {name: json.dumps(value) if name in IN_JSON else value for name, value in asdict(lake).items()}


def every(database: Database) -> list[KeptLake]:
    """All lakes, oldest first."""
    return [_kept(row) for row in database.connection().execute(f"SELECT {COLUMNS} FROM lake ORDER BY id")]


def get(database: Database, lake_id: int) -> KeptLake:
    """The lake with this id, or NotFound."""
    return _kept(one(database, "lake", lake_id, COLUMNS))


def add(database: Database, lake: Lake, demo_key: str | None = None) -> KeptLake:
    """Keep a new lake and return it. A demo_key that is there already changes nothing."""
    return get(database, insert(database, "lake", columns_of(lake), demo_key))


def change(database: Database, changed: KeptLake) -> KeptLake:
    """Write a lake's new values over its row, if it is still at the version that was changed. NotFound, or Stale."""
    update(database, "lake", changed.id, changed.version, columns_of(changed.lake), get)
    return get(database, changed.id)


def remove(database: Database, lake_id: int) -> int:
    """Forget a lake with all that was measured on it. Raises NotFound."""
    return delete(database, "lake", lake_id)


def day(database: Database, lake_id: int) -> KeptDay | None:
    """The coming day at a lake; None where none was kept yet. Raises NotFound for a lake that is not there."""
    one(database, "lake", lake_id, "id")
    row = (
        database.connection().execute("SELECT version, document FROM trip_day WHERE lake_id = ?", (lake_id,)).fetchone()
    )
    if row is None:
        return None
    return KeptDay(lake_id, row["version"], from_fields(Day, json.loads(row["document"]), "the day"))


def keep_day(database: Database, lake_id: int, version: int, wanted: Day) -> KeptDay:
    """Keep the coming day, if what was kept is still at `version` (0: none). NotFound, or Stale with what is kept."""
    one(database, "lake", lake_id, "id")
    with database.transaction() as connection:
        done = connection.execute(
            """
            INSERT INTO trip_day (lake_id, document) SELECT :lake, :document WHERE :version = 0
            ON CONFLICT (lake_id) DO NOTHING
            """
            if version == 0
            else """
            UPDATE trip_day SET document = :document, version = version + 1 WHERE lake_id = :lake AND version = :version
            """,
            {"lake": lake_id, "document": json.dumps(asdict(wanted)), "version": version},
        )
        written = done.rowcount > 0
    kept = day(database, lake_id)
    if kept is None:
        raise NotFound("day", lake_id)
    if not written:
        raise Stale("day", version, kept)
    return kept
