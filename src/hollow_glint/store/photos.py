"""Photos kept beside their recordings, and the colours that a unit's ladder shows on its screen."""

from __future__ import annotations

import json
from dataclasses import dataclass

from .database import Database, NotFound
from .rows import one


@dataclass(frozen=True)
class ScreenColours:
    """How dark water and each step look, weakest first, as #rrggbb."""

    dark: str
    colours: tuple[str, ...]


def keep(database: Database, recording_id: int, content: bytes) -> None:
    """Keep a photo beside its recording. Raises NotFound."""
    with database.transaction() as connection:
        one(database, "recording", recording_id, "id")
        connection.execute(
            "INSERT OR REPLACE INTO recording_photo (recording_id, content) VALUES (?, ?)", (recording_id, content)
        )


def get(database: Database, recording_id: int) -> bytes:
    """The photo that was kept beside a recording. Raises NotFound."""
    row = (
        database.connection()
        .execute("SELECT content FROM recording_photo WHERE recording_id = ?", (recording_id,))
        .fetchone()
    )
    if row is None:
        raise NotFound("photo of recording", recording_id)
    return bytes(row["content"])


def with_photo(database: Database) -> set[int]:
    """The recordings that have a photo beside them."""
    return {row["recording_id"] for row in database.connection().execute("SELECT recording_id FROM recording_photo")}


def colours_of(database: Database, unit_id: int, ladder: int) -> ScreenColours | None:
    """How a unit's ladder looks, None when nobody has pointed at it yet."""
    row = (
        database.connection()
        .execute("SELECT dark, colours FROM screen_colours WHERE unit_id = ? AND ladder = ?", (unit_id, ladder))
        .fetchone()
    )
    return None if row is None else ScreenColours(row["dark"], tuple(json.loads(row["colours"])))


def keep_colours(database: Database, unit_id: int, ladder: int, seen: ScreenColours) -> None:
    """Keep how a unit's ladder looks, over what was kept before. Raises NotFound."""
    with database.transaction() as connection:
        one(database, "unit", unit_id, "id")
        connection.execute(
            """
            INSERT INTO screen_colours (unit_id, ladder, dark, colours) VALUES (?, ?, ?, ?)
            ON CONFLICT (unit_id, ladder) DO UPDATE SET dark = excluded.dark, colours = excluded.colours
            """,
            (unit_id, ladder, seen.dark, json.dumps(seen.colours)),
        )
