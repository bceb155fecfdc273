"""Scenes that people keep: each is one scene file, so that what is stored is what can be exchanged."""

from __future__ import annotations

from dataclasses import dataclass

from ..formats import scene_file
from ..formats.scene_file import SavedScene
from .database import Database
from .rows import delete, insert, one


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
    return Scene(scene_id, scene_file.read(one(database, "scene", scene_id, "document")["document"]))


def add(database: Database, saved: SavedScene, demo_key: str | None = None) -> Scene:
    """Keep a new scene and return it. A demo_key that is there already changes nothing."""
    return get(database, insert(database, "scene", {"name": saved.name, "document": scene_file.write(saved)}, demo_key))


def remove(database: Database, scene_id: int) -> int:
    """Forget a scene. Raises NotFound."""
    return delete(database, "scene", scene_id)
