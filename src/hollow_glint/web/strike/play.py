"""What is played in a run of the strike drill: the truth is hidden, and the run is kept when it is over."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from typing import Any

from ...core.bench.bench_run import BenchRun
from ...core.bench.command import Command
from ...core.bench.frame import Frame
from ...core.fish.events import Event
from ...core.runs.replay import Played
from ..bench.open_water import told
from ..keeping import Keeper, Pending

WAITS_S = 5.0  # for a run to be kept before it is said to be over


class RunPlay:
    """A run as a bench's play. `keep` writes it down and gives its id."""

    hides_truth = True

    def __init__(self, played: Played, keeper: Keeper, keep: Callable[[Played], int]) -> None:
        self.played = played
        self._keeper, self._keep = keeper, keep
        self._pending: Pending | None = None
        self._last: Frame | None = None

    @property
    def run(self) -> BenchRun:
        """The water as it is."""
        return self.played.run

    @property
    def over_as(self) -> int | None:
        """Where the run is kept, once it is over."""
        return None if self._pending is None else self._pending.row_id

    @property
    def why_not_kept(self) -> str:
        """Why a run that is over is not kept yet."""
        return "" if self._pending is None else self._pending.why_not

    def step(self, commands: Sequence[Command]) -> tuple[Frame, list[dict[str, Any]], bool]:
        """One frame, as its angler has it. When it is over it stands still until it is kept, and then ends."""
        if self._pending is not None and self._last is not None:
            kept = self._pending.is_done
            return self._last, [told(Event("run over"))] if kept else [], kept
        frame, over = self.played.step(commands)
        # As it stands while the run waits to be kept: nothing new in it.
        self._last = replace(frame, levels=frame.levels[:0], window_levels=None, events=())
        events = [told(event) for event in frame.events]
        if over:
            self.finish()
            events.append(told(Event("run over"), not_kept=self.why_not_kept))
        return frame, events, over and self.over_as is not None

    def finish(self) -> int | None:
        """The run is over and kept, once: its id, None while it cannot be written. With the stepping lock held."""
        if self._pending is None:
            self._pending = self._keeper.submit(lambda: self._keep(self.played), "A run")
        self._pending.wait(WAITS_S)
        return self._pending.row_id
