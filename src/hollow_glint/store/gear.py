"""Gear taken in together: all of it or nothing."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict

from ..core.gear.lures import Lure
from ..core.gear.unit import UnitProfile
from . import lures, units
from .database import Database
from .rows import insert_in


def add_all(
    database: Database, profiles: Sequence[UnitProfile], hung: Sequence[Lure]
) -> tuple[list[units.Unit], list[lures.Lure]]:
    """Keep units and lures in one transaction, and return them."""
    with database.transaction() as connection:
        unit_ids = [insert_in(connection, "unit", {**units.row_of(one), "demo_key": None}) for one in profiles]
        lure_ids = [insert_in(connection, "lure", {**asdict(one), "demo_key": None}) for one in hung]
    return [units.get(database, one) for one in unit_ids], [lures.get(database, one) for one in lure_ids]
