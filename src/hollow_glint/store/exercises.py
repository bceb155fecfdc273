"""Which guided exercises have been finished, and when."""

from __future__ import annotations

from .database import Database


def done(database: Database) -> dict[str, str]:
    """When each finished exercise was finished first, by its key: UTC as ISO 8601."""
    rows = database.connection().execute("SELECT exercise, done_at FROM exercise_done")
    return {row["exercise"]: row["done_at"] for row in rows}


def finish(database: Database, exercise: str) -> None:
    """Remember that an exercise is finished; the first time counts."""
    with database.transaction() as connection:
        connection.execute(
            "INSERT OR IGNORE INTO exercise_done (exercise, done_at) VALUES (?, strftime('%Y-%m-%dT%H:%M:%SZ', 'now'))",
            (exercise,),
        )
