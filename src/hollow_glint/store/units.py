"""Units: sonar profiles that people own or start from."""

from __future__ import annotations

import json
import sqlite3
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from ..core.gear.unit import UnitProfile, unit_from_dict, unit_to_dict
from .database import Database
from .rows import delete_unused, insert, one, update

COLUMNS = "id, version, profile"


@dataclass(frozen=True)
class Unit:
    """A stored unit and what it can do; `version` counts up with each change."""

    id: int
    version: int
    profile: UnitProfile


# Profiles do not change, and every picture and card asks for one: what is kept as the same text is the same object,
# which the sonar's own cache then knows again.
@lru_cache(maxsize=64)
def _profile(text: str) -> UnitProfile:
    return unit_from_dict(json.loads(text))


def _unit(row: sqlite3.Row) -> Unit:
    return Unit(row["id"], row["version"], _profile(row["profile"]))


def row_of(profile: UnitProfile) -> dict[str, Any]:
    """The columns that a profile is kept in."""
    return {"name": profile.name, "profile": json.dumps(unit_to_dict(profile))}


def every(database: Database) -> list[Unit]:
    """All units, oldest first."""
    return [_unit(row) for row in database.connection().execute(f"SELECT {COLUMNS} FROM unit ORDER BY id")]


def get(database: Database, unit_id: int) -> Unit:
    """The unit with this id, or NotFound."""
    return _unit(one(database, "unit", unit_id, COLUMNS))


def add(database: Database, profile: UnitProfile, demo_key: str | None = None) -> Unit:
    """Keep a new unit and return it. A demo_key that is there already changes nothing."""
    return get(database, insert(database, "unit", row_of(profile), demo_key))


def change(database: Database, changed: Unit) -> Unit:
    """Write a unit's new profile over its old, if it is still at the version that was changed. NotFound, or Stale."""
    update(database, "unit", changed.id, changed.version, row_of(changed.profile), get)
    return get(database, changed.id)


def remove(database: Database, unit_id: int) -> int:
    """Remove a unit that no strike was made with. Raises NotFound or InUse."""
    return delete_unused(database, "unit", unit_id)
