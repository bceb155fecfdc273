"""Outings, stays and what happened: each row read, added, changed if it is still as it was read, removed to come back.

The columns are the fields of `core.log.outing`; beside them which lake, hole, unit and lure it was, while those last.
"""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Mapping
from dataclasses import asdict, dataclass, fields
from typing import Any

from ..core.fields import as_kept
from ..core.gear.settings import Settings
from ..core.log.outing import Happening, Outing, Stay, moment
from ..core.trip.sun import SunTimes
from .database import Database, NotFound
from .rows import delete, insert, one, update

OUTING = tuple(field.name for field in fields(Outing))
STAY = tuple(field.name for field in fields(Stay))
HAPPENING = tuple(field.name for field in fields(Happening))


@dataclass(frozen=True)
class KeptOuting:
    """A stored outing; `version` counts up with each change. `sun` is of its day there, None where nobody knows."""

    id: int
    version: int
    lake_id: int | None
    sun: SunTimes | None
    outing: Outing


@dataclass(frozen=True)
class StayAt:
    """Which hole, unit and lure a stay was with, None for one that is gone or was never here; and its place on the
    outing's lake [m]."""

    hole_id: int | None = None
    unit_id: int | None = None
    lure_id: int | None = None
    east_m: float | None = None
    north_m: float | None = None


@dataclass(frozen=True)
class KeptStay:
    """A stored stay; `version` counts up with each change."""

    id: int
    version: int
    outing_id: int
    at: StayAt
    stay: Stay


@dataclass(frozen=True)
class KeptHappening:
    """Something stored that happened during a stay."""

    id: int
    stay_id: int
    happening: Happening


def outing_of(row: sqlite3.Row) -> KeptOuting:
    """A row of `outing`."""
    sun = None if row["sun"] is None else SunTimes(**json.loads(row["sun"]))
    outing = as_kept(Outing, {name: row[name] for name in OUTING})
    return KeptOuting(row["id"], row["version"], row["lake_id"], sun, outing)


def stay_of(row: sqlite3.Row) -> KeptStay:
    """A row of `stay`."""
    told = {name: row[name] for name in STAY}
    told["settings"] = None if told["settings"] is None else Settings(**json.loads(told["settings"]))
    at = StayAt(row["hole_id"], row["unit_id"], row["lure_id"], row["east_m"], row["north_m"])
    return KeptStay(row["id"], row["version"], row["outing_id"], at, as_kept(Stay, told))


def happening_of(row: sqlite3.Row) -> KeptHappening:
    """A row of `happening`."""
    told = {name: row[name] for name in HAPPENING}
    told["kept"] = None if told["kept"] is None else bool(told["kept"])
    return KeptHappening(row["id"], row["stay_id"], as_kept(Happening, told))


def outing_columns(outing: Outing, lake_id: int | None, sun: SunTimes | None) -> dict[str, object]:
    """An outing's columns."""
    told = None if sun is None else json.dumps(asdict(sun))
    return {**asdict(outing), **_times(outing), "lake_id": lake_id, "sun": told}


def stay_columns(stay: Stay, at: StayAt) -> dict[str, object]:
    """A stay's columns but for its outing."""
    settings = None if stay.settings is None else json.dumps(asdict(stay.settings))
    return {**{name: getattr(stay, name) for name in STAY}, **_times(stay), **asdict(at), "settings": settings}


def happening_columns(happening: Happening) -> dict[str, object]:
    """The columns of what happened but for its stay."""
    kept = None if happening.kept is None else int(happening.kept)
    return {**asdict(happening), "at": in_utc(happening.at), "kept": kept}


def _times(one: Outing | Stay) -> dict[str, str | None]:
    return {"began_at": in_utc(one.began_at), "ended_at": None if one.ended_at is None else in_utc(one.ended_at)}


def in_utc(text: str) -> str:
    """A time as the store has all of them, so that they sort as text."""
    return moment("at", text).strftime("%Y-%m-%dT%H:%M:%SZ")


def every(database: Database) -> list[KeptOuting]:
    """All outings, newest first."""
    rows = database.connection().execute("SELECT * FROM outing ORDER BY began_at DESC, id DESC")
    return [outing_of(row) for row in rows]


def get(database: Database, outing_id: int) -> KeptOuting:
    """The outing with this id, or NotFound."""
    return outing_of(one(database, "outing", outing_id))


def stays(database: Database, outing_id: int) -> list[KeptStay]:
    """An outing's stays in the order in which they began."""
    rows = database.connection().execute("SELECT * FROM stay WHERE outing_id = ? ORDER BY began_at, id", (outing_id,))
    return [stay_of(row) for row in rows]


def get_stay(database: Database, stay_id: int) -> KeptStay:
    """The stay with this id, or NotFound."""
    return stay_of(one(database, "stay", stay_id))


def happenings(database: Database, outing_id: int) -> list[KeptHappening]:
    """What happened on an outing, in order."""
    rows = database.connection().execute(
        """
        SELECT happening.* FROM happening JOIN stay ON stay.id = stay_id WHERE outing_id = ?
        ORDER BY happening.at, happening.id
        """,
        (outing_id,),
    )
    return [happening_of(row) for row in rows]


def at_hole(database: Database, hole_id: int) -> list[tuple[int, KeptHappening]]:
    """What happened at a hole on any outing, newest first, each with the number of its outing. NotFound."""
    one(database, "hole", hole_id, "id")
    rows = database.connection().execute(
        """
        SELECT happening.*, outing_id FROM happening JOIN stay ON stay.id = stay_id WHERE hole_id = ?
        ORDER BY happening.at DESC, happening.id DESC
        """,
        (hole_id,),
    )
    return [(row["outing_id"], happening_of(row)) for row in rows]


def get_happening(database: Database, happening_id: int) -> KeptHappening:
    """What happened under this id, or NotFound."""
    return happening_of(one(database, "happening", happening_id, called="note"))


def add(
    database: Database, outing: Outing, lake_id: int | None, sun: SunTimes | None, demo_key: str | None = None
) -> KeptOuting:
    """Keep a new outing and return it."""
    _there(database, {"lake": lake_id})
    return get(database, insert(database, "outing", outing_columns(outing, lake_id, sun), demo_key))


def change(database: Database, changed: KeptOuting) -> KeptOuting:
    """Write an outing's new values over its row, if it is still at the version that was changed. NotFound, or Stale."""
    _there(database, {"lake": changed.lake_id})
    values = outing_columns(changed.outing, changed.lake_id, changed.sun)
    update(database, "outing", changed.id, changed.version, values, get)
    return get(database, changed.id)


def remove(database: Database, outing_id: int) -> int:
    """Forget an outing with all that happened on it; it can be brought back. Raises NotFound."""
    return delete(database, "outing", outing_id)


def add_stay(
    database: Database, outing_id: int, stay: Stay, at: StayAt | None = None, demo_key: str | None = None
) -> KeptStay:
    """Keep a new stay and return it. Raises NotFound for an outing, hole, unit or lure that is not there."""
    at = at or StayAt()
    one(database, "outing", outing_id, "id")
    _there(database, {"hole": at.hole_id, "unit": at.unit_id, "lure": at.lure_id})
    values = {**stay_columns(stay, at), "outing_id": outing_id}
    return get_stay(database, insert(database, "stay", values, demo_key))


def change_stay(database: Database, changed: KeptStay) -> KeptStay:
    """Write a stay's new values over its row, if it is still at the version that was changed. NotFound, or Stale."""
    _there(database, {"hole": changed.at.hole_id, "unit": changed.at.unit_id, "lure": changed.at.lure_id})
    update(database, "stay", changed.id, changed.version, stay_columns(changed.stay, changed.at), get_stay)
    return get_stay(database, changed.id)


def remove_stay(database: Database, stay_id: int) -> int:
    """Forget a stay with what happened during it; it can be brought back. Raises NotFound."""
    return delete(database, "stay", stay_id)


def add_happening(database: Database, stay_id: int, happening: Happening, demo_key: str | None = None) -> KeptHappening:
    """Keep what happened and return it. Raises NotFound for a stay that is not there."""
    one(database, "stay", stay_id, "id")
    values = {**happening_columns(happening), "stay_id": stay_id}
    return get_happening(database, insert(database, "happening", values, demo_key))


def change_happening(database: Database, happening_id: int, happening: Happening) -> KeptHappening:
    """Write what happened anew. Raises NotFound."""
    values = happening_columns(happening)
    with database.transaction() as connection:
        done = connection.execute(
            f"UPDATE happening SET {', '.join(f'{name} = :{name}' for name in values)} WHERE id = :id",
            {**values, "id": happening_id},
        )
        if not done.rowcount:
            raise NotFound("note", happening_id)
    return get_happening(database, happening_id)


def remove_happening(database: Database, happening_id: int) -> int:
    """Forget what happened; it can be brought back. Raises NotFound."""
    return delete(database, "happening", happening_id, "note")


def _there(database: Database, wanted: Mapping[str, Any]) -> None:
    """NotFound for what is named and is not there."""
    for kind, row_id in wanted.items():
        if row_id is not None:
            one(database, kind, row_id, "id")
