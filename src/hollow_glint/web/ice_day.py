"""The Strike step's cadence lab, the day's rise line and the strike sheet for the ice."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict
from datetime import UTC, datetime, timedelta
from typing import Any

import numpy as np
from flask import current_app
from flask_openapi3 import APIBlueprint, Tag

from ..core.fish import cadence, strike_sheet
from ..core.fish.day import draw_day
from ..core.fish.rise_line import FishHeight, rise_line
from ..core.fish.strike_sheet import Happened
from ..store import holes, ice_days
from ..store.database import Database
from .contract import BODY_PROBLEMS, HolePath, Problem, plain
from .strike_contract import (
    CameFields,
    CamePath,
    HoleLine,
    KeptCameOut,
    LabOut,
    LabWanted,
    LineFound,
    LineWanted,
    PatternList,
    SheetWanted,
    StrikeSheet,
    TouchFields,
    TouchOut,
    TouchPath,
)

api = APIBlueprint("ice_day", __name__, url_prefix="/api", abp_tags=[Tag(name="Strike: lab and sheet")])
TODAY_H = 16  # what happened longer ago is another day


def _database() -> Database:
    database: Database = current_app.config["database"]
    return database


def _utc(when: datetime) -> str:
    return when.strftime("%Y-%m-%dT%H:%M:%SZ")


def _since() -> str:
    return _utc(datetime.now(UTC) - timedelta(hours=TODAY_H))


@api.get("/cadence/patterns", responses={200: PatternList})
def list_patterns() -> dict[str, Any]:
    """The patterns to pick from."""
    return {"patterns": [asdict(one) for one in cadence.PATTERNS]}


@api.post("/cadence", responses={200: LabOut, 404: Problem, **BODY_PROBLEMS})
def run_lab(body: LabWanted) -> dict[str, Any]:
    """Patterns against a hundred fish of a day. The same day has the same fish, whatever is asked together."""
    known = {one.key: one.words for one in cadence.PATTERNS}
    patterns = [
        cadence.Pattern(
            one.key, known.get(one.key, ""), tuple(cadence.Move(**move.model_dump()) for move in one.moves), one.start_m
        )
        for one in body.patterns
    ]
    bottom, top = 9.1, 0.4
    if body.hole_id is not None:
        hole = holes.get(_database(), body.hole_id)
        bottom, top = hole.bottom_depth_m, hole.ice_thickness_m
    day = draw_day(body.mood, top, bottom, np.random.default_rng(body.seed))
    found = cadence.outcomes(
        patterns, day, bottom, top, body.seed, fish=body.fish, species=body.species, seconds=cadence.WATCHED_S
    )
    return plain(
        {
            "outcomes": [asdict(one) for one in found],
            "rise_line_m": day.rise_line_m,
            "in_the_face": day.in_the_face,
            "pounding": day.pounding,
        },
        LabOut,
    )


def _line(came: Sequence[FishHeight], top_m: float, bottom_m: float) -> dict[str, Any] | None:
    found = rise_line(came, top_m, bottom_m)
    return None if found is None else asdict(found)


@api.post("/rise-line", responses={200: LineFound, **BODY_PROBLEMS})
def find_line(body: LineWanted) -> dict[str, Any]:
    """What some fish say of a day's rise line. Nothing is kept."""
    came = [FishHeight(one.depth_m, one.turned) for one in body.came]
    return plain({"line": _line(came, body.top_m, body.bottom_m)}, LineFound)


def _hole_line(hole_id: int) -> dict[str, Any]:
    hole = holes.get(_database(), hole_id)
    came = ice_days.came(_database(), hole_id, _since())
    line = _line([FishHeight(one.depth_m, one.turned) for one in came], hole.ice_thickness_m, hole.bottom_depth_m)
    return {"came": [asdict(one) for one in came], "line": line}


@api.get("/holes/<int:hole_id>/rise-line", responses={200: HoleLine, 404: Problem})
def hole_line(path: HolePath) -> dict[str, Any]:
    """How high fish came at a hole today, and what they say of the line."""
    return plain(_hole_line(path.hole_id), HoleLine)


@api.post("/holes/<int:hole_id>/came", responses={201: KeptCameOut, 404: Problem, **BODY_PROBLEMS})
def note_came(path: HolePath, body: CameFields) -> tuple[dict[str, Any], int]:
    """Note how high a fish came, and whether it turned there."""
    now = _utc(datetime.now(UTC))
    return plain(ice_days.add_came(_database(), path.hole_id, now, body.depth_m, body.turned), KeptCameOut), 201


@api.delete("/holes/<int:hole_id>/came/<int:came_id>", responses={204: None, 404: Problem})
def remove_came(path: CamePath) -> tuple[str, int]:
    """Take such a note back."""
    ice_days.remove_came(_database(), path.hole_id, path.came_id)
    return "", 204


@api.get("/holes/<int:hole_id>/strike-sheet", responses={200: StrikeSheet, 404: Problem, 422: Problem})
def strike_sheet_of(path: HolePath, query: SheetWanted) -> dict[str, Any]:
    """What to try next at a hole, from what has happened there today."""
    now = datetime.now(UTC)
    line = _hole_line(path.hole_id)["line"]
    touches = ice_days.touches(_database(), path.hole_id, _since())
    mine = [one for one in touches if one.species == query.species]
    happened = [
        Happened(max((now - datetime.fromisoformat(one.at)).total_seconds(), 0.0), one.kind, one.trying, one.depth_m)
        for one in mine
    ]
    found = strike_sheet.suggest(happened, query.species, query.at_hole_s)
    bites = [one.depth_m for one in mine if one.kind in ("bite", "miss", "fish") and one.depth_m is not None]
    return plain(
        {
            "species": query.species,
            "trying": found.trying,
            "do": found.do,
            "why": asdict(found.why),
            "ladder": [{"key": key, "words": strike_sheet.TRIES[key]} for key in strike_sheet.LADDERS[query.species]],
            "evidence": [asdict(one) for one in found.evidence],
            "touches": [asdict(one) for one in mine],
            "line": line,
            "best_depth_m": float(np.median(bites)) if bites else None,
        },
        StrikeSheet,
    )


@api.post("/holes/<int:hole_id>/touches", responses={201: TouchOut, 404: Problem, **BODY_PROBLEMS})
def add_touch(path: HolePath, body: TouchFields) -> tuple[dict[str, Any], int]:
    """Log what happened with one touch."""
    now = _utc(datetime.now(UTC))
    return plain(ice_days.add_touch(_database(), path.hole_id, now, **body.model_dump()), TouchOut), 201


@api.delete("/holes/<int:hole_id>/touches/<int:touch_id>", responses={204: None, 404: Problem})
def remove_touch(path: TouchPath) -> tuple[str, int]:
    """Take a touch back."""
    ice_days.remove_touch(_database(), path.hole_id, path.touch_id)
    return "", 204
