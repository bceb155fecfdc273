"""A photo's levels as a recording: read as any other, only that nobody knows what the rod did."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Final

import numpy as np

from ..checks import InputError, number
from ..gear.lures import Lure
from ..gear.settings import Settings, starting_settings
from ..gear.unit import UnitProfile
from ..reader.recording import Recording
from .perspective import Outline
from .screen_photo import PhotoRead

MOST_PINGS: Final = 480
LEAST_PINGS: Final = 32
HELD_S: Final = 4.0  # for which the one ping of a single photo of a ring is held, so that it can be looked at
HELD_PINGS: Final = 32
ONE_PING: Final = f"one photo of a ring shows one ping: it is held for {HELD_S:g} s, so nothing tells what moves"
MOST_PINGS_HZ: Final = 20.0  # a screen that draws more columns than that in a second is not known to anyone here


@dataclass(frozen=True)
class Shown:
    """What is said of a photographed screen: the water from `top_m` to `bottom_m` [m on the unit's scale, from the
    face], over `seconds` [s]; how the unit stood; where the face hung [m below the surface], what was tied on."""

    top_m: float
    bottom_m: float
    seconds: float
    unit: UnitProfile
    ladder: int = 0
    gain: float | None = None
    face_depth_m: float = 0.5
    lure: Lure | None = None

    @property
    def settings(self) -> Settings:
        """How the unit stands, as far as anyone said: its range the least that reaches so far. Raises ValueError."""
        found = replace(starting_settings(self.unit, 0.97 * self.bottom_m - 0.3), ladder=self.ladder)
        if self.gain is not None:
            found = replace(found, gain=self.gain)
        return found.checked(self.unit)


def cells_for(outline: Outline, shown: Shown) -> tuple[int, int]:
    """Rows and pings that a picture so large in the photo is read into: as many rows as the unit has."""
    points = np.array(outline.corners)
    sides = np.hypot(*(np.roll(points, -1, axis=0) - points).T)
    wide = min(float(sides[[0, 2]].mean()) / 2.0, MOST_PINGS_HZ * shown.seconds)
    return shown.unit.rows, int(np.clip(wide, LEAST_PINGS, MOST_PINGS))


def held(read: PhotoRead) -> PhotoRead:
    """A single ping, shape (1, rows), as it would be seen if nothing moved for a while."""
    return PhotoRead(read.levels.repeat(HELD_PINGS, axis=0), read.unsure.repeat(HELD_PINGS, axis=0))


def recording_of(read: PhotoRead, shown: Shown, name: str, started_at: str = "") -> Recording:
    """The recording that a photo shows. Raises ValueError naming what is wrong."""
    number("seconds", shown.seconds, 1.0, 7200.0, "s")
    steps = len(shown.unit.ladders[shown.ladder].steps)
    if read.levels.max(initial=0) > steps:
        raise InputError(f"colours: the unit's ladder has {steps} steps, and as many colours are accepted")
    pings = read.levels.shape[0]
    missing = ["line: no photo shows what the rod did, so the lure is told by how steady it is, or by your touch"]
    if shown.gain is None:
        missing.append("gain: taken as the middle of its scale")
    not_sure = 100.0 * (1.0 - read.share_sure)
    if not_sure >= 1.0:
        missing.append(f"{not_sure:.0f} of 100 places were not sure, and were taken from the ping before")
    return Recording(
        name=name,
        started_at=started_at,
        unit=shown.unit,
        settings=((0, shown.settings),),
        time_s=np.linspace(0.0, shown.seconds, pings),
        levels=read.levels,
        top_m=np.full(pings, shown.top_m),
        bottom_m=np.full(pings, shown.bottom_m),
        line_in_m=np.zeros(pings),
        face_depth_m=shown.face_depth_m,
        lure=shown.lure,
        missing=tuple(missing),
    )
