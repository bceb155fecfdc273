"""Calibrations: the readings a unit was calibrated from, and its profile as it was before."""

from __future__ import annotations

import json
from dataclasses import dataclass
from typing import Any

from ..core.gear import unit
from ..core.gear.unit import UnitProfile
from . import units
from .database import Database, NotFound


@dataclass(frozen=True)
class Calibration:
    """The readings as they were sent, the profile before, and when it was applied (UTC, ISO 8601)."""

    unit_id: int
    readings: dict[str, Any]
    before: UnitProfile
    applied_at: str


def find(database: Database, unit_id: int) -> Calibration | None:
    """The unit's calibration, or None."""
    row = database.connection().execute("SELECT * FROM calibration WHERE unit_id = ?", (unit_id,)).fetchone()
    if row is None:
        return None
    before = unit.unit_from_dict(json.loads(row["before"]))
    return Calibration(row["unit_id"], json.loads(row["readings"]), before, row["applied_at"])


def apply(database: Database, unit_id: int, readings: dict[str, Any], calibrated: UnitProfile) -> units.Unit:
    """Keep the readings and give the unit its calibrated profile, both or neither. Raises NotFound."""
    with database.transaction() as connection:
        row = connection.execute("SELECT profile FROM unit WHERE id = ?", (unit_id,)).fetchone()
        if row is None:
            raise NotFound("unit", unit_id)
        connection.execute(
            """
            INSERT INTO calibration (unit_id, readings, before, applied_at)
            VALUES (?, ?, ?, strftime('%Y-%m-%dT%H:%M:%SZ', 'now'))
            ON CONFLICT (unit_id) DO UPDATE SET readings = excluded.readings, applied_at = excluded.applied_at
            """,
            (unit_id, json.dumps(readings), row["profile"]),
        )
        connection.execute(
            "UPDATE unit SET profile = ?, version = version + 1 WHERE id = ?",
            (json.dumps(unit.unit_to_dict(calibrated)), unit_id),
        )
    return units.get(database, unit_id)


def forget(database: Database, unit_id: int) -> units.Unit:
    """Give the unit back its profile from before the calibration, and forget that. Raises NotFound."""
    with database.transaction() as connection:
        row = connection.execute("SELECT before FROM calibration WHERE unit_id = ?", (unit_id,)).fetchone()
        if row is None:
            raise NotFound("calibration of unit", unit_id)
        connection.execute("UPDATE unit SET profile = ?, version = version + 1 WHERE id = ?", (row["before"], unit_id))
        connection.execute("DELETE FROM calibration WHERE unit_id = ?", (unit_id,))
    return units.get(database, unit_id)
