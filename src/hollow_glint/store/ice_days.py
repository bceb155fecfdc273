"""What happened on the ice at each hole, as the strike sheet shows it: touches, and how high fish came.

They are the log's own notes (`store.outings`), looked up by hole and time.
"""

from __future__ import annotations

import sqlite3
from collections.abc import Sequence
from dataclasses import dataclass

from .database import Database, NotFound
from .rows import delete

TOUCHES = ("look", "follow", "bite", "miss", "fish", "nothing")
HEIGHTS = ("turned", "came")


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


def _noted(database: Database, hole_id: int, since: str, kinds: Sequence[str]) -> list[sqlite3.Row]:
    return (
        database.connection()
        .execute(
            f"""
            SELECT happening.*, hole_id FROM happening JOIN stay ON stay.id = stay_id
            WHERE hole_id = ? AND at >= ? AND kind IN ({", ".join("?" * len(kinds))})
            ORDER BY at DESC, happening.id DESC
            """,
            (hole_id, since, *kinds),
        )
        .fetchall()
    )


def heights(database: Database, hole_id: int, since: str) -> list[KeptHeight]:
    """How high fish came at a hole since a time (UTC as ISO 8601), newest first."""
    rows = _noted(database, hole_id, since, HEIGHTS)
    return [
        KeptHeight(row["id"], hole_id, row["at"], row["depth_m"], row["kind"] == "turned")
        for row in rows
        if row["depth_m"] is not None
    ]


def touches(database: Database, hole_id: int, since: str) -> list[Touch]:
    """The touches at a hole since a time (UTC as ISO 8601), newest first; what the sheet cannot weigh is left out."""
    rows = _noted(database, hole_id, since, TOUCHES)
    return [
        Touch(row["id"], hole_id, row["at"], row["kind"], row["trying"], row["species"], row["depth_m"])
        for row in rows
        if row["trying"] and row["species"]
    ]


def remove(database: Database, hole_id: int, happening_id: int) -> int:
    """Take a note at a hole back. Raises NotFound, also for one at another hole."""
    row = (
        database.connection()
        .execute(
            "SELECT 1 FROM happening JOIN stay ON stay.id = stay_id WHERE happening.id = ? AND hole_id = ?",
            (happening_id, hole_id),
        )
        .fetchone()
    )
    if row is None:
        raise NotFound("note", happening_id)
    return delete(database, "happening", happening_id, "note")
