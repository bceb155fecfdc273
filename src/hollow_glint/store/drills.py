"""Drills: what the scheduler remembers of each kind, every answer, and rounds put together for others."""

from __future__ import annotations

from dataclasses import dataclass

from ..core.drills.rounds import Round
from ..core.drills.schedule import Answered, Skill
from ..formats import round_file
from .database import Database
from .rows import delete, one


@dataclass(frozen=True)
class KeptRound:
    """A stored round."""

    id: int
    round: Round


def skills(database: Database) -> list[Skill]:
    """Every kind that was tried."""
    rows = database.connection().execute("SELECT kind, level, streak, due_at, card FROM drill_card ORDER BY kind")
    return [Skill(**dict(row)) for row in rows]


def answers(database: Database) -> list[Answered]:
    """Every answer, oldest first."""
    rows = database.connection().execute(
        "SELECT kind, level, seed, is_right, seconds, answered_at FROM drill_answer ORDER BY id"
    )
    return [Answered(**{**dict(row), "is_right": bool(row["is_right"])}) for row in rows]


def keep_answer(database: Database, answer: Answered, skill: Skill | None) -> None:
    """Keep an answer and, with it or not at all, what the scheduler makes of it."""
    with database.transaction() as connection:
        connection.execute(
            "INSERT INTO drill_answer (kind, level, seed, is_right, seconds, answered_at) VALUES (?, ?, ?, ?, ?, ?)",
            (answer.kind, answer.level, answer.seed, int(answer.is_right), answer.seconds, answer.answered_at),
        )
        if skill is not None:
            connection.execute(
                """
                INSERT INTO drill_card (kind, level, streak, due_at, card) VALUES (?, ?, ?, ?, ?)
                ON CONFLICT (kind) DO UPDATE SET level = excluded.level, streak = excluded.streak,
                    due_at = excluded.due_at, card = excluded.card
                """,
                (skill.kind, skill.level, skill.streak, skill.due_at, skill.card),
            )


def rounds(database: Database) -> list[KeptRound]:
    """All rounds, oldest first."""
    rows = database.connection().execute("SELECT id, document FROM drill_round ORDER BY id")
    return [KeptRound(row["id"], round_file.read(row["document"])) for row in rows]


def get_round(database: Database, round_id: int) -> KeptRound:
    """The round with this id, or NotFound."""
    row = one(database, "drill_round", round_id, "id, document", "round")
    return KeptRound(row["id"], round_file.read(row["document"]))


def add_round(database: Database, wanted: Round) -> KeptRound:
    """Keep a round."""
    with database.transaction() as connection:
        row = connection.execute(
            "INSERT INTO drill_round (name, document) VALUES (?, ?) RETURNING id",
            (wanted.name.strip(), round_file.write(wanted)),
        ).fetchone()
    return get_round(database, row["id"])


def remove_round(database: Database, round_id: int) -> int:
    """Forget a round. Raises NotFound."""
    return delete(database, "drill_round", round_id, "round")
