"""What happened at a hole, noted as the strike sheet does, for tests that need some of it."""

from __future__ import annotations

from hollow_glint.core.log.outing import Happening, Outing, Stay
from hollow_glint.store import holes, season
from hollow_glint.store.database import Database
from hollow_glint.store.outings import StayAt
from hollow_glint.store.season import Arrival


def arrival(store: Database, hole_id: int, at: str, **more: object) -> Arrival:
    """Somebody comes to a hole, and what is known of it."""
    hole = holes.get(store, hole_id).hole
    stay = Stay(at, hole=hole.name, depth_m=hole.bottom_depth_m, bottom=hole.bottom_kind)
    return Arrival(Outing(at, water=hole.water), None, None, Stay(**{**vars(stay), **more}), StayAt(hole_id))


def note(store: Database, hole_id: int, at: str, kind: str = "look", depth_m: float | None = 4.0, **more: str) -> int:
    """Keep what happened: its number."""
    told = {"trying": "hold", "species": "char", **more} if kind not in ("turned", "came") else more
    return season.note(store, hole_id, arrival(store, hole_id, at), Happening(at, kind, depth_m, **told))[1]
