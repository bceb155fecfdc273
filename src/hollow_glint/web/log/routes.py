"""The Log step: strikes of the Bench, and what efforts say."""

from __future__ import annotations

from typing import Any

from ...core.fields import from_fields
from ...core.log.effort import Effort
from ...core.log.patterns import patterns
from ...store import holes, strikes
from ..blueprint import StepBlueprint
from ..contract import BODY, Removed, answers, plain
from ..database import database
from .contract import PatternsOut, PatternsWanted, StrikeList, StrikeOut, StrikePath, StrikeQuery

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


@api.post("/log/patterns", responses=answers(200, PatternsOut, *BODY))
def find_patterns(body: PatternsWanted) -> dict[str, Any]:
    """What efforts say: rates an hour with their spans, by factor, and what is tangled. Nothing is kept.

    Gamma-Poisson with partial pooling between holes, days and waters, which is estimated from the efforts themselves;
    see docs/patterns.md.
    """
    found = patterns(
        [from_fields(Effort, one.model_dump(exclude_none=True), "the effort") for one in body.efforts], body.level
    )
    return plain(
        {
            "overall": found.overall,
            "factors": {name: {of: vars(one) for of, one in levels.items()} for name, levels in found.factors.items()},
            "tangled": [[one.first, one.second] for one in found.tangled],
        },
        PatternsOut,
    )
