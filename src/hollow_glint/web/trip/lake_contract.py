"""The contract of lakes: what belongs to one, the map, files of soundings, the day."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import ConfigDict, Field, StringConstraints

from ...core.card.ice_guidance import GuidanceRow
from ...core.ground.lake import Lake
from ...core.ground.soundings import Sounding, Structure
from ...core.ground.surface import DEEPEST_M
from ...core.trip.band import Starting
from ...core.trip.day import Chosen, Day, Leg, Planned, Powered
from ...core.trip.ice import IceReading, IceWarning
from ...core.trip.sharing import Positions
from ...core.trip.start_places import FishedPlace, StartPlace
from ...core.trip.sun import SunTimes
from ...formats.mirror import Described, Given, Number, Whole, mirrors
from ...formats.soundings_csv import Columns, Refused, Unit
from ...store.shared_places import PlacesTaken
from ..contract import RowId, SentenceOut
from .contract import Metres, Place

Depth = Annotated[Number, Field(ge=0.0, le=DEEPEST_M)]
# What an address asks in its query is text, and no number yet.
DepthAsked = Annotated[float, Field(ge=0.0, le=DEEPEST_M, allow_inf_nan=False)]


class LakePath(Described):
    lake_id: RowId


class LakeRowPath(LakePath):
    row_id: RowId


class LakeHolePath(LakePath):
    hole_id: RowId


@mirrors(Lake)
class LakeFields(Given):
    """A lake: its name, anchor, landing, and shore."""


class LakeOut(LakeFields):
    model_config = ConfigDict(extra="ignore")
    id: int
    version: int = Field(description="Counts up with each change")
    soundings: int = Field(description="How many depths are known, those of holes among them")


class LakeList(Described):
    lakes: list[LakeOut]


class ShoreDrawn(Given):
    """A line drawn round a lake by hand."""

    line: list[Place] = Field(min_length=4, max_length=2000)
    detail_m: Number = Field(2.0, ge=0.1, le=1000.0, description="What is finer is smoothed away")


class ShoreOut(Described):
    shore_m: list[float] = Field(description="East and north by turns")


@mirrors(Sounding)
class SoundingGivenFields(Given):
    """A depth at a place, how it was taken and when."""


@mirrors(Structure)
class BedStructureFields(Given):
    """Something on the bed or in the ice."""


@mirrors(IceReading)
class IceFields(Given):
    """Ice as it was measured."""


@mirrors(FishedPlace)
class FishedFields(Given):
    """A place as it was fished."""


class SoundingsWanted(Given):
    soundings: list[SoundingGivenFields] = Field(min_length=1, max_length=200)


class Added(Described):
    ids: list[int]


class SoundingKept(SoundingGivenFields):
    model_config = ConfigDict(extra="ignore")
    id: int


class BedStructureKept(BedStructureFields):
    model_config = ConfigDict(extra="ignore")
    id: int


class IceKept(IceFields):
    model_config = ConfigDict(extra="ignore")
    id: int


class FishedKept(FishedFields):
    model_config = ConfigDict(extra="ignore")
    id: int


class PlacedHoleOut(Described):
    hole_id: int
    name: str
    east_m: float
    north_m: float
    depth_m: float
    bottom: str


class SurveyOut(Described):
    id: int
    name: str
    taken_at: str
    said: str
    soundings: int


class LakeThings(Described):
    """All that belongs to a lake; of very many soundings only as many as can be drawn."""

    soundings: list[SoundingKept]
    soundings_left_out: int
    structures: list[BedStructureKept]
    ice: list[IceKept]
    fished: list[FishedKept]
    holes: list[PlacedHoleOut]
    surveys: list[SurveyOut]


class HolePlace(Given):
    east_m: Metres
    north_m: Metres


class MapQuery(Described):
    model_config = ConfigDict(extra="forbid")
    from_m: DepthAsked | None = None
    to_m: DepthAsked | None = None
    cells: int = Field(6000, ge=100, le=20_000)
    lines: Literal["m", "ft"] = Field("m", description="In what the depths of the lines are round")


class ContourOut(Described):
    depth_m: float
    line: list[float] = Field(description="East and north by turns [m]")
    is_sure: bool


class EdgeOut(Described):
    line: list[float] = Field(description="East and north by turns [m], the deep on the right hand")
    falls: float
    is_sure: bool


class AreaOut(Described):
    """An area: rings of east and north by turns [m], outer ones and those of islands, to be filled by even and odd."""

    rings: list[list[float]]
    area_m2: float


class GridOut(Described):
    west_m: float
    south_m: float
    cell_m: float
    rows: int
    columns: int
    depth_m: list[float | None] = Field(description="Row by row from the south-west; null on land")
    sd_m: list[float]


class MapOut(Described):
    grid: GridOut | None = Field(description="Null where nothing was sounded")
    contours: list[ContourOut]
    edges: list[EdgeOut]
    likely: AreaOut | None = Field(description="Where the band is sure")
    possible: AreaOut | None = Field(description="Where it may be")
    water_m2: float


class TeachQuery(Described):
    model_config = ConfigDict(extra="forbid")
    from_m: DepthAsked
    to_m: DepthAsked
    east_m: float = Field(ge=-100_000.0, le=100_000.0, allow_inf_nan=False)
    north_m: float = Field(ge=-100_000.0, le=100_000.0, allow_inf_nan=False)
    reach_m: float = Field(400.0, ge=5.0, le=10_000.0, allow_inf_nan=False, description="How far one would walk for it")


class TeachPlace(Described):
    east_m: float
    north_m: float
    decides_m2: float = Field(description="Water that a sounding there decides, in or out of the band")
    why: SentenceOut


class TeachOut(Described):
    places: list[TeachPlace] = Field(description="Best first; empty where there is nothing to learn")


class StartWanted(Given):
    from_m: Depth
    to_m: Depth
    date: str = Field(pattern=r"^\d{4}-\d{2}-\d{2}$")
    count: Whole = Field(6, ge=1, le=30)
    apart_m: Number = Field(40.0, ge=1.0, le=10_000.0)
    at: list[Place] = Field(default=[], max_length=60, description="Judge these, in this order, instead of proposing")


@mirrors(StartPlace)
class StartPlaceOut(Described):
    """A place to start at, its worth, why, and what to beware of."""


class StartOut(Described):
    places: list[StartPlaceOut]


@mirrors(Chosen)
class ChosenFields(Given):
    """A place of the day."""


@mirrors(Powered)
class PoweredFields(Given):
    """A unit on a battery for the day."""


@mirrors(Day)
class TripDayFields(Given):
    """The coming day."""


class DayOut(TripDayFields):
    model_config = ConfigDict(extra="ignore")
    id: int = Field(description="Of the lake")
    version: int = Field(description="Counts up with each change; 0 where none was kept")


@mirrors(Leg)
class LegOut(Described):
    """One way of the walk."""


@mirrors(Planned)
class PlannedOut(Described):
    """The day as it is planned."""


@mirrors(SunTimes)
class SunOut(Described):
    """When the sun rises and sets, as minutes of the day."""


@mirrors(IceWarning)
class IceWarningOut(Described):
    """What to beware of on the ice."""


class ProposedOut(Described):
    from_m: float
    to_m: float
    by: Literal["table", "log", "autumn", "own"]
    why: SentenceOut


@mirrors(GuidanceRow, leave_out=("below",))
class IceGuidanceOut(Described):
    """A line of public guidance: what for, and the span of clear ice that it speaks of."""


class PlanOut(Described):
    bands: list[ProposedOut] = Field(description="The band that is used first, then others that could be")
    sun: SunOut
    planned: PlannedOut
    warnings: list[IceWarningOut]
    walk_m_min: float
    stay_min: float
    cautions: list[str]
    guidance: list[IceGuidanceOut] = Field(description="General public guidance for new clear ice, from memory")


@mirrors(Starting)
class BandLineFields(Given):
    """A line of the table of starting depths."""


class BandLineOut(BandLineFields):
    model_config = ConfigDict(extra="ignore")
    id: int | None = Field(description="Null where it is the program's own")


class BandTable(Described):
    lines: list[BandLineOut]


FileText = Annotated[str, StringConstraints(min_length=1, max_length=18 * 2**20)]


class FileLooked(Given):
    text: FileText


class SniffedOut(Described):
    """What a file of soundings seems to be."""

    kind: Literal["csv", "gpx", "grid"]
    columns: list[str]
    first: list[list[str]]
    guess: ColumnsFields | None
    missing: list[str]
    lines: int
    middle: list[float] | None = Field(description="Latitude and longitude of its middle, where they can be told")


@mirrors(Columns)
class ColumnsFields(Given):
    """Which column (from 0) is which, and what the depths are in."""

    unit: Unit


class FileWanted(Given):
    text: FileText
    name: str = Field("soundings", min_length=1, max_length=80)
    columns: ColumnsFields | None = None
    rest: Literal["ask", "take"] = Field("ask", description="What to do with good lines where others are bad")


@mirrors(Refused)
class RefusedOut(Described):
    """A line that cannot be taken, and why."""


class FileOut(Described):
    taken: int
    good: int = Field(description="Lines that can be taken")
    refused: list[RefusedOut] = Field(description="The first of those that cannot")
    refused_count: int
    left_out: int = Field(description="Soundings that others stand for")
    said: SentenceOut
    survey: int | None


class FileAsked(Described):
    model_config = ConfigDict(extra="forbid")
    kind: Literal["csv", "gpx", "geojson", "grid"]
    from_m: DepthAsked | None = None
    to_m: DepthAsked | None = None


class ShareAsked(Described):
    """What a friend is to get of a lake."""

    model_config = ConfigDict(extra="forbid")
    positions: Positions = "as they are"
    round_to_m: float = Field(
        500.0, ge=100.0, le=2000.0, allow_inf_nan=False, description="Side of the squares [m]: 100, 500 or 2000"
    )
    holes: bool = True
    structures: bool = True
    ground: bool = Field(True, description="Soundings; only with positions as they are")
    notes: bool = Field(False, description="Your own notes on holes and structures")


class ShareFileAsked(ShareAsked):
    kind: Literal["file", "gpx", "geojson"] = "file"


class PlacesGivenOut(Described):
    """How many of each go out, and what does not, in words."""

    holes: int
    structures: int
    soundings: int
    left_out: list[SentenceOut]


class PlacesIn(Given):
    """A friend's file of places."""

    text: str = Field(min_length=1, max_length=20 * 2**20)


@mirrors(PlacesTaken)
class PlacesTakenOut(Described):
    """What came in, and how much of it was here already."""


MOST_DRAWN = 4000
