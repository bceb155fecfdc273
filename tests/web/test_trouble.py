"""What goes wrong outside the program, and what is sent to harm it: said in words, and nothing lost."""

from __future__ import annotations

import json
import sqlite3
import time

import pytest

from hollow_glint.core.bench.command import Command
from hollow_glint.store import strikes
from hollow_glint.web.keeping import Keeper
from tests.web.test_web import is_problem

# -- bodies that mean harm ---------------------------------------------------------------------------------------------


@pytest.mark.parametrize("letter", ["\\ud800", "\\udfff", "\\u0000", "\\u0007"])
@pytest.mark.parametrize(
    ("path", "body"),
    [
        ("/api/holes", '{"name": "A hole %s", "bottom_depth_m": 5, "bottom_kind": "mud", "ice_thickness_m": 0.3, '
                       '"face_depth_m": 0.4}'),
        ("/api/lures", '{"name": "A jig %s", "form": "jig", "diameter_m": 0.005}'),
        ("/api/benches", '{"exercise": "%s"}'),
        ("/api/benches", '{"%s": 1}'),
        ("/api/strikes", '{"hole_id": "%s"}'),
    ],
)  # fmt: skip
def test_letters_that_cannot_be_shown_are_refused_in_words(client, letter, path, body):
    answer = client.post(path, data=body.replace("%s", letter), content_type="application/json")
    assert answer.status_code in (404, 405, 422), answer.text
    assert answer.json["detail"].endswith(".")


@pytest.mark.parametrize("depth", [60, 980, 5_000, 30_000])
@pytest.mark.parametrize("opened", ["[", '{"name":'])
def test_however_deep_a_body_is_nested_it_is_refused_in_words(client, depth, opened):
    closed = "]" if opened == "[" else "}"
    body = '{"name": ' + opened * depth + "1" + closed * depth + "}"
    answer = client.post("/api/holes", data=body[:60_000], content_type="application/json")
    assert answer.status_code in (400, 422)
    assert answer.json["detail"].endswith(".")


def test_a_unit_with_a_name_that_would_poison_recordings_is_refused(client):
    unit = client.get("/api/units/1").json
    fields = {key: value for key, value in unit.items() if key not in ("id", "version")}
    for name in ("Flat\x00unit", "Flat\ud800unit", "\x01"):
        answer = client.post("/api/units", data=json.dumps({**fields, "name": name}), content_type="application/json")
        is_problem(answer, 422, "name")
    nested = {**fields, "beams": [{**fields["beams"][0], "name": "wide\x00"}]}
    is_problem(client.post("/api/units", json=nested), 422, "beams")


# -- gear files --------------------------------------------------------------------------------------------------------


def test_a_gear_file_with_one_bad_entry_of_two_takes_neither_in(client, app):
    """Among others by a fault that only the store finds: after the first has been written."""
    unit = json.loads(client.get("/api/units/1/file").text)
    two = {**unit, "units": [unit["units"][0], {**unit["units"][0], "rows": 3}]}
    before = client.get("/api/units").json
    answer = client.post("/api/gear/file", data=json.dumps(two), content_type="application/json")
    is_problem(answer, 422, "units.1.rows is 3")
    assert client.get("/api/units").json == before

    database = app.config["database"]
    with database.transaction() as connection:
        connection.execute(
            "CREATE TRIGGER bad BEFORE INSERT ON lure BEGIN SELECT RAISE(ABORT, 'database or disk is full'); END"
        )
    lure = json.loads(client.get("/api/lures/1/file").text)
    both = {**unit, "lures": lure["lures"]}
    answer = client.post("/api/gear/file", data=json.dumps(both), content_type="application/json")
    assert answer.status_code == 507
    assert "Nothing was written" in answer.json["detail"] or "nothing could be written" in answer.json["detail"]
    assert client.get("/api/units").json == before


# -- two people at one thing -------------------------------------------------------------------------------------------


@pytest.mark.parametrize("kind", ["holes", "units", "lures"])
def test_a_stale_change_is_refused_with_both_versions(client, kind):
    path = f"/api/{kind}/1"
    first = client.get(path)
    mark = first.headers["ETag"]
    assert mark == f'"{first.json["version"]}"'
    fields = {key: value for key, value in first.json.items() if key not in ("id", "version", "calibrated")}
    mine = client.put(path, json={**fields, "name": "Mine"}, headers={"If-Match": mark})
    assert mine.status_code == 200
    assert mine.headers["ETag"] != mark
    theirs = client.put(path, json={**fields, "name": "Theirs"}, headers={"If-Match": mark})
    is_problem(theirs, 412, "changed elsewhere")
    assert theirs.json["now"]["name"] == "Mine"
    assert theirs.json["yours"] < theirs.json["version"] == mine.json["version"]
    assert client.get(path).json["name"] == "Mine"
    again = client.put(path, json={**fields, "name": "Theirs"}, headers={"If-Match": mine.headers["ETag"]})
    assert again.json["name"] == "Theirs"
    unsure = client.put(path, json=fields)
    is_problem(unsure, 422, "If-Match")


# -- a store that is held or full --------------------------------------------------------------------------------------


def held(path) -> sqlite3.Connection:
    other = sqlite3.connect(path, isolation_level=None, check_same_thread=False)
    other.execute("BEGIN EXCLUSIVE")
    return other


def impatient(database) -> None:
    """Do not wait the usual seconds for another program: for tests."""
    database.connection().execute("PRAGMA busy_timeout = 20")


def test_a_held_store_is_503_and_a_full_disk_507(client, app):
    database = app.config["database"]
    impatient(database)
    hole = {"name": "New", "bottom_depth_m": 5.0, "bottom_kind": "mud", "ice_thickness_m": 0.3, "face_depth_m": 0.4}
    other = held(database.path)
    answer = client.post("/api/holes", json=hole)
    is_problem(answer, 503, "held by another program", "Nothing was written")
    assert answer.headers["Retry-After"]
    other.execute("ROLLBACK")
    other.close()
    connection = database.connection()
    pages = connection.execute("PRAGMA page_count").fetchone()[0]
    connection.execute(f"PRAGMA max_page_count = {pages}")
    big = {**hole, "note": "x" * 500}
    answers = [client.post("/api/holes", json={**big, "name": f"Hole {k}"}) for k in range(60)]
    full = next(one for one in answers if one.status_code != 201)
    is_problem(full, 507, "disk is full")
    connection.execute("PRAGMA max_page_count = 1000000")
    assert client.post("/api/holes", json=hole).status_code == 201


def bite(live):
    """Play a bench by commands alone to the moment before the hook is set in a fish that holds on."""
    live.command(Command(to_depth_m=8.25))
    since = 0
    for _ in range(4000):
        _, events = live.step()
        kinds = [event["kind"] for event in events]
        if "noticed" in kinds:
            live.command(Command(lift_m_s=0.03))
        elif "gone" in kinds:
            live.command(Command(to_depth_m=8.25))
        since = 1 if "bite" in kinds else since + 1 if since else 0
        if since == 8:
            return
    raise AssertionError("no fish bit")


def test_a_hooked_fish_outlives_a_held_store(client, app):
    """It is told at once that the log has not got it, why, and later that it has: never gone in silence."""
    made = client.post("/api/benches", json={"hole_id": 1, "unit_id": 1, "lure_id": 3, "seed": 42}).json
    live = app.config["live_benches"].get(made["id"])
    bite(live)
    database = app.config["database"]
    before = len(strikes.every(database))
    database.connection().execute("PRAGMA wal_checkpoint")
    other = held(database.path)
    live.command(Command(set_hook=True))
    told = []
    for _ in range(20):
        _, events = live.step()
        told += events
        if any(event["kind"] == "hooked" for event in events):
            break
    hooked = next(event for event in told if event["kind"] == "hooked")
    assert hooked["strike_id"] is None
    assert hooked["not_kept"]
    other.execute("ROLLBACK")
    other.close()
    until = time.monotonic() + 20.0
    kept = None
    while kept is None and time.monotonic() < until:
        _, events = live.step()
        kept = next((event for event in events if event["kind"] == "strike kept"), None)
        time.sleep(0.05)
    assert kept is not None
    assert len(strikes.every(database)) == before + 1
    assert strikes.get(database, kept["strike_id"]).depth_m == pytest.approx(hooked["depth_m"], abs=0.05)


def test_a_keeper_keeps_order_and_says_why_it_waits(app):
    database = app.config["database"]
    keeper = Keeper(database, again_s=0.02)
    tries, done = [], []

    def first():
        tries.append(1)
        if len(tries) < 4:
            raise sqlite3.OperationalError("database is locked")
        done.append("first")
        return 7

    def second():
        done.append("second")
        return 8

    one, two = keeper.submit(first, "The first"), keeper.submit(second, "The second")
    assert two.wait(5.0)
    assert (one.row_id, two.row_id) == (7, 8)
    assert done == ["first", "second"]
    assert len(tries) == 4
    broken = keeper.submit(lambda: 1 // 0, "A fault")
    assert broken.wait(5.0)
    assert "cannot be written" in broken.why_not
    assert broken.row_id is None
    keeper.close()
