"""The contract of the Search step. Metres; degrees clockwise from north; places east and north of the look-out hole."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ...core.search.along_ice import DEEPEST_M, FARTHEST_M, AlongIce
from ...core.search.course import Fix, SpanOf, There
from ...core.search.heading import HeadingError, Known
from ...core.search.stay_or_go import MOST_SEEN, MOST_WATCHED_S, Waters
from ...core.search.where_to_drill import Drilling, HoleThere, Walker
from ...formats.mirror import Described, Given, Number, mirrors
from ..contract import SentenceOut


class ColumnGiven(Given):
    """The water under the look-out hole."""

    head_depth_m: Number = Field(ge=0.0, le=DEEPEST_M)
    bottom_depth_m: Number = Field(ge=0.1, le=DEEPEST_M)
    fish_depth_m: Number | None = Field(None, ge=0.0, le=DEEPEST_M, description="Null where it is not known")


class AlongIceWanted(ColumnGiven):
    range_m: Number = Field(ge=0.0, le=FARTHEST_M, description="In the picture: through the water")


@mirrors(AlongIce)
class AlongIceOut(Described):
    """How far along the ice, at the least and at the most; null with the reason where nothing can be there."""


@mirrors(Fix)
class FixFields(Given):
    """A school as it was seen."""


class FixesGiven(ColumnGiven):
    """A school as it was seen, twice and more."""

    fixes: list[FixFields] = Field(min_length=2, max_length=200)


class CourseWanted(FixesGiven):
    at_s: Number = Field(ge=-1e6, le=1e6, description="When one wants to know where it is")


@mirrors(SpanOf)
class SpanOut(Described):
    """A span that holds the truth in nine of ten cases, and its middle."""


@mirrors(There)
class ThereOut(Described):
    """A place with its error ellipse."""


class CourseOut(Described):
    speed_m_s: SpanOut
    heading_deg: SpanOut = Field(description="High is above 360 for a span that passes north")
    there: ThereOut


@mirrors(Walker)
class WalkerFields(Given):
    """Who drills."""


class DrillWanted(FixesGiven, WalkerFields):
    """A school as it was seen, and who drills for it."""


@mirrors(HoleThere)
class HoleThereOut(Described):
    """A hole to drill, and when it is ready."""


@mirrors(Drilling)
class DrillingOut(Described):
    """Holes in the order in which they are drilled, and the chance that the school comes past one in time."""


@mirrors(Known)
class KnownFields(Given):
    """A known thing, and where it was seen."""


class HeadingWanted(Given):
    known: list[KnownFields] = Field(min_length=1, max_length=50)


@mirrors(HeadingError)
class HeadingOut(Described):
    """By how much the picture is turned, and what to do."""


class ByHandWanted(Given):
    """A clock and a distance, touched on an empty circle."""

    clock: Number = Field(ge=0.0, le=12.0)
    range_m: Number = Field(ge=0.1, le=FARTHEST_M)
    time_s: Number = Field(ge=-1e6, le=1e6)


class CoverWanted(Given):
    shore: list[tuple[Number, Number]] = Field(min_length=3, max_length=2000, description="A ring, east and north")
    look_radius_m: Number = Field(ge=1.0, le=300.0)
    cone_radius_m: Number = Field(ge=0.05, le=100.0)


class CoverOut(Described):
    """Where to look from, in walking order, and how many holes drilled blind would cover as much."""

    looks: list[tuple[float, float]]
    blind: int
    water_m2: float


@mirrors(Waters)
class WatersFields(Given):
    """Where one looks, and what the lake is like elsewhere."""


class WatchWanted(WatersFields):
    watched_s: Number = Field(ge=0.0, le=MOST_WATCHED_S)
    seen: int = Field(ge=0, le=MOST_SEEN, description="Schools, the first look's among them")


class WatchOut(Described):
    say: Literal["stay", "go"]
    go_at_s: float = Field(description="When it would say go if nothing more is seen, from the beginning")
    stay_worth: float = Field(description="Schools an hour, staying for as long as it pays")
    go_worth: float = Field(description="Schools an hour of the best that moving about can bring")
    nobody_here: float = Field(description="Chance that no school comes within sight for as long as moving takes")
    why: SentenceOut
