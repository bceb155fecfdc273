"""The contract of drills and of the call sheet, in SI units, as pydantic models."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, StrictBool

from ..core.hole.contents import DEEPEST_M
from ..core.reader.observation import BOTTOMS, CHANGES, MOTIONS, NEAR, THICKNESSES
from ..formats.fields import (
    BottomName,
    Described,
    DrillName,
    Given,
    Number,
    RoundFields,
    SettingsFields,
    UnitFields,
    Whole,
)
from .contract import RowId
from .reading_contract import PingsOut, SaidOut

Seed = Whole
ThicknessName = Literal[THICKNESSES]  # type: ignore[valid-type]
MotionName = Literal[MOTIONS]  # type: ignore[valid-type]
ChangeName = Literal[CHANGES]  # type: ignore[valid-type]
NearName = Literal[NEAR]  # type: ignore[valid-type]
LooksName = Literal[BOTTOMS]  # type: ignore[valid-type]


class DrillKey(Described):
    """Which drill: the same three always give the same one."""

    kind: DrillName
    level: int = Field(ge=1, le=3)
    seed: int = Field(ge=0, le=2**40)


class SkillOut(Described):
    kind: DrillName
    title: str
    level: int
    due_at: str | None = Field(description="UTC; null for one never tried")
    is_due: bool
    answers: int
    right: int
    share: float
    low: float = Field(description="What the share right may really be, 95 %: least")
    high: float
    median_s: float


class SkillList(Described):
    skills: list[SkillOut]


class DrillKeys(Described):
    drills: list[DrillKey]


class ChoiceOut(Described):
    key: str
    text: str


class SectionOut(Described):
    """The hole that a clip was made at."""

    bottom_depth_m: float
    bottom_kind: BottomName
    ice_thickness_m: float
    face_depth_m: float
    weed_height_m: float


class ClipOut(Described):
    pings: PingsOut
    unit: UnitFields
    settings: SettingsFields
    section: SectionOut
    has_lure: bool
    line_m: list[float] = Field(description="Line taken in since the clip began, at each ping")
    arrow_m: float | None = Field(description="Range from the face that the question points at")
    caption: str


class DrillOut(DrillKey):
    """A drill before it is answered."""

    title: str
    question: SaidOut
    clips: list[ClipOut]
    choices: list[ChoiceOut] = Field(description="None when the picture is to be pointed at")
    stop_s: float | None = Field(description="Where the clip stops until it is answered")


class AnswerFields(Given):
    kind: DrillName
    level: Whole = Field(ge=1, le=3)
    seed: Seed = Field(ge=0, le=2**40)
    choice: str | None = Field(None, max_length=40)
    range_m: Number | None = Field(None, ge=0.0, le=200.0, description="Range that was pointed at")
    seconds: Number = Field(ge=0.0, le=86400.0)
    scheduled: StrictBool = Field(True, description="Whether the answer moves the schedule, as in a daily round")


class TrueMarkOut(Described):
    label: str
    kind: str
    depth_m: float
    aside_m: float


class AnswerOut(Described):
    is_right: bool
    right: str
    target_m: tuple[float, float] | None
    why: SaidOut
    truth: list[TrueMarkOut]
    moment_s: float
    level: int = Field(description="The level that comes next time")
    due_at: str | None


class RoundOut(RoundFields):
    id: int


class RoundList(Described):
    rounds: list[RoundOut]


class RoundPath(Described):
    round_id: RowId


class ObservationFields(Given):
    shown_m: Number = Field(ge=0.0, le=150.0, description="Where the mark begins on the unit's scale, from the face")
    colour: Whole = Field(ge=1, le=32, description="Its strongest step of the ladder")
    thickness: ThicknessName = "as the lure"
    motion: MotionName = "still"
    change: ChangeName = "steady"
    near: NearName = "open water"
    bottom: LooksName | None = None


class CallWanted(Given):
    unit_id: RowId
    lure_id: RowId | None = None
    lure_depth_m: Number | None = Field(None, ge=0.1, le=DEEPEST_M)
    gain: Number | None = Field(None, ge=-1000.0, le=1000.0, description="Null for what the hole card advises")
    range_m: Number | None = Field(None, ge=1.0, le=150.0)
    seen: ObservationFields | None = Field(None, description="Null to ask only how the unit would stand")


class RegionOut(Described):
    aside_m: list[float]
    top_m: list[float]
    bottom_m: list[float]


class CallOut(Described):
    kind: str
    chance: float
    because: list[SaidOut]
    do: str
    region: RegionOut | None
    depth_m: tuple[float, float] | None
    length_m: tuple[float, float] | None
    likely_length_m: tuple[float, float] | None = Field(
        description="How long it would be under the hole, and at the region's outer edge"
    )


class SheetOut(Described):
    """What a mark can be, likeliest first; and the settings that this was worked out for."""

    settings: SettingsFields
    lure_depth_m: float | None
    bottom_range_m: float
    dead_zone_m: float = Field(description="Depth under the hole from which on nothing shows apart from the bottom")
    calibrated: bool
    calls: list[CallOut]
    fits: bool
