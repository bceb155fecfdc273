"""Live benches: a bench run that someone is watching. Commands may come at any time; the next frame has them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict, dataclass, field
from datetime import UTC, datetime
from typing import Any, Protocol

import numpy as np

from ...core.bench.bench_run import BenchRun
from ...core.bench.command import Command
from ...core.bench.frame import STEP_S, Frame
from ...core.bench.live_reader import LiveReader
from ...core.bench.tape import Tape
from ...core.bench.tuning_report import TuningReport, tuning_report
from ...core.reader.recording import Recording
from ..lives import Live, Lives, event, new_id, packed
from ..read.recording_contract import reading_fields

MOST_LIVE = 16
READ_EVERY = 4  # frames between two readings that are told
TUNING_EVERY_S = 0.2  # at most: reading faster than this helps nobody

Told = list[dict[str, Any]]


class Play(Protocol):
    """What is being played on a bench: open water, an exercise, a run."""

    @property
    def run(self) -> BenchRun:
        """The water as it is."""

    @property
    def hides_truth(self) -> bool:
        """Whether the truth is nobody's to know until it is over."""

    @property
    def over_as(self) -> int | None:
        """In a run that is over and kept: its id."""

    def step(self, commands: Sequence[Command]) -> tuple[Frame, Told, bool]:
        """One frame more, its events as fields of `EventOut`, and whether it ends there."""


@dataclass
class LiveBench(Live):
    """A bench with its commands on the way in and the clock on the way out."""

    seed: int
    play: Play
    fish_length_m: float
    tape: Tape = field(default_factory=Tape)
    scene_changes: int = 0
    commands: list[Command] = field(default_factory=list)
    frames_sent: int = 0
    last: dict[str, Any] | None = None
    watched: bool = False
    started: datetime = field(default_factory=lambda: datetime.now(UTC))
    _reads: LiveReader | None = None
    _told: tuple[Any, ...] | None = None
    _told_at: float = -1e9

    @property
    def run(self) -> BenchRun:
        """The bench run behind it."""
        return self.play.run

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

    def step(self) -> tuple[Frame, Told]:
        """One frame, with its events as JSON-ready dicts."""
        with self.lock:
            commands, self.commands = self.commands, []
        frame, events, ends = self.play.step(commands)
        self.frames_sent = frame.number
        self.tape.add(frame)
        self.scene_changes += any(command.scene is not None for command in commands)
        self.freed = self.freed or ends
        return frame, events

    def new_reader(self) -> None:
        """One who has heard of no tuning yet."""
        self._told = None

    def next_event(self) -> str:
        """A frame each STEP_S, tuning when it has changed, and the reading while someone wants it."""
        with self.stepping:
            frame, events = self.step()
        self.last = frame_fields(frame, events, self.scene_changes, self.play.over_as)
        return event("frame", self.last) + self._tuning_if_changed() + self._read(frame)

    def _read(self, frame: Frame) -> str:
        """The reading as an event of the stream, while someone wants it."""
        if not self.watched:
            self._reads = None
            return ""
        if self._reads is None:
            self._reads = LiveReader(self.run.unit, self.run.lure)
        self._reads.see(frame, self.run.scene)
        if self._reads.reading is None or frame.number % READ_EVERY:
            return ""
        return event("reading", reading_fields(self._reads.reading, self._reads.moment))

    def _tuning_if_changed(self) -> str:
        run = self.run
        shown = run.shown
        lock = None if run.lock_m is None else round(run.lock_m, 1)
        here = (round(run.lure_depth_m, 2), round(shown.top_m / 0.05), round(run.zoom.top_m / 0.05), lock)
        now = (run.settings, run.water, *here, self.fish_length_m)
        if now == self._told or run.time_s - self._told_at < TUNING_EVERY_S:
            return ""
        self._told, self._told_at = now, run.time_s
        return event("tuning", self.tuning())

    def tuning(self) -> dict[str, Any]:
        """What the present settings do, as fields of `contract.TuningOut`."""
        return tuning_fields(tuning_report(self.run, self.fish_length_m))


# What a frame's fields are that go out as they are.
SAME = ("number", "time_s", "first_ping", "found_bottom_m", "lure_depth_m", "lure_x", "lure_rising_m_s", "rod_tip_bend",
        "rod_tip", "stick_tip_bend", "stick_tip", "eyes", "target_depth_m", "lock_m")  # fmt: skip


def frame_fields(frame: Frame, events: Told, scene_changes: int, run_id: int | None = None) -> dict[str, Any]:
    """A frame as fields of `contract.FrameOut`; not by way of the model, because twenty a second go to every reader."""
    return {
        **{name: getattr(frame, name) for name in SAME},
        "pings": frame.levels.shape[0],
        "rows": frame.levels.shape[1],
        "levels": packed(frame.levels),
        "top_m": frame.shown.top_m,
        "bottom_m": frame.shown.bottom_m,
        "window_levels": None if frame.window_levels is None else packed(frame.window_levels),
        "window_top_m": frame.window_shown.top_m,
        "window_bottom_m": frame.window_shown.bottom_m,
        "settings": vars(frame.settings),
        "scene_changes": scene_changes,
        "school": frame.school.round(2).tolist(),
        "fish": [vars(fish) for fish in frame.fish],
        "events": events,
        "run_id": run_id,
    }


def _finite(value: float) -> float | None:
    """JSON has no infinity: a floor that no gain reaches is told as null."""
    return float(value) if np.isfinite(value) else None


def tuning_fields(report: TuningReport) -> dict[str, Any]:
    """A report as fields of `contract.TuningOut`."""
    limits = report.gain_window
    lines = {name: value for name, value in vars(report.seen_zone).items() if name != "tilt_rad"}
    return {
        **vars(report),
        "gain_window": {
            **{name: getattr(limits, name) for name in ("ceiling", "buried", "floor_sd", "ceiling_sd", "advised")},
            "floor": _finite(limits.floor),
            "width_db": _finite(limits.width_db),
        },
        "verdicts": [asdict(one) for one in report.verdicts],
        "seen_zone": {
            **{name: value.round(3).tolist() for name, value in lines.items()},
            "tilt_rad": report.seen_zone.tilt_rad,
        },
    }


class LiveBenches(Lives[LiveBench]):
    """All live benches of this program."""

    what, where = "benches", "Bench"

    def __init__(self, most: int = MOST_LIVE, pace: float = 1.0) -> None:
        super().__init__(most, pace)

    def add(self, play: Play, seed: int, fish_length_m: float, bench_id: str | None = None) -> LiveBench:
        """Start a bench, or raise Full."""
        return self.put(LiveBench(seed, play, fish_length_m, id=bench_id or new_id(), frame_s=STEP_S / self.pace))
