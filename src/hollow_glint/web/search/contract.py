"""The contract of the Search step. Metres; degrees clockwise from north; places east and north of the look-out hole."""

from __future__ import annotations

from pydantic import Field

from ...core.search.along_ice import DEEPEST_M, FARTHEST_M, AlongIce
from ...core.search.course import Fix, SpanOf, There
from ...formats.mirror import Described, Given, Number, mirrors


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


class CourseWanted(ColumnGiven):
    fixes: list[FixFields] = Field(min_length=2, max_length=200)
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
