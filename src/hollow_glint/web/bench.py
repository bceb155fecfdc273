"""The Bench step: the living picture with its commands, at a hole, in a kept scene or in an exercise."""

from __future__ import annotations

import secrets
from dataclasses import asdict, dataclass
from datetime import UTC, datetime
from typing import Any

import numpy as np
from flask import Response, current_app, stream_with_context
from flask_openapi3 import APIBlueprint, Tag

from ..core.bench import exercises as core_exercises
from ..core.bench.bench_run import BenchRun
from ..core.bench.command import Command
from ..core.bench.exercises import Exercise
from ..core.bench.frame import STEP_S, Frame
from ..core.checks import InputError
from ..core.fish.events import Event
from ..core.gear.lures import Lure
from ..core.gear.settings import Settings, starting_settings
from ..core.gear.unit import UnitProfile
from ..core.hole.scene import Scene, scene_from_dict
from ..core.sonar import receiver
from ..core.tuning import touched_mark
from ..store import exercises, holes, lures, scenes, strikes, units
from ..store.database import Database
from .contract import (
    BODY_PROBLEMS,
    Accepted,
    BenchOut,
    BenchPath,
    BenchWanted,
    CommandFields,
    FrameOut,
    MarkOut,
    MarkWanted,
    Problem,
    TuningOut,
    plain,
)
from .live import Full, LiveBench, LiveBenches
from .problems import problem

api = APIBlueprint("bench", __name__, url_prefix="/api", abp_tags=[Tag(name="Bench")])


def live_benches() -> LiveBenches:
    """The program's live benches."""
    live: LiveBenches = current_app.config["live_benches"]
    return live


def find_bench(bench_id: str) -> LiveBench | None:
    """The live bench with this id."""
    return live_benches().get(bench_id)


def gone(bench_id: str) -> Response:
    return problem(404, f"There is no live bench {bench_id[:24]!r}. It may have been freed; start another.")


@dataclass(frozen=True)
class Start:
    """What a bench starts from."""

    title: str
    scene: Scene
    unit: UnitProfile
    lure: Lure
    settings: Settings
    lure_depth_m: float | None = None
    seed: int | None = None
    exercise: Exercise | None = None


def _start(database: Database, body: BenchWanted) -> Start:
    """Where `body` asks to start. Raises ValueError or NotFound."""
    asked = [name for name in ("hole_id", "scene_id", "exercise") if getattr(body, name) is not None]
    if len(asked) != 1:
        raise InputError(f"{' and '.join(asked) or 'hole_id'}: one of hole_id, scene_id and exercise is accepted")
    unit = None if body.unit_id is None else units.get(database, body.unit_id).profile
    lure = None if body.lure_id is None else lures.get(database, body.lure_id).lure
    if body.hole_id is not None:
        if unit is None or lure is None:
            raise InputError("unit_id or lure_id is missing: a bench at a hole needs both")
        hole = holes.get(database, body.hole_id)
        settings = starting_settings(unit, hole.scene().bottom_range_m)
        if body.settings is not None:
            settings = Settings(**body.settings.model_dump()).checked(unit)
        return Start(hole.name, hole.scene(), unit, lure, settings, body.lure_depth_m)
    if body.scene_id is not None:
        saved = scenes.get(database, body.scene_id).saved
        settings = saved.settings
        if unit is not None and unit != saved.unit:
            settings = starting_settings(unit, saved.scene.bottom_range_m)
        lure = lure or saved.lure
        return Start(saved.name, saved.scene, unit or saved.unit, lure, settings, saved.lure_depth_m, saved.seed)
    one = core_exercises.exercise(body.exercise or "")
    return Start(one.title, one.scene, one.unit, one.lure, one.settings, one.lure_depth_m, exercise=one)


@api.post("/benches", responses={201: BenchOut, 404: Problem, 503: Problem, **BODY_PROBLEMS})
def start_bench(body: BenchWanted) -> tuple[dict[str, Any], int] | Response:
    """Start a live bench at a hole, in a kept scene or in an exercise. Read its stream within a few seconds."""
    database = current_app.config["database"]
    start = _start(database, body)
    if start.scene.bottom_range_m > start.unit.ranges_m[-1]:
        raise InputError(
            f"bottom_depth_m is {start.scene.bottom_depth_m:g} m: the largest range of the {start.unit.name} is "
            f"{start.unit.ranges_m[-1]:g} m below its face, so choose another unit or a shallower hole"
        )
    seed = next((one for one in (body.seed, start.seed) if one is not None), None)
    seed = secrets.randbits(53) if seed is None else seed
    run = BenchRun(start.scene, start.unit, start.settings, start.lure, np.random.default_rng(seed), start.lure_depth_m)

    def log_strike(bench: LiveBench, frame: Frame, event: Event) -> int | None:
        """Write a hooked fish into the log: before anyone is told of it. Practice is not logged."""
        if body.hole_id is None or body.unit_id is None or body.lure_id is None:
            return None
        strike = strikes.Strike(
            id=0,
            hole_id=body.hole_id,
            unit_id=body.unit_id,
            lure_id=body.lure_id,
            struck_at=datetime.now(UTC).strftime("%Y-%m-%dT%H:%M:%SZ"),
            depth_m=event.depth_m,
            fish_length_m=event.fish_length_m,
            settings=frame.settings,
            note="",
            source_key=f"bench {bench.id} frame {frame.number}",
        )
        return strikes.add(database, strike).id

    def finish(key: str) -> None:
        exercises.finish(database, key)

    try:
        bench = live_benches().add(run, seed, body.fish_length_m, log_strike, start.exercise, finish)
    except Full:
        return problem(
            503,
            f"All {live_benches().most} live benches are in use. Close the Bench in another window, or wait a few "
            "seconds and try again.",
        )
    done = exercises.done(database)
    return plain(
        {
            "id": bench.id,
            "seed": seed,
            "frame_s": STEP_S / bench.pace,
            "title": start.title,
            "hole_id": body.hole_id,
            "exercise": start.exercise and {**vars(start.exercise), "done_at": done.get(start.exercise.key)},
            "scene": asdict(start.scene),
            "unit": asdict(start.unit),
            "lure": asdict(start.lure),
            "settings": asdict(run.settings),
            "lure_depth_m": run.lure_depth_m,
        },
        BenchOut,
    ), 201


@api.get("/benches/<bench_id>/stream", responses={404: Problem})
def stream_bench(path: BenchPath) -> Response:
    """The living picture as server-sent events: `frame` (FrameOut) twenty a second, `tuning` (TuningOut) on change."""
    bench = live_benches().get(path.bench_id)
    if bench is None:
        return gone(path.bench_id)
    answer = Response(stream_with_context(bench.stream()), mimetype="text/event-stream")
    answer.headers["Cache-Control"] = "no-store"
    answer.headers["X-Accel-Buffering"] = "no"
    return answer


@api.get("/benches/<bench_id>/frame", responses={200: FrameOut, 404: Problem})
def bench_frame(path: BenchPath) -> dict[str, Any] | Response:
    """The newest frame of the stream, for a look without reading it."""
    bench = live_benches().get(path.bench_id)
    if bench is None:
        return gone(path.bench_id)
    return bench.last or problem(404, "This bench has no frame yet: read its stream first.")


@api.get("/benches/<bench_id>/tuning", responses={200: TuningOut, 404: Problem})
def bench_tuning(path: BenchPath) -> dict[str, Any] | Response:
    """What the present settings do: gain window, verdicts, seen zone."""
    bench = live_benches().get(path.bench_id)
    return gone(path.bench_id) if bench is None else bench.tuning()


@api.post("/benches/<bench_id>/commands", responses={202: Accepted, 404: Problem, **BODY_PROBLEMS})
def command_bench(path: BenchPath, body: CommandFields) -> tuple[dict[str, Any], int] | Response:
    """Turn a knob, move the lure, look at the rod tip, set the hook."""
    bench = live_benches().get(path.bench_id)
    if bench is None:
        return gone(path.bench_id)
    fields = body.model_dump(exclude={"settings", "scene", "fish_length_m", "read"})
    if bench.setup is not None and body.scene is not None:
        raise InputError("scene is given: the water of a run is what it is, so none is accepted")
    if body.read is not None:
        bench.watched = body.read
    settings = None if body.settings is None else Settings(**body.settings.model_dump())
    scene = None if body.scene is None else scene_from_dict(body.scene.model_dump())
    return {"frame": bench.command(Command(settings=settings, scene=scene, **fields), body.fish_length_m)}, 202


@api.get("/benches/<bench_id>/mark", responses={200: MarkOut, 404: Problem, 409: Problem, 422: Problem})
def bench_mark(path: BenchPath, query: MarkWanted) -> dict[str, Any] | Response:
    """What made the mark at a range, in the newest ping or in one of the last five minutes."""
    bench = live_benches().get(path.bench_id)
    if bench is None:
        return gone(path.bench_id)
    run = bench.run
    if bench.setup is not None:
        return problem(409, "In a run the truth is hidden until the debrief.")
    with bench.stepping:
        heard = list(run.heard)
    wanted = [one for one in heard if query.ping is None or one.number == query.ping]
    if not wanted:
        return problem(404, "That ping is not remembered: the last five minutes are.")
    off = receiver.taken_off(run.unit, run.settings, np.array([query.range_m]))[0]
    dark_db = receiver.first_colour_level(run.unit, run.settings) + float(off)
    return plain(touched_mark.explain(run.water, wanted[-1], query.range_m, dark_db), MarkOut)


@api.delete("/benches/<bench_id>", responses={204: None, 404: Problem})
def end_bench(path: BenchPath) -> tuple[str, int] | Response:
    """End a live bench."""
    return ("", 204) if live_benches().free(path.bench_id) else gone(path.bench_id)
