"""A store that is damaged, held, full or empty: said in words, and nothing lost."""

from __future__ import annotations

import sqlite3

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
