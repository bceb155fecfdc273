"""Lures: what hangs on the line, by form, material and size."""

from __future__ import annotations

import sqlite3
from dataclasses import asdict, dataclass

from ..core.gear import lures
from .database import Database, NotFound, remove_unused


@dataclass(frozen=True)
class Lure:
    """A stored lure."""

    id: int
    lure: lures.Lure


FIELDS = ("name", "diameter_m", "material", "form", "length_m", "spacing_m")
COLUMNS = ", ".join(FIELDS)


def _lure(row: sqlite3.Row) -> Lure:
    return Lure(row["id"], lures.Lure(**{name: row[name] for name in FIELDS}))


def every(database: Database) -> list[Lure]:
    """All lures, jigs first, smallest first."""
    order = "ORDER BY form <> 'jig', form, diameter_m, id"
    return [_lure(row) for row in database.connection().execute(f"SELECT id, {COLUMNS} FROM lure {order}")]


def get(database: Database, lure_id: int) -> Lure:
    """The lure with this id, or NotFound."""
    row = database.connection().execute(f"SELECT id, {COLUMNS} FROM lure WHERE id = ?", (lure_id,)).fetchone()
    if row is None:
        raise NotFound("lure", lure_id)
    return _lure(row)


def add(database: Database, lure: lures.Lure, demo_key: str | None = None) -> Lure:
    """Keep a new lure and return it. A demo_key that is there already changes nothing."""
    with database.transaction() as connection:
        row = connection.execute(
            f"""
            INSERT INTO lure ({COLUMNS}, demo_key)
            VALUES (:name, :diameter_m, :material, :form, :length_m, :spacing_m, :demo_key)
            ON CONFLICT (demo_key) DO UPDATE SET demo_key = excluded.demo_key
            RETURNING id
            """,
            {**asdict(lure), "demo_key": demo_key},
        ).fetchone()
    return get(database, row["id"])


def change(database: Database, lure: Lure) -> Lure:
    """Change a lure: all its fields. Raises NotFound."""
    with database.transaction() as connection:
        done = connection.execute(
            """
            UPDATE lure SET name = :name, diameter_m = :diameter_m, material = :material, form = :form,
                length_m = :length_m, spacing_m = :spacing_m WHERE id = :id
            """,
            {**asdict(lure.lure), "id": lure.id},
        )
        if done.rowcount == 0:
            raise NotFound("lure", lure.id)
    return get(database, lure.id)


def remove(database: Database, lure_id: int) -> None:
    """Remove a lure that no strike was made with. Raises NotFound or InUse."""
    remove_unused(database, "lure", lure_id)
