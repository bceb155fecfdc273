"""The contract of fishing under a fan that looks down: where the lines go down, the hand, and what the picture says."""

from __future__ import annotations

from pydantic import Field

from ...core.bench.command import HandCommand
from ...core.fan.fishing import Fished, Seats
from ...core.fan.lures_heard import Blob, LureSeen
from ...core.fan.reading import FanReading, FishSeen
from ...core.hole.contents import DEEPEST_M
from ...formats.fields import LureFields
from ...formats.mirror import Described, Given, Number, mirrors
from ..bench.contract import EventOut
from ..contract import RowId, SentenceOut
from ..read.recording_contract import MomentOut


@mirrors(Seats)
class SeatsFields(Given):
    """Where lines go down round the head's hole."""


class FishingWanted(SeatsFields):
    """Fishing in a hole of the water, with the head turned down in the hole beside it."""

    hole_east_m: Number = Field(ge=-200.0, le=200.0, description="The head's hole, from the look-out hole")
    hole_north_m: Number = Field(ge=-200.0, le=200.0)
    lure_id: RowId | None = Field(None, description="Null for the usual jig")
    lure_depth_m: Number | None = Field(None, ge=0.0, le=DEEPEST_M, description="Null: over the first fish that comes")


class FishingOut(SeatsFields):
    """As it begins."""

    lure: LureFields
    lure_name: str
    lure_depth_m: float
    bottom_depth_m: float = Field(description="Under one's own hole")
    ice_m: float


@mirrors(HandCommand)
class AnglerFields(Given):
    """What hand, rod and eyes do. Only what is given changes."""


class HandTold(Described):
    lure_depth_m: float = Field(description="Before it moves")


@mirrors(Blob)
class BlobOut(Described):
    """A mark."""


@mirrors(LureSeen, leave_out=("mark",))
class LureSeenOut(Described):
    """A lure in the picture."""

    mark: BlobOut | None


@mirrors(FishSeen, leave_out=("mark",))
class FishSeenOut(Described):
    """A fish in the picture."""

    mark: BlobOut


class TurnForAllOut(Described):
    """What keeps a lure from being heard, and the turn of the handle that helps."""

    said: SentenceOut
    aim_deg: float | None = Field(description="Where to point the handle; null to leave it")


@mirrors(FanReading, leave_out=("lures", "fish", "moment"))
class FanReadingOut(Described):
    """What the picture says."""

    lures: list[LureSeenOut]
    fish: list[FishSeenOut]
    moment: MomentOut | None
    turn: TurnForAllOut | None


@mirrors(Fished, leave_out=("events",))
class FishedOut(Described):
    """How hand, lure and rod stand; the reading is the newest, a few a second."""

    events: list[EventOut]
    reading: FanReadingOut | None
