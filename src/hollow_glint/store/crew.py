"""The crew in the store: members by the digest of what they carry, invitations for one each, and what was said."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass
from typing import Any, Literal

from ..core.checks import InputError
from ..core.crew.call import CrewHole
from ..core.crew.invitation import Invitation
from .database import Database, NotFound

Role = Literal["member", "second host"]
EventKind = Literal["call", "note", "come in", "all well", "joined", "moved", "gone", "works"]
MOST_MEMBERS = 20
MOST_OPEN = 20  # invitations that nobody has come by yet
MOST_EVENTS = 2000  # that are kept; the oldest go


@dataclass(frozen=True)
class Member:
    """Someone in the crew; `ended_at` None while they are."""

    id: int
    name: str
    role: Role
    hole: CrewHole | None
    joined_at: str
    seen_at: str
    ended_at: str | None = None


@dataclass(frozen=True)
class Event:
    """Something that was said: counted up, when (UTC), by whom, and what."""

    id: int
    at: str
    who: str
    kind: EventKind
    body: dict[str, Any]


@dataclass(frozen=True)
class State:
    """What stands for all of the crew: its lake, since when all are called in (None while they are not), what works,
    and a line of the shelter's plan for each."""

    lake_id: int | None
    come_in: str | None
    works: dict[str, Any]
    lines: list[str]


def _member(row: sqlite3.Row) -> Member:
    hole = None if row["hole"] is None else CrewHole(**json.loads(row["hole"]))
    return Member(row["id"], row["name"], row["role"], hole, row["joined_at"], row["seen_at"], row["ended_at"])


def state(database: Database) -> State:
    """What stands for all."""
    row = database.connection().execute("SELECT * FROM crew").fetchone()
    return State(row["lake_id"], row["come_in"], json.loads(row["works"]), json.loads(row["lines"]))


def change_state(database: Database, **columns: Any) -> None:
    """Put some of it anew: columns of `crew`, lists and objects as they are."""
    told = {name: json.dumps(value) if isinstance(value, (dict, list)) else value for name, value in columns.items()}
    with database.transaction() as connection:
        connection.execute(f"UPDATE crew SET {', '.join(f'{name} = :{name}' for name in told)}", told)


def members(database: Database) -> list[Member]:
    """Who is in the crew, in the order in which they came."""
    rows = database.connection().execute("SELECT * FROM crew_member WHERE ended_at IS NULL ORDER BY id")
    return [_member(row) for row in rows]


def by_token(database: Database, token: str) -> Member | None:
    """The member who carries what has this digest; None for nobody, or for one who is no longer in the crew."""
    row = (
        database.connection()
        .execute("SELECT * FROM crew_member WHERE token = ? AND ended_at IS NULL", (token,))
        .fetchone()
    )
    return None if row is None else _member(row)


def get(database: Database, member_id: int) -> Member:
    """A member. Raises NotFound for one who is not, or no longer, in the crew."""
    row = (
        database.connection()
        .execute("SELECT * FROM crew_member WHERE id = ? AND ended_at IS NULL", (member_id,))
        .fetchone()
    )
    if row is None:
        raise NotFound("member of the crew", member_id)
    return _member(row)


def change(database: Database, member_id: int, now: str, **columns: Any) -> Member:
    """Change a member: columns of `crew_member`. Raises as `get`."""
    get(database, member_id)
    told = {**columns, "seen_at": now}
    if isinstance(told.get("hole"), CrewHole):
        told["hole"] = json.dumps(asdict(told["hole"]))
    with database.transaction() as connection:
        connection.execute(
            f"UPDATE crew_member SET {', '.join(f'{name} = :{name}' for name in told)} WHERE id = :its_id",
            {**told, "its_id": member_id},
        )
    row = database.connection().execute("SELECT * FROM crew_member WHERE id = ?", (member_id,)).fetchone()
    return _member(row)


def end(database: Database, member_id: int, now: str) -> None:
    """A membership ends: what its phone carries opens nothing any more. Raises as `get`."""
    change(database, member_id, now, ended_at=now)


def invite(database: Database, made: Invitation, now_s: float) -> int:
    """Keep an invitation. Raises ValueError where very many are open already."""
    with database.transaction() as connection:
        connection.execute("DELETE FROM crew_invitation WHERE used = 1 OR until_s <= ?", (now_s,))
        open_now = connection.execute("SELECT count(*) FROM crew_invitation").fetchone()[0]
        if open_now >= MOST_OPEN:
            raise InputError(
                f"invitations are open for {open_now}: accepted are {MOST_OPEN} at once; they end by themselves"
            )
        row = connection.execute(
            "INSERT INTO crew_invitation (code, words, until_s) VALUES (?, ?, ?) RETURNING id",
            (made.code, made.words, made.until_s),
        ).fetchone()
    return int(row["id"])


def close_invitations(database: Database) -> None:
    """None holds any more."""
    with database.transaction() as connection:
        connection.execute("DELETE FROM crew_invitation")


def come_by(database: Database, given: str, name: str, token: str, now: str, now_s: float) -> Member | None:
    """Somebody comes with what an invitation says: a member now, and it is spent; None where none is opened by it.

    Raises ValueError where the crew is full.
    """
    with database.transaction() as connection:
        rows = connection.execute("SELECT * FROM crew_invitation WHERE used = 0").fetchall()
        # All of them are looked at, so that the time tells nothing of which it was.
        fits = [
            row["id"] for row in rows if Invitation(row["code"], row["words"], row["until_s"]).opened_by(given, now_s)
        ]
        if not fits:
            return None
        count = connection.execute("SELECT count(*) FROM crew_member WHERE ended_at IS NULL").fetchone()[0]
        if count >= MOST_MEMBERS:
            raise InputError(f"the crew has {count} members: accepted are {MOST_MEMBERS}")
        connection.execute("UPDATE crew_invitation SET used = 1 WHERE id = ?", (fits[0],))
        row = connection.execute(
            """
            INSERT INTO crew_member (name, token, role, joined_at, seen_at) VALUES (?1, ?2, 'member', ?3, ?3)
            RETURNING *
            """,
            (name, token, now),
        ).fetchone()
    return _member(row)


def say(database: Database, at: str, who: str, kind: EventKind, body: Mapping[str, Any]) -> int:
    """Keep something that was said: its number."""
    with database.transaction() as connection:
        row = connection.execute(
            "INSERT INTO crew_event (at, who, kind, body) VALUES (?, ?, ?, ?) RETURNING id",
            (at, who, kind, json.dumps(body)),
        ).fetchone()
        connection.execute("DELETE FROM crew_event WHERE id <= ?", (row["id"] - MOST_EVENTS,))
    return int(row["id"])


def last(database: Database) -> int:
    """The number of what was said last; 0 for nothing."""
    row = database.connection().execute("SELECT coalesce(max(id), 0) AS last FROM crew_event").fetchone()
    return int(row["last"])


def said_after(database: Database, number: int, kinds: Sequence[EventKind] = (), most: int = 100) -> list[Event]:
    """What was said after a number, oldest first; the newest `most` of it, of some kinds or of all."""
    where = f" AND kind IN ({', '.join('?' * len(kinds))})" if kinds else ""
    rows = database.connection().execute(
        f"SELECT * FROM crew_event WHERE id > ?{where} ORDER BY id DESC LIMIT ?", (number, *kinds, most)
    )
    return [Event(row["id"], row["at"], row["who"], row["kind"], json.loads(row["body"])) for row in rows][::-1]
