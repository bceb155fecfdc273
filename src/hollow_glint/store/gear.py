"""Gear taken in together: all of it or nothing."""

from __future__ import annotations

import sqlite3
from collections.abc import Callable, Iterator, Sequence
from dataclasses import asdict, replace
from itertools import count
from typing import Any, Literal, TypeVar

from ..core.gear.lures import Lure
from ..core.gear.unit import UnitProfile
from . import lures, units
from .database import Database, InUse
from .rows import insert_in

# What to do with gear whose name is here already.
Same = Literal["ask", "replace", "both"]
MOST_NAME = 80
_Kind = TypeVar("_Kind", UnitProfile, Lure)


def add_all(
    database: Database, profiles: Sequence[UnitProfile], hung: Sequence[Lure], same: Same = "both"
) -> tuple[list[units.Unit], list[lures.Lure]]:
    """Keep units and lures in one transaction, and return them.

    Where a name is here already, `same` has it "replace" what is here, or keeps "both", the new one with a number
    after its name; "ask" keeps nothing and raises InUse, which names them.
    """
    with database.transaction() as connection:
        if same == "ask":
            here = [one.name for one in profiles if _ids(connection, "unit", one.name)]
            here += [one.name for one in hung if _ids(connection, "lure", one.name)]
            if here:
                raise InUse(f"{', '.join(here)}: here already. Replace what is here, or keep both.")
        unit_ids = list(_keep(connection, "unit", profiles, units.row_of, same))
        lure_ids = list(_keep(connection, "lure", hung, asdict, same))
    return [units.get(database, one) for one in unit_ids], [lures.get(database, one) for one in lure_ids]


def _ids(connection: sqlite3.Connection, table: str, name: str) -> list[int]:
    return [row["id"] for row in connection.execute(f"SELECT id FROM {table} WHERE name = ? ORDER BY id", (name,))]


def _keep(
    connection: sqlite3.Connection,
    table: str,
    given: Sequence[_Kind],
    row_of: Callable[[_Kind], dict[str, Any]],
    same: Same,
) -> Iterator[int]:
    done: set[int] = set()  # two of one name in the file are two here, whatever is done with the first
    for one in given:
        there = [found for found in _ids(connection, table, one.name) if found not in done]
        if same == "replace" and there:
            row = row_of(one)
            values = ", ".join(f"{column} = :{column}" for column in row)
            connection.execute(
                f"UPDATE {table} SET {values}, version = version + 1 WHERE id = :id", {**row, "id": there[0]}
            )
            kept = there[0]
        else:
            row = row_of(replace(one, name=_free_name(connection, table, one.name)))
            kept = insert_in(connection, table, {**row, "demo_key": None})
        done.add(kept)
        yield kept


def _free_name(connection: sqlite3.Connection, table: str, name: str) -> str:
    """The name, with a number after it if it is taken."""
    tried = (name if k == 1 else f"{name[: MOST_NAME - 5]} ({k})" for k in count(1))
    return next(one for one in tried if not _ids(connection, table, one))
