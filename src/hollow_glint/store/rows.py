"""Rows: one by its id, one more, one changed if it is still as it was read. The SQL is put together here alone.

Names of tables and columns come from this package and from the core's field names, never from outside.
"""

from __future__ import annotations

import sqlite3
from collections.abc import Callable, Mapping
from typing import Any

from . import removals
from .database import Database, InUse, NotFound, Stale


def one(database: Database, table: str, row_id: int, columns: str = "*", called: str | None = None) -> sqlite3.Row:
    """The row of `table` with this id, or NotFound; `called` what to call it in words, its table if not given."""
    row: sqlite3.Row | None = (
        database.connection().execute(f"SELECT {columns} FROM {table} WHERE id = ?", (row_id,)).fetchone()
    )
    if row is None:
        raise NotFound(called or table, row_id)
    return row


def insert(database: Database, table: str, values: Mapping[str, Any], demo_key: str | None = None) -> int:
    """One row more: its id. A demo_key that is there already changes nothing, and its row's id is given."""
    with database.transaction() as connection:
        return insert_in(connection, table, {**values, "demo_key": demo_key})


def insert_in(connection: sqlite3.Connection, table: str, values: Mapping[str, Any]) -> int:
    """`insert` within a transaction that is open; `values` with their demo_key."""
    names = ", ".join(values)
    row = connection.execute(
        f"""
        INSERT INTO {table} ({names}) VALUES ({", ".join(f":{name}" for name in values)})
        ON CONFLICT (demo_key) DO UPDATE SET demo_key = excluded.demo_key
        RETURNING id
        """,
        dict(values),
    ).fetchone()
    return int(row["id"])


def update(
    database: Database,
    table: str,
    row_id: int,
    version: int,
    values: Mapping[str, Any],
    get: Callable[[Database, int], Any],
    called: str | None = None,
) -> None:
    """Write `values` over a row that is still at `version`, and count its version up.

    Raises NotFound, or Stale with what `get` gives of the row as it is now.
    """
    with database.transaction() as connection:
        done = connection.execute(
            f"""
            UPDATE {table} SET {", ".join(f"{name} = :{name}" for name in values)}, version = version + 1
            WHERE id = :id AND version = :version
            """,
            {**values, "id": row_id, "version": version},
        )
        if done.rowcount:
            return
    one(database, table, row_id, "id", called)  # not there at all, or at another version
    raise Stale(table, version, get(database, row_id))


def delete(
    database: Database, table: str, row_id: int, called: str | None = None, owner: tuple[str, int] | None = None
) -> int:
    """Take a row away, if it is its `owner`'s (a column and a value): the number by which it can be brought back.

    Raises NotFound.
    """
    with database.transaction() as connection:
        column, value = owner or ("id", row_id)
        there = connection.execute(f"SELECT 1 FROM {table} WHERE id = ? AND {column} = ?", (row_id, value)).fetchone()
        removal = removals.remove(connection, table, row_id) if there else None
        if removal is None:
            raise NotFound(called or table, row_id)
        return removal


def delete_unused(database: Database, kind: str, row_id: int) -> int:
    """`delete` for a hole, unit or lure. NotFound if it is not there; InUse if strikes stand on it."""
    if kind not in ("hole", "unit", "lure"):
        raise ValueError(kind)  # the name goes into the SQL below
    with database.transaction() as connection:
        (strikes,) = connection.execute(f"SELECT count(*) FROM strike WHERE {kind}_id = ?", (row_id,)).fetchone()
        if strikes:
            raise InUse(
                f"{kind.title()} {row_id} has {strikes} logged strikes, which would be lost. Remove them first."
            )
        removal = removals.remove(connection, kind, row_id)
        if removal is None:
            raise NotFound(kind, row_id)
        return removal
