"""The contract of the Trip step. Metres east and north of an anchor; degrees clockwise from north."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from ...core.ground.surface import DEEPEST_M
from ...core.trip.power import COLDEST_C, WARMEST_C, Chemistry, Hours
from ...core.trip.walk import FAR_M, MOST_PLACES, Stop
from ...formats.mirror import Described, Given, Number, mirrors
from ..contract import SentenceOut

MOST_SOUNDINGS, MOST_SHORE, MOST_ASKED = 20_000, 2000, 20_000
Metres = Annotated[Number, Field(ge=-FAR_M, le=FAR_M)]
Place = Annotated[list[Metres], Field(min_length=2, max_length=2, description="East and north of the anchor [m]")]


class SoundingFields(Given):
    """A depth at a place."""

    east_m: Metres
    north_m: Metres
    depth_m: Number = Field(ge=0.0, le=DEEPEST_M)


class SurfaceWanted(Given):
    soundings: list[SoundingFields] = Field(min_length=1, max_length=MOST_SOUNDINGS)
    shore: list[Place] | None = Field(None, min_length=3, max_length=MOST_SHORE, description="A ring in order, or null")
    at: list[Place] = Field(min_length=1, max_length=MOST_ASKED)
    band_m: Annotated[list[Number], Field(min_length=2, max_length=2)] | None = Field(
        None, description="Shallowest and deepest of a band of depths, or null"
    )


class SurfaceOut(Described):
    depth_m: list[float]
    sd_m: list[float] = Field(description="Standard deviation of the true depth, not of another sounding")
    in_band: list[float] | None = Field(description="The chance of lying in the band, 0 to 1; null without a band")


@mirrors(Stop)
class StopFields(Given):
    """A place, what it is worth, and how long one stays."""


class WalkWanted(Given):
    start: Place
    end: Place
    minutes: Number = Field(ge=0.0, le=10_000.0)
    walk_m_min: Number = Field(ge=1.0, le=1000.0, description="Metres walked in a minute")
    places: list[StopFields] = Field(max_length=MOST_PLACES)


class WalkOut(Described):
    order: list[int] = Field(description="Places by their numbers, from 0, in walking order")
    value: float
    minutes: float = Field(description="Of the whole round: walking and staying")


class PowerWanted(Given):
    chemistry: Chemistry
    capacity_ah: Number = Field(ge=0.1, le=1000.0)
    rated_hours: Number = Field(ge=0.5, le=100.0, description="Over how long it is rated; 20 is common for lead")
    draw_a: Number = Field(ge=0.005, le=100.0)
    temperature_c: Number = Field(ge=COLDEST_C, le=WARMEST_C)


@mirrors(Hours)
class HoursOut(Described):
    """A span: at the least, likely, at the most."""


class PowerOut(Described):
    hours: HoursOut
    reasons: list[SentenceOut]
