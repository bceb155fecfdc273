"""Hole cards: what was known when a hole's card was last used, which checks are ticked there, and where the knobs stood
last on the Bench at it."""

from __future__ import annotations

import json
from dataclasses import asdict, dataclass
from typing import Any

from ..core.gear.settings import Settings
from .database import Database, NotFound


@dataclass(frozen=True)
class KeptCard:
    """What a hole's card was made from: the fields as they were sent, and when it was last used (UTC, ISO 8601)."""

    hole_id: int
    wanted: dict[str, Any]
    used_at: str


def _kept(row: Any) -> KeptCard:
    return KeptCard(row["hole_id"], json.loads(row["wanted"]), row["used_at"])


def find(database: Database, hole_id: int) -> KeptCard | None:
    """What the hole's card was made from, or None."""
    row = database.connection().execute("SELECT * FROM hole_card WHERE hole_id = ?", (hole_id,)).fetchone()
    return None if row is None else _kept(row)


def last_elsewhere(database: Database, hole_id: int) -> KeptCard | None:
    """The card used last at another hole, or None."""
    row = (
        database.connection()
        .execute(
            "SELECT * FROM hole_card WHERE hole_id <> ? ORDER BY used_at DESC, rowid DESC LIMIT 1",
            (hole_id,),
        )
        .fetchone()
    )
    return None if row is None else _kept(row)


def keep(database: Database, hole_id: int, wanted: dict[str, Any]) -> None:
    """Remember what the hole's card is made from, as used now. Raises NotFound for a hole that is not there."""
    with database.transaction() as connection:
        if connection.execute("SELECT 1 FROM hole WHERE id = ?", (hole_id,)).fetchone() is None:
            raise NotFound("hole", hole_id)
        connection.execute(
            """
            INSERT INTO hole_card (hole_id, wanted, used_at) VALUES (?, ?, strftime('%Y-%m-%dT%H:%M:%fZ', 'now'))
            ON CONFLICT (hole_id) DO UPDATE SET wanted = excluded.wanted, used_at = excluded.used_at
            """,
            (hole_id, json.dumps(wanted)),
        )


@dataclass(frozen=True)
class Turned:
    """A unit and lure on the Bench at a hole, where the knobs stood, and when they came to rest there (UTC)."""

    unit_id: int
    lure_id: int | None
    settings: Settings
    turned_at: str


def turn(database: Database, hole_id: int, turned: Turned) -> None:
    """Remember where the knobs stand at a hole; nothing where the hole or the unit is gone."""
    with database.transaction() as connection:
        connection.execute(
            """
            INSERT OR REPLACE INTO hole_knobs (hole_id, unit_id, lure_id, settings, turned_at)
            SELECT hole.id, unit.id, (SELECT id FROM lure WHERE id = ?), ?, ? FROM hole, unit
            WHERE hole.id = ? AND unit.id = ?
            """,
            (turned.lure_id, json.dumps(asdict(turned.settings)), turned.turned_at, hole_id, turned.unit_id),
        )


def turned(database: Database, hole_id: int) -> Turned | None:
    """Where the knobs stood last on the Bench at a hole; None where they were not turned there."""
    row = database.connection().execute("SELECT * FROM hole_knobs WHERE hole_id = ?", (hole_id,)).fetchone()
    if row is None:
        return None
    return Turned(row["unit_id"], row["lure_id"], Settings(**json.loads(row["settings"])), row["turned_at"])


def ticked(database: Database, hole_id: int) -> set[str]:
    """The checks that are ticked at a hole."""
    rows = database.connection().execute("SELECT name FROM hole_check WHERE hole_id = ?", (hole_id,))
    return {row["name"] for row in rows}


def tick(database: Database, hole_id: int, name: str, done: bool) -> None:
    """Tick or untick a check at a hole. Raises NotFound for a hole that is not there."""
    with database.transaction() as connection:
        if connection.execute("SELECT 1 FROM hole WHERE id = ?", (hole_id,)).fetchone() is None:
            raise NotFound("hole", hole_id)
        if done:
            connection.execute(
                "INSERT OR IGNORE INTO hole_check VALUES (?, ?, strftime('%Y-%m-%dT%H:%M:%SZ', 'now'))", (hole_id, name)
            )
        else:
            connection.execute("DELETE FROM hole_check WHERE hole_id = ? AND name = ?", (hole_id, name))
