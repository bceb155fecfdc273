"""What an angler can say of a mark in a few touches, and where it was seen."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property
from typing import Annotated

from ..fields import OneOf, Span, check_fields, doc
from ..gear.lures import OFF_BOTTOM_M, Lure
from ..gear.settings import Settings, starting_settings
from ..gear.unit import MOST_LISTED, UnitProfile
from ..hole.scene import Scene
from ..sonar.picture import full_column
from ..sonar.transmission import Transmission, transmit
from ..tuning.gain_window import gain_window

THICKNESSES = ("thin", "as the lure", "thicker", "band")
MOTIONS = ("still", "with the rod", "rising", "sinking", "drifting", "flickers")
CHANGES = ("steady", "growing", "fading")
NEAR = ("open water", "near the lure", "at the bottom", "under the bottom", "near the top")
BOTTOMS = ("quiet", "restless", "thick and soft", "thin and hard", "broken, with stems")

SHOWN_SD_M = 0.12  # how well anyone reads a depth off a screen. Common practice, no source
COLOUR_SD = 0.8  # and a colour, in steps


@dataclass(frozen=True)
class Observation:
    """What was seen."""

    shown_m: Annotated[float, Span(0.0, 150.0, "m"), doc("Where the mark begins on the unit's scale, from the face")]
    colour: Annotated[int, Span(1, MOST_LISTED), doc("Its strongest step of the ladder, 1 the weakest")]
    thickness: Annotated[str, OneOf(THICKNESSES)] = "as the lure"
    motion: Annotated[str, OneOf(MOTIONS)] = "still"
    change: Annotated[str, OneOf(CHANGES)] = "steady"
    near: Annotated[str, OneOf(NEAR)] = "open water"
    bottom: Annotated[str | None, OneOf(BOTTOMS), doc("How the bottom looks; null for not looked at")] = None

    def __post_init__(self) -> None:
        check_fields(self)


@dataclass(frozen=True)
class SheetContext:
    """Where it was seen: the hole, the unit as it stands, what hangs where [m below the surface]."""

    scene: Scene
    unit: UnitProfile
    settings: Settings
    lure: Lure | None = None
    lure_depth_m: float | None = None

    @cached_property
    def transmission(self) -> Transmission:
        """The still part of its pings."""
        return transmit(self.scene, self.unit, self.settings)


def sheet_context(
    scene: Scene,
    unit: UnitProfile,
    lure: Lure | None = None,
    lure_depth_m: float | None = None,
    gain: float | None = None,
    range_m: float | None = None,
) -> SheetContext:
    """Where a mark was seen, with what was not said filled in: the range that fits, a lure a little off the bottom, and
    the gain that shows it. Raises ValueError for a knob that the unit cannot be set to."""
    settings = starting_settings(unit, scene.bottom_range_m)
    if range_m is not None:
        settings = replace(settings, range_m=range_m).checked(unit)
    if lure is not None and lure_depth_m is None:
        lure_depth_m = max(scene.bottom_depth_m - OFF_BOTTOM_M, scene.face_depth_m + 0.2)
    if gain is None and lure is not None and lure_depth_m is not None:
        t, shown = transmit(scene, unit, settings), full_column(settings)
        gain = gain_window(t, unit, settings, lure, lure_depth_m, shown).advised
    if gain is not None:
        settings = replace(settings, gain=gain).checked(unit)
    return SheetContext(scene, unit, settings, lure, lure_depth_m)
