"""A backup of everything as one file, and its way back: the whole store, with its checksum.

The file is a ZIP of the store as SQLite writes it out (VACUUM INTO, a moment's whole state) and of a note that says how
many bytes that is and what its SHA-256 must be. Whatever is not that to the last bit is refused before anything is
touched; and what was there before a restore is kept beside the store.
"""

from __future__ import annotations

import hashlib
import json
import os
import sqlite3
import tempfile
import zipfile
from contextlib import closing
from dataclasses import asdict, dataclass
from pathlib import Path

from ..core.checks import InputError
from .database import Database, StoreError

MARK, VERSION = "hollow-glint-backup", 1
STORE, NOTE = "store.sqlite3", "backup.json"
MOST_BYTES = 2 * 2**30
CHUNK = 1 << 20
SEAL = 64  # hex digits of a SHA-256


@dataclass(frozen=True)
class BackedUp:
    """What a backup says of itself: when it was made (UTC), by which version, how many bytes and their SHA-256."""

    made_at: str
    program: str
    bytes: int
    sha256: str


def back_up(database: Database, to: Path, made_at: str, program: str) -> BackedUp:
    """Write a backup to the file `to`, under another name until it is whole. Raises OSError, sqlite3.Error."""
    with tempfile.TemporaryDirectory(dir=to.parent) as folder:
        copy, packed = Path(folder) / STORE, Path(folder) / "packed"
        with closing(sqlite3.connect(database.path)) as connection:
            connection.execute("VACUUM INTO ?", (str(copy),))
        told = BackedUp(made_at, program, copy.stat().st_size, _sha256(copy))
        with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED, compresslevel=1) as file:
            file.writestr(NOTE, json.dumps({MARK: VERSION, **asdict(told)}, indent=1))
            file.write(copy, STORE)
            file.comment = b"0" * SEAL
        seal(packed)
        os.replace(packed, to)
    return told


def seal(path: Path) -> None:
    """Put the SHA-256 of the whole file into its last SEAL bytes, the ZIP's comment: no bit of it can change unseen."""
    with path.open("r+b") as file:
        file.seek(-SEAL, os.SEEK_END)
        end = file.tell()
        file.write(_sha256(path, end).encode("ascii"))


def look_at(path: Path) -> BackedUp:
    """What a file says of itself. Raises ValueError for what is no backup."""
    end = path.stat().st_size - SEAL
    try:
        with path.open("rb") as whole:
            whole.seek(max(end, 0))
            if end <= 0 or whole.read() != _sha256(path, end).encode("ascii"):
                raise InputError(
                    "the file is no backup of Hollow Glint, or it was cut short or altered: its checksum is not its "
                    "own. Nothing was changed"
                )
        with zipfile.ZipFile(path) as file:
            note = json.loads(file.read(NOTE))
            inside = file.getinfo(STORE)
    except (zipfile.BadZipFile, KeyError, ValueError, OSError, NotImplementedError, RuntimeError, EOFError) as wrong:
        if isinstance(wrong, InputError):
            raise
        raise InputError("the file is no backup of Hollow Glint, or it was cut short: nothing was changed") from None
    if not isinstance(note, dict) or note.pop(MARK, None) != VERSION:
        raise InputError("the backup is of another version: this program reads version 1. Nothing was changed")
    try:
        told = BackedUp(str(note["made_at"]), str(note["program"]), int(note["bytes"]), str(note["sha256"]))
    except (KeyError, TypeError, ValueError):
        raise InputError("the backup does not say what is in it: it was altered. Nothing was changed") from None
    if told.bytes != inside.file_size or told.bytes > MOST_BYTES:
        raise InputError("the backup holds another number of bytes than it says: it was altered. Nothing was changed")
    return told


def restore(database: Database, path: Path) -> BackedUp:
    """Put a backup in place of everything, all of it or nothing; what was there is kept beside (`kept_before`).

    Raises ValueError for a file that is cut short, altered or no backup; sqlite3.Error where the store cannot be
    written.
    """
    told = look_at(path)
    with tempfile.TemporaryDirectory(dir=database.path.parent) as folder:
        copy = Path(folder) / STORE
        try:
            with zipfile.ZipFile(path) as file, file.open(STORE) as packed, copy.open("wb") as out:
                while part := packed.read(CHUNK):
                    out.write(part)
        except (zipfile.BadZipFile, OSError, EOFError, zipfile.zlib.error):  # type: ignore[attr-defined]
            raise InputError(
                "the backup cannot be unpacked: it was cut short or altered. Nothing was changed"
            ) from None
        if copy.stat().st_size != told.bytes or _sha256(copy) != told.sha256:
            raise InputError("the backup's checksum is not its own: it was altered. Nothing was changed")
        try:
            fresh = Database(copy)  # which checks that it is ours and whole, and brings it up to date
        except StoreError as wrong:
            raise InputError(f"the backup holds no store that this program can read: {wrong}") from None
        try:
            _keep_before(database)
            # SQLite's own copying: one transaction on the store, that other connections see wholly or not at all.
            fresh.connection().backup(database.connection())
        finally:
            fresh.close_all()
    return told


def kept_before(path: Path) -> Path:
    """Where the store as it was before the last restore stands."""
    return path.with_name(f"{path.stem}.before-restore{path.suffix}")


def _keep_before(database: Database) -> None:
    kept = kept_before(database.path)
    fresh = kept.with_name(f"{kept.name}.new-{os.getpid()}")
    fresh.unlink(missing_ok=True)
    try:
        database.connection().execute("VACUUM INTO ?", (str(fresh),))
        os.replace(fresh, kept)
    finally:
        fresh.unlink(missing_ok=True)


def _sha256(path: Path, end: int | None = None) -> str:
    """Of the whole file, or of its first bytes."""
    found = hashlib.sha256()
    left = path.stat().st_size if end is None else end
    with path.open("rb") as file:
        while left > 0 and (part := file.read(min(CHUNK, left))):
            found.update(part)
            left -= len(part)
    return found.hexdigest()
