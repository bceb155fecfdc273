"""Units: sonar profiles that people own or start from."""

from __future__ import annotations

import json
from dataclasses import dataclass

from ..core.gear.unit import UnitProfile, unit_from_dict, unit_to_dict
from .database import Database, NotFound, remove_unused


@dataclass(frozen=True)
class Unit:
    """A stored unit and what it can do."""

    id: int
    profile: UnitProfile


def every(database: Database) -> list[Unit]:
    """All units, oldest first."""
    rows = database.connection().execute("SELECT id, profile FROM unit ORDER BY id")
    return [Unit(row["id"], unit_from_dict(json.loads(row["profile"]))) for row in rows]


def get(database: Database, unit_id: int) -> Unit:
    """The unit with this id, or NotFound."""
    row = database.connection().execute("SELECT id, profile FROM unit WHERE id = ?", (unit_id,)).fetchone()
    if row is None:
        raise NotFound("unit", unit_id)
    return Unit(row["id"], unit_from_dict(json.loads(row["profile"])))


def add(database: Database, profile: UnitProfile, demo_key: str | None = None) -> Unit:
    """Keep a new unit and return it. A demo_key that is there already changes nothing."""
    with database.transaction() as connection:
        row = connection.execute(
            """
            INSERT INTO unit (name, profile, demo_key) VALUES (?, ?, ?)
            ON CONFLICT (demo_key) DO UPDATE SET demo_key = excluded.demo_key
            RETURNING id
            """,
            (profile.name, json.dumps(unit_to_dict(profile)), demo_key),
        ).fetchone()
    return get(database, row["id"])


def change(database: Database, unit: Unit) -> Unit:
    """Write a unit's new profile over its old one. Raises NotFound."""
    with database.transaction() as connection:
        done = connection.execute(
            "UPDATE unit SET name = ?, profile = ? WHERE id = ?",
            (unit.profile.name, json.dumps(unit_to_dict(unit.profile)), unit.id),
        )
        if done.rowcount == 0:
            raise NotFound("unit", unit.id)
    return get(database, unit.id)


def remove(database: Database, unit_id: int) -> None:
    """Remove a unit that no strike was made with. Raises NotFound or InUse."""
    remove_unused(database, "unit", unit_id)
