"""The contract of drills and of the call sheet."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field, StrictBool

from ...core.drills.catalogue import KINDS
from ...core.drills.drill import Choice, TrueMark
from ...core.drills.rounds import RoundPart
from ...core.drills.schedule import SkillProgress
from ...core.hole.contents import DEEPEST_M
from ...core.reader.explanations import EXPLANATIONS
from ...core.reader.observation import Observation
from ...formats.fields import RoundFields, SettingsFields, UnitFields
from ...formats.mirror import Described, Given, NamesOf, Number, Whole, mirrors
from ..contract import PingsOut, RowId, SectionOut, SentenceOut

MOST_DRILL_SEED = 2**40


@mirrors(RoundPart, only=("kind", "level"))
class DrillKey(Described):
    """Which drill: the same three always give the same one."""

    seed: int = Field(ge=0, le=MOST_DRILL_SEED)


@mirrors(SkillProgress)
class SkillOut(Described):
    """A kind of drill as someone has practised it: `low` to `high` is what the share right may really be, 95 %."""

    kind: Annotated[str, NamesOf(KINDS)]
    title: str
    level: int
    due_at: str | None = Field(description="UTC; null for one never tried")
    is_due: bool


class SkillList(Described):
    skills: list[SkillOut]


class DrillKeys(Described):
    drills: list[DrillKey]


@mirrors(Choice)
class ChoiceOut(Described):
    """One answer to choose."""


class ClipOut(Described):
    """What a screen showed for a few seconds, and the hole it was made at."""

    pings: PingsOut
    unit: UnitFields
    settings: SettingsFields
    section: SectionOut
    has_lure: bool
    line_m: list[float] = Field(description="Line taken in since the clip began, at each ping")
    arrow_m: float | None = Field(description="Range from the face that the question points at")
    caption: str


class SweepOut(Described):
    """What a picture that turns showed."""

    levels: str = Field(description="Base64: turns by bearings by bins, a byte each")
    steps: int = Field(description="Brightest step; 0 is dark")
    range_m: float
    head_depth_m: float
    bottom_depth_m: float
    turn_s: float
    arrow: tuple[float, float] | None = Field(description="Bearing and way through the water that is asked about")
    holes: list[tuple[float, float]] = Field(description="Bearing and way along the ice of places named A, B, C")
    caption: str


class FanFilmOut(Described):
    """What a fan showed, picture by picture; ahead is to the right."""

    levels: str = Field(description="Base64: pictures by beams by bins, a byte each")
    pictures: int
    bins: int
    steps: int = Field(description="Strongest step; 0 is dark")
    beams_deg: list[float] = Field(description="Where each beam is drawn, from level ahead downwards")
    reach_m: float
    head_depth_m: float
    ice_m: float
    ahead_m: float
    behind_m: float
    deep_m: float
    square_m: float = Field(description="Side of a square of the net; 0 for none")
    every_s: float = Field(description="From picture to picture")
    dark: list[str] = Field(description="By day, by night")
    colours: list[list[str]] = Field(description="Weakest first, by day and by night")
    ring: tuple[float, float] | None = Field(description="Ahead and deep: what is asked about")
    places: list[tuple[float, float]] = Field(description="Ahead and deep of places named A, B, C")
    seams_deg: list[float] = Field(description="Where two sub-arrays meet, where they are drawn")
    caption: str


class DrillOut(DrillKey):
    """A drill before it is answered."""

    title: str
    question: SentenceOut
    clips: list[ClipOut]
    sweeps: list[SweepOut] = Field(description="In place of clips, one or two pictures that turn")
    fans: list[FanFilmOut] = Field(description="In place of clips, one or two of a fan's pictures")
    choices: list[ChoiceOut] = Field(description="None when the picture is to be pointed at")
    stop_s: float | None = Field(description="Where the clip stops until it is answered")


@mirrors(RoundPart, only=("kind", "level"))
class AnswerFields(Given):
    """An answer to a drill."""

    seed: Whole = Field(ge=0, le=MOST_DRILL_SEED)
    choice: str | None = Field(None, max_length=40)
    range_m: Number | None = Field(None, ge=0.0, le=200.0, description="Range that was pointed at")
    seconds: Number = Field(ge=0.0, le=86400.0)
    scheduled: StrictBool = Field(True, description="Whether the answer moves the schedule, as in a daily round")


@mirrors(TrueMark)
class TrueMarkOut(Described):
    """What was where at the decisive moment."""


class AnswerOut(Described):
    is_right: bool
    right: str
    target_m: tuple[float, float] | None
    why: SentenceOut
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


@mirrors(Observation)
class ObservationFields(Given):
    """What was seen of a mark."""


class CallWanted(Given):
    unit_id: RowId
    lure_id: RowId | None = None
    lure_depth_m: Annotated[Number, Field(ge=0.1, le=DEEPEST_M)] | None = None
    gain: Number | None = Field(None, ge=-1000.0, le=1000.0, description="Null for what the hole card advises")
    range_m: Number | None = Field(None, ge=1.0, le=150.0)
    seen: ObservationFields | None = Field(None, description="Null to ask only how the unit would stand")


class RegionOut(Described):
    aside_m: list[float]
    top_m: list[float]
    bottom_m: list[float]


class CallOut(Described):
    """One thing that a mark can be."""

    kind: Annotated[str, NamesOf(EXPLANATIONS)]
    chance: float
    because: list[SentenceOut]
    do: str
    region: RegionOut | None
    depth_m: tuple[float, float] | None
    length_m: tuple[float, float] | None
    likely_length_m: tuple[float, float] | None = Field(
        description="How long it would be at the region's inner edge, and at its outer edge"
    )
    under_the_hole_m: float | None = Field(description="How long under the hole; null where the region is not there")


class SheetOut(Described):
    """What a mark can be, likeliest first; and the settings that this was worked out for."""

    settings: SettingsFields
    lure_depth_m: float | None
    bottom_range_m: float
    dead_zone_m: float = Field(description="Depth under the hole from which on nothing shows apart from the bottom")
    calibrated: bool
    calls: list[CallOut]
    fits: bool
