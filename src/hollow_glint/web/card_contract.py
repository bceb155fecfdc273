"""The hole card's and the calibration's part of the contract: what goes in and out, in SI units."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field, StrictBool, StringConstraints

from ..core.card.ice_guidance import ICE_KINDS
from ..core.card.known_hole import DEPTHS, LIGHTS, LIVELINESS, SCHOOLS, VIEWS
from ..core.hole.contents import DEEPEST_M
from ..formats.fields import (
    BottomName,
    ClarityName,
    Described,
    Given,
    LureFields,
    NeighbourFields,
    Number,
    PictureName,
    SettingsFields,
    SpeciesName,
    Whole,
)
from .contract import ChangeOut, QuantityOut, RowId, UnitOut

LightName = Literal[tuple(LIGHTS)]  # type: ignore[valid-type]
LivelinessName = Literal[tuple(LIVELINESS)]  # type: ignore[valid-type]
IceName = Literal[tuple(ICE_KINDS)]  # type: ignore[valid-type]
SchoolName = Literal[SCHOOLS]  # type: ignore[valid-type]
ViewName = Literal[VIEWS]  # type: ignore[valid-type]
DepthName = Literal[DEPTHS]  # type: ignore[valid-type]


class CardWanted(Given):
    """What is known at a hole, in the order in which it becomes known; null is not known. Depth is enough."""

    depth_m: Number = Field(ge=0.5, le=DEEPEST_M, description="Depth of the bottom")
    depth_is: DepthName = Field("true", description="Below the water's surface, or as the unit displays it")
    ice_thickness_m: Number | None = Field(None, ge=0.0, le=3.0)
    ice_kind: IceName | None = None
    snow_m: Number | None = Field(None, ge=0.0, le=2.0, description="Snow on the ice")
    slush_m: Number | None = Field(None, ge=0.0, le=0.5, description="Slush in the hole")
    face_depth_m: Number | None = Field(None, ge=0.0, le=5.0, description="Where the transducer's face hangs now")
    hole_diameter_m: Number = Field(0.2, ge=0.08, le=1.0)
    temperature_c: Number = Field(1.0, ge=0.0, le=25.0)
    bottom_kind: BottomName | None = None
    clarity: ClarityName | None = None
    light: LightName | None = None
    liveliness: LivelinessName | None = Field(None, description="How much lives in the water")
    weed_height_m: Number | None = Field(None, ge=0.0, le=5.0)
    unit_id: RowId | None = Field(None, description="The first of your units if not given")
    lure_id: RowId | None = Field(None, description="A 5 mm tungsten jig if not given")
    second_lure_id: RowId | None = None
    lure_depth_m: Number | None = Field(None, ge=0.1, le=DEEPEST_M, description="Below the water's surface")
    lure_gap_m: Number = Field(0.15, ge=0.01, le=1.0, description="From the first lure up to the second")
    species: SpeciesName | None = None
    fish_length_m: Number | None = Field(None, ge=0.03, le=1.5)
    neighbours: list[NeighbourFields] | None = Field(None, max_length=6, description="Other units; null: not known")
    holes: Whole = Field(1, ge=1, le=2)
    school: SchoolName = "lean"
    view: ViewName = "full"
    window_m: Number | None = Field(None, ge=0.2, le=20.0, description="Height of the window wished for")


class SaidOut(Described):
    """A sentence with {names} for its values."""

    text: str
    values: dict[str, QuantityOut]


class UnknownOut(Described):
    name: str
    assumed: float | str
    cost_db: float = Field(description="What it may cost the gain window if it is otherwise")


class GainsOut(Described):
    """In the unit's numbers; the firm window is what is left whatever the unknowns turn out to be."""

    floor: float | None
    ceiling: float
    firm_floor: float | None
    firm_ceiling: float
    width_db: float | None
    open: bool
    firm: bool
    floor_sd: float
    ceiling_sd: float


class SchoolOut(Described):
    school: SchoolName
    gain: float
    water_lit_percent: float
    lure_seen_m: float
    fish_seen_m: float
    smallest_fish_m: float
    lure_colour: int


class ViewOut(Described):
    view: ViewName
    kind: str
    settings: SettingsFields
    top_m: float
    bottom_m: float
    row_m: float


class NumbersOut(Described):
    true_depth_m: float
    displayed_depth_m: float
    cone_at_lure_m: float
    cone_at_bottom_m: float
    lure_seen_m: float = Field(description="Width of the zone in which the lure is seen, at its depth")
    fish_seen_m: float
    fish_seen_at_bottom_m: float
    row_m: float
    gap_m: float = Field(description="Smallest gap between two marks")
    dead_zone_middle_m: float
    dead_zone_edge_m: float = Field(description="Height of the dead zone at the cone's edge")
    lure_colour: int = Field(description="Step of the ladder that the lure lights on axis; 0 for none")
    lure_colour_edge: int
    fish_colour: int
    fish_colour_edge: int
    lag_s: float
    ping_rate_hz: float
    neighbour_percent: float
    draw_a: float


class OpeningOut(Described):
    what: SaidOut
    gain_db: float
    opens: bool
    change: ChangeOut | None


class RuleOut(Described):
    """A rule of thumb beside what the card has, and why where they differ."""

    key: str
    thumb: SaidOut
    ours: SaidOut
    agrees: bool
    why: SaidOut


class CheckOut(Described):
    name: str
    said: SaidOut
    done: bool = False


class BesideOut(Described):
    use: str
    least_m: float
    fullest_m: float
    below: bool


class IceWordOut(Described):
    """General public guidance for clear ice (from memory) and the load rule of Gold 1971: no word that it is safe."""

    thickness_m: float
    counts_as_m: float
    kind_known: bool
    guidance: list[BesideOut]
    rule_kg: float


class MovedOut(Described):
    setting: str
    was: float
    now: float
    effect_db: float


class HoleCardOut(Described):
    unit: UnitOut
    lure: LureFields
    lure_depth_m: float
    fish_length_m: float
    settings: SettingsFields
    face_depth_m: float = Field(description="Where to hang the face, below the water's surface")
    below_ice_m: float
    float_m: float = Field(description="Cable from the float to the face")
    picture_kind: PictureName
    gains: GainsOut
    schools: list[SchoolOut]
    views: list[ViewOut]
    numbers: NumbersOut
    unknowns: list[UnknownOut]
    openings: list[OpeningOut]
    second_hole_m: float | None
    notes: list[SaidOut]
    rules: list[RuleOut]
    checks: list[CheckOut]
    cautions: list[SaidOut]
    ice: IceWordOut | None


class KeptCardOut(Described):
    """A hole's card, what it was made from, and what to change from the hole before; null with no hole before."""

    wanted: CardWanted
    card: HoleCardOut
    from_hole: str | None
    changes: list[MovedOut] | None


class CheckWanted(Given):
    name: Annotated[str, StringConstraints(min_length=1, max_length=40)]
    done: StrictBool


class TranslateWanted(Given):
    """A card's settings on another unit."""

    card: CardWanted
    to_unit_id: RowId


class TranslatedOut(Described):
    unit: UnitOut
    settings: SettingsFields
    matched: list[SaidOut]
    unmatched: list[SaidOut]


# --- calibration --------------------------------------------------------------------------------------------------


class WaterFields(Given):
    """The water in which a unit is calibrated."""

    bottom_depth_m: Number = Field(ge=0.5, le=DEEPEST_M)
    face_depth_m: Number = Field(0.45, ge=0.0, le=5.0)
    ice_thickness_m: Number = Field(0.35, ge=0.0, le=3.0)
    temperature_c: Number = Field(1.0, ge=0.0, le=25.0)


class ReadingFields(Given):
    """The gain at which the lure's mark at a depth just disappears (colour 0) or just turns to a colour."""

    lure_id: RowId
    depth_m: Number = Field(ge=0.1, le=DEEPEST_M)
    gain: Number
    colour: Whole = Field(0, ge=0, le=31)
    beam: Whole = Field(0, ge=0, le=31)
    power: Whole = Field(0, ge=0, le=31)
    pulse: Whole = Field(0, ge=0, le=31)


class CalibrationWanted(Given):
    water: WaterFields
    readings: list[ReadingFields] = Field(min_length=1, max_length=60)


class JudgedOut(Described):
    level_db: float
    expected_gain: float
    residual_db: float
    used: bool
    why: str


class NextReadingOut(Described):
    depth_m: float
    now_db: float
    then_db: float


class FitOut(Described):
    """What the readings say; standard deviations are 1 sigma."""

    first_colour_db: float
    first_colour_sd_db: float
    db_per_step: float
    db_per_step_sd: float
    colour_step_db: float
    colour_step_sd_db: float
    residual_sd_db: float
    used: int
    assumed: list[str]
    judged: list[JudgedOut]
    next_reading: NextReadingOut | None
    profile: UnitOut


class KeptCalibration(Described):
    wanted: CalibrationWanted | None
    applied_at: str | None


class LookWanted(Given):
    """A look at the stand-in unit: the lure at a depth, at a gain."""

    seed: int = Field(strict=True, ge=0, le=2**31)
    water: WaterFields
    reading: ReadingFields


class LookOut(Described):
    levels: str = Field(description="base64 of `pings` times `rows` bytes, each a step of the ladder")
    pings: int
    rows: int
    top_m: float
    bottom_m: float


class StandInWanted(Given):
    seed: int = Field(strict=True, ge=0, le=2**31)


class RevealedOut(Described):
    """What the stand-in's hidden numbers were."""

    first_colour_db: float
    db_per_step: float


def said(one: Any) -> dict[str, Any]:
    """A core sentence as fields of SaidOut."""
    return {"text": one.text, "values": {name: vars(value) for name, value in one.values.items()}}
