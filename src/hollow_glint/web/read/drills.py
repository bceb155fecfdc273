"""The Read step's drills and call sheet."""

from __future__ import annotations

import secrets
from dataclasses import asdict, replace
from datetime import UTC, datetime
from typing import Any

import numpy as np
from flask import Response, request

from ...core.drills import schedule
from ...core.drills.catalogue import KINDS, drill
from ...core.drills.fan_film import FanFilm
from ...core.drills.film import Clip
from ...core.drills.rounds import Round
from ...core.drills.schedule import Answered, Skill
from ...core.fields import from_fields
from ...core.gear.unit import unit_to_dict
from ...core.reader.call_sheet import Call, call_sheet, dead_zone
from ...core.reader.observation import Observation, sheet_context
from ...core.search.sweep import STEPS
from ...formats import round_file
from ...formats.fields import RoundFields, RoundFile
from ...store import drills, holes, lures, units
from ..blueprint import StepBlueprint
from ..card.here import card_at, lure_depth_at, water_at
from ..contract import BODY, HolePath, Removed, answers, plain, section_of
from ..database import database, utc
from ..files import attachment
from ..lives import packed
from .contract import (
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

REGION_POINTS = 24  # that a region is drawn through

api = StepBlueprint("drills", __name__, "Drills and call sheet")


def _new_seed() -> int:
    return secrets.randbelow(2**31)


@api.get("/drills/skills", responses=answers(200, SkillList))
def list_skills() -> dict[str, Any]:
    """Every kind of drill: level, what is due, and what the answers say."""
    known = {one.kind: one for one in drills.skills(database())}
    done = {one.kind: one for one in schedule.skill_progress(drills.answers(database()))}
    out = []
    for key, kind in KINDS.items():
        skill, had = known.get(key), done.get(key, schedule.UNTRIED)
        due = None if skill is None else skill.due_at
        level = 1 if skill is None else skill.level
        more = {"kind": key, "title": kind.title, "level": level, "due_at": due, "is_due": due is None or due <= utc()}
        out.append(plain({**vars(had), **more}, SkillOut))
    return {"skills": out}


@api.get("/drills/today", responses=answers(200, DrillKeys))
def today() -> dict[str, Any]:
    """A short round for now: what is due, then what is new."""
    wanted = schedule.todays_round(drills.skills(database()), datetime.now(UTC))
    return {"drills": [{"kind": kind, "level": level, "seed": _new_seed()} for kind, level in wanted]}


def _clip(clip: Clip) -> dict[str, Any]:
    (pings, rows), (tops, bottoms) = clip.levels.shape, clip.windows
    return {
        "pings": {
            "first": 0, "count": pings, "rows": rows, "levels": packed(clip.levels),
            "time_s": clip.time_s.round(4).tolist(), "top_m": tops.tolist(), "bottom_m": bottoms.tolist(),
            "line_in_m": np.diff(clip.line_m, prepend=clip.line_m[0]).tolist(),
        },
        "unit": unit_to_dict(clip.unit), "settings": asdict(clip.settings), "section": section_of(clip.scene),
        "has_lure": clip.lure is not None, "line_m": clip.line_m.round(4).tolist(), "arrow_m": clip.arrow_m,
        "caption": clip.caption,
    }  # fmt: skip


def _film(film: FanFilm) -> dict[str, Any]:
    """A fan's pictures as fields of `FanFilmOut`."""
    set_to, hang = film.settings, film.hang
    return {
        "levels": packed(film.levels), "pictures": len(film.levels), "bins": film.bins, "steps": film.steps,
        "beams_deg": film.beams_deg.round(3).tolist(), "reach_m": set_to.reach_m, "head_depth_m": hang.depth_m,
        "ice_m": hang.ice_m, "ahead_m": set_to.ahead_m, "behind_m": set_to.behind_m, "deep_m": set_to.deep_m,
        "square_m": set_to.square_m, "every_s": film.every_s, "dark": film.dark, "colours": film.colours,
        "ring": film.ring, "places": film.places, "seams_deg": film.seams_deg, "caption": film.caption,
    }  # fmt: skip


@api.get("/drills/one", responses=answers(200, DrillOut, 422))
def get_drill(query: DrillKey) -> dict[str, Any]:
    """A drill: its clips, its question and what can be answered."""
    one = drill(**query.model_dump())
    fields = {
        "kind": one.kind, "level": one.level, "seed": one.seed, "title": KINDS[one.kind].title,
        "question": asdict(one.question), "clips": [_clip(clip) for clip in one.clips],
        "sweeps": [{**vars(each), "levels": packed(each.levels), "steps": STEPS} for each in one.sweeps],
        "fans": [_film(each) for each in one.fans],
        "choices": [asdict(choice) for choice in one.choices], "stop_s": one.stop_s,
    }  # fmt: skip
    return plain(fields, DrillOut)


@api.post("/drills/answers", responses=answers(201, AnswerOut, *BODY))
def answer_drill(body: AnswerFields) -> tuple[dict[str, Any], int]:
    """Answer a drill; the truth and the reason come back."""
    now, given = datetime.now(UTC), body.model_dump()
    one = drill(given["kind"], given["level"], body.seed)
    is_right = one.is_right(body.choice, body.range_m)
    answer = Answered(one.kind, one.level, body.seed, is_right, body.seconds, utc(now))
    skill = next((known for known in drills.skills(database()) if known.kind == one.kind), Skill(one.kind))
    if body.scheduled:
        skill = schedule.answered(skill, is_right, body.seconds, now)
    drills.keep_answer(database(), answer, skill if body.scheduled else None)
    told = {
        "is_right": is_right, "right": one.right, "target_m": one.target_m, "why": asdict(one.why),
        "truth": [asdict(mark) for mark in one.truth], "moment_s": one.moment_s, "level": skill.level,
        "due_at": skill.due_at or None,
    }  # fmt: skip
    return plain(told, AnswerOut), 201


def _round_out(kept: drills.KeptRound) -> dict[str, Any]:
    return plain({"id": kept.id, **asdict(kept.round)}, RoundOut)


@api.get("/drills/rounds", responses=answers(200, RoundList))
def list_rounds() -> dict[str, Any]:
    """Rounds put together for others."""
    return {"rounds": [_round_out(one) for one in drills.rounds(database())]}


@api.post("/drills/rounds", responses=answers(201, RoundOut, *BODY))
def add_round(body: RoundFields) -> tuple[dict[str, Any], int]:
    """Put a round together."""
    return _round_out(drills.add_round(database(), from_fields(Round, body.model_dump(), "the round"))), 201


@api.post("/drills/rounds/file", responses=answers(201, RoundOut, *BODY))
def take_round_file() -> tuple[dict[str, Any], int]:
    """Keep the round of a round file, sent as it is. A bad file is refused with the line and field at fault."""
    wanted = round_file.read(request.get_data(as_text=True))
    return _round_out(drills.add_round(database(), wanted)), 201


@api.get("/drills/rounds/<int:round_id>/file", responses=answers(200, RoundFile, 404))
def give_round_file(path: RoundPath) -> Response:
    """A round as a round file."""
    kept = drills.get_round(database(), path.round_id)
    return attachment(round_file.write(kept.round), kept.round.name, "round", "json")


@api.get("/drills/rounds/<int:round_id>/drills", responses=answers(200, DrillKeys, 404))
def draw_round(path: RoundPath) -> dict[str, Any]:
    """The drills of a round, drawn anew each time."""
    kept = drills.get_round(database(), path.round_id)
    drawn = kept.round.drills(_new_seed())
    return {"drills": [{"kind": kind, "level": level, "seed": seed} for kind, level, seed in drawn]}


@api.delete("/drills/rounds/<int:round_id>", responses=answers(200, Removed, 404))
def remove_round(path: RoundPath) -> dict[str, Any]:
    """Forget a round."""
    return {"removal": drills.remove_round(database(), path.round_id)}


@api.post("/holes/<int:hole_id>/calls", responses=answers(200, SheetOut, 404, *BODY))
def call(path: HolePath, body: CallWanted) -> dict[str, Any]:
    """What a mark can be at a hole, from what was seen of it; nothing is kept."""
    hole = holes.get(database(), path.hole_id).hole
    scene = water_at(hole, path.hole_id)
    unit = units.get(database(), body.unit_id).profile
    lure = None if body.lure_id is None else lures.get(database(), body.lure_id).lure
    depth = body.lure_depth_m if body.lure_depth_m is not None or lure is None else lure_depth_at(path.hole_id, scene)
    at = sheet_context(scene, unit, lure, depth, body.gain, body.range_m)
    if body.gain is None and body.range_m is None:  # as the hole's card sets it
        at = replace(at, settings=card_at(path.hole_id, unit, lure).settings)
    seen = None if body.seen is None else from_fields(Observation, body.seen.model_dump(), "what was seen")
    sheet = None if seen is None else call_sheet(at, seen)
    told = {
        "settings": asdict(at.settings), "lure_depth_m": at.lure_depth_m, "bottom_range_m": scene.bottom_range_m,
        "dead_zone_m": dead_zone(at), "calibrated": unit.calibrated is not None,
        "calls": [] if sheet is None else [_call_out(one) for one in sheet.calls],
        "fits": sheet is None or sheet.fits,
    }  # fmt: skip
    return plain(told, SheetOut)


def _call_out(one: Call) -> dict[str, Any]:
    """A call with its region in a few points."""
    region = one.region and {
        name: value[:: max(one.region.aside_m.size // 24, 1)].round(3).tolist()
        for name, value in vars(one.region).items()
    }
    return {**vars(one), "region": region}
