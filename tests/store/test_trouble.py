"""A store that is damaged, held, full or empty: said in words, and nothing lost."""

from __future__ import annotations

import sqlite3
import threading
import time

import pytest

from hollow_glint import demo
from hollow_glint.store import holes
from hollow_glint.store.database import Database, StoreError, backup_path, words_for


@pytest.fixture(scope="module")
def whole(tmp_path_factory):
    """The bytes of a good store with rows in it."""
    folder = tmp_path_factory.mktemp("good")
    path = folder / "demo.sqlite3"
    store = Database(path)
    demo.seed(store)
    store.close()
    return path.read_bytes()


def refused(path, *said):
    before = path.read_bytes()
    with pytest.raises(StoreError) as wrong:
        Database(path)
    for one in said:
        assert one in str(wrong.value), wrong.value
    assert path.read_bytes() == before


def test_bytes_overwritten_in_the_middle_are_found_before_anything_is_read(tmp_path, whole):
    path = tmp_path / "store.sqlite3"
    # From the second page on: the first says whose file it is, and stays.
    path.write_bytes(whole[:4096] + b"\xa5" * 16_384 + whole[20_480:])
    refused(path, "is damaged", str(path), "in its place", ".recover")


def test_a_copy_beside_it_is_named(tmp_path, whole):
    path = tmp_path / "store.sqlite3"
    path.write_bytes(whole[:4096] + b"\xa5" * 16_384 + whole[20_480:])
    backup_path(path).write_bytes(whole)
    refused(path, "is damaged", backup_path(path).name)


@pytest.mark.parametrize("kept", [1, 60, 99])
def test_a_file_cut_off_in_its_head_is_damaged_and_not_empty(tmp_path, whole, kept):
    path = tmp_path / "store.sqlite3"
    path.write_bytes(whole[:kept])
    refused(path, "is damaged", f"holds {kept} bytes")


def test_a_file_of_no_bytes_is_never_taken_for_an_empty_store(tmp_path):
    path = tmp_path / "store.sqlite3"
    path.touch()
    refused(path, "is damaged", "holds 0 bytes")


def test_a_lost_page_at_the_end_is_found(tmp_path, whole):
    path = tmp_path / "store.sqlite3"
    path.write_bytes(whole[: len(whole) - 8192])
    refused(path, "is damaged")


@pytest.mark.parametrize(
    ("error", "kind", "said"),
    [
        ("database is locked", "busy", "held by another program"),
        ("database or disk is full", "full", "disk is full"),
        ("database disk image is malformed", "damaged", "damaged"),
        ("attempt to write a readonly database", "not writable", "cannot be written"),
        ("no such table: hole", "other", "no such table"),
    ],
)
def test_what_sqlite_says_in_words(error, kind, said):
    trouble = words_for(sqlite3.OperationalError(error))
    assert trouble.kind == kind
    assert said in trouble.sentence


def test_a_daily_copy_opens_and_holds_the_same(tmp_path):
    path = tmp_path / "demo.sqlite3"
    store = Database(path)
    demo.seed(store)
    store.back_up()
    names = [one.hole.name for one in holes.every(store)]
    store.close()
    copy = backup_path(path)
    assert copy.exists()
    moved = tmp_path / "restored.sqlite3"
    copy.rename(moved)
    back = Database(moved)
    assert [one.hole.name for one in holes.every(back)] == names
    back.close()


def test_a_copy_that_is_being_made_does_not_keep_the_log_from_the_file(tmp_path, monkeypatch):
    store = Database(tmp_path / "demo.sqlite3")
    demo.seed(store)
    begun, ended = threading.Event(), []
    connect = store._connect

    def slowly() -> int:
        begun.set()
        time.sleep(0.02)
        return 0

    def to_a_slow_one() -> sqlite3.Connection:
        connection = connect()
        connection.set_progress_handler(slowly, 10)
        return connection

    def copy() -> None:
        try:
            store.back_up()
        except sqlite3.OperationalError as why:
            ended.append(str(why))

    monkeypatch.setattr(store, "_connect", to_a_slow_one)
    copying = threading.Thread(target=copy, daemon=True)
    copying.start()
    assert begun.wait(10)
    store.stop_copying()
    copying.join(10)
    store.close_all()
    assert len(ended) == 1  # interrupted, or not able to open what it would write
    assert [one.name for one in tmp_path.iterdir()] == ["demo.sqlite3"]  # no log, and no half copy
