"""Searches of the scenes, each with its watches and marks and what it came to."""

from __future__ import annotations

import json
from dataclasses import asdict, dataclass

from ..core.fields import from_fields
from ..core.searches.debrief import SearchTold
from ..core.searches.searched import Searched
from .database import Database
from .rows import delete, one


@dataclass(frozen=True)
class KeptSearch:
    """A stored search without its watches and marks."""

    id: int
    scene: str
    seed: int
    started_at: str
    found: int
    wrong: int
    holes: int
    walked_m: float
    watched_s: float
    done_s: float


COLUMNS = "id, scene, seed, started_at, found, wrong, holes, walked_m, watched_s, done_s"


def every(database: Database) -> list[KeptSearch]:
    """All searches, newest first."""
    rows = database.connection().execute(f"SELECT {COLUMNS} FROM search ORDER BY id DESC")
    return [KeptSearch(**dict(row)) for row in rows]


def get(database: Database, search_id: int) -> KeptSearch:
    """The search with this id, or NotFound."""
    return KeptSearch(**dict(one(database, "search", search_id, COLUMNS)))


def searched_of(database: Database, search_id: int) -> Searched:
    """From where was looked when, and what was marked. Raises NotFound."""
    row = one(database, "search", search_id, "document")
    return from_fields(Searched, json.loads(row["document"]), "the search")


def add(database: Database, searched: Searched, told: SearchTold, started_at: str, source_key: str) -> KeptSearch:
    """Keep a search; one with the same `source_key` is there only once."""
    with database.transaction() as connection:
        row = connection.execute(
            f"""
            INSERT INTO search (scene, seed, started_at, found, wrong, holes, walked_m, watched_s, done_s, document,
                                source_key)
            VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
            ON CONFLICT (source_key) DO UPDATE SET source_key = excluded.source_key
            RETURNING {COLUMNS}
            """,
            (
                searched.scene, searched.seed, started_at, told.found, told.wrong, len(told.holes), told.walked_m,
                told.watched_s, told.done_s, json.dumps(asdict(searched), separators=(",", ":")), source_key,
            ),
        ).fetchone()  # fmt: skip
    return KeptSearch(**dict(row))


def remove(database: Database, search_id: int) -> int:
    """Forget a search. Raises NotFound."""
    return delete(database, "search", search_id)
