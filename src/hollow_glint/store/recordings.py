"""Recordings, each kept as the file that it can be exchanged as, and the notes written on them."""

from __future__ import annotations

import json
import sqlite3
from dataclasses import dataclass, replace
from typing import Any

from ..core.checks import InputError
from ..core.reader.recording import MOST_NOTES, Note, Recording
from ..formats import recording_nc
from .database import Database, NotFound
from .rows import delete, one


@dataclass(frozen=True)
class KeptRecording:
    """A stored recording without its picture."""

    id: int
    hole_id: int | None
    name: str
    started_at: str
    seconds: float
    pings: int
    remarks: tuple[str, ...]


@dataclass(frozen=True)
class KeptNote:
    """A stored note."""

    id: int
    note: Note


COLUMNS = "id, hole_id, name, started_at, seconds, pings, remarks"


def _kept(row: sqlite3.Row) -> KeptRecording:
    fields: dict[str, Any] = dict(row)
    fields["remarks"] = tuple(json.loads(fields["remarks"]))
    return KeptRecording(**fields)


def every(database: Database) -> list[KeptRecording]:
    """All recordings, newest first."""
    rows = database.connection().execute(f"SELECT {COLUMNS} FROM recording ORDER BY id DESC")
    return [_kept(row) for row in rows]


def get(database: Database, recording_id: int) -> KeptRecording:
    """The recording with this id, or NotFound."""
    return _kept(one(database, "recording", recording_id, COLUMNS))


def picture(database: Database, recording_id: int) -> Recording:
    """The recording whole, with its notes, or NotFound."""
    recording, _ = recording_nc.read(one(database, "recording", recording_id, "document")["document"])
    return replace(recording, notes=tuple(kept.note for kept in notes(database, recording_id)))


def add(
    database: Database, recording: Recording, hole_id: int | None, remarks: list[str], demo_key: str | None = None
) -> KeptRecording:
    """Keep a recording with its notes. A demo_key that is there already changes nothing."""
    document = recording_nc.write(replace(recording, notes=()))
    with database.transaction() as connection:
        there = connection.execute("SELECT id FROM recording WHERE demo_key = ?", (demo_key,)).fetchone()
        if there is not None:
            row = there
        else:
            row = connection.execute(
                """
                INSERT INTO recording (hole_id, name, started_at, seconds, pings, document, remarks, demo_key)
                VALUES (?, ?, ?, ?, ?, ?, ?, ?) RETURNING id
                """,
                (
                    hole_id, recording.name.strip(), recording.started_at, recording.seconds, recording.time_s.size,
                    document, json.dumps(remarks), demo_key,
                ),
            ).fetchone()  # fmt: skip
            connection.executemany(
                "INSERT INTO recording_note (recording_id, time_s, depth_m, text, written_by) VALUES (?, ?, ?, ?, ?)",
                [(row["id"], note.time_s, note.depth_m, note.text.strip(), note.by) for note in recording.notes],
            )
    return get(database, row["id"])


def remove(database: Database, recording_id: int) -> int:
    """Forget a recording and its notes. Raises NotFound."""
    return delete(database, "recording", recording_id)


def notes(database: Database, recording_id: int) -> list[KeptNote]:
    """The notes of a recording in the order of their times."""
    rows = database.connection().execute(
        "SELECT id, time_s, depth_m, text, written_by FROM recording_note WHERE recording_id = ? ORDER BY time_s, id",
        (recording_id,),
    )
    return [KeptNote(row["id"], Note(row["time_s"], row["depth_m"], row["text"], row["written_by"])) for row in rows]


def write_note(database: Database, recording_id: int, note: Note) -> KeptNote:
    """Write a note on a recording. Raises NotFound, and ValueError when it is full of notes."""
    with database.transaction() as connection:
        if connection.execute("SELECT 1 FROM recording WHERE id = ?", (recording_id,)).fetchone() is None:
            raise NotFound("recording", recording_id)
        (have,) = connection.execute(
            "SELECT count(*) FROM recording_note WHERE recording_id = ?", (recording_id,)
        ).fetchone()
        if have >= MOST_NOTES:
            raise InputError(f"notes has {have} entries: accepted are up to {MOST_NOTES}; remove one first")
        row = connection.execute(
            "INSERT INTO recording_note (recording_id, time_s, depth_m, text, written_by) VALUES (?, ?, ?, ?, ?) "
            "RETURNING id",
            (recording_id, note.time_s, note.depth_m, note.text.strip(), note.by),
        ).fetchone()
    return KeptNote(row["id"], replace(note, text=note.text.strip()))


def remove_note(database: Database, recording_id: int, note_id: int) -> int:
    """Take a note away. Raises NotFound."""
    return delete(database, "recording_note", note_id, "note", ("recording_id", recording_id))
