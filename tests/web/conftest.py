"""An application over a seeded store, and a client that is allowed in."""

from __future__ import annotations

import shutil
from pathlib import Path

import pytest

from hollow_glint import demo
from hollow_glint.store.database import Database
from hollow_glint.web.app import create_app


@pytest.fixture(scope="session")
def seeded(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A store with the demo's data, to be copied: a copy takes a tenth of the time."""
    path = tmp_path_factory.mktemp("seeded") / "store.sqlite3"
    store = Database(path)
    demo.seed(store)
    store.close()
    return path


@pytest.fixture
def app(tmp_path: Path, seeded: Path):
    shutil.copy(seeded, tmp_path / "store.sqlite3")
    return create_app(Database(tmp_path / "store.sqlite3"))


@pytest.fixture
def client(app):
    return app.test_client()


@pytest.fixture
def bench(client):
    answer = client.post("/api/benches", json={"hole_id": 1, "unit_id": 1, "lure_id": 3, "seed": 42})
    assert answer.status_code == 201
    return answer.json
