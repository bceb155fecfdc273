"""Holes: where someone drilled, and what is true there. The columns are the fields of `core.hole.hole.Hole`."""

from __future__ import annotations

import sqlite3
from dataclasses import asdict, dataclass, fields

from ..core.fields import as_kept
from ..core.hole.hole import Hole
from .database import Database
from .rows import delete_unused, insert, one, update

FIELDS = tuple(field.name for field in fields(Hole))
COLUMNS = ", ".join(("id", "version", *FIELDS))


@dataclass(frozen=True)
class KeptHole:
    """A stored hole; `version` counts up with each change."""

    id: int
    version: int
    hole: Hole


def _kept(row: sqlite3.Row) -> KeptHole:
    return KeptHole(row["id"], row["version"], as_kept(Hole, {name: row[name] for name in FIELDS}))


def every(database: Database) -> list[KeptHole]:
    """All holes, oldest first."""
    return [_kept(row) for row in database.connection().execute(f"SELECT {COLUMNS} FROM hole ORDER BY id")]


def get(database: Database, hole_id: int) -> KeptHole:
    """The hole with this id, or NotFound."""
    return _kept(one(database, "hole", hole_id, COLUMNS))


def add(database: Database, hole: Hole, demo_key: str | None = None) -> KeptHole:
    """Keep a new hole and return it. A demo_key that is there already changes nothing."""
    return get(database, insert(database, "hole", asdict(hole), demo_key))


def change(database: Database, changed: KeptHole) -> KeptHole:
    """Write a hole's new values over its row, if it is still at the version that was changed. NotFound, or Stale."""
    update(database, "hole", changed.id, changed.version, asdict(changed.hole), get)
    return get(database, changed.id)


def remove(database: Database, hole_id: int) -> int:
    """Forget a hole. NotFound if it is not there; InUse if strikes are logged at it, which would be lost."""
    return delete_unused(database, "hole", hole_id)
