"""Rows: one by its id, one more, one changed if it is still as it was read. The SQL is put together here alone.

Names of tables and columns come from this package and from the core's field names, never from outside.
"""

from __future__ import annotations

import sqlite3
from collections.abc import Callable, Mapping
from typing import Any

from .database import Database, NotFound, Stale


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
    one(database, table, row_id, "id")  # not there at all, or at another version
    raise Stale(table, version, get(database, row_id))


def delete(database: Database, table: str, row_id: int, called: str | None = None) -> None:
    """Take a row away, or NotFound."""
    with database.transaction() as connection:
        if connection.execute(f"DELETE FROM {table} WHERE id = ?", (row_id,)).rowcount == 0:
            raise NotFound(called or table, row_id)
