"""What is played on the Bench: open water, in which every hooked fish goes into the log, or an exercise."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import asdict
from typing import Any

from ...core.bench.bench_run import BenchRun
from ...core.bench.command import Command
from ...core.bench.exercises import AimWatch, Exercise
from ...core.bench.frame import Frame
from ...core.fish.events import Event
from ...core.gear.settings import Settings
from ..keeping import Keeper, Pending

REST_S = 2.0  # after which a knob that is not turned any more stands where it stands
WAITS_S = 0.25  # for a strike to be in the log before its fish is told of; longer would stop the picture

# Writes a hooked fish into the log and gives the strike's id; None where practice is not logged.
KeepsKnobs = Callable[[Settings], Callable[[], None]]
LogsStrike = Callable[[Frame, Event], Callable[[], int] | None]


class OpenWater:
    """A bench at a hole, in a kept scene or in an exercise."""

    hides_truth = False
    over_as: int | None = None

    def __init__(
        self,
        run: BenchRun,
        keeper: Keeper,
        logs_strike: LogsStrike,
        exercise: Exercise | None = None,
        on_met: Callable[[], None] | None = None,
        keeps_knobs: KeepsKnobs | None = None,
    ) -> None:
        self.run = run
        self._keeper, self._logs_strike, self._on_met, self._keeps_knobs = keeper, logs_strike, on_met, keeps_knobs
        self._knobs, self._turned_s = run.settings, run.time_s
        self._knobs_kept: Settings | None = None
        self._aim = None if exercise is None else AimWatch(exercise)
        self._unwritten: list[tuple[Pending, Event]] = []

    def step(self, commands: Sequence[Command]) -> tuple[Frame, list[dict[str, Any]], bool]:
        """One frame; a hooked fish is in the log before it is told of, or said not to be."""
        frame = self.run.advance(commands)
        events = [self._told(frame, event) for event in frame.events]
        for pending, event in list(self._unwritten):
            if pending.is_done:
                self._unwritten.remove((pending, event))
                events.append(told(Event("strike kept", event.depth_m), strike_id=pending.row_id))
        if self._aim is not None and self._aim.met(self.run):
            if self._on_met is not None:
                self._on_met()
            events.append(told(Event("aim met", frame.lure_depth_m)))
        self._keep_knobs(frame)
        return frame, events, False

    def _keep_knobs(self, frame: Frame) -> None:
        """Write down where the knobs stand, once they rest there."""
        if frame.settings != self._knobs:
            self._knobs, self._turned_s = frame.settings, frame.time_s
        if self._keeps_knobs is None or self._knobs == self._knobs_kept or frame.time_s - self._turned_s < REST_S:
            return
        self._knobs_kept = self._knobs
        self._keeper.submit(self._keeps_knobs(self._knobs), "Where the knobs stand")

    def _told(self, frame: Frame, event: Event) -> dict[str, Any]:
        write = self._logs_strike(frame, event) if event.kind == "hooked" else None
        if write is None:
            return told(event)
        pending = self._keeper.submit(write, "A strike")
        if pending.wait(WAITS_S):
            return told(event, strike_id=pending.row_id)
        self._unwritten.append((pending, event))
        return told(event, not_kept=pending.why_not or "The log is busy.")


def told(event: Event, strike_id: int | None = None, not_kept: str = "") -> dict[str, Any]:
    """An event as fields of `EventOut`."""
    return {**asdict(event), "strike_id": strike_id, "not_kept": not_kept}
