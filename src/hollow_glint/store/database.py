"""The file itself: opening, checking that it is ours, bringing it up to date, transactions.

One connection per thread. WAL lets the page be read while a strike is written; synchronous=FULL makes an acknowledged
write survive a power cut or kill -9.
"""

from __future__ import annotations

import sqlite3
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from importlib import resources
from pathlib import Path

APPLICATION_ID = 0x484F4C47  # "HOLG", written into the file's header
BUSY_TIMEOUT_MS = 5000


class StoreError(Exception):
    """The store cannot be used, with a sentence that says what to do."""


class NotFound(Exception):
    """There is no such row; the sentence names the kind and the id."""

    def __init__(self, kind: str, row_id: int) -> None:
        super().__init__(f"There is no {kind} with id {row_id}.")
        self.kind = kind


class InUse(Exception):
    """The row cannot go because others stand on it; the sentence says which."""


def migrations() -> list[tuple[int, str, str]]:
    """The numbered migrations in order: (number, name, SQL)."""
    found = []
    for entry in resources.files("hollow_glint.store.migrations").iterdir():
        if entry.name.endswith(".sql"):
            number, name = entry.name.removesuffix(".sql").split("_", 1)
            found.append((int(number), name, entry.read_text("utf-8")))
    return sorted(found)


def _statements(script: str) -> Iterator[str]:
    """The script's statements one by one: sqlite3's own executescript would commit behind our back."""
    pending = ""
    for line in script.splitlines(keepends=True):
        pending += line
        if sqlite3.complete_statement(pending):
            yield pending
            pending = ""


class Database:
    """A store in one file. Thread-safe: each thread has its own connection."""

    def __init__(self, path: Path) -> None:
        """Open or make the file and bring it up to date. Raises StoreError with a sentence when that cannot be."""
        self.path = path
        self._local = threading.local()
        try:
            path.parent.mkdir(parents=True, exist_ok=True)
        except OSError as problem:
            raise StoreError(
                f"The data folder {path.parent} cannot be made ({problem.strerror}). Name another with --data."
            ) from None
        fresh = not path.exists() or path.stat().st_size == 0
        try:
            with self.transaction() as connection:
                self._check_ours(connection, fresh)
                self._bring_up_to_date(connection)
        except sqlite3.DatabaseError as problem:
            raise StoreError(self._explain(problem)) from None

    def _explain(self, problem: sqlite3.DatabaseError) -> str:
        text = str(problem)
        if "not a database" in text or "malformed" in text:
            return f"{self.path} is not a Hollow Glint database. Move it away, or name another folder with --data."
        if "readonly" in text or "unable to open" in text or "read-only" in text:
            return f"The data folder {self.path.parent} cannot be written. Name another with --data."
        if "locked" in text:
            return f"{self.path} is held by another program. Close that, or name another folder with --data."
        return f"{self.path} cannot be used: {text}. Name another folder with --data."

    def _check_ours(self, connection: sqlite3.Connection, fresh: bool) -> None:
        (mark,) = connection.execute("PRAGMA application_id").fetchone()
        (version,) = connection.execute("PRAGMA user_version").fetchone()
        if fresh:
            connection.execute(f"PRAGMA application_id = {APPLICATION_ID}")
        elif mark != APPLICATION_ID:
            raise StoreError(
                f"{self.path} is a database, but not one of Hollow Glint's. "
                "Move it away, or name another folder with --data."
            )
        newest = migrations()[-1][0]
        if version > newest:
            raise StoreError(
                f"{self.path} was written by a newer Hollow Glint (version {version} of the store; this program knows "
                f"up to {newest}). Use that program, or name another folder with --data."
            )

    def _bring_up_to_date(self, connection: sqlite3.Connection) -> None:
        """Apply what is missing, inside the transaction that is open: all of it or nothing."""
        connection.execute(
            "CREATE TABLE IF NOT EXISTS migration (number INTEGER PRIMARY KEY, name TEXT NOT NULL, "
            "applied_at TEXT NOT NULL) STRICT"
        )
        (version,) = connection.execute("PRAGMA user_version").fetchone()
        for number, name, script in migrations():
            if number <= version:
                continue
            for statement in _statements(script):
                connection.execute(statement)
            connection.execute(
                "INSERT INTO migration (number, name, applied_at) VALUES (?, ?, strftime('%Y-%m-%dT%H:%M:%SZ', 'now'))",
                (number, name),
            )
            connection.execute(f"PRAGMA user_version = {number}")

    def connection(self) -> sqlite3.Connection:
        """This thread's connection."""
        connection: sqlite3.Connection | None = getattr(self._local, "connection", None)
        if connection is None:
            connection = sqlite3.connect(self.path, isolation_level=None)
            connection.row_factory = sqlite3.Row
            connection.execute(f"PRAGMA busy_timeout = {BUSY_TIMEOUT_MS}")
            connection.execute("PRAGMA journal_mode = WAL")
            connection.execute("PRAGMA synchronous = FULL")
            connection.execute("PRAGMA foreign_keys = ON")
            self._local.connection = connection
        return connection

    @contextmanager
    def transaction(self) -> Iterator[sqlite3.Connection]:
        """A write transaction: committed at the end, rolled back if anything is raised. Not for nesting."""
        connection = self.connection()
        connection.execute("BEGIN IMMEDIATE")
        try:
            yield connection
        except BaseException:
            connection.execute("ROLLBACK")
            raise
        connection.execute("COMMIT")

    def close(self) -> None:
        """Close this thread's connection."""
        connection: sqlite3.Connection | None = getattr(self._local, "connection", None)
        if connection is not None:
            connection.close()
            self._local.connection = None


def remove_unused(database: Database, kind: str, row_id: int) -> None:
    """Forget the hole, unit or lure `row_id`. NotFound if it is not there; InUse if strikes stand on it."""
    if kind not in ("hole", "unit", "lure"):
        raise ValueError(kind)  # the name goes into the SQL below
    with database.transaction() as connection:
        (strikes,) = connection.execute(f"SELECT count(*) FROM strike WHERE {kind}_id = ?", (row_id,)).fetchone()
        if strikes:
            raise InUse(
                f"{kind.title()} {row_id} has {strikes} logged strikes, which would be lost. Remove them first."
            )
        if connection.execute(f"DELETE FROM {kind} WHERE id = ?", (row_id,)).rowcount == 0:
            raise NotFound(kind, row_id)
