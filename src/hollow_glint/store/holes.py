"""Holes: where someone drilled, and what is true there."""

from __future__ import annotations

import sqlite3
from dataclasses import asdict, dataclass

from ..core.hole.scene import Scene
from .database import Database, NotFound, remove_unused


@dataclass(frozen=True)
class Hole:
    """A hole with its name, the water it is on and a note; the rest as in `core.scene.Scene` [m, degrees C]."""

    id: int
    name: str
    water: str
    note: str
    bottom_depth_m: float
    bottom_kind: str
    ice_thickness_m: float
    face_depth_m: float
    hole_diameter_m: float
    temperature_c: float
    clarity: str

    def scene(self) -> Scene:
        """What is true under this hole. Raises ValueError for values that cannot be."""
        return Scene(**{name: getattr(self, name) for name in SCENE_FIELDS})


SCENE_FIELDS = ("bottom_depth_m", "bottom_kind", "ice_thickness_m", "face_depth_m", "hole_diameter_m", "temperature_c",
                "clarity")  # fmt: skip
COLUMNS = (
    "id, name, water, note, bottom_depth_m, bottom_kind, ice_thickness_m, face_depth_m, hole_diameter_m, "
    "temperature_c, clarity"
)


def _hole(row: sqlite3.Row) -> Hole:
    return Hole(**{key: row[key] for key in row.keys()})  # noqa: SIM118 (a Row iterates over values)


def every(database: Database) -> list[Hole]:
    """All holes, oldest first."""
    return [_hole(row) for row in database.connection().execute(f"SELECT {COLUMNS} FROM hole ORDER BY id")]


def get(database: Database, hole_id: int) -> Hole:
    """The hole with this id, or NotFound."""
    row = database.connection().execute(f"SELECT {COLUMNS} FROM hole WHERE id = ?", (hole_id,)).fetchone()
    if row is None:
        raise NotFound("hole", hole_id)
    return _hole(row)


def add(database: Database, hole: Hole, demo_key: str | None = None) -> Hole:
    """Keep a new hole (its id is given here) and return it. A demo_key that is there already changes nothing."""
    hole.scene()  # nothing is written that could not be run
    with database.transaction() as connection:
        row = connection.execute(
            """
            INSERT INTO hole (name, water, note, bottom_depth_m, bottom_kind, ice_thickness_m, face_depth_m,
                              hole_diameter_m, temperature_c, clarity, demo_key)
            VALUES (:name, :water, :note, :bottom_depth_m, :bottom_kind, :ice_thickness_m, :face_depth_m,
                    :hole_diameter_m, :temperature_c, :clarity, :demo_key)
            ON CONFLICT (demo_key) DO UPDATE SET demo_key = excluded.demo_key
            RETURNING id
            """,
            {**asdict(hole), "demo_key": demo_key},
        ).fetchone()
    return get(database, row["id"])


def change(database: Database, hole: Hole) -> Hole:
    """Write the hole's new values over its row, or NotFound."""
    hole.scene()
    with database.transaction() as connection:
        done = connection.execute(
            """
            UPDATE hole SET name = :name, water = :water, note = :note, bottom_depth_m = :bottom_depth_m,
                   bottom_kind = :bottom_kind, ice_thickness_m = :ice_thickness_m, face_depth_m = :face_depth_m,
                   hole_diameter_m = :hole_diameter_m, temperature_c = :temperature_c, clarity = :clarity
            WHERE id = :id
            """,
            asdict(hole),
        )
        if done.rowcount == 0:
            raise NotFound("hole", hole.id)
    return get(database, hole.id)


def remove(database: Database, hole_id: int) -> None:
    """Forget a hole. NotFound if it is not there; InUse if strikes are logged at it, which would be lost."""
    remove_unused(database, "hole", hole_id)
