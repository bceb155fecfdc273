"""The season in the store: all outings at once, and where what is noted at a hole belongs.

A touch on the strike sheet names a hole and a time and nothing else. It belongs to the stay that goes on there; where
none does, one is begun, on the outing that goes on at that water, or on a new one.
"""

from __future__ import annotations

import json
import sqlite3
from collections import defaultdict
from collections.abc import Callable, Hashable, Iterable, Sequence
from dataclasses import dataclass
from datetime import timedelta
from typing import TypeVar

from ..core.log.outing import LONGEST_H, Happening, Outing, Stay, moment
from ..core.log.season import STILL_H, Piece, StayTold, Went, pieces_of
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

Made = TypeVar("Made")
TODAY_H = 16.0  # what is further apart is another day's outing
RESTS_H = 2.0  # after which a hole that nothing was noted at was left


@dataclass(frozen=True)
class KeptTold:
    """A stay as the season tells it, with the numbers of its rows."""

    outing: KeptOuting
    stay: KeptStay
    told: StayTold


def told(
    database: Database, outing_ids: Iterable[int] | None = None, kinds: Sequence[str] | None = None
) -> list[KeptTold]:
    """All stays, or those of some outings, oldest first, each with its outing and all that happened, or what of some
    kinds did."""
    connection = database.connection()
    if outing_ids is None:
        stays = connection.execute("SELECT * FROM stay ORDER BY began_at, id").fetchall()
    else:
        stays = [
            row
            for one in sorted(set(outing_ids))
            for row in connection.execute("SELECT * FROM stay WHERE outing_id = ? ORDER BY began_at, id", (one,))
        ]
    return _told(connection, stays, outing_ids is None, kinds)


def _told(
    connection: sqlite3.Connection, stays: Sequence[sqlite3.Row], are_all: bool, kinds: Sequence[str] | None = None
) -> list[KeptTold]:
    happened: dict[int, list[Happening]] = defaultdict(list)
    of_kind = "" if kinds is None else f"AND kind IN ({', '.join('?' * len(kinds))})"
    if are_all:
        found = connection.execute(f"SELECT * FROM happening WHERE 1 {of_kind} ORDER BY at, id", tuple(kinds or ()))
        for row in found:
            happened[row["stay_id"]].append(happening_of(row).happening)
    else:
        for stay in stays:
            found = connection.execute("SELECT * FROM happening WHERE stay_id = ? ORDER BY at, id", (stay["id"],))
            happened[stay["id"]] = [happening_of(row).happening for row in found]
    of = {row["id"]: outing_of(row) for row in connection.execute("SELECT * FROM outing")}
    out = []
    for row in stays:
        outing, stay_kept = of[row["outing_id"]], stay_of(row)
        hole = _hole_of(stay_kept.at.hole_id, outing.outing.water, stay_kept.stay.hole)
        whole = StayTold(outing.outing, f"{outing.id}", stay_kept.stay, hole, tuple(happened[stay_kept.id]), outing.sun)
        out.append(KeptTold(outing, stay_kept, whole))
    return out


def _hole_of(hole_id: int | None, water: str, name: str) -> str:
    """A name of its own for each hole: its number here, or what the log calls it."""
    return f"{water} {name}" if hole_id is None else f"{hole_id}"


@dataclass(frozen=True)
class Gaps:
    """Of an outing: how many stays it has, and of how many stays or fish something is not noted."""

    stays: int = 0
    not_ended: int = 0
    no_lure: int = 0
    no_unit: int = 0
    no_length: int = 0
    no_kept: int = 0


def gaps(database: Database) -> dict[int, Gaps]:
    """What is not noted yet, by outing."""
    found: dict[int, dict[str, int]] = defaultdict(dict)
    connection = database.connection()
    rows = connection.execute(
        """
        SELECT outing_id, count(*) AS stays, sum(ended_at IS NULL) AS not_ended, sum(lure_form = '') AS no_lure,
               sum(unit = '') AS no_unit
        FROM stay GROUP BY outing_id
        """
    )
    for row in rows:
        found[row["outing_id"]] = {name: row[name] for name in ("stays", "not_ended", "no_lure", "no_unit")}
    rows = connection.execute(
        """
        SELECT outing_id, sum(length_m IS NULL) AS no_length, sum(kept IS NULL) AS no_kept
        FROM happening JOIN stay ON stay.id = stay_id WHERE kind = 'fish' GROUP BY outing_id
        """
    )
    for row in rows:
        found[row["outing_id"]] |= {"no_length": row["no_length"], "no_kept": row["no_kept"]}
    return defaultdict(Gaps, {outing_id: Gaps(**told) for outing_id, told in found.items()})


PIECES_VERSION = 2  # counts up when the classes of `core.log.season` change: what was cut by others is cut anew
AT_ONCE = 400  # stays that are cut in one transaction: nobody waits long for it


def stamp(database: Database) -> bytes:
    """Which log this is: another one after every write to it."""
    found = database.connection().execute("SELECT stamp FROM log_stamp").fetchone()
    return bytes(found["stamp"])


def kept(database: Database, key: Hashable, make: Callable[[], Made]) -> Made:
    """What `make` works out from the log, kept until the log is written to."""
    return database.memory.get(stamp(database), key, make)


def pieces(database: Database) -> list[Piece]:
    """All stays cut into pieces, oldest first. Each is cut once, and again when anything of it was written."""
    return kept(database, "pieces", lambda: _pieces(database))


def _pieces(database: Database) -> list[Piece]:
    for _ in range(2 + _missing(database) // AT_ONCE):
        if not _cut_some(database):
            break
    rows = database.connection().execute(
        """
        SELECT stay.id, hole_id, hole, stay.began_at, outing_id, water, document
        FROM stay JOIN outing ON outing.id = outing_id JOIN stay_pieces ON stay_pieces.id = stay.id
        ORDER BY stay.began_at, stay.id
        """
    )
    # Of one note in a long log nothing but its own stay is read anew.
    before = database.memory.lasting
    now: dict[Hashable, list[Piece]] = {}
    for row in rows:
        key = tuple(row)
        now[key] = before.get(key) or _read_pieces(row)
    database.memory.lasting = now
    return [piece for mine in now.values() for piece in mine]


def _read_pieces(row: sqlite3.Row) -> list[Piece]:
    hole = _hole_of(row["hole_id"], row["water"], row["hole"])
    day, water = f"{row['outing_id']}", row["water"].strip().lower()
    return [
        Piece(hole, day, water, row["began_at"], hours, factors, tuple(Went(*one) for one in went), row["id"])
        for hours, factors, went in json.loads(row["document"])
    ]


_NOT_CUT = "FROM stay LEFT JOIN stay_pieces AS cut ON cut.id = stay.id AND made_by = ? WHERE cut.id IS NULL"


def _missing(database: Database) -> int:
    found = database.connection().execute(f"SELECT count(*) {_NOT_CUT}", (PIECES_VERSION,)).fetchone()
    return int(found[0])


def _cut_some(database: Database) -> bool:
    """Cut some stays that are not yet: whether there were any. Read and written in one: nothing comes between."""
    if not _missing(database):
        return False
    with database.transaction() as connection:
        stays = connection.execute(f"SELECT stay.* {_NOT_CUT} LIMIT ?", (PIECES_VERSION, AT_ONCE)).fetchall()
        for one in _told(connection, stays, False):
            cut = [(piece.rod_hours, piece.factors, piece.went) for piece in pieces_of(one.told)]
            connection.execute(
                "INSERT OR REPLACE INTO stay_pieces (id, made_by, document) VALUES (?, ?, ?)",
                (one.stay.id, PIECES_VERSION, json.dumps(cut, separators=(",", ":"))),
            )
    return True


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
        SELECT * FROM outing WHERE water = ?1 AND coalesce(ended_at, began_at) >= ?2 AND began_at BETWEEN ?3 AND ?4
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
