"""Lures: what hangs on the line, by form, material and size."""

from __future__ import annotations

from dataclasses import dataclass

from ..core import scene
from .database import Database, NotFound


@dataclass(frozen=True)
class Lure:
    """A stored lure."""

    id: int
    lure: scene.Lure


COLUMNS = "id, name, form, material, diameter_m"


def every(database: Database) -> list[Lure]:
    """All lures, smallest first."""
    rows = database.connection().execute(f"SELECT {COLUMNS} FROM lure ORDER BY diameter_m, id")
    return [Lure(row["id"], scene.Lure(row["name"], row["diameter_m"], row["material"], row["form"])) for row in rows]


def get(database: Database, lure_id: int) -> Lure:
    """The lure with this id, or NotFound."""
    row = database.connection().execute(f"SELECT {COLUMNS} FROM lure WHERE id = ?", (lure_id,)).fetchone()
    if row is None:
        raise NotFound("lure", lure_id)
    return Lure(row["id"], scene.Lure(row["name"], row["diameter_m"], row["material"], row["form"]))


def add(database: Database, lure: scene.Lure, demo_key: str | None = None) -> Lure:
    """Keep a new lure and return it. A demo_key that is there already changes nothing."""
    with database.transaction() as connection:
        row = connection.execute(
            """
            INSERT INTO lure (name, form, material, diameter_m, demo_key) VALUES (?, ?, ?, ?, ?)
            ON CONFLICT (demo_key) DO UPDATE SET demo_key = excluded.demo_key
            RETURNING id
            """,
            (lure.name, lure.form, lure.material, lure.diameter_m, demo_key),
        ).fetchone()
    return get(database, row["id"])
