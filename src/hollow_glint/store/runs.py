"""Runs of the strike drill, each with its log, its picture and how its skills went."""

from __future__ import annotations

import json
from dataclasses import asdict, dataclass

from ..core.gear.settings import Settings
from ..core.reader.recording import Recording
from ..core.runs.debrief import Debrief, SkillFigure
from ..core.runs.run_log import RunLog
from ..formats import recording_nc, run_file
from .database import Database, NotFound


@dataclass(frozen=True)
class Kept:
    """A stored run without its log and picture; `branch_of` and `branch_at_s` for one that plays another from a
    moment on."""

    id: int
    hole_id: int | None
    level: str
    mood: str
    seed: int
    started_at: str
    seconds: float
    outcome: str
    landed_m: float
    species: str
    skills: tuple[SkillFigure, ...]
    settings: Settings
    branch_of: int | None
    branch_at_s: float | None


# How the knobs stood to begin with is in the run file.
COLUMNS = """id, hole_id, level, mood, seed, started_at, seconds, outcome, landed_m, species, skills,
    json_extract(document, '$.setup.settings') AS settings, branch_of, branch_at_s"""


def _kept(row: dict[str, object]) -> Kept:
    fields = dict(row)
    fields["settings"] = Settings(**json.loads(str(fields["settings"])))
    fields["skills"] = tuple(SkillFigure(**one) for one in json.loads(str(fields["skills"])))
    return Kept(**fields)  # type: ignore[arg-type]


def every(database: Database) -> list[Kept]:
    """All runs, newest first."""
    return [_kept(row) for row in database.connection().execute(f"SELECT {COLUMNS} FROM run ORDER BY id DESC")]


def get(database: Database, run_id: int) -> Kept:
    """The run with this id, or NotFound."""
    row = database.connection().execute(f"SELECT {COLUMNS} FROM run WHERE id = ?", (run_id,)).fetchone()
    if row is None:
        raise NotFound("run", run_id)
    return _kept(row)


def log_of(database: Database, run_id: int) -> RunLog:
    """What a run started from and every command, or NotFound."""
    row = database.connection().execute("SELECT document FROM run WHERE id = ?", (run_id,)).fetchone()
    if row is None:
        raise NotFound("run", run_id)
    return run_file.read(row["document"])


def picture_of(database: Database, run_id: int) -> Recording | None:
    """The picture of a run as it was shown; None for one too short to have any. Raises NotFound."""
    row = database.connection().execute("SELECT picture FROM run WHERE id = ?", (run_id,)).fetchone()
    if row is None:
        raise NotFound("run", run_id)
    return recording_nc.read(row["picture"])[0] if row["picture"] else None


def add(
    database: Database,
    log: RunLog,
    debrief: Debrief,
    picture: Recording | None,
    started_at: str,
    source_key: str,
    hole_id: int | None = None,
    branch_of: int | None = None,
    branch_at_s: float | None = None,
) -> Kept:
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
                debrief.landed_m, debrief.species, json.dumps([asdict(one) for one in debrief.skills]),
                run_file.write(log), b"" if picture is None else recording_nc.write(picture), branch_of, branch_at_s,
                source_key,
            ),
        ).fetchone()  # fmt: skip
    return get(database, row["id"])


def remove(database: Database, run_id: int) -> None:
    """Forget a run. Raises NotFound."""
    with database.transaction() as connection:
        if connection.execute("DELETE FROM run WHERE id = ?", (run_id,)).rowcount == 0:
            raise NotFound("run", run_id)
