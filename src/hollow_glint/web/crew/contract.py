"""The contract of the crew board."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field, StringConstraints

from ...core.crew.call import CallHere, CrewHole
from ...core.fish.strike_sheet import LADDERS, TRIES
from ...core.hole.contents import DEEPEST_M
from ...formats.mirror import ONE_LINE, Described, Given, NamesOf, Number, mirrors
from ...store.crew import Event
from ..contract import RowId, SentenceOut

NameText = Annotated[str, StringConstraints(min_length=1, max_length=40, pattern=ONE_LINE, strip_whitespace=True)]


class MemberPath(Described):
    member_id: RowId


@mirrors(CrewHole)
class CrewHoleFields(Given):
    """A hole by its name and place."""


class JoinWanted(Given):
    """What an invitation says: its code, or its six words, and what one is called."""

    given: str = Field(min_length=1, max_length=200)
    name: NameText


class MeFields(Given):
    """What one is called, and at which hole one stands; null for none yet."""

    name: NameText
    hole: CrewHoleFields | None = None


class CrewCallFields(Given):
    """Where fish are, seen from a hole: by the clock, twelve where `twelve_deg` points."""

    lookout: CrewHoleFields
    clock_h: Number = Field(ge=0.0, le=12.0)
    distance_m: Number = Field(ge=0.0, le=500.0)
    twelve_deg: Number = Field(0.0, ge=0.0, le=360.0)
    depth_m: Number | None = Field(None, ge=0.1, le=DEEPEST_M)


class ComeInFields(Given):
    on: bool = Field(description="All come in; false when all is well again")


class WorksFields(Given):
    """What works today, in the host's words and numbers."""

    depth_m: Number | None = Field(None, ge=0.1, le=DEEPEST_M)
    rise_line_m: Number | None = Field(None, ge=0.05, le=DEEPEST_M)
    note: str = Field("", max_length=280, pattern=ONE_LINE)
    species: Annotated[str, NamesOf(LADDERS)] = "whitefish"


class CrewDayFields(Given):
    """On which lake the crew is, and a line of the shelter's plan for each."""

    lake_id: RowId | None = None
    lines: list[Annotated[str, StringConstraints(max_length=200, pattern=ONE_LINE)]] = Field([], max_length=8)


class RoleFields(Given):
    role: Literal["member", "second host"]


class CrewNotesIn(Given):
    """Notes of a phone in the form of the pocket sheet's file."""

    text: str = Field(max_length=512 * 1024)


class CrewNotesKept(Described):
    """Which notes are here now: the phone may forget that it has to send them."""

    ids: list[str]


class InvitationOut(Described):
    """An invitation, shown once: its code in an address, a square code of that (SVG), six words, until when."""

    url: str
    code_svg: str
    words: str
    until: str


class CrewMemberOut(Described):
    id: int
    name: str
    role: str
    hole: CrewHoleFields | None
    seen_at: str


@mirrors(CallHere)
class CallHereOut(Described):
    """A call from one's own hole."""


class CrewCallOut(Described):
    """A call, and how it is from one's own hole; null without one."""

    id: int
    at: str
    who: str
    call: CrewCallFields
    here: CallHereOut | None


@mirrors(Event)
class CrewEventOut(Described):
    """Something that was said."""

    body: dict[str, Any]


class TryNextOut(Described):
    trying: Annotated[str, NamesOf(TRIES)]
    do: str
    why: SentenceOut


class BoardOut(Described):
    """What a member sees. `last` is the number of what was said last, to wait for what comes after it."""

    last: int
    me: CrewMemberOut | None = Field(description="Null for the host")
    may_host: bool
    lake: str
    members: list[CrewMemberOut]
    holes: list[CrewHoleFields]
    calls: list[CrewCallOut]
    come_in: str | None = Field(description="Since when all are called in; null while they are not")
    works: WorksFields
    try_next: TryNextOut
    lines: list[str]
    said: list[CrewEventOut]
    has_sheet: bool


class NewsQuery(Described):
    after: int = Field(0, ge=0, le=2**53)
    wait_s: float = Field(0.0, ge=0.0, le=25.0)


class NewsOut(Described):
    last: int
