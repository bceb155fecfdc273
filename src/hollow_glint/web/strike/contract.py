"""The contract of the Strike step: runs, debriefs, the cadence lab, the rise line and the strike sheet."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from ...core.fish.cadence import FISH, Move, Pattern, PatternOutcome
from ...core.fish.rise_line import FishHeight
from ...core.fish.rod import LINES
from ...core.fish.strike_sheet import HAPPENED, LADDERS, TRIES, Evidence, Happened
from ...core.fish.traits import MOODS
from ...core.hole.contents import DEEPEST_M
from ...core.runs.debrief import RunOutcome
from ...core.runs.judge import FishReached, JudgedMoment, SkillFigure
from ...core.runs.levels import LEVELS, Level
from ...core.runs.run_log import LONGEST_S
from ...core.runs.scripted_hands import HANDS
from ...core.runs.start import SETTINGS
from ...formats.fields import LureFields, Seed, SettingsFields, UnitFields
from ...formats.mirror import Described, Given, NamesOf, Number, mirrors
from ...store.ice_days import KeptHeight, Touch
from ...store.runs import KeptRun
from ..contract import HolePath, RiseLineOut, RowId, SectionOut, SentenceOut

LevelName = Annotated[str, NamesOf(LEVELS)]
MoodName = Annotated[str, NamesOf(MOODS)]
HandName = Annotated[str, NamesOf(HANDS)]
LineName = Annotated[str, NamesOf(LINES)]
StartName = Annotated[str, NamesOf(SETTINGS)]
LadderName = Annotated[str, NamesOf(LADDERS)]


class NamedWords(Described):
    key: str
    words: str


@mirrors(Level, only=("key", "title", "teaches", "mood"))
class LevelOut(Described):
    """A level of the strike drill, and how often it was played."""

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


@mirrors(SkillFigure)
class SkillFigureOut(Described):
    """How one skill went in a run."""


@mirrors(KeptRun)
class RunOut(Described):
    """A run without its log and picture; `settings` is how the knobs stood to begin with."""

    title: str
    settings: SettingsFields


class RunList(Described):
    runs: list[RunOut]


class RunPath(Described):
    run_id: RowId


@mirrors(JudgedMoment, leave_out=("weight",))
class MomentJudgedOut(Described):
    """One decisive moment, judged; `back_s` is the moment to go back to and try it otherwise."""


class FishTrackOut(Described):
    """One fish through the run: at each of `time_s` its true depth, offset and mood."""

    species: str
    length_m: float
    time_s: list[float]
    depth_m: list[float]
    aside_m: list[float]
    mood: list[str]


@mirrors(FishReached)
class FishReachedOut(Described):
    """The highest a fish came up in a run, and whether it turned there."""


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
    reached: list[FishReachedOut]
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

    hand: HandName
    outcome: RunOutcome
    ends_s: float
    judged: list[MomentJudgedOut]
    time_s: list[float]
    lure_m: list[float]
    fish_m: list[float | None] = Field(description="Depth of the fish nearest to the lure")


@mirrors(Move)
class MoveFields(Given):
    """What the hand does for a while."""


@mirrors(Pattern, leave_out=("words",))
class PatternFields(Given):
    """A cadence: moves that repeat, from `start_m` off the bottom."""


class PatternOut(PatternFields):
    words: str


class PatternList(Described):
    patterns: list[PatternOut]


class LabWanted(Given):
    """Patterns against a hundred fish of a day."""

    patterns: list[PatternFields] = Field(min_length=1, max_length=6)
    mood: MoodName = "choosy"
    species: LadderName = "whitefish"
    seed: Seed = Field(0, description="The day, and its fish")
    hole_id: RowId | None = None
    fish: Annotated[int, Field(strict=True, ge=10, le=200)] = FISH


@mirrors(PatternOutcome)
class OutcomeOut(Described):
    """What a pattern did with so many fish."""


class LabOut(Described):
    """What the patterns came to, and the day they were of."""

    outcomes: list[OutcomeOut]
    rise_line_m: float
    in_the_face: float
    pounding: float


@mirrors(FishHeight)
class HeightFields(Given):
    """How high a fish came."""


class LineWanted(Given):
    """How high fish came in water from `top_m` to `bottom_m`."""

    heights: list[HeightFields] = Field(max_length=200)
    top_m: Number = Field(ge=0.0, le=5.0)
    bottom_m: Number = Field(ge=0.5, le=DEEPEST_M)


class LineFound(Described):
    line: RiseLineOut | None


@mirrors(KeptHeight)
class KeptHeightOut(Described):
    """How high a fish came at a hole."""


class HoleLine(Described):
    """Today's fish at a hole and what they say of the line."""

    heights: list[KeptHeightOut]
    line: RiseLineOut | None


class HeightPath(HolePath):
    height_id: RowId


@mirrors(Happened, leave_out=("ago_s",))
class TouchFields(Given):
    """One touch on the strike sheet."""

    species: LadderName
    at_hole_s: Number = Field(0.0, ge=0.0, le=43200.0, description="How long a line has been in here already [s]")


TryName = Annotated[str, NamesOf(TRIES)]


@mirrors(Touch)
class TouchOut(Described):
    """A touch as it is kept."""

    kind: Annotated[str, NamesOf(HAPPENED)]
    trying: TryName
    species: LadderName


class TryOut(NamedWords):
    key: TryName


class TouchPath(HolePath):
    touch_id: RowId


class SheetWanted(Described):
    species: LadderName = "whitefish"
    at_hole_s: float = Field(0.0, ge=0.0, le=1e6, description="How long you have been at this hole")


@mirrors(Evidence)
class EvidenceOut(Described):
    """How fish answered one thing today."""


class StrikeSheet(Described):
    """What to try next at a hole, why, and what today's fish say."""

    species: LadderName
    trying: TryName
    do: str
    why: SentenceOut
    ladder: list[TryOut]
    evidence: list[EvidenceOut]
    touches: list[TouchOut]
    line: RiseLineOut | None
    best_depth_m: float | None = Field(description="Where most bites came today: the aim line")
