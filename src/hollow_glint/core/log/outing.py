"""An outing as it is kept: who, where, when and in what weather; the stays at holes with what was used; what happened.

Times are UTC as ISO 8601 ("2026-02-14T15:42:00Z"). Everything that an angler need not know is optional, and what is not
known stays unknown: it is never filled in with a guess.
"""

from __future__ import annotations

import datetime
from dataclasses import dataclass
from typing import Annotated

from ..checks import InputError
from ..fields import OneOf, Pattern, Span, Text, check_fields, doc
from ..fish.strike_sheet import HAPPENED, TRIES
from ..gear.settings import Settings
from ..hole.contents import DEEPEST_M
from ..hole.scene import BottomKindName, Clarity

SKIES: dict[str, str] = {"clear": "clear", "broken": "some cloud", "overcast": "overcast", "snowing": "snow falling",
                         "fog": "fog"}  # fmt: skip
WINDS: dict[str, str] = {"calm": "calm", "light": "light", "fresh": "fresh", "strong": "strong"}
TRENDS: dict[str, str] = {"falling": "falling", "steady": "steady", "rising": "rising"}
ENDINGS: dict[str, str] = {
    "landed": "landed", "lost": "came off", "broke": "broke off", "released": "let go at the hole",
}  # fmt: skip
KINDS = (*HAPPENED, "turned", "came")  # the sheet's touches, and how high a fish came: turned there, or did not
TIME = r"\d{4}-\d{2}-\d{2}T\d{2}:\d{2}(:\d{2}(\.\d{1,6})?)?(Z|[+-]\d{2}:\d{2})"
Time = Annotated[str, Pattern(TIME, "a time as 2026-02-14T15:42:00Z")]
MOST_LINES = 30
LONGEST_H = 48.0  # of an outing or a stay: longer is a slip of the hand


def moment(name: str, text: str) -> datetime.datetime:
    """The moment that a text names, in UTC. Raises ValueError naming it where it is none."""
    try:
        found = datetime.datetime.fromisoformat(text)
    except ValueError:
        raise InputError(f"{name} is {text!r}: accepted is a time as 2026-02-14T15:42:00Z") from None
    if found.tzinfo is None:
        raise InputError(f"{name} is {text!r}: accepted is a time with its zone, as 2026-02-14T15:42:00Z")
    try:
        return found.astimezone(datetime.UTC)
    except OverflowError:
        raise InputError(f"{name} is {text!r}: accepted is a time that the calendar has") from None


def hours_between(names: tuple[str, str], began_at: str, ended_at: str) -> float:
    """How long something lasted [h]. Raises ValueError where it ends before it begins, or lasts far too long."""
    began, ended = moment(names[0], began_at), moment(names[1], ended_at)
    hours = (ended - began).total_seconds() / 3600.0
    if not 0.0 <= hours <= LONGEST_H:
        raise InputError(
            f"{names[1]} is {ended_at!r}: accepted is a time from {names[0]} ({began_at}) up to {LONGEST_H:g} h later"
        )
    return hours


@dataclass(frozen=True)
class Outing:
    """A day on the ice. Empty words and None for what is not known; `ended_at` None while it lasts.

    Raises ValueError naming every field that is out of its span or contradicts another.
    """

    began_at: Time
    ended_at: Time | None = None
    water: Annotated[str, Text(0, 80), doc("The water it was on")] = ""
    who: Annotated[str, Text(0, 200), doc("Who was there; for a guide the client")] = ""
    utc_offset_min: Annotated[float, Span(-720.0, 840.0, "min"), doc("How far the clock there is ahead of UTC")] = 0.0
    ice_m: Annotated[float | None, Span(0.0, 3.0, "m"), doc("How thick the ice was")] = None
    snow: Annotated[str, Text(0, 60), doc("On the ice")] = ""
    sky: Annotated[str | None, OneOf(SKIES)] = None
    wind: Annotated[str | None, OneOf(WINDS)] = None
    temperature_c: Annotated[float | None, Span(-60.0, 40.0, "degrees C"), doc("Of the air")] = None
    pressure_hpa: Annotated[float | None, Span(850.0, 1090.0, "hPa"), doc("At sea level")] = None
    pressure_trend: Annotated[str | None, OneOf(TRENDS), doc("Over the three hours before and during")] = None
    note: Annotated[str, Text(0, 1000, lines=True)] = ""

    def __post_init__(self) -> None:
        check_fields(self)
        moment("began_at", self.began_at)
        if self.ended_at is not None:
            hours_between(("began_at", "ended_at"), self.began_at, self.ended_at)


@dataclass(frozen=True)
class Stay:
    """From when to when at a hole, with how many lines, and what was used. What the hole and the gear were called and
    were is written down here too, so that the log keeps it when they are changed or gone.

    Raises ValueError naming every field that is out of its span or contradicts another.
    """

    began_at: Time
    ended_at: Time | None = None
    hole: Annotated[str, Text(0, 80)] = ""
    lines: Annotated[int, Span(1, MOST_LINES)] = 1
    depth_m: Annotated[float | None, Span(0.1, DEEPEST_M, "m"), doc("Of the bottom")] = None
    bottom: BottomKindName | None = None
    clarity: Clarity | None = None
    unit: Annotated[str, Text(0, 80)] = ""
    beam: Annotated[str, Text(0, 60), doc("As the unit calls it")] = ""
    settings: Settings | None = None
    lure: Annotated[str, Text(0, 80)] = ""
    lure_form: Annotated[str, Text(0, 40)] = ""
    lure_size_m: Annotated[float | None, Span(0.001, 0.3, "m")] = None
    trying: Annotated[str | None, OneOf(TRIES), doc("What was done with it most")] = None
    note: Annotated[str, Text(0, 500, lines=True)] = ""

    def __post_init__(self) -> None:
        check_fields(self)
        moment("began_at", self.began_at)
        if self.ended_at is not None:
            hours_between(("began_at", "ended_at"), self.began_at, self.ended_at)


@dataclass(frozen=True)
class Happening:
    """Something that happened at a hole: when, what, at what depth [m]; of a fish species, length, whether it was kept
    and how it ended, as far as that is known.

    Raises ValueError naming every field that is out of its span.
    """

    at: Time
    kind: Annotated[str, OneOf(KINDS)]
    depth_m: Annotated[float | None, Span(0.05, DEEPEST_M, "m")] = None
    trying: Annotated[str | None, OneOf(TRIES)] = None
    species: Annotated[str | None, Text(1, 40)] = None
    length_m: Annotated[float | None, Span(0.03, 2.5, "m")] = None
    kept: bool | None = None
    ended: Annotated[str | None, OneOf(ENDINGS)] = None
    note: Annotated[str, Text(0, 280)] = ""

    def __post_init__(self) -> None:
        check_fields(self)
        moment("at", self.at)
