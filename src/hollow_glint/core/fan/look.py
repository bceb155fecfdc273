"""A look with the fan: a head aimed into a patch of water, frame after frame. Time in, pictures out.

A pure function of its patch, its seed and what was asked of it and when. It knows no clock.
"""

from __future__ import annotations

from collections import deque
from dataclasses import dataclass, replace
from typing import Final

import numpy as np
from numpy.typing import NDArray

from ..search.patch import Patch
from .frame import STAGGER, frame_time, heard
from .head import FanHang, FanHead
from .picture import Painter
from .settings import FanSettings, check_settings
from .swimmers import AtTheHole, HungLure, points_at
from .water import FanWater, fan_water

KEPT: Final = 24  # frames that measuring looks back on
KEPT_EVERY_S: Final = 0.1  # [s]


@dataclass(frozen=True, eq=False)
class FanFrame:
    """A frame: when [s], echo levels (beams, BINS) [dB re 1 uPa] as they came, in those that are kept for measuring in
    half precision, which holds a tenth of a decibel; steps as they are shown; how the head hung and was set."""

    time_s: float
    level_db: NDArray[np.float16] | NDArray[np.float32]
    steps: NDArray[np.uint8]
    hang: FanHang
    settings: FanSettings


class FanLook:
    """A look that goes on. `advance` it; `newest` is its newest frame, `frames` are some of the last seconds, for
    measuring, the last one newest."""

    def __init__(
        self,
        patch: Patch,
        head: FanHead,
        hang: FanHang,
        settings: FanSettings,
        rng: np.random.Generator,
        lures: tuple[HungLure, ...] = (),
        start_s: float = 0.0,
    ) -> None:
        """Start at `start_s` [s] on the patch's clock. Raises ValueError for settings that the head cannot have."""
        check_settings(head, settings)
        self.patch, self.head, self.hang, self.settings, self.lures = patch, head, hang, settings, lures
        self.time_s = self._next_s = start_s
        self._seed = int(rng.integers(2**62))
        self._number = 0
        self._painter = Painter()
        self.frames: deque[FanFrame] = deque(maxlen=KEPT)
        self.newest: FanFrame | None = None
        self.came: AtTheHole | None = None  # fish that mind a hole's lures, which follow from no time alone

    @property
    def water(self) -> FanWater:
        """What does not move, as the head hangs and listens now."""
        return fan_water(self.patch, self.head, self.hang, self.settings.reach_m)

    @property
    def frame_s(self) -> float:
        """From frame to frame [s], as it listens now."""
        return frame_time(self.settings.reach_m, self.water.sound_speed_m_s)

    def set(self, hang: FanHang, settings: FanSettings, lures: tuple[HungLure, ...] | None = None) -> None:
        """Hang, aim or set it anew. Raises ValueError for settings that the head cannot have; then nothing changes."""
        check_settings(self.head, settings)
        if (hang, settings.reach_m) != (self.hang, self.settings.reach_m):
            self._painter.forget()
        if replace(hang, aim_deg=0.0) != replace(self.hang, aim_deg=0.0) or settings.reach_m != self.settings.reach_m:
            self.frames.clear()
        self.hang, self.settings = hang, settings
        if lures is not None:
            self.lures = lures

    def advance(self, seconds: float, newest_only: bool = False) -> list[FanFrame]:
        """All frames of the next `seconds` [s]; with `newest_only` those alone that anyone will see, which are the
        same: each has a source of chance of its own."""
        until, made = self.time_s + seconds, []
        here = self.water
        while self._next_s < until - 1e-9:
            last = self._next_s + self.frame_s >= until - 1e-9
            if last or not newest_only or self.settings.repeats or self.settings.tails:
                made.append(self._frame(here))
            self._number += 1
            self._next_s += self.frame_s
        self.time_s = until
        return made

    def _frame(self, here: FanWater) -> FanFrame:
        """The frame that is due."""
        echo, flicker = (np.random.default_rng([self._seed, self._number, which]) for which in (0, 1))
        points = points_at(
            self.patch, self.lures, self.hang.depth_m, self.head.frequency_hz, here.sound_speed_m_s, self._next_s,
            self.came,
        )  # fmt: skip
        # Only a unit that rejects repeats takes the trouble to stagger its pings.
        stagger = STAGGER[self._number % len(STAGGER)] if self.settings.repeats else 0.0
        level = heard(here, self.head, self.hang, points, echo, stagger, flicker)
        steps = self._painter.paint(level, here, self.head, self.hang, self.settings)
        frame = FanFrame(self._next_s, level, steps, self.hang, self.settings)
        if not self.frames or frame.time_s - self.frames[-1].time_s >= KEPT_EVERY_S - 1e-6:
            self.frames.append(replace(frame, level_db=level.astype(np.float16)))
        self.newest = frame
        return frame
