"""The contract with the front end: what goes in and out of every address, in SI units, as pydantic models."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field, StrictBool, StringConstraints

from ..core.hole.contents import DEEPEST_M
from ..formats.fields import (
    BottomName,
    ClarityName,
    Described,
    Given,
    LureFields,
    Name,
    Number,
    SceneFields,
    SettingsFields,
    UnitFields,
)

RowId = Annotated[int, Field(ge=1, le=2**62)]


class FieldProblem(Described):
    """One field that is wrong, the value it had, and what is accepted."""

    field: str
    value: str
    message: str


class Problem(Described):
    """An error a person can act on (RFC 9457)."""

    type: str = "about:blank"
    title: str
    status: int
    detail: str
    errors: list[FieldProblem] = Field([])


# What any address with a body may answer when the body is wrong.
BODY_PROBLEMS: dict[int, type[BaseModel]] = {400: Problem, 413: Problem, 415: Problem, 422: Problem}


class Health(Described):
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


class HoleOut(Described):
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


class HoleList(Described):
    holes: list[HoleOut]


class HolePath(Described):
    hole_id: RowId


class UnitOut(UnitFields):
    model_config = ConfigDict(extra="ignore")
    id: int


class UnitList(Described):
    units: list[UnitOut]


class UnitPath(Described):
    unit_id: RowId


class LureOut(LureFields):
    model_config = ConfigDict(extra="ignore")
    id: int


class LurePath(Described):
    lure_id: RowId


class LureList(Described):
    lures: list[LureOut]


class GearTaken(Described):
    units: list[UnitOut]
    lures: list[LureOut]


class StrikeOut(Described):
    id: int
    hole_id: int
    unit_id: int
    lure_id: int
    struck_at: str
    depth_m: float
    fish_length_m: float | None
    settings: SettingsFields
    note: str


class StrikeList(Described):
    strikes: list[StrikeOut]


class StrikeQuery(Described):
    hole_id: RowId | None = Field(None, description="Only strikes at this hole")


class StrikePath(Described):
    strike_id: RowId


class SceneSummary(Described):
    id: int
    name: str
    note: str


class SceneList(Described):
    scenes: list[SceneSummary]


class ScenePath(Described):
    scene_id: RowId


class ExerciseOut(Described):
    key: str
    title: str
    aim: str
    hint: str
    learned: str
    done_at: str | None


class ExerciseList(Described):
    exercises: list[ExerciseOut]


class BenchWanted(Given):
    """One of hole_id (with unit_id and lure_id), scene_id or exercise. A scene's own unit and lure may be replaced."""

    hole_id: RowId | None = None
    scene_id: RowId | None = None
    exercise: Annotated[str, StringConstraints(max_length=80)] | None = None
    unit_id: RowId | None = None
    lure_id: RowId | None = None
    seed: int | None = Field(None, strict=True, ge=0, le=2**53, description="Same seed, same water and fish")
    fish_length_m: Number = Field(0.3, ge=0.05, le=1.5, description="The fish whose seen zone is drawn")
    settings: SettingsFields | None = Field(None, description="At a hole: where the knobs stand to begin with")
    lure_depth_m: Number | None = Field(None, ge=0.0, le=DEEPEST_M, description="At a hole: where the lure hangs")


class RunInfo(Described):
    """A run of the strike drill, as it stands before it is played."""

    level: str
    title: str
    teaches: str
    line: str
    goal_m: float
    longest_s: float
    branch_of: int | None
    begins_s: float = Field(description="Where a branch takes over")


class BenchOut(Described):
    id: str
    seed: int
    frame_s: float
    title: str
    hole_id: int | None
    exercise: ExerciseOut | None
    run: RunInfo | None = None
    scene: SceneFields
    unit: UnitFields
    lure: LureFields
    settings: SettingsFields
    lure_depth_m: float


class BenchPath(Described):
    bench_id: str = Field(max_length=64)


class CommandFields(Given):
    """What the angler does. Only what is given changes."""

    settings: SettingsFields | None = None
    lift_m_s: Number | None = Field(None, ge=-1.0, le=1.0, description="Hand speed, upwards positive; 0 holds still")
    to_depth_m: Number | None = Field(None, ge=0.0, le=DEEPEST_M, description="Bring the lure to this depth")
    twitch: StrictBool = False
    eyes: Literal["sonar", "rod"] | None = None
    set_hook: StrictBool = False
    force: Literal["firm", "hard"] = "firm"
    rod: Literal["jig", "stick"] = Field("jig", description="The rod whose hook is set")
    kick: StrictBool = Field(False, description="Automatic range looks for the bottom anew")
    target_depth_m: Number | None = Field(None, ge=0.0, le=DEEPEST_M, description="The target line; 0 takes it away")
    scene: SceneFields | None = Field(None, description="The water as it is from now on")
    fish_length_m: Number | None = Field(None, ge=0.05, le=1.5, description="The fish whose seen zone is drawn")
    read: StrictBool | None = Field(None, description="Whether the reader names the marks in the stream")


class Accepted(Described):
    frame: int = Field(description="The command is in the picture from the frame after this one")


class FishOut(Described):
    x: float
    y: float
    z: float
    length_m: float
    mood: str
    species: str
    keen: float = Field(description="How near it is to taking, 0 to 1")
    highest_m: float = Field(description="It follows no higher than this")
    who: int


class EventOut(Described):
    kind: str
    depth_m: float
    fish_length_m: float
    number: float = Field(0.0, description="The number behind it: a speed [m/s], a time [s] or a pull [N]")
    species: str = ""
    how: str = Field("", description="How it bit")
    strike_id: int | None = None


class FrameOut(Described):
    """One step of the picture; `levels` is base64 of `pings` times `rows` bytes, each a step of the ladder.

    `window_levels` is the same for the magnified window where it stands beside the full column, else null.
    """

    number: int
    time_s: float
    pings: int
    rows: int
    first_ping: int = Field(description="Number of the first of these pings, counted from the start")
    levels: str
    top_m: float = Field(description="Range from the face at the picture's top edge")
    bottom_m: float = Field(description="Range from the face at the picture's bottom edge")
    window_levels: str | None
    window_top_m: float
    window_bottom_m: float
    found_bottom_m: float = Field(description="Range at which the unit sees the bottom")
    settings: SettingsFields
    lure_depth_m: float
    lure_x: float
    lure_rising_m_s: float
    rod_tip_bend: float
    rod_tip: str = Field(description="What the tip shows")
    stick_tip_bend: float
    stick_tip: str
    eyes: Literal["sonar", "rod"]
    target_depth_m: float
    lock_m: float | None = Field(description="Where automatic range takes the bottom to be")
    scene_changes: int = Field(description="Counts up when the water or how the transducer hangs has changed")
    school: list[list[float]] = Field(description="Fish that mind their own business: x, y, z, length")
    fish: list[FishOut]
    events: list[EventOut]
    run_id: int | None = Field(None, description="In a run that is over: where it is kept")


class QuantityOut(Described):
    value: float
    unit: Literal["m", "m/s", "gain", "dB", "percent", "degrees", "s", "V", "mm", "count", "step", "N"]


class ChangeOut(Described):
    """A field of the settings or of the scene and the value to give it; "kick" is a command."""

    setting: str
    value: float | bool


class VerdictOut(Described):
    code: str
    finding: str
    reason: str
    values: dict[str, QuantityOut]
    change: ChangeOut | None


class GainWindowOut(Described):
    """In the unit's own numbers; `floor` and `width_db` are null while the lure is not in the beam at all."""

    floor: float | None
    ceiling: float
    advised: float
    width_db: float | None
    buried: bool
    floor_sd: float = Field(description="How surely the floor is known [1 sd]; 0 for an uncalibrated unit")
    ceiling_sd: float


class SeenZoneOut(Described):
    """How far off the axis each is seen, at each of `depth_m`; and where the dead zone begins at each `offset_m`."""

    depth_m: list[float]
    lure_m: list[float]
    fish_m: list[float]
    offset_m: list[float]
    dead_zone_top_m: list[float]
    tilt_rad: float = Field(description="How far the axis of both lobes is off plumb, towards +x")


class TuningOut(Described):
    gain_window: GainWindowOut
    verdicts: list[VerdictOut]
    seen_zone: SeenZoneOut
    fish_length_m: float
    row_height_m: float
    resolution_m: float
    cone_at_lure_m: float
    cone_at_bottom_m: float
    ping_rate_hz: float
    lag_s: float
    smallest_range_m: float
    draw_a: float
    neighbour_percent: float = Field(description="Share of the picture that neighbours' pings light")
    second_echo_m: float


class MarkWanted(Described):
    range_m: float = Field(ge=0.0, le=200.0, description="Range from the face that was touched")
    ping: int | None = Field(None, ge=0, le=2**53, description="Number of the ping; the newest if not given")


class MarkOut(Described):
    kind: str
    finding: str
    reason: str
    values: dict[str, QuantityOut]
    depth_m: float | None
    aside_m: float | None


def plain(value: Any, model: type[BaseModel]) -> dict[str, Any]:
    """`value` (a dataclass or a dict) as JSON-ready fields of `model`."""
    return model.model_validate(value, from_attributes=True).model_dump(mode="json")
