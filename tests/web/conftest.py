"""An application over a seeded store, and a client that is allowed in."""

from __future__ import annotations

from pathlib import Path

import pytest

from hollow_glint import demo
from hollow_glint.store.database import Database
from hollow_glint.web.app import create_app


@pytest.fixture
def app(tmp_path: Path):
    store = Database(tmp_path / "store.sqlite3")
    demo.seed(store)
    return create_app(store)


@pytest.fixture
def client(app):
    return app.test_client()


@pytest.fixture
def bench(client):
    answer = client.post("/api/benches", json={"hole_id": 1, "unit_id": 1, "lure_id": 3, "seed": 42})
    assert answer.status_code == 201
    return answer.json
