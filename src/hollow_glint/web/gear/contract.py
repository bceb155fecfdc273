"""The contract of the Gear step: units, lures, and a unit calibrated with a known jig."""

from __future__ import annotations

from pydantic import Field

from ...core.gear.oddities import Oddity
from ...core.hole.scene import Scene
from ...core.tuning.calibration import MOST_READINGS, Fit, FittedReading, GainReading, NextReading
from ...formats.mirror import Described, Given, Whole, mirrors
from ...store.gear import Same
from ..contract import LureOut, RowId, UnitOut


class UnitList(Described):
    units: list[UnitOut]


class LureList(Described):
    lures: list[LureOut]


class GearHere(Described):
    same: Same = Field("both", description="What to do with gear whose name is here already")


class GearTaken(Described):
    units: list[UnitOut]
    lures: list[LureOut]


WATER = ("bottom_depth_m", "face_depth_m", "ice_thickness_m", "temperature_c")


@mirrors(Scene, only=WATER, defaults={"face_depth_m": 0.45, "ice_thickness_m": 0.35})
class WaterFields(Given):
    """The water in which a unit is calibrated."""


@mirrors(GainReading, leave_out=("lure",))
class ReadingFields(Given):
    """The gain at which the lure's mark at a depth just disappears (colour 0) or just turns to a colour."""

    lure_id: RowId


class CalibrationWanted(Given):
    water: WaterFields
    readings: list[ReadingFields] = Field(min_length=1, max_length=MOST_READINGS)


@mirrors(FittedReading, leave_out=("reading",))
class FittedReadingOut(Described):
    """A reading and what the fit makes of it."""


@mirrors(NextReading)
class NextReadingOut(Described):
    """Where one more reading would tell most."""


@mirrors(Fit, leave_out=("calibrated", "profile"))
class FitOut(Described):
    """What the readings say; standard deviations are 1 sigma."""

    first_colour_sd_db: float
    db_per_step_sd: float
    colour_step_sd_db: float
    used: int
    profile: UnitOut


class CheckedAgainst(Described):
    """The unit as it was kept until now; none for a new one."""

    unit_id: RowId | None = None


@mirrors(Oddity)
class OddityOut(Described):
    """What is odd in a profile, and the dB a step that would settle it."""


class Checked(Described):
    odd: list[OddityOut]


class KeptCalibration(Described):
    wanted: CalibrationWanted | None
    applied_at: str | None


StandInSeed = Whole


class LookWanted(Given):
    """A look at the stand-in unit: the lure at a depth, at a gain."""

    seed: StandInSeed = Field(ge=0, le=2**31)
    water: WaterFields
    reading: ReadingFields


class LookOut(Described):
    levels: str = Field(description="base64 of `pings` times `rows` bytes, each a step of the ladder")
    pings: int
    rows: int
    top_m: float
    bottom_m: float


class StandInWanted(Given):
    seed: StandInSeed = Field(ge=0, le=2**31)


class RevealedOut(Described):
    """What the stand-in's hidden numbers were."""

    first_colour_db: float
    db_per_step: float
