"""The fields of scenes, units, settings and lures as pydantic models: for files and for the web alike, in SI units."""

from __future__ import annotations

from copy import deepcopy
from functools import cache
from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field, StrictBool, StringConstraints

from ..core.acoustics.bottom import BOTTOM_KINDS
from ..core.acoustics.targets import SOLIDS
from ..core.bench.frame import STEP_S
from ..core.drills.catalogue import kinds
from ..core.fish.traits import MOODS
from ..core.gear.lures import FORMS
from ..core.gear.unit import PICTURES
from ..core.hole.contents import DEEPEST_M, HUNG_KINDS, SHOAL_FORMS, SPECIES, STRUCTURES
from ..core.hole.scene import CLARITY_DB, PLANKTON_DB
from ..core.runs.levels import LEVELS
from ..core.runs.run_log import LONGEST_S, MOST_COMMANDS

BottomName = Literal[tuple(BOTTOM_KINDS)]  # type: ignore[valid-type]
ClarityName = Literal[tuple(CLARITY_DB)]  # type: ignore[valid-type]
PlanktonName = Literal[tuple(PLANKTON_DB)]  # type: ignore[valid-type]
StructureName = Literal[tuple(STRUCTURES)]  # type: ignore[valid-type]
HungName = Literal[tuple(HUNG_KINDS)]  # type: ignore[valid-type]
ShoalName = Literal[tuple(SHOAL_FORMS)]  # type: ignore[valid-type]
SpeciesName = Literal[tuple(SPECIES)]  # type: ignore[valid-type]
FormName = Literal[tuple(FORMS)]  # type: ignore[valid-type]
MaterialName = Literal[tuple(SOLIDS)]  # type: ignore[valid-type]
DrillName = Literal[tuple(kinds())]  # type: ignore[valid-type]
LevelName = Literal[tuple(one.key for one in LEVELS)]  # type: ignore[valid-type]
MoodName = Literal[MOODS]  # type: ignore[valid-type]
MOST_FRAMES = round(LONGEST_S / STEP_S)
PictureName = Literal[PICTURES]  # type: ignore[valid-type]
Name = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80)]
Colour = Annotated[str, StringConstraints(pattern=r"^#[0-9a-fA-F]{6}$")]
# What may stand in JSON for a number: not text, not true or false.
Number = Annotated[float, Field(strict=True, allow_inf_nan=False)]
Whole = Annotated[int, Field(strict=True)]
Position = Annotated[int, Field(strict=True, ge=0, le=31)]


class Described(BaseModel):
    """A model that works its JSON schema out once: the OpenAPI document asks for some of them dozens of times."""

    @classmethod
    def model_json_schema(cls, *args: Any, **more: Any) -> dict[str, Any]:
        return deepcopy(_schema(cls, args, tuple(more.items())))


@cache
def _schema(model: type[Described], args: tuple[Any, ...], more: tuple[tuple[str, Any], ...]) -> dict[str, Any]:
    return super(Described, model).model_json_schema(*args, **dict(more))


class Given(Described):
    """What is sent to us: fields we do not know are refused rather than dropped."""

    model_config = ConfigDict(extra="forbid")


class StructureFields(Given):
    kind: StructureName
    aside_m: Number = Field(ge=-10.0, le=10.0)
    height_m: Number = Field(ge=0.1, le=3.0)


class HungFields(Given):
    kind: HungName
    depth_m: Number = Field(ge=0.1, le=DEEPEST_M)


class ShoalFields(Given):
    species: SpeciesName
    count: Whole = Field(ge=1, le=60)
    form: ShoalName
    depth_m: Number = Field(ge=0.1, le=DEEPEST_M)


class NeighbourFields(Given):
    distance_m: Number = Field(ge=0.2, le=50.0)
    frequency_hz: Number = Field(200e3, ge=20e3, le=1e6)
    width_deg: Number = Field(12.0, ge=3.0, le=60.0)
    power_w: Number = Field(60.0, ge=0.1, le=5000.0)
    ping_interval_s: Number = Field(0.047, ge=0.01, le=1.0)


class SceneFields(Given):
    """What is true under the hole."""

    bottom_depth_m: Number = Field(ge=0.5, le=DEEPEST_M, description="Depth of the bottom below the water's surface")
    bottom_kind: BottomName = Field(description="What the bottom is made of")
    ice_thickness_m: Number = Field(ge=0.0, le=3.0, description="Thickness of the ice")
    face_depth_m: Number = Field(ge=0.0, le=5.0, description="Transducer face below the water's surface")
    hole_diameter_m: Number = Field(0.2, ge=0.08, le=1.0, description="Diameter of the hole")
    temperature_c: Number = Field(1.0, ge=0.0, le=25.0, description="Temperature of the deeper water")
    clarity: ClarityName = Field("clear", description="How much hangs in the water")
    slush_m: Number = Field(0.0, ge=0.0, le=0.5, description="Slush in the hole")
    tilt_deg: Number = Field(0.0, ge=0.0, le=30.0, description="How far the transducer hangs off plumb")
    face_wet: StrictBool = Field(True, description="False for a dry, unrubbed face")
    on_float: StrictBool = Field(True, description="False when it swings on its cable")
    second_hole_m: Number = Field(0.0, ge=0.0, le=5.0, description="Distance to a second hole; 0 for none")
    under_ice_c: Number | None = Field(None, ge=0.0, le=25.0, description="Temperature just under the ice")
    hour: Number = Field(12.0, ge=0.0, le=24.0, description="Hour of the day; plankton rises at dusk")
    plankton: PlanktonName = Field("none", description="How thick the plankton is")
    silt: Number = Field(0.0, ge=0.0, le=1.0, description="How much silt is stirred up")
    slope_deg: Number = Field(0.0, ge=0.0, le=30.0, description="Slope of the bottom")
    roughness_m: Number | None = Field(None, ge=0.0, le=0.2, description="In place of the roughness of its kind")
    weed_height_m: Number = Field(0.0, ge=0.0, le=5.0, description="Height of standing weed")
    weed_density: Number = Field(0.5, ge=0.0, le=1.0, description="Density of the weed")
    visitors: Whole = Field(1, ge=0, le=6, description="Fish that may come to the lure at once")
    structures: list[StructureFields] = Field([], max_length=4)
    hung: list[HungFields] = Field([], max_length=2)
    shoals: list[ShoalFields] = Field([], max_length=6)
    neighbours: list[NeighbourFields] = Field([], max_length=6)


class SettingsFields(Given):
    gain: Number = Field(description="Gain, in the unit's own numbers")
    range_m: Number = Field(description="Range: one that the unit has")
    bottom_window_m: Number = Field(0.0, description="Height of a window that follows the bottom; 0 for none")
    beam: Position = Field(0, description="Position in the unit's list of beams")
    power: Position = Field(0, description="Position in the unit's list of powers")
    pulse: Position = Field(0, description="Position in the unit's list of pulses")
    auto_range: StrictBool = Field(False, description="The unit chooses its range")
    free_window_m: Number = Field(0.0, description="Height of a window put anywhere; 0 for none")
    free_window_top_m: Number = Field(0.0, description="Its top below the face")
    beside: StrictBool = Field(False, description="The window stands beside the full column")
    rejection: Position = Field(0, description="Position in the unit's list of rejection steps")
    noise_filter: Position = Field(0, description="Position in the unit's list of noise filters")
    tvg: Position = Field(0, description="Position in the unit's list of time-varied gain steps")
    blanking: Position = Field(0, description="Position in the unit's list of blanking depths")
    ladder: Position = Field(0, description="Position in the unit's list of ladders")
    scroll: Position = Field(0, description="Position in the unit's list of scroll speeds")
    light: Position = Field(0, description="Position in the unit's list of screen lights")


class BeamFields(Given):
    name: Name
    frequency_hz: Number = Field(ge=20e3, le=1e6)
    width_deg: Number = Field(ge=3.0, le=60.0)
    level_db: Number = Field(-3.0, ge=-20.0, le=-1.0)


class PulseFields(Given):
    name: Name
    duration_s: Number = Field(ge=5e-6, le=2e-3)


class GainScaleFields(Given):
    minimum: Number = Field(ge=-1000.0, le=1000.0)
    maximum: Number = Field(ge=-1000.0, le=1000.0)
    step: Number = Field(ge=1e-3, le=1000.0)
    db_per_step: Number = Field(ge=0.01, le=20.0)
    first_colour_db: Number = Field(ge=60.0, le=220.0)


class RejectionFields(Given):
    pings: Whole = Field(ge=1, le=15)
    rate: Number = Field(1.0, ge=0.1, le=1.0)
    stagger: Number = Field(0.0, ge=0.0, le=0.5)


class StepFields(Given):
    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=24)]
    begins: Number = Field(ge=-3.0, le=40.0)
    rime: Colour
    lantern: Colour


class LadderFields(Given):
    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=40)]
    rime_dark: Colour
    lantern_dark: Colour
    steps: list[StepFields] = Field(min_length=2, max_length=32)


class CalibratedFields(Given):
    """How surely the gain scale is known from readings; standard deviations are 1 sigma."""

    readings: Whole = Field(ge=1, le=1000)
    first_colour_sd_db: Number = Field(ge=0.0, le=100.0)
    db_per_step_sd: Number = Field(ge=0.0, le=100.0)
    covariance_db2: Number = Field(ge=-1e4, le=1e4)
    colour_step_sd_db: Number = Field(ge=0.0, le=100.0)


class UnitFields(Given):
    """What a unit can do. Every list may have up to 32 entries."""

    name: Name
    beams: list[BeamFields] = Field(min_length=1, max_length=32)
    powers_w: list[Number] = Field(min_length=1, max_length=32)
    pulses: list[PulseFields] = Field(min_length=1, max_length=32)
    gain: GainScaleFields
    ranges_m: list[Number] = Field(min_length=1, max_length=32)
    bottom_windows_m: list[Number] = Field([], max_length=32)
    colour_step_db: Number = Field(6.0, ge=0.5, le=20.0)
    rows: Whole = Field(240, ge=16, le=2048)
    ping_rate_hz: Number = Field(20.0, ge=1.0, le=100.0)
    efficiency: Number = Field(0.5, ge=0.01, le=1.0)
    noise_level_db: Number = Field(62.0, ge=0.0, le=150.0)
    ring_down_db: Number = Field(172.0, ge=0.0, le=220.0)
    ring_down_decay_db_m: Number = Field(190.0, ge=10.0, le=2000.0)
    free_range: StrictBool = False
    auto_range: StrictBool = False
    free_windows_m: list[Number] = Field([], max_length=32)
    window_beside: StrictBool = False
    rejections: list[RejectionFields] = Field([RejectionFields(pings=1)], min_length=1, max_length=21)
    noise_filters: list[Whole] = Field([1], min_length=1, max_length=32)
    tvg_db_decade: list[Number] = Field([0.0], min_length=1, max_length=32)
    blanking_m: list[Number] = Field([0.0], min_length=1, max_length=32)
    ladders: list[LadderFields] = Field(min_length=1, max_length=32)
    pictures: list[PictureName] = Field(["trace", "strip"], min_length=1, max_length=3)
    scroll_speeds: list[Whole] = Field([1], min_length=1, max_length=8)
    brightness: list[Number] = Field([1.0], min_length=1, max_length=32)
    draw_a: Number = Field(0.2, ge=0.0, le=20.0)
    light_a: Number = Field(0.25, ge=0.0, le=20.0)
    directional: StrictBool = False
    lowest_battery_v: Number = Field(11.0, ge=1.0, le=60.0)
    calibrated: CalibratedFields | None = None


class LureFields(Given):
    name: Name
    form: FormName = "jig"
    material: MaterialName = "tungsten"
    diameter_m: Number = Field(ge=0.001, le=0.04, description="Of the jig or body, or across the blade")
    length_m: Number = Field(0.0, ge=0.0, le=0.15, description="Of blade, body or soft bait")
    spacing_m: Number = Field(0.0, ge=0.0, le=1.0, description="Between two jigs, or the chain's length")


class GearFields(Given):
    """Units and lures."""

    units: list[UnitFields] = Field([], max_length=20)
    lures: list[LureFields] = Field([], max_length=100)


class GearFile(GearFields):
    """A gear file as it is given out."""

    hollow_glint_gear: int = Field(description="The version of the format")


class SavedSceneFields(Given):
    """A scene with everything that is needed to see it again: the unit as it was set, the lure and where it hung."""

    name: Name
    note: Annotated[str, StringConstraints(strip_whitespace=True, max_length=500)] = ""
    scene: SceneFields
    unit: UnitFields
    settings: SettingsFields
    lure: LureFields
    lure_depth_m: Number = Field(ge=0.0, le=DEEPEST_M)
    seed: int = Field(strict=True, ge=0, le=2**53)


class SceneFile(SavedSceneFields):
    """A scene file as it is given out."""

    hollow_glint_scene: int = Field(description="The version of the format")


class RoundPartFields(Given):
    kind: DrillName
    level: Whole = Field(ge=1, le=3)
    count: Whole = Field(ge=1, le=20)


class RoundFields(Given):
    """A round of drills."""

    name: Name
    parts: list[RoundPartFields] = Field(min_length=1, max_length=60)


class RoundFile(RoundFields):
    """A round file as it is given out."""

    hollow_glint_round: int = Field(description="The version of the format")


class NewcomerFields(Given):
    """A fish on its way to the hole."""

    at_s: Number = Field(ge=0.0, le=600.0, description="When it comes")
    species: SpeciesName
    length_m: Number = Field(ge=0.02, le=1.5)
    home_m: Number = Field(ge=0.0, le=DEEPEST_M, description="Its own depth")
    away_m: Number = Field(3.5, ge=0.1, le=5.0)
    bearing_rad: Number = Field(0.0, ge=-20.0, le=20.0)
    miss_m: Number = Field(0.0, ge=-4.0, le=4.0)
    stays_s: Number | None = Field(None, ge=0.0, le=1000.0)
    comes: StrictBool | None = None


class DayFields(Given):
    """How the day is for every fish."""

    mood: MoodName
    rise_line_m: Number = Field(ge=0.0, le=DEEPEST_M)
    in_the_face: Number = Field(ge=-1.0, le=1.0)
    pounding: Number = Field(ge=-1.0, le=1.0)


class HandFields(Given):
    """What an angler did with hand, eyes and knobs in one frame. Only what is given was done."""

    frame: Whole = Field(ge=1, le=MOST_FRAMES)
    settings: SettingsFields | None = None
    lift_m_s: Number | None = Field(None, ge=-1.0, le=1.0)
    to_depth_m: Number | None = Field(None, ge=0.0, le=DEEPEST_M)
    twitch: StrictBool = False
    eyes: Literal["sonar", "rod"] | None = None
    set_hook: StrictBool = False
    force: Literal["firm", "hard"] = "firm"
    rod: Literal["jig", "stick"] = "jig"
    kick: StrictBool = False
    target_depth_m: Number | None = Field(None, ge=0.0, le=DEEPEST_M)


class RunSetupFields(Given):
    """What a run started from."""

    level: LevelName
    seed: int = Field(strict=True, ge=0, le=2**53)
    scene: SceneFields
    unit: UnitFields
    settings: SettingsFields
    lure: LureFields
    line: Literal["nylon", "braid"]
    lure_depth_m: Number = Field(ge=0.0, le=DEEPEST_M)
    goal_m: Number = Field(ge=0.0, le=DEEPEST_M)
    day: DayFields
    schedule: list[NewcomerFields] = Field(max_length=60)
    small: Whole = Field(0, ge=0, le=60)


class RunFields(Given):
    """A run of the strike drill: what it started from and what the angler did."""

    setup: RunSetupFields
    commands: list[HandFields] = Field(max_length=MOST_COMMANDS)
    frames: Whole = Field(ge=1, le=MOST_FRAMES)


class RunFile(RunFields):
    """A run file as it is given out."""

    hollow_glint_run: int = Field(description="The version of the format")
