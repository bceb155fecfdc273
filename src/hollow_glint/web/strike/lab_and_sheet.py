"""The Strike step's cadence lab, the day's rise line and the strike sheet for the ice."""

from __future__ import annotations

from dataclasses import asdict
from datetime import UTC, datetime, timedelta
from typing import Any

import numpy as np

from ...core.fields import from_fields
from ...core.fish import cadence, strike_sheet
from ...core.fish.cadence import Pattern
from ...core.fish.day import draw_day
from ...core.fish.rise_line import FishHeight, RiseLine, rise_line
from ...core.fish.strike_sheet import Happened
from ...core.log.outing import Happening
from ...store import holes, ice_days
from ..blueprint import StepBlueprint
from ..contract import BODY, HolePath, Removed, answers, plain
from ..database import database, utc
from ..log.noting import noted
from ..working import teller
from .contract import (
    HeightFields,
    HeightPath,
    HoleLine,
    KeptHeightOut,
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

api = StepBlueprint("ice_day", __name__, "Strike: lab and sheet")
LAB_BOTTOM_M, LAB_TOP_M = 9.1, 0.4  # the lab's own water, without a hole
TODAY_H = 16  # what happened longer ago is another day


def _since() -> str:
    return utc(datetime.now(UTC) - timedelta(hours=TODAY_H))


@api.get("/cadence/patterns", responses=answers(200, PatternList))
def list_patterns() -> dict[str, Any]:
    """The patterns to pick from."""
    return {"patterns": [asdict(one) for one in cadence.PATTERNS]}


@api.post("/cadence", responses=answers(200, LabOut, 404, *BODY))
def run_lab(body: LabWanted) -> dict[str, Any]:
    """Patterns against a hundred fish of a day. The same day has the same fish, whatever is asked together."""
    known = {one.key: one.words for one in cadence.PATTERNS}
    patterns = [
        from_fields(Pattern, {**one, "words": known.get(one["key"], "")}, "the pattern")
        for one in body.model_dump()["patterns"]
    ]
    bottom, top = LAB_BOTTOM_M, LAB_TOP_M
    if body.hole_id is not None:
        hole = holes.get(database(), body.hole_id).hole
        bottom, top = hole.bottom_depth_m, hole.ice_thickness_m
    day = draw_day(body.mood, top, bottom, np.random.default_rng(body.seed))
    tell = teller()
    found: tuple[cadence.PatternOutcome, ...] = ()
    for progress in cadence.compare(
        patterns, day, bottom, top, body.seed, fish=body.fish, species=body.species, seconds=cadence.WATCHED_S
    ):
        tell(progress.share)
        found = progress.outcomes
    return plain(
        {
            "outcomes": found,
            "rise_line_m": day.rise_line_m,
            "in_the_face": day.in_the_face,
            "pounding": day.pounding,
        },
        LabOut,
    )


@api.post("/rise-line", responses=answers(200, LineFound, *BODY))
def find_line(body: LineWanted) -> dict[str, Any]:
    """What some fish say of a day's rise line. Nothing is kept."""
    heights = [from_fields(FishHeight, one.model_dump(), "the height") for one in body.heights]
    return plain({"line": rise_line(heights, body.top_m, body.bottom_m)}, LineFound)


def _today(hole_id: int) -> tuple[list[ice_days.KeptHeight], RiseLine | None]:
    """How high fish came at a hole today, and what they say of the line."""
    hole = holes.get(database(), hole_id).hole
    heights = ice_days.heights(database(), hole_id, _since())
    came = [FishHeight(one.depth_m, one.turned) for one in heights]
    return heights, rise_line(came, hole.ice_thickness_m, hole.bottom_depth_m)


@api.get("/holes/<int:hole_id>/rise-line", responses=answers(200, HoleLine, 404))
def hole_line(path: HolePath) -> dict[str, Any]:
    """How high fish came at a hole today, and what they say of the line."""
    heights, line = _today(path.hole_id)
    return plain({"heights": heights, "line": line}, HoleLine)


@api.post("/holes/<int:hole_id>/heights", responses=answers(201, KeptHeightOut, 404, *BODY))
def note_height(path: HolePath, body: HeightFields) -> tuple[dict[str, Any], int]:
    """Note how high a fish came, and whether it turned there."""
    height = from_fields(FishHeight, body.model_dump(), "the height")
    number = noted(path.hole_id, Happening(utc(), "turned" if height.turned else "came", height.depth_m))
    since = ice_days.heights(database(), path.hole_id, _since())
    return plain(next(one for one in since if one.id == number), KeptHeightOut), 201


@api.delete("/holes/<int:hole_id>/heights/<int:height_id>", responses=answers(200, Removed, 404))
def remove_height(path: HeightPath) -> dict[str, Any]:
    """Take such a note back."""
    return {"removal": ice_days.remove(database(), path.hole_id, path.height_id)}


@api.get("/holes/<int:hole_id>/strike-sheet", responses=answers(200, StrikeSheet, 404, 422))
def strike_sheet_of(path: HolePath, query: SheetWanted) -> dict[str, Any]:
    """What to try next at a hole, from what has happened there today."""
    now = datetime.now(UTC)
    line = _today(path.hole_id)[1]
    touches = ice_days.touches(database(), path.hole_id, _since())
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
            "why": found.why,
            "ladder": [{"key": key, "words": strike_sheet.TRIES[key]} for key in strike_sheet.LADDERS[query.species]],
            "evidence": found.evidence,
            "touches": mine,
            "line": line,
            "best_depth_m": float(np.median(bites)) if bites else None,
        },
        StrikeSheet,
    )


@api.post("/holes/<int:hole_id>/touches", responses=answers(201, TouchOut, 404, *BODY))
def add_touch(path: HolePath, body: TouchFields) -> tuple[dict[str, Any], int]:
    """Log what happened with one touch: in the stay that goes on at the hole, which begins with it if there is none."""
    told = body.model_dump()
    at_hole_s = told.pop("at_hole_s")
    number = noted(path.hole_id, Happening(utc(), **told), at_hole_s)
    since = ice_days.touches(database(), path.hole_id, _since())
    return plain(next(one for one in since if one.id == number), TouchOut), 201


@api.delete("/holes/<int:hole_id>/touches/<int:touch_id>", responses=answers(200, Removed, 404))
def remove_touch(path: TouchPath) -> dict[str, Any]:
    """Take a touch back."""
    return {"removal": ice_days.remove(database(), path.hole_id, path.touch_id)}
