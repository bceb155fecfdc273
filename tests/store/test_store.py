"""The store: what is written stays, what is wrong is refused whole, strangers' files are left alone."""

from __future__ import annotations

import json
import os
import signal
import sqlite3
import subprocess
import sys
import textwrap
from dataclasses import replace
from pathlib import Path

import pytest

from hollow_glint import demo
from hollow_glint.core.gear.profiles import SHIPPED, TRAIL_UNIT
from hollow_glint.core.gear.settings import Settings
from hollow_glint.core.hole.hole import Hole
from hollow_glint.store import database as databases
from hollow_glint.store import holes, lures, scenes, strikes, units
from hollow_glint.store.database import Database, InUse, NotFound, StoreError

HOLE = Hole("Test hole", 9.0, "mud", 0.3, 0.4, water="Testwater")


@pytest.fixture
def store(tmp_path: Path) -> Database:
    return Database(tmp_path / "store.sqlite3")


@pytest.fixture
def seeded(store: Database) -> Database:
    demo.seed(store)
    return store


def a_strike(seeded: Database, key: str = "test") -> strikes.Strike:
    hole, unit, lure = holes.every(seeded)[0], units.every(seeded)[0], lures.every(seeded)[0]
    settings = Settings(20.0, 12.192)
    return strikes.Strike(0, hole.id, unit.id, lure.id, "2026-11-01T10:00:00Z", 5.0, 0.3, settings, "", key)


def test_holes_come_back_as_they_went_in(store):
    kept = holes.add(store, HOLE)
    assert kept.hole == HOLE and kept.version == 1
    moved = replace(HOLE, bottom_depth_m=7.25, bottom_kind="sand", note="moved")
    changed = holes.change(store, replace(kept, hole=moved))
    assert holes.get(store, kept.id) == changed == replace(kept, hole=moved, version=2)
    holes.remove(store, kept.id)
    with pytest.raises(NotFound, match=f"hole with id {kept.id}"):
        holes.get(store, kept.id)


def test_a_hole_that_cannot_be_is_not_written(store):
    kept = holes.add(store, HOLE)
    with pytest.raises(ValueError, match="ice_thickness_m"):
        replace(HOLE, ice_thickness_m=8.95)
    with pytest.raises(ValueError):
        replace(HOLE, bottom_depth_m=0.1)
    assert holes.every(store) == [kept]


def test_units_and_lures_come_back_whole(seeded):
    assert units.every(seeded)[0].profile == TRAIL_UNIT
    assert [one.profile for one in units.every(seeded)] == [unit for _, unit in demo.UNITS]
    assert {one.lure for one in lures.every(seeded)} == {lure for _, lure in demo.LURES}
    assert [one.saved for one in scenes.every(seeded)] == [saved for _, saved in demo.SCENES]


def test_a_strike_is_kept_once_with_its_settings(seeded):
    first = strikes.add(seeded, a_strike(seeded))
    again = strikes.add(seeded, a_strike(seeded))
    assert first == again
    assert first.settings == Settings(20.0, 12.192)
    assert strikes.every(seeded, first.hole_id)[0] == first


def test_a_strike_at_no_hole_is_refused(seeded):
    before = strikes.every(seeded)
    with pytest.raises(NotFound, match="hole with id 999"):
        strikes.add(seeded, replace(a_strike(seeded), hole_id=999))
    assert strikes.every(seeded) == before


def test_a_hole_with_strikes_is_not_removed(seeded):
    with pytest.raises(InUse, match="3 logged strikes"):
        holes.remove(seeded, holes.every(seeded)[0].id)


def test_seeding_twice_changes_nothing_and_removed_rows_stay_removed(seeded):
    before = (holes.every(seeded), strikes.every(seeded), lures.every(seeded), units.every(seeded))
    demo.seed(seeded)
    assert (holes.every(seeded), strikes.every(seeded), lures.every(seeded), units.every(seeded)) == before
    assert len(before[0]) >= 4
    strikes.remove(seeded, before[1][0].id)
    demo.seed(seeded)
    assert len(strikes.every(seeded)) == len(before[1]) - 1


def test_pragmas_are_what_the_promise_needs(store):
    ask = lambda name: store.connection().execute(f"PRAGMA {name}").fetchone()[0]  # noqa: E731
    assert ask("journal_mode") == "wal"
    assert ask("synchronous") == 2  # FULL
    assert ask("foreign_keys") == 1
    tables = store.connection().execute("PRAGMA table_list").fetchall()
    ours = [row for row in tables if row["schema"] == "main" and not row["name"].startswith("sqlite_")]
    assert len(ours) >= 6 and all(row["strict"] for row in ours)


def test_migrations_are_recorded(store):
    rows = store.connection().execute("SELECT number, name FROM migration ORDER BY number").fetchall()
    assert [(row["number"], row["name"]) for row in rows] == [(n, name) for n, name, _ in databases.migrations()]


def test_a_failing_migration_leaves_nothing(tmp_path, monkeypatch):
    broken = [*databases.migrations(), (99, "broken", "CREATE TABLE half (id INTEGER) STRICT;\nINSERT INTO nowhere;\n")]
    monkeypatch.setattr(databases, "migrations", lambda: broken)
    with pytest.raises(StoreError):
        Database(tmp_path / "x.sqlite3")
    tables = sqlite3.connect(tmp_path / "x.sqlite3").execute("SELECT name FROM sqlite_master").fetchall()
    assert tables == []


def test_a_newer_file_is_refused(tmp_path):
    path = tmp_path / "x.sqlite3"
    Database(path).close()
    with sqlite3.connect(path) as raw:
        raw.execute("PRAGMA user_version = 999")
    with pytest.raises(StoreError, match="newer Hollow Glint"):
        Database(path)


def test_another_programs_database_is_refused_and_untouched(tmp_path):
    path = tmp_path / "x.sqlite3"
    with sqlite3.connect(path) as raw:
        raw.execute("CREATE TABLE theirs (id INTEGER)")
    raw.close()
    with pytest.raises(StoreError, match="not one of Hollow Glint's"):
        Database(path)
    assert sqlite3.connect(path).execute("SELECT name FROM sqlite_master").fetchall() == [("theirs",)]


def test_a_file_that_is_no_database_is_refused_and_untouched(tmp_path):
    path = tmp_path / "x.sqlite3"
    path.write_text("a shopping list, and a rather long one, to be sure\n" * 50)
    before = path.read_bytes()
    with pytest.raises(StoreError, match="is not a Hollow Glint database"):
        Database(path)
    assert path.read_bytes() == before


def test_a_folder_that_cannot_be_made_is_said(tmp_path):
    (tmp_path / "file").write_text("in the way")
    with pytest.raises(StoreError, match="cannot be made"):
        Database(tmp_path / "file" / "folder" / "x.sqlite3")


WRITER = textwrap.dedent(
    """
    import sys
    from dataclasses import replace
    from pathlib import Path
    from hollow_glint.core.hole.hole import Hole
    from hollow_glint.store import holes
    from hollow_glint.store.database import Database

    store = Database(Path(sys.argv[1]))
    hole = Hole("n", 9.0, "mud", 0.3, 0.4)
    n = 0
    while True:
        kept = holes.add(store, replace(hole, name=f"{sys.argv[2]} {n}"))
        print(kept.id, kept.hole.name, flush=True)  # the acknowledgement
        n += 1
    """
)


def test_kill_9_loses_no_acknowledged_row(tmp_path):
    """Ten writers, each killed in the middle of a burst at a moment of its own."""
    path = tmp_path / "store.sqlite3"
    acknowledged: dict[int, str] = {}
    for burst in range(10):
        writer = subprocess.Popen([sys.executable, "-c", WRITER, str(path), f"burst{burst}"], stdout=subprocess.PIPE)
        for _ in range(8 + burst % 7):
            row_id, name = writer.stdout.readline().decode().split(" ", 1)
            acknowledged[int(row_id)] = name.strip()
        os.kill(writer.pid, signal.SIGKILL)
        # What was written to the pipe before the kill was acknowledged too; a last line may be cut.
        for line in writer.stdout.read().decode().splitlines(keepends=True):
            if line.endswith("\n"):
                row_id, name = line.split(" ", 1)
                acknowledged[int(row_id)] = name.strip()
        writer.wait()
    store = Database(path)
    assert store.connection().execute("PRAGMA integrity_check").fetchone()[0] == "ok"
    there = {kept.id: kept.hole.name for kept in holes.every(store)}
    assert len(acknowledged) >= 100
    assert {row_id: there.get(row_id) for row_id in acknowledged} == acknowledged


def test_names_from_before_are_found_by_what_they_are_not(tmp_path, monkeypatch):
    """A run of a mood and a level that have other names now opens, and is of those; others stay as they were."""
    path = tmp_path / "store.sqlite3"
    # A store as it was before that migration, whatever has come since.
    before = databases.migrations()[:6]
    with monkeypatch.context() as then:
        then.setattr(databases, "migrations", lambda: before)
        store = databases.Database(path)
    demo.seed_gear(store)
    setup = {"setup": {"level": "window at dawn", "day": {"mood": "some word"}}}
    with store.transaction() as connection:
        for level, mood, key in (("window at dawn", "some word", "a"), ("willing", "hot", "b")):
            document = {"setup": {"level": level, "day": {"mood": mood}}} if key == "b" else setup
            connection.execute(
                """INSERT INTO run (level, mood, seed, started_at, seconds, outcome, landed_m, species, skills,
                                    document, picture, source_key)
                   VALUES (?, ?, 1, '2026-01-05T10:00:00Z', 60, 'landed', 0.3, 'char', '{}', ?, x'', ?)""",
                (level, mood, json.dumps(document), key),
            )
        connection.execute("UPDATE unit SET name = 'As it was' WHERE demo_key = 'shipped-3'")
    store.close()
    store = databases.Database(path)
    rows = store.connection().execute("SELECT level, mood, document FROM run ORDER BY source_key").fetchall()
    assert [(one["level"], one["mood"]) for one in rows] == [("choosy", "choosy"), ("willing", "hot")]
    assert json.loads(rows[0]["document"])["setup"] == {"level": "choosy", "day": {"mood": "choosy"}}
    assert json.loads(rows[1]["document"])["setup"] == {"level": "willing", "day": {"mood": "hot"}}
    (name,) = store.connection().execute("SELECT name FROM unit WHERE demo_key = 'shipped-3'").fetchone()
    assert name == SHIPPED[3].name
    store.close()
