"""Runs of the strike drill, each with its log, its picture and how its skills went."""

from __future__ import annotations

import json
import sqlite3
from dataclasses import asdict, dataclass
from typing import Any

from ..core.gear.settings import Settings
from ..core.reader.recording import Recording
from ..core.runs.debrief import Debrief, RunOutcome
from ..core.runs.judge import SkillFigure
from ..core.runs.run_log import RunLog
from ..formats import recording_nc, run_file
from .database import Database
from .rows import delete, one


@dataclass(frozen=True)
class KeptRun:
    """A stored run without its log and picture; `branch_of` and `branch_at_s` for one that plays another from a
    moment on."""

    id: int
    hole_id: int | None
    level: str
    mood: str
    seed: int
    started_at: str
    seconds: float
    outcome: RunOutcome
    landed_m: float
    species: str
    skills: tuple[SkillFigure, ...]
    settings: Settings
    branch_of: int | None
    branch_at_s: float | None


# How the knobs stood to begin with is in the run file.
COLUMNS = """id, hole_id, level, mood, seed, started_at, seconds, outcome, landed_m, species, skills,
    json_extract(document, '$.setup.settings') AS settings, branch_of, branch_at_s"""


def _kept(row: sqlite3.Row) -> KeptRun:
    fields: dict[str, Any] = dict(row)
    fields["settings"] = Settings(**json.loads(fields["settings"]))
    fields["skills"] = tuple(SkillFigure(**skill) for skill in json.loads(fields["skills"]))
    return KeptRun(**fields)


def every(database: Database) -> list[KeptRun]:
    """All runs, newest first."""
    return [_kept(row) for row in database.connection().execute(f"SELECT {COLUMNS} FROM run ORDER BY id DESC")]


def get(database: Database, run_id: int) -> KeptRun:
    """The run with this id, or NotFound."""
    return _kept(one(database, "run", run_id, COLUMNS))


def log_of(database: Database, run_id: int) -> RunLog:
    """What a run started from and every command, or NotFound."""
    return run_file.read(one(database, "run", run_id, "document")["document"])


def picture_of(database: Database, run_id: int) -> Recording | None:
    """The picture of a run as it was shown; None for one too short to have any. Raises NotFound."""
    picture = one(database, "run", run_id, "picture")["picture"]
    return recording_nc.read(picture)[0] if picture else None


def add(  # noqa: PLR0913 - a row's columns
    database: Database,
    log: RunLog,
    debrief: Debrief,
    picture: Recording | None,
    started_at: str,
    source_key: str,
    hole_id: int | None = None,
    branch_of: int | None = None,
    branch_at_s: float | None = None,
) -> KeptRun:
    """Keep a run; one with the same `source_key` is there only once."""
    with database.transaction() as connection:
        row = connection.execute(
            """
            INSERT INTO run (hole_id, level, mood, seed, started_at, seconds, outcome, landed_m, species, skills,
                             document, picture, branch_of, branch_at_s, source_key)
            VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
            ON CONFLICT (source_key) DO UPDATE SET source_key = excluded.source_key
            RETURNING id
            """,
            (
                hole_id, log.setup.level, log.setup.day.mood, log.setup.seed, started_at, log.seconds, debrief.outcome,
                debrief.landed_m, debrief.species, json.dumps([asdict(skill) for skill in debrief.skills]),
                run_file.write(log), b"" if picture is None else recording_nc.write(picture), branch_of, branch_at_s,
                source_key,
            ),
        ).fetchone()  # fmt: skip
    return get(database, row["id"])


def remove(database: Database, run_id: int) -> int:
    """Forget a run. Raises NotFound."""
    return delete(database, "run", run_id)
