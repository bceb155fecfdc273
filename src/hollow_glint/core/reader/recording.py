"""A recording: the picture as it was seen, ping by ping, with the settings, the line and notes. Never the truth."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

import numpy as np
from numpy.typing import NDArray

from ..checks import Floats, InputError, number
from ..fields import OneOf, Span, Text, check_fields, doc
from ..gear.lures import Lure
from ..gear.settings import Settings
from ..gear.unit import UnitProfile
from .evidence import ReaderSetup

MOST_PINGS = 120_000  # an hour and a half at 20 a second
MOST_CELLS = 48_000_000  # rows times pings: what a file may claim is bounded before anything is read
MOST_NOTES = 2_000
MOST_KNOB_CHANGES = 20_000  # more than a tape or a run can hold: what is kept can be opened again
LONGEST_NOTE = 280
LONGEST_S = 1e6
DEEPEST_SHOWN_M = 200.0
MY_LURE = "This is my lure"  # a note that says so of the mark at its time and depth
WRITERS = ("angler", "reader")


@dataclass(frozen=True)
class Note:
    """Something written at a time [s from the start] and depth [m below the surface]; by "angler" or "reader"."""

    time_s: Annotated[float, Span(0.0, LONGEST_S, "s")]
    depth_m: Annotated[float, Span(0.0, DEEPEST_SHOWN_M, "m"), doc("Below the water's surface")]
    text: Annotated[str, Text(1, LONGEST_NOTE, lines=True)]
    by: Annotated[str, OneOf(WRITERS)] = "angler"

    def __post_init__(self) -> None:
        check_fields(self)


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

    name: Annotated[str, Text(1, 80)]
    started_at: Annotated[str, Text(0, 40)]
    unit: UnitProfile
    settings: tuple[tuple[int, Settings], ...]
    time_s: Floats
    levels: NDArray[np.uint8]
    top_m: Floats
    bottom_m: Floats
    line_in_m: Floats
    face_depth_m: Annotated[float, Span(0.0, 5.0, "m")]
    temperature_c: Annotated[float, Span(0.0, 25.0, "degrees C")] = 1.0
    lure: Lure | None = None
    notes: tuple[Note, ...] = ()
    missing: tuple[str, ...] = ()

    def __post_init__(self) -> None:
        pings = self.time_s.size
        check_fields(self)
        bounded(pings, self.levels.shape[1] if self.levels.ndim == 2 else 0)
        for name in ("levels", "top_m", "bottom_m", "line_in_m"):
            have = getattr(self, name).shape[0]
            if have != pings:
                raise InputError(f"{name} has {have} pings: time_s has {pings}")
            if name != "levels" and not np.isfinite(getattr(self, name)).all():
                raise InputError(f"{name} holds something that is not a number")
        last = float(np.abs(self.time_s).max(initial=0.0))
        if last > LONGEST_S:
            raise InputError(f"time_s runs to {last:g} s: accepted are up to {LONGEST_S:g} s")
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
        if len(self.settings) > MOST_KNOB_CHANGES + 1:
            raise InputError(f"settings has {len(self.settings)} entries: accepted are up to {MOST_KNOB_CHANGES + 1}")
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

    @property
    def rod_known(self) -> bool:
        """Whether any line went in or out: from a photo, or a file that has no line in it, nobody knows."""
        return bool(self.line_in_m.any())

    def view_at(self, ping: int) -> ReaderSetup:
        """What a reader knows at a ping."""
        return ReaderSetup(
            self.unit, self.settings_at(ping), self.face_depth_m, self.temperature_c, self.lure, self.rod_known
        )


def bounded(pings: int, rows: int) -> None:
    """Raise ValueError for more than a recording may hold, before any of it is read."""
    if not 2 <= pings <= MOST_PINGS:
        raise InputError(f"the recording claims {pings} pings: accepted are 2 to {MOST_PINGS}")
    if not 16 <= rows <= 2048:
        raise InputError(f"the recording claims {rows} rows: accepted are 16 to 2048")
    if pings * rows > MOST_CELLS:
        raise InputError(f"the recording claims {pings * rows} cells: accepted are up to {MOST_CELLS}")
