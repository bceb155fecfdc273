"""The Log step: strikes, with depth, settings and time."""

from __future__ import annotations

from typing import Any

from flask import current_app
from flask_openapi3 import APIBlueprint, Tag

from ..store import holes, strikes
from .contract import Problem, StrikeList, StrikeOut, StrikePath, StrikeQuery, plain

api = APIBlueprint("log", __name__, url_prefix="/api", abp_tags=[Tag(name="Log")])


@api.get("/strikes", responses={200: StrikeList, 404: Problem, 422: Problem})
def list_strikes(query: StrikeQuery) -> dict[str, Any]:
    """Strikes, newest first; all, or those at one hole."""
    database = current_app.config["database"]
    if query.hole_id is not None:
        holes.get(database, query.hole_id)
    return {"strikes": [plain(strike, StrikeOut) for strike in strikes.every(database, query.hole_id)]}


@api.get("/strikes/<int:strike_id>", responses={200: StrikeOut, 404: Problem})
def get_strike(path: StrikePath) -> dict[str, Any]:
    """One strike."""
    return plain(strikes.get(current_app.config["database"], path.strike_id), StrikeOut)


@api.delete("/strikes/<int:strike_id>", responses={204: None, 404: Problem})
def remove_strike(path: StrikePath) -> tuple[str, int]:
    """Remove a strike that was logged by mistake."""
    strikes.remove(current_app.config["database"], path.strike_id)
    return "", 204
