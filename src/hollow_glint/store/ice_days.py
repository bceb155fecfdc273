"""What happened on the ice at each hole: how high fish came, and what they made of what was tried."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass

from .database import Database, NotFound
from .rows import delete


@dataclass(frozen=True)
class KeptHeight:
    """One fish at a hole: when (UTC as ISO 8601), the highest it came [m below the surface], and whether it turned."""

    id: int
    hole_id: int
    at: str
    depth_m: float
    turned: bool


@dataclass(frozen=True)
class Touch:
    """One touch on the strike sheet: when (UTC), what happened, what was being tried for which species, at what depth
    [m]."""

    id: int
    hole_id: int
    at: str
    kind: str
    trying: str
    species: str
    depth_m: float | None


def heights(database: Database, hole_id: int, since: str) -> list[KeptHeight]:
    """How high fish came at a hole since a time (UTC as ISO 8601), newest first."""
    rows = database.connection().execute(
        "SELECT id, hole_id, at, depth_m, turned FROM came WHERE hole_id = ? AND at >= ? ORDER BY at DESC, id DESC",
        (hole_id, since),
    )
    return [KeptHeight(**{**dict(row), "turned": bool(row["turned"])}) for row in rows]


def add_height(database: Database, hole_id: int, at: str, depth_m: float, turned: bool) -> KeptHeight:
    """Note how high a fish came. Raises NotFound for a hole that is not there."""
    with database.transaction() as connection:
        _there(connection, hole_id)
        row = connection.execute(
            "INSERT INTO came (hole_id, at, depth_m, turned) VALUES (?, ?, ?, ?) RETURNING id",
            (hole_id, at, depth_m, int(turned)),
        ).fetchone()
    return KeptHeight(row["id"], hole_id, at, depth_m, turned)


def touches(database: Database, hole_id: int, since: str) -> list[Touch]:
    """The touches at a hole since a time (UTC as ISO 8601), newest first."""
    rows = database.connection().execute(
        """
        SELECT id, hole_id, at, kind, trying, species, depth_m FROM touch
        WHERE hole_id = ? AND at >= ? ORDER BY at DESC, id DESC
        """,
        (hole_id, since),
    )
    return [Touch(**dict(row)) for row in rows]


def add_touch(
    database: Database, hole_id: int, at: str, kind: str, trying: str, species: str, depth_m: float | None
) -> Touch:
    """Log what happened. Raises NotFound for a hole that is not there."""
    with database.transaction() as connection:
        _there(connection, hole_id)
        row = connection.execute(
            "INSERT INTO touch (hole_id, at, kind, trying, species, depth_m) VALUES (?, ?, ?, ?, ?, ?) RETURNING id",
            (hole_id, at, kind, trying, species, depth_m),
        ).fetchone()
    return Touch(row["id"], hole_id, at, kind, trying, species, depth_m)


def remove_height(database: Database, hole_id: int, height_id: int) -> int:
    """Take a note of how high a fish came back. Raises NotFound."""
    return delete(database, "came", height_id, "note", ("hole_id", hole_id))


def remove_touch(database: Database, hole_id: int, touch_id: int) -> int:
    """Take a touch back. Raises NotFound."""
    return delete(database, "touch", touch_id, owner=("hole_id", hole_id))


def _there(connection: sqlite3.Connection, hole_id: int) -> None:
    if connection.execute("SELECT 1 FROM hole WHERE id = ?", (hole_id,)).fetchone() is None:
        raise NotFound("hole", hole_id)
