"""The store that this program runs on, as the addresses reach it."""

from __future__ import annotations

from datetime import UTC, datetime

from flask import current_app

from ..store.database import Database


def database() -> Database:
    """The program's store."""
    store: Database = current_app.config["database"]
    return store


def utc(when: datetime | None = None) -> str:
    """A time, now if none is given, as ISO 8601 in UTC: as the store has it."""
    return (when or datetime.now(UTC)).strftime("%Y-%m-%dT%H:%M:%SZ")
