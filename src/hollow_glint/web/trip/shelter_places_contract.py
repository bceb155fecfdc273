"""The contract of where to set the shelter down."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from ...core.ground.surface import Band
from ...core.shelter.party import MOST_HOLES, MOST_SEATS
from ...core.trip.ice import IceMeasured
from ...core.trip.load import Load
from ...core.trip.shelter_place import HoleThere, Placing, ShelterPlace
from ...formats.mirror import Described, Given, Whole, mirrors
from ..card.shelter_contract import ShelterHoleFields, TurnDeg
from ..contract import SentenceOut


class ShelterPlacesWanted(Given):
    """A shelter as it stands over a hole, and who sits in it."""

    holes: Annotated[list[ShelterHoleFields], Field(min_length=1, max_length=MOST_HOLES)]
    people: Whole = Field(ge=1, le=MOST_SEATS)
    turn_deg: TurnDeg = 0.0
    count: Whole = Field(3, ge=1, le=6)


@mirrors(Placing)
class PlacingOut(Described):
    """Where a shelter's middle comes to lie, and how it is turned."""


@mirrors(HoleThere)
class ShelterHoleThereOut(Described):
    """A hole of the shelter where it comes to lie."""


@mirrors(Load)
class LoadOut(Described):
    """What stands there, beside the rule."""


@mirrors(IceMeasured)
class IceThereOut(Described):
    """The thinnest ice that was measured near."""


@mirrors(Band)
class FishedBandOut(Described):
    """The depths that are fished."""


@mirrors(ShelterPlace)
class ShelterPlaceOut(Described):
    """A place for the shelter, with how far it is from where it stands, its ice and its load."""

    away_m: float = Field(description="From where the party stands [m]")
    bearing_deg: float = Field(description="From where the party stands")
    ice: IceThereOut | None
    ice_said: list[SentenceOut]
    load: LoadOut


class HoursPlannedOut(Described):
    """The hours of the planned day, minutes by the clock there."""

    date: str
    begins_min: float
    ends_min: float


class ShelterPlacesOut(Described):
    """Best first; `lake_id` null where the hole lies on no lake, `stands` where nothing was sounded."""

    lake_id: int | None
    lake: str
    band: FishedBandOut | None
    hours: HoursPlannedOut | None
    places: list[ShelterPlaceOut]
    stands: ShelterPlaceOut | None
    cautions: list[str]
