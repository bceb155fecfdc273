"""Lures: what hangs on the line, by form, material and size. The columns are the fields of `core.gear.lures.Lure`."""

from __future__ import annotations

import sqlite3
from dataclasses import asdict, dataclass, fields

from ..core.gear import lures
from .database import Database
from .rows import delete_unused, insert, one, update

FIELDS = tuple(field.name for field in fields(lures.Lure))
COLUMNS = ", ".join(("id", "version", *FIELDS))


@dataclass(frozen=True)
class Lure:
    """A stored lure; `version` counts up with each change."""

    id: int
    version: int
    lure: lures.Lure


def _lure(row: sqlite3.Row) -> Lure:
    return Lure(row["id"], row["version"], lures.Lure(**{name: row[name] for name in FIELDS}))


def every(database: Database) -> list[Lure]:
    """All lures, jigs first, smallest first."""
    order = "ORDER BY form <> 'jig', form, diameter_m, id"
    return [_lure(row) for row in database.connection().execute(f"SELECT {COLUMNS} FROM lure {order}")]


def get(database: Database, lure_id: int) -> Lure:
    """The lure with this id, or NotFound."""
    return _lure(one(database, "lure", lure_id, COLUMNS))


def add(database: Database, lure: lures.Lure, demo_key: str | None = None) -> Lure:
    """Keep a new lure and return it. A demo_key that is there already changes nothing."""
    return get(database, insert(database, "lure", asdict(lure), demo_key))


def change(database: Database, changed: Lure) -> Lure:
    """Change a lure: all its fields, if it is still at the version that was changed. NotFound, or Stale."""
    update(database, "lure", changed.id, changed.version, asdict(changed.lure), get)
    return get(database, changed.id)


def remove(database: Database, lure_id: int) -> int:
    """Remove a lure that no strike was made with. Raises NotFound or InUse."""
    return delete_unused(database, "lure", lure_id)
