"""Strikes: a hook set on a fish, with where, when and how the knobs stood."""

from __future__ import annotations

import json
import sqlite3
from dataclasses import asdict, dataclass

from ..core.gear.settings import Settings
from .database import Database, NotFound
from .rows import delete, one


@dataclass(frozen=True)
class Strike:
    """One strike. Depth and length [m]; `struck_at` UTC as ISO 8601; `source_key` says where it came from."""

    id: int
    hole_id: int
    unit_id: int
    lure_id: int
    struck_at: str
    depth_m: float
    fish_length_m: float | None
    settings: Settings
    note: str
    source_key: str


COLUMNS = "id, hole_id, unit_id, lure_id, struck_at, depth_m, fish_length_m, settings, note, source_key"


def _strike(row: sqlite3.Row) -> Strike:
    fields = {key: row[key] for key in row.keys()}  # noqa: SIM118 (a Row iterates over values)
    return Strike(**{**fields, "settings": Settings(**json.loads(row["settings"]))})


def every(database: Database, hole_id: int | None = None) -> list[Strike]:
    """All strikes, or those at one hole, newest first."""
    rows = database.connection().execute(
        f"SELECT {COLUMNS} FROM strike WHERE ?1 IS NULL OR hole_id = ?1 ORDER BY struck_at DESC, id DESC", (hole_id,)
    )
    return [_strike(row) for row in rows]


def get(database: Database, strike_id: int) -> Strike:
    """The strike with this id, or NotFound."""
    return _strike(one(database, "strike", strike_id, COLUMNS))


def add(database: Database, strike: Strike) -> Strike:
    """Keep a strike (its id is given here) and return it; one with the same source_key is there only once.

    Raises NotFound for a hole, unit or lure that is not there.
    """
    fields = {**asdict(strike), "settings": json.dumps(asdict(strike.settings))}
    with database.transaction() as connection:
        for kind in ("hole", "unit", "lure"):
            wanted = fields[f"{kind}_id"]
            if connection.execute(f"SELECT 1 FROM {kind} WHERE id = ?", (wanted,)).fetchone() is None:
                raise NotFound(kind, wanted)
        row = connection.execute(
            """
            INSERT INTO strike (hole_id, unit_id, lure_id, struck_at, depth_m, fish_length_m, settings, note,
                                source_key)
            VALUES (:hole_id, :unit_id, :lure_id, :struck_at, :depth_m, :fish_length_m, :settings, :note, :source_key)
            ON CONFLICT (source_key) DO UPDATE SET source_key = excluded.source_key
            RETURNING id
            """,
            fields,
        ).fetchone()
    return get(database, row["id"])


def remove(database: Database, strike_id: int) -> int:
    """Forget a strike, or NotFound."""
    return delete(database, "strike", strike_id)
