"""The contract of a live look: how it hangs, its picture, what is touched, the truth. Metres; degrees from north."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from ...core.search.along_ice import FARTHEST_M
from ...core.search.kinds import CanBe, Seen
from ...core.search.marks import PictureMark
from ...core.search.patch import Standing
from ...core.search.sweep import Hang, TurningHead
from ...core.searches.scenes import SCENES
from ...formats.fields import Seed
from ...formats.mirror import Described, Given, NamesOf, Number, mirrors
from ..contract import RowId
from .contract import AlongIceOut, FixFields

FAR_M = 100_000.0
MOST_PACE = 8


@mirrors(Hang)
class HangFields(Given):
    """How the head hangs and is set."""


@mirrors(TurningHead)
class HeadFields(Given):
    """A head that turns."""


SceneKey = Annotated[str, NamesOf(SCENES)]


class WaterGiven(Given):
    """Which water is looked at: made up from a seed, or round a place of a lake, with fish from the seed."""

    lake_id: RowId | None = None
    east_m: Number = Field(0.0, ge=-FAR_M, le=FAR_M, description="The look-out hole on the lake's map, or in the scene")
    north_m: Number = Field(0.0, ge=-FAR_M, le=FAR_M)


Pace = Annotated[int, Field(strict=True, ge=1, le=MOST_PACE, description="How many times as fast as life")]


class PaceGiven(Given):
    pace: Pace


class LookedAt(WaterGiven):
    """The water of a look, also that of a scene from one of its holes; from when on, and how fast it goes."""

    scene: SceneKey | None = Field(None, description="One of the scenes to search for real; its truth is not told")
    seed: Seed | None = Field(None, description="Same seed, same water and fish; null for one that is drawn")
    start_s: Number = Field(0.0, ge=0.0, le=3600.0, description="On the water's own clock")
    pace: Pace = 1


class TurningLookWanted(LookedAt):
    """A look."""

    hang: HangFields = Field(default_factory=HangFields)


class TurningLookPath(Described):
    look_id: str = Field(max_length=64)


class TurningLookOut(Described):
    id: str
    seed: int
    frame_s: float
    bearings: int = Field(description="In a full turn, the first to the north")
    bins: int = Field(description="From the head to the range's end")
    steps: int = Field(description="Brightest step of the picture; 0 is dark")
    step_db: float
    turn_s: float
    time_s: float
    hang: HangFields
    head: HeadFields
    bottom_depth_m: float


class LookTold(Described):
    hang: HangFields


class TurnedOut(Described):
    """Some bearings of the picture, as they were looked along."""

    which: list[int]
    time_s: list[float]
    levels: str = Field(description="Base64: bearings by bins, a byte each")
    turn: int
    now_s: float
    water_s: float = Field(description="How much of that went by in this event; 0 for a whole picture")
    turn_s: float
    hang: HangFields


class ThingWanted(Described):
    bearing_deg: float = Field(ge=-360.0, le=720.0)
    range_m: float = Field(ge=0.0, le=FARTHEST_M)
    fish_depth_m: float | None = Field(None, ge=0.0, le=500.0)


@mirrors(PictureMark)
class PictureMarkOut(Described):
    """A mark on the picture."""


@mirrors(CanBe)
class CanBeOut(Described):
    """What a thing can be, and why."""


@mirrors(Seen)
class SeenFields(Given):
    """What is seen of a thing."""


class KindsOut(Described):
    kinds: list[CanBeOut]


class ThingOut(Described):
    """What was touched; empty where nothing is near."""

    marks: list[PictureMarkOut]
    kinds: list[CanBeOut]
    fix: FixFields | None
    ice: AlongIceOut | None


class AroundOut(Described):
    """All that the picture shows."""

    things: list[ThingOut]


class DepthLine(Described):
    depth_m: float
    line: list[list[float]]


@mirrors(Standing)
class StandsOut(Described):
    """Something on the bed."""


class GroupOut(Described):
    """Fish that swim together, as they are just now."""

    kind: str
    species: str
    count: int
    depth_m: float
    east_m: float
    north_m: float
    radius_m: float
    speed_m_s: float
    heading_deg: float
    fish: list[list[float]] = Field(description="East, north, depth of each")


class TruthOut(Described):
    time_s: float
    lines: list[DepthLine]
    standing: list[StandsOut]
    groups: list[GroupOut]
    at_the_hole: list[list[float]] = Field(
        default=[], description="East, north, depth and length of fish that have come to a hole that is fished"
    )
