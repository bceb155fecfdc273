"""The holes that drills are set in, each with a unit set for it, and the ways that lures and fish go in them."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from ..checks import Floats
from ..gear.lures import USUAL_JIG, Lure
from ..gear.profiles import SHORT_PULSE, THREE_COLOUR_RING, TRAIL_UNIT, TWO_BEAM_RING
from ..gear.settings import Settings, smallest_range
from ..gear.unit import UnitProfile
from ..hole.scene import Scene
from ..sonar import picture
from ..sonar.transmission import Transmission, transmit
from ..tuning import seen_zone
from ..tuning.gain_window import gain_window
from ..wording import Quantity
from .drill import TrueMark
from .film import Clip, Swimmer, film, ping_times

FACE_M = 0.5
ICE_M = 0.4


@dataclass(frozen=True, eq=False)
class DrillHole:
    """A hole with a unit set for it and a lure in it, `lure_m` deep [m below the surface]."""

    scene: Scene
    unit: UnitProfile
    settings: Settings
    lure: Lure
    lure_m: float

    @property
    def transmission(self) -> Transmission:
        """The still part of its pings."""
        return transmit(self.scene, self.unit, self.settings)

    @property
    def bottom_m(self) -> float:
        """Depth of the bottom [m below the surface]."""
        return self.scene.bottom_depth_m

    def range_of(self, depth_m: float, aside_m: float = 0.0) -> float:
        """Range [m from the face] of what is there."""
        return float(np.hypot(depth_m - self.scene.face_depth_m, aside_m))

    @property
    def axis(self) -> dict[str, Quantity]:
        """What a sentence that names a depth on the picture's axis needs besides: how far down the axis begins."""
        return {"face": Quantity(self.scene.face_depth_m, "m")}

    def times(self, seconds: float) -> Floats:
        """When pings go out [s]."""
        return ping_times(self.scene, self.unit, self.settings, seconds)

    def seen_aside(self, length_m: float, depth_m: float, spare_db: float = 0.0) -> float:
        """How far off the axis a fish still shows, with `spare_db` to spare [m]."""
        first = first_colour(self) + spare_db
        return float(seen_zone.fish_seen_radius(self.transmission, length_m, first, np.array([depth_m]))[0])

    def film(self, time_s: Floats, rng: np.random.Generator, **more: Any) -> Clip:
        """A clip at this hole; the lure hangs still unless `lure_way` says otherwise, and is out with lure=None."""
        lure = more.pop("lure", self.lure)
        way = more.pop("lure_way", None)
        if lure is not None and way is None:
            way = hanging(time_s, self.lure_m)
        return film(self.scene, self.unit, self.settings, time_s, rng, lure, way, **more)


def first_colour(at: DrillHole) -> float:
    """Echo level [dB] that lights the first colour there."""
    from ..sonar.receiver import first_colour_level

    return first_colour_level(at.unit, at.settings)


def drill_hole(rng: np.random.Generator, level: int, lure: Lure = USUAL_JIG, **more: Any) -> DrillHole:
    """A hole for a drill: deeper, murkier and with more kinds of unit at higher levels.

    `more` are fields of the scene; besides `unit`, `off_bottom_m` for where the lure hangs, `range_share` of the range
    that the bottom is at, `spare_db` of gain above what is advised.
    """
    unit: UnitProfile = more.pop("unit", None) or (
        TWO_BEAM_RING
        if level == 1
        else (TWO_BEAM_RING, TRAIL_UNIT, SHORT_PULSE, THREE_COLOUR_RING)[rng.integers(2 + level - 1)]
    )
    depth = more.pop("bottom_depth_m", None) or float(rng.uniform(5.0, 7.0 + 3.0 * level))
    off = more.pop("off_bottom_m", None) or float(rng.uniform(1.0, min(2.0, 0.4 * depth)))
    range_share, spare = more.pop("range_share", 1.0), more.pop("spare_db", 2.0)
    beam = 1 if unit is TWO_BEAM_RING or unit is SHORT_PULSE else 0
    knobs = more.pop("knobs", {})
    fields = {
        "bottom_kind": str(rng.choice(["mud", "silt", "sand", "gravel"])),
        "clarity": "clear" if level == 1 else str(rng.choice(["clear", "stained"])),
        "visitors": 0,
        **more,
    }
    scene = Scene(bottom_depth_m=depth, ice_thickness_m=ICE_M, **{"face_depth_m": FACE_M, **fields})
    settings = Settings(
        unit.gain.minimum, smallest_range(unit, range_share * scene.bottom_range_m), **{"beam": beam, **knobs}
    )
    at = lean(DrillHole(scene, unit, settings, lure, depth - off), spare)
    if at.settings.gain >= unit.gain.maximum and unit is not TWO_BEAM_RING:
        # This unit has not the gain to show the lure so deep: one that has takes its place.
        settings = Settings(
            TWO_BEAM_RING.gain.minimum, smallest_range(TWO_BEAM_RING, range_share * scene.bottom_range_m), beam=1
        )
        at = lean(DrillHole(scene, TWO_BEAM_RING, settings, lure, depth - off), spare)
    return at


def lean(at: DrillHole, spare_db: float = 2.0) -> DrillHole:
    """The same with gain as advised for its lure, and `spare_db` more."""
    shown = picture.window(at.settings, at.scene.bottom_range_m)
    limits = gain_window(at.transmission, at.unit, at.settings, at.lure, at.lure_m, shown)
    return turned(at, limits.advised + at.unit.gain.position(spare_db) - at.unit.gain.minimum)


def turned(at: DrillHole, gain: float) -> DrillHole:
    """The same with another gain, as near as the knob goes."""
    scale = at.unit.gain
    settings = replace(at.settings, gain=float(np.clip(gain, scale.minimum, scale.maximum))).checked(at.unit)
    return replace(at, settings=settings)


def hanging(time_s: Floats, depth_m: float) -> Floats:
    """Still under the hole: (pings, 3) [m]."""
    return np.tile([0.0, 0.0, depth_m], (time_s.size, 1))


def line(time_s: Floats, points: list[tuple[float, float, float]]) -> Floats:
    """A way through (time [s], aside [m], depth [m]) points, straight between them: (pings, 3) [m]."""
    when, aside, depth = (np.array(one) for one in zip(*points, strict=True))
    return np.stack(
        [np.interp(time_s, when, aside), np.zeros(time_s.size), np.interp(time_s, when, depth)], axis=1
    )  # fmt: skip


def alive(way: Floats, time_s: Floats, rng: np.random.Generator, by_m: float = 0.02) -> Floats:
    """The same way with a fish's own small restlessness."""
    phase, turns = rng.uniform(0.0, 6.28, 3), rng.uniform(0.25, 0.6, 3)
    return way + by_m * np.sin(2.0 * np.pi * turns * time_s[:, None] + phase)


def swimmer(
    way: Floats, time_s: Floats, rng: np.random.Generator, length_m: float, species: str = "whitefish"
) -> Swimmer:
    """A fish on this way."""
    return Swimmer(alive(way, time_s, rng), length_m, species)


def at_end(fish: Swimmer) -> TrueMark:
    """Where a fish is when the clip ends."""
    x, y, z = (float(one) for one in fish.way[-1])
    return TrueMark("fish", "fish", z, float(np.hypot(x, y)))
