"""The day: from when to when, for whom, over what snow and ice; the places in walking order, each with the way there;
and when one is back.

How fast people walk and drill is common practice without a source; all of it stands in two tables, and a reader can put
minutes of their own in place.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Annotated

import numpy as np

from ..checks import InputError
from ..fields import Len, OneOf, Pattern, Span, Text, check_fields, doc
from ..ground.plane import bearing
from ..ground.surface import DEEPEST_M
from ..wording import Quantity, Sentence
from .band import Light, Season
from .sun import DAY_MIN, LightThen, SunTimes, day_of
from .walk import FAR_M, Stop, plan

# Metres a minute with a sled in tow. Common practice, no source.
WALKS_M_MIN: dict[str, float] = {
    "bare ice": 65.0,
    "packed snow": 60.0,
    "snow to the ankle": 50.0,
    "snow to the shin": 38.0,
    "snow to the knee": 24.0,
}
# Minutes for a metre of ice, and to set up and clear a hole. Common practice, no source.
DRILLS_MIN: dict[str, tuple[float, float]] = {
    "hand auger": (9.0, 1.5),
    "power auger": (1.5, 1.5),
    "chisel": (25.0, 1.0),
}
WANTED = 1000.0  # what a place that a person has put in counts for beside those that are only proposed
MOST_CHOSEN = 40


@dataclass(frozen=True)
class Chosen:
    """A place of the day [m] with its worth (0 to 10); `wanted` where a person has put it in, `out` where they left it
    out."""

    name: Annotated[str, Text(0, 60)]
    east_m: Annotated[float, Span(-FAR_M, FAR_M, "m")]
    north_m: Annotated[float, Span(-FAR_M, FAR_M, "m")]
    worth: Annotated[float, Span(0.0, 10.0)] = 5.0
    wanted: bool = False
    out: bool = False

    def __post_init__(self) -> None:
        check_fields(self, "places")


@dataclass(frozen=True)
class Powered:
    """A unit on a battery for the day: which ones (by their numbers in the store), how bright its screen is, what else
    hangs on the battery [A], and how bright the screen is after sunset where it is turned down."""

    unit: Annotated[int, Span(1, 2**53)]
    battery: Annotated[int, Span(1, 2**53)]
    brightness: Annotated[float, Span(0.0, 1.0)] = 1.0
    extra_a: Annotated[float, Span(0.0, 50.0, "A")] = 0.0
    turned_down: Annotated[float | None, Span(0.0, 1.0)] = None

    def __post_init__(self) -> None:
        check_fields(self, "powered")


Minute = Annotated[float, Span(0.0, DAY_MIN, "min")]


@dataclass(frozen=True)
class Day:
    """What a day is like: date, hours by the clock there, for whom and for what, ice and snow.

    Raises ValueError naming every field that is out of its span or contradicts another.
    """

    date: Annotated[str, Pattern(r"\d{4}-\d{2}-\d{2}", "a day as 2026-12-05")]
    begins_min: Annotated[Minute, doc("Minute of the day")] = 540.0
    ends_min: Annotated[Minute, doc("Minute of the day at which all are back")] = 900.0
    utc_offset_min: Annotated[float, Span(-720.0, 840.0, "min"), doc("How far the clock is ahead of UTC")] = 0.0
    season: Season = "first ice"
    light: Light = "day"
    species: Annotated[str, Text(1, 40)] = "whitefish"
    people: Annotated[int, Span(1, 60)] = 2
    snow: Annotated[str, OneOf(tuple(WALKS_M_MIN))] = "packed snow"
    ice_m: Annotated[float, Span(0.0, 3.0, "m"), doc("Thickness to drill through")] = 0.25
    auger: Annotated[str, OneOf(tuple(DRILLS_MIN))] = "power auger"
    holes_each: Annotated[int, Span(1, 20), doc("Holes at a place")] = 2
    looking_min: Annotated[float, Span(1.0, 240.0, "min"), doc("Looking and fishing at a hole before moving on")] = 15.0
    temperature_c: Annotated[float, Span(-40.0, 20.0, "degrees C"), doc("Of the air")] = -8.0
    start_m: Annotated[
        tuple[float, ...], Len(0, 2), doc("Where the walk begins, east and north; the landing if empty")
    ] = ()
    places: Annotated[tuple[Chosen, ...], Len(0, MOST_CHOSEN)] = ()
    powered: Annotated[tuple[Powered, ...], Len(0, 12)] = ()
    told: Annotated[str, Text(0, 120), doc("Who knows the plan and the hour of return")] = ""
    band_m: Annotated[
        tuple[Annotated[float, Span(0.0, DEEPEST_M, "m")], ...],
        Len(0, 2),
        doc("A band of one's own; by the table if empty"),
    ] = ()

    def __post_init__(self) -> None:
        check_fields(self)
        day_of("date", self.date)
        if self.ends_min <= self.begins_min:
            raise InputError(f"ends_min is {self.ends_min:g}: accepted is a time after begins_min, {self.begins_min:g}")
        for name in ("start_m", "band_m"):
            if len(getattr(self, name)) == 1:
                raise InputError(f"{name} has 1 entry: accepted are two, or none")

    @property
    def walk_m_min(self) -> float:
        """Metres walked in a minute."""
        return WALKS_M_MIN[self.snow]

    @property
    def drilling_min(self) -> float:
        """Minutes to drill the holes of a place."""
        per_metre, each = DRILLS_MIN[self.auger]
        return self.holes_each * (per_metre * self.ice_m + each)

    @property
    def stay_min(self) -> float:
        """Minutes at a place: drilling, then looking, as many holes at once as there are people."""
        rounds = int(np.ceil(self.holes_each / self.people))
        return self.drilling_min + rounds * self.looking_min


@dataclass(frozen=True)
class Leg:
    """One way of the walk: to which place (None: back), how far [m], where to [degrees from north], how long [min];
    when one is there, in what light, and how long one stays [min]."""

    to: int | None
    distance_m: float
    bearing_deg: float
    walk_min: float
    arrives_min: float
    light: LightThen
    stay_min: float


@dataclass(frozen=True)
class Planned:
    """The day as it is planned: the ways in order, the places that do not fit, when one is back, and what that says."""

    legs: tuple[Leg, ...]
    no_time: tuple[int, ...]
    value: float
    distance_m: float
    back_min: float
    said: tuple[Sentence, ...]


def plan_day(day: Day, sun: SunTimes, start: Sequence[float], end: Sequence[float] | None = None) -> Planned:
    """The day's walk over those of its places that are not left out, from `start` [m] to `end`, the start if none.

    Raises ValueError as `walk.plan` does.
    """
    end = start if end is None else end
    numbers = [i for i, one in enumerate(day.places) if not one.out]
    stops = [
        Stop(one.east_m, one.north_m, one.worth + WANTED * one.wanted, day.stay_min)
        for one in (day.places[i] for i in numbers)
    ]
    walk = plan(start, end, day.ends_min - day.begins_min, day.walk_m_min, stops)
    legs: list[Leg] = []
    at, now = np.asarray(start, dtype=np.float64), day.begins_min
    for k in (*walk.order, None):
        there = np.asarray(end if k is None else (stops[k].east_m, stops[k].north_m), dtype=np.float64)
        away = float(np.hypot(*(there - at)))
        now += away / day.walk_m_min
        stay = 0.0 if k is None else day.stay_min
        way = float(bearing(*(there - at))) if away > 0.0 else 0.0
        legs.append(Leg(None if k is None else numbers[k], away, way, away / day.walk_m_min, now, sun.light(now), stay))
        at, now = there, now + stay
    no_time = tuple(i for k, i in enumerate(numbers) if k not in walk.order)
    planned = Planned(
        tuple(legs), no_time, sum(day.places[numbers[k]].worth for k in walk.order),
        sum(one.distance_m for one in legs), now, (),
    )  # fmt: skip
    return replace(planned, said=_said(day, sun, planned))


def _said(day: Day, sun: SunTimes, planned: Planned) -> tuple[Sentence, ...]:
    count = len(planned.legs) - 1
    said = [
        Sentence(
            "{count} places, {way} to walk; back at {back}, {spare} before the day ends."
            if count != 1
            else "One place, {way} to walk; back at {back}, {spare} before the day ends.",
            {
                "count": Quantity(count, "count"),
                "way": Quantity(planned.distance_m, "m"),
                "back": Quantity(planned.back_min, "clock"),
                "spare": Quantity(day.ends_min - planned.back_min, "min"),
            },
        ),
        Sentence(
            "At each place {stay}: {drilling} to drill, the rest to look.",
            {"stay": Quantity(day.stay_min, "min"), "drilling": Quantity(day.drilling_min, "min")},
        ),
    ]
    if planned.no_time:
        words = "{left} places do not fit the day." if len(planned.no_time) > 1 else "One place does not fit the day."
        said.append(Sentence(words, {"left": Quantity(len(planned.no_time), "count")}))
    light = sun.light(planned.back_min)
    if light != "day":
        when = "in the dark" if light == "night" else "in half light"
        said.append(Sentence(f"You come back {when}: bring a lamp for each."))
    return tuple(said)
