"""Scenes that people keep: each is one scene file, so that what is stored is what can be exchanged."""

from __future__ import annotations

from dataclasses import dataclass

from ..formats import scene_file
from ..formats.scene_file import SavedScene
from .database import Database, NotFound


@dataclass(frozen=True)
class Scene:
    """A stored scene."""

    id: int
    saved: SavedScene


def every(database: Database) -> list[Scene]:
    """All scenes, oldest first."""
    rows = database.connection().execute("SELECT id, document FROM scene ORDER BY id")
    return [Scene(row["id"], scene_file.read(row["document"])) for row in rows]


def get(database: Database, scene_id: int) -> Scene:
    """The scene with this id, or NotFound."""
    row = database.connection().execute("SELECT id, document FROM scene WHERE id = ?", (scene_id,)).fetchone()
    if row is None:
        raise NotFound("scene", scene_id)
    return Scene(row["id"], scene_file.read(row["document"]))


def add(database: Database, saved: SavedScene, demo_key: str | None = None) -> Scene:
    """Keep a new scene and return it. A demo_key that is there already changes nothing."""
    with database.transaction() as connection:
        row = connection.execute(
            """
            INSERT INTO scene (name, document, demo_key) VALUES (?, ?, ?)
            ON CONFLICT (demo_key) DO UPDATE SET demo_key = excluded.demo_key
            RETURNING id
            """,
            (saved.name, scene_file.write(saved), demo_key),
        ).fetchone()
    return get(database, row["id"])


def remove(database: Database, scene_id: int) -> None:
    """Forget a scene. Raises NotFound."""
    with database.transaction() as connection:
        if connection.execute("DELETE FROM scene WHERE id = ?", (scene_id,)).rowcount == 0:
            raise NotFound("scene", scene_id)
