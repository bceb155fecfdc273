"""The Strike step's runs: levels, playing one, its debrief, and playing on from a moment with another hand."""

from __future__ import annotations

import secrets
from dataclasses import asdict
from datetime import datetime
from typing import Any

from flask import Response

from ...core.bench.frame import STEP_S
from ...core.bench.tape import Tape
from ...core.checks import InputError
from ...core.fish import rod, traits
from ...core.fish.rise_line import FishHeight, rise_line
from ...core.gear.unit import unit_to_dict
from ...core.runs import replay, scripted_hands
from ...core.runs.debrief import Debrief, debrief, judged_what_if
from ...core.runs.levels import LEVELS
from ...core.runs.replay import Beat, Played
from ...core.runs.run_log import LONGEST_S, RunLog, RunSetup
from ...core.runs.start import set_up
from ...core.runs.timeline import TRACK_S, nearest_fish, timeline
from ...formats import run_file
from ...formats.fields import RunFile
from ...store import holes, lures, runs, units
from ..bench.contract import BenchOut
from ..bench.live import LiveBench
from ..bench.routes import bench_fields, find_bench, keeper, live_benches
from ..blueprint import StepBlueprint
from ..contract import BODY, BenchPath, PingsOut, PingsWanted, Removed, answers, plain, section_of
from ..database import database, utc
from ..lives import new_id
from ..problems import problem
from ..read.recordings import pings_fields
from ..recent import Recent
from ..working import teller
from .contract import RunList, RunOut, RunPath, RunWanted, RunWhole, StrikeChoices, WhatIfOut, WhatIfWanted
from .play import RunPlay

api = StepBlueprint("runs", __name__, "Strike: runs")


@api.get("/runs/choices", responses=answers(200, StrikeChoices))
def choices() -> dict[str, Any]:
    """What there is to choose from before a run, and how often each level was played."""
    played = runs.every(database())
    levels = [
        {
            "key": one.key, "title": one.title, "teaches": one.teaches, "mood": one.mood,
            "runs": sum(run.level == one.key for run in played),
            "landed": sum(run.level == one.key and run.outcome == "landed" for run in played),
        }
        for one in LEVELS.values()
    ]  # fmt: skip

    def named(words: dict[str, str]) -> list[dict[str, str]]:
        return [{"key": key, "words": text} for key, text in words.items()]

    return {
        "levels": levels,
        "moods": named(traits.MOOD_WORDS),
        "lines": named({key: line.words for key, line in rod.LINES.items()}),
        "hands": named({key: text for key, (text, _) in scripted_hands.HANDS.items()}),
    }


def _wanted(body: RunWanted, seed: int) -> tuple[RunSetup, RunLog | None]:
    """What a new run starts from, and for a branch the run up to its moment. Raises ValueError or NotFound."""
    store, given = database(), body.model_dump()
    if body.branch_of is not None:
        if body.level is not None or body.hole_id is not None:
            raise InputError("branch_of: a branch has its run's level and hole, so neither is accepted with it")
        log = runs.log_of(store, body.branch_of)
        frame = max(round((body.branch_at_s or 0.0) / STEP_S), 1)
        return log.setup, replay.branch(log, min(frame, log.frames))
    if body.level is None:
        raise InputError("level is missing: a level, or branch_of with branch_at_s, is accepted")
    setup = set_up(
        body.level,
        seed,
        **{name: given[name] for name in ("mood", "start", "line")},
        scene=None if body.hole_id is None else holes.get(store, body.hole_id).hole.scene(),
        unit=None if body.unit_id is None else units.get(store, body.unit_id).profile,
        lure=None if body.lure_id is None else lures.get(store, body.lure_id).lure,
    )
    return setup, None


@api.post("/runs/start", responses=answers(201, BenchOut, 404, 503, *BODY))
def start_run(body: RunWanted) -> tuple[dict[str, Any], int]:
    """Start a run as a live bench with the truth hidden; it is kept when it is over. Read its stream as any bench's."""
    store = database()
    setup, until = _wanted(body, secrets.randbits(31) if body.seed is None else body.seed)
    branched = None if body.branch_of is None else runs.get(store, body.branch_of)
    hole_id = body.hole_id if branched is None else branched.hole_id
    tape, bench_id, started = Tape(), new_id(), utc()
    played = Played(setup, until, tape.add)
    begins = 0.0 if until is None else until.seconds

    def keep(over: Played) -> int:
        """Write the run down; before anyone is told that it is over."""
        log = over.log()
        beats = replay.story(log)
        try:
            picture = tape.recording("run", over.run, datetime.fromisoformat(started))
        except InputError:  # over before it had a picture
            picture = None
        found = debrief(log, beats)
        kept = runs.add(
            store, log, found, picture, started, f"bench {bench_id}", hole_id, body.branch_of,
            None if branched is None else begins,
        )  # fmt: skip
        _lately.put((store, kept.id), (log, beats, found))
        return kept.id

    bench = live_benches().add(RunPlay(played, keeper(), keep), setup.seed, 0.3, bench_id)
    bench.tape, bench.frames_sent = tape, played.frames
    level = LEVELS[setup.level]
    run = {"line": setup.line, "goal_m": setup.goal_m, "longest_s": LONGEST_S, "branch_of": body.branch_of,
           "begins_s": begins}  # fmt: skip
    return plain({**bench_fields(bench, level.title, hole_id), "run": {**vars(level), **run}}, BenchOut), 201


@api.post("/benches/<bench_id>/end-run", responses=answers(200, RunOut, 404, 409, 503, *BODY))
def end_run(path: BenchPath) -> dict[str, Any] | Response:
    """End a run before its time, and keep it."""
    bench: LiveBench = find_bench(path.bench_id)
    if not isinstance(bench.play, RunPlay):
        return problem(409, "This bench is no run, so there is nothing to debrief.")
    with bench.stepping:
        if bench.frames_sent < 1:
            return problem(409, "This run has not begun: read its stream first.")
        run_id = bench.play.finish()
    if run_id is None:
        return problem(503, f"The run is over, but not kept yet: {bench.play.why_not_kept}")
    live_benches().free(path.bench_id)
    return _run_out(runs.get(database(), run_id))


def _run_out(kept: runs.KeptRun) -> dict[str, Any]:
    return plain({**vars(kept), "title": LEVELS[kept.level].title}, RunOut)


@api.get("/runs", responses=answers(200, RunList))
def list_runs() -> dict[str, Any]:
    """All runs, newest first."""
    return {"runs": [_run_out(one) for one in runs.every(database())]}


Told = tuple[RunLog, tuple[Beat, ...], Debrief]
PLAYED = 0.7  # of the work is playing it through, the rest is judging
_lately: Recent[Told] = Recent(4)  # a run's log never changes, and playing it through again takes a second or more


def _told(run_id: int) -> Told:
    """A run, what truly happened in it and what is to be said of it."""
    store, tell = database(), teller()

    def make() -> Told:
        log = runs.log_of(store, run_id)
        beats = replay.story(log, lambda share: tell(PLAYED * share))
        return log, beats, debrief(log, beats)

    return _lately.get((store, run_id), make)


@api.get("/runs/<int:run_id>", responses=answers(200, RunWhole, 404))
def get_run(path: RunPath) -> dict[str, Any]:
    """A run with its debrief."""
    kept = runs.get(database(), path.run_id)
    log, beats, found = _told(path.run_id)
    setup, day = log.setup, log.setup.day
    heights = [FishHeight(max(one.depth_m, 0.05), one.turned) for one in found.reached]
    return plain(
        {
            **_run_out(kept),
            **vars(timeline(beats)),
            "judged": found.judged,
            "next": found.next,
            "reached": found.reached,
            "true_line_m": day.rise_line_m,
            "line": rise_line(heights, setup.scene.ice_thickness_m, setup.scene.bottom_depth_m),
            "face": day.in_the_face,
            "pounding": day.pounding,
            "section": section_of(setup.scene),
            "unit": unit_to_dict(setup.unit),
            "lure": asdict(setup.lure),
            "face_depth_m": setup.scene.face_depth_m,
            "has_picture": runs.picture_of(database(), path.run_id) is not None,
        },
        RunWhole,
    )


@api.get("/runs/<int:run_id>/pings", responses=answers(200, PingsOut, 404, 422))
def get_run_pings(path: RunPath, query: PingsWanted) -> dict[str, Any] | Response:
    """The picture of a run as it was shown."""
    picture = runs.picture_of(database(), path.run_id)
    if picture is None:
        return problem(404, "This run was over before it had a picture.")
    return pings_fields(picture, query.first, query.count)


@api.get("/runs/<int:run_id>/file", responses=answers(200, RunFile, 404))
def give_run(path: RunPath) -> dict[str, Any]:
    """A run as a file."""
    log = runs.log_of(database(), path.run_id)
    return plain({run_file.MARK: run_file.VERSION, **run_file.to_fields(log)}, RunFile)


@api.post("/runs/<int:run_id>/what-if", responses=answers(200, WhatIfOut, 404, *BODY))
def what_if(path: RunPath, body: WhatIfWanted) -> dict[str, Any]:
    """What another hand would have come to from a moment on, by the same seed."""
    log, lived, _ = _told(path.run_id)
    frame = min(max(round(body.time_s / STEP_S), 1), log.frames)
    found = judged_what_if(log, lived, frame, scripted_hands.hand(body.hand), teller())
    part = found.beats[:: round(TRACK_S / STEP_S)]
    return plain(
        {
            **vars(found),
            "hand": body.hand,
            "time_s": [beat.time_s for beat in part],
            "lure_m": [round(beat.lure_m, 3) for beat in part],
            "fish_m": nearest_fish(found.beats),
        },
        WhatIfOut,
    )


@api.delete("/runs/<int:run_id>", responses=answers(200, Removed, 404))
def remove_run(path: RunPath) -> dict[str, Any]:
    """Forget a run."""
    removal = runs.remove(database(), path.run_id)
    _lately.forget((database(), path.run_id))
    return {"removal": removal}
