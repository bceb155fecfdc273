"""Notes from phones into the log and onto the lake's map: each once, however often its file comes, all or none."""

from __future__ import annotations

import sqlite3
from collections.abc import Callable, Sequence
from dataclasses import asdict, dataclass
from datetime import timedelta

from ..core.ground.soundings import Sounding
from ..core.log.outing import Outing, Stay
from ..core.pocket.notes import PhoneNotes, PocketNote, Spot, Visit, visits
from ..core.trip.ice import IceReading
from ..core.trip.sun import SunTimes
from . import removals
from .database import Database
from .outings import StayAt, happening_columns, in_utc, outing_columns, stay_columns
from .rows import insert_in

# Columns of `pocket_note` that name what a note became, and in which table that is.
BECAME = {"happening_id": "happening", "sounding_id": "sounding", "ice_id": "ice_reading"}
SunOf = Callable[[int | None, Outing], SunTimes | None]


@dataclass(frozen=True)
class NotesTaken:
    """What a file brought: outings and stays that are new, notes of fish, soundings and ice; what was here already,
    what was taken back on the phone before it came, and after; soundings and ice with no place on a lake here."""

    outings: int
    stays: int
    happenings: int
    soundings: int
    ice: int
    known: int
    taken_back: int
    taken_back_late: int
    without_place: int


def take_in(database: Database, given: PhoneNotes, clock: Callable[[int | None], float], sun_of: SunOf,
            taken_at: str, keep: bool = True) -> NotesTaken:  # fmt: skip
    """Keep what is not here yet, all of it or nothing; without `keep` it is only looked at.

    `clock` says how far the clock of a lake is ahead of UTC [min], `sun_of` gives the sun of an outing at a lake.
    """
    try:
        with database.transaction() as connection:
            taken = _Taking(connection, given, clock, sun_of, taken_at).take()
            if not keep:
                raise _OnlyLooked
    except _OnlyLooked:
        pass
    return taken


def known(database: Database, notes: Sequence[str]) -> set[str]:
    """Which of these notes were taken in already."""
    rows = database.connection().execute("SELECT note FROM pocket_note")
    return {row["note"] for row in rows} & set(notes)


def hole_of(database: Database, spot: Spot) -> int | None:
    """The hole here that a spot is, where its number still has its name."""
    if spot.hole_id is None:
        return None
    row = database.connection().execute("SELECT name FROM hole WHERE id = ?", (spot.hole_id,)).fetchone()
    return spot.hole_id if row is not None and row["name"] == spot.name else None


class _OnlyLooked(Exception):
    """Nothing is to be kept."""


class _Taking:
    """A phone's notes on their way into the store, within one transaction."""

    def __init__(self, connection: sqlite3.Connection, given: PhoneNotes, clock: Callable[[int | None], float],
                 sun_of: SunOf, taken_at: str) -> None:  # fmt: skip
        self._connection, self._given, self._clock, self._sun_of = connection, given, clock, sun_of
        self._taken_at = taken_at
        self._counts = dict.fromkeys(("outings", "stays", "happenings", "soundings", "ice"), 0)
        rows = connection.execute("SELECT note, stay_id FROM pocket_note").fetchall()
        self._known: dict[str, int | None] = {row["note"]: row["stay_id"] for row in rows}
        self._lakes = {row["id"]: row["name"] for row in connection.execute("SELECT id, name FROM lake")}
        self._holes = {row["id"]: row["name"] for row in connection.execute("SELECT id, name FROM hole")}

    def take(self) -> NotesTaken:
        notes = self._given.notes
        known = sum(one.id in self._known and not one.back for one in notes)
        before = sum(one.back and one.id not in self._known for one in notes)
        late = sum(self._take_back(one) for one in notes if one.back and one.id in self._known)
        for visit in visits(notes):
            self._visit(visit)
        without = self._on_the_map([one for one in notes if not one.back and one.id not in self._known])
        return NotesTaken(**self._counts, known=known, taken_back=before, taken_back_late=late, without_place=without)

    def _keep(self, note: PocketNote, **became: int | None) -> None:
        """This note was taken in; `became` is which rows it is in now, by the columns of `pocket_note`."""
        columns = {"note": note.id, "phone": self._given.phone, "taken_at": self._taken_at, **became}
        names = ", ".join(columns)
        self._connection.execute(
            f"INSERT INTO pocket_note ({names}) VALUES ({', '.join(f':{name}' for name in columns)})", columns
        )
        self._known[note.id] = became.get("stay_id")

    def _take_back(self, note: PocketNote) -> bool:
        """What was taken back on the phone after it came goes here as well, if it is still there; whether it was."""
        row = self._connection.execute("SELECT * FROM pocket_note WHERE note = ?", (note.id,)).fetchone()
        for column, table in BECAME.items():
            if row[column] is not None:
                removals.remove(self._connection, table, row[column])
                return True
        return False

    def _visit(self, visit: Visit) -> None:
        new = [one for one in visit.notes if one.id not in self._known]
        if not new:
            return
        before = [stay for one in visit.notes if (stay := self._known.get(one.id)) is not None]
        stay_id = before[-1] if before else self._new_stay(visit)
        for one in new:
            happening_id = None
            if one.happening is not None:
                columns = {**happening_columns(one.happening), "stay_id": stay_id, "demo_key": None}
                happening_id = insert_in(self._connection, "happening", columns)
                self._counts["happenings"] += 1
            self._keep(one, stay_id=stay_id, happening_id=happening_id)
        ended = None if visit.ended_at is None else in_utc(visit.ended_at)
        self._connection.execute(
            "UPDATE stay SET ended_at = coalesce(max(ended_at, ?1), ended_at, ?1), version = version + 1 WHERE id = ?2",
            (ended, stay_id),
        )
        self._connection.execute(
            """
            UPDATE outing SET ended_at = max(coalesce(ended_at, ?1), ?1), began_at = min(began_at, ?2),
                version = version + 1
            WHERE id = (SELECT outing_id FROM stay WHERE id = ?3)
            """,
            (in_utc(visit.last_at), in_utc(visit.began_at), stay_id),
        )

    def _new_stay(self, visit: Visit) -> int:
        spot, (unit, lure) = visit.spot, visit.gear
        lake_id, hole_id = self._lake(spot), self._hole(spot)
        place = (None, None) if lake_id is None else (spot.east_m, spot.north_m)
        stay = Stay(visit.began_at, visit.ended_at, hole=spot.name, depth_m=spot.depth_m, unit=unit, lure=lure)
        columns = stay_columns(stay, StayAt(hole_id, None, None, *place))
        self._counts["stays"] += 1
        return insert_in(
            self._connection, "stay", {**columns, "outing_id": self._outing(visit, lake_id), "demo_key": None}
        )

    def _outing(self, visit: Visit, lake_id: int | None) -> int:
        """The outing on that water on that day by the clock there; a new one where there is none."""
        water = visit.spot.water or ("" if lake_id is None else self._lakes[lake_id])
        clock = self._clock(lake_id)
        row = self._connection.execute(
            """
            SELECT id FROM outing
            WHERE water = ?1 AND date(began_at, ?2) = date(?3, ?2) ORDER BY began_at, id LIMIT 1
            """,
            (water, f"{clock:+g} minutes", in_utc(visit.began_at)),
        ).fetchone()
        if row is not None:
            return int(row["id"])
        outing = Outing(visit.began_at, visit.last_at, water=water, utc_offset_min=clock)
        self._counts["outings"] += 1
        columns = outing_columns(outing, lake_id, self._sun_of(lake_id, outing))
        return insert_in(self._connection, "outing", {**columns, "demo_key": None})

    def _on_the_map(self, new: Sequence[PocketNote]) -> int:
        """Keep soundings and ice; how many have no place on any lake that is here."""
        without = 0
        for one in new:
            if one.kind not in ("sounding", "ice"):
                continue
            lake_id, spot = self._lake(one.spot), one.spot
            if lake_id is None or spot.east_m is None or spot.north_m is None:
                without += 1  # not kept as taken in: it comes when the lake is there
                continue
            thing: Sounding | IceReading
            if one.depth_m is not None:
                thing = Sounding(spot.east_m, spot.north_m, one.depth_m, "typed in", in_utc(one.at))
                column = "sounding_id"
            else:
                assert one.ice is not None
                day = (one.when + timedelta(minutes=self._clock(lake_id))).strftime("%Y-%m-%d")
                thing = IceReading(spot.east_m, spot.north_m, one.ice.thickness_m, one.ice.kind, day)
                column = "ice_id"
            values = {**asdict(thing), "lake_id": lake_id, "demo_key": None}
            self._keep(one, **{column: insert_in(self._connection, BECAME[column], values)})
            self._counts["soundings" if column == "sounding_id" else "ice"] += 1
        return without

    def _lake(self, spot: Spot) -> int | None:
        """The lake here that a spot lies on: of its number where that has its name too, else of its name."""
        if spot.lake_id in self._lakes and self._lakes[spot.lake_id] == spot.water:
            return spot.lake_id
        same = [lake_id for lake_id, name in self._lakes.items() if name == spot.water]
        return same[0] if len(same) == 1 else None

    def _hole(self, spot: Spot) -> int | None:
        """The hole here, where its number still has its name."""
        return spot.hole_id if spot.hole_id is not None and self._holes.get(spot.hole_id) == spot.name else None
