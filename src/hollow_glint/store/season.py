"""The season in the store: all outings at once, and where what is noted at a hole belongs.

A touch on the strike sheet names a hole and a time and nothing else. It belongs to the stay that goes on there; where
none does, one is begun, on the outing that goes on at that water, or on a new one.
"""

from __future__ import annotations

import sqlite3
from collections import defaultdict
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import timedelta

from ..core.log.outing import LONGEST_H, Happening, Outing, Stay, moment
from ..core.log.season import STILL_H, StayTold
from ..core.trip.sun import SunTimes
from . import outings
from .database import Database
from .outings import (
    KeptOuting,
    KeptStay,
    StayAt,
    happening_columns,
    happening_of,
    outing_columns,
    outing_of,
    stay_columns,
    stay_of,
)
from .rows import insert_in, one

TODAY_H = 16.0  # what is further apart is another day's outing
RESTS_H = 2.0  # after which a hole that nothing was noted at was left


@dataclass(frozen=True)
class KeptTold:
    """A stay as the season tells it, with the numbers of its rows."""

    outing: KeptOuting
    stay: KeptStay
    told: StayTold


def told(database: Database, outing_ids: Iterable[int] | None = None) -> list[KeptTold]:
    """All stays, or those of some outings, oldest first, each with its outing and all that happened."""
    connection = database.connection()
    wanted = None if outing_ids is None else set(outing_ids)
    kept = {row["id"]: outing_of(row) for row in connection.execute("SELECT * FROM outing")}
    happened: dict[int, list[Happening]] = defaultdict(list)
    for row in connection.execute("SELECT * FROM happening ORDER BY at, id"):
        happened[row["stay_id"]].append(happening_of(row).happening)
    found = []
    for row in connection.execute("SELECT * FROM stay ORDER BY began_at, id"):
        if wanted is not None and row["outing_id"] not in wanted:
            continue
        outing, stay = kept[row["outing_id"]], stay_of(row)
        hole = f"{stay.at.hole_id}" if stay.at.hole_id is not None else f"{outing.outing.water} {stay.stay.hole}"
        day = f"{outing.id}"
        one_told = StayTold(outing.outing, day, stay.stay, hole, tuple(happened[stay.id]), outing.sun)
        found.append(KeptTold(outing, stay, one_told))
    return found


@dataclass(frozen=True)
class Arrival:
    """What is known when somebody comes to a hole: the outing as it would be begun, the stay, and what it is with."""

    outing: Outing
    lake_id: int | None
    sun: SunTimes | None
    stay: Stay
    at: StayAt


class NobodyThere(Exception):
    """No stay goes on at the hole, and it was not said how one begins."""


def stay_now(database: Database, hole_id: int, now: str) -> KeptStay | None:
    """The stay that goes on at a hole at a time; None where nobody is there. Raises NotFound for an unknown hole."""
    one(database, "hole", hole_id, "id")
    return _going_on(database.connection(), hole_id, now)


def note(database: Database, hole_id: int, arrival: Arrival | None, happening: Happening) -> tuple[KeptStay, int]:
    """Keep what happened at a hole in the stay that goes on there, or that `arrival` begins: that stay, and the number
    of the note. All of it, or nothing. Raises NotFound for an unknown hole, NobodyThere where neither is."""
    one(database, "hole", hole_id, "id")
    with database.transaction() as connection:
        stay = _going_on(connection, hole_id, happening.at)
        if stay is None:
            if arrival is None:
                raise NobodyThere
            stay = _begun(connection, arrival)
        values = {**happening_columns(happening), "stay_id": stay.id, "demo_key": None}
        number = insert_in(connection, "happening", values)
        _outing_lasts(connection, stay.outing_id, happening.at)
    return outings.get_stay(database, stay.id), number


def arrive(database: Database, hole_id: int, arrival: Arrival) -> KeptStay:
    """Begin a stay at a hole, or give the one that goes on there. Raises NotFound for an unknown hole."""
    one(database, "hole", hole_id, "id")
    with database.transaction() as connection:
        stay = _going_on(connection, hole_id, arrival.stay.began_at) or _begun(connection, arrival)
    return outings.get_stay(database, stay.id)


def leave(database: Database, hole_id: int, now: str) -> KeptStay | None:
    """End the stay that goes on at a hole: it as it is now; None where nobody is there. NotFound for no such hole."""
    one(database, "hole", hole_id, "id")
    with database.transaction() as connection:
        stay = _going_on(connection, hole_id, now)
        if stay is None:
            return None
        connection.execute("UPDATE stay SET ended_at = ?, version = version + 1 WHERE id = ?", (now, stay.id))
        _outing_lasts(connection, stay.outing_id, now)
    return outings.get_stay(database, stay.id)


def _before(at: str, hours: float) -> str:
    return (moment("at", at) - timedelta(hours=hours)).strftime("%Y-%m-%dT%H:%M:%SZ")


def _going_on(connection: sqlite3.Connection, hole_id: int, now: str) -> KeptStay | None:
    """The newest stay at a hole that nobody ended and that was begun, or had something noted, not too long ago."""
    row = connection.execute(
        """
        SELECT stay.*, coalesce((SELECT max(at) FROM happening WHERE stay_id = stay.id), began_at) AS last
        FROM stay WHERE hole_id = ?1 AND ended_at IS NULL AND began_at BETWEEN ?2 AND ?3
        ORDER BY began_at DESC, id DESC LIMIT 1
        """,
        (hole_id, _before(now, LONGEST_H), now),
    ).fetchone()
    if row is None or max(row["last"], row["began_at"]) < _before(now, RESTS_H):
        return None
    return stay_of(row)


def _begun(connection: sqlite3.Connection, arrival: Arrival) -> KeptStay:
    now = arrival.stay.began_at
    row = connection.execute(
        """
        SELECT * FROM outing WHERE water = ?1 AND coalesce(ended_at, began_at) BETWEEN ?2 AND ?4
            AND began_at >= ?3 AND began_at <= ?4
        ORDER BY began_at DESC, id DESC LIMIT 1
        """,
        (arrival.outing.water, _before(now, TODAY_H), _before(now, LONGEST_H / 2.0), now),
    ).fetchone()
    if row is None:
        columns = outing_columns(arrival.outing, arrival.lake_id, arrival.sun)
        outing_id = insert_in(connection, "outing", {**columns, "demo_key": None})
    else:
        outing_id = row["id"]
        # Who has one line and comes to a hole has left the last one.
        _left_others(connection, outing_id, now)
    values = {**stay_columns(arrival.stay, arrival.at), "outing_id": outing_id, "demo_key": None}
    stay_id = insert_in(connection, "stay", values)
    return stay_of(connection.execute("SELECT * FROM stay WHERE id = ?", (stay_id,)).fetchone())


def _left_others(connection: sqlite3.Connection, outing_id: int, now: str) -> None:
    rows = connection.execute(
        """
        SELECT id, began_at, (SELECT max(at) FROM happening WHERE stay_id = stay.id) AS last FROM stay
        WHERE outing_id = ? AND ended_at IS NULL AND lines = 1
        """,
        (outing_id,),
    ).fetchall()
    for row in rows:
        last = row["last"] or row["began_at"]
        ended = max(min(now, _before(last, -STILL_H * 4.0)), last)
        connection.execute("UPDATE stay SET ended_at = ?, version = version + 1 WHERE id = ?", (ended, row["id"]))


def _outing_lasts(connection: sqlite3.Connection, outing_id: int, until: str) -> None:
    connection.execute(
        "UPDATE outing SET ended_at = ?1 WHERE id = ?2 AND (ended_at IS NULL OR ended_at < ?1)", (until, outing_id)
    )
