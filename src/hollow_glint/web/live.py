"""Live benches: a bench run that someone is watching, paced by the clock, streamed as server-sent events.

A bench lives while its stream is read. When the reader goes, it waits a few seconds to be picked up again (a phone that
lost its signal) and is then freed. Commands may come at any time; the next frame has them.
"""

from __future__ import annotations

import base64
import json
import secrets
import threading
import time
from collections.abc import Callable, Iterator
from dataclasses import asdict, dataclass, field
from datetime import UTC, datetime
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..core.acoustics import beam
from ..core.bench.bench_run import BenchRun
from ..core.bench.command import Command
from ..core.bench.exercises import Exercise
from ..core.bench.frame import STEP_S, Frame
from ..core.bench.tape import Tape, pings_of_frame
from ..core.fish.events import Event
from ..core.gear.settings import draw, smallest_range
from ..core.reader.evidence import ReaderSetup
from ..core.reader.reader import Reader
from ..core.reader.recording import Recording
from ..core.reader.report import Moment, PictureReading
from ..core.runs.attention import perceived
from ..core.runs.run_log import LONGEST_S, RunLog, RunSetup
from ..core.sonar import picture, receiver, transmission
from ..core.tuning import coach, seen_zone
from ..core.tuning.verdicts import neighbours
from .reading_contract import reading_fields

MOST_LIVE = 16
GRACE_S = 4.0
MET_FRAMES = 20  # an aim must hold for a second
READ_EVERY = 4  # frames between two readings that are told
MOMENT_HOLDS_S = 4.0  # how long a moment stays on the screen
TUNING_EVERY_S = 0.2  # at most: reading faster than this helps nobody


class Full(Exception):
    """There are as many live benches as this machine is asked to run."""


@dataclass
class LiveBench:
    """A bench run with its commands on the way in and the clock on the way out."""

    id: str
    seed: int
    run: BenchRun
    fish_length_m: float
    on_hooked: Callable[[LiveBench, Frame, Event], int | None]
    exercise: Exercise | None = None
    on_met: Callable[[str], None] | None = None
    met_for: int = 0
    setup: RunSetup | None = None
    on_over: Callable[[LiveBench], int | None] | None = None
    ledger: list[tuple[int, Command]] = field(default_factory=list)
    run_id: int | None = None
    scene_changes: int = 0
    commands: list[Command] = field(default_factory=list)
    lock: threading.Lock = field(default_factory=threading.Lock)
    stepping: threading.Lock = field(default_factory=threading.Lock)
    frames_sent: int = 0
    watchers: int = 0
    reader: int = 0
    left_at: float = field(default_factory=time.monotonic)
    freed: bool = False
    pace: float = 1.0
    last: dict[str, Any] | None = None
    watched: bool = False
    tape: Tape = field(default_factory=Tape)
    started: datetime = field(default_factory=lambda: datetime.now(UTC))
    _reader: Reader | None = None
    _reading: PictureReading | None = None
    _moment: Moment | None = None
    _told: tuple[Any, ...] | None = None
    _told_at: float = -1e9

    def command(self, command: Command, fish_length_m: float | None = None) -> int:
        """Queue a command for the next frame; returns the number of the last frame sent. Raises ValueError."""
        if command.settings is not None:
            command.settings.checked(self.run.unit)
        with self.lock:
            self.commands.append(command)
            if fish_length_m is not None:
                self.fish_length_m = fish_length_m
            return self.frames_sent

    def recording(self, name: str) -> Recording:
        """What was shown in the last five minutes. Raises ValueError when there is too little."""
        with self.stepping:
            return self.tape.recording(name, self.run, self.started)

    def _read(self, frame: Frame) -> str:
        """The reading as an event of the stream, while someone wants it."""
        if not self.watched:
            self._reader = self._reading = self._moment = None
            return ""
        scene, run = self.run.scene, self.run
        view = ReaderSetup(run.unit, frame.settings, scene.face_depth_m, scene.temperature_c, run.lure)
        if self._reader is None:
            self._reader = Reader(view)
        else:
            self._reader.turn(view)
        for seen in pings_of_frame(frame, frame.time_s - STEP_S):
            now = self._reader.see(seen)
            self._reading = now if now.complete else self._reading
            for moment in now.moments:
                self._moment = moment
        if self._moment is not None and frame.time_s - self._moment.time_s > MOMENT_HOLDS_S:
            self._moment = None
        if self._reading is None or frame.number % READ_EVERY:
            return ""
        fields = reading_fields(self._reading, self._moment)
        return f"event: reading\ndata: {json.dumps(fields, separators=(',', ':'), allow_nan=False)}\n\n"

    def step(self) -> tuple[Frame, list[dict[str, Any]]]:
        """One frame, with its events as JSON-ready dicts (a hooked fish is in the log before it is told of)."""
        with self.lock:
            commands, self.commands = self.commands, []
        frame = self.run.advance(commands)
        self.frames_sent = frame.number
        self.tape.add(frame)
        if self.setup is not None:
            return self._step_of_run(frame, commands)
        self.scene_changes += any(command.scene is not None for command in commands)
        events = []
        for event in frame.events:
            told = asdict(event)
            told["strike_id"] = self.on_hooked(self, frame, event) if event.kind == "hooked" else None
            events.append(told)
        if self._aim_met():
            events.append({**asdict(Event("aim met", frame.lure_depth_m)), "strike_id": None})
        return frame, events

    def _step_of_run(self, frame: Frame, commands: list[Command]) -> tuple[Frame, list[dict[str, Any]]]:
        """In a run every command is written down, and only what an angler would notice is told."""
        self.ledger += [(frame.number, command) for command in commands]
        felt = perceived(frame)
        events = [{**asdict(event), "strike_id": None} for event in felt.events]
        if any(event.kind == "landed" for event in frame.events) or frame.number >= round(LONGEST_S / STEP_S):
            self.finish()
            events.append({**asdict(Event("run over")), "strike_id": None})
        return felt, events

    def log(self) -> RunLog:
        """The run so far, written down. Raises ValueError before its first frame."""
        assert self.setup is not None
        return RunLog(self.setup, tuple(self.ledger), self.frames_sent)

    def finish(self) -> None:
        """The run is over and kept, once; its stream ends. Called with the stepping lock held."""
        if self.run_id is None and self.on_over is not None:
            self.run_id = self.on_over(self)
        self.freed = True

    def _aim_met(self) -> bool:
        """Whether the exercise's aim has now been met for a second on end; told once."""
        if self.exercise is None or self.met_for >= MET_FRAMES:
            return False
        self.met_for = self.met_for + 1 if self.exercise.met(self.run) else 0
        if self.met_for < MET_FRAMES:
            return False
        if self.on_met is not None:
            self.on_met(self.exercise.key)
        return True

    def stream(self) -> Iterator[str]:
        """Server-sent events, a frame each STEP_S and tuning when it has changed, until the reader goes."""
        with self.lock:
            self.watchers += 1
            self.reader += 1
            mine = self.reader
        try:
            due = time.monotonic()
            self._told = None  # a new reader has heard nothing yet
            # A reader that comes back before its old stream is known to be dead takes over: two would double time.
            while not self.freed and mine == self.reader:
                with self.stepping:
                    frame, events = self.step()
                self.last = frame_fields(frame, events, self.scene_changes, self.run_id)
                text = f"event: frame\ndata: {json.dumps(self.last, separators=(',', ':'), allow_nan=False)}\n\n"
                yield text + self._tuning_if_changed() + self._read(frame)
                due += STEP_S / self.pace
                late = time.monotonic() - due
                if late > 0.5:  # the machine slept or was starved: go on from now rather than race to catch up
                    due = time.monotonic()
                elif late < 0:
                    time.sleep(-late)
        finally:
            with self.lock:
                self.watchers -= 1
                self.left_at = time.monotonic()

    def _tuning_if_changed(self) -> str:
        run = self.run
        shown = run.shown
        lock = None if run.lock_m is None else round(run.lock_m, 1)
        here = (round(run.lure_depth_m, 2), round(shown.top_m / 0.05), round(run.zoom.top_m / 0.05), lock)
        now = (run.settings, run.water, *here, self.fish_length_m)
        if now == self._told or run.time_s - self._told_at < TUNING_EVERY_S:
            return ""
        self._told, self._told_at = now, run.time_s
        return f"event: tuning\ndata: {json.dumps(self.tuning(), separators=(',', ':'), allow_nan=False)}\n\n"

    def tuning(self) -> dict[str, Any]:
        """What the present settings do, as fields of `contract.TuningOut`."""
        return tuning_fields(self.run, self.fish_length_m)


def _packed(levels: NDArray[np.uint8]) -> str:
    return base64.b64encode(levels.tobytes()).decode("ascii")


def frame_fields(
    frame: Frame, events: list[dict[str, Any]], scene_changes: int, run_id: int | None = None
) -> dict[str, Any]:
    """A frame as fields of `contract.FrameOut`; written by hand because twenty a second go to every reader."""
    return {
        "number": frame.number,
        "time_s": frame.time_s,
        "pings": frame.levels.shape[0],
        "rows": frame.levels.shape[1],
        "first_ping": frame.first_ping,
        "levels": _packed(frame.levels),
        "top_m": frame.shown.top_m,
        "bottom_m": frame.shown.bottom_m,
        "window_levels": None if frame.window_levels is None else _packed(frame.window_levels),
        "window_top_m": frame.window_shown.top_m,
        "window_bottom_m": frame.window_shown.bottom_m,
        "found_bottom_m": frame.found_bottom_m,
        "settings": vars(frame.settings),
        "lure_depth_m": frame.lure_depth_m,
        "lure_x": frame.lure_x,
        "lure_rising_m_s": frame.lure_rising_m_s,
        "rod_tip_bend": frame.rod_tip_bend,
        "rod_tip": frame.rod_tip,
        "stick_tip_bend": frame.stick_tip_bend,
        "stick_tip": frame.stick_tip,
        "eyes": frame.eyes,
        "target_depth_m": frame.target_depth_m,
        "lock_m": frame.lock_m,
        "scene_changes": scene_changes,
        "school": frame.school.round(2).tolist(),
        "fish": [vars(fish) for fish in frame.fish],
        "events": events,
        "run_id": run_id,
    }


def _finite(value: float) -> float | None:
    """JSON has no infinity: a floor that no gain reaches is told as null."""
    return float(value) if np.isfinite(value) else None


def tuning_fields(run: BenchRun, fish_length_m: float) -> dict[str, Any]:
    """What the present settings of `run` do, as fields of `contract.TuningOut`."""
    now = run.situation
    scene, unit, settings, t, limits = now.scene, now.unit, now.settings, now.transmission, now.limits
    first_colour = now.first_colour()
    depth = np.linspace(scene.face_depth_m + 0.05, scene.bottom_depth_m, 120)

    def hidden(range_m: NDArray[np.floating[Any]]) -> NDArray[np.floating[Any]]:
        return receiver.taken_off(unit, settings, range_m)

    lure_strength = run.lure.target_strength(t.frequency_hz, t.sound_speed_m_s)
    fish_radius = seen_zone.fish_seen_radius(t, fish_length_m, first_colour, depth, hidden)
    widest = max(float(fish_radius.max()), 0.2)
    offset = np.linspace(0.0, min(2.0 * widest, scene.bottom_range_m), 24)
    width = unit.beams[settings.beam].width_deg
    below = max(run.lure_depth_m - scene.face_depth_m, 0.0)
    return {
        "gain_window": {
            "floor": _finite(limits.floor),
            "ceiling": limits.ceiling,
            "advised": limits.advised,
            "width_db": _finite(limits.width_db),
            "buried": limits.buried,
            "floor_sd": limits.floor_sd,
            "ceiling_sd": limits.ceiling_sd,
        },
        "verdicts": [asdict(v) for v in coach.verdicts(now)],
        "seen_zone": {
            "depth_m": depth.round(3).tolist(),
            "lure_m": seen_zone.seen_radius(t, lure_strength, first_colour, depth, hidden).round(3).tolist(),
            "fish_m": fish_radius.round(3).tolist(),
            "offset_m": offset.round(3).tolist(),
            "dead_zone_top_m": seen_zone.dead_zone_top(scene, t.resolution_m, offset).round(3).tolist(),
            "tilt_rad": t.tilt_rad,
        },
        "fish_length_m": fish_length_m,
        "row_height_m": picture.row_height(unit, run.zoom),
        "resolution_m": t.resolution_m,
        "cone_at_lure_m": beam.footprint_diameter(below, width),
        "cone_at_bottom_m": beam.footprint_diameter(scene.bottom_range_m, width),
        "ping_rate_hz": run.ping_rate_hz,
        "lag_s": receiver.lag(unit, settings, run.ping_rate_hz),
        "smallest_range_m": smallest_range(unit, scene.bottom_range_m),
        "draw_a": draw(unit, settings),
        "neighbour_percent": 100.0 * neighbours.neighbour_share(now, settings),
        "second_echo_m": transmission.second_echo_range(scene),
    }


class LiveBenches:
    """All live benches of this program, at most `most`; their water runs `pace` times as fast as life."""

    def __init__(self, most: int = MOST_LIVE, pace: float = 1.0) -> None:
        self.most = most
        self.pace = pace
        self._benches: dict[str, LiveBench] = {}
        self._lock = threading.Lock()

    def add(
        self,
        run: BenchRun,
        seed: int,
        fish_length_m: float,
        on_hooked: Callable[[LiveBench, Frame, Event], int | None],
        exercise: Exercise | None = None,
        on_met: Callable[[str], None] | None = None,
        setup: RunSetup | None = None,
        on_over: Callable[[LiveBench], int | None] | None = None,
    ) -> LiveBench:
        """Start a bench, or raise Full."""
        with self._lock:
            self._free_abandoned()
            if len(self._benches) >= self.most:
                raise Full
            bench = LiveBench(
                secrets.token_urlsafe(12), seed, run, fish_length_m, on_hooked, exercise, on_met, pace=self.pace,
                setup=setup, on_over=on_over,
            )  # fmt: skip
            self._benches[bench.id] = bench
        return bench

    def get(self, bench_id: str) -> LiveBench | None:
        """The bench with this id, or None if it was never there or has been freed."""
        with self._lock:
            self._free_abandoned()
            return self._benches.get(bench_id)

    def free(self, bench_id: str) -> bool:
        """End a bench; False if it was not there."""
        with self._lock:
            bench = self._benches.pop(bench_id, None)
        if bench is None:
            return False
        bench.freed = True
        return True

    def count(self) -> int:
        """How many benches are live."""
        with self._lock:
            self._free_abandoned()
            return len(self._benches)

    def _free_abandoned(self) -> None:
        # A bench costs nothing while nobody reads it, so looking when asked is soon enough.
        now = time.monotonic()
        for bench_id, bench in list(self._benches.items()):
            if bench.watchers == 0 and now - bench.left_at > GRACE_S:
                bench.freed = True
                del self._benches[bench_id]
