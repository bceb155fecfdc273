"""What stands round every address: who is answered, who waits, what is kept for later and what remembered a while."""

from __future__ import annotations

import sqlite3
import threading
import time

import pytest

from hollow_glint.store.database import Database
from hollow_glint.web import busy, guard
from hollow_glint.web.busy import HARD, Gate
from hollow_glint.web.keeping import Keeper
from hollow_glint.web.recent import Recent

# --- the gate ------------------------------------------------------------------------------------------------------


def test_every_hard_question_is_an_address_of_the_program(app):
    assert {rule.endpoint for rule in app.url_map.iter_rules()} >= HARD


def test_a_gate_has_room_for_as_many_as_it_says_and_makes_room_again():
    gate = Gate(at_once=2, waiting=0, waits_s=0.05)
    assert gate.enter() and gate.enter()
    assert not gate.enter(), "nobody waits"
    gate.leave()
    assert gate.enter()


def test_who_waits_gets_in_when_one_leaves():
    gate = Gate(at_once=1, waiting=1, waits_s=5.0)
    assert gate.enter()
    got_in: list[bool] = []
    waiting = threading.Thread(target=lambda: got_in.append(gate.enter()))
    waiting.start()
    time.sleep(0.1)
    assert got_in == [] and not gate.enter(), "one waits, and no more"
    gate.leave()
    waiting.join(2.0)
    assert got_in == [True]


def test_who_waits_in_vain_leaves_the_queue():
    gate = Gate(at_once=1, waiting=1, waits_s=0.05)
    assert gate.enter()
    for _ in range(5):
        begun = time.perf_counter()
        assert not gate.enter()
        assert time.perf_counter() - begun < 2.0
    gate.leave()
    assert gate.enter()


def test_a_question_that_fails_leaves_the_gate_too(client):
    """More refusals one after another than there are places: none is turned away for want of room."""
    for _ in range(busy.AT_ONCE + busy.WAITING + 3):
        assert client.post("/api/hole-card", json={"depth_m": -1}).status_code == 422


# --- the keeper ----------------------------------------------------------------------------------------------------


@pytest.fixture
def keeper(tmp_path):
    keeper = Keeper(Database(tmp_path / "store.sqlite3"), again_s=0.02)
    yield keeper
    keeper.close()


def test_what_is_submitted_is_written_in_order_and_says_its_row(keeper):
    written: list[int] = []
    pending = [keeper.submit(lambda k=k: written.append(k) or k, f"row {k}") for k in range(5)]
    assert all(one.wait(2.0) for one in pending)
    assert written == [0, 1, 2, 3, 4] and [one.row_id for one in pending] == [0, 1, 2, 3, 4]
    assert keeper.waiting == 0 and all(one.why_not == "" for one in pending)


def test_what_cannot_be_written_now_is_tried_until_it_can_and_those_behind_it_wait(keeper):
    tries: list[str] = []

    def hard() -> int:
        tries.append("hard")
        if len(tries) < 4:
            raise sqlite3.OperationalError("database is locked")
        return 7

    first, second = keeper.submit(hard, "the hard one"), keeper.submit(lambda: tries.append("easy"), "the easy one")
    assert first.wait(3.0) and second.wait(3.0)
    assert tries == ["hard", "hard", "hard", "hard", "easy"] and first.row_id == 7


def test_while_it_waits_it_says_why(keeper):
    free = threading.Event()

    def held() -> int:
        if not free.is_set():
            raise sqlite3.OperationalError("database is locked")
        return 1

    pending = keeper.submit(held, "a fish")
    time.sleep(0.1)
    assert not pending.is_done and pending.why_not.endswith(".") and keeper.waiting == 1
    free.set()
    assert pending.wait(2.0) and keeper.waiting == 0


def test_what_is_wrong_in_itself_is_not_tried_for_ever(keeper):
    def broken() -> int:
        raise ValueError("no such thing")

    first, second = keeper.submit(broken, "a broken one"), keeper.submit(lambda: 3, "a good one")
    assert first.wait(2.0) and second.wait(2.0)
    assert first.row_id is None and "cannot be written" in first.why_not and second.row_id == 3


def test_what_is_lost_at_the_end_is_in_the_log(tmp_path, caplog):
    keeper = Keeper(Database(tmp_path / "store.sqlite3"), again_s=0.02)

    def never() -> int:
        raise sqlite3.OperationalError("database or disk is full")

    keeper.submit(never, "The fish of 7.2 m")
    time.sleep(0.05)
    keeper.close(1.0)
    assert "The fish of 7.2 m could not be written" in caplog.text


# --- what is remembered --------------------------------------------------------------------------------------------


def test_the_last_few_are_remembered_and_the_oldest_forgotten():
    made: list[str] = []

    def make(name: str):
        return lambda: made.append(name) or name

    recent: Recent[str] = Recent(2)
    for name in ("a", "b", "a", "c", "a", "b"):
        assert recent.get(name, make(name)) == name
    # "b" was the oldest when "c" came, for "a" had been asked for again.
    assert made == ["a", "b", "c", "b"]


def test_what_is_forgotten_is_made_anew_and_what_was_put_is_not_made():
    recent: Recent[int] = Recent(3)
    recent.put("x", 1)
    assert recent.get("x", lambda: 2) == 1
    recent.forget("x")
    recent.forget("x")
    assert recent.get("x", lambda: 2) == 2


def test_many_threads_leave_it_whole():
    recent: Recent[int] = Recent(4)
    wrong: list[object] = []

    def work(seed: int) -> None:
        for k in range(300):
            key = (seed * 7 + k) % 9
            if recent.get(key, lambda key=key: key) != key:
                wrong.append(key)
            if k % 11 == 0:
                recent.forget(key)

    threads = [threading.Thread(target=work, args=(seed,)) for seed in range(6)]
    for one in threads:
        one.start()
    for one in threads:
        one.join()
    assert wrong == []


# --- who is answered -----------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("host", "bound_to", "answered"),
    [
        ("localhost:8000", "127.0.0.1", True),
        ("LOCALHOST", "127.0.0.1", True),
        ("localhost.", "127.0.0.1", True),
        ("[::1]:8000", "127.0.0.1", True),
        ("127.0.0.1", "127.0.0.1", True),
        ("127.0.0.2", "127.0.0.1", False),
        ("192.168.1.5:8000", "192.168.1.5", True),
        ("192.168.1.6", "192.168.1.5", False),
        ("192.168.1.6", "0.0.0.0", True),
        ("[fe80::1]", "::", True),
        ("evil.example", "0.0.0.0", False),
        ("evil.example", "127.0.0.1", False),
        ("localhost.evil.example", "127.0.0.1", False),
        ("127.0.0.1.evil.example", "0.0.0.0", False),
        ("", "127.0.0.1", False),
        ("[", "127.0.0.1", False),
        ("user@localhost", "127.0.0.1", True),
    ],
)
def test_only_this_machines_own_names_are_answered(host, bound_to, answered):
    assert guard.host_accepted(host, bound_to) == answered


@pytest.mark.parametrize("path", ["/", "/api/health", "/api/holes", "/api/nowhere", "/assets/none.js"])
def test_every_answer_whatever_it_is_carries_the_headers(client, path):
    answer = client.get(path)
    for name, value in guard.SECURITY_HEADERS.items():
        assert answer.headers[name] == value
    if path.startswith("/api/"):
        assert answer.headers["Cache-Control"] == "no-store"


def test_the_page_may_load_nothing_from_elsewhere():
    policy = dict(part.strip().split(" ", 1) for part in guard.CONTENT_SECURITY_POLICY.split(";"))
    assert policy["default-src"] == "'none'" and policy["script-src"] == "'self'" and policy["connect-src"] == "'self'"
    assert not any(word in guard.CONTENT_SECURITY_POLICY for word in ("unsafe", "http:", "https:", "*"))


@pytest.mark.parametrize("kind", ["holes", "units", "lures"])
def test_versions_go_out_and_come_back(client, kind):
    answer = client.get(f"/api/{kind}/1")
    assert answer.status_code == 200
    tag, fields = answer.headers["ETag"], answer.json
    assert tag == f'"{fields["version"]}"'
    given = {name: value for name, value in fields.items() if name not in ("id", "version")}
    if kind == "units":
        given.pop("calibrated", None)
    for header, status in ((None, 422), ("3", 422), ('W/"1"', 422), ('"99"', 412), (tag, 200)):
        headers = {} if header is None else {"If-Match": header}
        answer = client.put(f"/api/{kind}/1", json=given, headers=headers)
        assert answer.status_code == status, (header, answer.text)
    assert answer.json["version"] == fields["version"] + 1


@pytest.mark.parametrize(
    "path",
    [
        "/api/holes/999", "/api/units/999", "/api/lures/999", "/api/strikes/999", "/api/runs/999",
        "/api/recordings/999", "/api/scenes/999", "/api/rounds/999", "/api/benches/none/tuning", "/api/holes/999/card",
        "/api/holes/999/strike-sheet?species=char&at_hole_s=1", "/api/holes/999/rise-line", "/api/runs/999/pings",
    ],
)  # fmt: skip
def test_what_is_not_there_is_said_to_be_not_there(client, path):
    answer = client.get(path)
    assert answer.status_code in (404, 405) and answer.mimetype == "application/problem+json"
    assert answer.json["detail"].endswith(".") and answer.json["status"] == answer.status_code
