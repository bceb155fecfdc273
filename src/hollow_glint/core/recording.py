"""A recording: the picture as it was seen, ping by ping, with the settings, the line and notes. Never the truth."""

from __future__ import annotations

from collections import deque
from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from datetime import datetime, timedelta

import numpy as np
from numpy.typing import NDArray

from .bench_run import REMEMBERED_S, STEP_S, BenchRun, Frame
from .checks import Floats, InputError, number
from .lures import Lure
from .picture import Window
from .reading import Reader
from .seen import Moment, Reading, Seen, View
from .unit import Settings, UnitProfile

MOST_PINGS = 120_000  # an hour and a half at 20 a second
MOST_CELLS = 48_000_000  # rows times pings: what a file may claim is bounded before anything is read
MOST_NOTES = 2_000
LONGEST_NOTE = 280
WARMING_S = 20.0  # how much before a moment is read to know what stood there


@dataclass(frozen=True)
class Note:
    """Something written at a time [s from the start] and depth [m below the surface]; by "angler" or "reader"."""

    time_s: float
    depth_m: float
    text: str
    by: str = "angler"

    def __post_init__(self) -> None:
        number("time_s", self.time_s, 0.0, 1e6, "s")
        number("depth_m", self.depth_m, 0.0, 200.0, "m")
        if not 1 <= len(self.text.strip()) <= LONGEST_NOTE:
            raise InputError(f"text has {len(self.text.strip())} characters: accepted are 1 to {LONGEST_NOTE}")
        if self.by not in ("angler", "reader"):
            raise InputError(f"by is {self.by!r}: accepted are angler, reader")


@dataclass(frozen=True, eq=False)
class Recording:
    """What a screen showed.

    started_at     UTC as ISO 8601, empty when nobody knows
    time_s         of each ping from the start [s], rising, shape (pings,)
    levels         ladder levels, shape (pings, rows)
    top_m, bottom_m   the water that the rows show [m from the face], shape (pings,)
    line_in_m      line taken in since the ping before [m], shape (pings,)
    settings       where the knobs stood, each from which ping on, the first from 0
    face_depth_m   [m below the surface], temperature_c [degrees C]
    missing        what a file from elsewhere did not say, and what was taken for it

    Raises ValueError naming what is wrong.
    """

    name: str
    started_at: str
    unit: UnitProfile
    settings: tuple[tuple[int, Settings], ...]
    time_s: Floats
    levels: NDArray[np.uint8]
    top_m: Floats
    bottom_m: Floats
    line_in_m: Floats
    face_depth_m: float
    temperature_c: float = 1.0
    lure: Lure | None = None
    notes: tuple[Note, ...] = ()
    missing: tuple[str, ...] = ()

    def __post_init__(self) -> None:
        pings = self.time_s.size
        if not 1 <= len(self.name.strip()) <= 80:
            raise InputError(f"name has {len(self.name.strip())} characters: accepted are 1 to 80")
        bounded(pings, self.levels.shape[1] if self.levels.ndim == 2 else 0)
        number("face_depth_m", self.face_depth_m, 0.0, 5.0, "m")
        number("temperature_c", self.temperature_c, 0.0, 25.0, "degrees C")
        for name in ("levels", "top_m", "bottom_m", "line_in_m"):
            have = getattr(self, name).shape[0]
            if have != pings:
                raise InputError(f"{name} has {have} pings: time_s has {pings}")
            if name != "levels" and not np.isfinite(getattr(self, name)).all():
                raise InputError(f"{name} holds something that is not a number")
        if not np.isfinite(self.time_s).all() or (pings > 1 and float(np.diff(self.time_s).min()) <= 0.0):
            raise InputError("time_s does not rise: each ping must be later than the one before")
        if float((self.bottom_m - self.top_m).min()) <= 0.0 or float(self.top_m.min()) < -1e-6:
            raise InputError("top_m and bottom_m: each picture must be higher than 0 m, and begin below the face")
        if float(self.bottom_m.max()) > 200.0:
            raise InputError(f"bottom_m is {float(self.bottom_m.max()):g} m: accepted are up to 200 m")
        if float(np.abs(self.line_in_m).max()) > 20.0:
            raise InputError(
                f"line_in_m is {float(np.abs(self.line_in_m).max()):g} m in one ping: up to 20 is accepted"
            )
        if not self.settings or self.settings[0][0] != 0:
            raise InputError("settings: the first must hold from ping 0 on")
        for at, settings in self.settings:
            settings.checked(self.unit)
            number("settings.ping", at, 0, pings - 1)
        most = max(len(self.unit.ladders[s.ladder].steps) for _, s in self.settings)
        if self.levels.size and int(self.levels.max()) > most:
            raise InputError(f"levels reach {int(self.levels.max())}: this unit's ladder has {most} steps")
        if len(self.notes) > MOST_NOTES:
            raise InputError(f"notes has {len(self.notes)} entries: accepted are up to {MOST_NOTES}")

    @property
    def seconds(self) -> float:
        """From the first ping to the last [s]."""
        return float(self.time_s[-1] - self.time_s[0])

    def settings_at(self, ping: int) -> Settings:
        """Where the knobs stood at a ping."""
        return next(settings for at, settings in reversed(self.settings) if at <= ping)

    def view_at(self, ping: int) -> View:
        """What a reader knows at a ping."""
        return View(self.unit, self.settings_at(ping), self.face_depth_m, self.temperature_c, self.lure)


def bounded(pings: int, rows: int) -> None:
    """Raise ValueError for more than a recording may hold, before any of it is read."""
    if not 2 <= pings <= MOST_PINGS:
        raise InputError(f"the recording claims {pings} pings: accepted are 2 to {MOST_PINGS}")
    if not 16 <= rows <= 2048:
        raise InputError(f"the recording claims {rows} rows: accepted are 16 to 2048")
    if pings * rows > MOST_CELLS:
        raise InputError(f"the recording claims {pings * rows} cells: accepted are up to {MOST_CELLS}")


def seen_in(recording: Recording, first: int = 0, last: int | None = None) -> Iterator[tuple[View, Seen]]:
    """The pings from `first` up to `last` as they were seen, each with what was known then."""
    view, settings = recording.view_at(first), recording.settings_at(first)
    changes = {at for at, _ in recording.settings}
    for k in range(first, recording.time_s.size if last is None else last):
        if k in changes and recording.settings_at(k) != settings:
            settings = recording.settings_at(k)
            view = replace(view, settings=settings)
        shown = Window(float(recording.top_m[k]), float(recording.bottom_m[k]))
        yield view, Seen(float(recording.time_s[k]), recording.levels[k], shown, float(recording.line_in_m[k]))


def reading_at(recording: Recording, time_s: float) -> Reading:
    """What the reader says at a time, having watched the WARMING_S before it."""
    last = int(np.searchsorted(recording.time_s, time_s, side="right"))
    last = max(last, min(2, recording.time_s.size))
    first = int(np.searchsorted(recording.time_s, recording.time_s[last - 1] - WARMING_S))
    reader: Reader | None = None
    reading = Reading(time_s)
    for view, seen in seen_in(recording, first, last):
        if reader is None:
            reader = Reader(view)
        elif view is not reader.view:
            reader.turn(view)
        now = reader.see(seen)
        reading = now if now.complete else reading
    return reading


def moments_in(recording: Recording, told: Callable[[int, int], None] | None = None) -> list[Moment]:
    """Every moment the reader finds, from start to end. `told` hears how many pings are done, of how many."""
    reader: Reader | None = None
    found: list[Moment] = []
    for k, (view, seen) in enumerate(seen_in(recording)):
        if reader is None:
            reader = Reader(view)
        elif view is not reader.view:
            reader.turn(view)
        found += reader.see(seen).moments
        if told is not None and k % 200 == 0:
            told(k, recording.time_s.size)
    return found


class Tape:
    """The last REMEMBERED_S of a picture, as it was shown."""

    def __init__(self) -> None:
        self._frames: deque[tuple[float, Window, float, Settings, NDArray[np.uint8]]] = deque(
            maxlen=int(REMEMBERED_S / STEP_S)
        )

    def add(self, frame: Frame) -> None:
        """One frame more."""
        self._frames.append((frame.time_s, frame.shown, frame.line_in_m, frame.settings, frame.levels))

    def recording(self, name: str, run: BenchRun, started: datetime) -> Recording:
        """What is on the tape of a `run` begun at `started` (UTC). Raises ValueError with fewer than two pings."""
        frames = [one for one in self._frames if one[4].shape[0]]
        count = np.array([one[4].shape[0] for one in frames], dtype=int)
        if count.sum() < 2:
            raise InputError("recording: nothing has been shown yet; wait a second and try again")
        first = np.concatenate([[0], np.cumsum(count)[:-1]])
        within = np.concatenate([(np.arange(n) + 1.0) / n for n in count])
        start = frames[0][0] - STEP_S
        time_s = np.repeat([one[0] - STEP_S - start for one in frames], count) + within * STEP_S
        settings: list[tuple[int, Settings]] = []
        for at, one in zip(first, frames, strict=True):
            if not settings or settings[-1][1] != one[3]:
                settings.append((int(at), one[3]))
        line = np.repeat([one[2] / n for one, n in zip(frames, count, strict=True)], count)
        return Recording(
            name=name,
            started_at=(started + timedelta(seconds=start)).strftime("%Y-%m-%dT%H:%M:%SZ"),
            unit=run.unit,
            settings=tuple(settings),
            time_s=time_s.round(6),
            levels=np.concatenate([one[4] for one in frames]),
            top_m=np.repeat([one[1].top_m for one in frames], count),
            bottom_m=np.repeat([one[1].bottom_m for one in frames], count),
            line_in_m=line,
            face_depth_m=run.scene.face_depth_m,
            temperature_c=run.scene.temperature_c,
            lure=run.lure,
        )
