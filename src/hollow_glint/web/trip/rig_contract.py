"""The contract of what comes along: batteries, gear and the rig test, screens to keep."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import ConfigDict, Field

from ...core.trip.batteries import Alive, Battery, Charged
from ...core.trip.rig_test import Finding, GearItem, Standing
from ...core.trip.screens import VIEWS, Job, Kept
from ...core.trip.sun import DAY_MIN
from ...core.trip.worth import Cone, FishedWater, Worth
from ...formats.mirror import Described, Given, NamesOf, Number, mirrors
from ..contract import RowId
from .contract import HoursOut

MinuteOfDay = Annotated[Number, Field(ge=0.0, le=DAY_MIN)]
Amperes = Annotated[Number, Field(ge=0.0, le=100.0)]


class RowPath(Described):
    row_id: RowId


class RowOfRowPath(RowPath):
    finding_id: RowId


@mirrors(Battery)
class BatteryFields(Given):
    """A battery."""


class BatteryNoteOut(Described):
    id: int
    at: str
    what: Literal["charged", "volts"]
    volts: float | None


class BatteryOut(BatteryFields):
    model_config = ConfigDict(extra="ignore")
    id: int
    version: int = Field(description="Counts up with each change")
    left_by_age: float = Field(description="The share of its capacity that its charges have left")
    notes: list[BatteryNoteOut]


class BatteryList(Described):
    batteries: list[BatteryOut]
    cautions: list[str]


class BatteryNoteFields(Given):
    at: str = Field(min_length=10, max_length=40, description="When, as ISO 8601")
    what: Literal["charged", "volts"]
    volts: Number | None = Field(None, ge=1.0, le=90.0)


class VoltsWanted(Given):
    battery: BatteryFields
    volts: Number = Field(ge=1.0, le=90.0, description="At rest, some hours after charging")
    draw_a: Number = Field(ge=0.005, le=100.0)
    temperature_c: Number = Field(ge=-40.0, le=50.0)


@mirrors(Charged)
class ChargedOut(Described):
    """How full a battery is, as shares."""


class VoltsOut(Described):
    charged: ChargedOut
    hours: HoursOut


class AliveWanted(Given):
    battery: BatteryFields
    spares: list[BatteryFields] = Field(default=[], max_length=6)
    dark_a: Amperes = Field(description="What the unit draws with its light off")
    light_a: Amperes = Field(description="What full light draws besides")
    begins_min: MinuteOfDay
    ends_min: MinuteOfDay
    temperature_c: Number = Field(ge=-40.0, le=50.0)
    brightness: Number = Field(1.0, ge=0.0, le=1.0)
    sunset_min: MinuteOfDay | None = None
    turned_down: Number | None = Field(None, ge=0.0, le=1.0, description="The light after sunset")
    volts: Number | None = Field(None, ge=1.0, le=90.0, description="As read; null for a full battery")


@mirrors(Alive)
class AliveOut(Described):
    """When a battery is dead, and what would help."""


@mirrors(GearItem)
class GearItemFields(Given):
    """A piece of gear."""


@mirrors(Finding)
class FindingFields(Given):
    """What was found on a piece of gear."""


class FindingOut(FindingFields):
    model_config = ConfigDict(extra="ignore")
    id: int


@mirrors(Standing)
class StandingOut(Described):
    """How a check of a piece of gear stands."""


class GearItemOut(GearItemFields):
    model_config = ConfigDict(extra="ignore")
    id: int
    version: int = Field(description="Counts up with each change")
    standing: list[StandingOut]
    findings: list[FindingOut]


class RigCheckOut(Described):
    name: str
    words: str
    right: str


class RigOut(Described):
    items: list[GearItemOut]
    checks: list[RigCheckOut]


@mirrors(Job)
class JobFields(Given):
    """The day as far as screens go."""


class ScreensWanted(JobFields):
    views: list[Annotated[str, NamesOf(VIEWS)]] = Field(max_length=20)


@mirrors(Kept)
class KeptViewOut(Described):
    """A view, its place in the order or null where it is hidden, and why."""


class ScreensOut(Described):
    views: list[KeptViewOut]


@mirrors(FishedWater)
class WaterFished(Given):
    """A water that one fishes."""


class WorthWanted(Given):
    waters: list[WaterFished] = Field(min_length=1, max_length=12)
    lure_id: RowId
    unit_id: RowId | None = Field(None, description="One's own unit, to stand beside it")


@mirrors(Worth)
class WorthOut(Described):
    """What a capability is worth."""


class WorthList(Described):
    worth: list[WorthOut] = Field(description="Most first")


class ConesWanted(Given):
    water: WaterFished
    lure_id: RowId


@mirrors(Cone)
class ConeOut(Described):
    """A cone at a depth."""


class ConesOut(Described):
    cones: list[ConeOut] = Field(description="Narrowest first")


class ViewWords(Described):
    view: str
    words: str


class ViewsOut(Described):
    all: list[ViewWords]
    of_unit: list[str] = Field(description="Those that the unit's profile tells of")
