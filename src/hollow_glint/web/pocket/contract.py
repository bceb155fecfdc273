"""The contract of the pocket sheet: what is taken along, and what a phone's notes bring."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ...core.card.known_hole import LIGHTS, LIVELINESS
from ...core.hole.scene import BottomKindName, Clarity
from ...core.pocket.along import COMPANY, MOST_COMBINATIONS
from ...core.pocket.notes import MOST_SHIFT_MIN
from ...formats.mirror import Described, Given, NamesOf, Number, mirrors
from ...store.pocket import NotesTaken
from ..contract import RowId, SentenceOut
from ..search.fan_cards import HeadName

LightName = Annotated[str, NamesOf(LIGHTS)]
LivelinessName = Annotated[str, NamesOf(LIVELINESS)]
CompanyName = Annotated[str, NamesOf(COMPANY)]
Most = Field(min_length=1, max_length=MOST_COMBINATIONS)


class PocketWanted(Given):
    """What the sheet is worked out for: every combination of these, at every quarter of a metre from 2 to 25 m."""

    unit_ids: Annotated[list[RowId], Most]
    lure_ids: list[RowId] = Field(
        default=[], max_length=MOST_COMBINATIONS, description="A 5 mm tungsten jig where none is given"
    )
    clarities: Annotated[list[Clarity], Most]
    lights: Annotated[list[LightName], Most]
    companies: Annotated[list[CompanyName], Most]
    liveliness: LivelinessName = "some"
    bottom_kind: BottomKindName = "mud"
    fan: HeadName | None = Field(None, description="A forward fan's card besides")
    units: Literal["feet", "metric"] = Field("feet", description="What the sheet begins in; it can be turned there")


class NotesIn(Given):
    """A phone's file of notes."""

    text: str = Field(max_length=20 * 2**20)
    shift_min: Number = Field(
        0.0, ge=-MOST_SHIFT_MIN, le=MOST_SHIFT_MIN, description="Put all its times later by so much [min]"
    )
    keep: bool = Field(True, description="False only looks what it would bring")


class PhotoNotedOut(Described):
    """A photo of a unit's screen that a phone's file brings: read it, or it is let go with the file."""

    note: str = Field(description="The note's id, under which the file has the photo")
    at: str
    spot: str
    hole_id: int | None = Field(description="The hole here of that number and name")
    unit: str
    lure: str


@mirrors(NotesTaken)
class NotesTakenOut(Described):
    """What the file brought, and what can be seen of the phone's clock."""

    clock: list[SentenceOut]
    first_at: str | None = Field(description="The first and last note, as the times stand now")
    last_at: str | None
    photos: list[PhotoNotedOut]
