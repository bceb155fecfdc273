"""What a reader is given and what it says: views, pings as they are seen, marks with their names, moments."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from . import ping, sizing
from .bench_run import Frame
from .checks import Floats
from .column import Standing
from .lures import Lure
from .picture import Window
from .ping import Transmission
from .said import Said
from .sizing import FishSpan
from .unit import Settings, UnitProfile


@dataclass(frozen=True)
class View:
    """What is known without looking: the unit and its settings, where the face hangs, what is tied on.

    face_depth_m [m below the surface], temperature_c [degrees C]; `lure` None when nobody said
    """

    unit: UnitProfile
    settings: Settings
    face_depth_m: float
    temperature_c: float = 1.0
    lure: Lure | None = None

    @cached_property
    def transmission(self) -> Transmission:
        """The sonar equation's terms for these settings over plain water."""
        return ping.transmit(sizing.assumed_water(self.face_depth_m, self.temperature_c), self.unit, self.settings)

    @cached_property
    def thresholds_db(self) -> Floats:
        """Where each colour begins [dB]."""
        return sizing.level_thresholds(self.unit, self.unit.ladders[self.settings.ladder])


@dataclass(frozen=True)
class Seen:
    """One ping as it is seen: time [s], rows of ladder levels (rows,), the water they show, line taken in since the
    ping before [m, let out is negative]."""

    time_s: float
    levels: NDArray[np.uint8]
    shown: Window
    line_in_m: float = 0.0


def seen_in(frame: Frame, last_s: float) -> Iterator[Seen]:
    """The pings of a bench frame as they are seen, evenly from `last_s` [s] on, the frame's line shared among them."""
    count = frame.levels.shape[0]
    for k in range(count):
        when = last_s + (frame.time_s - last_s) * (k + 1) / count
        yield Seen(when, frame.levels[k], frame.shown, frame.line_in_m / count)


@dataclass(frozen=True)
class FishReading:
    """What can be said of one fish.

    span          where it can be and how long
    speed_m_s     up or down, corrected for the cone: 0 when it only seems to move; downwards positive
    seems_m_s     as the mark moves on the picture
    trend_db_s    how its level changes [dB/s]
    going         "here", "closing", "leaving", "rising" or "sinking"
    interest      "steady", "curious", "charging" or "put off"
    gap_m         from lure to fish [m], downwards positive; None without a lure
    """

    span: FishSpan
    speed_m_s: float
    seems_m_s: float
    trend_db_s: float
    going: str
    interest: str
    gap_m: float | None


@dataclass(frozen=True)
class Named:
    """A mark with its name: range [m from the face], apparent depth [m below the surface], how sure [0 to 1], why."""

    track: int
    kind: str
    sure: float
    range_m: float
    depth_m: float
    thick_m: float
    level: float
    hidden: bool
    because: tuple[Said, ...]
    fish: FishReading | None = None


@dataclass(frozen=True)
class Moment:
    """Something worth telling: what, when [s], of which track, and the one thing to do."""

    kind: str
    time_s: float
    track: int
    say: Said
    do: str


@dataclass(frozen=True)
class BottomReading:
    """The bottom: edge [m from the face], how hard it is ("hard", "soft", "not clear"), its tail and second echo [m],
    whether its line is restless, where weeds on it begin [m from the face]."""

    range_m: float
    hardness: str
    tail_m: float
    second_m: float | None
    restless: bool
    weed_top_m: float | None
    because: tuple[Said, ...]


@dataclass(frozen=True)
class Reading:
    """What the picture says now: marks with names, the bottom, the water, and moments new since the last ping.

    complete   False between two looks: every other ping is only followed, not named
    """

    time_s: float
    marks: tuple[Named, ...] = ()
    bottom: BottomReading | None = None
    standing: Standing = field(default_factory=Standing)
    water: tuple[Said, ...] = ()
    moments: tuple[Moment, ...] = ()
    complete: bool = True
