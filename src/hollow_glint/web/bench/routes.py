"""The Bench step: the living picture with its commands, at a hole, in a kept scene or in an exercise."""

from __future__ import annotations

import secrets
from collections.abc import Callable
from dataclasses import asdict, dataclass
from typing import Any

import numpy as np
from flask import Response, current_app

from ...core.bench.bench_run import BenchRun
from ...core.bench.command import Command
from ...core.bench.exercises import EXERCISES, Exercise
from ...core.bench.frame import Frame
from ...core.card.hole_card import hole_card
from ...core.card.known_hole import KnownHole
from ...core.checks import InputError, named
from ...core.fields import from_fields
from ...core.fish.events import Event
from ...core.fish.states import Newcomer
from ...core.gear.lures import OFF_BOTTOM_M, Lure
from ...core.gear.settings import Settings, starting_settings
from ...core.gear.unit import UnitProfile
from ...core.hole.scene import Scene
from ...core.search.to_bench import under_hole
from ...core.sonar import receiver
from ...core.tuning import touched_mark
from ...store import exercises, hole_cards, holes, lures, scenes, strikes, units
from ..blueprint import StepBlueprint
from ..card.here import card_at, lure_depth_at, water_at
from ..contract import BODY, BenchPath, Problem, answers, plain
from ..database import database, utc
from ..keeping import Keeper
from ..lives import Gone, new_id, streamed
from ..problems import problem
from ..search.looks import water_of
from .contract import (
    Accepted,
    BenchOut,
    BenchWanted,
    CommandFields,
    DrilledAt,
    FrameOut,
    MarkOut,
    MarkWanted,
    TuningOut,
)
from .first_fish import FirstFish
from .live import LiveBench, LiveBenches, frame_fields
from .open_water import OpenWater

OFF_FISH_M = 0.6  # a lure is let down so far above the first that comes. Common practice, no source
LOOK_BACK_S = 30.0  # of water that is on the picture when it opens

api = StepBlueprint("bench", __name__, "Bench")


def live_benches() -> LiveBenches:
    """The program's live benches."""
    live: LiveBenches = current_app.config["live_benches"]
    return live


def keeper() -> Keeper:
    """What keeps strikes and runs."""
    found: Keeper = current_app.config["keeper"]
    return found


def find_bench(bench_id: str) -> LiveBench:
    """The live bench with this id, or Gone."""
    bench = live_benches().get(bench_id)
    if bench is None:
        raise Gone("bench", bench_id)
    return bench


def bench_fields(bench: LiveBench, title: str, hole_id: int | None) -> dict[str, Any]:
    """A bench as it begins, as fields of `BenchOut`."""
    run = bench.run
    return {
        "id": bench.id, "seed": bench.seed, "frame_s": bench.frame_s, "title": title, "hole_id": hole_id,
        "exercise": None, "scene": asdict(run.scene), "unit": asdict(run.unit), "lure": asdict(run.lure),
        "settings": asdict(run.settings), "lure_depth_m": run.lure_depth_m,
    }  # fmt: skip


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
    margins_db: tuple[float, float] = (0.0, 0.0)
    comers: tuple[Newcomer, ...] | None = None


def _start(body: BenchWanted) -> Start:
    """Where `body` asks to start. Raises ValueError or NotFound."""
    store = database()
    asked = [name for name in ("hole_id", "scene_id", "exercise", "drilled_at") if getattr(body, name) is not None]
    if len(asked) != 1:
        raise InputError(
            f"{' and '.join(asked) or 'hole_id'}: one of hole_id, scene_id, exercise and drilled_at is accepted"
        )
    unit = None if body.unit_id is None else units.get(store, body.unit_id).profile
    lure = None if body.lure_id is None else lures.get(store, body.lure_id).lure
    if body.hole_id is not None:
        if unit is None or lure is None:
            raise InputError("unit_id or lure_id is missing: a bench at a hole needs both")
        hole = holes.get(store, body.hole_id).hole
        scene = (
            water_at(hole, body.hole_id)
            if body.scene is None
            else from_fields(Scene, body.scene.model_dump(), "the scene")
        )
        settings, margins = starting_settings(unit, scene.bottom_range_m), (0.0, 0.0)
        if scene.bottom_range_m <= unit.ranges_m[-1]:  # one that is not reached is refused below, by its own words
            card = card_at(body.hole_id, unit, lure)
            settings, margins = card.settings, card.margins_db
        if body.settings is not None:
            settings = from_fields(Settings, body.settings.model_dump(), "the settings").checked(unit)
        # Where the card has it hang, so that the first look is a living picture and card and Bench agree.
        lure_depth_m = lure_depth_at(body.hole_id, scene) if body.lure_depth_m is None else body.lure_depth_m
        return Start(hole.name, scene, unit, lure, settings, lure_depth_m, margins_db=margins)
    if body.drilled_at is not None:
        return _drilled(body.drilled_at, unit, lure)
    if body.scene_id is not None:
        saved = scenes.get(store, body.scene_id).saved
        settings = saved.settings
        if unit is not None and unit != saved.unit:
            settings = starting_settings(unit, saved.scene.bottom_range_m)
        lure = lure or saved.lure
        return Start(saved.name, saved.scene, unit or saved.unit, lure, settings, saved.lure_depth_m, saved.seed)
    one = named("exercise", body.exercise or "", EXERCISES)
    return Start(one.title, one.scene, one.unit, one.lure, one.settings, one.lure_depth_m, exercise=one)


def _drilled(at: DrilledAt, unit: UnitProfile | None, lure: Lure | None) -> Start:
    """A new hole in water that was looked at: what the look saw is what is there, and whoever swims there comes."""
    if unit is None or lure is None:
        raise InputError("unit_id or lure_id is missing: a bench at a hole needs both")
    water = water_of(database(), at, at.seed)
    there = under_hole(water, at.hole_east_m, at.hole_north_m, at.at_s)
    scene = there.scene
    settings = starting_settings(unit, scene.bottom_range_m)
    if scene.bottom_range_m <= unit.ranges_m[-1]:
        known = KnownHole(scene.bottom_depth_m, ice_thickness_m=scene.ice_thickness_m, face_depth_m=scene.face_depth_m)
        settings = hole_card(known, unit, lure).settings
    depth = there.comers[0].home_m - OFF_FISH_M if there.comers else scene.bottom_depth_m - OFF_BOTTOM_M
    depth = max(depth, scene.face_depth_m + OFF_FISH_M)
    return Start("New hole", scene, unit, lure, settings, depth, at.seed, comers=there.comers)


@api.post("/benches", responses=answers(201, BenchOut, 404, 503, *BODY))
def start_bench(body: BenchWanted) -> tuple[dict[str, Any], int]:
    """Start a live bench at a hole, in a kept scene or in an exercise. Read its stream within a few seconds."""
    store, start = database(), _start(body)
    if start.scene.bottom_range_m > start.unit.ranges_m[-1]:
        raise InputError(
            f"bottom_depth_m is {start.scene.bottom_depth_m:g} m: the largest range of the {start.unit.name} is "
            f"{start.unit.ranges_m[-1]:g} m below its face, so choose another unit or a shallower hole"
        )
    first_fish: FirstFish = current_app.config["first_fish"]
    seed = next((one for one in (body.seed, start.seed) if one is not None), None)
    if seed is None and body.hole_id is not None:
        seed = first_fish.seed()
    seed = secrets.randbits(53) if seed is None else seed
    run = BenchRun(
        start.scene, start.unit, start.settings, start.lure, np.random.default_rng(seed), start.lure_depth_m,
        schedule=start.comers, first=None if body.hole_id is None else first_fish.at(start.scene),
    )  # fmt: skip
    run.margins_db = start.margins_db
    past = run.look_back(LOOK_BACK_S)
    bench_id = new_id()

    def logs_strike(frame: Frame, event: Event) -> Callable[[], int] | None:
        """Write a hooked fish into the log. Practice is not logged."""
        if body.hole_id is None or body.unit_id is None or body.lure_id is None:
            return None
        strike = strikes.Strike(
            id=0,
            hole_id=body.hole_id,
            unit_id=body.unit_id,
            lure_id=body.lure_id,
            struck_at=utc(),
            depth_m=event.depth_m,
            fish_length_m=event.fish_length_m,
            settings=frame.settings,
            note="",
            source_key=f"bench {bench_id} frame {frame.number}",
        )
        return lambda: strikes.add(store, strike).id

    def finished() -> None:
        key = start.exercise.key if start.exercise else ""
        kept.submit(lambda: exercises.finish(store, key), "An exercise")

    def keeps_knobs(settings: Settings) -> Callable[[], None]:
        turned = hole_cards.Turned(body.unit_id or 0, body.lure_id, settings, utc())
        return lambda: hole_cards.turn(store, body.hole_id or 0, turned)

    kept = keeper()
    at_hole = body.hole_id is not None and body.scene is None
    play = OpenWater(run, kept, logs_strike, start.exercise, finished, keeps_knobs if at_hole else None)
    bench = live_benches().add(play, seed, body.fish_length_m, bench_id)
    fields = bench_fields(bench, start.title, body.hole_id)
    fields["past"] = frame_fields(past, [], 0)
    if start.exercise is not None:
        fields["exercise"] = {**vars(start.exercise), "done_at": exercises.done(store).get(start.exercise.key)}
    return plain(fields, BenchOut), 201


@api.get("/benches/<bench_id>/stream", responses={404: Problem})
def stream_bench(path: BenchPath) -> Response:
    """The living picture as server-sent events: `frame` (FrameOut) twenty a second, `tuning` (TuningOut) on change."""
    return streamed(find_bench(path.bench_id))


@api.get("/benches/<bench_id>/frame", responses=answers(200, FrameOut, 404))
def bench_frame(path: BenchPath) -> dict[str, Any] | Response:
    """The newest frame of the stream, for a look without reading it."""
    bench = find_bench(path.bench_id)
    return bench.last or problem(404, "This bench has no frame yet: read its stream first.")


@api.get("/benches/<bench_id>/tuning", responses=answers(200, TuningOut, 404))
def bench_tuning(path: BenchPath) -> dict[str, Any]:
    """What the present settings do: gain window, verdicts, seen zone."""
    return find_bench(path.bench_id).tuning()


@api.post("/benches/<bench_id>/commands", responses=answers(202, Accepted, 404, *BODY))
def command_bench(path: BenchPath, body: CommandFields) -> tuple[dict[str, Any], int]:
    """Turn a knob, move the lure, look at the rod tip, set the hook."""
    bench = find_bench(path.bench_id)
    fields = body.model_dump()
    fish_length_m, read = fields.pop("fish_length_m"), fields.pop("read")
    command = from_fields(Command, fields, "the command")
    if bench.play.hides_truth and command.scene is not None:
        raise InputError("scene is given: the water of a run is what it is, so none is accepted")
    if read is not None:
        bench.watched = read
    return {"frame": bench.command(command, fish_length_m)}, 202


@api.get("/benches/<bench_id>/mark", responses=answers(200, MarkOut, 404, 409, 422))
def bench_mark(path: BenchPath, query: MarkWanted) -> dict[str, Any] | Response:
    """What made the mark at a range, in the newest ping or in one of the last five minutes."""
    bench = find_bench(path.bench_id)
    run = bench.run
    if bench.play.hides_truth:
        return problem(409, "In a run the truth is hidden until the debrief.")
    with bench.stepping:
        heard = list(run.heard)
    wanted = [one for one in heard if query.ping is None or one.number == query.ping]
    if not wanted:
        return problem(404, "That ping is not remembered: the last five minutes are.")
    off = receiver.taken_off(run.unit, run.settings, np.array([query.range_m]))[0]
    dark_db = receiver.first_colour_level(run.unit, run.settings) + float(off)
    return plain(touched_mark.explain(run.water, wanted[-1], query.range_m, dark_db), MarkOut)


@api.delete("/benches/<bench_id>", responses=answers(204, None, 404))
def end_bench(path: BenchPath) -> tuple[str, int]:
    """End a live bench."""
    if not live_benches().free(path.bench_id):
        raise Gone("bench", path.bench_id)
    return "", 204
