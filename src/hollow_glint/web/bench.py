"""The Bench step: units, lures, and the living picture with its commands."""

from __future__ import annotations

import secrets
from datetime import UTC, datetime
from typing import Any

import numpy as np
from flask import Response, current_app, stream_with_context
from flask_openapi3 import APIBlueprint, Tag

from ..core.bench_run import STEP_S, BenchRun, Command, Event, Frame
from ..core.checks import InputError
from ..core.unit import Settings, starting_settings
from ..store import holes, lures, strikes, units
from .contract import (
    BODY_PROBLEMS,
    Accepted,
    BenchOut,
    BenchPath,
    BenchWanted,
    CommandFields,
    FrameOut,
    HoleOut,
    LureList,
    LureOut,
    Problem,
    SettingsOut,
    TuningOut,
    UnitList,
    UnitOut,
    plain,
)
from .live import Full, LiveBench, LiveBenches
from .problems import problem

api = APIBlueprint("bench", __name__, url_prefix="/api", abp_tags=[Tag(name="Bench")])


def _benches() -> LiveBenches:
    live: LiveBenches = current_app.config["live_benches"]
    return live


def _gone(bench_id: str) -> Response:
    return problem(404, f"There is no live bench {bench_id[:24]!r}. It may have been freed; start another.")


def _unit_out(unit: units.Unit) -> dict[str, Any]:
    return plain({"id": unit.id, **vars(unit.profile)}, UnitOut)


def _lure_out(lure: lures.Lure) -> dict[str, Any]:
    return plain({"id": lure.id, **vars(lure.lure)}, LureOut)


@api.get("/units", responses={200: UnitList})
def list_units() -> dict[str, Any]:
    """All units."""
    return {"units": [_unit_out(unit) for unit in units.every(current_app.config["database"])]}


@api.get("/lures", responses={200: LureList})
def list_lures() -> dict[str, Any]:
    """All lures."""
    return {"lures": [_lure_out(lure) for lure in lures.every(current_app.config["database"])]}


@api.post("/benches", responses={201: BenchOut, 404: Problem, 503: Problem, **BODY_PROBLEMS})
def start_bench(body: BenchWanted) -> tuple[dict[str, Any], int] | Response:
    """Start a live bench at a hole with a unit and a lure. Read its stream within a few seconds."""
    database = current_app.config["database"]
    hole = holes.get(database, body.hole_id)
    unit = units.get(database, body.unit_id)
    lure = lures.get(database, body.lure_id)
    scene = hole.scene()
    if scene.bottom_range_m > unit.profile.ranges_m[-1]:
        raise InputError(
            f"bottom_depth_m is {scene.bottom_depth_m:g} m: the largest range of the {unit.profile.name} is "
            f"{unit.profile.ranges_m[-1]:g} m below its face, so choose another unit or a shallower hole"
        )
    settings = starting_settings(unit.profile, scene.bottom_range_m)
    seed = secrets.randbits(53) if body.seed is None else body.seed
    run = BenchRun(scene, unit.profile, settings, lure.lure, np.random.default_rng(seed))

    def log_strike(bench: LiveBench, frame: Frame, event: Event) -> int:
        """Write a hooked fish into the log: before anyone is told of it."""
        strike = strikes.Strike(
            id=0,
            hole_id=hole.id,
            unit_id=unit.id,
            lure_id=lure.id,
            struck_at=datetime.now(UTC).strftime("%Y-%m-%dT%H:%M:%SZ"),
            depth_m=event.depth_m,
            fish_length_m=event.fish_length_m,
            settings=frame.settings,
            note="",
            source_key=f"bench {bench.id} frame {frame.number}",
        )
        return strikes.add(database, strike).id

    try:
        bench = _benches().add(run, seed, body.fish_length_m, log_strike)
    except Full:
        return problem(
            503,
            f"All {_benches().most} live benches are in use. Close the Bench in another window, or wait a few seconds "
            "and try again.",
        )
    return {
        "id": bench.id,
        "seed": seed,
        "frame_s": STEP_S,
        "hole": plain(hole, HoleOut),
        "unit": _unit_out(unit),
        "lure": _lure_out(lure),
        "settings": plain(settings, SettingsOut),
    }, 201


@api.get("/benches/<bench_id>/stream", responses={404: Problem})
def stream_bench(path: BenchPath) -> Response:
    """The living picture as server-sent events: `frame` (FrameOut) twenty a second, `tuning` (TuningOut) on change."""
    bench = _benches().get(path.bench_id)
    if bench is None:
        return _gone(path.bench_id)
    answer = Response(stream_with_context(bench.stream()), mimetype="text/event-stream")
    answer.headers["Cache-Control"] = "no-store"
    answer.headers["X-Accel-Buffering"] = "no"
    return answer


@api.get("/benches/<bench_id>/frame", responses={200: FrameOut, 404: Problem})
def bench_frame(path: BenchPath) -> dict[str, Any] | Response:
    """The newest frame of the stream, for a look without reading it."""
    bench = _benches().get(path.bench_id)
    if bench is None:
        return _gone(path.bench_id)
    return bench.last or problem(404, "This bench has no frame yet: read its stream first.")


@api.get("/benches/<bench_id>/tuning", responses={200: TuningOut, 404: Problem})
def bench_tuning(path: BenchPath) -> dict[str, Any] | Response:
    """What the present settings do: gain window, verdicts, seen zone."""
    bench = _benches().get(path.bench_id)
    return _gone(path.bench_id) if bench is None else bench.tuning()


@api.post("/benches/<bench_id>/commands", responses={202: Accepted, 404: Problem, **BODY_PROBLEMS})
def command_bench(path: BenchPath, body: CommandFields) -> tuple[dict[str, Any], int] | Response:
    """Turn a knob, move the lure, look at the rod tip, set the hook."""
    bench = _benches().get(path.bench_id)
    if bench is None:
        return _gone(path.bench_id)
    fields = body.model_dump(exclude={"settings", "fish_length_m"})
    settings = None if body.settings is None else Settings(**body.settings.model_dump())
    return {"frame": bench.command(Command(settings=settings, **fields), body.fish_length_m)}, 202


@api.delete("/benches/<bench_id>", responses={204: None, 404: Problem})
def end_bench(path: BenchPath) -> tuple[str, int] | Response:
    """End a live bench."""
    return ("", 204) if _benches().free(path.bench_id) else _gone(path.bench_id)
