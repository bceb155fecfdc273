"""Removing, and bringing back: a row that goes is kept for a while, with all that goes with it.

What the schema takes along (ON DELETE CASCADE) is kept too, and what it only lets go (ON DELETE SET NULL) is tied
again. Names of tables and columns come from the schema, never from outside.
"""

from __future__ import annotations

import base64
import json
import sqlite3
from typing import Any

from .database import Database, InUse, NotFound

MOST_KEPT = 12  # removals; the oldest go for good

_ForeignKeys = dict[str, list[sqlite3.Row]]


def remove(connection: sqlite3.Connection, table: str, row_id: int) -> int | None:
    """Take the row away within a transaction that is open: under which number it can be brought back.

    None where there is no such row.
    """
    rows: dict[tuple[str, int], tuple[str, dict[str, Any]]] = {}
    loose: list[tuple[str, str, str, int, int]] = []
    _gather(connection, table, "id", row_id, rows, loose, _foreign_keys(connection))
    if not rows:
        return None
    connection.execute(f"DELETE FROM {table} WHERE id = ?", (row_id,))
    document = json.dumps({"rows": list(rows.values()), "loose": loose}, default=_as_text, separators=(",", ":"))
    kept = connection.execute("INSERT INTO removal (document) VALUES (?) RETURNING id", (document,)).fetchone()
    connection.execute("DELETE FROM removal WHERE id <= ?", (kept["id"] - MOST_KEPT,))
    return int(kept["id"])


def undo(database: Database, removal_id: int) -> None:
    """Bring back what was removed, under its old id where that is still free.

    Raises NotFound for a removal that is gone or undone, InUse where what it belonged to is gone or it is there again.
    """
    with database.transaction() as connection:
        keys = _foreign_keys(connection)
        found = connection.execute("SELECT document FROM removal WHERE id = ?", (removal_id,)).fetchone()
        if found is None:
            raise NotFound("removal", removal_id)
        document = json.loads(found["document"], object_hook=_from_text)
        ids: dict[tuple[str, int], int] = {}
        try:
            for table, row in document["rows"]:
                _put_back(connection, table, row, ids, keys[table])
        except sqlite3.IntegrityError:
            raise InUse("It cannot be brought back: what it belonged to is gone, or it is there again.") from None
        for table, column, of, old, row_id in document["loose"]:
            connection.execute(
                f"UPDATE {table} SET {column} = ? WHERE id = ? AND {column} IS NULL", (ids[of, old], row_id)
            )
        connection.execute("DELETE FROM removal WHERE id = ?", (removal_id,))


def _gather(
    connection: sqlite3.Connection,
    table: str,
    column: str,
    value: int,
    rows: dict[tuple[str, int], tuple[str, dict[str, Any]]],
    loose: list[tuple[str, str, str, int, int]],
    keys: _ForeignKeys,
) -> None:
    """The rows of `table` with this value, each followed by what goes with it.

    One that goes with two others (a sounding with its lake and with its survey) stands once, after both.
    """
    for row in connection.execute(f"SELECT * FROM {table} WHERE {column} = ?", (value,)).fetchall():
        if "id" not in row.keys():  # noqa: SIM118 - a Row iterates over its values
            rows[f"{table} {tuple(row)}", 0] = (table, dict(row))
            continue
        rows.pop((table, row["id"]), None)
        rows[table, row["id"]] = (table, dict(row))
        for child, key in ((child, key) for child, found in keys.items() for key in found if key["table"] == table):
            if key["on_delete"] == "CASCADE":
                _gather(connection, child, key["from"], row["id"], rows, loose, keys)
            elif key["on_delete"] == "SET NULL":
                let_go = connection.execute(f"SELECT id FROM {child} WHERE {key['from']} = ?", (row["id"],))
                loose.extend((child, key["from"], table, row["id"], one["id"]) for one in let_go)


def _foreign_keys(connection: sqlite3.Connection) -> _ForeignKeys:
    """What each table refers to. Asked once for a removal: a survey's thousands of rows would ask for it each."""
    names = connection.execute("SELECT name FROM sqlite_schema WHERE type = 'table'").fetchall()
    return {one["name"]: connection.execute(f"PRAGMA foreign_key_list({one['name']})").fetchall() for one in names}


def _put_back(
    connection: sqlite3.Connection,
    table: str,
    row: dict[str, Any],
    ids: dict[tuple[str, int], int],
    keys: list[sqlite3.Row],
) -> None:
    for key in keys:
        # Its owner may have come back under another id.
        row[key["from"]] = ids.get((key["table"], row[key["from"]]), row[key["from"]])
    old = row.get("id")
    if old is not None and connection.execute(f"SELECT 1 FROM {table} WHERE id = ?", (old,)).fetchone():
        del row["id"]
    names = ", ".join(row)
    made = connection.execute(
        f"INSERT INTO {table} ({names}) VALUES ({', '.join(f':{name}' for name in row)})", row
    ).lastrowid
    if old is not None and made is not None:
        ids[table, old] = made


def _as_text(value: Any) -> dict[str, str]:
    return {"base64": base64.b64encode(value).decode("ascii")}


def _from_text(value: dict[str, Any]) -> Any:
    return base64.b64decode(value["base64"]) if value.keys() == {"base64"} else value
