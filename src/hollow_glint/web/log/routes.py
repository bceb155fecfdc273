"""The Log step: strikes, with depth, settings and time."""

from __future__ import annotations

from typing import Any

from ...store import holes, strikes
from ..blueprint import StepBlueprint
from ..contract import Removed, answers, plain
from ..database import database
from .contract import StrikeList, StrikeOut, StrikePath, StrikeQuery

api = StepBlueprint("log", __name__, "Log")


@api.get("/strikes", responses=answers(200, StrikeList, 404, 422))
def list_strikes(query: StrikeQuery) -> dict[str, Any]:
    """Strikes, newest first; all, or those at one hole."""
    if query.hole_id is not None:
        holes.get(database(), query.hole_id)
    return {"strikes": [plain(strike, StrikeOut) for strike in strikes.every(database(), query.hole_id)]}


@api.get("/strikes/<int:strike_id>", responses=answers(200, StrikeOut, 404))
def get_strike(path: StrikePath) -> dict[str, Any]:
    """One strike."""
    return plain(strikes.get(database(), path.strike_id), StrikeOut)


@api.delete("/strikes/<int:strike_id>", responses=answers(200, Removed, 404))
def remove_strike(path: StrikePath) -> dict[str, Any]:
    """Remove a strike that was logged by mistake."""
    return {"removal": strikes.remove(database(), path.strike_id)}
