"""The contract of the Log step: strikes, outings with their stays and notes, and what they teach."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, StringConstraints

from ...core.log.effort import MOST_COUNT, MOST_HOURS
from ...core.log.going_back import Return
from ...core.log.outing import Happening, Outing, Stay
from ...core.log.patterns import MOST_EFFORTS, MOST_FACTORS, Says
from ...core.log.posterior import Spread
from ...core.log.rise import HeightVerdict
from ...core.log.season import FACTORS, OF
from ...core.log.tangles import Tangle, Untangling
from ...core.log.worked import Worked
from ...formats.fields import SettingsFields
from ...formats.mirror import ONE_LINE, Described, Given, NamesOf, Number, Whole, mirrors
from ...store.backup import BackedUp
from ...store.log_exchange import TakenIn
from ...store.strikes import Strike
from ..contract import RowId, SentenceOut


@mirrors(Strike, leave_out=("source_key",))
class StrikeOut(Described):
    """A hook set on a fish, with where, when and how the knobs stood."""

    settings: SettingsFields


class StrikeList(Described):
    strikes: list[StrikeOut]


class StrikeQuery(Described):
    hole_id: RowId | None = Field(None, description="Only strikes at this hole")


class StrikePath(Described):
    strike_id: RowId


@mirrors(Outing)
class OutingFields(Given):
    """A day on the ice: when, on which water, with whom, in what weather."""

    lake_id: RowId | None = Field(None, description="The lake from above that it was on, where that is here")


class StaySettings(SettingsFields):
    """Where the knobs stood during a stay."""


@mirrors(Stay)
class StayFields(Given):
    """From when to when at a hole, with how many lines and what."""

    settings: StaySettings | None = None
    hole_id: RowId | None = None
    unit_id: RowId | None = None
    lure_id: RowId | None = None
    east_m: Number | None = Field(None, ge=-200_000.0, le=200_000.0, description="Place on the outing's lake")
    north_m: Number | None = Field(None, ge=-200_000.0, le=200_000.0)


@mirrors(Happening)
class HappeningFields(Given):
    """Something that happened at a hole."""


class Tally(Described):
    """What an outing or a stay comes to: rod-hours, and how many looked, bit and were landed."""

    rod_hours: float
    looks: int
    bites: int
    fish: int


@mirrors(Outing)
class OutingSummary(Described):
    """An outing in the list."""

    id: int
    version: int
    lake_id: int | None
    stays: int
    tally: Tally
    missing: list[str] = Field(description="What would teach more and nobody has noted, in words")


class OutingList(Described):
    outings: list[OutingSummary]


@mirrors(Happening)
class HappeningOut(Described):
    id: int
    stay_id: int


class HappenedHere(HappeningOut):
    """Something that happened at a hole, on an outing."""

    outing_id: int


class HoleHappenings(Described):
    happened: list[HappenedHere]


@mirrors(Stay)
class StayOut(Described):
    """A stay with what happened during it."""

    id: int
    version: int
    outing_id: int
    settings: SettingsFields | None
    hole_id: int | None
    unit_id: int | None
    lure_id: int | None
    east_m: float | None
    north_m: float | None
    tally: Tally
    happened: list[HappeningOut]


class OutingOut(OutingSummary):
    """An outing with all its stays."""

    sunset_min: float | None = Field(description="Minute of the day by the clock there; null where nobody knows")
    at_holes: list[StayOut]


class OutingPath(Described):
    outing_id: RowId


class StayPath(Described):
    stay_id: RowId


class HappeningPath(Described):
    happening_id: RowId


class ArriveFields(Given):
    """Lines in at a hole."""

    lines: Whole = Field(1, ge=1, le=30)
    gain_steps: Whole = Field(0, ge=-100, le=100, description="How many steps the gain was turned since it was told")


class StayHere(Described):
    """The stay that goes on at a hole; null where nobody is there."""

    stay: StayOut | None


FactorName = Annotated[str, StringConstraints(min_length=1, max_length=40, pattern=ONE_LINE)]


class EffortFields(Given):
    """So many rod-hours at a hole, and how often something happened in them."""

    rod_hours: Number = Field(ge=0.0, le=MOST_HOURS, description="Lines times hours [h]")
    count: Whole = Field(ge=0, le=MOST_COUNT, description="How often it happened")
    factors: dict[FactorName, Annotated[str, StringConstraints(max_length=80, pattern=ONE_LINE)]] = Field(
        default={}, max_length=MOST_FACTORS, description="The level of each factor that is known"
    )
    hole: str | None = Field(
        None, max_length=80, pattern=ONE_LINE, description="Which hole; efforts without are each at its own"
    )
    day: str | None = Field(
        None, max_length=40, pattern=ONE_LINE, description="Which day; a day's efforts have something in common"
    )
    water: str | None = Field(None, max_length=80, pattern=ONE_LINE, description="Which water")


class PatternsWanted(Given):
    """What do these efforts say?"""

    efforts: list[EffortFields] = Field(min_length=1, max_length=MOST_EFFORTS)
    level: Number = Field(0.9, ge=0.5, le=0.99, description="How often the spans shall hold the truth")


@mirrors(Spread)
class SpreadOut(Described):
    """Between low and high with the level that was asked; likely is the median."""


class LevelRateOut(Described):
    """A level of a factor: its rate [1/h] at your usual mix of everything else, what that rests on, and how probable it
    is better than what else you use."""

    rate: SpreadOut
    rod_hours: float
    count: int
    better: float = Field(ge=0.0, le=1.0)
    says: Says


class PatternsOut(Described):
    """Rates an hour, by the levels of each factor; and pairs of factors that nothing here can tell apart."""

    overall: SpreadOut
    factors: dict[str, dict[str, LevelRateOut]]
    tangled: list[Annotated[list[str], Field(min_length=2, max_length=2)]]


@mirrors(Untangling)
class UntanglingOut(Described):
    pass


@mirrors(Tangle)
class TangleOut(Described):
    """Two factors that were used only together, and the outing that would tell them apart."""

    outing: list[UntanglingOut]


OfName = Annotated[str, NamesOf(OF)]
FactorKey = Annotated[str, NamesOf(FACTORS)]


class SeasonQuery(Described):
    of: OfName = "bites"
    species: str | None = Field(None, max_length=40, pattern=ONE_LINE)
    level: float = Field(0.9, ge=0.5, le=0.99)


class LevelShareOut(Described):
    """A level's share, of how many, and how probable it is better."""

    level: str
    share: SpreadOut
    of: int
    count: int
    better: float
    says: Says


class ShareOut(Described):
    """Of those that went one stage, how many went the next."""

    of: OfName
    then: OfName
    overall: SpreadOut | None
    levels: list[LevelShareOut]


class LevelTold(Described):
    """A level of a factor on the page."""

    level: str
    rate: SpreadOut
    rod_hours: float
    count: int
    better: float
    says: Says
    tangled: bool


class FactorTold(Described):
    key: FactorKey
    words: str
    levels: list[LevelTold]


class SeasonOut(Described):
    """What the whole log says of looks, bites or fish."""

    of: OfName
    outings: int
    rod_hours: float
    count: int
    overall: SpreadOut | None = Field(description="An hour of one line; null where the log has no hours yet")
    holes_differ: float = Field(description="Standard deviation of the holes' factor")
    factors: list[FactorTold]
    tangled: list[TangleOut]
    says: list[SentenceOut] = Field(description="The plain words of it, the surest first")


class SharesQuery(Described):
    factor: FactorKey | None = None
    species: str | None = Field(None, max_length=40, pattern=ONE_LINE)
    level: float = Field(0.9, ge=0.5, le=0.99)


class SharesOut(Described):
    shares: list[ShareOut]


class HeightClass(Described):
    """Bites and fish at a height off the bottom: how many, and their rate an hour of one line."""

    height: str
    count: int
    rate: SpreadOut


class BittenAt(Described):
    """Bites and fish whose height off the bottom is known, oldest first, as columns: a long log has ten thousand."""

    at: list[str]
    kind: list[str]
    species: list[str | None]
    depth_m: list[float]
    height_m: list[float]
    hours_from_sunset: list[float | None]


class TrendOut(Described):
    """How high fish came on days of one kind: mean of the days' means [m], its span, days and fish."""

    trend: str
    mean_m: float
    low_m: float
    high_m: float
    days: int
    fish: int


class HeightsOut(Described):
    """Every bite and fish by hour and height, how often they came at each height, and whether pressure decides it."""

    heights: BittenAt
    classes: list[HeightClass]
    trends: list[TrendOut]
    verdict: HeightVerdict
    says: SentenceOut


LogFileKind = Literal["json", "csv"]


class LogFileAsked(Described):
    kind: LogFileKind = "json"


@mirrors(TakenIn)
class TakenInOut(Described):
    """How many rows a log file brought, and how many were here already."""


class WeatherWanted(Given):
    """A station's readings as CSV, and how far its clock is ahead of UTC where its times do not say."""

    text: str = Field(min_length=1, max_length=16 * 2**20)
    utc_offset_min: Number = Field(0.0, ge=-720.0, le=840.0)


class WeatherOut(Described):
    """How many readings there were, and on how many outings they filled something in."""

    readings: int
    filled: int


@mirrors(BackedUp)
class BackupOut(Described):
    """What a backup was, and the file beside the store that holds what was there before it."""

    kept_before: str


class ElsewhereQuery(Described):
    of: OfName = "bites"
    species: str | None = Field(None, max_length=40, pattern=ONE_LINE)


class ElsewherePlace(Described):
    """A place like those that worked: where, what to expect [1/h], how that is to the usual, and why."""

    lake_id: int
    lake: str
    east_m: float
    north_m: float
    depth_m: float
    rate: SpreadOut
    times: float
    why: SentenceOut


class ElsewhereOut(Described):
    """The best places on every lake, by the low end of what they promise; none where the log has too little."""

    usual: SpreadOut | None
    hours: float
    places: list[ElsewherePlace]


class ReturnsQuery(ElsewhereQuery):
    """Returns for looks, bites or fish."""


class CalendarAsked(ReturnsQuery):
    date: Annotated[str, StringConstraints(pattern=r"^\d{4}-\d{2}-\d{2}$")]


@mirrors(Return)
class ReturnOut(Described):
    """A hole worth a return."""

    name: str
    water: str
    hole_id: int | None
    lake_id: int | None
    east_m: float | None
    north_m: float | None
    rate: SpreadOut
    why: SentenceOut


class ReturnsOut(Described):
    """The holes worth a return, the surest first; and what the log has of every hole."""

    returns: list[ReturnOut]
    holes: list[ReturnOut]


@mirrors(Worked)
class WorkedSettings(Described):
    """Where the gain stood on good stays, beside what the card says now."""

    says: SentenceOut


class WorkedOut(Described):
    worked: list[WorkedSettings]


class GainAt(Described):
    """Where the gain stood on a stay with a bite."""

    unit: str
    clarity: str
    gain: float
    bites: int


class WorkedGainsOut(Described):
    gains: list[GainAt]
