"""What an angler can say of a mark in a few touches, and where it was seen."""

from __future__ import annotations

from dataclasses import dataclass

from ..checks import number, one_of
from ..gear.lures import Lure
from ..gear.settings import Settings
from ..gear.unit import UnitProfile
from ..hole.scene import Scene
from ..sonar.transmission import Transmission, transmit

THICKNESSES = ("thin", "as the lure", "thicker", "band")
MOTIONS = ("still", "with the rod", "rising", "sinking", "drifting", "flickers")
CHANGES = ("steady", "growing", "fading")
NEAR = ("open water", "near the lure", "at the bottom", "under the bottom", "near the top")
BOTTOMS = ("quiet", "restless", "thick and soft", "thin and hard", "broken, with stems")

SHOWN_SD_M = 0.12  # how well anyone reads a depth off a screen. Common practice, no source
COLOUR_SD = 0.8  # and a colour, in steps


@dataclass(frozen=True)
class Observation:
    """What was seen.

    shown_m     depth on the unit's scale [m from the face] at which the mark begins
    colour      the strongest step of the ladder in it, 1 weakest; thickness in THICKNESSES
    motion      in MOTIONS; change in CHANGES; near in NEAR; bottom in BOTTOMS, None for not looked at
    """

    shown_m: float
    colour: int
    thickness: str = "as the lure"
    motion: str = "still"
    change: str = "steady"
    near: str = "open water"
    bottom: str | None = None

    def __post_init__(self) -> None:
        number("shown_m", self.shown_m, 0.0, 150.0, "m")
        number("colour", self.colour, 1, 32)
        one_of("thickness", self.thickness, THICKNESSES)
        one_of("motion", self.motion, MOTIONS)
        one_of("change", self.change, CHANGES)
        one_of("near", self.near, NEAR)
        if self.bottom is not None:
            one_of("bottom", self.bottom, BOTTOMS)


@dataclass(frozen=True)
class SheetContext:
    """Where it was seen: the hole, the unit as it stands, what hangs where [m below the surface]."""

    scene: Scene
    unit: UnitProfile
    settings: Settings
    lure: Lure | None = None
    lure_depth_m: float | None = None

    @property
    def transmission(self) -> Transmission:
        """The still part of its pings."""
        return transmit(self.scene, self.unit, self.settings)
