"""The Read step's drills and call sheet."""

from __future__ import annotations

import base64
import secrets
from dataclasses import asdict, replace
from datetime import UTC, datetime
from typing import Any

import numpy as np
from flask import Response, current_app, request
from flask_openapi3 import APIBlueprint, Tag

from ..core.drills import catalogue, schedule
from ..core.drills.film import Clip
from ..core.drills.schedule import Answered, Skill
from ..core.gear.settings import starting_settings
from ..core.gear.unit import unit_to_dict
from ..core.reader import observation
from ..core.reader.call_sheet import Call, call_sheet, dead_zone
from ..core.sonar import picture
from ..core.tuning.gain_window import gain_window
from ..formats import round_file
from ..formats.fields import RoundFields, RoundFile
from ..store import drills, holes, lures, units
from ..store.database import Database
from .contract import BODY_PROBLEMS, HolePath, Problem, plain
from .drill_contract import (
    AnswerFields,
    AnswerOut,
    CallWanted,
    DrillKey,
    DrillKeys,
    DrillOut,
    RoundList,
    RoundOut,
    RoundPath,
    SheetOut,
    SkillList,
    SkillOut,
)

api = APIBlueprint("drills", __name__, url_prefix="/api", abp_tags=[Tag(name="Drills and call sheet")])


def _database() -> Database:
    database: Database = current_app.config["database"]
    return database


def _new_seed() -> int:
    return secrets.randbelow(2**31)


@api.get("/drills/skills", responses={200: SkillList})
def list_skills() -> dict[str, Any]:
    """Every kind of drill: level, what is due, and what the answers say."""
    database = _database()
    known = {one.kind: one for one in drills.skills(database)}
    done = {one.kind: one for one in schedule.skill_progress(drills.answers(database))}
    now = datetime.now(UTC).strftime("%Y-%m-%dT%H:%M:%SZ")
    out = []
    for key, kind in catalogue.kinds().items():
        skill, had = known.get(key), done.get(key)
        fields = {"answers": 0, "right": 0, "share": 0.0, "low": 0.0, "high": 1.0, "median_s": 0.0}
        if had is not None:
            fields = {name: getattr(had, name) for name in fields}
        due = None if skill is None else skill.due_at
        out.append(
            plain(
                {
                    "kind": key, "title": kind.title, "level": 1 if skill is None else skill.level, "due_at": due,
                    "is_due": due is None or due <= now, **fields,
                },
                SkillOut,
            )
        )  # fmt: skip
    return {"skills": out}


@api.get("/drills/today", responses={200: DrillKeys})
def today() -> dict[str, Any]:
    """A short round for now: what is due, then what is new."""
    wanted = schedule.todays_round(drills.skills(_database()), datetime.now(UTC))
    return {"drills": [{"kind": kind, "level": level, "seed": _new_seed()} for kind, level in wanted]}


def _clip(clip: Clip) -> dict[str, Any]:
    pings, rows = clip.levels.shape
    tops, bottoms = np.full(pings, clip.shown.top_m), np.full(pings, clip.shown.bottom_m)
    for at, settings in clip.changes:
        shown = picture.window(settings, clip.scene.bottom_range_m)
        tops[at:], bottoms[at:] = shown.top_m, shown.bottom_m
    return {
        "pings": {
            "first": 0, "count": pings, "rows": rows,
            "levels": base64.b64encode(clip.levels.tobytes()).decode("ascii"), "time_s": clip.time_s.round(4).tolist(),
            "top_m": tops.tolist(), "bottom_m": bottoms.tolist(),
            "line_in_m": np.diff(clip.line_m, prepend=clip.line_m[0]).tolist(),
        },
        "unit": unit_to_dict(clip.unit), "settings": asdict(clip.settings),
        "section": {
            name: getattr(clip.scene, name)
            for name in ("bottom_depth_m", "bottom_kind", "ice_thickness_m", "face_depth_m", "weed_height_m")
        },
        "has_lure": clip.lure is not None, "line_m": clip.line_m.round(4).tolist(), "arrow_m": clip.arrow_m,
        "caption": clip.caption,
    }  # fmt: skip


@api.get("/drills/one", responses={200: DrillOut, 422: Problem})
def get_drill(query: DrillKey) -> dict[str, Any]:
    """A drill: its clips, its question and what can be answered."""
    one = catalogue.drill(query.kind, query.level, query.seed)
    fields = {
        "kind": one.kind, "level": one.level, "seed": one.seed, "title": catalogue.kinds()[one.kind].title,
        "question": asdict(one.question), "clips": [_clip(clip) for clip in one.clips],
        "choices": [asdict(choice) for choice in one.choices], "stop_s": one.stop_s,
    }  # fmt: skip
    return plain(fields, DrillOut)


@api.post("/drills/answers", responses={201: AnswerOut, **BODY_PROBLEMS})
def answer_drill(body: AnswerFields) -> tuple[dict[str, Any], int]:
    """Answer a drill; the truth and the reason come back."""
    database, now = _database(), datetime.now(UTC)
    one = catalogue.drill(body.kind, body.level, body.seed)
    is_right = one.is_right(body.choice, body.range_m)
    stamp = now.strftime("%Y-%m-%dT%H:%M:%SZ")
    answer = Answered(body.kind, body.level, body.seed, is_right, body.seconds, stamp)
    skill = next((known for known in drills.skills(database) if known.kind == body.kind), Skill(body.kind))
    if body.scheduled:
        skill = schedule.answered(skill, is_right, body.seconds, now)
    drills.keep_answer(database, answer, skill if body.scheduled else None)
    told = {
        "is_right": is_right, "right": one.right, "target_m": one.target_m, "why": asdict(one.why),
        "truth": [asdict(mark) for mark in one.truth], "moment_s": one.moment_s, "level": skill.level,
        "due_at": skill.due_at or None,
    }  # fmt: skip
    return plain(told, AnswerOut), 201


def _round_out(kept: drills.KeptRound) -> dict[str, Any]:
    return plain({"id": kept.id, **asdict(kept.round)}, RoundOut)


@api.get("/drills/rounds", responses={200: RoundList})
def list_rounds() -> dict[str, Any]:
    """Rounds put together for others."""
    return {"rounds": [_round_out(one) for one in drills.rounds(_database())]}


@api.post("/drills/rounds", responses={201: RoundOut, **BODY_PROBLEMS})
def add_round(body: RoundFields) -> tuple[dict[str, Any], int]:
    """Put a round together."""
    return _round_out(drills.add_round(_database(), round_file.from_fields(body.model_dump()))), 201


@api.post("/drills/rounds/file", responses={201: RoundOut, **BODY_PROBLEMS})
def take_round_file() -> tuple[dict[str, Any], int]:
    """Keep the round of a round file, sent as it is. A bad file is refused with the line and field at fault."""
    wanted = round_file.read(request.get_data(as_text=True))
    return _round_out(drills.add_round(_database(), wanted)), 201


@api.get("/drills/rounds/<int:round_id>/file", responses={200: RoundFile, 404: Problem})
def give_round_file(path: RoundPath) -> Response:
    """A round as a round file."""
    kept = drills.get_round(_database(), path.round_id)
    answer = Response(round_file.write(kept.round), mimetype="application/json")
    answer.headers["Content-Disposition"] = f'attachment; filename="round-{path.round_id}.json"'
    return answer


@api.get("/drills/rounds/<int:round_id>/drills", responses={200: DrillKeys, 404: Problem})
def draw_round(path: RoundPath) -> dict[str, Any]:
    """The drills of a round, drawn anew each time."""
    kept = drills.get_round(_database(), path.round_id)
    drawn = kept.round.drills(_new_seed())
    return {"drills": [{"kind": kind, "level": level, "seed": seed} for kind, level, seed in drawn]}


@api.delete("/drills/rounds/<int:round_id>", responses={204: None, 404: Problem})
def remove_round(path: RoundPath) -> tuple[str, int]:
    """Forget a round."""
    drills.remove_round(_database(), path.round_id)
    return "", 204


@api.post("/holes/<int:hole_id>/calls", responses={200: SheetOut, 404: Problem, **BODY_PROBLEMS})
def call(path: HolePath, body: CallWanted) -> dict[str, Any]:
    """What a mark can be at a hole, from what was seen of it; nothing is kept."""
    database = _database()
    scene = holes.get(database, path.hole_id).scene()
    unit = units.get(database, body.unit_id).profile
    lure = None if body.lure_id is None else lures.get(database, body.lure_id).lure
    settings = starting_settings(unit, scene.bottom_range_m)
    if body.range_m is not None:
        settings = replace(settings, range_m=body.range_m).checked(unit)
    depth = body.lure_depth_m
    if lure is not None and depth is None:
        depth = max(scene.bottom_depth_m - 1.2, scene.face_depth_m + 0.2)
    at = observation.SheetContext(scene, unit, settings, lure, depth)
    if body.gain is not None:
        at = replace(at, settings=replace(settings, gain=body.gain).checked(unit))
    elif lure is not None and depth is not None:
        shown = picture.full_column(settings)
        limits = gain_window(at.transmission, unit, settings, lure, depth, shown)
        at = replace(at, settings=replace(settings, gain=limits.advised).checked(unit))
    sheet = None if body.seen is None else call_sheet(at, observation.Observation(**body.seen.model_dump()))
    calls = [] if sheet is None else [_call_out(one) for one in sheet.calls]
    told = {
        "settings": asdict(at.settings), "lure_depth_m": depth, "bottom_range_m": scene.bottom_range_m,
        "dead_zone_m": dead_zone(at), "calibrated": unit.calibrated is not None, "calls": calls,
        "fits": sheet is None or sheet.fits,
    }  # fmt: skip
    return plain(told, SheetOut)


def _call_out(one: Call) -> dict[str, Any]:
    region = one.region and {
        name: getattr(one.region, name)[:: max(one.region.aside_m.size // 24, 1)].round(3).tolist()
        for name in ("aside_m", "top_m", "bottom_m")
    }
    return {
        "kind": one.kind, "chance": one.chance, "because": [asdict(said) for said in one.because], "do": one.do,
        "region": region, "depth_m": one.depth_m, "length_m": one.length_m,
        "likely_length_m": one.likely_length_m,
    }  # fmt: skip
