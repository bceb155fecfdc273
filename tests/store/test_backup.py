"""A backup: everything comes back on another machine with the same answers; cut short or altered it is refused."""

from __future__ import annotations

import hashlib
import io
import json
import sqlite3
import tempfile
import threading
import zipfile
from pathlib import Path

import pytest

from hollow_glint import demo
from hollow_glint.store import backup, outings, season
from hollow_glint.store.database import Database
from hollow_glint.web.app import create_app

ASKED = ("/api/outings", "/api/log/season?of=bites", "/api/log/shares?factor=trying", "/api/log/returns", "/api/holes",
         "/api/lakes", "/api/strikes", "/api/holes/1/card", "/api/log/file?kind=json")  # fmt: skip


@pytest.fixture(scope="module")
def there(tmp_path_factory: pytest.TempPathFactory) -> tuple[Path, dict[str, bytes]]:
    """A backup of a full store, and what that answered."""
    folder = tmp_path_factory.mktemp("there")
    database = Database(folder / "store.sqlite3")
    demo.seed(database)
    answers = {path: create_app(database).test_client().get(path).data for path in ASKED}
    made = folder / "made.zip"
    backup.back_up(database, made, "2026-11-28T08:00:00Z", "1.0")
    database.close_all()
    return made, answers


def test_backup_wipe_restore_same_answers(there, tmp_path):
    made, answers = there
    fresh = Database(tmp_path / "other.sqlite3")
    app = create_app(fresh)
    client = app.test_client()
    assert client.get("/api/outings").json == {"outings": []}
    answer = client.post("/api/backup", data=made.read_bytes(), content_type="application/octet-stream")
    assert answer.status_code == 200 and answer.json["made_at"] == "2026-11-28T08:00:00Z"
    for path, told in answers.items():
        assert client.get(path).data == told, path
    # And it goes on being a store: something can be noted, and it stands after a new start.
    removal = outings.remove(fresh, outings.every(fresh)[0].id)
    assert removal > 0
    fresh.close_all()
    again = Database(tmp_path / "other.sqlite3")
    assert len(season.told(again)) > 20
    # What was there before stands beside it, a store of its own.
    before = Database(backup.kept_before(again.path))
    assert outings.every(before) == []


def test_another_threads_connection_sees_what_was_restored(there, tmp_path):
    made, _ = there
    database = Database(tmp_path / "store.sqlite3")
    seen: list[int] = []
    read, restored = threading.Event(), threading.Event()

    def other() -> None:
        seen.append(len(outings.every(database)))
        read.set()
        assert restored.wait(20)
        seen.append(len(outings.every(database)))

    thread = threading.Thread(target=other)
    thread.start()
    assert read.wait(20)
    backup.restore(database, made)
    restored.set()
    thread.join()
    assert seen[0] == 0 and seen[1] > 20


def unchanged(database: Database, content: bytes, folder: Path, said: str) -> None:
    """The file is refused with these words, and the store is as it was."""
    given = folder / "given.zip"
    given.write_bytes(content)
    before = list(database.connection().iterdump())
    with pytest.raises(ValueError, match=said):
        backup.restore(database, given)
    assert list(database.connection().iterdump()) == before


def test_a_backup_cut_short_anywhere_is_refused(there, tmp_path):
    whole = there[0].read_bytes()
    database = Database(tmp_path / "store.sqlite3")
    for share in (0.0, 0.001, 0.2, 0.5, 0.9, 0.999):
        unchanged(database, whole[: int(share * len(whole))], tmp_path, "cut short")


def test_a_backup_altered_anywhere_is_refused(there, tmp_path):
    whole = there[0].read_bytes()
    database = Database(tmp_path / "store.sqlite3")
    for share in (0.0, 0.004, 0.01, 0.1, 0.35, 0.6, 0.85, 0.999, 0.99999):
        altered = bytearray(whole)
        altered[int(share * len(whole))] ^= 0x40
        unchanged(database, bytes(altered), tmp_path, "Nothing was changed|nothing was changed")


def repacked(whole: bytes, note: dict[str, object] | None = None, store: bytes | None = None) -> bytes:
    with zipfile.ZipFile(io.BytesIO(whole)) as file:
        told = json.loads(file.read(backup.NOTE)) | (note or {})
        inside = file.read(backup.STORE) if store is None else store
    with tempfile.TemporaryDirectory() as folder:
        made = Path(folder) / "made"
        with zipfile.ZipFile(made, "w") as file:
            file.writestr(backup.NOTE, json.dumps(told))
            file.writestr(backup.STORE, inside)
            file.comment = b"0" * backup.SEAL
        backup.seal(made)
        return made.read_bytes()


def test_a_backup_that_was_put_together_anew_is_refused(there, tmp_path):
    """By somebody who knows the format: another store with the old checksum, another number, another version."""
    whole = there[0].read_bytes()
    database = Database(tmp_path / "store.sqlite3")
    with zipfile.ZipFile(io.BytesIO(whole)) as file:
        inside = file.read(backup.STORE)
    unchanged(database, repacked(whole, store=inside[:-1] + b"x"), tmp_path, "checksum")
    unchanged(database, repacked(whole, {"bytes": 5}), tmp_path, "number of bytes")
    unchanged(database, repacked(whole, {backup.MARK: 2}), tmp_path, "another version")
    unchanged(database, repacked(whole, {"sha256": None, "bytes": "many"}), tmp_path, "altered")


def test_a_backup_of_no_store_is_refused_though_its_checksum_is_right(there, tmp_path):
    other = tmp_path / "other.sqlite3"
    with sqlite3.connect(other) as connection:
        connection.execute("CREATE TABLE thing (id INTEGER)")
    connection.close()
    content = other.read_bytes()
    note = {"bytes": len(content), "sha256": hashlib.sha256(content).hexdigest()}
    database = Database(tmp_path / "store.sqlite3")
    unchanged(database, repacked(there[0].read_bytes(), note, content), tmp_path, "no store that this program can read")
