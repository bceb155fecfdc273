"""What was removed comes back whole: the row, what went with it, what only let go of it."""

from __future__ import annotations

from pathlib import Path

import pytest

from hollow_glint.core.gear.profiles import TRAIL_UNIT
from hollow_glint.core.gear.settings import Settings
from hollow_glint.core.ground.lake import Lake
from hollow_glint.core.ground.soundings import Sounding
from hollow_glint.core.hole.hole import Hole
from hollow_glint.store import hole_cards, holes, ice_days, lake_things, lakes, outings, removals, scenes, units
from hollow_glint.store.database import Database, InUse, NotFound
from hollow_glint.store.removals import MOST_KEPT
from tests.noting import note


@pytest.fixture
def store(tmp_path: Path):
    database = Database(tmp_path / "store.sqlite3")
    yield database
    database.close()


def everything(store: Database) -> dict[str, list[tuple]]:
    """All rows of all tables but the removals and the log's stamp, which is another after every write."""
    connection = store.connection()
    tables = connection.execute("SELECT name FROM sqlite_schema WHERE type = 'table'").fetchall()
    return {
        name: sorted(tuple(row) for row in connection.execute(f"SELECT * FROM {name}"))
        for (name,) in tables
        if name not in ("removal", "sqlite_sequence", "log_stamp")
    }


def a_hole(store: Database, name: str = "Reed gap") -> int:
    hole = holes.add(store, Hole(name, 6.0, "mud", 0.3, 0.4))
    note(store, hole.id, "2026-01-10T09:00:00Z", "turned")
    note(store, hole.id, "2026-01-10T09:05:00Z", "look")
    hole_cards.tick(store, hole.id, "plumb", True)
    unit = units.add(store, TRAIL_UNIT)
    hole_cards.turn(store, hole.id, hole_cards.Turned(unit.id, None, Settings(25.0, 12.2), "2026-01-02T10:00:00Z"))
    return hole.id


def test_a_hole_comes_back_with_its_notes_and_checks_and_what_let_go_of_it(store: Database) -> None:
    hole_id = a_hole(store)
    with store.transaction() as connection:
        # A recording is no part of the hole: it stays when the hole goes, and is the hole's again afterwards.
        columns = list(connection.execute("PRAGMA table_info(recording)"))
        values = {
            row["name"]: hole_id if row["name"] == "hole_id" else (b"\x00\xff" if row["type"] == "BLOB" else 1)
            for row in columns
            if row["name"] not in ("id", "demo_key")
        }
        names = ", ".join(values)
        connection.execute(
            f"INSERT INTO recording ({names}) VALUES ({', '.join('?' * len(values))})", [*values.values()]
        )
    before = everything(store)
    removal = holes.remove(store, hole_id)
    gone = everything(store)
    assert gone["hole"] == gone["hole_check"] == gone["hole_knobs"] == []
    assert gone["stay"] != before["stay"] and gone["happening"] == before["happening"]
    assert len(gone["recording"]) == 1 and gone["recording"] != before["recording"]
    removals.undo(store, removal)
    assert everything(store) == before
    with pytest.raises(NotFound):
        removals.undo(store, removal)


def test_a_file_of_bytes_comes_back_byte_for_byte(store: Database) -> None:
    with store.transaction() as connection:
        connection.execute("CREATE TABLE thing (id INTEGER PRIMARY KEY, bytes BLOB, number REAL, empty TEXT)")
        connection.execute("INSERT INTO thing VALUES (3, ?, 0.1, NULL)", (bytes(range(256)),))
    before = everything(store)
    with store.transaction() as connection:
        removal = removals.remove(connection, "thing", 3)
        assert removals.remove(connection, "thing", 4) is None
    assert removal is not None
    removals.undo(store, removal)
    assert everything(store) == before


def test_an_id_that_was_given_away_meanwhile_is_not_taken_back(store: Database) -> None:
    first = a_hole(store, "First")
    removal = holes.remove(store, first)
    second = a_hole(store, "Second")  # SQLite gives the freed id again
    removals.undo(store, removal)
    names = {one.hole.name: one.id for one in holes.every(store)}
    assert names.keys() == {"First", "Second"}
    assert names["Second"] == second
    # What belonged to each is still its own.
    for hole_id in names.values():
        assert len(ice_days.touches(store, hole_id, "2026")) == 1


def test_what_belonged_to_something_that_is_gone_stays_gone_and_says_so(store: Database) -> None:
    hole_id = a_hole(store)
    (touch,) = ice_days.touches(store, hole_id, "2026")
    removal = ice_days.remove(store, hole_id, touch.id)
    outings.remove(store, outings.every(store)[0].id)
    before = everything(store)
    with pytest.raises(InUse, match="what it belonged to is gone"):
        removals.undo(store, removal)
    assert everything(store) == before


def test_the_last_dozen_are_kept(store: Database) -> None:
    hole_id = a_hole(store)
    numbers = []
    for i in range(MOST_KEPT + 2):
        numbers.append(ice_days.remove(store, hole_id, note(store, hole_id, f"2026-01-10T10:{i:02}:00Z")))
    for number in numbers[:2]:
        with pytest.raises(NotFound):
            removals.undo(store, number)
    for number in numbers[2:]:
        removals.undo(store, number)
    assert scenes.every(store) == []


@pytest.mark.parametrize("direction", ["away", "back"])
def test_a_survey_of_many_soundings_asks_no_more_of_the_schema_than_one_of_a_few(
    store: Database, direction: str
) -> None:
    lake_id = lakes.add(store, Lake("Testmere", 66.6, 17.0)).id
    asked = []
    for count in (3, 300):
        survey = lake_things.add_survey(
            store, lake_id, "file.csv", "2026-01-01", "all", [Sounding(k * 1.0, 1.0, 3.0) for k in range(count)]
        )
        before = everything(store)
        statements: list[str] = []
        if direction == "away":
            store.connection().set_trace_callback(statements.append)
        removal = lake_things.remove_survey(store, lake_id, survey)
        store.connection().set_trace_callback(statements.append if direction == "back" else None)
        removals.undo(store, removal)
        store.connection().set_trace_callback(None)
        assert everything(store) == before
        asked.append(sum("PRAGMA foreign_key_list" in one for one in statements))
    assert asked[0] == asked[1] > 0
