"""The contract with the front end: what goes in and out of every address, in SI units, as pydantic models."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field, StrictBool, StringConstraints

from ..core.bottom import BOTTOM_KINDS
from ..core.scene import CLARITY_DB, DEEPEST_M

BottomName = Literal[tuple(BOTTOM_KINDS)]  # type: ignore[valid-type]
ClarityName = Literal[tuple(CLARITY_DB)]  # type: ignore[valid-type]
Name = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80)]
# What may stand in JSON for a number: not text, not true or false.
Number = Annotated[float, Field(strict=True, allow_inf_nan=False)]
RowId = Annotated[int, Field(ge=1, le=2**62)]


class Given(BaseModel):
    """What is sent to us: fields we do not know are refused rather than dropped."""

    model_config = ConfigDict(extra="forbid")


class FieldProblem(BaseModel):
    """One field that is wrong, the value it had, and what is accepted."""

    field: str
    value: str
    message: str


class Problem(BaseModel):
    """An error a person can act on (RFC 9457)."""

    type: str = "about:blank"
    title: str
    status: int
    detail: str
    errors: list[FieldProblem] = []


# What any address with a body may answer when the body is wrong.
BODY_PROBLEMS: dict[int, type[BaseModel]] = {400: Problem, 413: Problem, 415: Problem, 422: Problem}


class Health(BaseModel):
    status: Literal["ok"]
    version: str
    live_benches: int
    most_live_benches: int


class HoleFields(Given):
    name: Name
    water: Annotated[str, StringConstraints(strip_whitespace=True, max_length=80)] = ""
    note: Annotated[str, StringConstraints(strip_whitespace=True, max_length=500)] = ""
    bottom_depth_m: Number = Field(ge=0.5, le=DEEPEST_M, description="Depth of the bottom below the water's surface")
    bottom_kind: BottomName = Field(description="What the bottom is made of")
    ice_thickness_m: Number = Field(ge=0.0, le=3.0, description="Thickness of the ice")
    face_depth_m: Number = Field(ge=0.0, le=5.0, description="Transducer face below the water's surface")
    hole_diameter_m: Number = Field(0.2, ge=0.08, le=1.0, description="Diameter of the hole")
    temperature_c: Number = Field(1.0, ge=0.0, le=25.0, description="Water temperature")
    clarity: ClarityName = Field("clear", description="How much hangs in the water")


class HoleOut(BaseModel):
    id: int
    name: str
    water: str
    note: str
    bottom_depth_m: float
    bottom_kind: BottomName
    ice_thickness_m: float
    face_depth_m: float
    hole_diameter_m: float
    temperature_c: float
    clarity: ClarityName


class HoleList(BaseModel):
    holes: list[HoleOut]


class HolePath(BaseModel):
    hole_id: RowId


class SettingsFields(Given):
    gain: Number = Field(description="Gain, in the unit's own numbers")
    range_m: Number = Field(description="Range: one that the unit lists")
    bottom_window_m: Number = Field(0.0, description="Height of the bottom window; 0 for the full column")
    beam: int = Field(0, strict=True, ge=0, le=1000, description="Position in the unit's list of beams")
    power: int = Field(0, strict=True, ge=0, le=1000, description="Position in the unit's list of powers")
    pulse: int = Field(0, strict=True, ge=0, le=1000, description="Position in the unit's list of pulses")


class SettingsOut(BaseModel):
    gain: float
    range_m: float
    bottom_window_m: float
    beam: int
    power: int
    pulse: int


class BeamOut(BaseModel):
    name: str
    frequency_hz: float
    width_deg: float
    level_db: float


class PulseOut(BaseModel):
    name: str
    duration_s: float


class GainScaleOut(BaseModel):
    minimum: float
    maximum: float
    step: float
    db_per_step: float
    first_colour_db: float


class UnitOut(BaseModel):
    id: int
    name: str
    beams: list[BeamOut]
    powers_w: list[float]
    pulses: list[PulseOut]
    gain: GainScaleOut
    ranges_m: list[float]
    bottom_windows_m: list[float]
    colours: int
    colour_step_db: float
    rows: int
    ping_rate_hz: float


class UnitList(BaseModel):
    units: list[UnitOut]


class LureOut(BaseModel):
    id: int
    name: str
    form: str
    material: str
    diameter_m: float


class LureList(BaseModel):
    lures: list[LureOut]


class StrikeOut(BaseModel):
    id: int
    hole_id: int
    unit_id: int
    lure_id: int
    struck_at: str
    depth_m: float
    fish_length_m: float | None
    settings: SettingsOut
    note: str


class StrikeList(BaseModel):
    strikes: list[StrikeOut]


class StrikeQuery(BaseModel):
    hole_id: RowId | None = Field(None, description="Only strikes at this hole")


class StrikePath(BaseModel):
    strike_id: RowId


class BenchWanted(Given):
    hole_id: RowId
    unit_id: RowId
    lure_id: RowId
    seed: int | None = Field(None, strict=True, ge=0, le=2**53, description="Same seed, same water and fish")
    fish_length_m: Number = Field(0.3, ge=0.05, le=1.5, description="The fish whose seen zone is drawn")


class BenchOut(BaseModel):
    id: str
    seed: int
    frame_s: float
    hole: HoleOut
    unit: UnitOut
    lure: LureOut
    settings: SettingsOut


class BenchPath(BaseModel):
    bench_id: str = Field(max_length=64)


class CommandFields(Given):
    """What the angler does. Only what is given changes."""

    settings: SettingsFields | None = None
    lift_m_s: Number | None = Field(None, ge=-1.0, le=1.0, description="Hand speed, upwards positive; 0 holds still")
    to_depth_m: Number | None = Field(None, ge=0.0, le=DEEPEST_M, description="Bring the lure to this depth")
    twitch: StrictBool = False
    eyes: Literal["sonar", "rod"] | None = None
    set_hook: StrictBool = False
    fish_length_m: Number | None = Field(None, ge=0.05, le=1.5, description="The fish whose seen zone is drawn")


class Accepted(BaseModel):
    frame: int = Field(description="The command is in the picture from the frame after this one")


class FishOut(BaseModel):
    x: float
    y: float
    z: float
    length_m: float
    mood: str


class EventOut(BaseModel):
    kind: str
    depth_m: float
    fish_length_m: float
    strike_id: int | None = None


class FrameOut(BaseModel):
    """One step of the picture; `levels` is base64 of `pings` times `rows` bytes, each a step of the ladder."""

    number: int
    time_s: float
    pings: int
    rows: int
    levels: str
    top_m: float = Field(description="Range from the face at the picture's top edge")
    bottom_m: float = Field(description="Range from the face at the picture's bottom edge")
    found_bottom_m: float = Field(description="Range at which the unit sees the bottom")
    settings: SettingsOut
    lure_depth_m: float
    lure_rising_m_s: float
    rod_tip_bend: float
    eyes: Literal["sonar", "rod"]
    fish: list[FishOut]
    events: list[EventOut]


class QuantityOut(BaseModel):
    value: float
    unit: Literal["m", "gain", "dB", "percent"]


class ChangeOut(BaseModel):
    setting: Literal["gain", "range_m", "bottom_window_m", "beam", "power", "pulse"]
    value: float


class VerdictOut(BaseModel):
    code: str
    finding: str
    reason: str
    values: dict[str, QuantityOut]
    change: ChangeOut | None


class GainWindowOut(BaseModel):
    """In the unit's own numbers; `floor` and `width_db` are null while the lure is not in the beam at all."""

    floor: float | None
    ceiling: float
    advised: float
    width_db: float | None
    buried: bool


class SeenZoneOut(BaseModel):
    """How far off the axis each is seen, at each of `depth_m`; and where the dead zone begins at each `offset_m`."""

    depth_m: list[float]
    lure_m: list[float]
    fish_m: list[float]
    offset_m: list[float]
    dead_zone_top_m: list[float]


class TuningOut(BaseModel):
    gain_window: GainWindowOut
    verdicts: list[VerdictOut]
    seen_zone: SeenZoneOut
    fish_length_m: float
    row_height_m: float
    resolution_m: float
    cone_at_lure_m: float
    cone_at_bottom_m: float
    ping_rate_hz: float
    smallest_range_m: float


def plain(value: Any, model: type[BaseModel]) -> dict[str, Any]:
    """`value` (a dataclass or a dict) as JSON-ready fields of `model`."""
    return model.model_validate(value, from_attributes=True).model_dump(mode="json")
