"""The Strike step's runs: levels, playing one, its debrief, and playing on from a moment with another hand."""

from __future__ import annotations

import secrets
from dataclasses import asdict
from datetime import UTC, datetime
from typing import Any

import numpy as np
from flask import Response, current_app
from flask_openapi3 import APIBlueprint, Tag

from ..core.bench.bench_run import BenchRun
from ..core.bench.frame import STEP_S, Frame
from ..core.bench.tape import Tape
from ..core.checks import InputError
from ..core.fish import rod, traits
from ..core.fish.events import Event
from ..core.fish.rise_line import FishHeight, rise_line
from ..core.gear import unit
from ..core.runs import replay, scripted_hands, start
from ..core.runs.debrief import Debrief, JudgedMoment, debrief
from ..core.runs.levels import LEVELS, find_level
from ..core.runs.replay import Beat
from ..core.runs.run_log import LONGEST_S, RunLog, RunSetup
from ..formats import run_file
from ..formats.fields import RunFile
from ..store import holes, lures, runs, units
from ..store.database import Database
from .bench import find_bench, gone, live_benches
from .contract import BODY_PROBLEMS, BenchOut, BenchPath, Problem, plain
from .live import Full, LiveBench
from .problems import problem
from .reading_contract import PingsOut, PingsWanted
from .recordings import pings_fields
from .strike_contract import (
    RunList,
    RunOut,
    RunPath,
    RunWanted,
    RunWhole,
    StrikeChoices,
    WhatIfOut,
    WhatIfWanted,
)

api = APIBlueprint("runs", __name__, url_prefix="/api", abp_tags=[Tag(name="Strike: runs")])
TRACK_S = 0.2  # how finely a debrief's time line is told


def _database() -> Database:
    database: Database = current_app.config["database"]
    return database


@api.get("/runs/choices", responses={200: StrikeChoices})
def choices() -> dict[str, Any]:
    """What there is to choose from before a run, and how often each level was played."""
    played = runs.every(_database())
    levels = [
        {
            "key": one.key, "title": one.title, "teaches": one.teaches, "mood": one.mood,
            "runs": sum(run.level == one.key for run in played),
            "landed": sum(run.level == one.key and run.outcome == "landed" for run in played),
        }
        for one in LEVELS
    ]  # fmt: skip

    def named(words: dict[str, str]) -> list[dict[str, str]]:
        return [{"key": key, "words": text} for key, text in words.items()]

    return {
        "levels": levels,
        "moods": named(traits.MOOD_WORDS),
        "lines": named({key: line.words for key, line in rod.LINES.items()}),
        "hands": named({key: text for key, (text, _) in scripted_hands.HANDS.items()}),
    }


def _wanted(database: Database, body: RunWanted, seed: int) -> tuple[RunSetup, RunLog | None]:
    """What a new run starts from, and for a branch the run up to its moment. Raises ValueError or NotFound."""
    if body.branch_of is not None:
        if body.level is not None or body.hole_id is not None:
            raise InputError("branch_of: a branch has its run's level and hole, so neither is accepted with it")
        log = runs.log_of(database, body.branch_of)
        frame = max(round((body.branch_at_s or 0.0) / STEP_S), 1)
        return log.setup, replay.branch(log, min(frame, log.frames))
    if body.level is None:
        raise InputError("level is missing: a level, or branch_of with branch_at_s, is accepted")
    setup = start.set_up(
        body.level,
        seed,
        mood=body.mood,
        start=body.start,
        line=body.line,
        scene=None if body.hole_id is None else holes.get(database, body.hole_id).scene(),
        unit=None if body.unit_id is None else units.get(database, body.unit_id).profile,
        lure=None if body.lure_id is None else lures.get(database, body.lure_id).lure,
    )
    return setup, None


@api.post("/runs/start", responses={201: BenchOut, 404: Problem, 503: Problem, **BODY_PROBLEMS})
def start_run(body: RunWanted) -> tuple[dict[str, Any], int] | Response:
    """Start a run as a live bench with the truth hidden; it is kept when it is over. Read its stream as any bench's."""
    database = _database()
    seed = secrets.randbits(31) if body.seed is None else body.seed
    setup, until = _wanted(database, body, seed)
    branched = None if body.branch_of is None else runs.get(database, body.branch_of)
    hole_id = body.hole_id if branched is None else branched.hole_id
    run = replay.begin(setup)
    tape, ledger, begins = Tape(), [], 0.0
    if until is not None:
        by_frame: dict[int, list[Any]] = {}
        for at, command in until.commands:
            by_frame.setdefault(at, []).append(command)
        for k in range(1, until.frames + 1):
            tape.add(run.advance(by_frame.get(k, ())))
        ledger, begins = list(until.commands), until.seconds
    started = datetime.now(UTC).strftime("%Y-%m-%dT%H:%M:%SZ")

    def keep(bench: LiveBench) -> int | None:
        """Write the run down; before anyone is told that it is over."""
        log = bench.log()
        beats = replay.story(log)
        try:
            picture = bench.tape.recording("run", bench.run, bench.started)
        except InputError:  # over before it had a picture
            picture = None
        found = debrief(log, beats)
        kept = runs.add(
            database, log, found, picture, started, f"bench {bench.id}", hole_id, body.branch_of,
            None if branched is None else begins,
        )  # fmt: skip
        _remember(database, kept.id, (log, beats, found))
        return kept.id

    def not_logged(bench: LiveBench, frame: Frame, event: Event) -> int | None:
        return None

    try:
        bench = live_benches().add(run, setup.seed, 0.3, not_logged, setup=setup, on_over=keep)
    except Full:
        return problem(503, "All live benches are in use. Close the Bench in another window, or wait a few seconds.")
    bench.tape, bench.ledger = tape, ledger
    bench.frames_sent = 0 if until is None else until.frames
    level = find_level(setup.level)
    return plain(_bench_fields(bench, run, setup, hole_id) | {"run": {
        "level": level.key, "title": level.title, "teaches": level.teaches, "line": setup.line, "goal_m": setup.goal_m,
        "longest_s": LONGEST_S, "branch_of": body.branch_of, "begins_s": begins,
    }}, BenchOut), 201  # fmt: skip


def _bench_fields(bench: LiveBench, run: BenchRun, setup: RunSetup, hole_id: int | None) -> dict[str, Any]:
    return {
        "id": bench.id, "seed": setup.seed, "frame_s": STEP_S / bench.pace,
        "title": find_level(setup.level).title, "hole_id": hole_id, "exercise": None,
        "scene": asdict(setup.scene), "unit": asdict(setup.unit), "lure": asdict(setup.lure),
        "settings": asdict(run.settings), "lure_depth_m": run.lure_depth_m,
    }  # fmt: skip


@api.post("/benches/<bench_id>/end-run", responses={200: RunOut, 404: Problem, 409: Problem, **BODY_PROBLEMS})
def end_run(path: BenchPath) -> dict[str, Any] | Response:
    """End a run before its time, and keep it."""
    bench = find_bench(path.bench_id)
    if bench is None:
        return gone(path.bench_id)
    if bench.setup is None:
        return problem(409, "This bench is no run, so there is nothing to debrief.")
    with bench.stepping:
        if bench.frames_sent < 1:
            return problem(409, "This run has not begun: read its stream first.")
        bench.finish()
    live_benches().free(path.bench_id)
    assert bench.run_id is not None
    return _run_out(runs.get(_database(), bench.run_id))


def _run_out(kept: runs.Kept) -> dict[str, Any]:
    return plain({**vars(kept), "title": find_level(kept.level).title}, RunOut)


@api.get("/runs", responses={200: RunList})
def list_runs() -> dict[str, Any]:
    """All runs, newest first."""
    return {"runs": [_run_out(one) for one in runs.every(_database())]}


Told = tuple[RunLog, tuple[Beat, ...], Debrief]
_lately: dict[tuple[Database, int], Told] = {}


def _remember(database: Database, run_id: int, told: Told) -> Told:
    """Keep the last few: a run's log never changes, and playing it through again takes a second or more."""
    _lately[database, run_id] = told
    while len(_lately) > 4:
        _lately.pop(next(iter(_lately)), None)
    return told


def _told(database: Database, run_id: int) -> Told:
    """A run, what truly happened in it and what is to be said of it."""
    known = _lately.get((database, run_id))
    if known is not None:
        return known
    log = runs.log_of(database, run_id)
    beats = replay.story(log)
    return _remember(database, run_id, (log, beats, debrief(log, beats)))


@api.get("/runs/<int:run_id>", responses={200: RunWhole, 404: Problem})
def get_run(path: RunPath) -> dict[str, Any]:
    """A run with its debrief."""
    database = _database()
    kept = runs.get(database, path.run_id)
    log, beats, found = _told(database, path.run_id)
    setup, every = log.setup, round(TRACK_S / STEP_S)
    part = beats[::every]
    came = [FishHeight(max(one.depth_m, 0.05), one.turned) for one in found.reached]
    line = rise_line(came, setup.scene.ice_thickness_m, setup.scene.bottom_depth_m)
    return plain(
        {
            **_run_out(kept),
            "judged": [_judged(one) for one in found.judged],
            "next": list(found.next),
            "time_s": [beat.time_s for beat in part],
            "lure_m": [round(beat.lure_m, 3) for beat in part],
            "rising_m_s": [round(float(np.mean([b.rising_m_s for b in beats[k : k + every]])), 4)
                           for k in range(0, len(beats), every)],
            "tip": [_sign(beats[k : k + every]) for k in range(0, len(beats), every)],
            "bend": [round(max(b.tip.bend for b in beats[k : k + every]), 3) for k in range(0, len(beats), every)],
            "eyes_on_rod": _spans([beat.eyes == "rod" for beat in beats]),
            "tracks": _tracks(part),
            "came": [asdict(one) for one in found.reached],
            "true_line_m": setup.day.rise_line_m,
            "line": None if line is None else asdict(line),
            "face": setup.day.in_the_face,
            "pounding": setup.day.pounding,
            "section": {name: getattr(setup.scene, name) for name in (
                "bottom_depth_m", "bottom_kind", "ice_thickness_m", "face_depth_m", "weed_height_m")},
            "unit": unit.unit_to_dict(setup.unit),
            "lure": asdict(setup.lure),
            "face_depth_m": setup.scene.face_depth_m,
            "has_picture": runs.picture_of(database, path.run_id) is not None,
        },
        RunWhole,
    )  # fmt: skip


def _judged(one: JudgedMoment) -> dict[str, Any]:
    return {
        "time_s": one.time_s,
        "code": one.code,
        "is_good": one.is_good,
        "say": asdict(one.say),
        "back_s": one.back_s,
    }


def _sign(beats: tuple[Beat, ...]) -> str:
    """The most telling thing that the tip showed in a few beats."""
    said = [beat.tip.says for beat in beats]
    return next((one for one in ("fish", "load", "tap", "slack", "weed") if one in said), said[-1])


def _spans(on: list[bool]) -> list[tuple[float, float]]:
    """From when to when [s] something held."""
    edges = np.flatnonzero(np.diff(np.concatenate([[False], on, [False]]).astype(int)))
    return [(round(float(a) * STEP_S, 3), round(float(b) * STEP_S, 3)) for a, b in edges.reshape(-1, 2)]


def _tracks(beats: tuple[Beat, ...]) -> list[dict[str, Any]]:
    found: dict[int, dict[str, Any]] = {}
    for beat in beats:
        for fish in beat.fish:
            track = found.setdefault(fish.who, {
                "species": fish.species, "length_m": fish.length_m,
                **{name: [] for name in ("time_s", "depth_m", "aside_m", "mood")},
            })  # fmt: skip
            track["time_s"].append(beat.time_s)
            track["depth_m"].append(round(fish.z, 3))
            track["aside_m"].append(round(fish.aside_m, 3))
            track["mood"].append(fish.mood)
    return list(found.values())


@api.get("/runs/<int:run_id>/pings", responses={200: PingsOut, 404: Problem, 422: Problem})
def get_run_pings(path: RunPath, query: PingsWanted) -> dict[str, Any] | Response:
    """The picture of a run as it was shown."""
    picture = runs.picture_of(_database(), path.run_id)
    if picture is None:
        return problem(404, "This run was over before it had a picture.")
    return pings_fields(picture, query.first, query.count)


@api.get("/runs/<int:run_id>/file", responses={200: RunFile, 404: Problem})
def give_run(path: RunPath) -> dict[str, Any]:
    """A run as a file."""
    log = runs.log_of(_database(), path.run_id)
    return plain({run_file.MARK: run_file.VERSION, **run_file.to_fields(log)}, RunFile)


@api.post("/runs/<int:run_id>/what-if", responses={200: WhatIfOut, 404: Problem, **BODY_PROBLEMS})
def what_if(path: RunPath, body: WhatIfWanted) -> dict[str, Any]:
    """What another hand would have come to from a moment on, by the same seed."""
    log, lived, _ = _told(_database(), path.run_id)
    frame = min(max(round(body.time_s / STEP_S), 1), log.frames)
    branched, beats = replay.what_if(log, frame, scripted_hands.hand(body.hand))
    # Judged as a run of its own, but only for what came after the moment.
    whole = debrief(branched, lived[:frame] + beats)
    begins = frame * STEP_S
    after = debrief(branched, beats)
    part = beats[:: round(TRACK_S / STEP_S)]
    return plain(
        {
            "hand": body.hand,
            "outcome": after.outcome,
            "ends_s": branched.seconds,
            "judged": [_judged(one) for one in whole.judged if one.time_s > begins],
            "time_s": [beat.time_s for beat in part],
            "lure_m": [round(beat.lure_m, 3) for beat in part],
            "fish_m": [_nearest(beat) for beat in part],
        },
        WhatIfOut,
    )


def _nearest(beat: Beat) -> float | None:
    close = [fish for fish in beat.fish if fish.aside_m < 1.5]
    return round(min(close, key=lambda fish: abs(fish.z - beat.lure_m)).z, 3) if close else None


@api.delete("/runs/<int:run_id>", responses={204: None, 404: Problem})
def remove_run(path: RunPath) -> tuple[str, int]:
    """Forget a run."""
    runs.remove(_database(), path.run_id)
    _lately.pop((_database(), path.run_id), None)
    return "", 204
