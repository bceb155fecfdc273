"""The file itself: opening, checking that it is ours, bringing it up to date, transactions.

One connection per thread. WAL lets the page be read while a strike is written; synchronous=FULL makes an acknowledged
write survive a power cut or kill -9.
"""

from __future__ import annotations

import os
import sqlite3
import threading
import time
import weakref
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from dataclasses import dataclass
from importlib import resources
from pathlib import Path
from typing import Any, Literal

from .memory import Memory

APPLICATION_ID = 0x484F4C47  # "HOLG", written into the file's header
BUSY_TIMEOUT_MS = 5000
HEADER_BYTES, MAGIC = 100, b"SQLite format 3\0"  # of every SQLite file
BACKUP_EVERY_S = 20 * 3600.0


class StoreError(Exception):
    """The store cannot be used, with a sentence that says what to do."""


class NotFound(Exception):
    """There is no such row; the sentence names the kind and the id."""

    def __init__(self, kind: str, row_id: int) -> None:
        super().__init__(f"There is no {kind} with id {row_id}.")
        self.kind = kind


class InUse(Exception):
    """The row cannot go because others stand on it; the sentence says which."""


class Stale(Exception):
    """The row has been changed since it was read: which version was changed, and what is kept now."""

    def __init__(self, kind: str, yours: int, now: Any) -> None:
        super().__init__(f"{kind} {now.id} was changed at version {yours}, and is at version {now.version} now.")
        self.kind, self.yours, self.now = kind, yours, now
        self.now_version: int = now.version


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


@dataclass(frozen=True)
class StoreTrouble:
    """What keeps the store from being read or written just now, in a word and in a sentence."""

    kind: Literal["busy", "full", "damaged", "not writable", "other"]
    sentence: str


def words_for(error: sqlite3.Error) -> StoreTrouble:
    """What is wrong, from what SQLite says of it."""
    text = str(error)
    if "locked" in text or "busy" in text:
        return StoreTrouble("busy", "The store is held by another program just now. Nothing was written; try again.")
    if "full" in text:
        return StoreTrouble("full", "The disk is full, so nothing could be written. Make room and try again.")
    if "malformed" in text or "not a database" in text or "disk I/O" in text:
        return StoreTrouble("damaged", "The store cannot be read: its file is damaged. Nothing was written.")
    if "readonly" in text or "read-only" in text or "unable to open" in text:
        return StoreTrouble("not writable", "The data folder cannot be written. Nothing was written.")
    return StoreTrouble("other", f"The store cannot be used just now: {text}. Nothing was written.")


class _Connection(sqlite3.Connection):
    """A connection that can be referred to weakly, so that those of threads that are gone go too."""


class Database:
    """A store in one file. Thread-safe: each thread has its own connection."""

    def __init__(self, path: Path) -> None:
        """Open or make the file and bring it up to date. Raises StoreError with a sentence when that cannot be."""
        self.path = path
        self.memory = Memory()
        self._local = threading.local()
        self._open: weakref.WeakSet[sqlite3.Connection] = weakref.WeakSet()
        self._open_lock = threading.Lock()
        self._copying: sqlite3.Connection | None = None
        try:
            path.parent.mkdir(parents=True, exist_ok=True)
        except OSError as problem:
            raise StoreError(
                f"The data folder {path.parent} cannot be made ({problem.strerror}). Name another with --data."
            ) from None
        try:
            if not path.exists():
                self._make()
            self._check_ours()
            self._check_whole()
            with self.transaction() as connection:
                self._bring_up_to_date(connection)
        except sqlite3.DatabaseError as problem:
            self.close()
            raise StoreError(self._explain(problem)) from None

    def _make(self) -> None:
        """A new store under another name, put in place when it is whole: a file of ours is never half made."""
        fresh = self.path.with_name(f"{self.path.name}.new-{os.getpid()}")
        fresh.unlink(missing_ok=True)
        connection = sqlite3.connect(fresh, isolation_level=None)
        try:
            connection.row_factory = sqlite3.Row
            connection.execute("BEGIN IMMEDIATE")
            connection.execute(f"PRAGMA application_id = {APPLICATION_ID}")
            self._bring_up_to_date(connection)
            connection.execute("COMMIT")
        finally:
            connection.close()
        try:
            os.link(fresh, self.path)  # unlike a renaming, never over a file that another program has just made
        except FileExistsError:
            pass
        except OSError:
            os.replace(fresh, self.path)
        fresh.unlink(missing_ok=True)

    def _explain(self, problem: sqlite3.DatabaseError) -> str:
        trouble = words_for(problem)
        if trouble.kind == "damaged":
            return self._damaged(str(problem))
        if trouble.kind == "not writable":
            return f"The data folder {self.path.parent} cannot be written. Name another with --data."
        if trouble.kind == "busy":
            return f"{self.path} is held by another program. Close that, or name another folder with --data."
        if trouble.kind == "full":
            return f"The disk that holds {self.path} is full. Make room, or name another folder with --data."
        return f"{self.path} cannot be used: {problem}. Name another folder with --data."

    def _damaged(self, how: str) -> str:
        copy = backup_path(self.path)
        restore = (
            f"A copy of it stands beside it, {copy.name}: move the damaged file away and give the copy its name."
            if copy.exists()
            else "Put a copy of yours in its place, or move it away and begin anew."
        )
        return (
            f"{self.path} is damaged ({how[:120]}), so it is not opened and nothing in it is changed. {restore} What "
            f"can still be read of it can be had with: sqlite3 {self.path.name} .recover"
        )

    def _check_whole(self) -> None:
        """Refuse a damaged file before anything of it is read or written."""
        found = [str(row[0]) for row in self.connection().execute("PRAGMA quick_check(3)")]
        if found != ["ok"]:
            raise StoreError(self._damaged("; ".join(found)))

    def _check_ours(self) -> None:
        with self.path.open("rb") as file:
            head = file.read(HEADER_BYTES)
        if not head.startswith(MAGIC[: len(head)]):
            raise StoreError(
                f"{self.path} is not a Hollow Glint database, or its first bytes are lost. Move it away, or name "
                "another folder with --data."
            )
        if len(head) < HEADER_BYTES:
            raise StoreError(self._damaged(f"it holds {len(head)} bytes, and a store has thousands"))
        connection = self.connection()
        (mark,) = connection.execute("PRAGMA application_id").fetchone()
        (version,) = connection.execute("PRAGMA user_version").fetchone()
        if mark != APPLICATION_ID:
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

    def _connect(self) -> sqlite3.Connection:
        return sqlite3.connect(self.path, isolation_level=None, check_same_thread=False, factory=_Connection)

    def connection(self) -> sqlite3.Connection:
        """This thread's connection."""
        connection: sqlite3.Connection | None = getattr(self._local, "connection", None)
        if connection is None:
            connection = self._connect()
            connection.row_factory = sqlite3.Row
            connection.execute(f"PRAGMA busy_timeout = {BUSY_TIMEOUT_MS}")
            connection.execute("PRAGMA journal_mode = WAL")
            connection.execute("PRAGMA synchronous = FULL")
            connection.execute("PRAGMA foreign_keys = ON")
            self._local.connection = connection
            with self._open_lock:
                self._open.add(connection)
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

    def close_all(self) -> None:
        """Close every thread's connection: the last one folds the write-ahead log into the file. For the very end.

        A copy that is being made must have ended (see `stop_copying`): SQLite closes a connection only when its last
        statement has, and an end of the program before that would leave the log beside the file.
        """
        with self._open_lock:
            for connection in list(self._open):
                connection.close()
        self._local = threading.local()

    def back_up(self) -> None:
        """Put a copy of the whole store beside it, unless there is one of today. Raises sqlite3.Error."""
        copy = backup_path(self.path)
        if copy.exists() and time.time() - copy.stat().st_mtime < BACKUP_EVERY_S:
            return
        fresh = copy.with_name(f"{copy.name}.new-{os.getpid()}")
        fresh.unlink(missing_ok=True)
        # A connection of its own, so that it can be interrupted and no other: one that was does not fold the log.
        self._copying = copying = self._connect()
        try:
            copying.execute("VACUUM INTO ?", (str(fresh),))
            os.replace(fresh, copy)
        finally:
            self._copying = None
            copying.close()
            fresh.unlink(missing_ok=True)  # half a copy is none

    def stop_copying(self) -> None:
        """Have a copy that is being made end at once, with sqlite3.OperationalError there; nothing if there is none."""
        if (copying := self._copying) is not None:
            with suppress(sqlite3.ProgrammingError):  # it has just ended of itself
                copying.interrupt()


def backup_path(path: Path) -> Path:
    """Where the copy of a store stands."""
    return path.with_name(f"{path.stem}.copy{path.suffix}")
