"""The contract of the Strike step: runs, debriefs, the cadence lab, the rise line and the strike sheet, in SI units."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, StringConstraints

from ..core.fish.cadence import MOST_MOVES
from ..core.fish.rod import LINES
from ..core.fish.strike_sheet import HAPPENED, LADDERS, TRIES
from ..core.runs.run_log import LONGEST_S
from ..core.runs.scripted_hands import HANDS
from ..core.runs.start import SETTINGS
from ..formats.fields import (
    DEEPEST_M,
    Described,
    Given,
    LevelName,
    LureFields,
    MoodName,
    Number,
    SettingsFields,
    StrictBool,
    UnitFields,
)
from .contract import HolePath, RowId
from .drill_contract import SectionOut
from .reading_contract import SaidOut

HandName = Literal[tuple(HANDS)]  # type: ignore[valid-type]
LineName = Literal[tuple(LINES)]  # type: ignore[valid-type]
StartName = Literal[SETTINGS]  # type: ignore[valid-type]
TryName = Literal[tuple(TRIES)]  # type: ignore[valid-type]
HappenedName = Literal[HAPPENED]  # type: ignore[valid-type]
LadderName = Literal[tuple(LADDERS)]  # type: ignore[valid-type]
Seed = Annotated[int, Field(strict=True, ge=0, le=2**53)]


class NamedWords(Described):
    key: str
    words: str


class LevelOut(Described):
    key: str
    title: str
    teaches: str
    mood: str
    runs: int = Field(description="How often it was played")
    landed: int


class StrikeChoices(Described):
    """What the Strike step offers: levels, moods, lines, and hands for a what-if."""

    levels: list[LevelOut]
    moods: list[NamedWords]
    lines: list[NamedWords]
    hands: list[NamedWords]


class RunWanted(Given):
    """A run to play: a level, or (`branch_of`, `branch_at_s`) another run from a moment on."""

    level: LevelName | None = None
    mood: MoodName | None = Field(None, description="The level's own if not given")
    seed: Seed | None = None
    start: StartName = Field("card", description="The hole card's settings, or deliberately spoiled ones")
    line: LineName = "braid"
    hole_id: RowId | None = Field(None, description="The level's own water if not given")
    unit_id: RowId | None = None
    lure_id: RowId | None = None
    branch_of: RowId | None = None
    branch_at_s: Number | None = Field(None, ge=0.0, le=LONGEST_S)


class SkillFigureOut(Described):
    skill: str
    good: float
    of: float


class RunOut(Described):
    id: int
    hole_id: int | None
    level: str
    title: str
    mood: str
    seed: int
    started_at: str
    seconds: float
    outcome: str
    landed_m: float
    species: str
    skills: list[SkillFigureOut]
    settings: SettingsFields = Field(description="How the knobs stood to begin with")
    branch_of: int | None
    branch_at_s: float | None


class RunList(Described):
    runs: list[RunOut]


class RunPath(Described):
    run_id: RowId


class MomentJudgedOut(Described):
    time_s: float
    code: str
    is_good: bool
    say: SaidOut
    back_s: float = Field(description="The moment to go back to and try it otherwise")


class FishTrackOut(Described):
    """One fish through the run: at each of `time_s` its true depth, offset and mood."""

    species: str
    length_m: float
    time_s: list[float]
    depth_m: list[float]
    aside_m: list[float]
    mood: list[str]


class CameOut(Described):
    time_s: float
    depth_m: float
    turned: bool


class RiseLineOut(Described):
    """How high fish will come today: the middle of the estimate and its 90 % interval, deep to shallow."""

    depth_m: float
    low_m: float
    high_m: float
    fish: int
    turned: int


class RunWhole(RunOut):
    """A run with its debrief: what truly happened on one time line, judged."""

    judged: list[MomentJudgedOut]
    next: list[str]
    time_s: list[float]
    lure_m: list[float]
    rising_m_s: list[float]
    tip: list[str]
    bend: list[float]
    eyes_on_rod: list[tuple[float, float]] = Field(description="From when to when the eyes were on the rod tip")
    tracks: list[FishTrackOut]
    came: list[CameOut]
    true_line_m: float
    line: RiseLineOut | None = Field(description="What these fish say of the day's line")
    face: float = Field(description="What a lure in their face did that day, -1 to 1")
    pounding: float
    section: SectionOut
    unit: UnitFields
    lure: LureFields
    face_depth_m: float
    has_picture: bool


class WhatIfWanted(Given):
    time_s: Number = Field(ge=0.0, le=LONGEST_S)
    hand: HandName


class WhatIfOut(Described):
    """What another hand would have come to, by the same seed."""

    hand: str
    outcome: str
    ends_s: float
    judged: list[MomentJudgedOut]
    time_s: list[float]
    lure_m: list[float]
    fish_m: list[float | None] = Field(description="Depth of the fish nearest to the lure")


class MoveFields(Given):
    seconds: Number = Field(ge=0.05, le=60.0)
    lift_m_s: Number = Field(0.0, ge=-1.0, le=1.0)
    twitch: StrictBool = False


class PatternFields(Given):
    """A cadence: moves that repeat, from `start_m` off the bottom."""

    key: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=40)]
    moves: list[MoveFields] = Field(min_length=1, max_length=MOST_MOVES)
    start_m: Number = Field(1.2, ge=0.0, le=10.0)


class PatternOut(PatternFields):
    words: str


class PatternList(Described):
    patterns: list[PatternOut]


class LabWanted(Given):
    """Patterns against a hundred fish of a day."""

    patterns: list[PatternFields] = Field(min_length=1, max_length=6)
    mood: MoodName = "window-shopping"
    species: LadderName = "whitefish"
    seed: Seed = Field(0, description="The day, and its fish")
    hole_id: RowId | None = None
    fish: Annotated[int, Field(strict=True, ge=10, le=200)] = 100


class OutcomeOut(Described):
    pattern: str
    fish: int
    came: int
    followed: int
    took: int
    share: float
    low: float
    high: float
    median_s: float | None


class LabOut(Described):
    """What the patterns came to, and the day they were of."""

    outcomes: list[OutcomeOut]
    rise_line_m: float
    in_the_face: float
    pounding: float


class CameFields(Given):
    depth_m: Number = Field(ge=0.05, le=DEEPEST_M, description="The highest it came")
    turned: StrictBool = Field(description="Whether it turned away there")


class LineWanted(Given):
    """How high fish came in water from `top_m` to `bottom_m`."""

    came: list[CameFields] = Field(max_length=200)
    top_m: Number = Field(ge=0.0, le=5.0)
    bottom_m: Number = Field(ge=0.5, le=DEEPEST_M)


class LineFound(Described):
    line: RiseLineOut | None


class KeptCameOut(Described):
    id: int
    hole_id: int
    at: str
    depth_m: float
    turned: bool


class HoleLine(Described):
    """Today's fish at a hole and what they say of the line."""

    came: list[KeptCameOut]
    line: RiseLineOut | None


class CamePath(HolePath):
    came_id: RowId


class TouchFields(Given):
    kind: HappenedName
    trying: TryName
    species: LadderName
    depth_m: Number | None = Field(None, ge=0.05, le=DEEPEST_M)


class TouchOut(Described):
    id: int
    hole_id: int
    at: str
    kind: str
    trying: str
    species: str
    depth_m: float | None


class TouchPath(HolePath):
    touch_id: RowId


class SheetWanted(Described):
    species: LadderName = "whitefish"
    at_hole_s: float = Field(0.0, ge=0.0, le=1e6, description="How long you have been at this hole")


class EvidenceOut(Described):
    trying: str
    looks: int
    more: int
    takes: int
    low: float
    high: float


class StrikeSheet(Described):
    """What to try next at a hole, why, and what today's fish say."""

    species: str
    trying: str
    do: str
    why: SaidOut
    ladder: list[NamedWords]
    evidence: list[EvidenceOut]
    touches: list[TouchOut]
    line: RiseLineOut | None
    best_depth_m: float | None = Field(description="Where most bites came today: the target line")
