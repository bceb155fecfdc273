"""What was worked out from the log is kept as long as the log is the same, and not a write longer."""

from __future__ import annotations

import threading
from concurrent.futures import ThreadPoolExecutor

import pytest

from hollow_glint import demo
from hollow_glint.store import memory, outings, removals, season
from hollow_glint.store.database import Database
from hollow_glint.store.memory import Memory


def test_an_answer_is_made_once_for_a_log_and_anew_for_another():
    made: list[str] = []

    def make() -> str:
        made.append("once")
        return f"answer {len(made)}"

    kept = Memory()
    assert [kept.get(b"a", "key", make) for _ in range(3)] == ["answer 1"] * 3
    assert kept.get(b"b", "key", make) == "answer 2"
    assert kept.get(b"a", "key", make) == "answer 3"  # what was made for another log is gone


def test_what_goes_wrong_is_not_kept():
    kept = Memory()
    with pytest.raises(ZeroDivisionError):
        kept.get(b"a", "key", lambda: 1 // 0)
    assert kept.get(b"a", "key", lambda: 7) == 7


def test_threads_that_ask_at_once_wait_for_one_answer():
    kept, asked, go = Memory(), [], threading.Event()

    def make() -> int:
        asked.append(1)
        go.wait(5.0)
        return 42

    with ThreadPoolExecutor(6) as pool:
        answers = [pool.submit(kept.get, b"a", "key", make) for _ in range(6)]
        go.set()
        assert [one.result(5.0) for one in answers] == [42] * 6
    assert len(asked) == 1


def test_what_was_not_asked_for_longest_goes():
    kept = Memory()
    for key in range(memory.MOST):
        kept.get(b"a", key, lambda: "old")
    kept.get(b"a", 0, lambda: "new")  # asked for again
    kept.get(b"a", "one more", lambda: "new")
    assert kept.get(b"a", 0, lambda: "new") == "old"
    assert kept.get(b"a", 1, lambda: "new") == "new"


@pytest.mark.parametrize(
    "write",
    [
        "UPDATE happening SET depth_m = 1.5 WHERE id = (SELECT max(id) FROM happening)",
        "DELETE FROM happening WHERE id = (SELECT max(id) FROM happening)",
        "UPDATE stay SET lines = 2 WHERE id = (SELECT max(id) FROM stay)",
        "DELETE FROM stay WHERE id = (SELECT max(id) FROM stay)",
        "UPDATE outing SET pressure_trend = 'rising' WHERE id = (SELECT max(id) FROM outing)",
        "DELETE FROM outing WHERE id = (SELECT max(id) FROM outing)",
    ],
)
def test_after_every_write_the_log_is_read_anew(write, tmp_path):
    store = Database(tmp_path / "store.sqlite3")
    demo.seed(store)
    before, stamp = season.pieces(store), season.stamp(store)
    assert season.pieces(store) is before and season.stamp(store) == stamp
    with store.transaction() as connection:
        connection.execute(write)
    now = season.pieces(store)
    assert season.stamp(store) != stamp and now is not before
    # And it is what a program that remembers nothing reads.
    store.close_all()
    assert now == season.pieces(Database(store.path))


def test_an_outing_that_comes_back_is_there_again(tmp_path):
    store = Database(tmp_path / "store.sqlite3")
    demo.seed(store)
    before = season.pieces(store)
    removal = outings.remove(store, outings.every(store)[0].id)
    assert len(season.pieces(store)) < len(before)
    removals.undo(store, removal)
    assert season.pieces(store) == before
