"""The contract of the shelter: who sits where with what, and the plan for all of them."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from ...core.shelter.heard import Heard
from ...core.shelter.party import MOST_HOLES, MOST_SEATS, Seat, ShelterHole
from ...core.shelter.plan import SeatPlan, SeatState, ShelterPlan
from ...formats.mirror import Described, Given, Number, mirrors
from ..contract import RowId, SentenceOut

TurnDeg = Annotated[
    Number, Field(ge=0.0, le=360.0, description="Where the top of the plan points, clockwise from north")
]


@mirrors(ShelterHole)
class ShelterHoleFields(Given):
    """A hole from above, from the middle of the shelter."""


@mirrors(Seat, leave_out=("unit", "lure"))
class SeatFields(Given):
    """Someone with a unit and a lure; `hole` counts from 0, null for someone who comes late. `now` is how the unit is
    set, null for as its card would set it with nobody near."""

    unit_id: RowId
    lure_id: RowId | None = Field(None, description="A 5 mm tungsten jig if not given")


class PartyFields(Given):
    """A shelter over a hole's water: up to eight seats, and a hole for each at least."""

    holes: Annotated[list[ShelterHoleFields], Field(min_length=1, max_length=MOST_HOLES)]
    seats: Annotated[list[SeatFields], Field(min_length=1, max_length=MOST_SEATS)]
    turn_deg: TurnDeg = 0.0


@mirrors(Heard)
class HeardOut(Described):
    """What one seat hears of another."""


@mirrors(SeatState)
class SeatStateOut(Described):
    """How a seat stands, before or after."""


@mirrors(SeatPlan)
class SeatPlanOut(Described):
    """What one person does."""


@mirrors(ShelterPlan)
class ShelterPlanOut(Described):
    """The plan, who hears whom before and after, and what cannot be had."""

    words: list[SentenceOut]
    cautions: list[str]


class PartyOut(Described):
    """The party of a hole, or one to begin with; `kept` whether it was written down. `gone` names seats whose unit or
    lure was removed since: another stands in."""

    party: PartyFields
    kept: bool
    gone: list[str]
