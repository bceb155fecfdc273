"""The contract of the forward fan: heads, how one hangs and is set, its picture, what is advised and measured.

Metres; degrees from north, or in the plane from level ahead downwards.
"""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from ...core.fan.coach import RULES
from ...core.fan.head import CONTROLS, FAN_HEADS, FanHang, FanHead
from ...core.fan.measure import Closing, FanMark, TurnTo
from ...core.fan.settings import FanSettings
from ...core.fan.situation import JOBS
from ...core.fan.swimmers import HungLure
from ...core.fan.window import FanWindow, Sought
from ...core.tuning.verdict import Verdict
from ...core.wording import Change
from ...formats.fields import LureFields
from ...formats.mirror import Described, Given, NamesOf, Number, mirrors
from ..contract import SentenceOut
from .contract import FixFields, SpanOut
from .fan_fishing_contract import FishedOut, FishingOut, FishingWanted
from .look_contract import LookedAt

MOST_LURES = 4


@mirrors(FanHang)
class FanHangFields(Given):
    """How a fan's head hangs and is aimed."""


@mirrors(FanSettings)
class FanSettingsFields(Given):
    """How a fan's picture is set."""


@mirrors(HungLure, leave_out=("lure",))
class HungLureFields(Given):
    """A lure in a hole."""

    lure: LureFields | None = Field(default=None, description="Null for the usual jig")


@mirrors(Sought, leave_out=("lure",))
class SoughtFields(Given):
    """What one wants to see and where it is thought to be."""

    lure: LureFields | None = Field(default=None, description="Null for the usual jig")


HeadKey = Annotated[str, NamesOf(FAN_HEADS)]
Job = Annotated[str, NamesOf(JOBS)]


@mirrors(FanHead, leave_out=("lacks",))
class FanHeadOut(Described):
    """A head."""

    key: HeadKey
    fan_deg: float
    seams_deg: list[float] = Field(description="Where two sub-arrays meet, from the fan's middle")
    controls: list[Annotated[str, NamesOf(CONTROLS)]] = Field(description="Those that it has")


class FanHeadsOut(Described):
    heads: list[FanHeadOut]


class FanWanted(LookedAt):
    """A look ahead."""

    head: HeadKey = "near reach"
    hang: FanHangFields = Field(default_factory=FanHangFields)
    settings: FanSettingsFields = Field(default_factory=FanSettingsFields)
    lures: list[HungLureFields] = Field(default=[], max_length=MOST_LURES)
    fishing: FishingWanted | None = Field(None, description="Sit down at a hole and fish: then the lures are its own")


class FanPath(Described):
    fan_id: str = Field(max_length=64)


class FanOut(Described):
    id: str
    seed: int
    frame_s: float = Field(description="From event to event of its stream")
    beams: int
    bins: int = Field(description="From the head to the end of its reach")
    steps: int = Field(description="Strongest step of the picture; 0 is dark, one more is the shade below the bottom")
    time_s: float
    bottom_depth_m: float
    head: FanHeadOut
    hang: FanHangFields
    settings: FanSettingsFields
    lures: list[HungLureFields]
    fishing: FishingOut | None


class FanSetWanted(Given):
    """How it hangs, is aimed and set from now on."""

    hang: FanHangFields
    settings: FanSettingsFields
    lures: list[HungLureFields] | None = Field(None, max_length=MOST_LURES, description="Null: as they hang")


class FanTold(Described):
    hang: FanHangFields
    settings: FanSettingsFields


class FanFrameOut(Described):
    """The newest picture of a fan, with what is laid over it."""

    now_s: float
    levels: str = Field(description="Base64: beams by bins, a byte each")
    beams_deg: list[float] = Field(description="Where each beam is drawn, from level ahead downwards")
    reach_m: float
    lines_ahead_m: list[float]
    lines_deep_m: list[float]
    numbers_ahead_m: list[float]
    numbers_deep_m: list[float]
    heading_deg: float | None
    dark: list[str] = Field(description="By day, by night")
    colours: list[list[str]] = Field(description="Weakest first, by day and by night")
    hang: FanHangFields
    settings: FanSettingsFields
    fishing: FishedOut | None


class AdviceWanted(Given):
    sought: SoughtFields = Field(default_factory=SoughtFields)
    job: Job = "search"
    dark: bool = False


@mirrors(FanWindow)
class FanWindowOut(Described):
    """The window of the gain."""

    floor: float
    is_open: bool


@mirrors(Change)
class FanChangeOut(Described):
    """A field of how the fan hangs or is set, and the value to give it; "looks_down" turns the head down."""


@mirrors(Verdict, leave_out=("severity", "change", "code"))
class FanVerdictOut(Described):
    """One finding and the change that settles it."""

    code: Annotated[str, NamesOf(RULES)]
    change: FanChangeOut | None


class AdviceOut(Described):
    window: FanWindowOut
    verdicts: list[FanVerdictOut]
    costs: dict[str, SentenceOut] = Field(description="By control")


class ChangeWanted(Given):
    setting: str = Field(max_length=40)
    value: Number | bool


class FanMarkWanted(Described):
    ahead_m: float = Field(ge=-60.0, le=60.0)
    depth_m: float = Field(ge=0.0, le=60.0)


@mirrors(FanMark)
class FanMarkOut(Described):
    """A mark."""


class MeasuredOut(Described):
    """What a touched mark comes to; all null where nothing stands out."""

    mark: FanMarkOut | None
    along_ice_m: SpanOut | None
    depth_m: SpanOut | None
    off_bed_m: float | None
    length_m: SpanOut | None
    fix: FixFields | None
    to_do: SentenceOut | None


class AimSeen(Given):
    aim_deg: Number = Field(ge=0.0, le=360.0)
    strength_db: Number = Field(ge=-150.0, le=50.0)


class TurnWanted(Given):
    head: HeadKey
    aim_deg: Number = Field(ge=0.0, le=360.0, description="Where the handle points now")
    seen: list[AimSeen] = Field(min_length=2, max_length=50, description="How loud one mark was at each aim")


class RangeSeen(Given):
    time_s: Number = Field(ge=0.0, le=1e6)
    range_m: Number = Field(ge=0.0, le=300.0)


class ClosingWanted(Given):
    seen: list[RangeSeen] = Field(min_length=2, max_length=50, description="How far off one thing was, and when")


@mirrors(Closing)
class ClosingOut(Described):
    """How fast a thing comes nearer."""


@mirrors(TurnTo)
class TurnOut(Described):
    """How far to turn the handle."""
