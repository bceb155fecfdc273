"""Parties: who is in the shelter over a hole, as it was last written down."""

from __future__ import annotations

import json
from typing import Any

from .database import Database
from .rows import one


def find(database: Database, hole_id: int) -> dict[str, Any] | None:
    """The party of a hole as it was sent, or None."""
    row = database.connection().execute("SELECT party FROM party WHERE hole_id = ?", (hole_id,)).fetchone()
    return None if row is None else json.loads(row["party"])


def keep(database: Database, hole_id: int, party: dict[str, Any]) -> None:
    """Write a hole's party down. Raises NotFound for a hole that is not there."""
    one(database, "hole", hole_id, "id")
    with database.transaction() as connection:
        connection.execute(
            """
            INSERT INTO party (hole_id, party, kept_at) VALUES (?, ?, strftime('%Y-%m-%dT%H:%M:%fZ', 'now'))
            ON CONFLICT (hole_id) DO UPDATE SET party = excluded.party, kept_at = excluded.kept_at
            """,
            (hole_id, json.dumps(party)),
        )
